"""Lengths cut from stock lengths: which cuts from which bar, so that least is opened; exact, by the constraint solver.

Everything is in whole hundredths of a mm. A bar of length L holds cuts whose lengths and kerfs come to at most
L + one kerf, since the last cut may end at the bar's own end.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from ..solver import Effort, Model, Term

STEPS_PER_MM = 100
MOST_CUTS_EXACT = 60
MOST_SETS, MOST_TRIED = 20_000, 40
EFFORT = 5.0


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

    Sets of bars are tried in the order of their length together, from the shortest that could hold all cuts: the first
    into which they go is the best. Where no set takes all, the solver lays as much as can be. Up to 60 cuts.
    """
    kerf = round(kerf_mm * STEPS_PER_MM)
    cuts = sorted((_steps_up(one) for one in cuts_mm), reverse=True)
    bars = [round(one * STEPS_PER_MM) for one in stock_mm]
    longest = max(bars, default=0)
    short = [cut for cut in cuts if cut <= longest]
    laid, proven = _best_fit(short, bars, kerf), not short
    if short and len(short) <= MOST_CUTS_EXACT:
        laid, proven = _by_sets(short, bars, kerf) or _as_much_as_can_be(short, bars, kerf, laid)
    return _cutting_of(cuts, bars, laid, kerf, proven)


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


def _by_sets(cuts: list[int], bars: list[int], kerf: int) -> tuple[Laid, bool] | None:
    """Try sets of bars, the shortest together first; None when no set takes all the cuts, or none was found that does."""
    proven = True
    needed = sum(cut + kerf for cut in cuts)
    for chosen in _sets_holding(bars, needed, kerf):
        laid, sure = _into(cuts, [bars[n] for n in chosen], kerf)
        if laid is not None:
            return {chosen[n]: inside for n, inside in laid.items()}, proven
        proven = proven and sure
    return None


def _sets_holding(bars: list[int], needed: int, kerf: int) -> list[tuple[int, ...]]:
    """Give the sets of bars, by their places, that could hold so much, the shortest together first.

    Bars alike are taken in order. With more sets than can be listed, only those near the least are.
    """
    alike: dict[int, list[int]] = {}
    for n, bar in enumerate(bars):
        alike.setdefault(bar, []).append(n)
    sets: list[tuple[int, int, tuple[int, ...]]] = [(0, 0, ())]
    for bar, places in sorted(alike.items(), reverse=True):
        grown = []
        for total, count, chosen in sets:
            enough = total + count * kerf >= needed
            most = 0 if enough else min(len(places), -(-(needed - total - count * kerf) // (bar + kerf)))
            grown += [
                (total + many * bar, count + many, (*chosen, *places[:many])) for many in range(most + 1)
            ]
        sets = sorted(grown)[-MOST_SETS:] if len(grown) > MOST_SETS else grown
    holding = sorted(one for one in sets if one[0] + one[1] * kerf >= needed)
    return [chosen for _, _, chosen in holding[:MOST_TRIED]]


def _into(cuts: list[int], bars: list[int], kerf: int) -> tuple[Laid | None, bool]:
    """Lay all cuts into all these bars, or say that it cannot be, and whether that is sure."""
    laid = _best_fit(cuts, bars, kerf)
    if sum(len(one) for one in laid.values()) == len(cuts):
        return laid, True
    model = Model(relaxed=2)
    takes = _takes(model, cuts, bars, kerf)
    for i, (_, many) in enumerate(_wanted(cuts)):
        model.between(many, [(1, row[i]) for row in takes], many)
    answer = model.feasible(Effort(EFFORT))
    return (None if answer.values is None else _read(cuts, takes, answer.values)), answer.proven


def _wanted(cuts: list[int]) -> list[tuple[int, int]]:
    return sorted(Counter(cuts).items(), reverse=True)


def _takes(model: Model, cuts: list[int], bars: list[int], kerf: int) -> list[list[int]]:
    """Add how many of each length every bar takes, within its room; bars alike are filled the fuller first."""
    wanted = _wanted(cuts)
    takes: list[list[int]] = []
    for n, bar in enumerate(bars):
        row = [model.integer(0, min(many, (bar + kerf) // (cut + kerf))) for cut, many in wanted]
        load: list[Term] = [(cut + kerf, row[i]) for i, (cut, _) in enumerate(wanted)]
        model.at_most(load, bar + kerf)
        if n and bars[n - 1] == bar:
            before: list[Term] = [(cut + kerf, takes[-1][i]) for i, (cut, _) in enumerate(wanted)]
            model.at_least([*before, *((-weight, variable) for weight, variable in load)], 0)
        takes.append(row)
    return takes


def _read(cuts: list[int], takes: list[list[int]], values: tuple[int, ...]) -> Laid:
    laid = {
        n: [cut for i, (cut, _) in enumerate(_wanted(cuts)) for _ in range(values[row[i]])]
        for n, row in enumerate(takes)
    }
    return {n: inside for n, inside in laid.items() if inside}


def _as_much_as_can_be(cuts: list[int], bars: list[int], kerf: int, start: Laid) -> tuple[Laid, bool]:
    """Lay as great a length as can be where not all goes in, then open as little: one weighted sum."""
    model = Model(relaxed=2)
    takes = _takes(model, cuts, bars, kerf)
    opened = [model.boolean() for _ in bars]
    wanted = _wanted(cuts)
    for i, (_, many) in enumerate(wanted):
        model.at_most([(1, row[i]) for row in takes], many)
    for n, row in enumerate(takes):
        model.at_most([*((1, one) for one in row), (-len(cuts), opened[n])], 0)
    heavy = sum(bars) + 1
    terms: list[Term] = [(bars[n], opened[n]) for n in range(len(bars))]
    terms += [(-heavy * cut, row[i]) for row in takes for i, (cut, _) in enumerate(wanted)]
    answer = model.minimise(terms, Effort(EFFORT))
    return (start, False) if answer.values is None else (_read(cuts, takes, answer.values), answer.proven)


def _cutting_of(cuts: list[int], bars: list[int], laid: Laid, kerf: int, proven: bool) -> Cutting:
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
