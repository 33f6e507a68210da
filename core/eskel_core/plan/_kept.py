"""A plan that was kept, as a run keeps the one that it follows."""

from __future__ import annotations

from typing import Any

from ..faults import read_kept
from ._types import KEPT, Plan


def read_plan(plain: Any) -> Plan:
    """Read a kept plan, brought up to date; raise `Refused` with every place at which it cannot be read."""
    return read_kept(KEPT, Plan, plain)
