"""Moves by hand, and why: what the solver answers when it is asked for something else."""

import json
from typing import Any

import pytest

from eskel_core.faults import Refused
from eskel_core.piece import Piece, parse_piece
from eskel_core.plan import HeatStep, Plan, plan, why_join
from tests.core.pieces import EXAMPLES, chain, generated, join

DROP = next(path for path in EXAMPLES if path.name.startswith("hollow-lantern-drop"))


def row_of(three: dict[str, Any] | None = None) -> Piece:
    """Three seated joins in a row: one heat does them all."""
    rows = [join("a", "w0", "w1"), join("b", "w1", "w2"), join("c", "w2", "w3")]
    return chain(4, [{**row, **((three or {}).get(row["id"], {}))} for row in rows])


def heats(made: Plan) -> list[set[str]]:
    return [{row.join for row in step.joins} for step in made.steps if isinstance(step, HeatStep)]


def solder_of(made: Plan, name: str) -> str | None:
    rows = [row for step in made.steps if isinstance(step, HeatStep) for row in step.joins]
    return next(row.solder for row in rows if row.join == name)


def test_a_join_kept_apart_has_a_heat_of_its_own_and_tells_what_it_costs() -> None:
    assert heats(plan(row_of())) == [{"a", "b", "c"}]
    made = plan(row_of({"b": {"by_hand": {"apart": ["a", "c"]}}}))
    assert [len(heat) for heat in heats(made)] == [1, 2] or [len(heat) for heat in heats(made)] == [2, 1]
    assert made.by_hand is not None
    assert made.by_hand.joins == ("b",)
    assert made.by_hand.cost.startswith("Against the best: 1 heat more")


def test_joins_moved_into_one_heat_share_it() -> None:
    ordered = {"b": {"after": ["a"]}, "c": {"after": ["b"]}}
    assert len(heats(plan(row_of(ordered)))) == 3
    spine_first = {
        "a": {"after": ["b"], "grade": "easy"},
        "c": {"after": ["b"], "by_hand": {"shares": ["a"]}},
    }
    assert {"a", "c"} in heats(plan(row_of(spine_first)))


def test_joins_of_two_bodies_never_share_a_heat() -> None:
    """A heat is one body under one flame; that nothing ties the two by then is named."""
    made = plan(row_of({"c": {"by_hand": {"shares": ["a"]}}, "b": {"after": ["a"]}}))
    assert made.conflict is not None
    assert {demand.kind for demand in made.conflict.demands} >= {"shares"}
    rows = [join("a", "w0", "w1"), join("b", "w2", "w3", by_hand={"shares": ["a"]})]
    made = plan(chain(4, rows))
    assert made.conflict is not None
    assert made.conflict.demands[0].text == (
        "b was moved into the heat of a, but nothing ties the two together, and a heat is one body."
    )


def test_bodies_that_nothing_ties_or_orders_share_a_round_and_not_a_heat() -> None:
    rows = [join("a", "w0", "w1"), join("b", "w2", "w3"), join("c", "w1", "w2", after=["a", "b"])]
    made = plan(chain(4, rows))
    assert [(step.round, {row.join for row in step.joins}) for step in made.steps if step.kind == "heat"] == [
        (1, {"a"}),
        (1, {"b"}),
        (2, {"c"}),
    ]
    assert [step.kind for step in made.steps].count("pickle") == 2
    (cool,) = [step for step in made.steps if step.kind == "cool" and step.round == 1]
    assert cool.heats == (1, 2)
    numbers = {objective.name: objective.value for objective in made.objectives}
    assert (numbers["heats"], numbers["rounds"]) == (3, 2)


def test_a_grade_by_hand_stands_over_the_one_that_was_fixed() -> None:
    made = plan(row_of({"a": {"grade": "hard", "by_hand": {"grade": "easy"}}}))
    assert solder_of(made, "a") == "us-easy"


