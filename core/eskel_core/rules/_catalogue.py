"""The catalogue of judgement rules, read from the shipped table."""

from __future__ import annotations

import csv
from collections.abc import Mapping
from functools import lru_cache
from importlib.resources import files
from types import MappingProxyType
from typing import Literal

from pydantic import BaseModel, ConfigDict

Severity = Literal["danger", "stop", "warn", "note"]


class Rule(BaseModel):
    """A rule: its stable code, how grave it is, when it speaks, and what to do instead."""

    model_config = ConfigDict(frozen=True)

    code: str
    severity: Severity
    when: str
    remedy: str


@lru_cache(maxsize=1)
def rules() -> Mapping[str, Rule]:
    """Give every rule by its code, in the order of the table."""
    text = (files("eskel_core") / "data" / "rules.csv").read_text(encoding="utf-8")
    rows = (Rule.model_validate(row) for row in csv.DictReader(text.splitlines()))
    return MappingProxyType({rule.code: rule for rule in rows})
