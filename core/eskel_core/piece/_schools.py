"""The house rules in words: each choice, its options, and the one line of why smiths hold each of them."""

from __future__ import annotations

import csv
from functools import lru_cache
from importlib.resources import files
from itertools import groupby

from pydantic import BaseModel, ConfigDict


class SchoolOption(BaseModel):
    """One option of a house rule: its value, its words, and why smiths hold it."""

    model_config = ConfigDict(frozen=True)

    value: str
    words: str
    why: str


class School(BaseModel):
    """A house rule where smiths disagree, with every option."""

    model_config = ConfigDict(frozen=True)

    key: str
    title: str
    options: tuple[SchoolOption, ...]


@lru_cache(maxsize=1)
def schools() -> tuple[School, ...]:
    """Give every house rule that is a choice, in the order of the table."""
    text = (files("eskel_core") / "data" / "house.csv").read_text(encoding="utf-8")
    rows = list(csv.DictReader(text.splitlines()))
    told = []
    for (key, title), group in groupby(rows, key=lambda row: (row["rule"], row["title"])):
        options = tuple(
            SchoolOption(value=row["option"], words=row["words"], why=row["why"]) for row in group
        )
        told.append(School(key=key, title=title, options=options))
    return tuple(told)
