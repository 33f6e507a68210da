"""What is offered where something went wrong: by the work as it stands, each step of it allowed, the best first."""

from __future__ import annotations

from copy import copy
from pathlib import Path
from typing import Any

import pytest

from eskel_core.faults import Refused
from eskel_core.log import WORDS
from eskel_core.piece import Piece
from eskel_core.plan import CoolStep, HeatStep, PickleStep, PrepareStep, WorkStep, acts_of, plan
from eskel_core.run import Presses, shown_run
from eskel_core.state import after, forbidden
from eskel_core.units import speak
from tests.core.pieces import EXAMPLES, join, piece, plate, wire
from tests.core.test_presses import DROP, run

STUD_PARTS = [plate("top"), plate("back"), wire("post")]


def stud(**house: Any) -> Piece:
    """A hollow stud that is closed dry, with a post behind."""
    joins = [
        join("rim", "top", "back", kind="edge", encloses="stud", holds="seated"),
        join("pin", "post", "back", kind="butt", face="back", holds="hand", after=["rim"]),
    ]
    return piece(STUD_PARTS, joins, house={"hollow": "sealed-dry", **house})


def pressed(made: Piece, *presses: str) -> Presses:
    found = Presses(made, plan(made))
    for press in presses:
        found.press(press)
    return found


def ways(here: Presses) -> list[str]:
    return [offer.way for offer in here.offers()]


def test_a_short_seam_of_a_dry_hollow_is_never_offered_the_pot() -> None:
    """`state.md`: flux sparing, dried while the gap is open; solder bridges no gap; never the pot."""
    here = pressed(stud(), "to-heat 1", "lit", "off", "outcome rim short")
    assert ways(here) == ["close-gap", "apart", "rest"]
    gap, apart, *_ = here.offers()
    assert not any(isinstance(step, PickleStep) for step in gap.steps)
    said = " ".join(step.text for step in gap.steps)
    assert "1 chip" in said
    assert "white crust" in said
    assert any(isinstance(step, WorkStep) and step.work_kind == "open" for step in apart.steps)


def test_a_gap_is_never_left_where_the_pot_would_follow() -> None:
    """Acid draws in by the gap and stays inside, also where it is heated no more; a hole that is drilled lets it out."""
    here = pressed(stud(), "to-heat 1", "lit", "off", "outcome rim short")
    assert any(isinstance(step, PickleStep) for step in here.later)
    assert "as-it-is" not in ways(here)
    assert "as-it-is" in ways(run("to-heat 1", "lit", "off", "outcome rim short")), "the drop is drilled"


def test_what_is_not_joined_at_all_is_not_left_so() -> None:
    here = pressed(stud(), "to-heat 1", "lit", "off", "outcome rim did-not-flow")
    assert ways(here)[0] == "flux-and-solder"
    assert "as-it-is" not in ways(here)


def two_on_a_plate(**more: Any) -> Piece:
    joins = [join("first", "top", "back", holds="hand"), join("second", "post", "back", holds="hand", **more)]
    return piece(STUD_PARTS, joins, house={"third_hands": 3})


def test_a_retry_with_the_same_solder_is_left_out_where_it_would_open_what_nothing_holds() -> None:
    """Two joins of one heat, held by hand: once the one stands, a softer solder leaves it firm for the other."""
    here = pressed(two_on_a_plate(), "to-heat 1", "lit", "off", "outcome all flowed", "outcome second short")
    assert isinstance(here.step, HeatStep)
    assert len(here.step.joins) == 2
    assert ways(here)[0] == "softer"
    assert "flux-and-solder" not in ways(here)
    again = next(step for step in here.offers()[0].steps if isinstance(step, HeatStep))
    assert again.working_c < here.step.working_c


def test_an_earlier_join_that_opened_is_a_row_of_this_heat_and_closes_with_its_solder() -> None:
    here = pressed(two_on_a_plate(after=["first"]), "to-heat 2", "lit", "off", "outcome all flowed")
    here.press("opened first")
    row = shown_run(here)["log"][-1]
    assert (row["join"], row["heat_no"], row["outcome"]) == ("first", 2, "opened")
    assert "opened" in {seam["stage"] for seam in shown_run(here)["state"]["groups"][0]["joins"]["first"]}
    with pytest.raises(Refused):
        here.press("next")
    first = here.offers()[0]
    assert first.way == "close-again"
    heat = next(step for step in first.steps if isinstance(step, HeatStep))
    assert {row.join for row in heat.joins} == {"first"}
    assert heat.working_c < here.step.working_c, "the second would run, and nothing holds it"
    here.press("way close-again")
    here.press("to-end")
    log = [(row["join"], row["heat_no"], row["outcome"]) for row in shown_run(here)["log"]]
    assert ("first", 1, "flowed") in log, "what it was in heat 1 stays"
    assert log.count(("first", 2, "flowed")) == 1


