"""The scale picture: parts lie where they were put or beside what they join, joins are where parts meet."""

import itertools
import math
from pathlib import Path
from typing import Any

import pytest
from shapely.geometry import LineString, Point

from eskel_core.forms import ViewLine
from eskel_core.picture import draw, set_on, small
from eskel_core.piece import parse_piece, read_piece
from tests.core.pieces import EXAMPLES, join, piece, plate, wire


def test_a_part_put_by_hand_stays_there_to_scale() -> None:
    picture = draw(piece([plate("p", place={"x_mm": 5, "y_mm": -3})], []))
    part = picture.parts[0]
    assert (part.x_mm, part.y_mm, part.width_mm, part.height_mm) == (5, -3, 20, 20)
    assert (picture.left_mm, picture.top_mm) == (-5, -13)


def test_a_turned_part_is_drawn_turned() -> None:
    picture = draw(piece([wire("w", place={"turn_deg": 90})], []))
    assert picture.height_mm > 19 > 2 > picture.width_mm - 19 + 18


def test_a_post_stands_on_its_plate_and_the_join_is_there() -> None:
    picture = draw(piece([plate("p"), wire("post")], [join("a", "post", "p", at=[4, 5])]))
    post = next(part for part in picture.parts if part.node == "post")
    assert (post.x_mm, post.y_mm, post.width_mm) == (4, 5, 1)
    assert picture.joins[0].spots == ((4.0, 5.0),)


def test_a_ring_on_its_rim_is_seen_from_above_as_a_bar() -> None:
    ring = wire("ring", place={"stands": "upright", "turn_deg": 90})
    ring["form"] |= {"length_mm": 62.83, "closed": True}
    part = draw(piece([ring], [])).parts[0]
    assert (part.width_mm, part.height_mm) == (pytest.approx(1), pytest.approx(21, abs=0.01))


# (kind of join, its face, what stands where, the part that is set on the other)
SET_ON = [
    ("tee", "front", {}, "w"),
    ("seat", "back", {}, "w"),
    ("edge", "front", {"w": 0, "p": 5}, "p"),
    ("edge", "back", {"w": 0, "p": 5}, "w"),
    ("edge", "front", {"w": 2, "p": 2}, "w"),
]


@pytest.mark.parametrize(("kind", "face", "heights", "upper"), SET_ON)
def test_what_is_set_on_the_other_is_told_by_heights_else_by_forms(
    kind: str, face: str, heights: dict[str, float], upper: str
) -> None:
    parts = [wire("w"), plate("p")]
    for part in parts:
        if part["id"] in heights:
            part["place"] = {"z_mm": heights[part["id"]]}
    made = piece(parts, [join("a", "w", "p", kind=kind, face=face)])
    assert set_on(made, made.joins[0]) == upper


def test_a_post_is_set_on_the_dome_and_not_the_dome_on_the_post() -> None:
    dome = {
        "kind": "sheet",
        "thickness_mm": 0.8,
        "outline": {"kind": "disc", "diameter_mm": 14},
        "domed_mm": 3,
    }
    made = piece(
        [wire("w"), {"id": "d", "metal": "copper", "form": dome}], [join("a", "w", "d", face="back")]
    )
    assert set_on(made, made.joins[0]) == "w"
    heights = {part.part: part.high_mm for part in draw(made).parts}
    assert heights["w"] == 0


def test_a_heavy_ring_is_set_on_the_light_sheet_that_it_is_seated_on() -> None:
    heavy = wire("w", across_mm=6)
    made = piece([heavy, plate("p")], [join("a", "w", "p", kind="seat", face="back")])
    assert set_on(made, made.joins[0]) == "w"


def test_a_part_is_set_beside_what_it_joins_and_touches_it() -> None:
    picture = draw(piece([plate("p"), plate("q")], [{"id": "b", "kind": "butt", "between": ["p", "q"]}]))
    p, q = picture.parts
    assert math.dist((p.x_mm, p.y_mm), (q.x_mm, q.y_mm)) == pytest.approx(20)
    assert picture.joins[0].spots == ((10.0, 0.0),)


