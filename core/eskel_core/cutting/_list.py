"""The cut and solder list of a piece: blanks, how they come out of the stock, what to buy, what scrap serves."""

from __future__ import annotations

from itertools import groupby
from typing import Any

from pydantic import BaseModel, ConfigDict

from ..forms import Sheet, outline_size_mm
from ..piece import Bench, Piece, metals_of, resolve_bench
from ..plan import Plan
from ..sizes import calculate
from ..units import grams, length
from ._bars import Cutting, cut_bars
from ._rows import CutRow, area_of, cut_rows, kerf_for, stock_key
from ._solder import SolderRow, SolderTotal, solder_rows, solder_totals

MARGIN_MM = 0.5


class BarPlan(BaseModel):
    """One bar of stock and what is cut from it, in order; `bought` bars are not owned yet."""

    model_config = ConfigDict(frozen=True)

    length_mm: float
    cuts: tuple[tuple[str, float], ...]
    left_mm: float


class LengthPlan(BaseModel):
    """How all lengths of one stock are cut: the bars opened, the waste, and what must be bought."""

    model_config = ConfigDict(frozen=True)

    metal: str
    stock: str
    kerf_mm: float
    bars: tuple[BarPlan, ...]
    left_mm: float
    proven: bool
    buy_mm: float


class SheetPlan(BaseModel):
    """How outlines of one thickness lie on one sheet that is owned."""

    model_config = ConfigDict(frozen=True)

    metal: str
    stock: str
    width_mm: float
    height_mm: float
    placed: tuple[str, ...]
    used_pct: float
    left_width_mm: float
    left_height_mm: float
    svg: str


class BuyLine(BaseModel):
    """Something to be bought: metal by length, area or mass, solder by mass."""

    model_config = ConfigDict(frozen=True)

    what: str
    amount: str
    mass_g: float


class ScrapOffer(BaseModel):
    """Scrap of a metal that serves for balls or a pour of the same metal."""

    model_config = ConfigDict(frozen=True)

    metal: str
    have_g: float
    wanted_g: float
    text: str


class CutAndSolder(BaseModel):
    """The whole list."""

    model_config = ConfigDict(frozen=True)

    piece: str
    rows: tuple[CutRow, ...]
    lengths: tuple[LengthPlan, ...]
    sheets: tuple[SheetPlan, ...]
    solder: tuple[SolderRow, ...]
    solder_totals: tuple[SolderTotal, ...]
    buy: tuple[BuyLine, ...]
    scrap: tuple[ScrapOffer, ...]
    mass_by_metal_g: dict[str, float]


def cut_and_solder(piece: Piece, plan: Plan, bench: Bench | None = None) -> CutAndSolder:
    """Make the cut and solder list of a planned piece on a bench."""
    at_hand = resolve_bench(bench, piece.bench)
    rows = cut_rows(piece, at_hand)
    lengths, buy = _lengths(piece, rows, at_hand)
    sheets, more = _sheets(piece, rows, at_hand)
    offers = _scrap(piece, rows, at_hand)
    solder = solder_rows(piece, plan)
    totals = solder_totals(solder, at_hand)
    short = [
        BuyLine(what=f"{total.solder} ({total.grade})", amount=grams(total.buy_g), mass_g=total.buy_g)
        for total in totals
        if total.buy_g > 0
    ]
    masses: dict[str, float] = {}
    for row in rows:
        masses[row.metal] = masses.get(row.metal, 0.0) + row.mass_g * row.count
    return CutAndSolder(
        piece=piece.name,
        rows=rows,
        lengths=lengths,
        sheets=sheets,
        solder=solder,
        solder_totals=totals,
        buy=(*buy, *more, *short),
        scrap=offers,
        mass_by_metal_g=masses,
    )


def _grouped(rows: tuple[CutRow, ...]) -> list[tuple[str, list[CutRow]]]:
    ordered = sorted(rows, key=lambda row: row.key)
    return [(key, list(group)) for key, group in groupby(ordered, key=lambda row: row.key)]


def _lengths(
    piece: Piece, rows: tuple[CutRow, ...], bench: Bench
) -> tuple[tuple[LengthPlan, ...], list[BuyLine]]:
    plans, buy = [], []
    for key, group in _grouped(tuple(row for row in rows if row.length_mm is not None)):
        stock = [
            kept.form.length_mm
            for kept in bench.stock or ()
            if kept.form.kind in ("wire", "strip", "tube") and f"{kept.metal} {stock_key(kept.form)}" == key
            for _ in range(min(kept.count, 200))
        ]
        cuts = [(row, row.length_mm or 0.0) for row in group for _ in range(row.count)]
        kerf = group[0].kerf_mm
        cutting = cut_bars([length for _, length in cuts], sorted(stock, reverse=True), kerf)
        plan = _named(group[0], cuts, cutting, kerf)
        plans.append(plan)
        if plan.buy_mm:
            mass = _per_mm(group[0]) * plan.buy_mm
            buy.append(
                BuyLine(
                    what=f"{group[0].metal_name}, {group[0].stock}",
                    amount=f"{length(plan.buy_mm, 1)}",
                    mass_g=mass,
                )
            )
    return tuple(plans), buy


def _per_mm(row: CutRow) -> float:
    return row.mass_g / (row.length_mm or 1.0)


