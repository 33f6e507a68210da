"""What the screens are told of a run."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta

from django.utils import timezone
from ninja import Schema

from eskel_core.faults import Refused
from eskel_core.log import OUTCOMES, SOUND, WORDS, OutcomeWord, WordSet
from eskel_core.picture import Picture
from eskel_core.piece import piece_from_object
from eskel_core.plan import Caution, HeatStep, InspectStep, Plan, Step
from eskel_core.run import (
    WAYS,
    Face,
    JoinWord,
    Measured,
    Turn,
    Way,
    WayWord,
    faces_of,
    told_anew,
    ways_for,
)
from eskel_server.accounts import Unreadable
from eskel_server.pieces import content_of, picture_of

from .following import faces_of_run, moment_of, ms_of, state_of, step_at
from .happened import position_of
from .models import Run
from .queries import LIT, plan_of_run, record_of, steps_of_run

UNREADABLE = "What was kept of this run cannot be read"


class OutcomeView(Schema):
    """How a join came out of its heat."""

    join: str
    title: str
    outcome: str
    words: str
    at: datetime


class SignView(Schema):
    """A sign that was pressed: 0 that the flame is lit, else that of so many stages."""

    stage: int
    at: datetime


class MeasureView(Schema):
    """What was measured, mm or g by what it is."""

    what: Measured
    value: float


class LookView(Schema):
    """A look at the work, by its number from 1, and whether it passed."""

    check: int
    passes: bool


class RecordView(Schema):
    """A step that was entered: its times, and what came of it."""

    n: int
    turn: str
    again: int
    step: Step
    started_at: datetime
    ended_at: datetime | None
    due_low: datetime | None
    due_high: datetime | None
    skipped: bool
    note: str
    tally: int
    lost: int
    signs: list[SignView]
    measures: list[MeasureView]
    looks: list[LookView]
    outcomes: list[OutcomeView]


class FlameView(Schema):
    """The flame of a heat: the signs pressed, which comes next (None: all are seen), and, where it was rehearsed, what the
    signs say of today: when the heat is likely to be done, and that in words.
    """

    signs: list[SignView]
    next: int | None
    done_at: datetime | None
    today: str


class SentBack(Schema):
    """A heat that can be gone back to, and what it makes: from a look, or from a heat in which a join of it opened."""

    heat_no: int
    title: str


class RunView(Schema):
    """A run: where it stands, what it asks now, and everything so far. `now` is the server's clock.

    `again` counts the tries of a step that is done again, and `told` is what is done otherwise in it; `ways` is what can be tried where
    a join of the heat at hand did not come out sound, `back_to` the heats that a look at hand can send back to.
    """

    id: int
    piece: int | None
    piece_name: str
    state: str
    position: int
    turn: str
    again: int
    told: list[str]
    ways: list[WayWord]
    back_to: list[SentBack]
    step: Step
    flame: FlameView | None
    next_text: str
    cautions: list[Caution]
    heats: int
    steps: list[str]
    records: list[RecordView]
    words: list[OutcomeWord]
    picture: Picture
    started_at: datetime
    ended_at: datetime | None
    now: datetime


class RunSheet(Schema):
    """What never changes of a run: its plan, and the words in which a device tells it where there is no server.

    `fits` has, by outcome, the ways to do a heat again that fit it, the best first. `weighs_g` is what all that is cut and the solder weigh;
    None where a part is of no known metal.
    """

    id: int
    piece: int | None
    piece_name: str
    began_ms: int
    faces: list[Face]
    steps: list[Step]
    cautions: list[Caution]
    picture: Picture
    words: list[OutcomeWord]
    sets: dict[WordSet, list[OutcomeWord]]
    ways: list[WayWord]
    fits: dict[str, list[Way]]
    weighs_g: float | None


def view_of(run: Run) -> RunView:
    """Give everything that a run's page shows."""
    plan, state, steps = plan_of_run(run), state_of(run), steps_of_run(run)
    turns = state.turns
    here = next(n for n, turn in enumerate(turns) if turn.id == run.turn)
    turn, step = turns[here], step_at(run, turns[here])
    return RunView(
        id=run.pk,
        piece=run.piece_id,
        piece_name=run.piece_name,
        state=run.state,
        position=position_of(state, len(plan.steps)),
        turn=turn.id,
        again=turn.again,
        told=[word.told for word in WAYS if word.way in turn.ways],
        ways=list(ways_for([word.outcome for word in _words_on(plan, turns[: here + 1], step)])),
        back_to=_back_to(plan, turns[:here], turn, step),
        step=step,
        flame=_flame(run, step),
        next_text=next_text(steps, turns[here + 1].step - 1 if here + 1 < len(turns) else len(steps)),
        cautions=[caution for caution in plan.cautions if caution.step == step.n],
        heats=sum(1 for one in plan.steps if isinstance(one, HeatStep)),
        steps=[one.kind for one in plan.steps],
        records=[
            _record(steps, one)
            for one in sorted((one for one in turns if one.stays), key=lambda one: one.stays[0].entered_ms)
        ],
        words=list(OUTCOMES),
        picture=_picture(run),
        started_at=run.started_at,
        ended_at=run.ended_at,
        now=timezone.now(),
    )


