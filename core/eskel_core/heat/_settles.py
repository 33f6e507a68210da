"""What a flame comes to where nothing is spared: how hot each goal becomes under it, and whether it is too weak for the body."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from ._follow import Followable
from ._grid import Floats
from ._setup import Sign, Stage
from ._ways import Ways, by_flame

# A flame whose strongest hand stays so far below what is asked is too weak: to go from aim to aim gains a few degrees.
_TOO_FAR_C = 40.0
_NOTED_EVERY_S = 2.0


def settled_c(ways: Ways, who: NDArray[np.int64]) -> Floats:
    """Give how hot each goal becomes at full flame, °C: (hands, aims, goals), infinite where it gets there.

    Held in one way as long as a hand waits, with nothing that melts, boils or is spent.
    """
    setup = ways.ready.setup
    network = setup.network
    never = np.full(len(network), 1e6)
    endless = Followable(
        replace(
            setup,
            limits=(),
            wet=False,
            flux=None,
            network=replace(network, solidus_c=never, liquidus_c=2 * never),
        )
    )
    made = np.full((len(who), len(ways.aims), len(setup.goals)), np.inf)
    programmes = [(Stage(aim, 1.0, Sign("runs")),) for aim in ways.aims]
    for at, one in enumerate(endless.follow_all(programmes, who, stop=False, noted_every_s=_NOTED_EVERY_S)):
        for row in range(len(who)):
            seen = one.came.history[row, : int(one.came.noted[row])]
            for n, goal in enumerate(setup.goals):
                if not np.isfinite(one.came.reached_s[row, n]):
                    here = seen[:, goal.cells]
                    made[row, at, n] = here.max(axis=0).min() if goal.ever else here.min(axis=1).max()
    return made


def too_weak(ways: Ways) -> bool:
    """Say whether even the strongest hand leaves a goal far below what it asks, however the flame is held."""
    (strong,) = settled_c(ways, by_flame()[-1:])
    asked = np.array([goal.reach_c for goal in ways.ready.setup.goals])
    return bool((strong.max(axis=0) < asked - _TOO_FAR_C).any())
