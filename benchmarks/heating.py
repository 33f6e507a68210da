"""How fast the model of heat is, as ratios measured in one run: `bin/bench heating`.

Real-time factors of one rehearsal at 50 to 5,000 cells; the same network by SciPy's stiff solver at equal error; how the
cost grows with cells for wire work; and the aim programme of a body of about 200 cells. Figures are of the machine at
hand; the ratios are of one run.
"""

from __future__ import annotations

import resource
import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from benchmarks.pointing import scene
from numpy.typing import NDArray
from scipy import sparse
from scipy.integrate import solve_ivp
from tests.core.heat_bodies import cut, round_wire

from eskel_core.forms import Form, RectOutline, Sheet, Strip
from eskel_core.heat import (
    KELVIN,
    MIDDLE,
    SIGMA,
    Flame,
    Followable,
    Goal,
    Ground,
    HeatSetup,
    Lying,
    March,
    Network,
    Sign,
    Stage,
    aims_of,
    assemble,
    conductance_w_m2k,
)
from eskel_core.heat._ground import PACES, WEIGHTS
from eskel_core.metals import fluxes, torches
from eskel_core.rehearsal._scene import found_for

Floats = NDArray[np.float64]
SECONDS = 60.0
TORCH = torches()["propane-air-small"]
RUNS = 5
_MOST_UNTOLD = 3000


def body(form: Form, size_mm: float) -> Network:
    """A part on charcoal, cut into cells of a size."""
    cells = cut(form, size_mm=size_mm)
    return assemble({"part": cells}, ground=Ground(160, 120), lying=Lying(resting={"part": cells.rests_m2}))


def plate(cells: int) -> Network:
    """A plate of 40 × 40 × 0.8 mm of about so many cells."""
    outline = RectOutline(kind="rect", width_mm=40, height_mm=40)
    return body(Sheet(kind="sheet", thickness_mm=0.8, outline=outline), 40 / cells**0.5)


def wire(cells: int) -> Network:
    """A wire of 2 mm, cells of 1 mm each."""
    return body(round_wire(2.0, float(cells)), 1.0)


def strip(cells: int) -> Network:
    """A strip of 8 × 1 mm, cells of 1 mm each."""
    return body(Strip(kind="strip", width_mm=8, thickness_mm=1, length_mm=float(cells)), 1.0)


def best(run: Callable[[], object], runs: int = RUNS) -> float:
    """Give the least time of a few runs, s."""
    times = []
    for _ in range(runs):
        began = time.perf_counter()
        run()
        times.append(time.perf_counter() - began)
    return min(times)


def rehearsed(network: Network, who: NDArray[np.int64] = MIDDLE) -> Callable[[], object]:
    """Give 60 s of heating as a hand follows it, or several: goals, limits and flux watched with it."""
    goal = Goal("all", np.arange(len(network)), 5000.0)
    ready = Followable(HeatSetup(network, TORCH, (goal,), (), fluxes()["white-paste"]))
    count = Sign("count")
    stage = Stage(aims_of(network, TORCH)[0], 0.4, count, SECONDS)
    return lambda: ready.follow((stage,), who)


@dataclass(frozen=True)
class Against:
    """Times, s, of the march and of the stiff solver at equal error, told the pattern of its matrix or not (None
    where its full matrix would not fit); errors, K."""

    march_s: float
    told_s: float
    untold_s: float | None
    march_k: float
    told_k: float


