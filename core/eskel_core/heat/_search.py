"""Find a programme of signs that comes out well in most hands.

First how the flux is dried: the quickest way in which hardly a hand boils it. From where that leaves every hand, seeds of
the trade (a flame held in every single way; the whole brought to a sign at full flame, then gently until it runs) and what
comes of varying the better ones are followed on a rough body by a few hands, the best of those by all, and what is best
there on the fine body. The draws are from a generator with a fixed seed: the same body has the same programme.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from ._aims import Aim, Side, aims_of, drying_of
from ._follow import Followable, Followed, Start
from ._followed import BOILS, CAME, COUNTS, LATE_S, SETTING, SPOILT, STRENGTH, WHY
from ._glow import Light
from ._hands import all_hands
from ._setup import HeatSetup, Sign, Stage
from ._signs import RUNS, crust_of, signs_of

SETTINGS = (0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0)
MOST_STAGES, MOST_CHANGES, LEAST_STAGE_S = 4, 2, 3.0
_DRY_SETTING, _DRY_RISES, _BOILING_HANDS = 0.5, (0.001, 0.03, 0.06, 0.1), 0.02
_RISES = (0.0, 0.025, 0.05)
_MIDDLE, _ALL = np.arange(1), np.arange(65)
_DRIED_BY_ALL = 2
GENERATIONS, _BESIDE, _ELITE = 8, 32, 8
# A search that stands still ends, once what it has is good enough.
_STILL, _GOOD = 2, 0.93
_ON_ALL, _ON_FINE = 8, 3
_TOO_SHORT = 0.4
# A programme that is so far behind the best after a few hands is not followed by more of them.
_BEHIND, _UNTRIED, _LEAST_RACED = 0.12, 0.05, 6
# A margin of the middle hand that is wider than this share of what there is to be had, or than this, is no better.
_WIDE_SHARE, _WIDE_C = 0.6, 25.0
Gene = tuple[int, int, int, int]
Genes = tuple[Gene, ...]


def _by_flame() -> NDArray[np.int64]:
    """Give the hands by how soon and how much their flame gives: strong, opened too far and quick to come nearer last."""
    hands = all_hands()
    gives = hands[:, STRENGTH] * (1 + 2 * hands[:, SETTING]) / hands[:, COUNTS] ** 0.5
    return np.argsort(gives[1:]).astype(np.int64) + 1


def _late_and_strong() -> int:
    hands = all_hands()
    return int(np.argmax(hands[:, STRENGTH] * hands[:, LATE_S])) or 1


# The hands that boil flux soonest, beside the middle one; and a few that a programme is tried by: the second weakest, one that is
# strong and late, and others as they come.
_HARSH = np.concatenate([[0], _by_flame()[-3:]])
_FIRST = np.array([_by_flame()[2], _late_and_strong(), _by_flame()[-3]])
_FEW = np.concatenate([_FIRST, np.setdiff1d(np.arange(1, 7), _FIRST)[:4]])


@dataclass(frozen=True)
class Ways:
    """What programmes are made of on one body: aims, signs, and the dry start."""

    ready: Followable
    aims: tuple[Aim, ...]
    signs: tuple[Sign, ...]
    last: Sign
    dry: tuple[Stage, ...]
    start: Start | None
    top_c: float = math.inf
    least_s: float = LEAST_STAGE_S

    @cached_property
    def wide_c(self) -> float:
        """How wide a margin is worth seeking, °C: six tenths of what lies between what is to be reached and what is spared."""
        setup = self.ready.setup
        reach = max(goal.reach_c for goal in setup.goals)
        least = min((limit.below_c for limit in setup.limits), default=reach + 60.0)
        return min(_WIDE_C, max(0.0, _WIDE_SHARE * (least - reach)))

    def stages(self, genes: Genes) -> tuple[Stage, ...]:
        """Give a programme as stages: aims, settings, signs and rises by their numbers; the last goes on until it runs."""
        made = []
        for n, (aim, setting, sign, rise) in enumerate(genes):
            last = n == len(genes) - 1
            until = self.last if last or not self.signs else self.signs[sign]
            made.append(Stage(self.aims[aim], SETTINGS[setting], until, nearer=_RISES[rise]))
        return tuple(made)


def ways_of(
    setup: HeatSetup,
    sides: tuple[Side, ...],
    light: Light,
    last: Sign = RUNS,
    like: Ways | None = None,
    top_c: float = math.inf,
) -> Ways:
    """Make a body ready for a search, its flux dried: as it was found to be best, or as on a body that is `like` it."""
    ready = Followable(setup)
    aims = aims_of(setup.network, setup.torch, sides)
    dry, start = dried(ready, sides) if like is None else _dried_like(ready, sides, like)
    return Ways(ready, aims, signs_of(setup, light), last, dry, start, top_c)


def _dried_like(
    ready: Followable, sides: tuple[Side, ...], like: Ways
) -> tuple[tuple[Stage, ...], Start | None]:
    crust = crust_of(ready.setup)
    if crust is None or not like.dry:
        return (), None
    aims = {aim.key: aim for aim in drying_of(ready.setup.network, ready.setup.torch, sides)}
    dry = tuple(replace(stage, aim=aims[stage.aim.key], until=crust) for stage in like.dry)
    return dry, started(ready.follow(dry, _ALL))


def dried(ready: Followable, sides: tuple[Side, ...]) -> tuple[tuple[Stage, ...], Start | None]:
    """Find how the flux is dried, and where that leaves every hand; nothing where there is none."""
    crust = crust_of(ready.setup)
    if crust is None:
        return (), None
    aims = drying_of(ready.setup.network, ready.setup.torch, sides)
    stages: list[Stage] = []
    for way in dict.fromkeys((aim.about, bool(aim.places)) for aim in aims):
        ladder = [aim for aim in aims if (aim.about, bool(aim.places)) == way]
        tried: list[tuple[float, float, Stage]] = []
        for rise in _DRY_RISES:
            # Down the ladder until the hands that boil it soonest do not: what is gentler still only takes longer.
            for aim in ladder:
                stage = Stage(aim, _DRY_SETTING, crust, nearer=rise)
                harsh = ready.follow((stage,), _HARSH)
                if _boiled(harsh) == 0 and harsh.came.stage_s[0, -1] >= LEAST_STAGE_S:
                    tried.append((float(harsh.came.stage_s[0, -1]), rise, stage))
                    break
        stages += [stage for _, _, stage in sorted(tried, key=lambda one: one[:2])[:_DRIED_BY_ALL]]
    found = ready.follow_all([(stage,) for stage in stages], _ALL)
    if not found:
        found = [ready.follow((Stage(aims[-1], _DRY_SETTING, crust, nearer=_DRY_RISES[0]),), _ALL)]
    best = min(found, key=lambda one: (max(_boiled(one), _BOILING_HANDS), float(one.came.stage_s[0, -1])))
    return best.stages, started(best)


def started(found: Followed) -> Start:
    """Give where a programme leaves its hands."""
    came = found.came
    return Start(came.t, came.modes, came.stage_s[:, -1].copy(), came.of, came.stage_s)


def _boiled(found: Followed) -> float:
    return float(((found.came.of[:, CAME] == SPOILT) & (found.came.of[:, WHY] == BOILS)).mean())


def everyone(ways: Ways, stages: tuple[Stage, ...]) -> Followed:
    """Let all hands follow what comes after the drying."""
    return ways.ready.follow(stages, _ALL, ways.start)


def with_setup(ways: Ways, setup: HeatSetup) -> Ways:
    """Give the same ways on a body of the same cells that is otherwise a little different."""
    ready = Followable(setup)
    start = started(ready.follow(ways.dry, _ALL)) if ways.dry else None
    return replace(ways, ready=ready, start=start)


def goodness(ways: Ways, found: Followed) -> float:
    """Give how good a programme is, the larger the better: the share of hands first; then a margin of the middle hand as wide
    as is worth having, fewer stages, and a shorter time. What fails counts by how far, so that a search has a way up.
    """
    stages = _stage_seconds(found)
    short = sum(1 for one in stages if one < ways.least_s)
    margin = min(max(float(found.margin_c[0]), -50.0), ways.wide_c)
    time = float(min(found.done_s[0], 400.0))
    over = max(0.0, float(found.came.t[0].max()) - ways.top_c)
    return (
        found.softly
        - over / 1000
        + margin / 1000
        - len(found.stages) / 200
        - time / 1500
        - _TOO_SHORT * short
    )


def _stage_seconds(found: Followed) -> list[float]:
    """Give how long the middle hand is at each stage that it comes to, s; of a spoilt end what there was."""
    made = dict.fromkeys(range(len(found.stages)), 0.0)
    times = found.came.stage_s[0]
    for row, stage in enumerate(found.groups):
        made[stage] += float(times[row + 1] - times[row])
    return list(made.values())


def search(
    ways: Ways, generations: int = GENERATIONS, seed: int = 7, tick: Callable[[float], None] | None = None
) -> list[Followed]:
    """Give programmes, the best first, as all hands follow them on this body."""
    draw = np.random.default_rng(seed)
    found: dict[Genes, float] = {}
    fresh, best, before, still = _seeds(ways, draw), -math.inf, -math.inf, 0
    for generation in range(generations):
        if tick is not None:
            tick(generation / generations)
        found.update(_raced(ways, fresh, best))
        ranked = sorted(found, key=lambda genes: (-found[genes], genes))
        top = found[ranked[0]]
        still = still + 1 if top < before + 0.005 else 0
        before = best = max(best, top)
        if still >= _STILL and generation >= 3 and best > _GOOD:
            break
        fresh = _next(ranked[:_ELITE], found, ways, draw)
    ranked = sorted(found, key=lambda genes: (-found[genes], genes))
    every = ways.ready.follow_all([ways.stages(genes) for genes in ranked[:_ON_ALL]], _ALL, ways.start)
    return sorted(every, key=lambda one: goodness(ways, one), reverse=True)


def _raced(ways: Ways, fresh: list[Genes], best: float) -> dict[Genes, float]:
    """Rank programmes by the middle hand, by a few others where that one comes out well, by more where those do."""
    ready, start = ways.ready, ways.start
    stages = {genes: ways.stages(genes) for genes in fresh}
    ranks, soft = dict[Genes, float](), dict[Genes, list[float]]()
    for genes, came in zip(fresh, ready.follow_all(list(stages.values()), _MIDDLE, start), strict=True):
        ranks[genes] = goodness(ways, came) - 1
        if came.well == 1:
            soft[genes] = [ranks[genes] + 1]
    # Of those that are left the more promising half goes on each time; what stays behind is counted as a little worse.
    left = list(soft)
    for some in (_FEW[:3], _FEW[3:]):
        left = sorted(left, key=lambda genes: (-ranks[genes], genes))[: max(_LEAST_RACED, len(left) // 2)]
        left = [genes for genes in left if ranks[genes] >= best - _BEHIND or len(some) == 3]
        for genes, came in zip(
            left, ready.follow_all([stages[genes] for genes in left], some, start), strict=True
        ):
            soft[genes] += [came.softly - 1] * len(some)
            behind = _UNTRIED if len(some) == 3 else 0.0
            ranks[genes] = soft[genes][0] + sum(soft[genes][1:]) / len(soft[genes]) - behind
    return ranks


def _seeds(ways: Ways, draw: np.random.Generator) -> list[Genes]:
    """Every aim alone, and the whole brought to a sign before it."""
    full, many = len(SETTINGS) - 1, range(len(ways.aims))
    seeds: list[Genes] = [
        ((aim, setting, 0, rise),) for setting, rise in ((full, 0), (3, 0), (0, 2)) for aim in many
    ]
    seeds += [
        ((0, bring, sign, 0), (aim, 0, 0, rise))
        for sign in range(len(ways.signs))
        for bring in (full, 3)
        for aim in many
        for rise in (0, 2)
    ]
    most = 4 * _BESIDE
    if len(seeds) > most:
        single = 3 * len(ways.aims)
        kept = list(range(min(single, most // 2)))
        others = draw.permutation(np.arange(single, len(seeds)))[: most - len(kept)]
        seeds = [seeds[n] for n in [*kept, *sorted(int(n) for n in others)]]
    return seeds


def _next(
    elite: list[Genes],
    found: dict[Genes, float],
    ways: Ways,
    draw: np.random.Generator,
) -> list[Genes]:
    fresh: dict[Genes, None] = {}
    for _ in range(20 * _BESIDE):
        if len(fresh) >= _BESIDE:
            break
        child = elite[int(len(elite) * draw.random() ** 1.5)]
        for _ in range(1 + int(draw.random() < 0.5)):
            child = _varied(child, ways, draw)
        if child not in found and _allowed(child, ways):
            fresh[child] = None
    return list(fresh)


def _allowed(genes: Genes, ways: Ways) -> bool:
    """At most four stages with the drying, two changes of the setting, no neighbours that do the same."""
    settings = [gene[1] for gene in genes]
    if ways.dry:
        settings = [0, *settings]
    changes = sum(one != other for one, other in pairwise(settings))
    same = any(a[:2] == b[:2] and a[3] == b[3] for a, b in pairwise(genes))
    return len(genes) + len(ways.dry) <= MOST_STAGES and changes <= MOST_CHANGES and not same


def _varied(genes: Genes, ways: Ways, draw: np.random.Generator) -> Genes:
    made, at = list(genes), int(draw.integers(len(genes)))
    aim, setting, sign, rise = made[at]
    match int(draw.choice(6, p=(0.25, 0.3, 0.15, 0.12, 0.12, 0.06))):
        case 0:
            made[at] = int(draw.integers(len(ways.aims))), setting, sign, rise
        case 1:
            step = int(draw.choice([-3, -2, -1, 1, 2, 3]))
            made[at] = aim, min(len(SETTINGS) - 1, max(0, setting + step)), sign, rise
        case 2 if ways.signs:
            made[at] = aim, setting, int(draw.integers(len(ways.signs))), rise
        case 3:
            made[at] = aim, setting, sign, int(draw.integers(len(_RISES)))
        case 4 if ways.signs:
            new = (
                int(draw.integers(len(ways.aims))),
                int(draw.integers(len(SETTINGS))),
                int(draw.integers(len(ways.signs))),
                0,
            )
            made.insert(at, new)
        case 5 if len(made) > 1:
            del made[at]
    return tuple(made)


def on_fine(fine: Ways, rough: list[Followed], most: int = _ON_FINE) -> list[Followed]:
    """Follow the best programmes of a rough body on the fine one, the best first."""
    aims = {aim.key: aim for aim in fine.aims}
    signs = {sign.key: sign for sign in (*fine.signs, fine.last)}
    made: list[Followed] = []
    for one in rough:
        if len(made) >= most:
            break
        if all(stage.aim.key in aims and stage.until.key in signs for stage in one.stages):
            stages = tuple(
                replace(stage, aim=aims[stage.aim.key], until=signs[stage.until.key]) for stage in one.stages
            )
            made.append(fine.ready.follow(stages, _ALL, fine.start))
    return sorted(made, key=lambda one: goodness(fine, one), reverse=True)
