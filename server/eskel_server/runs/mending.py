"""What can be done where something went wrong in a run: the core's offers by the work as it stands, and the steps that they put in."""

from __future__ import annotations

from django.db import transaction
from ninja import Schema

from eskel_core.plan import Step
from eskel_core.run import Face, Here, Way
from eskel_server.accounts import Clash

from .facts import piece_of_run
from .following import faces_of_run, forget_followed, state_of
from .models import Run
from .queries import marked, plan_of_run, steps_of_run


class OfferView(Schema):
    """A way out of what went wrong: what it is called, why it fits, for which joins, and its steps by their numbers in the sheet."""

    way: Way
    title: str
    why: str
    joins: list[str]
    steps: list[int]
    texts: list[str]


class NeverView(Schema):
    """Why the step at hand must not be done to the work as it stands, and what would make it right."""

    code: str
    text: str
    remedy: str


class Offers(Schema):
    """What can be done at a turn, the best first, with all steps that may be put in: their numbers follow those of the plan.

    `never` says why the step itself must not be done, where it must not.
    """

    turn: str
    never: list[NeverView]
    offers: list[OfferView]
    steps: list[Step]
    faces: list[Face]


@transaction.atomic
def offers_at(run: Run, turn: str) -> Offers:
    """Give what can be done at the turn where a run stands. Steps that are put in are kept with the run, each once."""
    kept = marked(Run.objects.all()).select_for_update().get(pk=run.pk)
    if kept.turn != turn:
        raise Clash(
            "turn", turn, f"the run stands at step {kept.position} by now", "Look again at what it asks."
        )
    piece, plan = piece_of_run(kept), plan_of_run(kept)
    if piece is None:
        raise Clash("run", kept.pk, "the piece of the run can be read", "Plan the piece anew.")
    here = Here(piece, plan, steps_of_run(kept)[len(plan.steps) :], state_of(kept))
    rows = [
        OfferView(
            way=one.way,
            title=one.title,
            why=one.why,
            joins=list(one.joins),
            steps=here.numbers(one),
            texts=[step.text for step in one.steps],
        )
        for one in here.offers()
    ]
    if len(here.leg.extras) > len(kept.put_in):
        kept.put_in = [step.model_dump(mode="json") for step in here.leg.extras]
        kept.save(update_fields=["put_in"])
        forget_followed(kept)
    return Offers(
        turn=turn,
        never=[NeverView(code=one.code, text=one.text, remedy=one.remedy) for one in here.never()],
        offers=rows,
        steps=list(here.leg.extras),
        faces=list(faces_of_run(kept))[len(plan.steps) :],
    )
