"""The work as it stands: what each act does to it, what must never be, what is told; and no step of a plan is forbidden."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from eskel_core.faults import Refused
from eskel_core.piece import Piece, resolve_house
from eskel_core.plan import standing
from eskel_core.state import (
    Act,
    Bath,
    Bind,
    Cool,
    Cover,
    Dry,
    Fit,
    Fix,
    Form,
    Heat,
    Look,
    Making,
    Measure,
    Miss,
    Outcome,
    Pierce,
    Ready,
    Shut,
    State,
    Unbind,
    after,
    begin,
    body_of,
    changes,
    forbidden,
    state_object,
    to_tell,
)
from tests.core.pieces import join, piece, plate, seeds, standing_work, wire

DOME = {"kind": "sheet", "thickness_mm": 0.5, "outline": {"kind": "disc", "diameter_mm": 20}, "domed_mm": 6}
TUBE = {"kind": "tube", "outer_mm": 5, "wall_mm": 0.5, "length_mm": 30}
BEAD = {"id": "bead", "metal": None, "heat_safe": False, "form": {"kind": "ball", "diameter_mm": 5}}
RIM = join("rim", "upper", "lower", kind="butt", holds="bound", bound_with="steel", encloses="drop")
HARD = Making("rim", "us-hard", 741, 788)


def lantern(**more: Any) -> Piece:
    domes = [{"id": name, "metal": "sterling-925", "form": DOME} for name in ("upper", "lower")]
    return piece([*domes, wire("loop"), BEAD], [RIM, join("foot", "loop", "upper")], **more)


def tube(**more: Any) -> Piece:
    ends = {"id": "ends", "kind": "flatten", "parts": ["tube"], "seals": ["tube"]}
    return piece([{"id": "tube", "metal": "copper", "form": {**TUBE, **more}}], [], work=[ends])


def start(made: Piece) -> State:
    return begin(made, resolve_house(made.house))


def through(state: State, *acts: Act) -> State:
    for act in acts:
        state = after(state, act)
    return state


def of(*names: str) -> frozenset[str]:
    return frozenset(names)


def rim_heat(to_c: float = 798) -> Heat:
    return Heat(of("upper", "lower"), to_c, (HARD,))


def foot_heat(to_c: float = 748, held: frozenset[str] = frozenset()) -> Heat:
    return Heat(of("loop", "upper"), to_c, (Making("foot", "us-medium", 721, 738),), held)


HOLE = Pierce(of("drop"), by="hole")
IN_POT = Bath(of("upper"), "acid")
RINSED = Bath(of("upper"), "water")


def test_a_heat_makes_its_joins_and_what_they_tie_is_one_body() -> None:
    state = through(start(lantern()), Cover(of("upper", "lower")), rim_heat())
    group = state.groups[0]
    (rim,) = group.seams["rim"]
    assert (rim.stage, rim.solder, rim.solidus_c) == ("soldered", "us-hard", 741)
    assert body_of(state, group, of("upper")) == of("upper", "lower")
    assert (group.parts["upper"].warmth, group.parts["upper"].flux) == ("glowing", "glass")
    assert group.parts["loop"].warmth == "cold"
    assert group.parts["upper"].scaled, "sterling scales"


@pytest.mark.parametrize(
    ("acts", "hollow"),
    [
        ([], {"open": True, "holds_water": False, "closed": None}),
        ([rim_heat()], {"open": False, "closed": 798}),
        ([HOLE, rim_heat()], {"open": True, "holds_water": True, "closed": None}),
        ([HOLE, rim_heat(), Cool(of("upper"), "quench")], {"wet": {"water"}}),
        ([HOLE, rim_heat(), Cool(of("upper"), "air"), IN_POT], {"wet": {"acid"}}),
        ([HOLE, rim_heat(), IN_POT, Dry(of("lower"))], {"wet": set()}),
        ([HOLE, rim_heat(), IN_POT, Dry(of("lower"), inside=False)], {"wet": {"acid"}}),
        ([rim_heat(), Cool(of("upper"), "quench")], {"wet": set()}),
        ([Cool(of("upper"), "quench")], {"wet": set()}),
        ([rim_heat(), Outcome("rim", "soldered", "short")], {"open": True, "holds_water": True}),
        ([rim_heat(), Outcome("rim", "opened")], {"open": True, "holds_water": False}),
        ([rim_heat(), Outcome("rim", "soldered", "short"), RINSED], {"wet": {"water"}}),
    ],
)
def test_a_hollow_has_the_ways_out_that_it_has_now(acts: list[Act], hollow: dict[str, Any]) -> None:
    found = through(start(lantern()), *acts).groups[0].hollows["drop"]
    seen = {
        "open": found.open,
        "holds_water": found.holds_water,
        "closed": found.closed.at_c if found.closed else None,
        "wet": set(found.wet),
    }
    assert {key: seen[key] for key in hollow} == hollow


@pytest.mark.parametrize(
    ("acts", "closed"),
    [
        ([], None),
        ([Shut(of("tube"), by="ends")], "cold"),
        ([Pierce(of("tube"), by="cut"), Shut(of("tube"), by="ends")], "cold"),
        ([Pierce(of("tube"), by="pin"), Shut(of("tube"), by="ends", keeps=of("pin"))], None),
        ([Shut(of("tube"), by="ends"), Pierce(of("tube"), by="cut")], None),
    ],
)
def test_a_cut_from_before_the_ends_are_shut_is_no_way_out_of_what_is_shut(
    acts: list[Act], closed: str | None
) -> None:
    found = through(start(tube()), *acts).groups[0].hollows["tube"]
    assert (found.closed.how if found.closed else None) == closed


STEEL = Bind(of("rim"))
NEVER: list[tuple[str, list[Act], Act, list[str]]] = [
    ("a hollow that is vented and wet", [HOLE, rim_heat(), IN_POT], foot_heat(held=of("rim")), ["wet-hollow"]),
    ("the same, dried", [HOLE, rim_heat(), IN_POT, Dry(of("upper"))], foot_heat(held=of("rim")), []),
    ("open domes out of the pot", [IN_POT], rim_heat(), []),
    ("a hollow closed dry, into the pot before another heat", [rim_heat()], Bath(of("upper"), "acid", again=of("upper")), ["hot-into-acid", "wet-hollow"]),
    ("the same, for the last time", [rim_heat(), Cool(of("upper"), "air")], Bath(of("upper"), "acid"), []),
    ("a gap in its seam, into water before another heat", [rim_heat(), Outcome("rim", "soldered", "short"), Cool(of("upper"), "air")], Bath(of("upper"), "water", again=of("upper")), ["wet-hollow"]),
    ("closed and hot into water", [rim_heat()], Cool(of("upper"), "quench"), ["wet-hollow"]),
    ("vented and hot into water", [HOLE, rim_heat()], Cool(of("upper"), "quench"), []),
    ("hot into the acid", [HOLE, rim_heat()], IN_POT, ["hot-into-acid"]),
    ("steel into the acid", [STEEL, HOLE, rim_heat(), Cool(of("upper"), "air")], IN_POT, ["steel-in-pickle"]),
    ("steel into water", [STEEL, HOLE, rim_heat(), Cool(of("upper"), "air")], RINSED, []),
    ("steel that is off", [STEEL, HOLE, rim_heat(), Cool(of("upper"), "air"), Unbind(of("lower"))], IN_POT, []),
    ("an earlier join that nothing holds", [HOLE, rim_heat()], foot_heat(798), ["remelt-flows"]),
    ("the same, held", [HOLE, rim_heat()], foot_heat(798, held=of("rim")), []),
    ("the same, under its own heat", [HOLE, rim_heat()], foot_heat(748), []),
    ("a part that is lost", [Miss(of("loop"), "lost")], foot_heat(), ["not-there"]),
    ("a part that is spoilt", [Miss(of("loop"), "spoilt")], foot_heat(), ["not-there"]),
]  # fmt: skip


@pytest.mark.parametrize(
    ("before", "act", "codes"), [row[1:] for row in NEVER], ids=[row[0] for row in NEVER]
)
def test_what_must_never_be(before: list[Act], act: Act, codes: list[str]) -> None:
    found = forbidden(through(start(lantern()), *before), act)
    assert sorted({remark.code for remark in found}) == codes
    assert all(remark.text.endswith(".") and remark.remedy and remark.allows for remark in found)


# The part beside the plate, what the heat reaches, and what must never be: brief, state.md, the table of what is forbidden.
BASE_METALS: list[tuple[str, str, float, list[str]]] = [
    ("pewter under the flame", "pewter", 748, ["contaminated"]),
    ("pewter, only warmed", "pewter", 150, []),
    ("lead", "lead", 650, ["contaminated"]),
    ("aluminium", "aluminium", 748, ["contaminated"]),
    ("a brass of its own that holds lead", "Cu 61 Zn 36 Pb 3", 748, ["contaminated"]),
    ("a brass of its own without lead", "Cu 63 Zn 37", 748, []),
    ("a bronze of its own with tin", "Cu 92 Sn 8", 748, []),
    ("a brass told with its zinc first", "Zn 37 Cu 63", 748, []),
    ("soft solder, told without blanks", "60Sn 40Pb", 748, ["contaminated"]),
    ("tin with a comma", "Sn 97, Cu 3", 748, ["contaminated"]),
    ("metal that nobody knows", "unknown", 300, ["unknown-metal"]),
    ("sterling", "sterling-925", 748, []),
]


@pytest.mark.parametrize(
    ("metal", "to_c", "codes"), [row[1:] for row in BASE_METALS], ids=[row[0] for row in BASE_METALS]
)
def test_what_eats_into_silver_or_is_not_known_is_never_heated(
    metal: str, to_c: float, codes: list[str]
) -> None:
    own = [
        {"id": "own", "name": "Own", "family": "copper alloy", "composition": metal, "density_g_cm3": 8.4, "solidus_c": 885, "liquidus_c": 900, "anneal_low_c": 450, "anneal_high_c": 600}
    ]  # fmt: skip
    named = "own" if " " in metal else metal
    tie = {"id": "tie", "kind": "rivet", "between": ["bit", "plate"]}
    made = piece(
        [plate("plate"), wire("post"), wire("bit", named)],
        [join("foot", "post", "plate"), tie],
        metals=own if named == "own" else [],
    )
    act = Heat(of("post", "plate"), to_c, (Making("foot", "us-medium", 721, 738),))
    state = start(made)
    assert forbidden(state, act) == (), "it lies beside, and is not on yet"
    found = forbidden(after(state, Fix("tie")), act)
    assert [remark.code for remark in found] == codes
    assert all(remark.severity == "danger" and remark.about == ("bit",) for remark in found)


def test_a_mould_is_warmed_and_dried_for_each_pour() -> None:
    work = [
        {"id": "melt", "kind": "melt", "parts": ["bar"]},
        {"id": "pour", "kind": "pour", "parts": ["bar"]},
    ]
    state, pour = start(piece([wire("bar")], [], work=work)), Heat(of("bar"), 990, work="pour")
    (remark,) = forbidden(state, pour)
    assert (remark.code, remark.severity) == ("wet-mould", "danger")
    ready = through(state, Ready("pour"), Heat(of("bar"), 990, work="melt"))
    assert forbidden(ready, pour) == ()
    assert [remark.code for remark in forbidden(after(ready, pour), pour)] == ["wet-mould"], "used once"


@pytest.mark.parametrize(
    ("house", "held", "codes"),
    [
        ({"third_hands": 0}, ("foot",), []),
        ({"third_hands": 0}, ("foot", "rim"), ["hands-full"]),
        ({"third_hands": 1}, ("foot", "rim"), []),
        ({"third_hands": 0, "torch_stand": "yes"}, ("foot", "rim"), []),
    ],
)
def test_no_more_is_held_at_one_moment_than_there_are_hands(
    house: dict[str, Any], held: tuple[str, ...], codes: list[str]
) -> None:
    act = replace(rim_heat(), in_hand=of(*held))
    assert [remark.code for remark in forbidden(start(lantern(house=house)), act)] == codes


@pytest.mark.parametrize(
    ("metal", "too_early", "codes"),
    [
        ("germanium-silver-935", True, ["red-short"]),
        ("germanium-silver-935", False, []),
        ("sterling-925", True, []),
    ],
)
def test_what_is_weak_while_red_is_not_quenched_before_it_is_black(
    metal: str, too_early: bool, codes: list[str]
) -> None:
    state = after(start(piece([plate("plate", metal)], [])), Heat(of("plate"), 620))
    act = Cool(of("plate"), "quench", too_early=too_early)
    assert [remark.code for remark in forbidden(state, act)] == codes


def test_a_hollow_that_is_closed_and_wet_says_what_it_holds_and_to_open_it() -> None:
    short = Outcome("rim", "soldered", "short")
    state = through(start(lantern()), rim_heat(), short, IN_POT, Outcome("rim", "soldered"))
    (remark,) = [one for one in forbidden(state, foot_heat()) if one.code == "wet-hollow"]
    assert "may hold acid" in remark.text
    assert remark.remedy == "Open it before any heat."
    opened = after(state, HOLE)
    assert "wet-hollow" in {one.code for one in forbidden(opened, foot_heat())}, "it is open, and still wet"
    assert "wet-hollow" not in {one.code for one in forbidden(after(opened, Dry(of("upper"))), foot_heat())}


@pytest.mark.parametrize(
    ("kind", "more"),
    [
        ("wrap", {"between": ["bead", "loop"]}),
        ("rivet", {"between": ["bead", "upper"]}),
        ("ring-open", {"between": ["bead", "lower"]}),
    ],
)
def test_a_bead_that_hangs_on_is_never_heated(kind: str, more: dict[str, Any]) -> None:
    made = lantern()
    held = piece(
        [part.model_dump(mode="json", by_alias=True) for part in made.parts],
        [RIM, join("foot", "loop", "upper"), {"id": "tie", "kind": kind, **more}],
    )
    state = through(start(held), HOLE, rim_heat(), foot_heat())
    assert forbidden(state, foot_heat(600)) == ()
    (remark,) = forbidden(after(state, Fix("tie")), foot_heat(600))
    assert (remark.code, remark.about) == ("stone-in-heat", ("bead",))


@pytest.mark.parametrize(
    ("acts", "to_c", "expected"),
    [
        ([Shut(of("tube"), by="ends")], 600, ("sealed-tube", "danger")),
        ([Shut(of("tube"), by="ends"), Heat(of("tube"), 600)], 600, ("sealed-tube", "danger")),
        ([Shut(of("tube"), by="ends"), Pierce(of("tube"), by="pin")], 600, None),
        ([], 600, None),
    ],
)
def test_what_was_closed_cold_is_told_at_each_heat(
    acts: list[Act], to_c: float, expected: tuple[str, str] | None
) -> None:
    found = to_tell(through(start(tube()), *acts), Heat(of("tube"), to_c))
    assert [(remark.code, remark.severity) for remark in found] == ([expected] if expected else [])


@pytest.mark.parametrize(
    ("acts", "act", "expected"),
    [
        ([], rim_heat(), ["danger"]),
        ([HOLE], rim_heat(), []),
        ([rim_heat()], foot_heat(748), ["note"]),
        ([rim_heat()], foot_heat(810), ["danger"]),
    ],
)
def test_what_a_heat_closed_holds_thin_air_up_to_that_heat(
    acts: list[Act], act: Act, expected: list[str]
) -> None:
    found = to_tell(through(start(lantern()), *acts), act)
    assert [remark.severity for remark in found if remark.code == "sealed-hollow"] == expected


@pytest.mark.parametrize(
    ("metal", "kind", "to_c", "expected"),
    [
        ("copper", "tee", 770, []),
        ("copper", "tee", 798, ["note"]),
        ("copper", "tee", 840, ["warn"]),
        ("brass-c260", "tee", 700, []),
        ("brass-c260", "tee", 748, ["note"]),
        ("brass-c260", "tee", 798, ["warn"]),
        ("copper", "wrap", 770, []),
        ("copper", "wrap", 798, ["warn"]),
        ("copper", "ring-open", 798, []),
        ("brass-c260", "ring-open", 798, ["warn"]),
        ("fine-silver-999", "wrap", 798, []),
    ],
)
def test_unlike_metals_that_touch_melt_into_each_other(
    metal: str, kind: str, to_c: float, expected: list[str]
) -> None:
    """Silver and copper from 779 °C, silver and brass from 705; through solder a warning from 60 °C over; what hangs is 60 cooler."""
    tie = {"id": "tie", "kind": kind, "between": ["plate", "bit"]}
    state = start(
        piece([plate("plate"), wire("bit", metal), wire("other")], [tie, join("foot", "other", "plate")])
    )
    if kind == "tee":
        act = Heat(of("plate", "bit"), to_c, (Making("tie", "us-hard", 741, 788),))
    else:
        state = after(state, Fix("tie"))
        act = Heat(of("plate", "other"), to_c, (Making("foot", "us-hard", 741, 788),))
    found = [remark.severity for remark in to_tell(state, act) if remark.code == "melts-together"]
    assert found == expected


def test_bare_metals_are_not_annealed_where_they_melt_together() -> None:
    tie = {"id": "tie", "kind": "rivet", "between": ["plate", "bit"]}
    state = after(start(piece([plate("plate"), wire("bit", "brass-c260")], [tie])), Fix("tie"))
    (remark,) = [
        one for one in to_tell(state, Heat(of("plate"), 720, work="soften")) if one.code == "melts-together"
    ]
    assert remark.severity == "stop"


def test_copies_that_fare_otherwise_become_a_group_of_their_own() -> None:
    state = through(start(lantern(copies=4)), rim_heat())
    state = through(
        state, Outcome("rim", "soldered", "short", copies=(2, 3)), Measure("inside", 17.2, copies=(2,))
    )
    assert [group.copies for group in state.groups] == [(2,), (3,), (1, 4)]
    assert [group.seams["rim"][0].quality for group in state.groups] == ["short", "short", "sound"]
    assert state.groups[0].measured == {"inside": 17.2}
    assert state.groups[1].measured == {}


def test_places_that_fare_otherwise_are_seams_of_their_own() -> None:
    made = piece([plate("base"), wire("claw", count=6)], [join("feet", "claw", "base")])
    state = through(start(made), Heat(of("claw", "base"), 798, (Making("feet", "us-hard", 741, 788),)))
    state = after(state, Outcome("feet", "soldered", "short", places=(2, 5)))
    assert [(seam.places, seam.quality) for seam in state.groups[0].seams["feet"]] == [
        ((1, 3, 4, 6), "sound"),
        ((2, 5), "short"),
    ]


def test_of_alike_parts_some_are_lost_before_all_are() -> None:
    state = after(start(piece([wire("post", count=3)], [])), Miss(of("post"), "lost", 2))
    assert (state.groups[0].parts["post"].there, state.groups[0].parts["post"].lost) == ("there", 2)
    assert after(state, Miss(of("post"), "lost", 1)).groups[0].parts["post"].there == "lost"


def test_of_several_beads_one_lost_leaves_the_others_where_they_hang() -> None:
    beads = {**BEAD, "count": 3}
    tie = {"id": "tie", "kind": "wrap", "between": ["bead", "wire"]}
    made = piece([wire("wire"), plate("plate"), beads], [tie, join("foot", "wire", "plate")])
    heat = Heat(of("wire", "plate"), 748, (Making("foot", "us-medium", 721, 738),))
    some = through(start(made), Fix("tie"), Miss(of("bead"), "lost", 1))
    assert [remark.code for remark in forbidden(some, heat)] == ["stone-in-heat"]
    assert forbidden(after(some, Miss(of("bead"), "lost", 2)), heat) == ()


def test_forming_adds_up_and_a_heat_makes_it_soft_again() -> None:
    """Twice 40 % leaves 0.6 × 0.6 = 36 % of the thickness."""
    state = start(piece([plate("p")], []))
    worked = through(state, Form(of("p"), "roll", 40), Form(of("p"), "roll", 40))
    assert worked.groups[0].parts["p"].reduction_pct == pytest.approx(64)
    assert after(worked, Heat(of("p"), 620)).groups[0].parts["p"].reduction_pct == 0
    assert after(worked, Heat(of("p"), 200)).groups[0].parts["p"].reduction_pct == pytest.approx(64)


def test_a_wet_piece_rusts_what_it_is_worked_on() -> None:
    state = after(start(piece([plate("p")], [])), Bath(of("p"), "water"))
    assert [remark.code for remark in to_tell(state, Form(of("p"), "roll", 40, on_steel=True))] == [
        "wet-on-steel"
    ]
    assert to_tell(after(state, Dry(of("p"))), Form(of("p"), "roll", 40, on_steel=True)) == ()


def test_what_is_fitted_and_looked_at_is_known() -> None:
    state = through(start(lantern()), Fit(of("bead"), inside=True), Look("7.1"))
    assert state.groups[0].parts["bead"].fitted
    assert state.groups[0].passed == of("7.1")


def test_changes_tell_what_was_lost_and_gained() -> None:
    before = start(lantern())
    found = {(row.about, row.what): (row.was, row.now) for row in changes(before, after(before, rim_heat()))}
    assert found["rim", "stage"] == ("not yet", "soldered with us-hard")
    assert found["drop", "way out"] == ("rim", "none")
    assert changes(before, before) == ()


def test_a_state_is_plain_data() -> None:
    plain = state_object(through(start(lantern(copies=2)), rim_heat()))
    assert plain["format"] == "eskel-state/1"
    (group,) = plain["groups"]
    assert group["copies"] == [1, 2]
    assert group["hollows"]["drop"]["closed"] == {"how": "heat", "at_c": 798}


@pytest.mark.parametrize("seed", seeds(150, quick=17))
def test_no_step_of_a_plan_is_forbidden(seed: int) -> None:
    try:
        plan, rows = standing(standing_work(seed), effort=0.1)
    except Refused:
        return
    bad = [(row.n, remark.code, remark.text) for row in rows for remark in row.forbidden]
    assert bad == []
    # What must never be is left out by the planner itself: no plan had to be held back for it.
    held_back = (
        [demand for demand in plan.conflict.demands if demand.kind == "state"] if plan.conflict else []
    )
    assert held_back == []
