"""The best plan in which no join runs again, found and proven by levels."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ..demands import Problem, longest_chain
from ..rules import ALL_LIES
from ..solver import Answer, Effort, Relaxed, Term
from ._assignment import PlannedHeat, in_rounds
from ._batches import Batch, Batches, add_cut, batch_rounds, batches_of, bring_together, crowded_ties, cuts_of
from ._build_levels import build_levels
from ._counting import count_heats, count_rounds, cut_circles
from ._levels import Levels
from ._objectives import (
    DISTURBING,
    HEATS,
    NEAR,
    OF_SOLDERS,
    PROTECTED,
    ROUNDS,
    SOFT,
    Sums,
    sums_of_solders,
    value_of,
    weighted_sum,
)
from ._room import room_in_bodies

# The shares of what is left of the effort that the stages before the last may take.
_OF_HEATS, _OF_ROUNDS, _OF_DISTURBING = 0.5, 0.5, 0.7
_AT_FIRST, _ALL_RELAXED, _FEW = 0.2, 0.6, 12


@dataclass(frozen=True)
class Levelled:
    """What the levels say: a solution, and of each objective what no plan in which no join runs again can beat.

    `bounds` holds the bounds that were found, as the sums to be made smallest have them. Without a solution there is none if
    `none`.
    """

    batches: Batches | None = None
    values: tuple[int, ...] = ()
    bounds: dict[str, int] | None = None
    none: bool = False

    @property
    def heats(self) -> int:
        """How many heats the solution takes."""
        return 0 if self.batches is None else len(self.batches.all)

    @property
    def rounds(self) -> int:
        """How many rounds the heats of the solution take."""
        return 0 if self.batches is None else max(batch_rounds(self.batches))


class LevelSearch:
    """The level model of one problem, put under more cuts as its solutions show what they overlook."""

    def __init__(self, problem: Problem) -> None:
        self.problem = problem
        self.levels: Levels = build_levels(problem)
        levels = self.levels
        count_heats(levels)
        flows = sums_of_solders(problem, levels.tasks, levels.fillers, levels.made_with, levels.used_filler)
        self.sums: Sums = {
            HEATS: levels.heats,
            SOFT: [(1, one) for one in levels.soft.values()],
            PROTECTED: [(1, one) for one in levels.guard.values()],
            NEAR: levels.near,
        } | flows
        self._calm: list[Term] = weighted_sum([self.sums[name] for name in DISTURBING])
        self._flows: list[Term] = weighted_sum([self.sums[name] for name in OF_SOLDERS])

    def best(self, effort: Effort) -> Levelled:
        """Find the best by all objectives in order, as far as the effort goes.

        Heats first; then rounds, in so many heats; what disturbs earlier joins; what follows from the solders. Where a
        stage is not proven its best stands, and nothing is claimed of those after it.
        """
        found, answer = self._least(self.sums[HEATS], effort, None, _OF_HEATS)
        if found is None:
            return Levelled(none=answer.proven)
        bounds, proven = {HEATS: max(1, answer.bound)}, answer.proven
        # A circle that a solution overlooks makes its heats more than the sum says.
        self.levels.model.at_most(self.sums[HEATS], found.heats)
        if proven:
            self.levels.model.at_least(self.sums[HEATS], found.heats)
        self._count_rounds(found.rounds)
        stages: tuple[tuple[list[Term], tuple[str, ...], float], ...] = (
            (self.levels.rounds, (ROUNDS,), _OF_ROUNDS),
            (self._calm, DISTURBING, _OF_DISTURBING),
            (self._flows, OF_SOLDERS, 1.0),
        )
        told: list[tuple[tuple[str, ...], Answer]] = []
        for terms, group, share in stages:
            more, answer = self._least(terms, effort, found.values, share)
            if more is None:
                break
            found = more
            self._keep(terms, found.values, proven=answer.proven)
            told.append((group, answer))
        return replace(found, bounds=bounds | (self._proven(found, told) if proven else {}))

    def _proven(self, found: Levelled, told: list[tuple[tuple[str, ...], Answer]]) -> dict[str, int]:
        """Give the bounds of the stages after the heats, as far as each before it is reached.

        Rounds count as the solution takes them: it may come to a bound that was not reached when they were counted.
        """
        bounds: dict[str, int] = {}
        for group, answer in told:
            if group == (ROUNDS,):
                bounds[ROUNDS] = max(1, answer.bound)
                reached = found.rounds <= bounds[ROUNDS]
            else:
                reached = answer.proven
                bounds |= {name: value_of(self.sums[name], found.values) for name in group if reached}
            if not reached:
                break
        return bounds

    def _keep(self, terms: list[Term], values: tuple[int, ...], *, proven: bool) -> None:
        """Keep a sum at its best from now on; where that is proven, let the solver know that there is nothing below."""
        value = value_of(terms, values)
        self.levels.model.at_most(terms, value)
        if proven:
            self.levels.model.at_least(terms, value)

    def _count_rounds(self, most: int) -> None:
        """Number the rounds, of which a plan is known that takes so many."""
        count_rounds(self.levels, most)
        self.levels.model.at_least(self.levels.rounds, longest_chain(self.problem))
        self.sums[ROUNDS] = self.levels.rounds

    def planned(self, found: Levelled) -> tuple[PlannedHeat, ...]:
        """Give the heats of a solution, in their rounds."""
        assert found.batches is not None
        rows = sorted(
            zip(batch_rounds(found.batches), found.batches.all, strict=True),
            key=lambda row: (row[0], row[1].level, row[1].tasks),
        )
        return in_rounds(self.problem, [self._heat(found, batch) for _, batch in rows])

    def _heat(self, found: Levelled, batch: Batch) -> PlannedHeat:
        levels = self.levels
        guarded = frozenset(
            levels.tasks[i].id
            for (i, at), literal in levels.guard.items()
            if at == batch.level and found.values[literal] and min(levels.tasks[i].seeds) in batch.body
        )
        lie = next(lie for lie in ALL_LIES if lie in batch.lies)
        names = tuple(levels.tasks[t].id for t in sorted(batch.tasks))
        return PlannedHeat(names, levels.fillers[batch.level], lie, guarded)

    def _least(
        self, terms: list[Term], effort: Effort, hint: Sequence[int] | None, share: float
    ) -> tuple[Levelled | None, Answer]:
        """Find the least sum whose batches hold together, cutting off what does not, with a share of the effort."""
        ends = effort.left * (1 - share)
        sound: tuple[Levelled | None, Answer] | None = None
        bound = 0
        while True:
            answer = self._answer(terms, effort, hint, max(0.0, effort.left - ends))
            if answer.values is None:
                return (None, answer) if sound is None or answer.proven else sound
            bound = max(bound, answer.bound)
            batches = batches_of(self.levels, answer.values)
            cut = self._cut(batches, answer.values)
            if not cut:
                return Levelled(batches, answer.values), answer
            if cut == "circles" and hint is None:
                sound = Levelled(batches, answer.values), replace(answer, proven=False, bound=bound)
            if answer.proven:
                # What is cut off makes no sum smaller: the next search ends when it comes to this.
                self.levels.model.at_least(terms, answer.bound)
            hint = answer.values

    def _answer(self, terms: list[Term], effort: Effort, hint: Sequence[int] | None, most: float) -> Answer:
        """Look for the least sum first one way, then another: which proves it sooner differs from piece to piece.

        Without relaxations solutions are found sooner, and with all of them the proof. The flow points are far apart and many:
        of them nothing is found without. Few joins are proven at once with all relaxations.
        """
        minimise = self.levels.model.minimise
        if len(self.levels.tasks) <= _FEW:
            return minimise(terms, effort, hint, most=most)
        relaxed: Relaxed
        if terms is self._flows:
            first = minimise(terms, effort, hint, most=most * _ALL_RELAXED)
            more, relaxed = most * (1 - _ALL_RELAXED), 1
        else:
            first = minimise(terms, effort, hint, most=min(most, _AT_FIRST), relaxed=0)
            more, relaxed = max(0.0, most - _AT_FIRST), 2
        if first.proven:
            return first
        answer = minimise(terms, effort, first.values or hint, most=more, relaxed=relaxed)
        return first if answer.values is None and not answer.proven else answer

    def _cut(self, batches: Batches, values: tuple[int, ...]) -> Literal["", "circles", "heats"]:
        """Cut off what a solution overlooks; say whether it was circles alone, or heats that cannot be."""
        cuts = sorted(cuts_of(batches), key=lambda one: (sorted(one.at), sorted(one.by)))
        for one in cuts:
            add_cut(self.levels, one)
        for ties in crowded_ties(batches):
            room_in_bodies(self.levels, ties)
        apart = not cuts and bring_together(batches)
        circles = cut_circles(self.levels, values)
        return "heats" if cuts or apart else "circles" if circles else ""
