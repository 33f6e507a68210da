"""Bodies for tests of the heat: a form put in plan, cut into cells and marched; and what a case is."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from eskel_core.forms import Form, Round, Wire, plan_view
from eskel_core.heat import (
    Body,
    Cells,
    March,
    body_of,
    cells_of,
)
from eskel_core.metals import metals, surfaces
from eskel_core.picture import PlacedPart
from eskel_core.piece import Piece

from .pieces import join, piece, plate, wire

Floats = NDArray[np.float64]
ROOM_C = 20.0


@dataclass(frozen=True)
class Case:
    """A case: ours and the reference at the same abscissae, and how far off ours is at most, as a share of `scale`."""

    name: str
    reference: str
    bound: float
    x: Floats
    x_label: str
    ours: Floats
    theirs: Floats
    scale: float

    @property
    def error(self) -> float:
        """The largest difference as a share."""
        return float(np.abs(self.ours - self.theirs).max() / self.scale)


def placed(form: Form, x_mm: float = 0.0, y_mm: float = 0.0) -> PlacedPart:
    """Put a form flat in plan."""
    view = plan_view(form, "flat")
    lines = tuple(
        line.model_copy(update={"points": tuple((x + x_mm, y + y_mm) for x, y in line.points)})
        for line in view.lines
    )
    return PlacedPart(
        node="part",
        part="part",
        x_mm=x_mm,
        y_mm=y_mm,
        width_mm=view.width_mm,
        height_mm=view.height_mm,
        lines=lines,
    )


def cut(form: Form, metal: str = "sterling-925", size_mm: float = 1.0) -> Cells:
    """Cut a form that lies in the middle into cells."""
    return cells_of(form, metals()[metal], placed(form), "flat", size_mm)


def round_wire(diameter_mm: float, length_mm: float) -> Wire:
    """Make straight round wire."""
    return Wire(kind="wire", profile=Round(kind="round", diameter_mm=diameter_mm), length_mm=length_mm)


def march_to(march: March, seconds: float) -> None:
    """March until a time."""
    while march.seconds < seconds - 1e-9:
        march.step(seconds)


def body(
    made: Piece, *nodes: str, making: tuple[str, ...] = (), done: tuple[str, ...] = (), **more: Any
) -> Body:
    surface = surfaces()[more.pop("surface", "charcoal")]
    return body_of(made, frozenset(nodes), making=making, made=done, surface=surface, **more)


def posts(count: int, at: list[list[float]] | None = None) -> Piece:
    """So many posts alike on a plate."""
    pin = wire("post", count=count)
    tie = join("foot", "post", "base")
    if at is not None:
        tie["at"] = at
    return piece([plate("base"), pin], [tie])
