"""The piece as a run has made it: what is joined and with what, what is cut, formed and done; and the plan of the rest."""

from __future__ import annotations

from typing import Any

import pytest

from eskel_core.faults import Refused
from eskel_core.piece import Piece, piece_object, resolve_bench
from eskel_core.plan import CoolStep, HeatStep, InspectStep, PickleStep, Plan, WorkStep, plan
from eskel_core.run import Otherwise, RunState, as_made, faces_of, going_on, otherwise, read_event, run_state
from tests.core.pieces import join, piece, plate, wire

# A plate is bent, a post set on it, a loop on the post; a ring is closed by hand at the end.
PIECE = piece(
    [plate("base", rough=plate("r")["form"]), wire("post"), wire("loop")],
    [
        join("foot", "post", "base", holds="hand"),
        join("top", "loop", "post", holds="hand", after=["foot"]),
        {"id": "ring", "kind": "wrap", "between": ["loop", "post"], "after": ["top"]},
    ],
    work=[
        {"id": "curve", "kind": "bend", "parts": ["base"], "reduction_pct": 20, "before": ["foot"]},
        {"id": "edge", "kind": "trim", "parts": ["base"], "after": ["foot"], "before": ["top"]},
        {
            "id": "spring",
            "kind": "twist",
            "parts": ["post"],
            "reduction_pct": 15,
            "after": ["edge"],
            "before": ["top"],
        },
    ],
)
PLAN = plan(PIECE)


class Told:
    """A run of the plan as a device writes it down."""

    def __init__(self) -> None:
        self.rows: list[dict[str, Any]] = []

    @property
    def state(self) -> RunState:
        events = [
            read_event({"id": f"tablet-{n:05}", "device": "tablet-1", "seq": n + 1, "at_ms": 1000 * n, **row})
            for n, row in enumerate(self.rows, start=1)
        ]
        told = run_state(faces_of(PLAN.steps), 0, events)
        assert told.aside == ()
        return told

    def does(self, kind: str, **more: Any) -> Told:
        self.rows.append({"kind": kind, "turn": self.state.at, **more})
        return self

    def comes_to(self, wanted: str, *, skipping: tuple[str, ...] = (), word: str = "flowed") -> Told:
        """Go on until a step, told by the words that it begins with or by its kind; each heat with a word on its joins."""
        while True:
            turn = next(one for one in self.state.turns if one.id == self.state.at)
            step = PLAN.steps[turn.step - 1]
            named = (
                step.work
                if isinstance(step, WorkStep)
                else f"{step.kind} {getattr(step, 'heat_no', '')}".strip()
            )
            if named == wanted:
                return self
            if isinstance(step, HeatStep) and named not in skipping:
                self.does("lit")
                for row in step.joins:
                    self.does("outcome", join=row.join, outcome=word)
            self.does("next", confirmed=True, skipped=named in skipping)


def made_of(told: Piece) -> dict[str, str | None]:
    return {one.id: one.solder for one in told.joins if one.made}


def test_before_anything_is_done_it_is_the_piece() -> None:
    assert as_made(PIECE, PLAN, Told().state) == PIECE


def test_what_was_joined_is_made_with_its_solder_and_what_was_cut_is_there() -> None:
    now = as_made(PIECE, PLAN, Told().comes_to("edge").state)
    assert made_of(now) == {"foot": "us-hard"}
    assert {part.id: part.made for part in now.parts} == {"base": True, "post": True, "loop": False}
    assert {work.id: work.done for work in now.work} == {"curve": True, "edge": False, "spring": False}


def test_a_part_is_as_hard_as_what_was_done_since_its_heat_left_it() -> None:
    """Bent by a fifth, then heated: soft. Twisted by 15 % after: that much."""
    bent = as_made(PIECE, PLAN, Told().comes_to("heat 1").state)
    temper = {part.id: part.temper for part in bent.parts}
    assert getattr(temper["base"], "reduction_pct", None) == 20
    after = as_made(PIECE, PLAN, Told().comes_to("heat 2").state)
    parts = {part.id: part for part in after.parts}
    assert parts["base"].temper == "soft"
    assert parts["base"].rough is None  # trimmed
    assert getattr(parts["post"].temper, "reduction_pct", None) == 15


@pytest.mark.parametrize(
    ("word", "there"),
    [
        ("flowed", True),
        ("short", True),
        ("flooded", True),
        ("opened-another", True),
        ("did-not-flow", False),
        ("moved", False),
        ("melted", False),
    ],
)
def test_a_join_is_there_by_the_last_word_on_it(word: str, there: bool) -> None:
    told = Told().comes_to("heat 1").does("lit").does("outcome", join="foot", outcome="moved")
    told.does("outcome", join="foot", outcome=word)
    assert ("foot" in made_of(as_made(PIECE, PLAN, told.state))) is there


