"""A finding: one rule that speaks about one thing."""

from __future__ import annotations

from dataclasses import dataclass

from ._catalogue import Severity, rules


@dataclass(frozen=True)
class Finding:
    """A rule that speaks: in which heat or at which work, about what, and what will happen.

    `own_severity` and `own_remedy` are of this finding, where they are not those of the catalogue.
    """

    code: str
    about: tuple[str, ...]
    text: str
    heat: int | None = None
    work: str | None = None
    own_severity: Severity | None = None
    own_remedy: str = ""

    @property
    def severity(self) -> Severity:
        """How grave it is: as it says itself, else by the catalogue."""
        return self.own_severity or rules()[self.code].severity

    @property
    def remedy(self) -> str:
        """What to do instead: as it says itself, else by the catalogue."""
        return self.own_remedy or rules()[self.code].remedy
