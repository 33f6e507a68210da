"""Fifty clients at once against a served demo: how long answers take, errors, and whether memory stays.

`bin/bench clients [--seconds 120] [--clients 50] [--pause 1] [--rehearsals 2]`. Serves the demo in a folder of its own; each client is a workshop's day
in a loop: the rail, the list, a piece opened and changed, a run, the log, a calculator, each so
long a pause after the last was answered (with none the two cores are never idle). Beside them every heat of some pieces is rehearsed. Prints the times of each kind of call as shares of a plain answer of the same run, and in milliseconds.
"""

from __future__ import annotations

import argparse
import http.client
import json
import os
import random
import socket
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from collections import defaultdict
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from uuid import uuid4

ROOT = Path(__file__).resolve().parents[1]


class Caller:
    """A client with its own connection and the server's token."""

    def __init__(self, port: int) -> None:
        self.connection = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
        self.connection.request("GET", "/")
        answer = self.connection.getresponse()
        answer.read()
        self.token = (answer.getheader("Set-Cookie") or "").partition("=")[2].partition(";")[0]

    def call(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        """Give the status and the answer."""
        headers = {"Cookie": f"eskel_token={self.token}", "X-CSRFToken": self.token}
        if body is not None:
            headers["Content-Type"] = "application/json"
        self.connection.request(method, f"/api{path}", None if body is None else json.dumps(body), headers)
        answer = self.connection.getresponse()
        told = answer.read()
        return answer.status, json.loads(told) if told else None


def a_day(caller: Caller, chance: random.Random, note: Any, until: float) -> None:
    """Go on with what a workshop does until the time is over."""
    status, piece = caller.call("POST", "/pieces", {"document": _example(chance)})
    key = piece["id"]
    while time.monotonic() < until:
        note("rail", *timed(caller, "GET", "/rail"))
        note("list", *timed(caller, "GET", "/pieces"))
        status, took, piece = answered(caller, "GET", f"/pieces/{key}")
        note("open", status, took)
        document = piece["document"] | {"notes": f"{chance.random()}"}
        body = {"revision": piece["revision"], "document": document, "what": "notes"}
        note("edit", *timed(caller, "PUT", f"/pieces/{key}", body))
        note("read", *timed(caller, "GET", f"/read?text={chance.randint(10, 30)}%20ga"))
        note(
            "size",
            *timed(caller, "POST", "/sizes/ring-blank", {"typed": {"size": "US 7", "thickness_mm": "1.6"}}),
        )
        note("log", *timed(caller, "GET", "/log?words=finial%20hard"))
        if chance.random() < 0.2:
            status, took, run = answered(caller, "POST", "/runs", {"piece": key})
            note("run", status, took)
            now_ms = round(time.time() * 1000)
            event = {"id": str(uuid4()), "device": "benchmark", "seq": 1, "at_ms": now_ms, "kind": "next"}
            events = {"events": [event | {"turn": "1", "confirmed": True}]}
            note("press", *timed(caller, "POST", f"/runs/{run['id']}/events", events))
            note("stop", *timed(caller, "POST", f"/runs/{run['id']}/stop", {"at": 2}))


def _example(chance: random.Random) -> Any:
    names = ["hollow-lantern-drop", "stone-set-finial", "reed-brooch", "toggle-clasp-and-links"]
    return json.loads((ROOT / "examples" / f"{chance.choice(names)}.eskel.json").read_text(encoding="utf-8"))


def answered(caller: Caller, method: str, path: str, body: Any = None) -> tuple[int, float, Any]:
    """Give the status, the time in s, and the answer."""
    began = time.monotonic()
    status, told = caller.call(method, path, body)
    return status, time.monotonic() - began, told


def timed(caller: Caller, method: str, path: str, body: Any = None) -> tuple[int, float]:
    """Give the status and the time in s."""
    return answered(caller, method, path, body)[:2]


def memory_mb(process: int) -> float:
    """Give the memory of a process and all that it began, MB, what is shared counted once for each."""
    listed = subprocess.run(
        ["ps", "-eo", "pid,ppid,rss"], capture_output=True, text=True, check=True
    ).stdout.split("\n")
    rows = [tuple(map(int, line.split())) for line in listed[1:] if line.strip()]
    family = {process}
    for _ in range(4):
        family |= {pid for pid, parent, _ in rows if parent in family}
    return sum(rss for pid, _, rss in rows if pid in family) / 1024


def main() -> None:
    """Serve, call, and print."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--seconds", type=float, default=120)
    parser.add_argument("--pause", type=float, default=1.0)
    parser.add_argument("--clients", type=int, default=50)
    parser.add_argument("--rehearsals", type=int, default=2)
    asked = parser.parse_args()
    with served_demo() as (port, process):
        ended = _rehearse(port, asked.rehearsals)
        _measure(port, process, asked.clients, asked.seconds, asked.pause)
        print(f"{ended()} of {asked.rehearsals} rehearsals of whole pieces were over at the end")


def _rehearse(port: int, count: int) -> Callable[[], int]:
    """Ask for rehearsals of every heat of pieces; give what counts those that are over."""
    caller, jobs = Caller(port), []
    for name in ["stone-set-finial", "reed-brooch", "hollow-lantern-drop", "toggle-clasp-and-links"][:count]:
        document = json.loads((ROOT / "examples" / f"{name}.eskel.json").read_text(encoding="utf-8"))
        key = caller.call("POST", "/pieces", {"document": document})[1]["id"]
        jobs.append(
            caller.call("POST", f"/pieces/{key}/rehearsals", {"kind": "piece", "heat_no": 1})[1]["id"]
        )
    return lambda: sum(Caller(port).call("GET", f"/rehearsals/{job}")[1]["state"] == "done" for job in jobs)


@contextmanager
def served_demo(**environment: str) -> Iterator[tuple[int, int]]:
    """Serve the demo in a folder of its own, on loopback; give its port and its process."""
    with tempfile.TemporaryDirectory() as home:
        Path(home).chmod(0o755)
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            port = probe.getsockname()[1]
        command = [sys.executable, str(ROOT / "bin/lib/serve.py"), "--port", str(port)]
        around = {**os.environ, "ESKEL_RUN": f"{home}/run", **environment}
        with subprocess.Popen(command, env=around, stdout=subprocess.PIPE, text=True) as server:
            assert server.stdout is not None
            assert any("ready at" in line for line in server.stdout)
            try:
                yield port, server.pid
            finally:
                server.terminate()


def _measure(port: int, process: int, clients: int, seconds: float, pause: float) -> None:
    times: dict[str, list[float]] = defaultdict(list)
    wrong: list[tuple[str, int]] = []
    lock = threading.Lock()

    def note(kind: str, status: int, took: float) -> None:
        time.sleep(pause)
        with lock:
            times[kind].append(took)
            if status >= 400:
                wrong.append((kind, status))

    alone = Caller(port)
    plain = statistics.median(timed(alone, "GET", "/rail")[1] for _ in range(50))
    until = time.monotonic() + seconds
    threads = [
        threading.Thread(target=a_day, args=(Caller(port), random.Random(n), note, until))
        for n in range(clients)
    ]
    for thread in threads:
        thread.start()
    early = 0.0
    while any(thread.is_alive() for thread in threads):
        threads[0].join(timeout=5)
        early = early or (memory_mb(process) if time.monotonic() > until - seconds * 0.75 else 0.0)
    late = memory_mb(process)
    everything = sorted(took for kind in times.values() for took in kind)
    print(
        f"{len(everything)} calls of {clients} clients in {seconds:g} s, {pause:g} s of pause after each; a rail alone takes {1000 * plain:.1f} ms"
    )
    for kind, took in sorted(times.items()):
        row = sorted(took)
        middle, most = statistics.median(row), row[int(0.95 * len(row))]
        print(
            f"  {kind:8} {len(row):6} calls, {1000 * middle:7.1f} ms at the median, 95 in 100 under {1000 * most:7.1f} ms ({most / plain:.0f} rails)"
        )
    print(
        f"95 in 100 under {1000 * everything[int(0.95 * len(everything))]:.0f} ms; errors: {wrong[:5] or 'none'} ({len(wrong)})"
    )
    print(f"memory {early:.0f} MB after a quarter, {late:.0f} MB at the end")


if __name__ == "__main__":
    main()
