"""What is made already: the heats to come meet it as it is, and cost what they would have cost."""

from __future__ import annotations

from typing import Any

import pytest

from eskel_core.faults import Refused
from eskel_core.piece import Piece, piece_from_object, piece_object
from eskel_core.plan import HeatStep, Plan, WorkStep, plan, why_join
from tests.core.pieces import EXAMPLES, generated, join, piece, plate, seeds, wire


def heats_of(made: Plan) -> list[HeatStep]:
    return [step for step in made.steps if isinstance(step, HeatStep)]


def made_up_to(of: Piece, by: Plan, of_round: int) -> Piece:
    """A piece of which all is made that a plan makes in its first rounds, as it makes it."""
    over = [heat for heat in heats_of(by) if heat.round <= of_round]
    solder = {row.join: row.solder for heat in over for row in heat.joins}
    plain = piece_object(of)
    for one in plain.get("joins", ()):
        if one["id"] in solder:
            one.pop("grade", None)
            one |= {"made": True} | ({"solder": solder[one["id"]]} if solder[one["id"]] else {})
    ahead = [heat.n for heat in heats_of(by) if heat.round > of_round]
    past = [step for step in by.steps if step.n < min(ahead, default=len(by.steps) + 1)]
    done = {step.work for step in past if isinstance(step, HeatStep | WorkStep)}
    for one in plain.get("work", ()):
        one["done"] = one["id"] in done
    return piece_from_object(plain)


def values(made: Plan) -> dict[str, float]:
    return {one.name: one.value for one in made.objectives}


@pytest.mark.parametrize("seed", seeds(60, quick=4))
def test_after_each_round_the_rest_is_as_good_as_it_was(seed: int) -> None:
    """The best plan is the best from every round of it on: what was made costs nothing any more, and the rest no more than before."""
    of = generated(300 + seed, 3 + seed % 6)
    whole = plan(of)
    rounds = max((heat.round for heat in heats_of(whole)), default=0)
    for over in range(1, rounds + 1):
        rest = plan(made_up_to(of, whole, over))
        ahead = [heat for heat in heats_of(whole) if heat.round > over]
        assert rest.status == whole.status
        assert [heat.heat_no for heat in heats_of(rest)] == list(range(1, len(ahead) + 1))
        assert {row.join for heat in heats_of(rest) for row in heat.joins} == {
            row.join for heat in ahead for row in heat.joins
        }
        told = values(rest)
        assert (told["heats"], told["rounds"]) == (len(ahead), rounds - over)
        assert told["joins-run-again"] + told["soft-while-loaded"] <= (
            values(whole)["joins-run-again"] + values(whole)["soft-while-loaded"]
        )
        flows = [row.solder for heat in ahead for row in heat.joins]
        assert sorted(map(str, flows)) == sorted(
            str(row.solder) for heat in heats_of(rest) for row in heat.joins
        )


def in_a_row(**of_first: Any) -> Piece:
    """Three wires on one another; `first` ties the two lower ones, `last` the third to them."""
    return piece(
        [plate("base"), wire("post"), wire("arm")],
        [join("first", "post", "base", **of_first), join("last", "arm", "post", holds="own-weight")],
    )


@pytest.mark.parametrize(
    ("made_with", "taken"),
    [("us-hard", "us-easy"), ("us-medium", "us-extra-easy"), ("us-easy", "us-extra-easy")],
)
def test_what_follows_is_softer_than_what_is_made(made_with: str, taken: str) -> None:
    """Held by nothing, a join that is made must not run again: the next takes the hardest that leaves it firm."""
    rest = plan(in_a_row(holds="hand", made=True, solder=made_with))
    [heat] = heats_of(rest)
    assert [row.solder for row in heat.joins] == [taken]
    assert heat.states["first"] == "firm"
    assert [(band.join, band.heat_no) for band in rest.bands] == [("first", 0), ("last", 1)]
    assert [line.joins for line in rest.solder_list] == [("last",)]


def test_where_nothing_softer_is_at_hand_what_is_made_is_named() -> None:
    of = in_a_row(holds="hand", made=True, solder="us-extra-easy")
    told = plan(of).conflict
    assert told is not None
    assert "made" in told.codes
    assert "first is made already, before last." in [one.text for one in told.demands]


def test_a_join_that_is_made_may_be_of_what_is_no_longer_at_hand() -> None:
    of = in_a_row(made=True, solder="us-hard").model_copy(
        update={"bench": None},
    )
    rest = plan(piece_from_object({**piece_object(of), "bench": {"solders": ["us-easy"]}}))
    assert [row.solder for row in heats_of(rest)[0].joins] == ["us-easy"]


def test_what_is_there_is_not_cut_and_what_is_done_is_not_told() -> None:
    of = piece(
        [plate("base", made=True), wire("post")],
        [join("first", "post", "base", after=["bend"])],
        work=[{"id": "bend", "kind": "bend", "parts": ["base"], "done": True}],
    )
    made = plan(of)
    assert [line.part for line in made.cut_list] == ["post"]
    assert not [step for step in made.steps if isinstance(step, WorkStep)]


@pytest.mark.parametrize(("done", "vents"), [(True, 0), (False, 1)])
def test_a_hollow_that_is_closed_stays_as_it_was_vented(done: bool, vents: int) -> None:
    """A vent that is drilled counts for every heat to come; one that is not cannot be put in before the hollow is closed."""
    of = piece(
        [plate("top"), plate("bottom"), wire("loop")],
        [
            join("rim", "top", "bottom", encloses="box", made=True, solder="us-hard"),
            join("hang", "loop", "top"),
        ],
        work=[{"id": "hole", "kind": "drill", "parts": ["top"], "vents": ["box"], "done": True}]
        if done
        else [],
    )
    made = plan(of)
    sealed = [one for one in made.cautions if one.code == "sealed-hollow"]
    assert len(sealed) == vents
    assert not [step for step in made.steps if isinstance(step, WorkStep) and step.work_kind == "drill"]


@pytest.mark.parametrize(
    ("of_join", "code"),
    [({"made": True}, "missing"), ({"made": True, "grade": "hard"}, "missing"), ({"made": 3}, "wrong-type")],
)
def test_a_join_that_is_made_names_its_solder(of_join: dict[str, Any], code: str) -> None:
    with pytest.raises(Refused) as refused:
        in_a_row(**of_join)
    assert [fault.code for fault in refused.value.faults] == [code]


def test_nobody_asks_why_of_what_is_made() -> None:
    with pytest.raises(Refused) as refused:
        why_join(in_a_row(made=True, solder="us-hard"), "first")
    assert refused.value.faults[0].path == "join"


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.stem)
def test_an_example_is_planned_from_each_of_its_rounds(path: Any) -> None:
    from eskel_core.piece import parse_piece

    of = parse_piece(path.read_text(encoding="utf-8"))
    whole = plan(of)
    for over in range(1, max((heat.round for heat in heats_of(whole)), default=0) + 1):
        rest = plan(made_up_to(of, whole, over))
        assert rest.conflict is None
        assert len(heats_of(rest)) <= len([heat for heat in heats_of(whole) if heat.round > over])
