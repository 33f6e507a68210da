"""The anatomy of a piece: single parts as nodes, and which nodes each join ties together.

A part with a count is one node for each of its pieces (`link#1`, `link#2`); named without a number
it stands for all of them, pair by pair where the counts agree. Where nobody tells alike parts apart by
number they fare alike, and one node stands for them all.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

from ..piece import Join, Piece, base_id, pairs_of, part_of


@dataclass(frozen=True)
class JoinNodes:
    """The nodes that a join touches, the pairs that it ties, and how many places are soldered."""

    nodes: frozenset[str]
    ties: tuple[tuple[str, str], ...]
    places: int


@dataclass(frozen=True)
class Anatomy:
    """Every node of a piece by its part, and every join's nodes."""

    nodes: dict[str, tuple[str, ...]]
    joins: dict[str, JoinNodes]

    def of(self, references: tuple[str, ...]) -> frozenset[str]:
        """Give the nodes that some references name."""
        return frozenset(node for reference in references for node in nodes_of(self.nodes, reference))

    def part(self, node: str) -> str:
        """Give the part that a node is one of."""
        return base_id(node)

    def body(self, seeds: frozenset[str], made: list[str]) -> frozenset[str]:
        """Give all nodes tied to some, directly or through others, by the joins made so far."""
        ties = [tie for join in made for tie in self.joins[join].ties]
        hot, grew = set(seeds), True
        while grew:
            grew = False
            for a, b in ties:
                if (a in hot) != (b in hot):
                    hot |= {a, b}
                    grew = True
        return frozenset(hot)


def anatomy(piece: Piece) -> Anatomy:
    """Take a piece apart into nodes and ties."""
    told_apart = _told_apart(piece)
    nodes = {
        part.id: tuple(f"{part.id}#{n + 1}" for n in range(part.count))
        if part.id in told_apart
        else (part.id,)
        for part in piece.parts
    }
    return Anatomy(nodes=nodes, joins={join.id: _join_nodes(piece, nodes, join) for join in piece.joins})


def _told_apart(piece: Piece) -> set[str]:
    """Give the parts that somebody tells apart by number, and those that are joined to them pair by pair."""
    told = {base_id(reference) for reference in _references(piece) if "#" in reference}
    counts = {part.id: part.count for part in piece.parts}
    while True:
        pairs = [join.between for join in piece.joins if told & set(join.between)]
        more = {
            end
            for between in pairs
            for end in between
            for other in between
            if end in counts and other in told and counts[end] == counts[other] > 1
        }
        if more <= told:
            return told
        told |= more


def _references(piece: Piece) -> list[str]:
    joined = [one for join in piece.joins for one in (*join.between, *join.through)]
    return joined + [part for work in piece.work for part in work.parts]


def nodes_of(nodes: dict[str, tuple[str, ...]], reference: str) -> tuple[str, ...]:
    """Give the nodes that one reference names."""
    return (
        (reference,)
        if "#" in reference and reference in nodes[base_id(reference)]
        else nodes[base_id(reference)]
    )


def _join_nodes(piece: Piece, nodes: dict[str, tuple[str, ...]], join: Join) -> JoinNodes:
    sides = [nodes_of(nodes, reference) for reference in join.between]
    everything = frozenset(node for side in sides for node in side)
    closes = len(set(join.between)) == 1 and join.kind in ("butt", "fuse")
    ties = (
        () if closes else tuple(tie for a, b in pairwise(sides) for tie in pairs_of(a, b) if tie[0] != tie[1])
    )
    return JoinNodes(nodes=everything, ties=ties, places=_places(piece, join))


def _places(piece: Piece, join: Join) -> int:
    """Give how many places are soldered: one for each of the alike parts, or for each pair in a row."""
    counts = [1 if "#" in end else part_of(piece, end).count for end in join.between]
    if len(set(join.between)) == 1 and join.kind not in ("butt", "fuse"):
        return max(1, counts[0] - 1)
    return max(len(counts) - 1 if len(counts) > 2 else 1, *counts)
