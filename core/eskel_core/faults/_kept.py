"""Formats of what is kept: each names itself and its number, and an older one is brought up to date step by step."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from ._faults import Refused, refuse
from ._shape import shape_faults

Upgrade = Callable[[dict[str, Any]], dict[str, Any]]
M = TypeVar("M", bound=BaseModel)


@dataclass(frozen=True)
class KeptFormat:
    """A kind of kept document, the number of its format today, and how each older number becomes the next.

    >>> KeptFormat("a thing", "eskel-thing", 2, {1: lambda old: {**old, "new": 0}}).upgrade({"format": "eskel-thing/1"})
    {'format': 'eskel-thing/2', 'new': 0}
    """

    what: str
    name: str
    number: int
    upgrades: Mapping[int, Upgrade] = field(default_factory=dict)

    @property
    def tag(self) -> str:
        """Give what a document of today says under `format`."""
        return f"{self.name}/{self.number}"

    def upgrade(self, plain: Any) -> dict[str, Any]:
        """Give a document as it is written today; raise `Refused` for a newer one and for what is none."""
        number = self._number_of(plain)
        while number < self.number:
            plain = self.upgrades.get(number, dict)(plain)
            number += 1
        return {**plain, "format": self.tag}

    def _number_of(self, plain: Any) -> int:
        if not isinstance(plain, dict):
            raise refuse("wrong-type", "", plain, f"{self.what} is one JSON object", "Begin it with {.")
        if "format" not in plain:
            raise refuse(
                "missing", "format", None, f'{self.what} says "format": "{self.tag}"', "Add that line."
            )
        given = plain["format"]
        match = re.fullmatch(rf"{self.name}/(\d{{1,9}})", given) if isinstance(given, str) else None
        if match is None or int(match[1]) < 1:
            code = f"not-{self.what.replace(' ', '-').removesuffix('-file')}"
            raise refuse(
                code, "format", given, f'the format of {self.what} is "{self.tag}"', "Is it another file?"
            )
        if int(match[1]) > self.number:
            raise refuse(
                "format-newer",
                "format",
                given,
                f"this Eskel reads up to {self.tag}",
                "Update Eskel to open it.",
            )
        return int(match[1])


def read_kept(kept: KeptFormat, model: type[M], plain: Any) -> M:
    """Read what was kept, brought up to date; raise `Refused` with every place at which it cannot be read."""
    document = kept.upgrade(plain)
    try:
        return model.model_validate(document)
    except ValidationError as problem:
        raise Refused(shape_faults(problem, document, lambda: model.model_fields)) from problem
