"""What lies above, what lies beneath, and what rests on the block: which faces a flame from a side can reach."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

import numpy as np

from ..piece import Join
from ._cells import Cells
from ._grid import Floats
from ._network import Flags, Lying, Touch
from ._touch import beneath, owner_of

Lies = Literal["front-up", "back-up", "on-edge"]
_BESIDE = frozenset({"butt", "bundle", "fuse"})
_TURNED_SHARE, _EDGE_SHARE = 0.3, 0.1
# How far the block is seen that a part warms; the share of its lower half that a ball, a round, has straight above the block.
_SEES_MM = 15.0
_OF_A_BALL, _OF_A_ROUND = 1 / 2, 2 / np.pi
# Of a dome beneath another its flank shows.
_FLANK = 1 / 3


class Levels:
    """The levels of a body: which parts lie upon others and which hang beneath, as it lies in the heat.

    `upper` tells of each join which part is set on the other.
    """

    def __init__(
        self,
        parts: dict[str, Cells],
        touches: list[Touch],
        joins: Mapping[str, Join],
        starts: dict[str, int],
        lies: Lies,
        upper: Mapping[str, str],
    ) -> None:
        self.parts, self.lies = parts, lies
        self._starts = starts
        self.upon: dict[str, str] = {}
        self.face: dict[str, str] = {}
        self.rims: dict[str, str] = {}
        # Of each touch whether its first cells lie upon its others in this heat, or beneath them.
        self.first_upon: list[bool] = []
        for touch in touches:
            self.first_upon.append(True)
            join = joins[touch.join]
            small, large = self._of(int(touch.i[0])), self._of(int(touch.j[0]))
            if small == large:
                continue
            if join.kind == "butt" and self._is_sheet(small) and self._is_sheet(large):
                above, below = sorted((small, large), key=lambda node: _named(join, node))
                self.rims[below] = above
                self.first_upon[-1] = above == small
            elif join.kind not in _BESIDE:
                large_upon = upper[join.id] == large.partition("#")[0]
                self.first_upon[-1] = large_upon == self._looks_down(join.face)
                if large_upon:
                    small, large = large, small
                self.upon.setdefault(small, large)
                self.face.setdefault(small, join.face)

    def lying(self) -> Lying:
        """Give how the parts lie."""
        return Lying(self.resting(), self.facing(), self.open_to(), self.enclosed(), tuple(self.first_upon))

    def _of(self, cell: int) -> str:
        return owner_of(cell, self._starts)

    def _is_sheet(self, node: str) -> bool:
        return len(self.parts[node]) > 8 and not self.parts[node].row

    def _looks_down(self, face: str) -> bool:
        """Whether a face of the work is on the side that faces the block."""
        return (face, self.lies) in {("front", "back-up"), ("back", "front-up")}

    def _hangs(self, node: str) -> bool:
        """Whether a part, or what it stands upon, is on the side that faces the block."""
        seen = set()
        while node in self.upon and node not in seen:
            seen.add(node)
            if self._looks_down(self.face[node]):
                return True
            node = self.upon[node]
        return False

    def open_to(self) -> dict[str, tuple[Floats, Floats]]:
        """Give how open each cell is, 0 to 1, to a flame from above and from below."""
        made = {}
        lowest = self._lowest()
        for node, cells in self.parts.items():
            up, down = np.ones(len(cells)), np.zeros(len(cells))
            hangs = self._hangs(node)
            if hangs:
                up[:] = 0.0
            if hangs or node in lowest:
                down[:] = 1.0
            if node in self.rims:
                up[:] = _FLANK if self._domed(node) else 0.0
            made[node] = (up, down)
        for small, large in self.upon.items():
            if self._is_sheet(small) and self.parts[small].foot.all() and not self._hangs(small):
                made[large][0][self._under(small, large)] = 0.0
        return made

    def enclosed(self) -> dict[str, Floats]:
        """Give the faces, m², that look into a hollow: what they lose they give to one another."""
        made = {node: np.zeros(len(cells)) for node, cells in self.parts.items()}
        for below, above in self.rims.items():
            made[below] = self.parts[below].above_m2.copy()
            made[above] = self.parts[above].below_m2.copy()
        for small, large in self.upon.items():
            if self._is_sheet(small) and self.parts[small].foot.all() and self._domed(small):
                made[small] = self.parts[small].below_m2.copy()
                made[large] = np.where(self._under(small, large), self.parts[large].above_m2, made[large])
        return made

    def _domed(self, node: str) -> bool:
        cells = self.parts[node]
        return bool((cells.rests_m2 < 0.5 * cells.above_m2).any())

    def _under(self, upper: str, lower: str) -> Flags:
        """Say which cells of a part lie beneath a sheet upon it."""
        return beneath(self.parts[upper], self.parts[lower])

    def _lowest(self) -> set[str]:
        upon = set(self.upon) | {above for above in self.rims.values() if above not in self.rims}
        return {node for node in self.parts if node not in upon} or set(self.parts)

    def resting(self) -> dict[str, Floats]:
        """Give the area, m², with which the parts that lie lowest rest on the block.

        What sits upon another part does not touch it. Turned over, a body with parts upon it lies on them: it rests on
        three tenths of its face, on edge on a tenth.
        """
        turned = _TURNED_SHARE if self.upon else 1.0
        share = {"front-up": 1.0, "back-up": turned, "on-edge": _EDGE_SHARE}[self.lies]
        return {node: self.parts[node].rests_m2 * share for node in self._lowest()}

    def facing(self) -> dict[str, Floats]:
        """Give the area, m², with which parts that lie lowest, or hang beneath, look at the block without resting on it.

        Of what is round, what stands straight above the block beneath it; on edge nothing, which looks along it.
        """
        if self.lies == "on-edge":
            return {}
        rests = self.resting()
        made = {}
        for node, cells in self.parts.items():
            if not self._hangs(node) and not (node in rests and rests[node].any()):
                continue  # upon another, or in an upper row of a bundle
            straight = 1.0 if self._is_sheet(node) else _OF_A_BALL if cells.ball else _OF_A_ROUND
            near = np.maximum(0.0, 1 - cells.z_mm / _SEES_MM)
            looks = straight * near * cells.below_m2 - rests.get(node, 0.0)
            for small, large in self.upon.items():
                if large == node and self._hangs(small) and self._is_sheet(small):
                    looks[self._under(small, large)] = 0.0
            made[node] = np.maximum(looks, 0.0)
        return made


def _named(join: Join, node: str) -> int:
    base = node.partition("#")[0]
    names = [one.partition("#")[0] for one in join.between]
    return names.index(base) if base in names else 0
