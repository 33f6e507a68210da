"""A body as a network of cells that store heat, pass it on, take it from a flame and lose it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy import sparse
from scipy.sparse import csgraph

from ._cells import Cells
from ._grid import Floats

DRY_W_M2K = 5_000.0
GLASSY_W_M2K = 20_000.0
FACING_W_M2K = 60.0
_APART_MM = 10_000.0
Indices = NDArray[np.int64]
Flags = NDArray[np.bool_]


@dataclass(frozen=True)
class Touch:
    """Where two parts touch at a join: pairs of cells, the area that each pair shares, m², and what the
    joint passes once it is solid metal, W/K. A join that is `made` is solid from the start. A join that ties at
    several places has a touch for each, named by its `place` (`stays#2`)."""

    join: str
    place: str
    i: Indices
    j: Indices
    area_m2: Floats
    metal_w_k: Floats
    made: bool

    @property
    def seam(self) -> Indices:
        """The cells on both sides of the seam."""
        return np.unique(np.concatenate([self.i, self.j]))


@dataclass(frozen=True)
class Network:
    """A body: arrays over its cells, SI units but for places (mm) and temperatures (°C).

    `conduction` is the sparse matrix, W/K, of the metal and the joins already made (its rows sum to zero);
    `touches` are the joins of this heat. Bodies that nothing ties together lie far apart, as a smith lays them for the
    flame; `z_mm` is how high a cell stands; `drawn_x_mm` and `drawn_y_mm` are where they are in the picture. A cell whose node is -1 is a clip or a weight. `ground` are the cells that touch or face the block with their areas, m², and what these pass to it, W/m²K.
    """

    nodes: tuple[str, ...]
    node_of: Indices
    capacity_j_k: Floats
    latent_j: Floats
    solidus_c: Floats
    liquidus_c: Floats
    surface_m2: Floats
    convection_w_m2k: Floats
    clean: Floats
    heated: Floats
    above_m2: Floats
    below_m2: Floats
    wash_m2: Floats
    across_mm: Floats
    ball: Flags
    along: Flags
    x_mm: Floats
    y_mm: Floats
    z_mm: Floats
    drawn_x_mm: Floats
    drawn_y_mm: Floats
    conduction: Any
    touches: tuple[Touch, ...]
    earlier: tuple[Touch, ...]
    ground: Indices
    ground_m2: Floats
    contact_w_m2k: Floats
    effusivity: float
    sinks: tuple[tuple[int, float], ...]

    def __len__(self) -> int:
        return len(self.capacity_j_k)

    def cells(self, node: str) -> Indices:
        """Give the cells of one part."""
        return np.flatnonzero(self.node_of == self.nodes.index(node))

    def capacity_of(self, node: str) -> float:
        """Give what one part takes up for each degree, J/K."""
        return float(self.capacity_j_k[self.cells(node)].sum())


@dataclass(frozen=True)
class Ground:
    """What the work lies on: its effusivity, W·√s/m²K, and its contact, W/m²K; no contact where it lies on nothing.

    What faces a block within some millimetres loses nothing to the room: it glows at the block, which grows hot and glows
    back. Between 300 and 750 °C that passes some 60 W/m²K: radiation between metal (0.5) and block (0.9), 4·σ·T³·0.47, and
    air of 3 mm.
    """

    effusivity: float = 0.0
    contact_w_m2k: float = 0.0


@dataclass(frozen=True)
class Lying:
    """How the parts of a body lie in a heat, each told for the cells of a part by its name.

    `resting` is the area, m², with which they rest on the ground, `facing` that with which they look at it from near by,
    `open_to` how open they are, 0 to 1, to a flame from above and from below (all of them where it is not told),
    `enclosed` the faces, m², that look into a hollow. `first_upon` tells of each touch whether its first cells lie upon
    the others (where it is not told they do).
    """

    resting: Mapping[str, Floats] = field(default_factory=dict)
    facing: Mapping[str, Floats] = field(default_factory=dict)
    open_to: Mapping[str, tuple[Floats, Floats]] = field(default_factory=dict)
    enclosed: Mapping[str, Floats] = field(default_factory=dict)
    first_upon: tuple[bool, ...] = ()


@dataclass(frozen=True)
class _Faces:
    """What of each cell loses heat, is seen from above and from below, and is washed all round, m²."""

    surface: Floats
    above: Floats
    below: Floats
    wash: Floats

    def covered(self, touch: Touch, *, first_upon: bool) -> None:
        """Take the touching faces away: of what lies upon from its underside, of what lies beneath from its upper side."""
        upper, lower = (touch.i, touch.j) if first_upon else (touch.j, touch.i)
        for cells, seen in ((upper, self.below), (lower, self.above)):
            hidden = np.zeros(len(self.surface))
            np.add.at(hidden, cells, touch.area_m2)
            share = hidden / np.maximum(self.surface, 1e-12)
            seen *= 1 - np.minimum(0.9, 2 * share)
            self.wash[:] *= 1 - np.minimum(0.9, share)
        for cells in (upper, lower):
            np.subtract.at(self.surface, cells, touch.area_m2)
        np.maximum(self.surface, 0.0, out=self.surface)


def assemble(
    parts: dict[str, Cells],
    touches: tuple[Touch, ...] = (),
    ground: Ground | None = None,
    *,
    lying: Lying | None = None,
    sinks: tuple[tuple[int, float], ...] = (),
    coat: float | None = None,
    lossless: bool = False,
) -> Network:
    """Put cells of parts, in the order given, and the touches between them into one network.

    Touches name cells by their number in the whole. A flux `coat` is an emissivity that the seams of the touches have
    whatever their heat; `lossless` takes away every loss to the air.
    """
    starts = np.cumsum([0, *(len(cells) for cells in parts.values())])
    many = list(parts.values())

    def whole(per_cell: list[Any]) -> Floats:
        return np.concatenate(
            [np.broadcast_to(one, len(cells)) for one, cells in zip(per_cell, many, strict=True)]
        )

    lying = lying or Lying()
    conduction = _conduction(many, starts, touches)
    passes = 0.0 if ground is None else ground.contact_w_m2k
    warms = passes > 0 and ground is not None and ground.effusivity > 0
    touching = whole([lying.resting.get(name, 0.0) for name in parts]) * (passes > 0)
    near = whole([lying.facing.get(name, 0.0) for name in parts]) * warms
    area = touching + near
    here = np.flatnonzero(area > 0)
    faces = _faces(parts, lying, area, whole)
    for n, touch in enumerate(touches):
        faces.covered(touch, first_upon=not lying.first_upon or lying.first_upon[n])
    clean = whole([cells.metal.emissivity_clean for cells in many])
    heated = whole([cells.metal.emissivity_heated for cells in many])
    for touch in touches if coat is not None else ():
        if not touch.made:
            clean[touch.seam] = heated[touch.seam] = coat
    capacity = whole([cells.capacity_j_k for cells in many])
    drawn, drawn_y = (whole([one.x_mm for one in many]), whole([one.y_mm for one in many]))
    heat = np.array([cells.metal.latent_kj_kg * 1000 / cells.metal.specific_heat_j_kgk for cells in many])
    return Network(
        nodes=tuple(parts),
        node_of=np.repeat(np.arange(len(many)), [len(cells) for cells in many]),
        capacity_j_k=capacity,
        latent_j=capacity * whole(list(heat)),
        solidus_c=whole([cells.metal.solidus_c for cells in many]),
        liquidus_c=whole([max(cells.metal.liquidus_c, cells.metal.solidus_c + 4.0) for cells in many]),
        surface_m2=np.zeros(len(capacity)) if lossless else faces.surface,
        convection_w_m2k=whole([cells.convection_w_m2k for cells in many]),
        clean=clean,
        heated=heated,
        above_m2=faces.above,
        below_m2=faces.below,
        wash_m2=faces.wash,
        across_mm=whole([cells.across_mm for cells in many]),
        ball=whole([cells.ball for cells in many]).astype(bool),
        along=whole([cells.along for cells in many]).astype(bool),
        z_mm=whole([cells.z_mm for cells in many]),
        x_mm=drawn + _APART_MM * _bodies(len(drawn), conduction, touches),
        y_mm=drawn_y,
        drawn_x_mm=drawn,
        drawn_y_mm=drawn_y,
        conduction=conduction,
        touches=tuple(touch for touch in touches if not touch.made),
        earlier=tuple(touch for touch in touches if touch.made),
        ground=here,
        ground_m2=area[here],
        effusivity=0.0 if ground is None else ground.effusivity,
        contact_w_m2k=(touching * passes + near * FACING_W_M2K)[here] / area[here],
        sinks=sinks,
    )


def _conduction(many: list[Cells], starts: Any, touches: tuple[Touch, ...]) -> Any:
    """Give what passes from cell to cell for each degree, W/K: within the parts, and across joins made before."""
    within = [
        (i + start, j + start, g)
        for start, cells in zip(starts, many, strict=False)
        for i, j, g in cells.links
    ]
    across = [(touch.i, touch.j, touch.metal_w_k) for touch in touches if touch.made]
    return _matrix(int(starts[-1]), within + across)


def _faces(
    parts: dict[str, Cells], lying: Lying, on_ground: Floats, whole: Callable[[list[Any]], Floats]
) -> _Faces:
    """Give the faces of a body as it lies, before what its parts cover of one another."""
    many = list(parts.values())
    inside = whole([lying.enclosed.get(name, 0.0) for name in parts])
    open_to = [lying.open_to.get(name, (1.0, 1.0)) for name in parts]
    up, down = whole([one[0] for one in open_to]), whole([one[1] for one in open_to])
    return _Faces(
        surface=np.maximum(whole([cells.surface_m2 for cells in many]) - on_ground - inside, 0.0),
        above=up * whole([cells.above_m2 for cells in many]),
        below=down * whole([cells.below_m2 for cells in many]),
        wash=np.maximum(up, down) * whole([cells.wash_m2 for cells in many]),
    )


def bodies_of(network: Network) -> Indices:
    """Number the bodies that hang together, or will when this heat's joins have run, cell by cell."""
    return _bodies(len(network), network.conduction, network.touches)


def _bodies(count: int, conduction: Any, touches: tuple[Touch, ...]) -> Indices:
    """Number the bodies that hang together, cell by cell."""
    ties = conduction + _matrix(count, [(touch.i, touch.j, touch.area_m2) for touch in touches])
    numbers: Indices = csgraph.connected_components(ties, directed=False)[1].astype(np.int64)
    return numbers


def _matrix(count: int, links: list[tuple[Any, Any, Any]]) -> Any:
    """Make the symmetric matrix of conduction, W/K: what flows out of a cell for the differences to its neighbours."""
    if not links:
        return sparse.csr_matrix((count, count))
    i, j, g = (np.concatenate([np.atleast_1d(link[n]) for link in links]) for n in range(3))
    rows, columns = np.concatenate([i, j, i, j]), np.concatenate([j, i, i, j])
    return sparse.csr_matrix((np.concatenate([-g, -g, g, g]), (rows, columns)), shape=(count, count))
