"""What is demanded of a plan: by the smith, by the stock, by the metals, by the trade's order of work.

Concepts: a `Demand` (a rule's code, the ids that it speaks of, the sentence) is the unit that a conflict is
made of: a problem can be built with any of them let go. A `Task` is what takes a heat: a heated join, or
heated work. A `Problem` is everything that the solver needs, free of the piece file's wording.
"""

from __future__ import annotations

import json
from dataclasses import dataclass, replace
from functools import cached_property

from ..metals import Solder, solder_suits, solders
from ..piece import (
    HEAT_WORK,
    Bench,
    House,
    Join,
    Piece,
    Work,
    base_id,
    mass_g,
    metal_of,
    part_of,
    shipped_bench,
    stocked_solders,
)
from ..rules import Anatomy, Filler, anatomy, filler_of_fuse, filler_of_solder, filler_of_work

SURFACE_KINDS = frozenset({"tee", "edge", "overlay", "seat", "line"})
LAST_WORK = frozenset({"set", "finish", "darken", "seal", "harden"})
LIMIT_OF_PLACING = {"chips-under": 6, "chips-over": 6, "sweat": 6, "paste": 24, "fed-wire": 1, "pick": 1}


@dataclass(frozen=True)
class Demand:
    """One demand that could be let go: `kind` tells the solver which, `ids` whom it concerns."""

    code: str
    kind: str
    ids: tuple[str, ...]
    text: str
    remedy: str


@dataclass(frozen=True)
class Task:
    """What takes a heat: a heated join, or heated work, with what may make it hot."""

    id: str
    join: Join | None
    work: Work | None
    seeds: frozenset[str]
    options: tuple[Filler, ...]
    places: int
    limit: int

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
        return (kind, ids) in self._standing if ids else kind in self._kinds

    @cached_property
    def _standing(self) -> frozenset[tuple[str, tuple[str, ...]]]:
        return frozenset((one.kind, one.ids) for one in self.demands if one not in self.dropped)

    @cached_property
    def _kinds(self) -> frozenset[str]:
        return frozenset(kind for kind, _ in self._standing)

    @cached_property
    def tasks(self) -> tuple[Task, ...]:
        """Give everything that takes a heat, in canonical order."""
        joins = [self._join_task(join) for join in self.piece.joins if join.heated]
        works = [self._work_task(work) for work in self.piece.work if work.kind in HEAT_WORK]
        chosen = [task for task in (*joins, *works) if self.only is None or task.id in self.only]
        return tuple(sorted(chosen, key=self._canonical))

    @cached_property
    def orders(self) -> frozenset[tuple[str, str]]:
        """Give every pair (earlier, later) of tasks, followed through work that takes no heat."""
        return _through(self._edges, {task.id for task in self.tasks})

    @cached_property
    def _edges(self) -> frozenset[tuple[str, str]]:
        return frozenset(
            (one.ids[0], one.ids[1])
            for one in self.demands
            if one.kind == "order" and one not in self.dropped
        )

    def _join_task(self, join: Join) -> Task:
        nodes = self.anatomy.joins[join.id]
        limit = LIMIT_OF_PLACING[join.placing or self.house.placing]
        return Task(join.id, join, None, nodes.nodes, self._options(join), nodes.places, limit)

    def _work_task(self, work: Work) -> Task:
        seeds = self.anatomy.of(work.parts) if work.kind != "pour" else frozenset()
        return Task(work.id, None, work, seeds, (filler_of_work(self.piece, work, self.house),), 1, 1)

    def _options(self, join: Join) -> tuple[Filler, ...]:
        if join.kind == "fuse":
            return (filler_of_fuse(self.piece, join),)
        fits = [solder for solder in self._stock() if self._takes(solder, join)]
        return tuple(filler_of_solder(solder, self.house) for solder in fits)

    def _stock(self) -> list[Solder]:
        if not self.asks("stock"):
            return [solder for solder in solders().values() if not solder.cadmium]
        seen: dict[str, Solder] = {solder.id: solder for solder, _ in stocked_solders(self.bench)}
        return list(seen.values())

    def _takes(self, solder: Solder, join: Join) -> bool:
        if self.asks("fixed", join.id):
            fits = solder.id == join.solder if join.solder is not None else solder.grade == join.grade
            if not fits:
                return False
        fixed_here = join.solder is not None and self.asks("fixed", join.id)
        if self.asks("family") and not fixed_here and solder.family not in ("copper", self.house.family):
            return False
        if not self.asks("suits", join.id):
            return True
        metals = [metal_of(self.piece, reference) for reference in join.between]
        return all(metal is None or solder_suits(solder, metal) for metal in metals)

    @cached_property
    def content(self) -> str:
        """Give all that a solution follows from, as text: sizes, names and places of parts are not in it."""
        piece = self.piece.model_dump(mode="json", exclude=_PIECE_ASIDE)
        return json.dumps(
            [
                piece,
                self.house.model_dump(mode="json"),
                [solder.id for solder in self._stock()],
                [part.model_dump(mode="json", include=_PART_MATTERS) for part in self.piece.parts],
                [join.model_dump(mode="json", exclude=_JOIN_MEASURES) for join in self.piece.joins],
                [work.model_dump(mode="json", include=_WORK_MATTERS) for work in self.piece.work],
                [(one.code, one.kind, one.ids) for one in self.demands if one not in self.dropped],
            ]
        )

    def _canonical(self, task: Task) -> str:
        """Give a key by which shuffled lists and renamed ids come to the same order, the id last."""
        if task.join is not None:
            told = _JOIN_MEASURES | {"id", "between", "after", "through", "encloses", "shields"}
            own = task.join.model_dump(mode="json", exclude=told)
            parts = [part_of(self.piece, one) for one in task.join.between]
        elif task.work is not None:
            own = {"kind": task.work.kind}
            parts = [part_of(self.piece, one) for one in task.work.parts]
        shapes = sorted(part.model_dump_json(include=_PART_MATTERS - {"id"}) for part in parts)
        return json.dumps([own, shapes, task.id], sort_keys=True)


