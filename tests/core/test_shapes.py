"""Outlines from files: true area and perimeter whatever the unit, holes counted out, and reasons where nothing can be read."""

import io
import math
from typing import Any

import ezdxf
import pytest

from eskel_core.cutting import outline_svg
from eskel_core.faults import Refused
from eskel_core.piece import piece_from_object, weigh
from eskel_core.shapes import read_outline


def svg(inside: str, size: str = 'width="40mm" height="20mm" viewBox="0 0 40 20"') -> str:
    return f'<svg xmlns="http://www.w3.org/2000/svg" {size}>{inside}</svg>'


def dxf(draw: Any, units: int = 4) -> str:
    document = ezdxf.new("R2000")
    document.header["$INSUNITS"] = units
    draw(document.modelspace())
    out = io.StringIO()
    document.write(out)
    return out.getvalue()


PLATE = '<rect x="5" y="5" width="30" height="10"/>'
# (svg, unit asked, area mm², perimeter mm, holes)
DRAWN = [
    (svg(PLATE), None, 300, 80, 0),
    (svg(PLATE + '<circle cx="10" cy="10" r="2"/>'), None, 300 - 4 * math.pi, 80 + 4 * math.pi, 1),
    (svg('<path d="M0 0H30V10H0Z M5 2V8H10V2Z"/>'), None, 300 - 30, 80 + 22, 1),
    (svg(PLATE, 'width="4cm" height="2cm" viewBox="0 0 400 200"'), None, 3, 8, 0),
    (svg(PLATE, 'width="40in" height="20in" viewBox="0 0 40 20"'), None, 300 * 25.4**2, 80 * 25.4, 0),
    (svg(PLATE, 'viewBox="0 0 40 20"'), "mm", 300, 80, 0),
    (svg(PLATE, 'viewBox="0 0 40 20"'), "inch", 300 * 25.4**2, 80 * 25.4, 0),
    (svg(PLATE, ""), "px", 300 * (25.4 / 96) ** 2, 80 * 25.4 / 96, 0),
    (svg(f'<g transform="rotate(30) scale(2)">{PLATE}</g>'), None, 1200, 160, 0),
    (svg('<ellipse cx="20" cy="10" rx="7" ry="5"/>'), None, 35 * math.pi, 37.961, 0),
    (
        svg(PLATE + '<rect x="0" y="0" width="40" height="20" style="display:none" display="none"/>'),
        None,
        300,
        80,
        0,
    ),
    (
        svg(
            '<line x1="0" y1="0" x2="30" y2="0"/><line x1="30" y1="0" x2="30" y2="10"/><polyline points="30,10 0,10 0,0"/>'
        ),
        None,
        300,
        80,
        0,
    ),
]


@pytest.mark.parametrize(("text", "unit", "area", "around", "holes"), DRAWN)
def test_an_svg_is_read_with_its_true_measures(
    text: str, unit: Any, area: float, around: float, holes: int
) -> None:
    drawn = read_outline("plate.svg", text, unit)
    assert drawn.area_mm2 == pytest.approx(area, rel=2e-3)
    assert drawn.perimeter_mm == pytest.approx(around, rel=2e-3)
    assert drawn.holes == holes


def square(space: Any, side: float = 10) -> None:
    space.add_lwpolyline([(0, 0), (side, 0), (side, side), (0, side)], close=True)


def lines_and_arc(space: Any) -> None:
    """A D of 10 high: a straight side and a half circle."""
    space.add_line((0, 0), (0, 10))
    space.add_arc((0, 5), 5, -90, 90)


def ring(space: Any) -> None:
    space.add_circle((20, 20), 6)
    space.add_circle((20, 20), 4)


def bulged(space: Any) -> None:
    """A stadium: two straights of 10, two half circles by bulges."""
    space.add_lwpolyline([(0, 0, 0), (10, 0, 1), (10, 6, 0), (0, 6, 1)], format="xyb", close=True)


@pytest.mark.parametrize(
    ("draw", "units", "unit", "area", "around", "holes"),
    [
        (square, 4, None, 100, 40, 0),
        (square, 1, None, 100 * 25.4**2, 40 * 25.4, 0),
        (square, 0, "cm", 10_000, 400, 0),
        (lines_and_arc, 4, None, 12.5 * math.pi, 10 + 5 * math.pi, 0),
        (ring, 4, None, 20 * math.pi, 20 * math.pi, 1),
        (bulged, 4, None, 60 + 9 * math.pi, 20 + 6 * math.pi, 0),
    ],
)
def test_a_dxf_is_read_with_its_true_measures(
    draw: Any, units: int, unit: Any, area: float, around: float, holes: int
) -> None:
    drawn = read_outline("plate.DXF", dxf(draw, units), unit)
    assert drawn.area_mm2 == pytest.approx(area, rel=2e-3)
    assert drawn.perimeter_mm == pytest.approx(around, rel=2e-3)
    assert drawn.holes == holes


BOMB = '<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>' + svg("<text>&b;</text>")


@pytest.mark.parametrize(
    ("name", "text", "code"),
    [
        ("plate.svg", svg(PLATE, 'viewBox="0 0 40 20"'), "unit-unknown"),
        ("plate.dxf", dxf(square, 0), "unit-unknown"),
        ("plate.svg", "no drawing", "not-a-drawing"),
        ("plate.svg", "<html/>", "not-a-drawing"),
        ("plate.svg", BOMB, "not-a-drawing"),
        ("plate.dxf", "0\nSECTION\n", "not-a-drawing"),
        ("plate.dxf", "", "not-a-drawing"),
        ("plate.png", "x", "not-a-drawing"),
        ("plate", "x", "not-a-drawing"),
        ("plate.svg", svg("<g/>"), "not-closed"),
        ("plate.svg", svg('<path d="M0 0H30V10"/>'), "not-closed"),
        (
            "plate.svg",
            svg('<rect width="9" height="9"/>', 'width="900in" height="900in" viewBox="0 0 9 9"'),
            "out-of-range",
        ),
    ],
)
def test_what_cannot_be_read_says_why(name: str, text: str, code: str) -> None:
    with pytest.raises(Refused) as caught:
        read_outline(name, text)
    (fault,) = caught.value.faults
    assert fault.code == code
    assert fault.remedy


def test_a_read_outline_makes_a_part_and_comes_back_the_same_when_written() -> None:
    drawn = read_outline("plate.svg", DRAWN[1][0])
    form = {"kind": "sheet", "thickness_mm": 1, "outline": drawn.outline.model_dump()}
    made = piece_from_object(
        {"format": "eskel-piece/1", "name": "t", "parts": [{"id": "p", "metal": "copper", "form": form}]}
    )
    assert weigh(made).parts[0].mass_g == pytest.approx((300 - 4 * math.pi) * 8.94 / 1000, rel=1e-3)
    again = read_outline("again.svg", outline_svg(made, "p"))
    assert again.area_mm2 == pytest.approx(drawn.area_mm2, rel=1e-4)
    assert again.holes == 1
