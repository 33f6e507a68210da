"""What an attack once found, tried again on a served demo: half-sent requests, long runs, large photographs, a chain of 300 joins.

`bin/bench attack`. Serves the demo in a folder of its own, on loopback, and prints one line for each; it ends by itself.
"""

from __future__ import annotations

import base64
import gzip
import http.client
import io
import json
import random
import re
import socket
import threading
import time
from pathlib import Path
from typing import Any

from benchmarks.clients import Caller, memory_mb, served_demo, timed
from PIL import Image

ROOT = Path(__file__).resolve().parents[1]
NOTES, EACH = 20_000, 500


def main() -> None:
    """Serve, attack, print."""
    with served_demo(ESKEL_HISTORY="none") as (port, process):
        half_sent(port)
        long_run(Caller(port))
        photographs(port, process)
        chain(Caller(port))
        page(port)


def half_sent(port: int) -> None:
    """Send 24 requests by half, and 24 heads; see how long a plain answer takes meanwhile."""
    caller = Caller(port)
    lines = [socket.create_connection(("127.0.0.1", port)) for _ in range(48)]
    for n, line in enumerate(lines):
        head = b"POST /api/pieces HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 900\r\n"
        line.sendall(head + (b"\r\n{" if n % 2 else b""))
    time.sleep(0.5)
    took = max(timed(caller, "GET", "/rail")[1] for _ in range(20))
    for line in lines:
        line.close()
    print(f"48 requests sent by half: the longest of 20 plain answers meanwhile took {1000 * took:.0f} ms")


def long_run(caller: Caller) -> None:
    """Write 20,000 notes on one step, then press once more."""
    run = begun(caller)

    def note(n: int) -> dict[str, Any]:
        name = f"benchmark-{n:06}"
        told = {"id": name, "device": "benchmark", "seq": n, "at_ms": round(time.time() * 1000)}
        return told | {"kind": "note", "turn": "1", "text": "slow"}

    began = time.monotonic()
    after = 0
    for first in range(1, NOTES, EACH):
        events = [note(n) for n in range(first, first + EACH)]
        status, told = caller.call("POST", f"/runs/{run}/events", {"events": events, "after": after})
        assert status == 200, told
        after = told["taken"]
    took = time.monotonic() - began
    more = []
    for n in range(NOTES + 1, NOTES + 21):
        began = time.monotonic()
        assert caller.call("POST", f"/runs/{run}/events", {"events": [note(n)], "after": after})[0] == 200
        more.append(1000 * (time.monotonic() - began))
    print(
        f"{NOTES} notes on one step, {EACH} at a time: {took:.1f} s; one more {sorted(more)[10]:.0f} ms at the median"
    )


def begun(caller: Caller) -> int:
    """Begin a run of an example; give its number."""
    document = json.loads((ROOT / "examples/reed-brooch.eskel.json").read_text(encoding="utf-8"))
    piece = caller.call("POST", "/pieces", {"document": document})[1]
    key: int = caller.call("POST", "/runs", {"piece": piece["id"]})[1]["id"]
    return key


def photographs(port: int, process: int) -> None:
    """Upload twelve large pictures at once: half as large as may be, half larger."""
    run = begun(Caller(port))
    pictures = [picture(5000, 4900), picture(8000, 6250)]
    statuses: list[int] = []
    most_mb = before_mb = memory_mb(process)

    def upload(image: str) -> None:
        statuses.append(Caller(port).call("POST", f"/runs/{run}/photos", {"turn": "1", "image": image})[0])

    threads = [threading.Thread(target=upload, args=(pictures[n % 2],)) for n in range(12)]
    for thread in threads:
        thread.start()
    while any(thread.is_alive() for thread in threads):
        most_mb = max(most_mb, memory_mb(process))
        time.sleep(0.05)
    print(
        f"12 photographs at once: {statuses.count(201)} kept, {statuses.count(422)} refused;"
        f" memory {before_mb:.0f} MB before, {most_mb:.0f} at most, {memory_mb(process):.0f} after"
    )


def picture(width: int, height: int) -> str:
    """Give a PNG of so many pixels in base64."""
    told = io.BytesIO()
    Image.new("RGB", (width, height), (120, 40, 40)).save(told, "PNG")
    return base64.b64encode(told.getvalue()).decode()


def chain(caller: Caller) -> None:
    """Open a chain of 300 joins, and look at it again."""
    wire = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 1}, "length_mm": 20}
    parts = [{"id": f"p{n}", "metal": "sterling-925", "form": wire} for n in range(301)]
    joins = [{"id": f"j{n}", "kind": "tee", "between": [f"p{n}", f"p{n + 1}"]} for n in range(300)]
    document = {"format": "eskel-piece/1", "name": "Chain", "parts": parts, "joins": joins}
    began = time.monotonic()
    status, piece = caller.call("POST", "/pieces", {"document": document})
    first = time.monotonic() - began
    assert status == 201, piece
    again = timed(caller, "GET", f"/pieces/{piece['id']}")[1]
    print(f"a chain of 300 joins ({piece['plan']['status']}): {first:.1f} s, looked at again {again:.2f} s")


def page(port: int) -> None:
    """Count what the first load takes, compressed, and the list of 200 pieces."""
    caller, dice = Caller(port), random.Random(1)
    names = sorted((ROOT / "examples").glob("*.eskel.json"))
    while len(caller.call("GET", "/pieces")[1]) < 200:
        document = json.loads(dice.choice(names).read_text(encoding="utf-8"))
        assert caller.call("POST", "/pieces", {"document": document})[0] == 201
    plain, packed = fetched(port, "/api/pieces"), fetched(port, "/api/pieces", "gzip")
    print(f"the list of 200 pieces: {len(plain) / 1000:.0f} kB, {len(packed) / 1000:.0f} kB compressed")
    index = fetched(port, "/work").decode()
    files = re.findall(r'(?:src|href)="(/assets/[^"]+\.(?:js|css))"', index)
    work = [
        f"/assets/{name}" for name in re.findall(r"WorkPage-[\w-]+\.js", fetched(port, files[0]).decode())
    ]
    styles = [name for name in files if name.endswith(".css")]
    fonts = sorted(
        set(re.findall(r"/assets/[\w-]+latin-wght[\w-]+\.woff2", fetched(port, styles[0]).decode()))
    )
    sizes = {name: len(fetched(port, name, "gzip")) for name in dict.fromkeys([*files, *work, *fonts])}
    print(f"first load, compressed: {sum(sizes.values()) / 1000:.0f} kB in {len(sizes)} files")


def fetched(port: int, path: str, packing: str = "identity") -> bytes:
    """Fetch a file or an answer as it comes over the wire."""
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
    connection.request("GET", path, headers={"Accept-Encoding": packing})
    answer = connection.getresponse()
    body = answer.read()
    connection.close()
    if packing == "gzip" and answer.getheader("Content-Encoding") == "gzip":
        assert gzip.decompress(body)
    return body


if __name__ == "__main__":
    main()
