"""Which of two parts is set on the other: told by their heights, else by their forms."""

from __future__ import annotations

from ..forms import Sheet
from ..piece import Join, Piece, base_id, mass_g, metal_of, part_of


def set_on(piece: Piece, join: Join) -> str:
    """Give the part (its id) that is set on the other at a join.

    Where both are put at a height of their own it is the higher one, on the front, and the lower one on the back. Else it
    is the domed one (but where an end stands on it), else what is seated on flat sheet or laid along it, else the lighter one: a shank under a plate is
    heavier than that, and is set on its back all the same, for the face is the sheet's.
    """
    ends = list(dict.fromkeys(base_id(end) for end in join.between))
    heights = [place.z_mm for end in ends if (place := part_of(piece, end).place) is not None]
    if len(heights) == len(ends) and len(set(heights)) > 1 and join.face in ("front", "back"):
        choose = max if join.face == "front" else min
        return ends[heights.index(choose(heights))]

    def order(name: str) -> tuple[float, bool, float]:
        form = part_of(piece, name).form
        carries = isinstance(form, Sheet) and join.kind in ("seat", "line")
        # What stands on its end on a dome is set on the dome.
        domed = 0.0 if join.kind == "tee" else getattr(form, "domed_mm", 0.0)
        return -domed, carries, mass_g(form, metal_of(piece, name)) or 0.0

    return min(ends, key=order)