def test_a_join_that_is_being_made_again_is_open() -> None:
    told = Told().comes_to("inspect").does("again", of=heat_turn(1), joins=["foot"])
    assert made_of(as_made(PIECE, PLAN, told.state)) == {}


def heat_turn(heat_no: int) -> str:
    return str(next(step.n for step in PLAN.steps if isinstance(step, HeatStep) and step.heat_no == heat_no))


def test_what_was_gone_back_from_is_not_done() -> None:
    """From the heat back to making ready: the plate is as hard as its bending left it, no flame has been at it."""
    told = Told().comes_to("heat 1").does("back")
    base = as_made(PIECE, PLAN, told.state).parts[0]
    assert getattr(base.temper, "reduction_pct", None) == 20


@pytest.mark.parametrize("skipped", ["heat 1", "curve"])
def test_what_was_skipped_is_not_done(skipped: str) -> None:
    now = as_made(PIECE, PLAN, Told().comes_to("edge", skipping=(skipped,)).state)
    assert ("foot" in made_of(now)) is (skipped != "heat 1")
    assert next(work.done for work in now.work if work.id == "curve") is (skipped != "curve")


def test_when_all_is_done_nothing_is_left_to_plan() -> None:
    told = Told().comes_to("heat 2").does("lit").does("outcome", join="top", outcome="flowed")
    while told.state.standing == "going":
        told.does("next", confirmed=True)
    now = as_made(PIECE, PLAN, told.state)
    assert {one.id for one in now.joins if one.made} == {"foot", "top", "ring"}
    assert plan(now).steps == ()


def test_what_the_last_heat_waits_for_comes_first() -> None:
    """The rest is planned at the flame: what was heated is cooled and pickled before anything of the new plan."""
    told = Told().comes_to("heat 1").does("lit").does("outcome", join="foot", outcome="flowed")
    rest = going_on(
        PLAN, told.state, plan(as_made(PIECE, PLAN, told.state)), as_made(PIECE, PLAN, told.state)
    )
    assert [type(step) for step in rest.steps[:3]] == [CoolStep, PickleStep, InspectStep]
    assert [step.n for step in rest.steps] == list(range(1, len(rest.steps) + 1))
    assert [heat.heat_no for heat in rest.steps if isinstance(heat, HeatStep)] == [1]
    told.comes_to("pickle")
    later = going_on(
        PLAN, told.state, plan(as_made(PIECE, PLAN, told.state)), as_made(PIECE, PLAN, told.state)
    )
    assert isinstance(later.steps[0], PickleStep)
    told.comes_to("inspect")
    look = going_on(
        PLAN, told.state, plan(as_made(PIECE, PLAN, told.state)), as_made(PIECE, PLAN, told.state)
    ).steps[0]
    assert isinstance(look, InspectStep)
    assert look.checks
    told.comes_to("edge")
    assert not isinstance(
        going_on(
            PLAN, told.state, plan(as_made(PIECE, PLAN, told.state)), as_made(PIECE, PLAN, told.state)
        ).steps[0],
        PickleStep,
    )


def test_what_is_open_is_not_looked_at() -> None:
    told = Told().comes_to("heat 1").does("lit").does("outcome", join="foot", outcome="moved")
    rest = going_on(
        PLAN, told.state, plan(as_made(PIECE, PLAN, told.state)), as_made(PIECE, PLAN, told.state)
    )
    assert [type(step) for step in rest.steps[:2]] == [CoolStep, PickleStep]
    first_heat = next(n for n, step in enumerate(rest.steps) if isinstance(step, HeatStep))
    looks = [step for step in rest.steps[:first_heat] if isinstance(step, InspectStep)]
    assert all(check.about != "foot" for step in looks for check in step.checks)


def test_cautions_move_with_their_steps() -> None:
    told = Told().comes_to("heat 1").does("lit").does("outcome", join="foot", outcome="flowed")
    alone = plan(as_made(PIECE, PLAN, told.state))
    rest = going_on(PLAN, told.state, alone, PIECE)
    before = {(one.code, alone.steps[one.step - 1].text) for one in alone.cautions if one.step}
    assert before
    assert {(one.code, rest.steps[one.step - 1].text) for one in rest.cautions if one.step} == before


def changed(**told: Any) -> Piece:
    now = as_made(PIECE, PLAN, Told().comes_to("edge").state)
    return otherwise(now, PIECE, resolve_bench(PIECE.bench), Otherwise.model_validate(told))


def heat_rows(made: Plan) -> list[list[tuple[str, str | None]]]:
    heats = [step for step in made.steps if isinstance(step, HeatStep)]
    return [[(row.join, row.solder) for row in heat.joins] for heat in heats]


def test_a_join_that_opened_is_made_again_softer_than_what_is_there() -> None:
    """The foot was made with hard; when it opens after the top was made, its solder is chosen anew, and the top does not run."""
    now = as_made(PIECE, PLAN, Told().comes_to("heat 2").state)
    told = Otherwise.model_validate({"open": ["foot"], "made": {"top": "us-easy"}})
    rest = plan(otherwise(now, PIECE, resolve_bench(PIECE.bench), told))
    assert heat_rows(rest) == [[("foot", "us-extra-easy")]]