def _named(row: CutRow, cuts: list[tuple[CutRow, float]], cutting: Cutting, kerf: float) -> LengthPlan:
    """Give the cuts of every bar the names of what is cut."""
    waiting = sorted(cuts, key=lambda one: -one[1])
    bars = []
    for bar in cutting.bars:
        named = []
        for cut_mm in bar.cuts_mm:
            n = min(range(len(waiting)), key=lambda at: abs(waiting[at][1] - cut_mm))
            owner, exact = waiting.pop(n)
            named.append((owner.title, exact))
        bars.append(BarPlan(length_mm=bar.length_mm, cuts=tuple(named), left_mm=bar.left_mm))
    missing = cutting.missing_mm
    return LengthPlan(
        metal=row.metal_name,
        stock=row.stock,
        kerf_mm=kerf,
        bars=tuple(bars),
        left_mm=cutting.left_mm,
        proven=cutting.proven,
        buy_mm=sum(missing) + kerf * max(0, len(missing) - 1) if missing else 0.0,
    )


def _sheets(
    piece: Piece, rows: tuple[CutRow, ...], bench: Bench
) -> tuple[tuple[SheetPlan, ...], list[BuyLine]]:
    """Lay the outlines of each thickness on the sheets owned, the smallest that takes any first."""
    plans: list[SheetPlan] = []
    buy: list[BuyLine] = []
    for key, group in _grouped(tuple(row for row in rows if row.area_mm2 is not None)):
        wanted = {row.id: row.count for row in group}
        for width, height in _owned_sheets(bench, key):
            laid = _lay(group, wanted, (width, height), bench)
            if laid is None:
                continue
            plans.append(laid)
        short = [row.model_copy(update={"count": wanted[row.id]}) for row in group if wanted[row.id]]
        if short:
            area = area_of(short)
            mass = sum(row.mass_g * row.count for row in short)
            buy.append(
                BuyLine(
                    what=f"{group[0].metal_name}, {group[0].stock}",
                    amount=f"{area / 100:.1f} cm² at least",
                    mass_g=mass,
                )
            )
    return tuple(plans), buy


def _owned_sheets(bench: Bench, key: str) -> list[tuple[float, float]]:
    found = []
    for kept in bench.stock or ():
        if isinstance(kept.form, Sheet) and f"{kept.metal} {stock_key(kept.form)}" == key:
            wide, high = outline_size_mm(kept.form.outline)
            found += [(max(wide, high), min(wide, high))] * min(kept.count, 20)
    return sorted(found, key=lambda one: one[0] * one[1])


def _lay(
    group: list[CutRow], wanted: dict[str, int], size: tuple[float, float], bench: Bench
) -> SheetPlan | None:
    """Lay what is still wanted on one sheet, and count it off; None when nothing fits."""
    outlines: list[dict[str, Any]] = []
    for row in group:
        if wanted[row.id] and isinstance(row.form, Sheet) and _fits(row.form, size):
            outline = row.form.outline.model_dump(mode="json", exclude_none=True)
            outlines.append({"outline": outline, "count": min(wanted[row.id], 400), "name": row.id})
    if not outlines:
        return None
    sheet = {"width_mm": size[0], "height_mm": size[1]}
    asked = {
        "outlines": outlines,
        "sheet": sheet,
        "kerf_mm": kerf_for(_thickness_of(group[0]), bench),
        "margin_mm": MARGIN_MM,
    }
    found = calculate("nest", asked).found.model_dump(mode="python", exclude={"sketch"})
    titles = {row.id: row.title for row in group}
    for place in found["placed"]:
        wanted[place["name"]] -= 1
    return SheetPlan(
        metal=group[0].metal_name,
        stock=group[0].stock,
        width_mm=size[0],
        height_mm=size[1],
        placed=tuple(titles[place["name"]] for place in found["placed"]),
        used_pct=found["used_pct"],
        left_width_mm=found["left_width_mm"],
        left_height_mm=found["left_height_mm"],
        svg=found["svg"],
    )


def _fits(form: Sheet, size: tuple[float, float]) -> bool:
    wide, high = outline_size_mm(form.outline)
    room = (size[0] - 2 * MARGIN_MM, size[1] - 2 * MARGIN_MM)
    return max(wide, high) <= max(room) and min(wide, high) <= min(room)


def _thickness_of(row: CutRow) -> float:
    return row.form.thickness_mm if isinstance(row.form, Sheet) else 1.0


def _scrap(piece: Piece, rows: tuple[CutRow, ...], bench: Bench) -> tuple[ScrapOffer, ...]:
    """Offer scrap of the same metal to balls, and to pours of the piece."""
    have: dict[str, float] = {}
    for scrap in bench.scrap or ():
        have[scrap.metal] = have.get(scrap.metal, 0.0) + scrap.mass_g
    wanted: dict[str, float] = {}
    for row in rows:
        if row.form.kind == "ball":
            wanted[row.metal] = wanted.get(row.metal, 0.0) + row.mass_g * row.count
    metals_in = {part.id: part.metal for part in piece.parts}
    for work in piece.work:
        if work.kind in ("pour", "melt") and work.mass_g and work.parts:
            metal = metals_in.get(work.parts[0].split("#")[0])
            if metal:
                wanted[metal] = wanted.get(metal, 0.0) + work.mass_g
    names = metals_of(piece)
    return tuple(
        ScrapOffer(
            metal=metal, have_g=have[metal], wanted_g=mass, text=_offer(names[metal].name, have[metal], mass)
        )
        for metal, mass in wanted.items()
        if metal in have
    )


def _offer(name: str, have: float, wanted: float) -> str:
    if have >= wanted:
        return (
            f"{grams(wanted)} of {name.lower()} for balls and pours can come from the {grams(have)} of scrap."
        )
    return f"The {grams(have)} of {name.lower()} scrap serve for a part of the {grams(wanted)} for balls and pours."