_PIECE_ASIDE = {"name", "copies", "mirrored", "notes", "bench", "parts", "joins", "work"}
_PART_MATTERS = {"id", "metal", "count", "heat_safe"}
_JOIN_MEASURES = {"name", "seam_mm", "contact_mm2", "gap_mm", "at"}
_WORK_MATTERS = {"id", "kind", "parts"}


def make_problem(piece: Piece, house: House, bench: Bench | None = None) -> Problem:
    """Make a piece ready for the solver, with every demand that it holds."""
    at_hand = _bench_of(piece, bench)
    anatomy_ = anatomy(piece)
    demands = (
        *_order_demands(piece),
        *_solder_demands(piece, house, at_hand),
        *_metal_demands(piece),
    )
    return Problem(piece, house, at_hand, anatomy_, demands)


def _bench_of(piece: Piece, bench: Bench | None) -> Bench:
    """Lay the piece's bench over the smith's own over the shipped one."""
    chosen: dict[str, object] = {}
    for layer in (shipped_bench(), bench, piece.bench):
        if layer is not None:
            chosen.update({key: value for key, value in layer if value is not None})
    return Bench.model_validate(chosen)


def _order_demands(piece: Piece) -> list[Demand]:
    told = [*_told_orders(piece)]
    known = closure({demand.ids for demand in told})
    demands = list(told)
    for demand in [*_trade_orders(piece), *_habit_orders(piece)]:
        earlier, later = demand.ids
        firm = demand.code != "habit"
        if (earlier, later) in known or (not firm and (later, earlier) in known):
            continue
        demands.append(demand)
        known = closure(known | {(earlier, later)})
    return demands


def _told_orders(piece: Piece) -> list[Demand]:
    pairs = [(name, join.id) for join in piece.joins for name in join.after]
    pairs += [(name, work.id) for work in piece.work for name in work.after]
    pairs += [(work.id, name) for work in piece.work for name in work.before]
    names = _titles(piece)
    return [
        Demand("order", "order", (earlier, later), f"{names[later]} comes after {names[earlier]}.",
               f"Let {names[later]} come before {names[earlier]}, or take that order out.")
        for earlier, later in dict.fromkeys(pairs)
    ]  # fmt: skip


def _trade_orders(piece: Piece) -> list[Demand]:
    """Orders that the rules of the heats demand: their breach would be a `stop`."""
    names, demands = _titles(piece), []
    heated = [join for join in piece.joins if join.heated]
    for work in piece.work:
        parts = {base_id(one) for one in work.parts}
        for join in piece.joins if work.kind == "hang" else ():
            if parts & {base_id(one) for one in join.through}:
                text = f"What hangs in {join.title} is put in before it closes."
                demands.append(
                    Demand(
                        "trapped-part",
                        "order",
                        (work.id, join.id),
                        text,
                        f"Do {work.title} before {join.title}.",
                    )
                )
        for join in heated if work.kind in ("dome", "bend") else ():
            if _small_on_face(piece, join, parts):
                text = f"{names[work.id]} comes before {join.title} is soldered on its face."
                demands.append(Demand("form-before-seat", "order", (work.id, join.id), text, "Form first."))
        tender = work.kind == "set" and any(not part_of(piece, one).heat_safe for one in work.parts)
        for join in heated if tender else ():
            text = f"{names[work.id]} waits until {join.title} is soldered: it does not bear heat."
            demands.append(
                Demand("stone-in-heat", "order", (join.id, work.id), text, "Set it after the last heat.")
            )
    return demands