def test_a_move_that_cannot_be_is_named_in_the_conflict() -> None:
    made = plan(row_of({"b": {"after": ["a"], "by_hand": {"shares": ["a"]}}}))
    assert made.conflict is not None
    assert {demand.kind for demand in made.conflict.demands} == {"order", "shares"}
    assert "Take the move back." in {demand.remedy for demand in made.conflict.demands}


@pytest.mark.parametrize(
    ("other", "reason"),
    [
        ({"face": "back"}, "they lie on different sides, back and front"),
        ({"holds": "nothing"}, "nothing holds b, so it is made alone"),
        ({"kind": "fuse"}, "b is fused, which has a heat of its own"),
    ],
)
def test_what_can_never_share_a_heat_is_said(other: dict[str, Any], reason: str) -> None:
    made = plan(row_of({"b": {**other, "by_hand": {"shares": ["a"]}}}))
    assert made.conflict is not None
    assert made.conflict.demands[0].text == f"b was moved into the heat of a, but {reason}."
    why = why_join(row_of({"b": other}), "b")
    assert reason in {
        alternative.text[0].lower() + alternative.text[1:-1] for alternative in why.alternatives
    }


def test_a_move_that_changes_nothing_says_so() -> None:
    made = plan(row_of({"b": {"by_hand": {"shares": ["a"]}}}))
    assert made.by_hand is not None
    assert made.by_hand.cost == "It is as good as the best."


@pytest.mark.parametrize(
    ("moved", "path"),
    [
        ({"shares": ["nobody"]}, "joins[1].by_hand.shares[0]"),
        ({"apart": ["b"]}, "joins[1].by_hand.apart[0]"),
        ({"after": ["nobody"]}, "joins[1].by_hand.after[0]"),
        ({"beside": ["a"]}, "joins[1].by_hand.beside"),
    ],
)
def test_a_move_that_names_nothing_is_refused(moved: dict[str, Any], path: str) -> None:
    with pytest.raises(Refused) as refused:
        row_of({"b": {"by_hand": moved}})
    assert refused.value.faults[0].path == path


@pytest.mark.long
@pytest.mark.parametrize("seed", range(8))
def test_moves_by_hand_never_better_the_best(seed: int) -> None:
    """A plan with a demand more: its numbers, in order, are as good at the most; and what is told of it is so."""
    made = generated(800 + seed, 5)
    if plan(made).conflict is not None:
        return
    for alternative in why_join(made, "j1").alternatives:
        assert alternative.verdict in ("worse", "impossible", "as-good")
        assert alternative.text


def test_why_is_what_the_solver_finds() -> None:
    """The crown of the hollow drop: harder solder would run the rim again; it cannot come in the rim's heat."""
    why = why_join(parse_piece(DROP.read_bytes()), "crown")
    told = {alternative.solder or alternative.title: alternative for alternative in why.alternatives}
    assert why.solder == "us-extra-easy"
    assert "Rim of the domes would run again in heat 2" in told["us-hard"].text
    assert "1 join more runs again" in told["us-hard"].text
    assert "1 heat more comes near to the melting of something thin" in told["us-easy"].text
    assert told["in heat 1, with Rim of the domes"].verdict == "impossible"
    assert told["in heat 1, with Rim of the domes"].text == "Crown collar comes after Rim of the domes."


def test_why_tells_that_a_metal_would_melt() -> None:
    germanium = json.loads(DROP.read_text(encoding="utf-8"))
    for part in germanium["parts"]:
        part["metal"] = "germanium-silver-935"
    why = why_join(parse_piece(json.dumps(germanium)), "rim")
    hard = next(alternative for alternative in why.alternatives if alternative.solder == "us-hard")
    assert hard.verdict == "impossible"
    assert "766" in hard.text
    assert "798" in hard.text


@pytest.mark.parametrize("name", ["nobody", "cold"])
def test_why_of_what_takes_no_heat_is_refused(name: str) -> None:
    rows = [join("a", "w0", "w1"), {"id": "cold", "kind": "rivet", "between": ["w1", "w2"]}]
    with pytest.raises(Refused, match="heated join"):
        why_join(chain(3, rows), name)
