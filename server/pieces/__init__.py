"""Pieces and every change made to them.

Public: `piece_of`, `document_of` and `plan_of`, for the apps above.
"""

from .queries import document_of, piece_of, plan_of

__all__ = ["document_of", "piece_of", "plan_of"]
