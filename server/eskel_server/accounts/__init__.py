"""Workshops: every row of every app belongs to one. Sign-in comes later; today there is one workshop.

Public: `current_workshop`, the two errors that any app may raise (`Missing`, `Clash`), and the answer that tells
of them (`Faults`).
"""

from .faults import Clash, Faults, Missing
from .queries import current_workshop

__all__ = ["Clash", "Faults", "Missing", "current_workshop"]