def against_a_stiff_solver(network: Network) -> Against:
    """Compare the march with SciPy's stiff solver on one network.

    The error is the largest of any cell at any of the times to which the march goes, against the stiff solver at a
    tolerance a thousand times finer than needed; its own error is read at the same times."""
    film = (
        network.above_m2 * TORCH.film_w_m2k * 0.4 * np.exp(-((network.x_mm - 5) ** 2 + network.y_mm**2) / 100)
    )
    k, capacity = network.conduction.tocsr(), network.capacity_j_k

    cells, ground = len(network), network.ground
    passes = conductance_w_m2k(network.effusivity, network.contact_w_m2k) * network.ground_m2
    gain = WEIGHTS[:, None] / max(network.effusivity, 1e-30) / np.maximum(network.ground_m2, 1e-30)

    def slope(_: float, state: Floats) -> Floats:
        t, modes = state[:cells], state[cells:].reshape(len(PACES), len(ground))
        share = np.clip((t - 300) / 300, 0, 1)
        e = network.clean + (network.heated - network.clean) * share
        room = 20 + KELVIN
        lost = network.surface_m2 * (
            e * SIGMA * ((t + KELVIN) ** 4 - room**4) + network.convection_w_m2k * (t - 20)
        )
        flow = film * (TORCH.gas_temp_c - t) - lost - k @ t
        if not len(ground):
            return np.asarray(flow / capacity)
        down = passes * (t[ground] - 20 - modes.sum(axis=0))
        flow[ground] -= down
        faded = -PACES[:, None] * modes + gain * down
        return np.concatenate([flow / capacity, faded.ravel()])

    pattern = k != 0
    if len(ground):
        here = sparse.csr_matrix(
            (np.ones(len(ground)), (np.arange(len(ground)), ground)), shape=(len(ground), cells)
        )
        many = len(PACES)
        pattern = sparse.bmat(
            [
                [pattern, sparse.vstack([here] * many).T],
                [sparse.vstack([here] * many), sparse.kron(np.ones((many, many)), sparse.eye(len(ground)))],
            ]
        )

    start = np.concatenate([np.full(cells, 20.0), np.zeros(len(PACES) * len(ground))])

    def march() -> tuple[Floats, Floats]:
        made = March(network, Flame(TORCH.gas_temp_c))
        made.aim(film)
        times, seen = [], []
        while made.seconds < SECONDS - 1e-9:
            made.step(SECONDS)
            times.append(made.seconds)
            seen.append(made.t.copy())
        return np.array(times), np.stack(seen, -1)

    times, ours = march()

    def stiff(rtol: float, told: Any) -> Floats:
        found = solve_ivp(
            slope,
            (0, SECONDS),
            start,
            method="BDF",
            t_eval=np.minimum(times, SECONDS),
            rtol=rtol,
            atol=rtol * 100,
            jac_sparsity=told,
        )
        return np.asarray(found.y[:cells])

    true = stiff(1e-8, pattern)
    error = float(np.abs(ours - true).max())
    for rtol in (1e-2, 5e-3, 2e-3, 1e-3, 5e-4, 2e-4, 1e-4, 5e-5, 2e-5, 1e-5, 5e-6, 2e-6, 1e-6):
        theirs = float(np.abs(stiff(rtol, pattern) - true).max())
        if theirs <= error:
            break
    untold = best(lambda: stiff(rtol, None), runs=1) if len(start) <= _MOST_UNTOLD else None
    return Against(best(march), best(lambda: stiff(rtol, pattern)), untold, error, theirs)


def main() -> None:
    """Print the tables."""
    print("60 s of heating as one hand follows it: cells, ms, times real time")
    for count in (50, 200, 1000, 5000):
        for name, make in (("plate", plate), ("wire", wire)):
            network = make(count)
            took = best(rehearsed(network))
            print(
                f"  {name} {len(network):5d} cells: {1000 * took:7.1f} ms, {SECONDS / took:7.0f} times real time"
            )
    for count in (60, 200):
        took = best(rehearsed(plate(count), np.arange(1, 65))) / 64
        print(f"  plate of {count} cells by sixty-four hands: {1000 * took:.2f} ms each")
    print("the same network by SciPy's BDF at equal error, in air and on charcoal with its memory")
    form = Sheet(kind="sheet", thickness_mm=0.8, outline=RectOutline(kind="rect", width_mm=40, height_mm=40))
    for count in (50, 200, 1000):
        for where, network in (
            ("in air", assemble({"part": cut(form, size_mm=40 / count**0.5)})),
            ("on charcoal", plate(count)),
        ):
            one = against_a_stiff_solver(network)
            print(
                f"  {len(network)} cells {where}: the march {1000 * one.march_s:.1f} ms (error {one.march_k:.3f} K), "
                f"BDF told which cells touch {1000 * one.told_s:.1f} ms (error {one.told_k:.3f} K), "
                f"{one.told_s / one.march_s:.1f} times as long, "
                + (
                    f"not told {1000 * one.untold_s:.1f} ms, {one.untold_s / one.march_s:.1f} times"
                    if one.untold_s is not None
                    else "not told it is not tried"
                )
            )
    few, many = (best(rehearsed(strip(count))) for count in (500, 5000))
    print(f"ten times the cells of a strip take {many / few:.1f} times as long")
    took_all = []
    for seed in range(1, 60):
        ready = scene(seed)
        if ready is None or not 180 <= len(ready.setup.network) <= 230:
            continue
        began = time.process_time()
        found_for(ready)
        took_all.append(time.process_time() - began)
    print(
        f"the programme of {len(took_all)} bodies of about 200 cells in which circling evenly does badly, by all hands: "
        f"{statistics.median(took_all):.2f} s of processor time at the median, "
        f"{statistics.quantiles(took_all, n=10)[-1]:.2f} s at nine tenths"
    )
    print(f"memory at most {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MB")


if __name__ == "__main__":
    main()
