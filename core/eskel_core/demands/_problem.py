"""A piece made ready for the solver: what takes a heat, what it may be made with, what is demanded of the plan.

Concepts: a `Demand` (a rule's code, the ids that it speaks of, the sentence) is the unit that a conflict is
made of: a problem can be solved with any of them let go. A `Task` is what takes a heat: a heated join, or
heated work. A `Problem` is everything that the solver needs, free of the piece file's wording.
"""

from __future__ import annotations

import json
from dataclasses import dataclass, replace
from functools import cached_property

from ..metals import Metal, Solder, solder_suits, solders
from ..piece import HEAT_WORK, Bench, House, Join, Piece, Work, base_id, metal_of, part_of, stocked_solders
from ..rules import (
    ALL_LIES,
    Anatomy,
    Filler,
    Lie,
    Reach,
    filler_of_fuse,
    filler_of_solder,
    filler_of_work,
    holds_at_all,
    is_in_hand,
    reach_of,
    rule,
    thickness_mm,
)
from ._graph import closure

# What the smith or the trade asks for, where no rule of the catalogue does.
OWN_CODES = frozenset({"order", "habit", "fixed", "by-hand", "made"})
THIN_MM = 0.5
_TOO_HARD_FOR_CLAD = frozenset({"it", "hard"})
_TOO_HARD_FOR_BOUGHT = frozenset({"it", "hard", "medium"})
LIMIT_OF_PLACING = {"chips-under": 6, "chips-over": 6, "sweat": 6, "paste": 24}


@dataclass(frozen=True)
class Demand:
    """One demand that could be let go: `kind` tells the solver which, `ids` whom it concerns."""

    code: str
    kind: str
    ids: tuple[str, ...]
    text: str
    remedy: str

    def __post_init__(self) -> None:
        """Refuse a code that is neither a rule of the catalogue nor one of the planner's own."""
        if self.code not in OWN_CODES:
            rule(self.code)


@dataclass(frozen=True)
class Task:
    """What takes a heat: a heated join, or heated work, with what may make it hot.

    `in_hand`: it is held in the hand until its solder has set; a heat has room for as many of these as there are `hands`.
    """

    id: str
    join: Join | None
    work: Work | None
    seeds: frozenset[str]
    options: tuple[Filler, ...]
    places: int
    limit: int
    in_hand: bool = False
    hands: int = 1

    @property
    def alone(self) -> bool:
        """Whether it shares its heat with nothing: other work, a fuse, a join that nothing holds."""
        return self.join is None or self.join.holds == "nothing" or self.join.kind == "fuse"


