"""What programmes are made of on one body: its aims and signs, how its flux is dried, and how good a programme is.

The flux is dried in the quickest way in which hardly a hand boils it; from where that leaves every hand the search goes on.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ._aims import Aim, aims_of, drying_of
from ._asked import BOILS, CAME, COUNTS, SETTING, SPOILT, STRENGTH, WHY
from ._follow import Followable, Followed, Start
from ._glow import Light
from ._hands import all_hands
from ._setup import HeatSetup, Sign, Stage
from ._shown import Side
from ._signs import RUNS, crust_of, signs_of

SETTINGS = (0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0)
RISES = (0.0, 0.025, 0.05)
ALL = np.arange(65)
LEAST_STAGE_S = 3.0
_DRY_SETTING, _DRY_RISES, _BOILING_HANDS = 0.5, (0.001, 0.03, 0.06, 0.1), 0.02
_DRIED_BY_ALL = 2
_TOO_SHORT, MOST_S = 0.4, 400.0
_NEARLY_ALL, _OF_THE_LAST = 64 / 65, 1 / 3
# Twice as long at the flame counts as much as some three hands of sixty-four (ours); below so many seconds no more.
_HASTE, _AT_ONCE_S = 0.07, 10.0
# A margin of the middle hand that is wider than this share of what there is to be had, or than this, is no better.
_WIDE_SHARE, _WIDE_C = 0.6, 25.0
# A programme by numbers: of each stage its aim, setting, sign and rise.
Gene = tuple[int, int, int, int]
Genes = tuple[Gene, ...]


def by_flame() -> NDArray[np.int64]:
    """Give the hands by how soon and how much their flame gives: strong, opened too far and quick to come nearer last."""
    hands = all_hands()
    gives = hands[:, STRENGTH] * (1 + 2 * hands[:, SETTING]) / hands[:, COUNTS] ** 0.5
    return np.argsort(gives[1:]).astype(np.int64) + 1


# The hands that boil flux soonest, beside the middle one.
_HARSH = np.concatenate([[0], by_flame()[-3:]])


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
            made.append(Stage(self.aims[aim], SETTINGS[setting], until, nearer=RISES[rise]))
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
    if setup.brought is not None:
        # What is brought in when the solder is liquid is not there to be aimed at before.
        away = setup.brought.node
        aims = tuple(aim for aim in aims if aim.about != away)
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
    return dry, started(ready.follow(dry, ALL))


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
    found = ready.follow_all([(stage,) for stage in stages], ALL)
    if not found:
        found = [ready.follow((Stage(aims[-1], _DRY_SETTING, crust, nearer=_DRY_RISES[0]),), ALL)]
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
    return ways.ready.follow(stages, ALL, ways.start)


def with_setup(ways: Ways, setup: HeatSetup) -> Ways:
    """Give the same ways on a body of the same cells that is otherwise a little different."""
    ready = Followable(setup)
    start = started(ready.follow(ways.dry, ALL)) if ways.dry else None
    return replace(ways, ready=ready, start=start)


def goodness(ways: Ways, found: Followed) -> float:
    """Give how good a programme is, the larger the better: the share of hands first; then a margin of the middle hand as wide
    as is worth having, fewer stages, and a shorter time. What fails counts by how far, so that a search has a way up.

    The last hand of all counts by a third: other draws of hands would move it, and a smith does not stand half as long
    again at the flame for it.
    """
    stages = _stage_seconds(found)
    short = sum(1 for one in stages if one < ways.least_s)
    margin = min(max(float(found.margin_c[0]), -50.0), ways.wide_c)
    time = float(min(found.done_s[0], MOST_S))
    over = max(0.0, float(found.came.t[0].max()) - ways.top_c)
    return (
        found.softly
        - _not_counted(found.well)
        - over / 1000
        + margin / 1000
        - len(found.stages) / 200
        - _HASTE * math.log(max(time, _AT_ONCE_S) / _AT_ONCE_S)
        - _TOO_SHORT * short
    )


def at_best(found: Followed) -> float:
    """Give by how much a programme could be better yet: all hands that have not followed it come out well."""
    those, all_of_them = len(found.who), len(ALL)
    others = all_of_them - those
    softly = (found.softly * those + others) / all_of_them
    well = (found.well * those + others) / all_of_them
    return softly - found.softly + _not_counted(found.well) - _not_counted(well)


def hopeless_s(ways: Ways, good: float) -> float:
    """Give after how long, s, a programme cannot be as good as this any more, though it came out well in every hand."""
    most = 1 - _not_counted(1.0) + ways.wide_c / 1000 - 1 / 200
    # Longer than the longest that is counted, nothing is any worse.
    seconds = _AT_ONCE_S * math.exp(min(10.0, max(0.0, most - good) / _HASTE))
    return seconds if seconds < MOST_S else math.inf


def _not_counted(well: float) -> float:
    """Give what the last hand of all does not count, of a share that is well."""
    return (1 - _OF_THE_LAST) * max(0.0, well - _NEARLY_ALL)


def _stage_seconds(found: Followed) -> list[float]:
    """Give how long the middle hand is at each stage that it comes to, s; of a spoilt end what there was."""
    made = dict.fromkeys(range(len(found.stages)), 0.0)
    times = found.came.stage_s[0]
    for row, stage in enumerate(found.groups):
        made[stage] += float(times[row + 1] - times[row])
    return list(made.values())
