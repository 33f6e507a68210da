"""What can be asked of the shelf."""

from __future__ import annotations

from typing import TYPE_CHECKING

from eskel_core.faults import Refused
from eskel_core.piece import Piece, piece_from_object
from eskel_server.accounts import Missing, Unreadable, current_workshop

if TYPE_CHECKING:
    from django.db.models import QuerySet

    from .models import Finding


def findings_of() -> QuerySet[Finding]:
    """Give every finding on the shelf of this workshop."""
    from .models import Finding

    return Finding.objects.filter(workshop=current_workshop())


def finding_at(key: int) -> Finding:
    """Give a finding of this workshop; raise `Missing` when there is none."""
    row = findings_of().filter(pk=key).first()
    if row is None:
        raise Missing("finding", key)
    return row


def document_of_finding(row: Finding) -> Piece:
    """Give a finding as it was made; raise `Unreadable` where it cannot be read any more."""
    try:
        return piece_from_object(dict(row.document))
    except Refused as problem:
        raise Unreadable("finding", row.pk, problem) from problem
