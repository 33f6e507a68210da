"""How long the log is asked in a workshop of a million outcomes: the 95th percentile of each question, and what of it is its SQL.

`bin/bench log [--outcomes 1000000] [--times 40] [--plans FILE]`. Makes runs of the demo's pieces over three years in a database of its own, which is
dropped at the end: four heats of two or three joins, ten steps each with times, notes with one in ten, the facets of each join those of
its plan. `--plans` writes down how the database answers each question. Last, the whole log is taken out as a table.
"""

from __future__ import annotations

import argparse
import math
import os
import random
import resource
import statistics
import subprocess
import sys
import time
from collections import Counter
from collections.abc import Iterator
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
STEPS, HEATS = 10, (2, 4, 6, 8)
DAYS = 3 * 365
BATCH = 1000
WORDS = [
    "touch",
    "more",
    "solder",
    "left",
    "right",
    "flux",
    "ran",
    "dry",
    "stone",
    "sat",
    "well",
    "set",
    "straight",
    "pot",
    "cold",
    "seam",
    "gap",
    "filed",
    "again",
    "weak",
    "flame",
    "bright",
]
TORCHES = ("butane-kitchen", "propane-air-small", "acetylene-air-small")
OUTCOMES = {
    "flowed": 84,
    "flooded": 4,
    "short": 5,
    "did-not-flow": 3,
    "moved": 2,
    "opened-another": 1,
    "melted": 1,
}
ASKED = (
    "",
    "words=finial",
    "words=What went well with medium on thin wire?",
    "words=brooch short",
    "words=gap seam",
    "words=flux",
    "words=zzz",
    "grade=medium&wire=thin",
    "outcome=melted",
    "outcome=wrong&torch=butane-kitchen",
    "piece=Reed brooch&grade=easy",
    "since=2026-09-01",
    "kind=seat&outcome=opened-another&sheet=thin",
)


