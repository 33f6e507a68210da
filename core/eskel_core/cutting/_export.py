"""The cut and solder list as CSV and as a PDF of A4 pages, outlines at 1:1 with a bar to check the print by."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from importlib.resources import as_file, files
from typing import Any

from ..faults import refuse
from ..forms import Outline, Sheet, outline_box, outline_rings, outline_size_mm
from ..piece import Piece, part_of
from ..units import METRIC, Units, grams, length, speak
from ..units import Sheet as Csv
from ._list import CutAndSolder
from ._rows import CutRow

SCALE_BAR_MM = 50
_PAGE = (210.0, 297.0)
_EDGE = 15.0
_HEAD = (
    "part",
    "metal",
    "stock",
    "gauge",
    "how many",
    "cut each mm",
    "area mm2",
    "kerf mm",
    "mass each g",
    "mass g",
)


def cut_list_csv(whole: CutAndSolder) -> str:
    """Write the list as CSV: cuts, then bars, then solder, then what to buy, each with a heading of its own."""
    sheet = Csv()
    sheet.writerow(_HEAD)
    for row in whole.rows:
        sheet.writerow(_cells(row))
    sheet.writerow([])
    sheet.writerow(("bar of", "length mm", "cuts mm", "left mm"))
    for plan in whole.lengths:
        for bar in plan.bars:
            cuts = "; ".join(f"{name} {length:.2f}" for name, length in bar.cuts)
            sheet.writerow(
                (f"{plan.metal}, {plan.stock}", f"{bar.length_mm:.2f}", cuts, f"{bar.left_mm:.2f}")
            )
    sheet.writerow([])
    sheet.writerow(("join", "solder", "placing", "amount", "mass mg"))
    for made in whole.solder:
        sheet.writerow((made.join, made.solder, made.placing, made.amount, f"{made.mass_mg:.2f}"))
    sheet.writerow([])
    sheet.writerow(("buy", "amount", "mass g"))
    for line in whole.buy:
        sheet.writerow((line.what, line.amount, f"{line.mass_g:.3f}"))
    return sheet.text


def _cells(row: CutRow) -> tuple[str, ...]:
    return (
        row.title,
        row.metal_name,
        row.stock,
        row.gauge,
        str(row.count),
        "" if row.length_mm is None else f"{row.length_mm:.2f}",
        "" if row.area_mm2 is None else f"{row.area_mm2:.1f}",
        f"{row.kerf_mm:.2f}",
        f"{row.mass_g:.3f}",
        f"{row.mass_g * row.count:.3f}",
    )


def cut_list_pdf(whole: CutAndSolder, piece: Piece, units: Units = METRIC) -> bytes:
    """Write the list as a PDF of A4 pages, in the units of a house; outlines of the sheet parts follow at 1:1."""
    page = _blank_pdf()
    page.add_page()
    _title(page, f"Cut and solder list: {whole.piece}")
    _table(
        page,
        "To cut",
        ("part", "stock", "how many", "each", "mass"),
        _spoken([_short(row) for row in whole.rows], units),
        (50, 62, 20, 26, 22),
    )
    bars = [
        (
            f"{plan.metal}, {plan.stock}",
            length(bar.length_mm, 1),
            ", ".join(length(cut_mm, 1) for _, cut_mm in bar.cuts),
            length(bar.left_mm, 1),
        )
        for plan in whole.lengths
        for bar in plan.bars
    ]
    _table(
        page,
        "From the bars on the bench",
        ("stock", "bar", "cuts", "left"),
        _spoken(bars, units),
        (62, 24, 70, 24),
    )
    solder = [(one.join, one.grade, one.placing.replace("-", " "), one.amount) for one in whole.solder]
    _table(page, "Solder", ("join", "grade", "placing", "amount"), _spoken(solder, units), (60, 30, 36, 54))
    _table(
        page,
        "To buy",
        ("what", "amount"),
        _spoken([(one.what, one.amount) for one in whole.buy], units),
        (110, 70),
    )
    _outlines(page, whole, piece)
    return bytes(page.output())


def _spoken(rows: Iterable[tuple[str, ...]], units: Units) -> list[tuple[str, ...]]:
    return [tuple(speak(cell, units) for cell in row) for row in rows]


def _short(row: CutRow) -> tuple[str, ...]:
    each = length(row.length_mm, 2) if row.length_mm is not None else ""
    if row.area_mm2 is not None:
        each = f"{row.area_mm2:.0f} mm²"
    return (
        row.title,
        f"{row.metal_name}, {row.stock}",
        str(row.count),
        each,
        grams(row.mass_g * row.count),
    )


def _blank_pdf() -> Any:
    """Begin a PDF in the shipped typeface (fpdf2, a kept library that needs nothing of the system)."""
    from fpdf import FPDF

    page = FPDF(unit="mm", format="A4")
    page.set_margin(_EDGE)
    page.set_auto_page_break(True, _EDGE)
    with as_file(files("eskel_core") / "data" / "fonts") as fonts:
        page.add_font("legible", "", fonts / "regular.ttf")
        page.add_font("legible", "B", fonts / "bold.ttf")
    page.set_font("legible", size=10)
    page.set_creator("Eskel")
    return page


def _title(page: Any, text: str) -> None:
    page.set_font("legible", "B", 16)
    page.multi_cell(0, 8, text, new_x="LMARGIN", new_y="NEXT")


def _table(
    page: Any, title: str, head: tuple[str, ...], rows: Sequence[tuple[str, ...]], widths: tuple[int, ...]
) -> None:
    if not rows:
        return
    page.ln(4)
    page.set_font("legible", "B", 12)
    page.cell(0, 7, title, new_x="LMARGIN", new_y="NEXT")
    page.set_font("legible", size=9)
    with page.table(
        col_widths=widths, borders_layout="HORIZONTAL_LINES", line_height=5, text_align="LEFT"
    ) as table:
        for cells in (head, *rows):
            row = table.row()
            for cell in cells:
                row.cell(cell)


def _outlines(page: Any, whole: CutAndSolder, piece: Piece) -> None:
    """Draw each sheet part's outline at 1:1 on a page of its own size or on A4, with a bar of 50 mm."""
    for row in whole.rows:
        if not isinstance(row.form, Sheet):
            continue
        rings, (wide, high) = placed_at_zero(row.form.outline)
        size = (max(_PAGE[0], wide + 2 * _EDGE), max(_PAGE[1], high + 2 * _EDGE + 30))
        page.add_page(format=size)
        page.set_font("legible", "B", 12)
        page.cell(0, 7, f"{row.title}, {row.count} of it, at 1:1", new_x="LMARGIN", new_y="NEXT")
        page.set_line_width(0.1)
        top = page.get_y() + 4
        for ring in rings:
            page.polygon([(_EDGE + x, top + high - y) for x, y in ring])
        _scale_bar(page, top + high + 8)


