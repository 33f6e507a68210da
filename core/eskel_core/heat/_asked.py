"""What a heat asks of its hands and what comes of them, in flat arrays for the compiled march, and what its columns are called."""

from __future__ import annotations

from typing import Any, NamedTuple

# A hand does not wait longer than this for one place; each further place of a heat has so much more.
GIVES_UP_S, MORE_PLACES_S, MOST_S = 240.0, 45.0, 1200.0
# Signs.
RUNS, PLACE, HEAT, COUNT = range(4)
# What came of it, and why.
WELL, SHORT, SPOILT = range(3)
NOTHING, TOO_COOL, SPENT, SLUMPS, RUNS_AGAIN, BOILS = range(6)
# Columns of `Came.of`.
ENDED_S, CAME, WHY, ABOUT, AT_S, MARGIN_C, MARGIN_OF, MARGIN_S, SHORT_C, TOOK = range(10)
COLUMNS = 10
# Columns of a hand.
STRENGTH, LATE_S, MISREAD_C, SETTING, COUNTS = range(5)


class Asked(NamedTuple):
    """What a heat asks, in flat arrays: touches, goals, limits, and the flux.

    Group `n` of anything has the cells from `…_at[n]` to `…_at[n + 1]`. `goal_ever`: each cell counts once it has been
    there. `goal_touch` is the touch that is metal when the goal is reached, or -1. `bring` is the touch that is brought in
    when the solder on the heavier side is liquid, or -1; its cells are out of the flame until then. What has not run after
    `gives_up_s` is given up.
    """

    link_at: Any
    touch_area: Any
    touch_metal: Any
    seam_at: Any
    seam: Any
    seam_wet: Any
    goal_at: Any
    goal: Any
    goal_c: Any
    goal_ever: Any
    goal_touch: Any
    limit_at: Any
    limit: Any
    limit_c: Any
    limit_join: Any
    clear_c: float
    spent_c: float
    spent_s: float
    boils_c_s: float
    steam_c: float
    bring: int
    bring_c: float
    bring_seam: Any
    bring_cells: Any
    most_w: float
    room_c: float
    gives_up_s: float


class Told(NamedTuple):
    """Programmes of signs in flat arrays, a row for each stage (or place): programme `n` has rows `at[n]` to `at[n + 1]`.

    What hands make of an aim stands in `film` and `still`, (aims, hands, cells), and `gas_c`; `aim` says which is a row's.
    """

    at: Any
    film: Any
    still: Any
    gas_c: Any
    aim: Any
    setting: Any
    sign: Any
    sign_at: Any
    sign_cells: Any
    sign_c: Any
    coolest: Any
    goal_of: Any
    seconds: Any
    wait_s: Any
    notch: Any
    most: Any
    nearer: Any
    nearest: Any
    dry: Any


class Came(NamedTuple):
    """What came of it, a row for each hand; with room for a history, what every cell was at about even times."""

    of: Any
    stage_s: Any
    reached_s: Any
    hottest: Any
    t: Any
    modes: Any
    times: Any
    history: Any
    noted: Any


def patience_s(touches: int) -> float:
    """How long a hand waits for the last of so many touches, s."""
    return min(MOST_S, GIVES_UP_S + MORE_PLACES_S * max(0, touches - 1))