def test_a_join_that_opened_is_again_as_it_was_asked_for() -> None:
    asked = PIECE.model_copy(
        update={
            "joins": (
                PIECE.joins[0].model_copy(update={"grade": "medium", "after": ()}),
                *PIECE.joins[1:],
            )
        }
    )
    now = as_made(asked, PLAN, Told().comes_to("edge").state)
    assert made_of(now) == {"foot": "us-hard"}
    open_again = otherwise(now, asked, resolve_bench(PIECE.bench), Otherwise(open=("foot",)))
    assert open_again.joins[0] == asked.joins[0]


def test_a_join_that_was_made_before_the_run_and_opened_takes_any_solder() -> None:
    before = as_made(PIECE, PLAN, Told().comes_to("edge").state)
    open_again = otherwise(before, before, resolve_bench(PIECE.bench), Otherwise(open=("foot",)))
    foot = open_again.joins[0]
    assert (foot.made, foot.solder, foot.grade) == (False, None, None)


def test_a_solder_that_ran_out_is_not_taken() -> None:
    [[(_, usual)]] = heat_rows(plan(changed()))
    [[(_, other)]] = heat_rows(plan(changed(ran_out=[usual])))
    assert other not in (usual, "us-hard")


def test_a_join_made_with_another_solder_has_that() -> None:
    """Easy in place of hard: what follows has to be softer still."""
    [[(_, taken)]] = heat_rows(plan(changed(made={"foot": "us-easy"})))
    assert taken == "us-extra-easy"


def test_a_part_that_was_clipped_is_shorter_and_one_that_is_anew_is_cut() -> None:
    shorter = changed(lengths_mm={"post": 12})
    assert getattr(shorter.parts[1].form, "length_mm", None) == 12
    assert [line.part for line in plan(shorter).cut_list] == ["loop"]
    anew = changed(anew=["post"], lengths_mm={"post": 11})
    assert {line.part for line in plan(anew).cut_list} == {"post", "loop"}
    assert made_of(anew) == {}
    # What was trimmed is cut as it was asked for, with its allowance.
    now = as_made(PIECE, PLAN, Told().comes_to("heat 2").state)
    again = otherwise(now, PIECE, resolve_bench(PIECE.bench), Otherwise(anew=("base",)))
    assert again.parts[0] == PIECE.parts[0]
    assert {work.id: work.done for work in again.work} == {"curve": False, "edge": False, "spring": True}


@pytest.mark.parametrize(
    ("told", "path"),
    [
        ({"open": ["nowhere"]}, "open.nowhere"),
        ({"made": {"nowhere": "us-hard"}}, "made.nowhere"),
        ({"made": {"foot": "wax"}}, "joins[0].solder"),
        ({"made": {"foot": None}}, "joins[0].solder"),
        ({"lengths_mm": {"base": 10}}, "lengths_mm.base"),
        ({"anew": ["nothing"]}, "anew.nothing"),
        ({"ran_out": ["uk-hard"]}, "ran_out.uk-hard"),
    ],
)
def test_what_the_piece_does_not_have_is_refused(told: dict[str, Any], path: str) -> None:
    with pytest.raises(Refused) as refused:
        changed(**told)
    assert [fault.path for fault in refused.value.faults] == [path]


def test_a_vent_that_the_planner_put_in_stays_drilled() -> None:
    of = piece(
        [plate("top"), plate("bottom"), wire("loop")],
        [join("rim", "top", "bottom", encloses="box"), join("hang", "loop", "top", after=["rim"])],
    )
    made = plan(of)
    vent = next(step for step in made.steps if isinstance(step, WorkStep) and step.work_kind == "drill")
    faces = faces_of(made.steps)
    rows = [
        {"kind": "next", "turn": str(step.n), "confirmed": True} for step in made.steps if step.n <= vent.n
    ]
    events = [
        read_event({"id": f"tablet-{n:05}", "device": "tablet-1", "seq": n + 1, "at_ms": n, **row})
        for n, row in enumerate(rows)
    ]
    now = as_made(of, made, run_state(faces, 0, events))
    [hole] = [work for work in now.work if work.kind == "drill"]
    assert (hole.done, hole.vents) == (True, ("box",))
    assert not [one for one in plan(now).steps if isinstance(one, WorkStep) and one.work_kind == "drill"]
    assert piece_object(now)["work"][0]["done"] is True
    # The dome cut anew has no hole yet: the planner puts one in.
    again = otherwise(now, of, resolve_bench(of.bench), Otherwise(anew=("bottom", "top")))
    put_in = [one.work_kind for one in plan(again).steps if isinstance(one, WorkStep)]
    assert put_in == ["drill", "dry"]