def main() -> None:
    """Begin again with a cluster of its own, then measure."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--outcomes", type=int, default=1_000_000)
    parser.add_argument("--times", type=int, default=40)
    parser.add_argument("--plans", type=Path)
    asked = parser.parse_args()
    if "ESKEL_DB_PORT" not in os.environ:
        command = [
            sys.executable,
            str(ROOT / "bin/lib/with_cluster.py"),
            str(ROOT / ".run/pg-test"),
            "--database",
            "eskel_bench_log",
            sys.executable,
        ]
        raise SystemExit(
            subprocess.run([*command, "-m", "benchmarks.log", *sys.argv[1:]], check=False).returncode
        )
    os.environ["DJANGO_SETTINGS_MODULE"] = "eskel_server.settings"
    import django

    django.setup()
    from django.core.management import call_command

    call_command("migrate", verbosity=0)
    call_command("load_demo", reset=True)
    began = time.perf_counter()
    made = _fill(asked.outcomes)
    print(f"{made} outcomes made in {time.perf_counter() - began:.0f} s", flush=True)
    _measure(asked.times, asked.plans)
    _take_out()


def _take_out() -> None:
    """Take the whole log out as a table, and say how fast it came and what the process grew by."""
    from django.test import Client

    before_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    began = time.perf_counter()
    rows = 0
    answer = Client(SERVER_NAME="127.0.0.1").get("/api/log/outcomes.csv")
    for piece in answer.streaming_content:
        rows += piece.count(b"\n")
    took = time.perf_counter() - began
    grew_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024 - before_mb
    print(
        f"outcomes.csv: {rows} rows in {took:.1f} s, {rows / took:.0f} a second; the largest the process was grew by {grew_mb:.0f} MB"
    )


def _fill(count: int) -> int:
    """Make runs until there are so many outcomes."""
    from django.utils import timezone

    from eskel_server.pieces.models import PieceRow
    from eskel_server.runs.actions import start_run
    from eskel_server.runs.models import Run

    dice, now = random.Random(1), timezone.now()
    kinds = []
    for piece in PieceRow.objects.all():
        stops = frozenset((stop.code, stop.step) for stop in _plan(piece).stops)
        kinds.append(_Kind(start_run(piece, stops)))
    kinds = [kind for kind in kinds if kind.joins]
    Run.objects.all().delete()
    made = 0
    counted: Counter[tuple[Any, ...]] = Counter()
    ratios: Counter[tuple[Any, ...]] = Counter()
    while made < count:
        runs = [_begun(dice.choice(kinds), now - timedelta(days=DAYS * dice.random())) for _ in range(BATCH)]
        Run.objects.bulk_create([run for run, _ in runs])
        made += _carry_out(runs, dice, counted, ratios)
    _count(counted, ratios)
    return made


def _plan(piece: Any) -> Any:
    from eskel_server.pieces import plan_of

    return plan_of(piece)


class _Kind:
    """A piece that is made over and over: its joins by what they are."""

    def __init__(self, run: Any) -> None:
        from eskel_core.plan import HeatStep
        from eskel_core.run import facets_of
        from eskel_server.runs.facts import piece_of_run
        from eskel_server.runs.queries import plan_of_run

        plan, piece = plan_of_run(run), piece_of_run(run)
        self.run, self.document = run, {"joins": []}
        self.joins = [
            one
            for step in plan.steps
            if isinstance(step, HeatStep)
            for one in facets_of(piece, plan, step)
            if one.solder
        ]


def _begun(kind: _Kind, at: datetime) -> tuple[Any, _Kind]:
    from eskel_server.runs.models import Run

    first = kind.run
    run = Run(
        workshop_id=first.workshop_id,
        piece_id=first.piece_id,
        piece_name=first.piece_name,
        document=kind.document,
        plan={},
        step_count=STEPS,
        position=STEPS,
        state="finished" if at.minute else "stopped",
        started_at=at,
        ended_at=at + timedelta(hours=2),
    )
    return run, kind


def _carry_out(
    runs: list[tuple[Any, _Kind]], dice: random.Random, counted: Counter[Any], ratios: Counter[Any]
) -> int:
    from eskel_server.runs.facts import month_of
    from eskel_server.runs.models import OutcomeRecord, StepRecord

    records = [
        StepRecord(
            run=run,
            n=n,
            turn=str(n),
            started_at=run.started_at + timedelta(minutes=10 * n),
            ended_at=run.started_at + timedelta(minutes=10 * n + 8),
            note=" ".join(dice.sample(WORDS, 5)) if dice.random() < 0.1 else "",
        )
        for run, _ in runs
        for n in range(1, STEPS + 1)
    ]
    StepRecord.objects.bulk_create(records, batch_size=5000)
    outcomes = []
    for number, (run, kind) in enumerate(runs):
        torch = dice.choice(TORCHES)
        for heat in HEATS:
            record = records[number * STEPS + heat - 1]
            told_s = dice.uniform(15, 120)
            took_s = told_s * math.exp(dice.gauss(0.05, 0.25))
            for n, join in enumerate(dice.choices(kind.joins, k=dice.choice((2, 3)))):
                word = dice.choices(list(OUTCOMES), list(OUTCOMES.values()))[0]
                facet = _facet(run, join, torch, word, later_try=dice.random() < 0.05)
                timed = n == 0
                outcomes.append(
                    OutcomeRecord(
                        record=record,
                        run=run,
                        workshop_id=run.workshop_id,
                        join=f"{join.join}-{n}",
                        outcome=word,
                        at=record.ended_at,
                        facet_id=facet,
                        told_s=told_s if timed else None,
                        took_s=took_s if timed else None,
                        solder_mg=join.solder_mg,
                    )
                )
                key = (facet, month_of(record.ended_at))
                counted[*key, "times"] += 1
                counted[*key, "heats"] += timed
                ratios[*key, "log_ratio"] += math.log(took_s / told_s) if timed else 0
                ratios[*key, "solder_mg"] += join.solder_mg
    OutcomeRecord.objects.bulk_create(outcomes, batch_size=5000)
    return len(outcomes)


_FACETS: dict[tuple[Any, ...], int] = {}


def _facet(run: Any, join: Any, torch: str, outcome: str, *, later_try: bool) -> int:
    from eskel_server.runs.facts import facet_of

    key = (run.piece_name, join.join, torch, outcome, later_try)
    if key not in _FACETS:
        told = join.model_copy(update={"torch": torch})
        _FACETS[key] = facet_of(run, told, outcome, later_try=later_try).pk
    return _FACETS[key]


def _count(counted: Counter[Any], ratios: Counter[Any]) -> None:
    from eskel_server.runs.models import FacetMonth

    keys = {key[:2] for key in counted}
    sums = {**counted, **ratios}
    FacetMonth.objects.bulk_create(
        [
            FacetMonth(
                facet_id=facet,
                month=month,
                **{name: sums[facet, month, name] for name in ("times", "heats", "log_ratio", "solder_mg")},
            )
            for facet, month in keys
        ],
        batch_size=5000,
    )


def _measure(times: int, plans: Path | None) -> None:
    from django.db import connection
    from django.test import Client

    from eskel_server.runs.models import Facet, FacetMonth, OutcomeRecord, Run, StepRecord

    with connection.cursor() as cursor:
        cursor.execute("VACUUM ANALYZE")
    sizes = {
        model.__name__: model._default_manager.count()
        for model in (Run, StepRecord, OutcomeRecord, Facet, FacetMonth)
    }
    print(", ".join(f"{count} {name}" for name, count in sizes.items()))
    client = Client(SERVER_NAME="127.0.0.1")
    told: list[str] = []
    print(f"{'question':62} {'median':>8} {'p95':>8} {'SQL':>8}   ms")
    for path in ("/log", "/log/sums", "/log/choices"):
        for asked in ASKED if path != "/log/choices" else ("",):
            took, sql = [], []
            for _ in range(times):
                spent: list[tuple[float, str, Any]] = []
                began = time.perf_counter()
                with connection.execute_wrapper(_timing(spent)):
                    answer = client.get(f"/api{path}?{asked}")
                took.append(1000 * (time.perf_counter() - began))
                assert answer.status_code == 200
                sql.append(1000 * sum(one[0] for one in spent))
            ordered = sorted(took)
            p95 = ordered[math.ceil(0.95 * len(ordered)) - 1]
            print(
                f"{path + '?' + asked:62} {statistics.median(took):8.1f} {p95:8.1f} {statistics.median(sql):8.1f}",
                flush=True,
            )
            told += _explained(f"{path}?{asked}", spent) if plans else []
    if plans:
        plans.write_text("\n".join(told), encoding="utf-8")


def _timing(spent: list[tuple[float, str, Any]]) -> Any:
    def run(execute: Any, sql: str, params: Any, many: bool, context: Any) -> Any:
        began = time.perf_counter()
        try:
            return execute(sql, params, many, context)
        finally:
            spent.append((time.perf_counter() - began, sql, params))

    return run


def _explained(question: str, spent: list[tuple[float, str, Any]]) -> Iterator[str]:
    from django.db import connection

    yield f"## {question}"
    for took, sql, params in spent:
        if not sql.startswith("SELECT"):
            continue
        with connection.cursor() as cursor:
            cursor.execute(f"EXPLAIN (ANALYZE, COSTS OFF, TIMING OFF, SUMMARY OFF) {sql}", params)
            yield f"{1000 * took:.1f} ms"
            yield from (f"    {row[0][:160]}" for row in cursor.fetchall())


if __name__ == "__main__":
    main()