def test_it_is_said_which_join_opened_before_anything_is_offered() -> None:
    here = run("to-heat 2", "lit", "off", "outcome crown opened-another")
    assert ways(here) == []
    assert "opened rim" in here.possible()


def test_a_part_that_melted_is_made_anew_where_nothing_else_holds_it() -> None:
    here = run("to-heat 3", "lit", "off", "outcome hang melted")
    offer = here.offers()[0]
    assert offer.way == "replace-part"
    assert "cut" in [step.work_kind for step in offer.steps if isinstance(step, WorkStep)]


BALLS = piece(
    [wire("pin", count=12)], [], work=[{"id": "balls", "kind": "ball", "parts": ["pin"], "ball_mm": 1.8}]
)


def test_copies_have_outcomes_of_their_own() -> None:
    here = pressed(BALLS, "to-heat 1", "lit", "off", "outcome balls size", "outcome balls#3 dropped")
    rows = {row["copy"]: row["outcome"] for row in shown_run(here)["log"]}
    assert rows == {copy: "dropped" if copy == 3 else "size" for copy in range(1, 13)}
    assert here.came() == (("balls", "dropped", (3,)),)
    assert shown_run(here)["left"][0]["count"] == 1
    assert ways(here)[0] == "cut-anew"
    with pytest.raises(Refused):
        here.press("outcome balls#13 size")


@pytest.mark.parametrize("copies", [1, 2])
def test_numbers_count_copy_by_copy(copies: int) -> None:
    """With `copies` 2 and `count` 3, `c#4` is the first of the second copy."""
    parts = [plate("base"), wire("dot", count=3)]
    made = piece(parts, [join("dots", "dot", "base")], copies=copies)
    here = pressed(made, "to-heat 1", "lit", "off", "outcome dots flowed", "outcome dots#3 short")
    if copies == 1:
        with pytest.raises(Refused):
            here.press("outcome dots#4 short")
    else:
        here.press("outcome dots#4 short")
        groups = shown_run(here)["state"]["groups"]
        short = {
            tuple(group["copies"]): [
                seam["places"] for seam in group["joins"]["dots"] if seam["quality"] == "short"
            ]
            for group in groups
        }
        assert short == {(1,): [[3]], (2,): [[1]]}


def test_what_is_closed_cools_to_the_end_and_what_is_open_may_be_cold_before() -> None:
    here = pressed(stud(), "to-step cool")
    assert isinstance(here.step, CoolStep)
    assert here.step.to_the_end
    assert "early" not in here.possible()
    with pytest.raises(Refused) as problem:
        here.press("early")
    assert "closed cools in air to the end" in problem.value.faults[0].rule
    vented = run("to-step cool", path=DROP)
    assert isinstance(vented.step, CoolStep)
    assert not vented.step.to_the_end
    assert "early" in vented.possible()


def test_a_red_short_alloy_is_not_quenched_before_it_is_black() -> None:
    made = piece(
        [plate("top", "germanium-silver-935"), wire("post", "germanium-silver-935")],
        [join("foot", "post", "top")],
    )
    here = pressed(made, "to-step cool")
    with pytest.raises(Refused) as problem:
        here.press("early")
    assert "cracks if it is quenched while it glows" in problem.value.faults[0].rule


POURED = next(path for path in EXAMPLES if path.name.startswith("offcuts"))


@pytest.mark.parametrize("word", ["short", "fold"])
def test_a_failed_pour_is_melted_again(word: str) -> None:
    here = run("to-step pour", "lit", "off", f"outcome pour {word}", path=POURED)
    (offer, *_) = here.offers()
    assert offer.way == "melt-again"
    steps = [step for step in offer.steps if isinstance(step, HeatStep | PrepareStep)]
    assert [step.kind for step in steps] == ["prepare", "heat"]
    assert isinstance(steps[0], PrepareStep)
    assert steps[0].mould_of == "pour", "a mould that was poured into is dried anew"
    here.press("way melt-again")
    here.press("to-end")


def test_an_anneal_has_its_words_and_its_row() -> None:
    here = run("to-heat 2", "lit", "off", path=POURED)
    assert {press for press in here.possible() if press.startswith("outcome")} == {
        "outcome all soft",
        "outcome all still-hard",
        "outcome all too-hot",
    }
    with pytest.raises(Refused):
        here.press("next")
    here.press("outcome anneal still-hard")
    assert ways(here)[0] == "again"
    here.press("way again")
    here.press("to-end")
    rows = [(row["try"], row["outcome"]) for row in shown_run(here)["log"] if row["heat_no"] == 2]
    assert rows == [(1, "still-hard"), (2, "soft")]


