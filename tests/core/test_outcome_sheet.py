"""The outcomes of a log as a table: one a row, moments in UTC, seconds only where both signs were pressed."""

import csv
from dataclasses import replace
from datetime import UTC, datetime, timedelta, timezone

import pytest

from eskel_core.log import LoggedOutcome, outcome_csv

BEGAN = datetime(2026, 11, 20, 9, 30, tzinfo=timezone(timedelta(hours=2)))
LIT = datetime(2026, 11, 20, 8, 0, tzinfo=UTC)
ONE = LoggedOutcome(
    run=7,
    piece_name="Lantern, small",
    began_at=BEGAN,
    step=4,
    heat_no=1,
    again=2,
    join="rim",
    kind="seat",
    solder="us-hard",
    lit_at=LIT,
    off_at=LIT + timedelta(seconds=48.25),
    said_at=LIT + timedelta(minutes=1),
    outcome="did-not-flow",
    note="-cold\ncorner",
)


def read(text: str) -> list[dict[str, str]]:
    return list(csv.DictReader(text.splitlines(keepends=True)))


def test_a_row_says_all_that_is_known_of_an_outcome() -> None:
    assert read(outcome_csv([ONE])) == [
        {
            "run": "7",
            "piece": "Lantern, small",
            "run began": "2026-11-20T07:30:00+00:00",
            "step": "4",
            "heat": "1",
            "try": "2",
            "join": "rim",
            "kind": "seat",
            "solder": "us-hard",
            "flame lit": "2026-11-20T08:00:00+00:00",
            "flame off": "2026-11-20T08:00:48+00:00",
            "under the flame s": "48.2",
            "said": "2026-11-20T08:01:00+00:00",
            "outcome": "did-not-flow",
            "in words": "Did not flow",
            "sound": "no",
            "note": "'-cold\ncorner",
        }
    ]


@pytest.mark.parametrize(
    ("lit", "last"), [(None, LIT), (LIT, None), (LIT, LIT), (LIT, LIT - timedelta(seconds=1))]
)
def test_without_two_signs_in_their_order_no_seconds_are_told(
    lit: datetime | None, last: datetime | None
) -> None:
    (row,) = read(outcome_csv([replace(ONE, lit_at=lit, off_at=last)]))
    assert row["under the flame s"] == ""


def test_of_nothing_there_is_the_heading_alone() -> None:
    assert read(outcome_csv([])) == []
    assert outcome_csv([]).startswith("run,piece,")
