"""Everyday work by the model: of each row of `tests/core/everyday.py` the share of hands, the time, and whether that is as benches have it.

`bin/bench everyday [--only NAME]` prints a table, one row for each work and torch.
"""

from __future__ import annotations

import argparse

from tests.core.everyday import SOLDERED
from tests.core.test_everyday import meets

from eskel_core.rehearsal import HeatRequest, rehearse_heat


def main() -> None:
    """Rehearse every row, and print it."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--only", default="", help="works whose name holds this")
    only = parser.parse_args().only
    met = tried = 0
    print(f"{'work':34} {'torch':22} {'well':>6} {'s':>6} {'wanted':>14}")
    for work in (each for each in SOLDERED if only in each.name):
        for torch in work.torches:
            told = [
                rehearse_heat(piece, work.heat_no, HeatRequest(torch=torch, surface=work.surface))
                for piece in work.ways()
            ]
            best = max(told, key=lambda each: (meets(work, each), each.hands.well))
            as_known = meets(work, best)
            likely = best.seconds_to_flow.likely if best.seconds_to_flow else None
            wanted = f"{work.least:.0%} {work.seconds[0]:g}–{work.seconds[1]:g} s"
            shown = "–" if likely is None else f"{likely:.0f}"
            word = "" if as_known else "  missed"
            print(
                f"{work.name:34} {torch:22} {best.hands.well:3}/64 {shown:>6} {wanted:>14}{word}", flush=True
            )
            met, tried = met + as_known, tried + 1
    print(f"{met} of {tried} as benches have it")


if __name__ == "__main__":
    main()
