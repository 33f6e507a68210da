"""Find a programme of signs that comes out well in most hands.

Seeds of the trade (a flame held in every single way; the whole brought to a sign at full flame, then gently until it runs)
and what comes of varying the better ones are followed on a rough body by a few hands. The best, no more than two of the same
aims among them and few that end alike, are followed on the fine body, and varied there for as long as none is good; where
the best is far from good others are drawn there too, for a rough body can mislead. The draws are from a generator with a
fixed seed: the same body has the same programme.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import reduce
from itertools import islice

import numpy as np
from numpy.typing import NDArray

from ._asked import LATE_S, STRENGTH
from ._follow import Followed, both
from ._hands import all_hands
from ._programmes import allowed, alone, beside, brought, carried, drawn, varied
from ._settles import too_weak
from ._setup import Stage
from ._ways import ALL, Genes, Ways, at_best, by_flame, goodness, hopeless_s

GENERATIONS = 8
_BESIDE, _DRAWN, _ELITE, _ALIKE = 48, 64, 16, 2
# A search that stands still so long ends, once what it has is good enough.
_STILL, _GOOD = 2, 0.93
_CARRIED, _ON_FINE, _CLOSELY, _NEAR_ENOUGH = 14, 5, 6, 2
# Below such a share of hands others are drawn on the fine body too; of the best at most such a share end with the same aim.
_FAR_OFF, _ENDED_ALIKE = 0.9, 0.2
# Rounds on the fine body; two where what is best there is well in as many hands as this, none where it is in fewer than that.
_ROUNDS, _POLISHED, _BRED, _TRIED, _WELL, _HOPELESS = 8, 2, 12, 2, 0.98, 0.05
# How much of the search is done when the rough body is.
_ROUGHLY = 0.7
# A programme that is so far behind the best after a few hands is not followed by more of them.
_BEHIND, _UNTRIED, _LEAST_RACED = 0.12, 0.05, 6
# A best that so many hands have followed bounds how long the middle hand goes on with another.
_HELD = 7
# Where the middle hand brings nothing off, so many that come nearest are shown to a strong one.
_NEAREST = 48
_MIDDLE = np.arange(1)
# So much is followed at most, in seconds of the heat times what a step takes: a hundred for the hand, one for each cell, a
# tenth for each place of the factors (some five seconds of a core in all).
_A_STEP = 100
_MOST_ROUGH, _MOST_FINE = 18e6, 28e6


def _late_and_strong() -> int:
    hands = all_hands()
    return int(np.argmax(hands[:, STRENGTH] * hands[:, LATE_S])) or 1


# A few hands that a programme is tried by: the third weakest, one that is strong and late, and others as they come.
_FIRST = np.array([by_flame()[2], _late_and_strong(), by_flame()[-3]])
_STRONG = _FIRST[2:]
_FEW = np.concatenate([_FIRST, np.setdiff1d(np.arange(1, 7), _FIRST)[:4]])
_MORE = np.setdiff1d(np.arange(1, 65), _FEW)[::4]
_THIRD = np.concatenate([_MIDDLE, np.sort(np.concatenate([_FEW, _MORE]))])
_OTHERS = np.setdiff1d(ALL, _THIRD)


def best_programme(
    fine: Ways, rough: Ways, tick: Callable[[float], None] | None = None, generations: int = GENERATIONS
) -> Followed:
    """Give the programme that comes out well in most hands, as all of them follow it on the fine body.

    A hard heat ends the search by what it has taken, counted in cells and seconds, so that the answer is the same on every
    machine. `tick` is told how far the search is, 0 to 1, and may raise to stop.
    """
    tell = tick or (lambda _: None)
    hunt = Hunt(rough)
    hunt.go_on(generations, lambda share: tell(_ROUGHLY * share))
    if fine is rough:
        return hunt.by_all(hunt.ranked(_CARRIED))
    there = Hunt(fine)
    if hunt.weak:
        # No way is a good one: the nearest is told.
        return there.by_all(carried(rough, fine, hunt.ranked(_NEAR_ENOUGH)) or alone(fine)[:_NEAR_ENOUGH])
    there.race(carried(rough, fine, hunt.ranked(_CARRIED)) or alone(fine), closely=True)
    best = there.by_all(there.ranked(_ON_FINE))
    best = _bettered(there, best, lambda share: tell(_ROUGHLY + (1 - _ROUGHLY) * share))
    if _HOPELESS <= best.well < _WELL and there.work < _MOST_FINE:
        # How the last flame is held decides: what lies beside it is followed by all.
        genes = there.genes_of(best)
        best = there.by_all([one for one in beside(genes, fine) if one[:-1] == genes[:-1]])
    return best


def _bettered(there: Hunt, best: Followed, tell: Callable[[float], None]) -> Followed:
    """Try what lies beside the best, and while that is not well in nearly all hands what comes of varying the better ones."""
    still = 0
    for n in range(_ROUNDS):
        well = best.well >= _WELL
        near = [one for one in beside(there.genes_of(best), there.ways) if one not in there.found]
        fresh = [*near, *([] if well else there.bred(_BRED))]
        if best.well < _FAR_OFF:
            fresh += there.drawn(_DRAWN)
        over = n >= _POLISHED or still > 0 if well else still > _STILL or there.work > _MOST_FINE
        if not fresh or over or best.well < _HOPELESS:
            break
        tell(n / _ROUNDS)
        there.race(fresh, closely=not well)
        before, best = best, there.by_all(there.ranked(1 if well else _TRIED, new=True))
        still = still + 1 if best is before else 0
    return best


def _better_half(some: Sequence[Genes], good: dict[Genes, float]) -> list[Genes]:
    """Give the better half of those with the same aims, of each."""
    alike: dict[tuple[int, ...], list[Genes]] = {}
    for genes in sorted(some, key=lambda genes: (-good[genes], genes)):
        alike.setdefault(tuple(gene[0] for gene in genes), []).append(genes)
    return [genes for same in alike.values() for genes in same[: (len(same) + 1) // 2]]


@dataclass
class Hunt:
    """A search on one body: every programme that was tried, how good it is as far as is known, and what all hands came to.

    `softly` is the share of the best by a few hands, with what failed by how far; `at_best` is how good one would be if it came out well in every hand, `beaten` what cannot be the best any more, `parts` what a few hands came to, `tops` the
    best rank that was reached after so many hands, `work` what was followed, in seconds times what a step takes, `well` whether any hand brought it off, `weak` whether the flame is too weak
    for the body.
    """

    ways: Ways
    draw: np.random.Generator = field(default_factory=lambda: np.random.default_rng(7))
    found: dict[Genes, float] = field(default_factory=dict)
    everyone: dict[Genes, Followed] = field(default_factory=dict)
    at_best: dict[Genes, float] = field(default_factory=dict)
    beaten: set[Genes] = field(default_factory=set)
    parts: dict[Genes, list[Followed]] = field(default_factory=dict)
    tops: dict[int, float] = field(default_factory=dict)
    softly: float = -math.inf
    work: float = 0.0
    well: bool = False
    weak: bool = False

    def go_on(self, generations: int, tick: Callable[[float], None] | None = None) -> None:
        """Try the seeds, then what comes of varying the better ones, until that stands still or the generations are over."""
        before, still = -math.inf, 0
        # What is held in one way alone bounds how long the others may take.
        self.race(alone(self.ways))
        self.weak = not self.well and too_weak(self.ways)
        if self.weak:
            return
        fresh = brought(self.ways, self.draw, 4 * _BESIDE)
        if self.work > _MOST_ROUGH:
            return
        for generation in range(generations):
            if tick is not None:
                tick(generation / generations)
            self.race(fresh)
            best = max(self.found.values())
            still = still + 1 if best < before + 0.005 else 0
            before = max(best, before)
            done = still >= _STILL and generation >= 3 and self.softly > _GOOD
            if done or self.work > _MOST_ROUGH:
                break
            fresh = [*self.bred(_BESIDE), *(self.drawn(_DRAWN) if self.softly <= _GOOD else ())]

    def race(self, fresh: Sequence[Genes], *, closely: bool = False) -> None:
        """Rank programmes by the middle hand, by a few others where that one comes out well, by more where those do.

        `closely` ranks the best by a third of all hands.
        """
        ways = self.ways
        stages = {genes: ways.stages(genes) for genes in fresh}
        hands = max(self.tops, default=0)
        most_s = hopeless_s(ways, self.tops[hands]) if hands >= _HELD else math.inf
        came = dict(zip(stages, self._followed(list(stages.values()), _MIDDLE, most_s), strict=True))
        good = {genes: goodness(ways, one) for genes, one in came.items()}
        self.at_best |= {genes: good[genes] + at_best(came[genes]) for genes in came}
        ranks = {genes: one - 1 for genes, one in good.items()}
        # Of those that are left the more promising half goes on each time; what stays behind is counted as a little worse.
        soft = {genes: [came[genes].softly] for genes in stages}
        left = _better_half([genes for genes in stages if came[genes].well == 1], good)
        if not left:
            # Where the middle hand brings nothing off a strong one shows what is nearest to it.
            nearest = sorted(stages, key=lambda genes: (-good[genes], genes))[:_NEAREST]
            came_strong = self._followed([stages[genes] for genes in nearest], _STRONG, most_s)
            strong = dict(zip(nearest, came_strong, strict=True))
            off = [genes for genes in nearest if strong[genes].well == 1]
            left = _better_half(off, {genes: goodness(ways, strong[genes]) for genes in off})
        if len(left) < _LEAST_RACED:
            left = sorted(stages, key=lambda genes: (genes not in left, -good[genes], genes))[:_LEAST_RACED]
        closer = ((_MORE, _CLOSELY),) if closely else ()
        for some, most in ((_FEW[:3], None), (_FEW[3:], None), *closer):
            left = left[:most]
            for genes, one in zip(left, self._followed([stages[genes] for genes in left], some), strict=True):
                self.parts.setdefault(genes, [came[genes]]).append(one)
                soft[genes] += [one.softly] * len(some)
                beside = good[genes] - came[genes].softly
                ranks[genes] = (
                    beside + sum(soft[genes]) / len(soft[genes]) - (_UNTRIED if len(soft[genes]) < 5 else 0)
                )
            left = sorted(left, key=lambda genes: (-ranks[genes], genes))[: max(_LEAST_RACED, len(left) // 2)]
            if left:
                # What is behind is so beside those that as many hands have followed: the first few are harsher than most.
                hands, top = len(soft[left[0]]), ranks[left[0]]
                best = self.tops[hands] = max(top, self.tops.get(hands, top))
                if hands > _HELD:
                    self.softly = max(self.softly, sum(soft[left[0]]) / hands)
                left = [genes for genes in left if ranks[genes] >= best - _BEHIND]
        self.found |= ranks

    def ranked(self, most: int, *, new: bool = False) -> list[Genes]:
        """Give the best that are not alike, the best first: of the same aims and signs two, few
        that end with the same aim, and none twice that comes to the same.

        With `new` none that all hands have followed. Ranks are by few hands, harsher than most: they are held against
        each other only, and not against what came of all.
        """
        made: list[Genes] = []
        alike: dict[tuple[tuple[int, int], ...], set[float]] = {}
        ends: dict[int, int] = {}
        left = [
            genes
            for genes in self.found
            if not new or (genes not in self.everyone and genes not in self.beaten)
        ]
        for genes in sorted(left, key=lambda genes: (-self.found[genes], len(genes), genes)):
            same = alike.setdefault(tuple((gene[0], gene[2]) for gene in genes), set())
            last = genes[-1][0]
            if (
                len(same) < _ALIKE
                and self.found[genes] not in same
                and ends.get(last, 0) < max(_ALIKE, _ENDED_ALIKE * most)
            ):
                same.add(self.found[genes])
                ends[last] = ends.get(last, 0) + 1
                made.append(genes)
                if len(made) == most:
                    break
        return made

    def by_all(self, some: Sequence[Genes]) -> Followed:
        """Let all hands follow some programmes, and give the best of all that they have followed.

        One that cannot be the best any more, by what its middle hand or a third of them came to, is left there; so is one that
        none of the third brings off.
        """
        best = max((goodness(self.ways, one) for one in self.everyone.values()), default=-math.inf)
        for genes in some:
            if genes in self.everyone or genes in self.beaten:
                continue
            if self.at_best.get(genes, math.inf) <= best:
                self.beaten.add(genes)
                continue
            stages, parts = self.ways.stages(genes), self.parts.get(genes, [])
            left = np.setdiff1d(_THIRD, np.concatenate([one.who for one in parts])) if parts else _THIRD
            if len(left):
                parts = [*parts, *self._followed([stages], left)]
            third = reduce(both, parts)
            good = goodness(self.ways, third)
            if good + at_best(third) <= best or (self.everyone and third.well == 0):
                self.beaten.add(genes)
                continue
            (others,) = self._followed([stages], _OTHERS)
            self.everyone[genes] = both(third, others)
            best = max(best, goodness(self.ways, self.everyone[genes]))
        return max(self.everyone.values(), key=lambda one: goodness(self.ways, one))

    def _followed(
        self, programmes: Sequence[tuple[Stage, ...]], who: NDArray[np.int64], most_s: float = math.inf
    ) -> list[Followed]:
        """Let some hands follow programmes, and count what that takes: seconds of the heat, times what a step takes."""
        made = self.ways.ready.follow_all(programmes, who, self.ways.start, most_s=most_s)
        work = self.ways.ready.work
        each = _A_STEP + len(work.capacity) + float(work.factors.begins[-1]) / 10
        self.well = self.well or any(one.well for one in made)
        self.work += each * sum(float(one.came.stage_s.max(axis=1).sum()) for one in made)
        return made

    def bred(self, many: int) -> list[Genes]:
        """Vary the better ones, each as often, into so many new ones."""
        elite, fresh = self.ranked(_ELITE), dict[Genes, None]()
        for _ in range(20 * many):
            if len(fresh) >= many:
                break
            child = elite[int(self.draw.integers(len(elite)))]
            for _ in range(1 + int(self.draw.random() < 0.5)):
                child = varied(child, self.ways, self.draw)
            if child not in self.found and allowed(child, self.ways):
                fresh[child] = None
        return list(fresh)

    def drawn(self, many: int) -> list[Genes]:
        """Draw so many that were not tried: where nothing is good yet, the good may lie far off."""
        fresh = dict.fromkeys(islice(drawn(self.ways, self.draw), many))
        return [genes for genes in fresh if genes not in self.found]

    def genes_of(self, found: Followed) -> Genes:
        """Give the numbers of a programme that all hands followed."""
        return next(genes for genes, one in self.everyone.items() if one is found)
