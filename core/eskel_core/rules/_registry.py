"""The one register of rules: who speaks, on what occasion, and a piece for each in which it speaks and one in which not.

A rule is registered where it is written (`@speaks`), with its codes and the *occasion* on which it looks: a `course` of
heats, an act by the `state` that it meets, a `demand` of the planner, a `size` that a calculator
found, the `stock` of solders, or the `pot` of a run.
The catalogue (`data/rules.csv`) says how grave a code is and what to do; `_examples` shows it speaking and silent. The
register refuses a code that has not all of them, so that a rule without a test cannot be added.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType
from typing import Any, TypeVar

from ._catalogue import Rule, rules
from ._finding import Finding
from ._occasions import Example, Occasion

F = TypeVar("F", bound=Callable[..., Iterator[Finding]])


class Unregistered(LookupError):
    """A rule that lacks what the register asks of each."""


@dataclass(frozen=True)
class Unit:
    """Something that speaks for some codes on an occasion."""

    codes: tuple[str, ...]
    occasion: Occasion
    find: Callable[..., Iterator[Finding]]

    def findings(self, *asked: Any) -> Iterator[Finding]:
        """Give what it finds; raise `Unregistered` where it speaks for a code that is not its own."""
        for finding in self.find(*asked):
            if finding.code not in self.codes:
                raise Unregistered(
                    f"{self.find.__name__} speaks for {finding.code} and is not registered for it"
                )
            yield finding


_UNITS: list[Unit] = []


def speaks(*codes: str, on: Occasion = "course") -> Callable[[F], F]:
    """Register a function as what speaks for some codes of the catalogue on an occasion."""
    unknown = [code for code in codes if code not in rules()]
    if unknown or not codes:
        raise Unregistered(f"the catalogue has no rule {', '.join(unknown) or 'of no code'}")

    def register(find: F) -> F:
        _UNITS.append(Unit(codes, on, find))
        return find

    return register


def units(occasion: Occasion) -> tuple[Unit, ...]:
    """Give everything that speaks on an occasion, in the order in which it was registered."""
    return tuple(unit for unit in _UNITS if unit.occasion == occasion)


def check_examples(examples: Mapping[str, tuple[Example, Example]], known: Iterable[str]) -> None:
    """Raise `Unregistered` for a code of the catalogue without a speaking and a silent example, and the other way round."""
    missing = [code for code in known if code not in examples]
    idle = [code for code in examples if code not in known]
    if missing or idle:
        raise Unregistered(
            f"no example of {', '.join(missing) or '-'}; examples of no rule: {', '.join(idle) or '-'}"
        )


@lru_cache(maxsize=1)
def examples() -> Mapping[str, tuple[Example, Example]]:
    """Give for each code an example in which it speaks, and one in which it is silent."""
    from ._examples import EXAMPLES

    check_examples(EXAMPLES, rules())
    return MappingProxyType(EXAMPLES)


def rule(code: str) -> Rule:
    """Give a rule of the catalogue; raise `Unregistered` where there is none of that code."""
    if code not in rules():
        raise Unregistered(f"the catalogue has no rule {code}")
    return rules()[code]
