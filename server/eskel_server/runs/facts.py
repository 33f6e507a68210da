"""What of a run the log is asked by, kept where it can be asked at once: each outcome with its facets, and sums by month.

All of it follows from what happened, and is written with it: what is counted of a turn is taken back before it is counted anew.
"""

from __future__ import annotations

import json
import math
from collections.abc import Iterable, Mapping
from datetime import UTC, date, datetime
from functools import lru_cache
from typing import TYPE_CHECKING, Any

from django.db.models import F

from eskel_core.faults import Refused
from eskel_core.log import SOUND, outcome_text
from eskel_core.piece import Piece, piece_from_object
from eskel_core.plan import HeatStep, Plan, Step, WorkStep
from eskel_core.run import JoinFacets, JoinWord, Turn, facets_of

from .models import Facet, FacetMonth, StepMonth
from .queries import LIT

if TYPE_CHECKING:
    from django.db.models import Model

    from .models import Run, StepRecord

COUNTED = ("facet_id", "at", "told_s", "took_s", "solder_mg")
Sums = dict[tuple[int, date], dict[str, float]]


def outcome_facts(run: Run, plan: Plan, step: Step, turn: Turn) -> list[dict[str, Any]]:
    """Give of each word that stands in a turn what it is of; with the first, what the heat took."""
    words = words_that_stand(turn)
    heat = step if isinstance(step, HeatStep) else None
    of_joins = facets_of(piece_of_run(run), plan, heat) if heat is not None and words else ()
    known = {one.join: one for one in of_joins}
    told_s, took_s = _times(heat, turn) if heat is not None and words else (None, None)
    found = []
    for n, word in enumerate(words):
        # The work of a heat without joins has its row, and nothing that joins are asked by.
        of = known.get(word.join)
        facet = None if of is None else facet_of(run, of, word.outcome, later_try=turn.again > 1).pk
        found.append(
            {
                "facet_id": facet,
                "told_s": told_s if n == 0 else None,
                "took_s": took_s if n == 0 else None,
                "solder_mg": 0.0 if of is None else of.solder_mg,
            }
        )
    return found


def words_that_stand(turn: Turn) -> list[JoinWord]:
    """Give one word for each join of a turn: the last that is not sound in any of its copies, else the last."""
    found: dict[str, JoinWord] = {}
    for word in turn.outcomes:
        if word.join not in found or not (SOUND[word.outcome] and not SOUND[found[word.join].outcome]):
            found[word.join] = word
    return list(found.values())


def piece_of_run(run: Run) -> Piece | None:
    """Give the piece that a run is of, as it was when it began; None where it can be read no more."""
    return _read(json.dumps(run.document))


@lru_cache(maxsize=32)
def _read(document: str) -> Piece | None:
    try:
        return piece_from_object(json.loads(document))
    except Refused:
        return None


def _times(step: HeatStep, turn: Turn) -> tuple[float | None, float | None]:
    """Give what was foretold of a heat and what it took, from the lit flame to the last sign, or else until it was off, or to the first word, s."""
    signs = {sign.stage: sign.at_ms for sign in turn.signs}
    said = min(word.at_ms for word in turn.outcomes)
    over = said if turn.off_ms is None else turn.off_ms
    lit, off = signs.get(LIT), signs.get(len(step.stages), over) if step.stages else over
    if step.rehearsed is None or not step.rehearsed.likely_s or lit is None or off <= lit:
        return None, None
    return step.rehearsed.likely_s, (off - lit) / 1000


def facet_of(run: Run, join: JoinFacets, outcome: str, *, later_try: bool) -> Facet:
    """Give the facet of an outcome of a run, made where nothing alike was in the log before."""
    is_of = join.model_dump(exclude={"join", "solder_mg"})
    words = (run.piece_name, join.kind, join.metal, join.grade, join.solder, join.torch)
    facet, _ = Facet.objects.get_or_create(
        workshop_id=run.workshop_id,
        piece_name=run.piece_name,
        later_try=later_try,
        outcome=outcome,
        **is_of,
        defaults={
            "sound": SOUND[outcome],
            "text": outcome_text(
                words, wire=join.wire, sheet=join.sheet, outcome=outcome, later_try=later_try
            ),
        },
    )
    return facet


def count_outcomes(was: Iterable[Mapping[str, Any]], now: Iterable[Mapping[str, Any]]) -> None:
    """Count outcomes that stand now, and no more those that stood."""
    sums: Sums = {}
    for sign, rows in ((-1, was), (1, now)):
        for row in rows:
            if row["facet_id"] is None:
                continue
            timed = bool(row["told_s"] and row["took_s"])
            _add(
                sums,
                (row["facet_id"], month_of(row["at"])),
                times=sign,
                heats=sign * timed,
                log_ratio=sign * math.log(row["took_s"] / row["told_s"]) if timed else 0,
                solder_mg=sign * row["solder_mg"],
            )
    for (facet, month), sum_ in sums.items():
        _keep(FacetMonth, {"facet_id": facet, "month": month}, sum_)


def steps_counted(record: StepRecord | None) -> Sums:
    """Give what a step counts for by month: nothing before it is ended, nor where it was skipped."""
    if record is None or record.ended_at is None or record.skipped:
        return {}
    stays = [stay for stay in record.stays.all() if stay.left_at]
    seconds = sum((stay.left_at - stay.entered_at).total_seconds() for stay in stays if stay.left_at)
    return {(0, month_of(record.ended_at)): {"times": 1, "seconds": seconds}}


def count_steps(run: Run, kind: str, was: Sums, now: Sums) -> None:
    """Count a step as it is now, and no more as it was."""
    sums: Sums = {}
    for sign, told in ((-1, was), (1, now)):
        for key, held in told.items():
            _add(sums, key, **{name: sign * value for name, value in held.items()})
    of: dict[str, Any] = {"workshop_id": run.workshop_id, "piece_name": run.piece_name, "kind": kind}
    for (_, month), sum_ in sums.items():
        _keep(StepMonth, {**of, "month": month}, sum_)


def kind_of(step: Step) -> str:
    """Give the kind of a step as its minutes are told: of work, which."""
    return step.work_kind if isinstance(step, WorkStep) else step.kind


def month_of(moment: datetime) -> date:
    """Give the first day of a moment's month, by UTC."""
    return moment.astimezone(UTC).date().replace(day=1)


def _add(sums: Sums, key: tuple[int, date], **more: float) -> None:
    held = sums.setdefault(key, dict.fromkeys(more, 0))
    for name, value in more.items():
        held[name] += value


def _keep(model: type[Model], key: dict[str, Any], sums: dict[str, float]) -> None:
    if not any(sums.values()):
        return
    added = {name: F(name) + value for name, value in sums.items()}
    if model._default_manager.filter(**key).update(**added) == 0:
        model._default_manager.get_or_create(**key)
        model._default_manager.filter(**key).update(**added)