def sheet_of(run: Run) -> RunSheet:
    """Give what never changes of a run. Raises `Unreadable` where its plan or its piece cannot be read."""
    plan = plan_of_run(run)
    return RunSheet(
        id=run.pk,
        piece=run.piece_id,
        piece_name=run.piece_name,
        began_ms=ms_of(run.started_at),
        faces=list(faces_of_run(run)),
        steps=list(steps_of_run(run)),
        cautions=list(plan.cautions),
        picture=_picture(run),
        words=list(OUTCOMES),
        sets={name: list(words) for name, words in WORDS.items()},
        ways=list(WAYS),
        fits={word.outcome: [one.way for one in ways_for([word.outcome])] for word in OUTCOMES},
        weighs_g=_weighs_g(_plans_of(run)),
    )


def _plans_of(run: Run) -> list[Plan]:
    """Give the plan of a run, and of those that it goes on from, the oldest first."""
    plans, at = [plan_of_run(run)], run.continues
    while at is not None:
        plans, at = [plan_of_run(at), *plans], at.continues
    return plans


def _weighs_g(plans: Sequence[Plan]) -> float | None:
    """Give what all that was cut for a piece weighs, what was cut anew once, with the solder that it was planned with at first; None
    where that is not known.
    """
    lines = {line.part: line for plan in plans for line in plan.cut_list}.values()
    parts = [None if line.mass_g is None else line.mass_g * line.count for line in lines]
    known = [mass for mass in parts if mass is not None]
    if len(known) < len(parts) or not known:
        return None
    return round(sum(known) + sum(line.mass_g for line in plans[0].solder_list), 3)


def _looked_at(plan: Plan, before: Sequence[Turn], step: Step) -> list[HeatStep]:
    """Give the heats of a look's round that were done; of a plan that names none, the last heat before it."""
    if not isinstance(step, InspectStep):
        return []
    done = {turn.step for turn in before}
    heats = [one for one in plan.steps if isinstance(one, HeatStep) and one.n in done]
    return [one for one in heats if one.heat_no in step.heats] if step.heats else heats[-1:]


def _words_on(plan: Plan, turns: Sequence[Turn], step: Step) -> list[JoinWord]:
    """Give the words that stand on the heat at hand; at a look, those on the last try of each heat that is looked at."""
    if not isinstance(step, InspectStep):
        return list(turns[-1].outcomes)
    last = {turn.step: turn for turn in turns}
    return [word for heat in _looked_at(plan, turns[:-1], step) for word in last[heat.n].outcomes]


