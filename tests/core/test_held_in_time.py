"""What holds a join in later heats: the weight when the body is turned over, clips and weights that are off by then; springs, and what goes last."""

from __future__ import annotations

from typing import Any

import pytest

from eskel_core.piece import Piece, piece_from_object
from eskel_core.plan import HeatStep, Plan, WorkStep, plan
from eskel_core.rules import holds_at_all
from tests.core.pieces import join as tee
from tests.core.pieces import piece, plate
from tests.core.pieces import wire as lying
from tests.core.reference.forms import ball, disc, join, sheet, strip, wire, work_of

PLATE = sheet("plate", 30, 20, 1.0)
CUP = strip("cup", 3, 0.6, 30)
OVERLAY = sheet("overlay", 12, 8, 0.7)
KNOB = ball("knob", 5)
CUP_FOOT = join("foot", "edge", "cup", "plate")
LAY = join("lay", "overlay", "overlay", "plate")
KNOB_FOOT = join("knob-foot", "tee", "knob", "plate")

TURNED = [
    ("a cup, with the plate lying on it", [CUP, PLATE], [CUP_FOOT], "foot", True),
    ("an overlay, the plate lying on it", [OVERLAY, PLATE], [LAY], "lay", True),
    ("an overlay beside a cup that is higher", [OVERLAY, CUP, PLATE], [LAY, CUP_FOOT], "lay", False),
    ("the cup beside that overlay", [OVERLAY, CUP, PLATE], [LAY, CUP_FOOT], "foot", True),
    ("a single ball carries no plate", [KNOB, PLATE], [KNOB_FOOT], "knob-foot", False),
    ("five balls do", [ball("knob", 5, count=5), PLATE], [KNOB_FOOT], "knob-foot", True),
    ("a cup lower than a ball", [CUP, KNOB, PLATE], [CUP_FOOT, KNOB_FOOT], "foot", False),
    (
        "a crest on a field on the ground: all of the stack",
        [sheet("crest", 8, 6, 0.7), OVERLAY, PLATE],
        [LAY, join("crest-lay", "overlay", "crest", "overlay")],
        "lay",
        True,
    ),
    (
        "a dome set on a plate, of one mass with it",
        [disc("front", 12, 0.5, domed=3), disc("back", 12, 0.5)],
        [join("rim", "edge", "front", "back")],
        "rim",
        True,
    ),
    ("a ring's own seam", [CUP], [join("seam", "butt", "cup")], "seam", True),
    (
        "a foot on the back, turned front up with nothing lower",
        [CUP, PLATE],
        [join("foot", "edge", "cup", "plate", face="back")],
        "foot",
        True,
    ),
    ("a seam on the edge", [CUP, PLATE], [join("foot", "edge", "cup", "plate", face="edge")], "foot", False),
]


@pytest.mark.parametrize(
    ("parts", "joins", "name", "held"), [row[1:] for row in TURNED], ids=[row[0] for row in TURNED]
)
def test_turned_over_the_weight_holds_what_the_body_lies_on(
    parts: list[dict[str, Any]], joins: list[dict[str, Any]], name: str, held: bool
) -> None:
    made = piece_from_object(work_of(parts, joins))
    one = next(join for join in made.joins if join.id == name)
    over = "front-up" if one.face == "back" else "back-up"
    assert holds_at_all(made, one, over) is held
    if one.face != "edge":
        assert holds_at_all(made, one, "back-up" if one.face == "back" else "front-up")


def heats(made: Plan) -> list[HeatStep]:
    return [step for step in made.steps if isinstance(step, HeatStep)]


def test_what_is_laid_on_a_cup_takes_the_harder_solder_and_what_hangs_the_softer() -> None:
    """Easy (728) leaves medium (691 to 738) soft: that is borne where the plate presses it together, not where it hangs."""
    shank = join("shank-foot", "line", "shank", "plate", face="back", holds="hand", after=["foot"])
    parts = [CUP, PLATE, wire("shank", 2, 30)]
    seam = join("seam", "butt", "cup")
    lies, hangs = (
        plan(piece_from_object(work_of([*parts, *more], [seam, CUP_FOOT, shank, *joins])))
        for more, joins in (
            ([], []),
            ([ball("boss", 9)], [join("boss-foot", "tee", "boss", "plate", after=["foot"])]),
        )
    )
    solder = {row.join: row.grade for made in (lies,) for step in heats(made) for row in step.joins}
    assert solder["shank-foot"] == "easy"
    assert [row.grade for step in heats(hangs) for row in step.joins if row.join == "shank-foot"] == [
        "extra-easy"
    ]


