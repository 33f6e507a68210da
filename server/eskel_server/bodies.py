"""What requests are made of: whole numbers, and yes or no, taken as they are sent. "5", 5.0 and true are no whole numbers."""

from __future__ import annotations

import re
from datetime import date
from typing import Annotated, Any

from pydantic import BeforeValidator, Strict

Whole = Annotated[int, Strict()]
YesNo = Annotated[bool, Strict()]
_DAY = re.compile(r"[0-9]{4}-[0-9]{2}-[0-9]{2}")


def _day(value: Any) -> Any:
    """Let through what is written as a day, or is nothing: a bare number would be read as seconds since 1970."""
    if value is None or isinstance(value, date) or (isinstance(value, str) and _DAY.fullmatch(value)):
        return value
    raise ValueError("a day is written as 2026-03-01")


Day = Annotated[date, BeforeValidator(_day)]
