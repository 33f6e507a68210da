"""What the log knows beside its lines: how long work takes."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest

from eskel_server.runs.models import StayRecord
from tests.server.conftest import Caller

pytestmark = pytest.mark.django_db


def test_the_log_knows_how_long_work_takes(workshop: Any, call: Caller) -> None:
    """Three runs of a plate drilled in two alike: 3, 4 and 60 minutes on both; one minute is for laying out."""
    plate = {
        "id": "p",
        "metal": "sterling-925",
        "count": 2,
        "form": {"kind": "sheet", "thickness_mm": 1, "outline": {"kind": "disc", "diameter_mm": 9}},
    }
    work = [
        {"id": "d", "kind": "drill", "parts": ["p"]},
        {"id": "t", "kind": "trim", "parts": ["p"], "after": ["d"]},
    ]
    document = {"format": "eskel-piece/1", "name": "Discs", "parts": [plate], "work": work}
    made = call.post("/pieces", document=document)[1]
    assert call.get("/log/minutes") == (200, [])
    stop = made["plan"]["stops"]
    confirmed = [{"code": one["code"], "step": one["step"]} for one in stop]
    for minutes in (3, 4, 60):
        run = call.post("/runs", piece=made["id"], confirmed=confirmed)[1]
        assert (run["step"]["work_kind"], run["step"]["alike"]) == ("drill", 2)
        run = call.post(f"/runs/{run['id']}/advance", at=1)[1]
        call.post(f"/runs/{run['id']}/advance", at=2, skipped=True)
        stay = StayRecord.objects.get(record__run_id=run["id"], record__n=1)
        stay.entered_at = stay.left_at - timedelta(minutes=minutes)
        stay.save()
    # (4 − 1) ÷ 2; what was skipped is not known.
    assert call.get("/log/minutes") == (200, [{"kind": "drill", "each": 1.5, "times": 3}])
