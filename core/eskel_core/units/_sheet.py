"""A table that goes out as CSV, with quantities as the house reads them."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

from ._speech import speak

_FORMULA = frozenset(("=", "+", "-", "@", "\t", "\r"))


class Sheet:
    """A CSV sheet in which a name that would be reckoned as a formula is a text.

    >>> sheet = Sheet()
    >>> sheet.writerow(["rim", "=1+1"])
    >>> sheet.text
    "rim,'=1+1\\n"
    """

    def __init__(self) -> None:
        self._out = io.StringIO()
        self._rows = csv.writer(self._out, lineterminator="\n")

    def writerow(self, cells: Iterable[str]) -> None:
        """Write a row of cells."""
        self._rows.writerow([f"'{cell}" if cell[:1] in _FORMULA else cell for cell in map(speak, cells)])

    def taken(self) -> str:
        """Give what was written since it was last taken; the sheet goes on behind it."""
        text = self._out.getvalue()
        self._out.seek(0)
        self._out.truncate()
        return text

    @property
    def text(self) -> str:
        """All that was written."""
        return self._out.getvalue()
