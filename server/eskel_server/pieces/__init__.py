"""Pieces and every change made to them.

Public for the apps above: `content_of`, `piece_of`, `document_of`, `picture_of`, `plan_of` and `plan_or_word` here, and the types
`PieceRow` and `Revision` for annotations; of `pieces.actions` `begin_piece`, `revise_piece`, `keep_cut` and the signal
`stepped`, and of `pieces.views` `PieceView` and `answer_with` (those need the models, which are not ready yet while
apps are loaded).
"""

from typing import TYPE_CHECKING

from .contents import content_of
from .queries import document_of, picture_of, piece_of, plan_of, plan_or_word

if TYPE_CHECKING:
    from .models import PieceRow, Revision

__all__ = [
    "PieceRow",
    "Revision",
    "content_of",
    "document_of",
    "picture_of",
    "piece_of",
    "plan_of",
    "plan_or_word",
]
