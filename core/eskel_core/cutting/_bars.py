"""Lengths cut from stock lengths: which cuts from which bar, so that least is opened; exact, by the constraint solver.

Everything is in whole hundredths of a mm. A bar of length L holds cuts whose lengths and kerfs come to at most
L + one kerf, since the last cut may end at the bar's own end.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from ..solver import Model, Term

STEPS_PER_MM = 100
MOST_CUTS_EXACT = 60
EFFORT = 4.0


@dataclass(frozen=True)
class Bar:
    """One bar as it is cut: which of the stock (None: to be bought), its length, its cuts, what is left, all in mm."""

    stock: int | None
    length_mm: float
    cuts_mm: tuple[float, ...]
    left_mm: float


@dataclass(frozen=True)
class Cutting:
    """How lengths are cut: the bars opened, the cuts that found no stock, and whether no way opens less (proven)."""

    bars: tuple[Bar, ...]
    missing_mm: tuple[float, ...]
    proven: bool

    @property
    def opened_mm(self) -> float:
        """The length of every bar opened."""
        return sum(bar.length_mm for bar in self.bars)

    @property
    def left_mm(self) -> float:
        """What is left of every bar opened, kerfs not counted."""
        return sum(bar.left_mm for bar in self.bars)


def cut_bars(cuts_mm: list[float], stock_mm: list[float], kerf_mm: float) -> Cutting:
    """Cut lengths from stock: as much as can be, and from as little stock as can be.

    Best-fit first; where that is not plainly the best already, the solver makes it so, up to 60 cuts, and says
    whether it is proven.
    """
    kerf = round(kerf_mm * STEPS_PER_MM)
    cuts = sorted((_steps_up(one) for one in cuts_mm), reverse=True)
    bars = [round(one * STEPS_PER_MM) for one in stock_mm]
    laid = _best_fit(cuts, bars, kerf)
    proven = _is_plainly_best(cuts, bars, laid, kerf)
    if not proven and len(cuts) <= MOST_CUTS_EXACT and bars:
        laid, proven = _exact(cuts, bars, kerf, laid)
    return _told(cuts, bars, laid, kerf, proven)


def _steps_up(mm: float) -> int:
    """Give whole steps that are never shorter than the length."""
    return -int(-mm * STEPS_PER_MM // 1) if mm * STEPS_PER_MM % 1 > 1e-6 else round(mm * STEPS_PER_MM)


Laid = dict[int, list[int]]


def _best_fit(cuts: list[int], bars: list[int], kerf: int) -> Laid:
    """Lay the longest cut first, each into the opened bar it fills best, else into the shortest bar that takes it."""
    laid: Laid = {}
    room: dict[int, int] = {}
    for cut in cuts:
        fits = [n for n in laid if room[n] >= cut + kerf]
        fresh = [n for n in range(len(bars)) if n not in laid and bars[n] + kerf >= cut + kerf]
        if fits:
            chosen = min(fits, key=lambda n: (room[n], n))
        elif fresh:
            chosen = min(fresh, key=lambda n: (bars[n], n))
            laid[chosen], room[chosen] = [], bars[chosen] + kerf
        else:
            continue
        laid[chosen].append(cut)
        room[chosen] -= cut + kerf
    return laid


def _is_plainly_best(cuts: list[int], bars: list[int], laid: Laid, kerf: int) -> bool:
    """Say whether all cuts are laid and no smaller set of bars could hold their sum."""
    if sum(len(one) for one in laid.values()) < len(cuts):
        return not any(max(cuts, default=0) <= bar for bar in bars) or not cuts
    opened = sum(bars[n] for n in laid)
    needed = sum(cut + kerf for cut in cuts)
    return opened == _least_holding(bars, needed, kerf, opened)


def _least_holding(bars: list[int], needed: int, kerf: int, most: int) -> int:
    """Give the least total of bars that together could hold so much: a bound that no way of cutting beats."""
    sums = {0: 0}
    for bar in bars:
        for total, count in list(sums.items()):
            if total + bar <= most:
                sums[total + bar] = max(sums.get(total + bar, 0), count + 1)
        if len(sums) > 20_000:
            return 0
    return min((total for total, count in sums.items() if total + count * kerf >= needed), default=most)


def _exact(cuts: list[int], bars: list[int], kerf: int, start: Laid) -> tuple[Laid, bool]:
    """Make the laid length greatest and then the opened length least, in one weighted sum."""
    model = Model()
    wanted = sorted(Counter(cuts).items(), reverse=True)
    takes: list[list[int]] = []
    opened = [model.boolean() for _ in bars]
    for n, bar in enumerate(bars):
        row = [model.integer(0, min(many, (bar + kerf) // (cut + kerf))) for cut, many in wanted]
        takes.append(row)
        load: list[Term] = [(cut + kerf, row[i]) for i, (cut, _) in enumerate(wanted)]
        model.at_most([*load, (-(bar + kerf), opened[n])], 0)
    for i, (_, many) in enumerate(wanted):
        model.at_most([(1, row[i]) for row in takes], many)
    for n in range(1, len(bars)):
        if bars[n] == bars[n - 1]:
            model.at_most([(1, opened[n]), (-1, opened[n - 1])], 0)
            before: list[Term] = [(cut, takes[n - 1][i]) for i, (cut, _) in enumerate(wanted)]
            here: list[Term] = [(-cut, takes[n][i]) for i, (cut, _) in enumerate(wanted)]
            model.at_least([*before, *here], 0)
    heavy = sum(bars) + 1
    terms: list[Term] = [(bars[n], opened[n]) for n in range(len(bars))]
    terms += [(-heavy * cut, row[i]) for row in takes for i, (cut, _) in enumerate(wanted)]
    answer = model.minimise(terms, EFFORT)
    if answer.values is None:
        return start, False
    laid: Laid = {}
    for n, row in enumerate(takes):
        inside = [cut for i, (cut, _) in enumerate(wanted) for _ in range(answer.values[row[i]])]
        if inside:
            laid[n] = inside
    return laid, answer.proven


def _told(cuts: list[int], bars: list[int], laid: Laid, kerf: int, proven: bool) -> Cutting:
    missing = Counter(cuts)
    told = []
    for n, inside in sorted(laid.items()):
        missing -= Counter(inside)
        left = max(0, bars[n] - sum(inside) - kerf * len(inside))
        told.append(
            Bar(
                stock=n,
                length_mm=bars[n] / STEPS_PER_MM,
                cuts_mm=tuple(cut / STEPS_PER_MM for cut in sorted(inside, reverse=True)),
                left_mm=left / STEPS_PER_MM,
            )
        )
    short = tuple(cut / STEPS_PER_MM for cut in sorted(missing.elements(), reverse=True))
    return Cutting(bars=tuple(told), missing_mm=short, proven=proven)
