"""Workshops: every row of every app belongs to one. Sign-in comes later; today there is one workshop.

Public: `current_workshop`, `any_workshop`, the errors that any app may raise (`Missing`, `Clash`, `Unreadable`), the answer that tells
of them (`Faults`), answers that are JSON already (`json_answer`, `beside`), and the type `Workshop` for annotations (models are not ready yet while apps are loaded).
"""

from typing import TYPE_CHECKING

from .answers import beside, json_answer
from .faults import Clash, Faults, Missing, Unreadable
from .queries import any_workshop, current_workshop

if TYPE_CHECKING:
    from .models import Workshop

__all__ = [
    "Clash",
    "Faults",
    "Missing",
    "Unreadable",
    "Workshop",
    "any_workshop",
    "beside",
    "current_workshop",
    "json_answer",
]