@pytest.mark.parametrize("holds", ["clipped", "weighted"])
def test_clips_and_weights_are_off_by_the_next_heat_and_are_put_on_again(holds: str) -> None:
    rows = [tee("a", "p", "w", holds=holds, bound_with="other"), tee("b", "p", "v", after=["a"])]
    made = plan(piece([plate("p"), lying("w"), lying("v")], rows, bench={"solders": ["us-hard"]}))
    later = heats(made)[1]
    assert later.states == {"a": "flows"}
    assert [one.id for one in later.protect] == ["a"]
    assert not any(isinstance(step, WorkStep) and step.work_kind == "unbind" for step in made.steps)


def _turns(made: Plan) -> list[str]:
    return [step.lies for step in heats(made)]


def test_the_work_is_not_turned_over_without_need() -> None:
    """Inside joins can be made in any lie: they lie as the heat before."""
    rows = [
        tee("a", "p", "w", face="back"),
        tee("b", "p", "v", face="inside", after=["a"]),
        tee("c", "p", "u", after=["b"]),
        tee("d", "p", "t", face="inside", after=["c"]),
    ]
    made = plan(piece([plate("p"), *(lying(name) for name in "wvut")], rows))
    assert _turns(made) == ["back-up", "back-up", "front-up", "front-up"]


def _hardenings(made: Plan) -> list[tuple[str, ...]]:
    return [step.parts for step in made.steps if isinstance(step, WorkStep) and step.work_kind == "harden"]


def _sprung(*work: dict[str, Any], **part: Any) -> Piece:
    return piece([plate("p"), lying("pin", **part)], [tee("foot", "pin", "p")], work=list(work))


HARDEN = {"id": "h", "kind": "harden", "parts": ["pin"]}
SPRINGS = [
    ("nothing springy", _sprung(), 0, False),
    ("a spring: it is put in", _sprung(spring=True), 1, False),
    ("a spring, told to be hardened", _sprung(HARDEN | {"after": ["foot"]}, spring=True), 1, False),
    ("told too early: that is said", _sprung(HARDEN | {"before": ["foot"]}, spring=True), 1, True),
    ("tumbled after", _sprung({"id": "t", "kind": "tumble", "parts": ["pin"]}, spring=True), 0, False),
    ("drawn hard and no spring: the smith is told", _sprung(temper="half-hard"), 0, True),
]


@pytest.mark.parametrize(
    ("made", "hardened", "told"), [row[1:] for row in SPRINGS], ids=[row[0] for row in SPRINGS]
)
def test_a_spring_that_a_heat_softens_is_hardened_again(made: Piece, hardened: int, told: bool) -> None:
    found = plan(made)
    assert len(_hardenings(found)) == hardened
    assert ("spring-softened" in {caution.code for caution in found.cautions}) is told


def test_a_spring_that_is_annealed_to_be_bent_is_hardened_after_that() -> None:
    """Spring wire has lost 84 % of its section: no bend more without an anneal."""
    bend = {"id": "bend", "kind": "bend", "parts": ["pin"]}
    found = plan(piece([lying("pin", temper="spring", spring=True)], [], work=[bend]))
    kinds = [step.work_kind if isinstance(step, WorkStep) else step.kind for step in found.steps]
    assert [kind for kind in kinds if kind in ("heat", "bend", "harden")] == ["heat", "bend", "harden"]
    assert "spring-softened" not in {caution.code for caution in found.cautions}


def test_a_spring_is_hardened_after_it_is_bent_and_before_it_is_polished() -> None:
    bend = {"id": "bend", "kind": "bend", "parts": ["pin"], "after": ["foot"]}
    polish = {"id": "polish", "kind": "finish", "parts": ["pin"]}
    made = plan(_sprung(bend, polish, spring=True))
    kinds = [step.work_kind for step in made.steps if isinstance(step, WorkStep)]
    assert kinds == ["bend", "harden", "finish"]


