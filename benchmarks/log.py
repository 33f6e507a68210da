"""How long the log is searched, and the torches asked, in a workshop of thousands of runs: as shares of one plain question.

`bin/bench log [--runs 8400]`. Makes runs of a finial in a database of the tests' cluster, twenty-four steps each with times,
some with notes and outcomes, and one heat in four foretold.
"""

from __future__ import annotations

import argparse
import os
import random
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from datetime import timedelta
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
STEPS = 24
NOTES = [
    "a touch more solder on the left",
    "flux ran dry",
    "stone sat well",
    "finial set straight",
    "pot was cold",
]
OUTCOMES = ["flowed", "short", "did-not-flow", "flooded", "moved"]


def main() -> None:
    """Begin again with a cluster of its own, then measure."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--runs", type=int, default=8400)
    asked = parser.parse_args()
    if "ESKEL_DB_PORT" not in os.environ:
        command = [
            sys.executable,
            str(ROOT / "bin/lib/with_cluster.py"),
            str(ROOT / ".run/pg-test"),
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
    _fill(asked.runs)
    _measure(asked.runs)
    call_command("load_demo", reset=True)


def _fill(count: int) -> None:
    from django.utils import timezone

    from eskel_server.accounts import current_workshop
    from eskel_server.pieces.models import PieceRow
    from eskel_server.runs.actions import start_run
    from eskel_server.runs.models import ForetoldHeat, OutcomeRecord, Run, StepRecord

    first = start_run(PieceRow.objects.get(name="Stone-set finial"))
    dice, now = random.Random(1), timezone.now()
    runs = Run.objects.bulk_create(
        [
            Run(
                workshop=current_workshop(),
                piece_id=first.piece_id,
                piece_name=first.piece_name,
                document=first.document,
                plan=first.plan,
                step_count=STEPS,
                position=STEPS,
                state="finished",
                started_at=now - timedelta(hours=n),
            )
            for n in range(count)
        ],
        batch_size=500,
    )
    for part in range(0, count, 400):
        records = StepRecord.objects.bulk_create(
            [
                StepRecord(
                    run=run,
                    n=n,
                    started_at=run.started_at,
                    ended_at=run.started_at + timedelta(seconds=40),
                    note=dice.choice(NOTES) if dice.random() < 0.1 else "",
                )
                for run in runs[part : part + 400]
                for n in range(1, STEPS + 1)
            ],
            batch_size=2000,
        )
        heats = [record for record in records if record.n % 6 == 3]
        OutcomeRecord.objects.bulk_create(
            [OutcomeRecord(record=heat, join="seat", outcome=dice.choice(OUTCOMES), at=now) for heat in heats]
        )
        ForetoldHeat.objects.bulk_create(
            [
                ForetoldHeat(
                    record=heat,
                    torch=dice.choice(["propane-air-small", "butane-kitchen"]),
                    heat_no=1,
                    low_s=20,
                    likely_s=30,
                    high_s=60,
                    factor=1,
                    spread=0.3,
                )
                for heat in heats
            ]
        )


def _measure(runs: int) -> None:
    from django.db import connection
    from django.test import Client

    with connection.cursor() as cursor:
        cursor.execute("ANALYZE")
    client = Client(SERVER_NAME="127.0.0.1")

    def ask(path: str) -> Callable[[], Any]:
        return lambda: client.get(f"/api{path}")

    plain = _median(ask("/read?text=1"))
    print(f"{runs} runs of {STEPS} steps; a plain question takes {1000 * plain:.1f} ms")
    for path in (
        "/log",
        "/log?words=finial",
        "/log?words=stone set finial",
        "/log?words=touch left short",
        "/log?words=zzz",
        "/log?words=stone set finial in the pot flooded",
        "/torches",
        "/rail",
    ):
        took = _median(ask(path))
        print(f"  {path:52} {1000 * took:8.1f} ms ({took / plain:.0f} plain questions)")


def _median(ask: Callable[[], Any]) -> float:
    times = []
    for _ in range(5):
        began = time.perf_counter()
        assert ask().status_code == 200
        times.append(time.perf_counter() - began)
    return statistics.median(times)


if __name__ == "__main__":
    main()
