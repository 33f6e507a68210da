"""Work out what the model of heat is held against, and write its tables and plots: `PYTHONPATH=core:. python docs/heat_validation.py`.

The cases against closed forms and finite elements, and common work of the trade as all hands do it.
"""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import matplotlib as mpl
import matplotlib.pyplot as plt
from tests.core.everyday import SOLDERED, Work
from tests.core.heat_bodies import Case
from tests.core.heat_cases import CASES

from eskel_core.rehearsal import HeatRequest, Rehearsal, rehearse_heat

HERE = Path(__file__).resolve().parent
BEGIN, END = "<!-- cases -->\n", "<!-- end of cases -->"
BEGIN_WORK, END_WORK = "<!-- everyday -->\n", "<!-- end of everyday -->"
DRAWN = (
    "ball of 4 mm, sterling-925, in a flame",
    "ball of 4 mm radiating to 293",
    "copper wire",
    "slab of 2745",
    "sterling-925 plate",
    "ring of 16",
)


@dataclass(frozen=True)
class Row:
    """Common work with one torch, as it was rehearsed: the better of its ways."""

    work: Work
    torch: str
    told: Rehearsal

    @property
    def share(self) -> float:
        """The share of hands in which it comes out well."""
        return self.told.hands.well / self.told.hands.tried

    @property
    def seconds(self) -> float | None:
        """How long it takes in the middle hand, s."""
        return None if self.told.seconds_to_flow is None else self.told.seconds_to_flow.likely

    @property
    def met(self) -> bool:
        """Whether it is as everyone at a bench has seen it."""
        low, high = self.work.seconds
        return self.share >= self.work.least and self.seconds is not None and low <= self.seconds <= high


def main() -> None:
    """Write the tables into `heat.md` and the plots beside it."""
    cases = [make() for make in CASES]
    rows = [_rehearsed(work, torch) for work in SOLDERED for torch in work.torches]
    page = HERE / "heat.md"
    text = page.read_text(encoding="utf-8")
    text = _put(text, BEGIN, END, _table(cases))
    page.write_text(_put(text, BEGIN_WORK, END_WORK, _everyday(rows)), encoding="utf-8")
    _plots([next(case for case in cases if case.name.startswith(name)) for name in DRAWN])
    _draw_everyday(rows)


def _put(text: str, begin: str, end: str, table: str) -> str:
    head, _, rest = text.partition(begin)
    return head + begin + table + end + rest.partition(end)[2]


def _rehearsed(work: Work, torch: str) -> Row:
    made = [
        Row(work, torch, rehearse_heat(piece, work.heat_no, HeatRequest(torch=torch, surface=work.surface)))
        for piece in work.ways()
    ]
    return max(made, key=lambda row: (row.met, row.share))


def _everyday(rows: list[Row]) -> str:
    lines = []
    for row in rows:
        low, high = row.work.seconds
        seconds = "never" if row.seconds is None else f"{row.seconds:.0f}"
        lines.append(
            f"| {row.work.name} | {row.torch} | {row.work.least:.2f} | {row.share:.2f} | {low:g}–{high:g} | {seconds} | {'yes' if row.met else '**no**'} |\n"
        )
    head = "| work | torch | share wanted | share | time wanted, s | time, s | met |\n|---|---|---|---|---|---|---|\n"
    return head + "".join(lines)


def _draw_everyday(rows: list[Row]) -> None:
    figure, place = plt.subplots(figsize=(11, 8))
    for n, row in enumerate(rows):
        low, high = row.work.seconds
        place.plot([low, high], [n, n], "-", color="#c9c2b4", linewidth=7, solid_capstyle="butt")
        told = row.told.seconds_to_flow
        if told is not None:
            ends = [told.low or told.likely, told.high or told.likely]
            place.plot(ends, [n, n], "-", color="#175c58", linewidth=1.4)
            place.plot([told.likely], [n], "o" if row.met else "x", color="#175c58" if row.met else "#9a2a1e")
        place.text(310, n, f"{row.told.hands.well} of 64", va="center", fontsize=8)
    place.set_yticks(range(len(rows)), [f"{row.work.name}, {row.torch}" for row in rows], fontsize=8)
    place.set_xscale("log")
    place.set_xlim(3, 300)
    place.set_xlabel(
        "s: the band of the trade, grey; the hands between one and nine tenths, and the middle one"
    )
    place.invert_yaxis()
    figure.tight_layout()
    figure.savefig(HERE / "heat-everyday.svg", metadata={"Date": None})
    plt.close(figure)


def _table(cases: list[Case]) -> str:
    rows = [
        f"| {case.name} | {case.reference} | {100 * case.bound:g} % | {100 * case.error:.3f} % |\n"
        for case in cases
    ]
    return "| case | reference | bound | off by at most |\n|---|---|---|---|\n" + "".join(rows)


def _plots(cases: list[Case]) -> None:
    mpl.rcParams.update(
        {"svg.hashsalt": "eskel", "font.size": 9, "axes.spines.top": False, "axes.spines.right": False}
    )
    figure, places = plt.subplots(2, 3, figsize=(11, 6))
    for place, case in zip(places.flat, cases, strict=True):
        place.plot(
            case.x,
            case.theirs,
            "o",
            color="#8f8a7e",
            markersize=4,
            markevery=max(1, len(case.x) // 25),
            label=case.reference,
        )
        place.plot(case.x, case.ours, "-", color="#175c58", linewidth=1.4, label="the model")
        place.set_title(f"{case.name}\noff by {100 * case.error:.3f} %", fontsize=9)
        place.set_xlabel(case.x_label)
        place.legend(frameon=False, fontsize=8)
        if case.x_label == "s" and case.scale == 1.0:
            place.set_ylim(0.95, 1.05)
            place.set_ylabel("share of the closed form")
        else:
            place.set_ylabel("°C")
    figure.tight_layout()
    figure.savefig(HERE / "heat-validation.svg", metadata={"Date": None})


if __name__ == "__main__":
    main()
