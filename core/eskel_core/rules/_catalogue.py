"""The catalogue of judgement rules, read from the shipped table; `{celsius 700}` in its words is a quantity, `{house margin_c}` the house's own."""

from __future__ import annotations

import csv
import re
from collections.abc import Callable, Mapping
from functools import lru_cache
from importlib.resources import files
from types import MappingProxyType
from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..piece import shipped_number
from ..units import about, celsius, difference, grams

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
    rows = (Rule.model_validate(row) for row in csv.DictReader(_marked(text).splitlines()))
    return MappingProxyType({rule.code: rule for rule in rows})


_MARKS: dict[str, Callable[[float], str]] = {
    "celsius": celsius,
    "difference": difference,
    "length": about,
    "mass": lambda value: grams(value, 1),
}


def _marked(text: str) -> str:
    """Put marks in the place of quantities, so that the words are spoken in the units of the house.

    >>> from eskel_core.units import Units, speak
    >>> speak(_marked("within {difference 25} of {length 6}"), Units(length="inch", temperature="f"))
    'within 45 °F of 0.2362 in'
    """
    text = re.sub(r"\{house ([\w.-]+)\}", lambda found: _of_house(found[1]), text)
    return re.sub(r"\{(\w+) ([\d.]+)\}", lambda found: _MARKS[found[1]](float(found[2])), text)


def _of_house(key: str) -> str:
    """Give the number of the house as it is shipped: the rule's words follow from the choice's own row."""
    value, unit = shipped_number(key)
    return _MARKS[{"mm": "length", "difference": "difference"}[unit]](value)
