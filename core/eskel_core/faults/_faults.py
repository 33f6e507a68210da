"""A fault, and the exception that carries all of them."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import Any

from pydantic import BaseModel, ConfigDict, field_validator

MOST_FAULTS = 100
LONGEST_TEXT = 500


class Fault(BaseModel):
    """One mistake in an input, with the path to it and how to mend it."""

    model_config = ConfigDict(frozen=True)

    code: str
    path: str
    value: Any = None
    rule: str
    remedy: str

    @field_validator("value", mode="before")
    @classmethod
    def _no_longer_than_read(cls, value: Any) -> Any:
        """Keep a value as it was given, but the head of one that nobody could read."""
        if value is None or isinstance(value, bool | float):
            return value if not isinstance(value, float) or math.isfinite(value) else str(value)
        text = value if isinstance(value, str) else repr(value)
        return value if len(text) <= LONGEST_TEXT else f"{text[:LONGEST_TEXT]}..."

    @field_validator("path", "rule", "remedy", mode="before")
    @classmethod
    def _no_longer_than_a_sentence(cls, text: Any) -> Any:
        return f"{text[:LONGEST_TEXT]}..." if isinstance(text, str) and len(text) > LONGEST_TEXT else text

    def sentence(self) -> str:
        """Say the fault in one line for people."""
        where = f"{self.path}: " if self.path else ""
        return f"{where}{self.rule} (given: {_short(self.value)}). {self.remedy}"


class Refused(ValueError):
    """The input cannot be taken; nothing was changed. `faults` says why."""

    def __init__(self, faults: Iterable[Fault]) -> None:
        told = tuple(faults)
        self.faults = told if len(told) <= MOST_FAULTS else (*told[:MOST_FAULTS], _and_more(len(told)))
        super().__init__("; ".join(fault.sentence() for fault in self.faults))


def _and_more(faults: int) -> Fault:
    rule = f"the first {MOST_FAULTS} faults are told of {faults}"
    return Fault(code="more-faults", path="", value=faults, rule=rule, remedy="Mend those first.")


def refuse(code: str, path: str, value: Any, rule: str, remedy: str) -> Refused:
    """Make the exception for a single fault."""
    return Refused([Fault(code=code, path=path, value=value, rule=rule, remedy=remedy)])


def _short(value: Any) -> str:
    text = "nothing" if value is None else repr(value)
    return text if len(text) <= 60 else text[:57] + "..."
