"""A heat made ready to be followed by hands, and what comes of a programme of signs in each of them."""

from __future__ import annotations

import math
import os
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from . import _asked as columns
from ._aims import Pointed
from ._asked import Asked, Came, Told
from ._followed import follow
from ._grid import Floats
from ._hands import all_hands
from ._march import made_ready
from ._network import Indices
from ._setup import BOILS_C_S, MOST_BRUSHED, MOST_TAKEN, NOTCH, HeatSetup, Stage

Fate = Literal["well", "short", "spoilt"]
Why = Literal["", "too-cool", "spent", "slumps", "runs-again", "boils"]
_FATES: tuple[Fate, ...] = ("well", "short", "spoilt")
_WHYS: tuple[Why, ...] = ("", "too-cool", "spent", "slumps", "runs-again", "boils")
MIDDLE = np.zeros(1, np.int64)
# Jobs are shared out among the cores in so many shares for each, of no fewer than so many.
_SHARES, _LEAST_JOBS = 4, 4


@dataclass(frozen=True)
class Start:
    """Where every hand stands before a programme goes on: cells (h, n), block (h, m, g), time s, and whether spoilt."""

    t: Floats
    modes: Floats
    seconds: Floats
    of: Floats
    stage_s: Floats


@dataclass(frozen=True)
class Hand:
    """What came of one hand: well, short or spoilt, why, of what, when; and how near it came to each limit."""

    fate: Fate
    why: Why
    about: str | None
    at_s: float
    done_s: float | None
    margin_c: float


@dataclass(frozen=True)
class Followed:
    """A programme followed by some hands: rows of `came` are theirs, in order of `who` (0 is the middle one)."""

    stages: tuple[Stage, ...]
    who: NDArray[np.int64]
    came: Came
    groups: tuple[int, ...] = ()

    @property
    def fates(self) -> NDArray[np.int64]:
        """0 well, 1 short, 2 spoilt, hand by hand."""
        made: NDArray[np.int64] = self.came.of[:, columns.CAME].astype(np.int64)
        return made

    @property
    def well(self) -> float:
        """The share that comes out well."""
        return float((self.fates == columns.WELL).mean())

    @property
    def margin_c(self) -> Floats:
        """How far each stayed from the nearest limit, °C."""
        made: Floats = self.came.of[:, columns.MARGIN_C]
        return made

    @property
    def done_s(self) -> Floats:
        """When the last goal was reached in each hand, s, or the sign was seen that ends it; infinite where one never was."""
        made: Floats = self.came.reached_s.max(axis=1, initial=0.0)
        if self.stages and self.stages[-1].until.kind in ("glow", "range"):
            made = np.where(np.isfinite(made), np.maximum(made, self.came.of[:, columns.ENDED_S]), made)
        return made

    @property
    def softly(self) -> float:
        """How good it is with what failed counted by how far it fell, higher better: to choose between like shares."""
        of = self.came.of
        short = np.minimum(of[:, columns.SHORT_C], 800.0) / 800.0
        over = np.minimum(np.maximum(-of[:, columns.MARGIN_C], 0.0), 200.0) / 200.0
        failed = np.where(self.fates == columns.WELL, 0.0, 0.2 + short + over)
        return self.well - 0.3 * float(failed.mean())


def both(one: Followed, other: Followed) -> Followed:
    """Give one programme as it was followed by some hands and by others, in the order of the hands."""
    who = np.concatenate([one.who, other.who])
    order = np.argsort(who, kind="stable")
    came = Came(
        *(np.concatenate(arrays)[order] for arrays in zip(one.came, other.came, strict=True)),
    )
    return Followed(one.stages, who[order], came, one.groups)


@dataclass(frozen=True)
class _Row:
    """A row of a programme as the compiled march takes it: a stage, or one of its places."""

    stage_n: int
    stage: Stage
    place: int
    kind: int
    c: float
    cells: tuple[int, ...]
    goal: int


