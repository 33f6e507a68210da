"""Measures of forms against worked values and against what must hold of any form."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from eskel_core.forms import (
    BENDS,
    Bend,
    Form,
    bend_line,
    contact_of,
    line_length_mm,
    measure,
    outline_perimeter_mm,
    plan_view,
)
from eskel_core.piece import piece_from_object, weigh

FORM: TypeAdapter[Form] = TypeAdapter(Form)


def form(**keys: object) -> Form:
    return FORM.validate_python(keys)


def rnd(diameter: float) -> dict[str, object]:
    return {"kind": "round", "diameter_mm": diameter}


# Worked by hand; the first four are the check values of the trade's formula sheet.
VOLUMES = [
    (form(kind="sheet", thickness_mm=0.8, outline={"kind": "rect", "width_mm": 30, "height_mm": 20}), 480.0),
    (form(kind="tube", outer_mm=4, wall_mm=0.4, length_mm=6), 27.143),
    (form(kind="wire", profile={"kind": "half-round", "width_mm": 4, "height_mm": 1.5}, length_mm=1), 4.419),
    (form(kind="wire", profile=rnd(1), length_mm=10, strands=2, pitch_mm=6), 2 * 10 * 1.12878 * math.pi / 4),
    (
        form(kind="wire", profile=rnd(0.8), length_mm=10, strands=3, pitch_mm=8),
        3 * 10 * 1.06379 * math.pi * 0.16,
    ),
    (form(kind="ball", diameter_mm=2.2), math.pi * 2.2**3 / 6),
    (form(kind="strip", width_mm=3, thickness_mm=0.5, length_mm=40), 60.0),
    (
        form(kind="sheet", thickness_mm=1, outline={"kind": "ring", "outer_mm": 10, "inner_mm": 6}),
        math.pi * 16,
    ),
    (
        form(kind="sheet", thickness_mm=1, outline={"kind": "polygon", "points": [[0, 0], [10, 0], [10, 5]]}),
        25.0,
    ),
    (form(kind="sheet", thickness_mm=1, outline={"kind": "path", "path": "M0 0H10V5H0Z M2 2H4V4H2Z"}), 46.0),
    (
        form(
            kind="sheet",
            thickness_mm=2,
            outline={"kind": "rect", "width_mm": 12, "height_mm": 8, "corner_mm": 2},
        ),
        2 * (96 - (4 - math.pi) * 4),
    ),
]


@pytest.mark.parametrize(("shape", "volume"), VOLUMES)
def test_volume(shape: Form, volume: float) -> None:
    assert measure(shape).volume_mm3 == pytest.approx(volume, rel=2e-4)


def test_ellipse_perimeter_is_the_complete_elliptic_integral() -> None:
    """14 × 10 ellipse: bezel of 0.35 strip is 39.06 long, which is the perimeter and π·t."""
    shape = form(kind="sheet", thickness_mm=1, outline={"kind": "ellipse", "width_mm": 14, "height_mm": 10})
    assert outline_perimeter_mm(shape.outline) + math.pi * 0.35 == pytest.approx(39.06, abs=0.005)


def test_weigh_multiplies_by_count_and_copies() -> None:
    """30 × 20 × 0.8 sterling weighs 4.973 g."""
    outline = {"kind": "rect", "width_mm": 30, "height_mm": 20}
    part = {"id": "p", "metal": "sterling-925", "count": 3}
    part["form"] = {"kind": "sheet", "thickness_mm": 0.8, "outline": outline}
    weights = weigh(piece_from_object({"format": "eskel-piece/1", "name": "x", "copies": 2, "parts": [part]}))
    assert weights.parts[0].mass_g == pytest.approx(4.9728)
    assert weights.totals.mass_g == pytest.approx(3 * 4.9728)
    assert weights.totals.mass_all_copies_g == pytest.approx(6 * 4.9728)


sizes = st.floats(min_value=0.2, max_value=80)


@given(sizes, sizes, st.floats(min_value=1.1, max_value=5))
def test_volume_grows_with_the_cube_and_surface_with_the_square(
    length: float, across: float, factor: float
) -> None:
    small = measure(form(kind="wire", profile=rnd(across), length_mm=length))
    large = measure(form(kind="wire", profile=rnd(across * factor), length_mm=length * factor))
    assert large.volume_mm3 == pytest.approx((small.volume_mm3 or 0) * factor**3)
    assert large.surface_mm2 == pytest.approx(small.surface_mm2 * factor**2)


@given(sizes, st.floats(min_value=0, max_value=0.45))
def test_a_dome_keeps_the_volume_of_its_blank_and_narrows(diameter: float, share: float) -> None:
    disc = {"kind": "disc", "diameter_mm": diameter}
    flat = form(kind="sheet", thickness_mm=0.5, outline=disc)
    dome = form(kind="sheet", thickness_mm=0.5, outline=disc, domed_mm=diameter * share)
    assert measure(dome).volume_mm3 == measure(flat).volume_mm3
    assert plan_view(dome).width_mm <= plan_view(flat).width_mm + 1e-9


@given(sizes, sizes)
def test_the_plan_view_of_straight_wire_is_its_length_and_width(length: float, across: float) -> None:
    view = plan_view(form(kind="wire", profile=rnd(across), length_mm=length))
    assert (view.height_mm, view.width_mm) == pytest.approx((across, length + across))


STRIP = form(kind="strip", width_mm=3, thickness_mm=0.4, length_mm=25)
ROUND = form(kind="wire", profile=rnd(1.2), length_mm=20)
PLATE = form(kind="sheet", thickness_mm=1, outline={"kind": "rect", "width_mm": 30, "height_mm": 20})
DISC = form(kind="sheet", thickness_mm=0.5, outline={"kind": "disc", "diameter_mm": 10})
BEAD = form(kind="ball", diameter_mm=3)
# Of a blank of 16 that rises by 4.8 the rim is 2·√(8² − 4.8²) = 12.8 across.
DOME = form(kind="sheet", thickness_mm=0.5, outline={"kind": "disc", "diameter_mm": 16}, domed_mm=4.8)
WIDER = form(kind="sheet", thickness_mm=0.8, outline={"kind": "disc", "diameter_mm": 12})
PIPE = form(kind="tube", outer_mm=4, wall_mm=0.5, length_mm=10)

# (kind, the two forms, area mm², seam mm, fillets): reckoned by hand from what touches.
CONTACTS = [
    ("butt", ROUND, ROUND, math.pi * 0.6**2, math.pi * 1.2, 0),  # its section
    ("tee", ROUND, PLATE, math.pi * 0.6**2, math.pi * 1.2, 1),
    ("tee", STRIP, PLATE, 3 * 0.4, 2 * (3 + 0.4), 1),
    ("tee", PIPE, PLATE, math.pi * (2**2 - 1.5**2), math.pi * 4, 1),  # its wall
    ("tee", BEAD, PLATE, math.pi * 0.75**2, math.pi * 1.5, 1),  # a spot of half its width
    ("butt", DISC, PLATE, 10 * math.pi * 0.5, 10 * math.pi, 0),  # edge to edge
    ("overlay", DISC, PLATE, 25 * math.pi, 10 * math.pi, 1),  # the smaller face
    ("overlay", STRIP, PLATE, 25 * 3, 2 * (25 + 3), 0),
    ("line", ROUND, PLATE, 20 * 1.2 / 3, 20, 2),  # what lies is wet on a third of its width
    ("edge", PIPE, PLATE, 10 * 4 / 3, 10, 2),
    ("edge", STRIP, PLATE, 25 * 0.4, 25, 2),  # it stands on its edge
    ("line", STRIP, PLATE, 25 * 0.4 / 3, 25, 2),
    ("seat", DISC, PLATE, 10 * math.pi * 0.5, 10 * math.pi, 2),
    ("edge", DISC, PLATE, 10 * math.pi / 3 * 0.5, 10 * math.pi / 3, 2),  # flat sheet on one of its edges
    *(
        (kind, DOME, under, 12.8 * math.pi * 0.5, 12.8 * math.pi, fillets)  # a dome all round its rim
        for kind, under, fillets in (
            ("edge", PLATE, 2),
            ("edge", WIDER, 2),
            ("seat", PLATE, 2),
            ("butt", DOME.model_copy(), 0),
        )
    ),
    ("cross", ROUND, ROUND, 1.2**2 / 2, 2 * 1.2, 2),
    ("bundle", ROUND, ROUND, 2 * math.pi * 0.6**2, 2 * math.pi * 1.2, 0),
]


@pytest.mark.parametrize(("kind", "one", "other", "area", "seam", "fillets"), CONTACTS)
def test_a_contact_is_what_touches(
    kind: str, one: Form, other: Form, area: float, seam: float, fillets: int
) -> None:
    for pair in ((one, other), (other, one)):
        touch = contact_of(kind, *pair)
        assert touch is not None
        assert (touch.area_mm2, touch.seam_mm, touch.fillets) == pytest.approx((area, seam, fillets))


@pytest.mark.parametrize(
    "kind", ["butt", "tee", "edge", "overlay", "line", "seat", "cross", "bundle", "fuse"]
)
@pytest.mark.parametrize("one", [shape for shape, _ in VOLUMES])
def test_every_pair_of_forms_has_a_contact(kind: str, one: Form) -> None:
    for other, _ in VOLUMES:
        touch = contact_of(kind, one, other)
        assert touch is not None
        assert touch.area_mm2 > 0
        assert touch.seam_mm > 0


@pytest.mark.parametrize("kind", BENDS)
@pytest.mark.parametrize(("length", "thick"), [(20, 0.6), (45, 0.8), (150, 2.0)])
def test_a_named_bend_is_as_long_as_its_wire(kind: Bend, length: float, thick: float) -> None:
    line = bend_line(kind, length, thick)
    assert line_length_mm(line) == pytest.approx(length, rel=0.01)
    assert (line[0] == line[-1]) == (kind == "oval")


def test_a_bend_is_as_wide_as_it_is_told_while_there_is_wire_for_it() -> None:
    hook = bend_line("hook", 45, 0.8, across_mm=6)
    assert max(x for x, _ in hook) - min(x for x, _ in hook) == pytest.approx(6)
    short = bend_line("hook", 10, 0.8, across_mm=40)
    assert line_length_mm(short) == pytest.approx(10, rel=0.01)
