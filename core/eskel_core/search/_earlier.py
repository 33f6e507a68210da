"""What every heat does to the joins made before it: the model's `runs`, `soft` and `guard`, shields counted."""

from __future__ import annotations

from ..demands import Problem
from ..piece import Join
from ..rules import (
    ALL_LIES,
    FIRM_C,
    MOST_SHIELD_C,
    Filler,
    Lie,
    State,
    can_be_protected,
    comes_off,
    reflow_c,
    state_at,
)
from ..solver import Term, no
from ._grid import Grid
from ._measured import holds_hanging

TENTHS = 10


def bind_earlier_joins(grid: Grid) -> None:
    """Bind what every heat does to the joins made before it."""
    for i, task in enumerate(grid.tasks):
        if task.join is None:
            continue
        for h in grid.span[1:]:
            grid.runs[i, h] = grid.model.boolean()
            grid.soft[i, h] = grid.model.boolean()
            if can_be_protected(task.join) and comes_off(grid.problem.piece, task.join):
                grid.guard[i, h] = grid.model.boolean()
            _bind_earlier_join(grid, i, task.join, h)


def _bind_earlier_join(grid: Grid, i: int, join: Join, h: int) -> None:
    held = _held(grid, i, join, h)
    loaded = no(held) if join.loaded is None else grid.model.true if join.loaded else no(grid.model.true)
    for unless in grid.unless("hold", join.id):
        grid.model.clause(no(grid.runs[i, h]), held, *unless)
    node = min(grid.problem.anatomy.joins[join.id].nodes)
    places = {task.id: t for t, task in enumerate(grid.tasks)}
    shield = [
        (round(one.degrees_c * TENTHS), grid.takes[places[one.during]][h])
        for one in join.shields
        if one.during in places
    ]
    _bind_touching(grid, (i, h), join, loaded)
    cooler = [_cooler_c(grid, join, heat) for heat in grid.fillers]
    for f, literal in grid.made_with[i].items():
        warm = [heat.working_c - less for heat, less in zip(grid.fillers, cooler, strict=True)]
        states = [state_at(grid.fillers[f], here, grid.problem.house) for here in warm]
        when = [grid.done[i][h - 1], grid.hot[node, h], *_reached(grid, join, h), literal]
        if not shield and not any(cooler):
            _bind_states(grid, (i, h), states, when, loaded)
            continue
        for g, here in enumerate(warm):
            if states[g] != "firm":
                _bind_shielded(
                    grid, (i, h), (grid.fillers[f], here), [*when, grid.fills[h][g]], loaded, shield
                )


def _bind_touching(grid: Grid, at: tuple[int, int], join: Join, loaded: int) -> None:
    """Bind what a heat does to a join on a part that hangs in what it solders: one flame reaches both."""
    (i, h), model, problem = at, grid.model, grid.problem
    for t, task in enumerate(grid.tasks):
        less = problem.reach.contact_c.get((join.id, task.id))
        for f, literal in grid.made_with[i].items() if less is not None and t != i else ():
            for g, heat in enumerate(grid.fillers):
                state = state_at(grid.fillers[f], heat.working_c - (less or 0.0), problem.house)
                never = [
                    no(one) for one in (grid.done[i][h - 1], grid.takes[t][h], literal, grid.fills[h][g])
                ]
                if state == "flows":
                    model.clause(*never, grid.runs[at])
                    for unless in grid.unless("hold", join.id) if not holds_hanging(problem, join) else ():
                        model.clause(*never, *unless)
                elif state == "soft":
                    model.clause(*never, grid.soft[at], no(loaded))


def _cooler_c(grid: Grid, join: Join, heat: Filler) -> float:
    """Give by how much a join stays cooler in the heat of work or of a fused seam, which has a filler of its own, °C."""
    kind, _, task = heat.key.partition(":")
    return grid.problem.reach.of(join.id, (task,)) if kind in ("work", "fuse") else 0.0


def _reached(grid: Grid, join: Join, h: int) -> list[int]:
    """Give the literal that says whether a heat reaches a join at all; none where every heat does."""
    cooler = grid.problem.reach.cooler_c
    if not any(earlier == join.id and less >= FIRM_C for (earlier, _), less in cooler.items()):
        return []
    if (join.id, h) not in grid.reached:
        reached = grid.reached[join.id, h] = grid.model.boolean()
        for t, task in enumerate(grid.tasks):
            if cooler.get((join.id, task.id), 0.0) < FIRM_C:
                grid.model.clause(no(grid.takes[t][h]), reached)
    return [grid.reached[join.id, h]]


def _bind_states(grid: Grid, at: tuple[int, int], states: list[State], when: list[int], loaded: int) -> None:
    """Bind `runs` and `soft` of a join with one filler: heats are sorted, the hottest first."""
    model, runs, soft = grid.model, grid.runs[at], grid.soft[at]
    never = [no(literal) for literal in when]
    flowing, warm = states.count("flows"), len(states) - states.count("firm")
    hot_enough = [grid.at_least[at[1]][flowing - 1]] if flowing else []
    if flowing:
        model.clause(*never, no(hot_enough[0]), runs)
    model.clause(*never, no(runs), *hot_enough)
    if warm > flowing:
        model.clause(*never, no(grid.at_least[at[1]][warm - 1]), *hot_enough, soft, no(loaded))


def _held(grid: Grid, i: int, join: Join, h: int) -> int:
    """Give the literal that says whether a join is held in a heat later than its own."""
    guard = grid.guard.get((i, h))
    return held_as_it_lies(grid.problem, join, grid.up[h], grid.model.true) if guard is None else guard


def held_as_it_lies(problem: Problem, join: Join, up: dict[Lie, int], true: int) -> int:
    """Give the literal that says whether a join is held unprotected in a heat whose lies are `up`, of which one is true."""
    lies = problem.lies_that_hold[join.id]
    if len(lies) in (0, len(ALL_LIES)):
        return true if lies else no(true)
    return up[lies[0]] if len(lies) == 1 else no(next(up[lie] for lie in ALL_LIES if lie not in lies))


def _bind_shielded(
    grid: Grid,
    at: tuple[int, int],
    pair: tuple[Filler, float],
    when: list[int],
    loaded: int,
    shield: list[Term],
) -> None:
    """Let `runs` and `soft` be true where the join runs again, or is soft while loaded, shields counted."""
    filler, here = pair
    house, runs, soft = grid.problem.house, grid.runs[at], grid.soft[at]
    to_stay_put = _tenths_over(here, reflow_c(filler, house))
    to_stay_firm = _tenths_over(here, filler.solidus_c)
    if to_stay_put > 0:
        _unless_shielded(grid, [*when, no(runs)], shield, to_stay_put)
        if shield:
            grid.model.at_most(shield, to_stay_put - 1, [*when, runs])
            _unless_shielded(grid, [*when, no(runs), no(soft), loaded], shield, to_stay_firm)
    else:
        _unless_shielded(grid, [*when, no(soft), loaded], shield, to_stay_firm)


def _unless_shielded(grid: Grid, never: list[int], shield: list[Term], needed: int) -> None:
    """Forbid that some literals are all true, unless the shields in force come to what is needed."""
    if not shield or needed > MOST_SHIELD_C * TENTHS:
        grid.model.clause(*(no(literal) for literal in never))
    else:
        grid.model.at_least(shield, needed, never)


def _tenths_over(temperature_c: float, limit_c: float) -> int:
    """Give by how many tenths of a degree a temperature must fall to lie below a limit; 0 or less: it does."""
    return round((temperature_c - limit_c) * TENTHS) + 1