@dataclass
class Followable:
    """A heat made ready: programmes are followed on it by any of sixty-five hands, the middle one first."""

    setup: HeatSetup
    pointed: Pointed = field(init=False)

    def __post_init__(self) -> None:
        """Reckon what does not change from programme to programme."""
        setup = self.setup
        self.hands = all_hands(setup.spread)
        self.pointed = Pointed(setup.network, setup.torch, self.hands)
        self.work, self.passes = made_ready(setup.network)
        self.strengths = np.ascontiguousarray(self.hands[:, :5])
        self.strengths[:, columns.STRENGTH] *= setup.factor

    @cached_property
    def asked(self) -> Asked:
        """What the heat asks, as the compiled march takes it."""
        setup, network = self.setup, self.setup.network
        flux, brought = setup.flux, setup.brought
        touches = network.touches
        metal = len(self.passes) - sum(len(touch.i) for touch in touches)
        places = [touch.place for touch in touches]
        goal_at, goal = _grouped([one.cells for one in setup.goals])
        limit_at, limit = _grouped([one.cells for one in setup.limits])
        seam_at, seam = _grouped([touch.seam for touch in touches])
        bring = -1 if brought is None else places.index(brought.place)
        light = np.zeros(0, np.int64) if brought is None else network.cells(brought.node)
        heavy = np.zeros(0, np.int64) if bring < 0 else np.setdiff1d(touches[bring].seam, light)
        return Asked(
            link_at=metal
            + np.concatenate([[0], np.cumsum([len(touch.i) for touch in touches])]).astype(np.int64),
            touch_area=_floats([touch.area_m2 for touch in touches]),
            touch_metal=_floats([touch.metal_w_k for touch in touches]),
            seam_at=seam_at,
            seam=seam,
            seam_wet=~np.isin(seam, light),
            goal_at=goal_at,
            goal=goal,
            goal_c=np.array([one.reach_c for one in setup.goals], float),
            goal_ever=np.array([one.ever for one in setup.goals], bool),
            goal_touch=np.array(
                [places.index(one.id) if one.id in places else -1 for one in setup.goals], np.int64
            ),
            limit_at=limit_at,
            limit=limit,
            limit_c=np.array([one.below_c for one in setup.limits], float),
            limit_join=np.array([one.kind == "join" for one in setup.limits], bool),
            clear_c=-math.inf if flux is None else float(flux.clear_c),
            spent_c=math.inf if flux is None else float(flux.spent_c),
            spent_s=math.inf if flux is None else 60.0 * flux.minutes_at_heat,
            boils_c_s=BOILS_C_S if setup.wet and flux is not None else math.inf,
            steam_c=100.0 if flux is None else float(flux.steam_c),
            bring=bring,
            bring_c=math.inf if brought is None else brought.liquid_c,
            bring_seam=heavy,
            bring_cells=light,
            most_w=MOST_TAKEN * setup.torch.heat_w,
            room_c=float(setup.room_c),
            gives_up_s=columns.patience_s(len(touches)),
        )

    def _rows(self, stages: tuple[Stage, ...]) -> list[_Row]:
        """Give the rows of a programme: an aim from place to place is a row for each, ended by what is seen there."""
        rows = []
        goals = {goal.id: n for n, goal in enumerate(self.setup.goals)}
        for n, stage in enumerate(stages):
            until = stage.until
            if stage.aim.places and until.kind in ("runs", "range", "glow", "crust"):
                for place, (name, _, cells) in enumerate(stage.aim.places):
                    if name in goals and until.kind == "runs":
                        rows.append(_Row(n, stage, place, columns.PLACE, 0.0, (), goals[name]))
                    else:
                        here = tuple(int(cell) for cell in cells)
                        rows.append(_Row(n, stage, place, columns.HEAT, until.c, here, -1))
                continue
            kind = {"runs": columns.RUNS, "count": columns.COUNT}.get(until.kind, columns.HEAT)
            rows.append(_Row(n, stage, -1, kind, until.c, until.cells, -1))
        return rows

    def _told(self, programmes: list[list[_Row]]) -> Told:
        """Give programmes as the compiled march takes them, for all hands."""
        rows = [row for one in programmes for row in one]
        aims = list(dict.fromkeys((row.stage.aim.key, row.place) for row in rows))
        number = {aim: n for n, aim in enumerate(aims)}
        first = {(row.stage.aim.key, row.place): row for row in reversed(rows)}
        made = [self.pointed.at(first[aim].stage.aim, aim[1]) for aim in aims]
        sign_at, sign_cells = _grouped([np.array(row.cells, np.int64) for row in rows])

        def each(of: Callable[[_Row], float]) -> Floats:
            return np.array([of(row) for row in rows], float)

        return Told(
            at=np.concatenate([[0], np.cumsum([len(one) for one in programmes])]).astype(np.int64),
            film=np.stack([one[0] for one in made]),
            still=np.stack([one[1] for one in made]),
            gas_c=np.array([one[2] for one in made], float),
            aim=np.array([number[row.stage.aim.key, row.place] for row in rows], np.int64),
            setting=each(lambda row: row.stage.setting),
            sign=np.array([row.kind for row in rows], np.int64),
            sign_at=sign_at,
            sign_cells=sign_cells,
            sign_c=each(lambda row: row.c),
            coolest=np.array([row.place >= 0 or row.stage.until.coolest for row in rows], bool),
            goal_of=np.array([row.goal for row in rows], np.int64),
            seconds=each(lambda row: row.stage.seconds or 0.0),
            wait_s=each(lambda row: row.stage.wait_s),
            notch=each(lambda row: NOTCH if row.stage.wait_s > 0 else 0.0),
            most=each(lambda row: MOST_BRUSHED if row.stage.aim.kind == "brush" else 1.0),
            nearer=each(lambda row: row.stage.nearer),
            nearest=each(lambda row: 1 / (row.stage.aim.duty * row.stage.setting)),
            dry=np.array([row.stage.aim.kind == "dry" for row in rows], bool),
        )

    def follow(
        self,
        stages: tuple[Stage, ...],
        who: NDArray[np.int64],
        start: Start | None = None,
        *,
        stop: bool = True,
        noted_every_s: float | None = None,
    ) -> Followed:
        """Let some hands follow a programme, from where they stand or from cold; keep a history where it is asked for."""
        return self.follow_all([stages], who, start, stop=stop, noted_every_s=noted_every_s)[0]

    def follow_all(
        self,
        programmes: Sequence[tuple[Stage, ...]],
        who: NDArray[np.int64],
        start: Start | None = None,
        *,
        stop: bool = True,
        noted_every_s: float | None = None,
        most_s: float = math.inf,
    ) -> list[Followed]:
        """Let some hands follow each of several programmes; what has not run after `most_s` is given up."""
        if not programmes:
            return []
        rows = [self._rows(stages) for stages in programmes]
        told = self._told(rows)
        many = len(who)
        room = 0 if noted_every_s is None else math.ceil(self.asked.gives_up_s / noted_every_s) + 16
        jobs = np.stack([np.repeat(np.arange(len(rows)), many), np.tile(who, len(rows))], -1)
        came = self._room(len(jobs), max(len(one) for one in rows), room)
        begin = self._cold if start is None else start
        asked = self.asked._replace(gives_up_s=min(most_s, self.asked.gives_up_s))
        if start is not None:
            # Where hands stand after the drying there is no water left.
            asked = asked._replace(seam_wet=np.zeros(len(asked.seam), bool))
        begun = begin.t, begin.modes, begin.seconds, stop, noted_every_s or 1.0

        def some(of: slice) -> None:
            part = Came(*(array[of] for array in came))
            follow(self.work, self.passes, asked, told, jobs[of], self.strengths, *begun, part)

        _by_cores(some, len(jobs))
        found = []
        for n, stages in enumerate(programmes):
            part = Came(*(array[n * many : (n + 1) * many] for array in came))
            part = part._replace(stage_s=part.stage_s[:, : len(rows[n]) + 1])
            if start is not None:
                # What was spoilt before stays so.
                lost = start.of[who, columns.CAME] == columns.SPOILT
                part.of[lost] = start.of[who][lost]
            found.append(Followed(stages, who, part, tuple(row.stage_n for row in rows[n])))
        return found

    def _room(self, jobs: int, rows: int, noted: int) -> Came:
        cells, work = len(self.setup.network), self.work
        return Came(
            of=np.zeros((jobs, columns.COLUMNS)),
            stage_s=np.zeros((jobs, rows + 1)),
            reached_s=np.zeros((jobs, len(self.setup.goals))),
            hottest=np.full((jobs, len(self.setup.limits)), -math.inf),
            t=np.empty((jobs, cells)),
            modes=np.empty((jobs, len(work.paces), len(work.ground))),
            times=np.zeros((jobs, noted)),
            history=np.zeros((jobs, noted, cells)),
            noted=np.zeros(jobs, np.int64),
        )

    @cached_property
    def _cold(self) -> Start:
        many, cells = len(self.hands), len(self.setup.network)
        modes = np.zeros((many, len(self.work.paces), len(self.work.ground)))
        if self.setup.block is not None:
            modes += self.setup.block
        return Start(
            np.full((many, cells), self.setup.room_c),
            modes,
            np.zeros(many),
            np.zeros((many, columns.COLUMNS)),
            np.zeros((many, 0)),
        )

    def hand(self, one: Followed, row: int) -> Hand:
        """Tell what came of a row."""
        of = one.came.of[row]
        why = _WHYS[int(of[columns.WHY])]
        about = int(of[columns.ABOUT])
        name: str | None = None
        if about >= 0:
            if why in ("slumps", "runs-again"):
                name = self.setup.limits[about].id
            elif why in ("boils", "spent"):
                name = self.setup.network.touches[about].place
            else:
                name = self.setup.goals[about].id
        done = float(one.done_s[row])
        return Hand(
            _FATES[int(of[columns.CAME])],
            why,
            name,
            float(of[columns.AT_S]),
            done if math.isfinite(done) else None,
            float(of[columns.MARGIN_C]),
        )


def _by_cores(some: Callable[[slice], None], many: int) -> None:
    """Do so many jobs, which know nothing of each other, on all the cores there are: the compiled march holds no lock."""
    cores = len(os.sched_getaffinity(0))
    each = max(_LEAST_JOBS, math.ceil(many / (_SHARES * cores)))
    shares = [slice(at, min(many, at + each)) for at in range(0, many, each)]
    if cores == 1 or len(shares) == 1:
        some(slice(0, many))
        return
    with ThreadPoolExecutor(cores) as pool:
        list(pool.map(some, shares))


def _grouped(groups: list[Indices]) -> tuple[Indices, Indices]:
    at = np.concatenate([[0], np.cumsum([len(group) for group in groups])]).astype(np.int64)
    cells = np.concatenate([*groups, np.zeros(0, np.int64)]).astype(np.int64)
    return at, cells


def _floats(arrays: list[Floats]) -> Floats:
    made: Floats = np.concatenate([*arrays, np.zeros(0)])
    return made
