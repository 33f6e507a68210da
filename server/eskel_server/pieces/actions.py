"""What can be done with pieces: each change of state is one named action, whole or not at all."""

from __future__ import annotations

from itertools import count
from typing import TYPE_CHECKING, Any, Literal

from django.db import transaction
from django.db.models import Q
from django.dispatch import Signal

from eskel_core.faults import refuse
from eskel_core.piece import FORMAT
from eskel_core.sizes import Answer
from eskel_server.accounts import Clash

from .contents import Content, keep_content, read_content
from .models import PieceRow, Revision

if TYPE_CHECKING:
    from eskel_server.accounts import Workshop

MOST_REVISIONS = 500

stepped = Signal()
"""A revision was undone, or done again: for the apps above, where more than the document hangs on it. Whoever raises a refusal stops the step."""


@transaction.atomic
def begin_piece(workshop: Workshop, document: dict[str, Any], what: str) -> PieceRow:
    """Begin a piece from a document; raise `Refused` when it is not sound."""
    content = read_content(document)
    row = PieceRow.objects.create(workshop=workshop, name=content.piece.name)
    _keep(row, 1, content, what)
    return row


def begin_empty_piece(workshop: Workshop, name: str) -> PieceRow:
    """Begin a piece with nothing in it yet."""
    return begin_piece(workshop, {"format": FORMAT, "name": name}, "begun")


@transaction.atomic
def revise_piece(row: PieceRow, based_on: int, document: dict[str, Any], what: str) -> PieceRow:
    """Put a changed document in place of the one that it was based on; what had been undone is forgotten."""
    row = PieceRow.objects.select_for_update(of=("self",)).select_related("workshop").get(pk=row.pk)
    _same_revision(row, based_on)
    content = read_content(document)
    # What stands there is asked, and not what it is called: a document that was damaged can still be replaced.
    if row.revisions.filter(number=row.revision, document=content.plain).exists():
        return row
    undone, oldest = Q(number__gt=row.revision), Q(number__lte=row.revision + 1 - MOST_REVISIONS)
    row.revisions.filter(undone | oldest).delete()
    _keep(row, row.revision + 1, content, what[:200])
    return _stand_at(row, row.revision + 1, content.piece.name)


def keep_cut(row: PieceRow, answer: Answer, kept_as: Literal["part", "cut"], name: str) -> PieceRow:
    """Keep what a calculator found to be cut: as a part of the piece, or as a line of its cut list."""
    cut, lot = answer.found.cut, answer.lot
    if cut is None or lot is None:
        raise refuse(
            "contradiction",
            "name",
            answer.name,
            "a result that is cut from metal can be kept",
            "Choose a calculator that gives a blank.",
        )
    document = dict(row.revisions.get(number=row.revision).document)
    group = "parts" if kept_as == "part" else "cuts"
    title = name.strip() or cut.title
    new = {
        "id": _free_id(title, {one["id"] for one in document.get(group, [])}),
        "name": title,
        "metal": cut.metal or "sterling-925",
        "form": cut.form.model_dump(mode="json", exclude_none=True),
        "count": lot.count,
    }
    document[group] = [*document.get(group, []), new]
    return revise_piece(row, row.revision, document, f"kept {title} from Sizes")


def _free_id(title: str, taken: set[str]) -> str:
    words = "-".join("".join(c if c.isascii() and c.isalnum() else " " for c in title.lower()).split())[:50]
    base = words or "part"
    return next(one for n in count(1) if (one := base if n == 1 else f"{base}-{n}") not in taken)


@transaction.atomic
def undo(row: PieceRow, based_on: int) -> PieceRow:
    """Go back one revision."""
    return _step(row, based_on, -1, "there is nothing to undo")


@transaction.atomic
def redo(row: PieceRow, based_on: int) -> PieceRow:
    """Go forward one revision again."""
    return _step(row, based_on, +1, "there is nothing to do again")


def put_away(row: PieceRow, away: bool) -> PieceRow:
    """Put a piece away, or take it out again; nothing of it is lost."""
    row.put_away = away
    row.save(update_fields=["put_away", "changed_at"])
    return row


def _step(row: PieceRow, based_on: int, by: int, nothing: str) -> PieceRow:
    row = PieceRow.objects.select_for_update(of=("self",)).select_related("workshop").get(pk=row.pk)
    _same_revision(row, based_on)
    names = row.revisions.filter(number=row.revision + by).values_list("document__name", flat=True)
    if not names:
        raise Clash("revision", row.revision, nothing, "Go on from here.")
    over = row.revisions.get(number=max(row.revision, row.revision + by))
    stepped.send(Revision, revision=over, undone=by < 0)
    return _stand_at(row, row.revision + by, names[0] or row.name)


def _stand_at(row: PieceRow, number: int, name: str) -> PieceRow:
    row.revision, row.name = number, name
    row.save(update_fields=["revision", "name", "changed_at"])
    return row


def _same_revision(row: PieceRow, based_on: int) -> None:
    if row.revision != based_on:
        raise Clash(
            "revision",
            based_on,
            f"the piece has been changed elsewhere since (it stands at {row.revision})",
            "Reload it and make the change again.",
        )


def _keep(row: PieceRow, number: int, content: Content, what: str) -> None:
    Revision.objects.create(
        piece=row, number=number, document=content.plain, digest=content.digest, what=what
    )
    keep_content(content)
