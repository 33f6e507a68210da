"""A plan that would do what must never be done comes out otherwise, or is not given out, with the reason."""

from __future__ import annotations

from typing import Any

import pytest

from eskel_core.plan import HeatStep, PrepareStep, WorkStep, plan
from tests.core.pieces import join, piece, wire

BEAD = {"id": "bead", "metal": None, "form": {"kind": "ball", "diameter_mm": 6}, "heat_safe": False}
THREAD = {"id": "thread", "kind": "wrap", "between": ["bead", "pin"]}


@pytest.mark.parametrize(
    ("joins", "work"),
    [
        ([THREAD | {"made": True}, join("foot", "ring", "pin")], []),
        (
            [join("foot", "ring", "pin")],
            [{"id": "on", "kind": "hang", "parts": ["bead", "ring"], "done": True}],
        ),
    ],
)
def test_no_plan_heats_what_is_on_the_work_already(joins: Any, work: Any) -> None:
    made = plan(piece([wire("pin"), wire("ring"), BEAD], joins, work=work))
    assert (made.status, made.steps) == ("impossible", ())
    assert made.conflict is not None
    (demand,) = made.conflict.demands
    assert (demand.code, demand.ids) == ("stone-in-heat", ("bead",))
    assert demand.remedy == "Take it off, and put it on again after the last heat"


ROLLED = [{"id": "thin", "kind": "roll", "parts": ["pin"], "reduction_pct": 50}, {"id": "thinner", "kind": "roll", "parts": ["pin"], "reduction_pct": 50}]  # fmt: skip
WRAP = {"id": "wrap", "kind": "wrap", "between": ["pin", "bead"]}


def test_an_anneal_that_forming_asks_for_comes_before_the_bead_is_on() -> None:
    made = plan(piece([wire("pin"), BEAD], [WRAP], work=ROLLED))
    kinds = [step.work or step.purpose for step in made.steps if isinstance(step, WorkStep | HeatStep)]
    assert kinds == ["thin", "anneal", "thinner"]
    assert made.steps[-1].kind == "prepare"
    assert not [one for one in made.cautions if one.code == "stone-in-heat"]


def test_an_anneal_that_would_heat_the_bead_whatever_the_order_is_no_plan() -> None:
    told = [ROLLED[0], {**ROLLED[1], "after": ["wrap"]}]
    made = plan(piece([wire("pin"), BEAD], [WRAP], work=told))
    assert made.status == "impossible"
    assert made.conflict is not None
    assert made.conflict.codes == ("stone-in-heat", "order")
    assert "asks for an anneal" in made.conflict.demands[0].text


def test_pewter_is_never_annealed_by_the_planner() -> None:
    work = [{**row, "reduction_pct": 80} for row in ROLLED]
    made = plan(piece([wire("pin", "pewter")], [], work=work))
    assert not [step for step in made.steps if isinstance(step, HeatStep)]


def test_the_mould_is_warm_and_dry_before_the_metal_is_molten() -> None:
    work = [{"id": "melt", "kind": "melt", "parts": ["bar"]}, {"id": "pour", "kind": "pour", "parts": ["bar"], "after": ["melt"]}]  # fmt: skip
    made = plan(piece([wire("bar", across_mm=6)], [], work=work))
    steps = [
        step.mould_of if isinstance(step, PrepareStep) else getattr(step, "work", "-") for step in made.steps
    ]
    assert steps[:4] == [None, "pour", "melt", "pour"]