def straight(part: Any) -> LineString:
    """Where a straight run lies: the middle line between its sides, as long as it is."""
    return LineString(part.lines[0].points)


@pytest.mark.parametrize("turn", [0, 90, 30])
@pytest.mark.parametrize(
    ("kind", "across_mm", "crosses", "apart_mm"),
    [
        (
            "tee",
            1.0,
            True,
            1.5,
        ),  # its end against the side of the other: half the other's thickness off its middle
        ("tee", 3.0, True, None),  # the thinner one ends there, though it was put first
        ("cross", 1.0, True, 0.0),
        ("line", 1.0, False, 2.0),
    ],
)
def test_straight_runs_are_put_as_they_meet(
    kind: str, across_mm: float, crosses: bool, apart_mm: float | None, turn: float
) -> None:
    long = wire("base", across_mm=3.0 if across_mm < 3 else 1.0, place={"x_mm": 7, "turn_deg": turn})
    picture = draw(piece([long, wire("w", across_mm=across_mm)], [join("t", "w", "base", kind=kind)]))
    base, other = (straight(part) for part in picture.parts)
    (x, y), (u, v) = ((b[0] - a[0], b[1] - a[1]) for a, b in (line.coords[:2] for line in (base, other)))
    square = abs(x * u + y * v) / math.hypot(x, y) / math.hypot(u, v)
    assert square == pytest.approx(0 if crosses else 1, abs=1e-3)
    if apart_mm is None:
        assert base.distance(other) == pytest.approx(1.5, abs=0.01)
        assert base.length == pytest.approx(20, rel=1e-4)
    else:
        assert base.distance(other) == pytest.approx(apart_mm, abs=0.01)
    (spot,) = picture.joins[0].spots
    assert base.distance(Point(spot)) <= 1.51


def test_several_ends_share_a_run_out() -> None:
    """Stays on a rail: no two at one place, each touching the rail."""
    parts = [wire("rail", across_mm=2.0), wire("stay", count=6)]
    picture = draw(piece(parts, [join("on", "stay", "rail")]))
    rail, *stays = (straight(part) for part in picture.parts)
    assert len({stay.coords[0] for stay in stays}) == 6
    for stay, other in itertools.combinations(stays, 2):
        assert stay.distance(other) > 1.0
    for stay in stays:
        assert rail.distance(stay) == pytest.approx(1.0, abs=0.01)


def test_alike_parts_are_drawn_one_by_one_without_lying_on_each_other() -> None:
    made = piece([wire("w", count=3), plate("p")], [join("a", "w", "p", face="edge", kind="butt")])
    spots = {(part.x_mm, part.y_mm) for part in draw(made).parts}
    assert len(spots) == 4


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.name)
def test_every_line_and_every_join_lies_in_the_frame(path: Path) -> None:
    picture = draw(parse_piece(path.read_text(encoding="utf-8")))
    for part in picture.parts:
        for line in part.lines if part.alike else ():
            for x, y in line.points:
                assert picture.left_mm - 1e-6 <= x <= picture.left_mm + picture.width_mm + 1e-6
                assert picture.top_mm - 1e-6 <= y <= picture.top_mm + picture.height_mm + 1e-6
    assert all(mark.spots for mark in picture.joins)


def test_an_empty_piece_has_an_empty_picture() -> None:
    assert draw(piece([], [])).parts == ()


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.name)
def test_a_small_picture_shows_the_same_to_a_third_of_a_pixel(path: Path) -> None:
    whole = draw(read_piece(path))
    told = small(whole, 192, 112)
    unit = max(whole.width_mm / 192, whole.height_mm / 112)
    assert (told.left_mm, told.top_mm, told.width_mm, told.height_mm) == (
        whole.left_mm,
        whole.top_mm,
        whole.width_mm,
        whole.height_mm,
    )
    # Of a batch that nothing ties one is drawn; the others are left out here.
    shown = [part for part in whole.parts if part.alike > 0]
    assert [(part.node, part.alike) for part in told.parts] == [(part.node, part.alike) for part in shown]
    for part, other in zip(shown, told.parts, strict=True):
        seen = [line for line in part.lines if not line.faint]
        for line, simpler in zip(seen, other.lines, strict=True):
            assert (line.width_mm, line.closed) == (simpler.width_mm, simpler.closed)
            if len(line.points) > 1:
                assert drawn(line).hausdorff_distance(drawn(simpler)) <= unit


