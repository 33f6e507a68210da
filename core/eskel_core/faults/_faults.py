"""A fault, and the exception that carries all of them."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from pydantic import BaseModel, ConfigDict


class Fault(BaseModel):
    """One mistake in an input, with the path to it and how to mend it."""

    model_config = ConfigDict(frozen=True)

    code: str
    path: str
    value: Any = None
    rule: str
    remedy: str

    def sentence(self) -> str:
        """Say the fault in one line for people."""
        where = f"{self.path}: " if self.path else ""
        return f"{where}{self.rule} (given: {_short(self.value)}). {self.remedy}"


class Refused(ValueError):
    """The input cannot be taken; nothing was changed. `faults` says why."""

    def __init__(self, faults: Iterable[Fault]) -> None:
        self.faults = tuple(faults)
        super().__init__("; ".join(fault.sentence() for fault in self.faults))


def refuse(code: str, path: str, value: Any, rule: str, remedy: str) -> Refused:
    """Make the exception for a single fault."""
    return Refused([Fault(code=code, path=path, value=value, rule=rule, remedy=remedy)])


def _short(value: Any) -> str:
    text = "nothing" if value is None else repr(value)
    return text if len(text) <= 60 else text[:57] + "..."
