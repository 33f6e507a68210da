"""The best plan in which no join runs again, found and proven by levels."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..rules import ALL_LIES, Lie
from ..solver import OPEN, Answer, Bound, Effort, Term
from ._assignment import PlannedHeat
from ._batches import Batches, Cut, add_cut, batches_of, cuts_of
from ._levels import Levels, build_levels
from ._objectives import (
    DISTURBING,
    HEATS,
    OF_SOLDERS,
    PROTECTED,
    SOFT,
    Sums,
    sums_of_solders,
    value_of,
    weighted_sum,
)
from ._packing import Packed, pack
from ._problem import Problem
from ._slots import Slots, add_slots, heats_of, join_what_is_split


@dataclass(frozen=True)
class Levelled:
    """What the levels say of plans of so many heats: a solution, whose objectives no plan of those heats can beat.

    That is certain of the objectives in `proven` alone. Without a solution there is no such plan if `none`.
    """

    batches: Batches | None = None
    values: tuple[int, ...] = ()
    proven: frozenset[str] = frozenset()
    none: bool = False


class LevelSearch:
    """The level model of one problem, put under more cuts as its solutions show what they overlook.

    With `heats`, every join has one of so many heats as well, and a solution is a plan.
    """

    def __init__(self, problem: Problem, heats: int | None = None) -> None:
        self.problem = problem
        self.levels: Levels = build_levels(problem)
        levels, model = self.levels, self.levels.model
        self._slots: Slots | None = None if heats is None else add_slots(levels, heats)
        flows = sums_of_solders(problem, levels.tasks, levels.fillers, levels.made_with, levels.used_filler)
        counts = {
            HEATS: levels.heats,
            SOFT: [(1, one) for one in levels.soft.values()],
            PROTECTED: [(1, one) for one in levels.guard.values()],
        }
        self.sums: Sums = counts | flows
        self._calm: list[Term] = weighted_sum([self.sums[name] for name in DISTURBING])
        self._flows: list[Term] = weighted_sum([self.sums[name] for name in OF_SOLDERS])
        self._most_heats: Bound = model.at_most(self.sums[HEATS], heats or len(levels.tasks))
        self._most_calm: Bound = model.at_most(self._calm, OPEN)
        self._most_flows: Bound = model.at_most(self._flows, OPEN)
        self._cuts: list[Cut] = []

    def with_heats(self, heats: int) -> LevelSearch:
        """Give the same search with so many heats, all that was learnt by cuts included."""
        exact = LevelSearch(self.problem, heats)
        for cut in self._cuts:
            add_cut(exact.levels, cut)
        return exact

    def fewest_heats(self, effort: Effort) -> tuple[int | None, Levelled]:
        """Give a number of heats that no plan can do with fewer of, and a solution; None where some join must run again."""
        self._open(len(self.levels.tasks))
        answer, batches = self._cut_to(self.sums[HEATS], effort)
        if answer.impossible:
            return None, Levelled(none=True)
        return max(1, answer.bound), Levelled(batches, answer.values or ())

    def within(self, heats: int, effort: Effort) -> Levelled:
        """Give the best of the levels that need no more than so many heats, by all objectives in order."""
        while True:
            self._open(heats)
            calm, _ = self._cut_to(self._calm, effort, cut=self._slots is not None)
            if calm.values is None:
                return Levelled(none=calm.proven)
            self._open(heats, value_of(self._calm, calm.values))
            best, batches = self._cut_to(self._flows, effort, calm.values)
            if best.values is not None:
                return Levelled(batches, best.values, _proven_of(calm, best))
            if not best.proven:
                return Levelled()

    def as_good_as(self, heats: int, found: Levelled, other: LevelSearch, effort: Effort) -> Levelled:
        """Look for a solution that is as good as one of another search."""
        calm, flows = value_of(other._calm, found.values), value_of(other._flows, found.values)
        self._open(heats, calm, flows)
        answer, batches = self._cut_to([], effort)
        return Levelled(batches, answer.values or (), found.proven, none=answer.impossible)

    def planned(self, found: Levelled) -> tuple[PlannedHeat, ...]:
        """Give the heats of a solution of a search with heats."""
        assert self._slots is not None
        return tuple(
            _heat(self.levels, found, tuple(inside), lie)
            for inside, lie in heats_of(self._slots, found.values)
        )

    def _open(self, heats: int, calm: int = OPEN, flows: int = OPEN) -> None:
        self.levels.model.rebound(self._most_heats, heats)
        self.levels.model.rebound(self._most_calm, calm)
        self.levels.model.rebound(self._most_flows, flows)

    def _cut_to(
        self, terms: list[Term], effort: Effort, hint: Sequence[int] | None = None, *, cut: bool = True
    ) -> tuple[Answer, Batches | None]:
        """Find the least sum whose batches hold together, cutting off what does not."""
        while True:
            answer = self.levels.model.minimise(terms, effort, hint)
            if answer.values is None or not cut:
                return answer, None
            batches = batches_of(self.levels, answer.values)
            cuts = sorted(cuts_of(batches), key=lambda one: (sorted(one.at), sorted(one.by)))
            for one in cuts:
                add_cut(self.levels, one)
            self._cuts += cuts
            slots = self._slots
            split = slots is not None and join_what_is_split(self.levels, slots, batches, answer.values)
            if not cuts and not split:
                return answer, batches
            hint = answer.values


def _proven_of(calm: Answer, flows: Answer) -> frozenset[str]:
    if not calm.proven:
        return frozenset()
    return frozenset(DISTURBING) | (frozenset(OF_SOLDERS) if flows.proven else frozenset())


def in_heats(
    search: LevelSearch, found: Levelled, effort: Effort, most: int
) -> tuple[PlannedHeat, ...] | None:
    """Share the batches of a solution out among heats; None where that many do not do."""
    assert found.batches is not None
    packed: Packed | None = pack(found.batches, most, effort)
    if packed is None:
        return None
    heats = []
    for batches in packed:
        lies = frozenset.intersection(*(batch.lies for batch in batches))
        inside = tuple(t for batch in batches for t in batch.tasks)
        heats.append(_heat(search.levels, found, inside, next(lie for lie in ALL_LIES if lie in lies)))
    return tuple(heats)


def _heat(levels: Levels, found: Levelled, inside: tuple[int, ...], lie: Lie) -> PlannedHeat:
    assert found.batches is not None
    f = found.batches.level[inside[0]]
    body = {node for t in inside for node in found.batches.all[found.batches.of[t]].body}
    guarded = frozenset(
        levels.tasks[i].id
        for (i, at), literal in levels.guard.items()
        if at == f and found.values[literal] and min(levels.tasks[i].seeds) in body
    )
    return PlannedHeat(tuple(levels.tasks[t].id for t in sorted(inside)), levels.fillers[f], lie, guarded)