def _scale_bar(page: Any, y: float) -> None:
    page.line(_EDGE, y, _EDGE + SCALE_BAR_MM, y)
    for x in (_EDGE, _EDGE + SCALE_BAR_MM):
        page.line(x, y - 1.5, x, y + 1.5)
    page.set_font("legible", size=9)
    page.text(_EDGE + SCALE_BAR_MM + 3, y + 1, f"{SCALE_BAR_MM} mm: measure this bar after printing")


def placed_at_zero(outline: Outline) -> tuple[list[list[tuple[float, float]]], tuple[float, float]]:
    """Give the lines of an outline from its own lower left corner, and how wide and high it is, mm."""
    (left, low), _ = outline_box(outline)
    moved = [[(x - left, y - low) for x, y in ring] for ring in outline_rings(outline)]
    return moved, outline_size_mm(outline)


def outline_svg(piece: Piece, name: str) -> str:
    """Write a sheet part's outline as SVG at 1:1, to print and stick on the metal; raise `Refused` for other parts."""
    try:
        part = part_of(piece, name)
    except KeyError as problem:
        raise refuse(
            "unknown-id", "part", name, "a part of that id exists", "Choose one of the piece's parts."
        ) from problem
    if not isinstance(part.form, Sheet):
        raise refuse("contradiction", "part", name, "only sheet has an outline", "Choose a part of sheet.")
    rings, (wide, high) = placed_at_zero(part.form.outline)
    margin, foot = 1.0, 9.0
    paths = "".join(
        "M" + "L".join(f"{x + margin:.3f} {high - y + margin:.3f}" for x, y in ring) + "Z" for ring in rings
    )
    across, up = max(wide, 40.0) + 2 * margin, high + 2 * margin + foot
    bar = high + margin + 4
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{across:.3f}mm" height="{up:.3f}mm" viewBox="0 0 {across:.3f} {up:.3f}">'
        f'<path d="{paths}" fill="none" stroke="black" stroke-width="0.1"/>'
        f'<path d="M{margin} {bar:.3f}h20m-20 -1v2m20 -2v2" fill="none" stroke="black" stroke-width="0.1"/>'
        f'<text x="{margin}" y="{bar + 3.5:.3f}" font-size="2.5">20 mm: measure this bar after printing</text></svg>\n'
    )
