"""A finding: one rule that speaks about one thing."""

from __future__ import annotations

from dataclasses import dataclass

from ._catalogue import Severity, rules


@dataclass(frozen=True)
class Finding:
    """A rule that speaks: in which heat or at which work, about what, and what will happen."""

    code: str
    about: tuple[str, ...]
    text: str
    heat: int | None = None
    work: str | None = None

    @property
    def severity(self) -> Severity:
        """How grave it is, by the catalogue."""
        return rules()[self.code].severity

    @property
    def remedy(self) -> str:
        """What to do instead, by the catalogue."""
        return rules()[self.code].remedy
