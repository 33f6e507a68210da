"""Work out the cases that prove the model of heat, and write their table and plots: `PYTHONPATH=core:. python docs/heat_validation.py`."""

from __future__ import annotations

from pathlib import Path

import matplotlib as mpl
import matplotlib.pyplot as plt
from tests.core.heat_bodies import Case
from tests.core.heat_cases import CASES

HERE = Path(__file__).resolve().parent
BEGIN, END = "<!-- cases -->\n", "<!-- end of cases -->"
DRAWN = (
    "ball of 4 mm, sterling-925, in a flame",
    "ball of 4 mm radiating to 293",
    "copper wire",
    "slab of 2745",
    "sterling-925 plate",
    "ring of 16",
)


def main() -> None:
    """Write the table into `heat.md` and the plots beside it."""
    cases = [make() for make in CASES]
    page = HERE / "heat.md"
    text = page.read_text(encoding="utf-8")
    head, _, rest = text.partition(BEGIN)
    page.write_text(head + BEGIN + _table(cases) + END + rest.partition(END)[2], encoding="utf-8")
    _plots([next(case for case in cases if case.name.startswith(name)) for name in DRAWN])


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
