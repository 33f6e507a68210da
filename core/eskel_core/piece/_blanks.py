"""What is cut for a piece: the one source of every cut list."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..forms import Form, Wire, wire_length_mm
from ._types import Piece


@dataclass(frozen=True)
class CutBlank:
    """One blank: as it is cut (`form` is the rough one where there is one), how many for all copies, and whether it is a part."""

    id: str
    title: str
    metal: str
    form: Form
    count: int
    is_part: bool


def blanks_of(piece: Piece) -> Iterator[CutBlank]:
    """Give every blank that is cut for all copies, each strand of a twist for itself.

    Of parts that are neither bought, stones, cut from another part nor there already; then what else is cut.
    """
    for part in piece.parts:
        if part.metal is not None and part.cut_from is None and not (part.bought_in or part.made):
            form, strands = _strand(part.rough or part.form)
            count = part.count * piece.copies * strands
            yield CutBlank(part.id, part.title, part.metal, form, count, True)
    for cut in piece.cuts:
        form, strands = _strand(cut.form)
        yield CutBlank(cut.id, cut.title, cut.metal, form, cut.count * strands, False)


def _strand(form: Form) -> tuple[Form, int]:
    """Give one strand of a twist, as long as it winds, and how many there are; any other form as it is."""
    if not isinstance(form, Wire) or form.strands == 1:
        return form, 1
    length = wire_length_mm(form) / form.strands
    single = form.model_copy(update={"strands": 1, "pitch_mm": None, "length_mm": length})
    return single, form.strands
