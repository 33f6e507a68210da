"""Tasks that only tests of the workroom have: one that rests, one that dies."""

from __future__ import annotations

import os
import time
from typing import Any

from eskel_server.workroom.tasks import Outcome
from eskel_server.workroom.tasks import carry_out as carry_out_own


def carry_out(kind: str, asked: tuple[Any, ...], limit_s: float) -> Outcome:
    """Rest for so many seconds, end the process, or do what the workroom does."""
    if kind == "rest":
        time.sleep(asked[0])
        return "done", None
    if kind == "die":
        os._exit(3)
    return carry_out_own(kind, asked, limit_s)