def _opened(
    plan: Plan, before: Sequence[Turn], turn: Turn, step: HeatStep
) -> list[tuple[HeatStep, list[str]]]:
    """Give the earlier heats of which a join opened in the flame of this one, each with those joins: what was said of them since it began."""
    last = {one.step: one for one in before}
    since = turn.stays[0].entered_ms
    found = [
        (
            heat,
            [
                word.join
                for word in last[heat.n].outcomes
                if word.join in step.states and word.at_ms >= since and not SOUND[word.outcome]
            ],
        )
        for heat in plan.steps
        if isinstance(heat, HeatStep) and heat.n in last and heat.n != step.n
    ]
    return [(heat, joins) for heat, joins in found if joins]


def _back_to(plan: Plan, before: Sequence[Turn], turn: Turn, step: Step) -> list[SentBack]:
    """Give the heats that a look can send back to; at a heat, those of which a join opened in it."""
    heats = [(heat, [row.join for row in heat.joins]) for heat in _looked_at(plan, before, step)]
    if isinstance(step, HeatStep):
        heats = _opened(plan, before, turn, step)
    return [
        SentBack(
            heat_no=heat.heat_no,
            title=", ".join(row.title for row in heat.joins if row.join in joins) or f"Heat {heat.heat_no}",
        )
        for heat, joins in heats
    ]


_WHAT = {"anneal": "is annealed", "fuse": "fuses", "ball": "is drawn up", "melt": "is molten"}


def _flame(run: Run, step: Step) -> FlameView | None:
    """Tell how far a heat is by its signs: one that was not rehearsed by its lit flame."""
    if not isinstance(step, HeatStep):
        return None
    pressed = {one.stage: one.at for one in record_of(run).signs.filter(taken_back_at=None)}
    lit = pressed.get(LIT)
    last = max(pressed, default=-1)
    seconds = [stage.likely_s for stage in step.stages]
    today = None
    if lit is not None:
        since = {stage - 1: (at - lit).total_seconds() for stage, at in pressed.items() if stage != LIT}
        today = told_anew(seconds, since, _WHAT.get(step.purpose, "runs"))
    return FlameView(
        signs=[SignView(stage=stage, at=at) for stage, at in sorted(pressed.items())],
        next=None if last == len(step.stages) else last + 1,
        done_at=None if today is None else pressed[last] + timedelta(seconds=today.left_s),
        today="" if today is None else today.words,
    )


def _record(steps: Sequence[Step], turn: Turn) -> RecordView:
    step = steps[turn.step - 1]
    titles = {row.join: row.title for row in step.joins} if isinstance(step, HeatStep) else {}
    own = WORDS[faces_of([step])[0].words]
    words: dict[str, str] = {word.outcome: word.words for word in own}
    last = turn.stays[-1]
    return RecordView(
        n=turn.step,
        turn=turn.id,
        again=turn.again,
        step=step,
        started_at=moment_of(turn.stays[0].entered_ms),
        ended_at=None if last.left_ms is None or last.back else moment_of(last.left_ms),
        due_low=None if turn.due_low_ms is None else moment_of(turn.due_low_ms),
        due_high=None if turn.due_high_ms is None else moment_of(turn.due_high_ms),
        skipped=turn.skipped,
        note="\n".join(note.text for note in turn.notes),
        tally=turn.tally,
        lost=turn.lost,
        signs=[SignView(stage=sign.stage, at=moment_of(sign.at_ms)) for sign in turn.signs],
        measures=[MeasureView(what=one.what, value=one.value) for one in turn.measures],
        looks=[LookView(check=one.check, passes=one.passes) for one in turn.looks],
        outcomes=[
            OutcomeView(
                join=one.join,
                title=titles.get(one.join, one.join),
                outcome=one.outcome,
                words=words.get(one.outcome, one.outcome),
                at=moment_of(one.at_ms),
            )
            for one in turn.outcomes
        ],
    )


def _picture(run: Run) -> Picture:
    try:
        return picture_of(content_of(piece_from_object(dict(run.document))))
    except Refused as problem:
        raise Unreadable("run", run.pk, problem) from problem


def next_text(steps: Sequence[Step], position: int) -> str:
    return steps[position].text if position < len(steps) else "the last step: then it is done"