def test_a_size_that_is_off_is_judged_and_passed_only_by_its_own_key() -> None:
    band = wire("band")
    band["form"] |= {"length_mm": 60, "closed": True}
    row = {"id": "sized", "kind": "size", "parts": ["band"], "target": {"mm": 18.4, "what": "inside"}}
    made = piece([band], [join("seam", "band", "band", kind="butt")], work=[row])
    here = pressed(made, "to-step size", "measure inside 17.8")
    assert ways(here) == ["size-again", "as-it-is"]
    assert "1.9" in speak(here.offers()[0].why), "0.6 mm across are 1.9 mm round the band"
    with pytest.raises(Refused):
        here.press("next")
    here.press("way size-again")
    here.press("measure size_mm 18.4")
    here.press("next")


def test_the_last_press_is_undone_also_where_it_wrote_many() -> None:
    here = pressed(BALLS, "to-heat 1", "lit", "off", "outcome all size", "undo")
    assert here.unsaid() == ["balls"]
    here = run("to-heat 2", "lit", "off", "outcome all flowed", "next", "undo")
    assert isinstance(here.step, HeatStep)


def test_the_rest_is_planned_from_what_is_there() -> None:
    here = run("to-heat 2", "lit", "off", "outcome crown did-not-flow", "rest")
    assert [row["outcome"] for row in shown_run(here)["log"]] == ["flowed", "did-not-flow"]
    assert "crown" in {
        name
        for step in here.plan.steps
        if isinstance(step, HeatStep)
        for name in [j.join for j in step.joins]
    }
    here.press("to-end")
    assert shown_run(here)["standing"] == "finished"


def faults_of(path: Path) -> list[tuple[int, str, str]]:
    """Each heat of an example, each thing that is asked of it, each word that is not sound."""
    here = run(path=path)
    found = []
    for step, face in zip(here.plan.steps, here.leg.faces, strict=True):
        for name in (*face.joins, *([face.work] if face.work else [])) if isinstance(step, HeatStep) else ():
            found += [(step.heat_no, name, word.outcome) for word in WORDS[face.words] if not word.sound]
    return found


@pytest.mark.long
@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.name)
def test_every_offer_can_be_taken_and_nothing_in_it_is_forbidden(path: Path) -> None:
    """Each fault of each heat of each example: some way, or the rest; each way taken is gone through to the end of its steps."""
    begun = begun_at_each_heat(path)
    for heat, name, word in faults_of(path):
        here = begun_again(begun[heat])
        here.press(f"outcome {name} {word}")
        if word == "opened-another":
            continue
        for way in (way for way in ways(here) if way != "rest"):
            again = begun_again(here)
            again.press(f"way {way}")
            state = again.state
            for step in (again.step, *again.later):
                for act in acts_of(state, step, again=frozenset()):
                    never = [one.code for one in forbidden(state, act)]
                    assert never == [], (heat, name, word, way, step.text)
                    state = after(state, act)


def begun_at_each_heat(path: Path) -> dict[int, Presses]:
    """Give an example at each of its heats, all of it well said."""
    here, found = run(path=path), dict[int, Presses]()
    while here.run.standing == "going":
        if isinstance(here.step, HeatStep):
            for press in ("lit", "off", f"outcome all {here.words()[0].outcome}"):
                here.press(press)
            found[here.step.heat_no] = begun_again(here)
        here.press("next")
    return found


def begun_again(here: Presses) -> Presses:
    """Give a run that goes on from where another stands, and leaves that as it is."""
    other, leg = copy(here), copy(here.leg)
    leg.events, leg.extras, leg.steps, leg._telling = (
        list(leg.events),
        list(leg.extras),
        list(leg.steps),
        None,
    )
    other.legs, other._known, other._marks = [*here.legs[:-1], leg], {}, list(here._marks)
    return other


def test_a_retry_is_the_heat_of_the_plan_where_nothing_else_was_made_in_it() -> None:
    here = run("to-heat 2", "lit", "off", "outcome crown short", path=DROP)
    assert all(
        step.n <= len(here.plan.steps)
        for offer in here.offers()
        for step in offer.steps
        if isinstance(step, HeatStep)
    )


def test_a_look_that_does_not_pass_leads_back_to_it() -> None:
    here = run("to-step inspect", "look 1 fails")
    with pytest.raises(Refused):
        here.press("next")
    offer = here.offers()[0]
    assert [step.kind for step in offer.steps][-1] == "inspect"
    assert not any(step.kind == "cool" and step.n == 0 for step in offer.steps), "it is cold"
    here.press(f"way {offer.way}")
    here.press("to-end")
    assert [row["try"] for row in shown_run(here)["log"] if row["join"] == "rim"] == [1, 2]


def test_what_is_joined_already_is_not_cut_anew() -> None:
    parts = [plate("base"), wire("post")]
    work = [{"id": "soften", "kind": "anneal", "parts": ["post"], "after": ["foot"]}]
    made = piece(parts, [join("foot", "post", "base")], work=work)
    here = pressed(made, "to-step anneal", "lit", "off", "outcome soften too-hot")
    assert "cut-anew" not in ways(here)
