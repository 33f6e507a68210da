"""A table that goes out as CSV, with quantities as the house reads them."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

from ._speech import speak

_FORMULA = ("=", "+", "-", "@", "\t", "\r")


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
        told = (speak(cell) for cell in cells)
        self._rows.writerow([f"'{cell}" if cell.startswith(_FORMULA) else cell for cell in told])

    @property
    def text(self) -> str:
        """All that was written."""
        return self._out.getvalue()
