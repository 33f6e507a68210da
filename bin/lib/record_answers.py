"""Write down real answers of the demo's server for the web's component tests: tests/shared/answers.json.

Run on what bin/test has set up:

    PYTHONPATH=core:server:. .venv/bin/python bin/lib/with_cluster.py .run/pg-test .venv/bin/python bin/lib/record_answers.py

A test of the server holds each written answer against the API's own description, so one that no longer could be given
is noticed; its figures may be of another day.
"""

from __future__ import annotations

import json
import time
import urllib.request
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any
from uuid import uuid4

from tests.browser.serving import manage, served_application

ROOT = Path(__file__).parents[2]
BROOCH = 4
CALCULATORS = {"ring-blank", "nest", "chain", "draw-down"}
STARTS = {"band", "bezel-ring", "hollow-stud"}
LINES = ["disc 14 × 0.5 fine, domed 4", "post 0.9 × 11"]
RING = {"size": "US 7", "thickness_mm": "1.5", "width_mm": "4"}
HEAT = {"kind": "heat", "heat_no": 1, "torch": None, "surface": None, "habit": "best", "setting": 1}
UNDER_WAY = ("waiting", "running")

Answers = dict[str, Any]


class Asking:
    """A client that keeps each answer under its question."""

    def __init__(self, address: str) -> None:
        """Begin at the address of a served application; take its token."""
        self.address = address
        self.answers: Answers = {}
        self._cookies = CookieJar()
        self._opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self._cookies))
        self._opener.open(f"{address}/", timeout=60).close()

    def get(self, path: str, called: str = "") -> Any:
        """Ask for what is there."""
        return self._keep(f"GET {called or path}", self._ask(urllib.request.Request(f"{self.address}{path}")))

    def post(self, path: str, body: Answers, called: str = "") -> Any:
        """Ask for a change."""
        headers = {"Content-Type": "application/json", "Origin": self.address, "X-CSRFToken": self._token()}
        asked = urllib.request.Request(
            f"{self.address}{path}", json.dumps(body).encode(), headers, method="POST"
        )
        return self._keep(f"POST {called or path}", self._ask(asked))

    def _ask(self, request: urllib.request.Request) -> Any:
        with self._opener.open(request, timeout=120) as answer:
            return json.load(answer)

    def _keep(self, called: str, answer: Any) -> Any:
        self.answers[called] = answer
        return answer

    def _token(self) -> str:
        return next(cookie.value or "" for cookie in self._cookies if cookie.name == "eskel_token")


def main() -> None:
    """Serve the demo, ask, write one answer a line."""
    with served_application() as address:
        manage("load_demo", "--reset")
        asking = Asking(address)
        record(asking)
    rows = [
        f"{json.dumps(asked)}: {json.dumps(told, ensure_ascii=False)}"
        for asked, told in asking.answers.items()
    ]
    (ROOT / "tests" / "shared" / "answers.json").write_text("{\n" + ",\n".join(rows) + "\n}\n")


def record(asking: Asking) -> None:
    """Ask what the screens ask: lists, a piece, a calculator, a rehearsal, a run at each kind of step."""
    for path in ("pieces", "tables", "bench", "makings", "rules", "torches"):
        asking.get(f"/api/{path}")
    asking.get("/api/glow?light=dim", "/api/glow")
    asking.get(f"/api/pieces/{BROOCH}")
    asking.get(f"/api/pieces/{BROOCH}/cutting")
    sizes = asking.get("/api/sizes")
    asking.answers["GET /api/sizes"] = [size for size in sizes if size["name"] in CALCULATORS]
    asking.post("/api/sizes/ring-blank", {"typed": RING})
    starts = asking.get("/api/starts")
    asking.answers["GET /api/starts"] = [start for start in starts if start["info"]["name"] in STARTS]
    asking.post("/api/starts/band/typed", {"typed": {"size": "US 8 1/2", "width_mm": 5}})
    lines = asking.post("/api/lines", {"lines": LINES})
    document = {"format": "eskel-piece/1", "name": "Stud", "parts": [line["part"] for line in lines]}
    asking.post("/api/proposal", {"document": document, "a": "disc", "b": "post"})
    _rehearse(asking)
    _run(asking)
    asking.get("/api/rail")
    asking.get("/api/log?words=", "/api/log")
    asking.get("/api/log/choices")
    asking.get("/api/log/sums")
    asking.get("/api/pot")


def _rehearse(asking: Asking) -> None:
    """Have a heat rehearsed; keep the job as it is when it has ended."""
    path = f"/api/pieces/{BROOCH}/rehearsals"
    job = asking.post(path, HEAT)
    while job["state"] in UNDER_WAY:
        time.sleep(0.2)
        job = asking.get(f"/api/rehearsals/{job['id']}", "/api/rehearsals/{job}")
    asking.answers.pop("GET /api/rehearsals/{job}", None)
    asking.answers[f"POST {path}"] = job


def _run(asking: Asking) -> None:
    """Walk a run as far as the first heat that has flowed; keep it at the first step of each kind, with what had happened by then."""
    run = asking.post("/api/runs", {"piece": BROOCH})
    asking.get(f"/api/runs/{run['id']}/sheet", "/api/runs/{key}/sheet")
    kept: set[str] = set()
    while run["step"]["kind"] != "heat":
        kind = run["step"]["kind"]
        if kind not in kept:
            _keep_run(asking, run["id"], kind)
        kept.add(kind)
        run = _press(asking, run, "next", confirmed=True)
    _keep_run(asking, run["id"], "heat")
    for row in run["step"]["joins"]:
        run = _press(asking, run, "outcome", join=row["join"], outcome="flowed")
    _keep_run(asking, run["id"], "heat, said")
    for name in ("POST /events", "GET /run"):
        del asking.answers[name]


def _press(asking: Asking, run: dict[str, Any], kind: str, **told: Any) -> dict[str, Any]:
    event = {"id": str(uuid4()), "device": "tablet-0", "at_ms": round(time.time() * 1000), "kind": kind}
    known = asking.get(f"/api/runs/{run['id']}/events", "/run")["events"]
    event |= {"seq": 1 + len(known), "turn": run["turn"], **told}
    asking.post(f"/api/runs/{run['id']}/events", {"events": [event]}, "/events")
    seen: dict[str, Any] = asking.get(f"/api/runs/{run['id']}", "/run")
    return seen


def _keep_run(asking: Asking, key: int, where: str) -> None:
    asking.get(f"/api/runs/{key}", f"/api/runs/{{key}} at {where}")
    asking.get(f"/api/runs/{key}/events", f"/api/runs/{{key}}/events at {where}")


if __name__ == "__main__":
    main()