def _habit_orders(piece: Piece) -> list[Demand]:
    """Orders that smiths keep unless told otherwise: a ring, loop or bezel is closed before anything is added."""
    demands = []
    heated = [join for join in piece.joins if join.heated]
    for closing in heated:
        own = {base_id(one) for one in closing.between}
        if len(set(closing.between)) > 1 or closing.kind not in ("butt", "fuse"):
            continue
        for other in heated:
            theirs = {base_id(one) for one in other.between}
            if other is not closing and own & theirs and len(set(other.between)) > 1:
                text = f"{closing.title} is closed before {other.title} is added."
                demands.append(
                    Demand("habit", "order", (closing.id, other.id), text, "Tell the order yourself.")
                )
    return demands


def _small_on_face(piece: Piece, join: Join, parts: set[str]) -> bool:
    """Say whether a join sets something small on the face of one of these parts."""
    if join.kind not in SURFACE_KINDS or join.face == "edge":
        return False
    ends = [base_id(one) for one in join.between]
    for base in parts & set(ends):
        if part_of(piece, base).form.kind not in ("sheet", "strip"):
            continue
        others = [end for end in ends if end != base]
        if all(_mass(piece, other) < _mass(piece, base) for other in others):
            return True
    return False


def _mass(piece: Piece, name: str) -> float:
    return mass_g(part_of(piece, name).form, metal_of(piece, name)) or 0.0


def _solder_demands(piece: Piece, house: House, bench: Bench) -> list[Demand]:
    soldered = [join for join in piece.joins if join.heated and join.kind != "fuse"]
    if not soldered:
        return []
    stock = ", ".join(dict.fromkeys(solder.id for solder, _ in stocked_solders(bench))) or "nothing"
    demands = [Demand("no-stock", "stock", (), f"Only {stock} is in stock.", "Buy another grade.")]
    if house.family != "mixed":
        text = f"The house keeps to the {house.family} family of silver solders."
        demands.append(Demand("no-stock", "family", (), text, "Allow mixed families in the house rules."))
    for join in soldered:
        if join.solder is not None or join.grade is not None:
            what = join.solder or f"{join.grade} solder"
            text = f"{join.title} is fixed to {what}."
            demands.append(
                Demand("fixed", "fixed", (join.id,), text, f"Let another solder be chosen for {join.title}.")
            )
        text = f"The solder of {join.title} takes to both its metals."
        demands.append(Demand("no-stock", "suits", (join.id,), text, "Another solder or another metal."))
    return demands


def _metal_demands(piece: Piece) -> list[Demand]:
    joined = {base_id(one) for join in piece.joins if join.heated for one in join.between}
    demands = []
    for join in piece.joins:
        if join.heated:
            text = f"{join.title} must not run again where nothing holds it."
            demands.append(
                Demand(
                    "remelt-flows",
                    "hold",
                    (join.id,),
                    text,
                    f"Hold or shield {join.title}, or use a softer solder later.",
                )
            )
    for part in piece.parts:
        metal = metal_of(piece, part.id)
        if part.id in joined and metal is not None:
            text = f"{part.title} begins to melt at {metal.solidus_c:.0f} °C."
            demands.append(
                Demand("melt-certain", "melt", (part.id,), text, "A softer solder, or join it later.")
            )
        if part.id in joined and not part.heat_safe:
            text = f"{part.title} does not bear heat."
            demands.append(Demand("stone-in-heat", "tender", (part.id,), text, "Set it after the last heat."))
    return demands


def _titles(piece: Piece) -> dict[str, str]:
    return {one.id: one.title for one in [*piece.joins, *piece.work]}


def closure(edges: set[tuple[str, ...]] | set[tuple[str, str]]) -> set[tuple[str, str]]:
    """Give every pair that follows from some, by walking from each id."""
    after: dict[str, set[str]] = {}
    for earlier, later in edges:
        after.setdefault(earlier, set()).add(later)
    closed: set[tuple[str, str]] = set()
    for start in after:
        waiting, seen = list(after[start]), set()
        while waiting:
            here = waiting.pop()
            if here not in seen:
                seen.add(here)
                waiting.extend(after.get(here, ()))
        closed |= {(start, one) for one in seen}
    return closed


def _through(edges: frozenset[tuple[str, str]], tasks: set[str]) -> frozenset[tuple[str, str]]:
    return frozenset((a, b) for a, b in closure(set(edges)) if a in tasks and b in tasks)