def test_a_part_is_finished_before_it_is_riveted_and_before_stones_unless_told() -> None:
    parts = [plate("p"), lying("pin"), {**plate("s"), "heat_safe": False}]
    rows = [{"id": "r", "kind": "rivet", "between": ["pin", "p"]}]
    work = [{"id": "set", "kind": "set", "parts": ["s"]}, {"id": "f", "kind": "finish", "parts": ["p"]}]
    usual = plan(piece(parts, rows, work=work))
    told = plan(piece(parts, rows, work=[work[0], work[1] | {"after": ["r", "set"]}]))
    assert [step.text.split()[0] for step in usual.steps] == ["Finish", "Rivet", "Set"]
    assert [step.text.split()[0] for step in told.steps] == ["Rivet", "Set", "Finish"]


BOUGHT = [
    ("bought", {"bought_in": True}, "sterling-925", "easy"),
    ("clad", {}, "gold-filled-14-20", "medium"),
]


@pytest.mark.parametrize(
    ("more", "metal", "grade"), [row[1:] for row in BOUGHT], ids=[row[0] for row in BOUGHT]
)
def test_what_was_bought_or_is_clad_is_joined_last_and_never_with_hard(
    more: Any, metal: str, grade: str
) -> None:
    parts = [plate("p"), lying("tag"), lying("catch", metal, **more)]
    rows = [tee("catch-foot", "catch", "p", face="back"), tee("tag-foot", "tag", "p")]
    made = plan(piece(parts, rows))
    assert [[row.join for row in step.joins] for step in heats(made)] == [["tag-foot"], ["catch-foot"]]
    assert heats(made)[1].joins[0].grade == grade
    told = plan(piece(parts, [rows[0] | {"grade": "hard"}, rows[1] | {"after": ["catch-foot"]}]))
    assert [row.join for step in heats(told) for row in step.joins] == ["catch-foot", "tag-foot"]
    assert heats(told)[0].joins[0].grade == "hard"


def test_only_hard_at_hand_a_bought_part_takes_it() -> None:
    rows = [tee("foot", "catch", "p")]
    made = plan(piece([plate("p"), lying("catch", bought_in=True)], rows, bench={"solders": ["us-hard"]}))
    assert heats(made)[0].joins[0].grade == "hard"


def test_what_goes_to_the_mill_wet_is_told_once() -> None:
    rolls = [
        {
            "id": f"r{n}",
            "kind": "roll",
            "parts": ["w"],
            "reduction_pct": 40,
            "after": [f"r{n - 1}" if n else "a"],
        }
        for n in range(4)
    ]
    made = plan(piece([lying("w"), lying("v")], [tee("a", "w", "v")], work=rolls))
    (wet,) = [caution for caution in made.cautions if caution.code == "wet-on-steel"]
    assert set(wet.about) == {"r0", "r1", "r2", "r3"}


def test_of_picked_joins_those_that_bear_load_take_the_harder_solder() -> None:
    """Two ends of a spine among thirty scrolls, more near each than one heat has room for."""
    spots = [(x, y) for x in (0, 4, 8, 12, 90, 94, 98, 102) for y in (0, 4, 8)]
    rows = [
        join("spine-a", "tee", "spine", "frame", at=[2, 2], placing="pick", structural=True, holds="seated"),
        *(
            join(f"p{n}", "tee", f"s{n}", "frame", at=spot, placing="pick", holds="seated")
            for n, spot in enumerate(spots)
        ),
        join("spine-b", "tee", "spine", "frame", at=[96, 2], placing="pick", structural=True, holds="seated"),
    ]
    parts = [
        wire("frame", 2, 200),
        wire("spine", 2.5, 100),
        *(wire(f"s{n}", 1.2, 20) for n in range(len(spots))),
    ]
    made = plan(piece_from_object(work_of(parts, rows)))
    grades = {row.join: row.grade for step in heats(made) for row in step.joins}
    assert (grades["spine-a"], grades["spine-b"]) == ("hard", "hard")
    assert set(grades.values()) > {"hard"}