@dataclass(frozen=True)
class Problem:
    """A piece made ready for the solver."""

    piece: Piece
    house: House
    bench: Bench
    anatomy: Anatomy
    demands: tuple[Demand, ...]
    dropped: frozenset[Demand] = frozenset()
    only: frozenset[str] | None = None

    def without(self, dropped: frozenset[Demand]) -> Problem:
        """Give the same problem with some demands let go."""
        return replace(self, dropped=dropped)

    def among(self, tasks: frozenset[str]) -> Problem:
        """Give the same problem for some of its tasks alone."""
        return replace(self, only=tasks)

    def asks(self, kind: str, *ids: str) -> bool:
        """Say whether a demand stands: it was made, and it was not let go."""
        return (kind, ids) in self.standing_by

    @cached_property
    def standing_by(self) -> dict[tuple[str, tuple[str, ...]], list[Demand]]:
        """Give the demands that were not let go, by kind and ids."""
        found: dict[tuple[str, tuple[str, ...]], list[Demand]] = {}
        for one in self.standing:
            found.setdefault((one.kind, one.ids), []).append(one)
        return found

    @cached_property
    def tasks(self) -> tuple[Task, ...]:
        """Give everything that takes a heat, in canonical order."""
        joins = (one for one in self.piece.joins if one.heated and self._is_looked_at(one.id))
        works = (one for one in self.piece.work if one.kind in HEAT_WORK and self._is_looked_at(one.id))
        chosen = [*map(self._join_task, joins), *map(self._work_task, works)]
        return tuple(sorted(chosen, key=self._canonical))

    def _is_looked_at(self, name: str) -> bool:
        return self.only is None or name in self.only

    @cached_property
    def made(self) -> frozenset[str]:
        """Give the heated joins that are made already: the heats that the solver gives them are over."""
        return frozenset(join.id for join in self.piece.joins if join.heated and join.made)

    @cached_property
    def orders(self) -> frozenset[tuple[str, str]]:
        """Give every pair (earlier, later) of tasks, followed through work that takes no heat."""
        names = {task.id for task in self.tasks}
        return frozenset((a, b) for a, b in self._told if a in names and b in names)

    @cached_property
    def order_edges(self) -> tuple[tuple[str, str], ...]:
        """Give the pairs (earlier, later) of joins and work that were asked for and not let go."""
        asked = (one for one in self.standing if one.kind == "order")
        return tuple((one.ids[0], one.ids[1]) for one in asked)

    @cached_property
    def _told(self) -> frozenset[tuple[str, str]]:
        return frozenset(closure(set(self.order_edges)))

    @property
    def standing(self) -> tuple[Demand, ...]:
        """Give the demands that were not let go."""
        return tuple(demand for demand in self.demands if demand not in self.dropped)

    def _join_task(self, join: Join) -> Task:
        nodes = self.anatomy.joins[join.id]
        limit = LIMIT_OF_PLACING.get(join.placing or self.house.placing, self.house.picks_per_heat)
        return Task(
            join.id,
            join,
            None,
            nodes.nodes,
            self._options(join),
            self._places(join),
            limit,
            in_hand=is_in_hand(join, self.house),
            hands=self.house.hands if self.asks("hands") else len(self.piece.joins),
        )

    def _places(self, join: Join) -> int:
        """Give how many places of a join are soldered in one body: of bodies alike one is told."""
        counts = {1 if "#" in end else part_of(self.piece, end).count for end in join.between}
        in_a_row = len(set(join.between)) == 1 and join.kind not in ("butt", "fuse")
        apart = (
            len(counts) == 1
            and not in_a_row
            and not any(
                (other.id, join.id) in self._told
                and {base_id(end) for end in other.between} & {base_id(end) for end in join.between}
                and {1 if "#" in end else part_of(self.piece, end).count for end in other.between} != counts
                for other in self.piece.joins
            )
        )
        places = self.anatomy.joins[join.id].places
        return max(1, places // max(counts)) if apart else places

    def _work_task(self, work: Work) -> Task:
        seeds = self.anatomy.of(work.parts) if work.kind != "pour" else frozenset()
        return Task(work.id, None, work, seeds, (filler_of_work(self.piece, work, self.house),), 1, 1)

    def _options(self, join: Join) -> tuple[Filler, ...]:
        if join.kind == "fuse":
            return (filler_of_fuse(self.piece, join),)
        if join.made:
            return (filler_of_solder(solders()[join.solder or ""], self.house),)
        fits = [solder for solder in solders().values() if not solder.cadmium]
        fits = [fit for fit in fits if not any(self.asks(*bar) for bar in self.bars(fit, join))]
        return tuple(filler_of_solder(fit, self.house) for fit in fits)

    def bars(self, solder: Solder, join: Join) -> list[tuple[str, *tuple[str, ...]]]:
        """Give the kind and ids of every demand that keeps a solder from a join, as long as it stands; none bars what is made."""
        bars: list[tuple[str, *tuple[str, ...]]] = []
        if join.made:
            return bars
        if solder.id not in self._stock:
            bars.append(("stock",))
        named = join.solder is not None
        # A grade names a silver solder: copper-phosphorus rod is hard by its flow point alone.
        own_grade = solder.grade if solder.family != "copper" else None
        fits = solder.id == join.solder if named else join.grade in (None, own_grade)
        if not fits:
            bars.append(("fixed", join.id))
        if solder.family not in ("copper", self.house.family) and not (named and fits):
            bars.append(("family",))
        if solder.grade in _TOO_HARD_FOR_CLAD and not (named or join.grade):
            bars.append(("clad", join.id))
        if solder.grade in _TOO_HARD_FOR_BOUGHT and not (named or join.grade):
            bars.append(("bought", join.id))
        metals = [self._metals[base_id(reference)] for reference in join.between]
        if not all(metal is None or solder_suits(solder, metal) for metal in metals):
            bars.append(("suits", join.id))
        return bars

    @cached_property
    def _metals(self) -> dict[str, Metal | None]:
        return {part.id: metal_of(self.piece, part.id) for part in self.piece.parts}

    @cached_property
    def _stock(self) -> frozenset[str]:
        return frozenset(solder.id for solder, _ in stocked_solders(self.bench))

    @cached_property
    def reach(self) -> Reach:
        """Give which earlier joins local heats and heated ends leave cooler."""
        return reach_of(self.piece, self.house)

    @cached_property
    def lies_that_hold(self) -> dict[str, tuple[Lie, ...]]:
        """Give the lies in which each heated join is held in a later heat without being protected by hand."""
        heated = [join for join in self.piece.joins if join.heated]
        return {
            join.id: tuple(lie for lie in ALL_LIES if holds_at_all(self.piece, join, lie)) for join in heated
        }

    @cached_property
    def thin(self) -> frozenset[str]:
        """Give the parts so thin that a heat near their solidus is kept from them where another way is as good."""
        return frozenset(part.id for part in self.piece.parts if thickness_mm(part.form) < THIN_MM)

    def is_near(self, filler: Filler, node: str) -> bool:
        """Say whether a heat comes so near to the solidus of a thin part that it is counted."""
        part = self.anatomy.part(node)
        metal = metal_of(self.piece, part) if part in self.thin else None
        return (
            metal is not None
            and filler.heats_evenly
            and metal.solidus_c - filler.working_c <= self.house.thin_margin_c
        )

    @cached_property
    def content(self) -> str:
        """Give all that a solution follows from, as text: sizes, names and places of parts are not in it."""
        piece = self.piece.model_dump(mode="json", exclude=_PIECE_ASIDE)
        return json.dumps(
            [
                piece,
                self.house.model_dump(mode="json"),
                sorted(self._stock) if self.asks("stock") else None,
                [part.model_dump(mode="json", include=_PART_MATTERS) for part in self.piece.parts],
                sorted(self.thin),
                sorted(self.reach.cooler_c.items()),
                sorted(self.reach.contact_c.items()),
                sorted(self.lies_that_hold.items()),
                [join.model_dump(mode="json", exclude=_JOIN_MEASURES) for join in self.piece.joins],
                [work.model_dump(mode="json", include=_WORK_MATTERS) for work in self.piece.work],
                [(one.code, one.kind, one.ids) for one in self.standing],
            ]
        )

    def _canonical(self, task: Task) -> str:
        """Give a key by which shuffled lists and renamed ids come to the same order, the id last."""
        if task.join is not None:
            told = _JOIN_MEASURES | {"id", "between", "after", "through", "encloses", "shields"}
            own = task.join.model_dump(mode="json", exclude=told)
            parts = [part_of(self.piece, end) for end in task.join.between]
        elif task.work is not None:
            own = {"kind": task.work.kind}
            parts = [part_of(self.piece, one) for one in task.work.parts]
        shapes = sorted(part.model_dump_json(include=_PART_MATTERS - {"id"}) for part in parts)
        return json.dumps([own, shapes, task.id], sort_keys=True)


_PIECE_ASIDE = {"name", "copies", "mirrored", "notes", "bench", "parts", "joins", "work", "cuts"}
_PART_MATTERS = {"id", "metal", "count", "heat_safe"}
_JOIN_MEASURES = {"name", "seam_mm", "contact_mm2", "gap_mm", "at", "heat_from", "flux"}
_WORK_MATTERS = {"id", "kind", "parts"}


def longest_chain(problem: Problem) -> int:
    """Give the number of heats in the longest chain of orders, or that of all tasks if it is a circle."""
    before: dict[str, list[str]] = {task.id: [] for task in problem.tasks}
    for earlier, later in problem.orders:
        before[later].append(earlier)
    if any(task in earlier for task, earlier in before.items()):
        return len(problem.tasks)
    # Orders are closed: whatever comes before a task has fewer before it.
    length: dict[str, int] = {}
    for task in sorted(before, key=lambda one: len(before[one])):
        length[task] = 1 + max((length[one] for one in before[task]), default=0)
    return max(length.values())