def drawn(line: ViewLine) -> LineString:
    return LineString([*line.points, line.points[0]] if line.closed else line.points)


def test_small_pictures_take_a_third_of_the_room_at_most() -> None:
    whole = [draw(read_piece(path)) for path in EXAMPLES]
    room = sum(len(picture.model_dump_json()) for picture in whole)
    assert sum(len(small(picture, 192, 112).model_dump_json()) for picture in whole) < room / 3


def test_a_small_picture_of_a_spot_is_a_spot() -> None:
    upright = wire("post", place={"x_mm": 0, "y_mm": 0, "stands": "upright"})
    told = small(draw(piece([plate("base"), upright], [join("foot", "post", "base")])), 96, 56)
    assert all(line.points for part in told.parts for line in part.lines)
    nothing = small(draw(piece([], [])), 96, 56)
    assert nothing.parts == ()


def test_a_batch_that_nothing_ties_is_drawn_once_and_stands_for_all() -> None:
    loose = draw(piece([wire("w", count=5)], []))
    assert [part.alike for part in loose.parts] == [5, 0, 0, 0, 0]
    assert loose.width_mm == pytest.approx(21)  # its ends are drawn as round as it is thick
    tied = draw(piece([wire("w", count=2), plate("p")], [join("a", "w", "p", at=[[-3, 0], [3, 0]])]))
    assert [part.alike for part in tied.parts] == [1, 1, 1]


def ring_and_plate(**of_ring: object) -> list[dict[str, object]]:
    ring = wire("ring", place={"stands": "upright"}, **of_ring)
    ring["form"] |= {"length_mm": 62.83, "closed": True}
    return [ring, plate("base", place={"z_mm": 21})]


def test_from_the_front_a_ring_is_round_and_its_plate_lies_on_it() -> None:
    front = draw(piece(ring_and_plate(), [join("seat", "ring", "base", kind="seat", face="back")])).front
    lines = {part.part: part.lines[0] for part in front.parts}
    ys = [y for _, y in lines["ring"].points]
    assert (min(ys), max(ys)) == (pytest.approx(-20.5, abs=0.01), pytest.approx(-0.5, abs=0.01))
    assert {y for _, y in lines["base"].points} == {-21.0, -22.0}
    assert front.joins[0].spots[0] == pytest.approx((0.0, -21.0), abs=0.01)
    assert front.height_mm == pytest.approx(22)


# (kind of join, its face, heights of the plate, heights of the disc on it): nobody told any height.
STACKED = [
    ("overlay", "front", (0, 1), (1, 1.5)),
    ("overlay", "back", (0, 1), (-0.5, 0)),
    ("butt", "front", (0, 1), (0, 0.5)),
]


@pytest.mark.parametrize(("kind", "face", "below", "above"), STACKED)
def test_heights_that_nobody_told_follow_from_the_joins(
    kind: str, face: str, below: tuple[float, float], above: tuple[float, float]
) -> None:
    disc = {"kind": "sheet", "thickness_mm": 0.5, "outline": {"kind": "disc", "diameter_mm": 6}}
    parts = [plate("p"), {"id": "d", "metal": "copper", "form": disc}]
    drawn = draw(piece(parts, [join("a", "d", "p", kind=kind, face=face)]))
    heights = {part.part: (part.low_mm, part.high_mm) for part in drawn.parts}
    assert heights == {"p": below, "d": above}
