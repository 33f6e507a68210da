"""Contents of pieces: each is read once and written once, and what follows from it is kept under its name, in one place.

Concepts: a *content* is a piece with its canonical text; its `digest` is the name of that text. What follows from a content (plan,
picture, lists, the JSON of its page) is worked out in the workroom and kept in memory by the texts that it follows from, so it
is never stale.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING, Any, TypeVar

from django.db.models import TextField
from django.db.models.functions import Cast

from eskel_core.piece import Piece, parse_piece, piece_from_object, piece_object, write_object
from eskel_server.shelf import Shelf

if TYPE_CHECKING:
    from .models import PieceRow

V = TypeVar("V")
MOST_KEPT = 800
# What a picture follows from.
_DRAWN = ("format", "metals", "parts", "joins")


def digest_of(text: str) -> str:
    """Give a short name of a content."""
    return hashlib.sha256(text.encode()).hexdigest()


@dataclass(frozen=True)
class Content:
    """A piece, as a plain object in its canonical form, and that as text."""

    piece: Piece
    plain: dict[str, Any]

    @cached_property
    def text(self) -> str:
        """The canonical text."""
        return write_object(self.plain)

    @cached_property
    def digest(self) -> str:
        """The name of the text."""
        return digest_of(self.text)

    @cached_property
    def silent(self) -> str:
        """The text without notes: all that a plan follows from."""
        return write_object({key: value for key, value in self.plain.items() if key != "notes"})

    @cached_property
    def bare(self) -> str:
        """The text of parts and joins alone: all that a picture follows from."""
        drawn = {key: value for key, value in self.plain.items() if key in _DRAWN}
        return write_object(drawn | {"name": "a picture"})


def content_of(piece: Piece) -> Content:
    """Give the content of a piece."""
    return Content(piece, piece_object(piece))


def read_content(document: dict[str, Any]) -> Content:
    """Read a document; raise `Refused` when it is not sound."""
    return content_of(piece_from_object(document))


_KEPT = Shelf[tuple[str, ...], Any](most=MOST_KEPT)


def kept(*name: str, find: Callable[[], V], lasting: Callable[[V], bool] = lambda _: True) -> V:
    """Give what is kept under a name, or find it; it is kept where it is `lasting`. What is refused is not kept here."""
    known: V | None = _KEPT.get(name)
    if known is not None:
        return known
    found = find()
    if lasting(found):
        _KEPT.put(name, found)
    return found


def keep_content(content: Content) -> None:
    """Have a content at hand under its name."""
    _KEPT.put(("content", content.digest), content)


def content_standing(row: PieceRow, digest: str) -> Content:
    """Give the content of the revision that a piece stands at, by its name; read it where it is not at hand."""

    def read() -> Content:
        text = row.revisions.filter(number=row.revision).values_list(Cast("document", TextField()), flat=True)
        return content_of(parse_piece(text.get()))

    return kept("content", digest, find=read)
