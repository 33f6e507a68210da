"""Workshops: every row of every app belongs to one. Sign-in comes later; today there is one workshop.

Public: `current_workshop`, and the two errors that any app may raise (`Missing`, `Clash`).
"""

from .faults import Clash, Missing
from .queries import current_workshop

__all__ = ["Clash", "Missing", "current_workshop"]
