"""Copy what was rehearsed into the piece, by the smith's one explicit action; and say when it is out of date."""

from __future__ import annotations

from collections.abc import Iterator

from ..faults import Refused
from ..piece import Bench, Join, Piece, RehearsedHeat, Shield
from ..plan import Plan, plan
from ..rules import MOST_SHIELD_C
from ._calibrate import TorchFactor
from ._facts import facts_of, heats_of
from ._rehearse import rehearse_heat
from ._scene import Progress, no_progress
from ._types import Rehearsal

_LEAST_SHIELD_C = 1.0
_ROUNDS = 4


def use(piece: Piece, rehearsal: Rehearsal) -> Piece:
    """Copy times, torch and tip, and what earlier joins were spared into a piece; what was copied before goes."""
    kept = tuple(one for one in piece.rehearsals if not _same_heat(one, rehearsal))
    seconds = rehearsal.seconds_to_flow
    entry = RehearsedHeat(
        joins=rehearsal.joins,
        work=rehearsal.work,
        solders=rehearsal.solders,
        torch=rehearsal.torch,
        surface=rehearsal.surface,
        flux=rehearsal.flux,
        seconds_low=None if seconds is None else seconds.low,
        seconds_likely=None if seconds is None else seconds.likely,
        seconds_high=None if seconds is None else seconds.high,
        settles_c=rehearsal.settles_c,
        above_700_s=rehearsal.above_700_s,
        factor=rehearsal.factor,
        spread=rehearsal.spread,
        forms=rehearsal.forms,
    )
    credited = {} if rehearsal.verdict == "never" else {peak.join: peak.shield_c for peak in rehearsal.peaks}
    joins = tuple(_credited(join, rehearsal.joins, credited) for join in piece.joins)
    return piece.model_copy(update={"rehearsals": (*kept, entry), "joins": joins})


def _same_heat(one: RehearsedHeat, rehearsal: Rehearsal) -> bool:
    return bool(set(one.joins) & set(rehearsal.joins)) or (
        one.work is not None and one.work == rehearsal.work
    )


def _credited(join: Join, during: tuple[str, ...], credited: dict[str, float]) -> Join:
    """Let an earlier join have the shield that the model found in a heat, in place of one found before."""
    kept = tuple(
        shield for shield in join.shields if shield.how != "rehearsed" or shield.during not in during
    )
    by_hand = sum(one.degrees_c for one in kept if one.during in during)
    room = min(credited.get(join.id, 0.0), MOST_SHIELD_C - by_hand) if during else 0.0
    if room >= _LEAST_SHIELD_C:
        kept = (*kept, Shield(during=during[0], degrees_c=room, how="rehearsed"))
    return join if kept == join.shields else join.model_copy(update={"shields": kept})


def out_of_date(piece: Piece, planned: Plan) -> tuple[int, ...]:
    """Give the heats whose rehearsal was made with other forms than the piece has now."""
    return tuple(number for number, _, holds in _matched(piece, planned) if not holds)


def _matched(piece: Piece, planned: Plan) -> Iterator[tuple[int, RehearsedHeat, bool]]:
    """Give each heat that was rehearsed, and whether that holds: its forms are the same, and its solders."""
    for step in heats_of(planned):
        joins = {join.join for join in step.joins}
        for rehearsal in piece.rehearsals:
            if set(rehearsal.joins) == joins and rehearsal.work == step.work and (joins or step.work):
                facts = facts_of(piece, planned, step.heat_no)
                same = not rehearsal.solders or set(rehearsal.solders) == set(facts.solders)
                yield step.heat_no, rehearsal, same and rehearsal.forms == facts.forms


def rehearse_piece(
    piece: Piece,
    *,
    bench: Bench | None = None,
    factor: TorchFactor | None = None,
    progress: Progress = no_progress,
) -> tuple[Piece, Plan]:
    """Rehearse every heat of a piece's plan on its bench, copy that in, and plan again by what was found.

    A plan that its credits changed is rehearsed again, until both agree; where they never do, the plan without credits stands.
    """
    planned, agreed = plan(piece, bench=bench), False
    refused: set[int] = set()
    for _ in range(_ROUNDS):
        if planned.conflict is not None:
            return piece, planned
        done = {number for number, _, holds in _matched(piece, planned) if holds}
        left = [step.heat_no for step in heats_of(planned) if step.heat_no not in done | refused]
        if not left:
            agreed = True
            break
        for n, heat_no in enumerate(left):
            progress(f"heat {heat_no}", n / len(left))
            try:
                found = rehearse_heat(piece, heat_no, bench=bench, planned=planned, factor=factor)
            except Refused:
                refused.add(heat_no)  # Nothing of metal to bring to a temperature: no rule speaks of it.
                continue
            piece = use(piece, found)
        planned = plan(piece, bench=bench)
    if not agreed:
        plain = tuple(_without_credits(join) for join in piece.joins)
        piece = piece.model_copy(update={"joins": plain})
        planned = plan(piece, bench=bench)
    return piece, planned


def _without_credits(join: Join) -> Join:
    kept = tuple(shield for shield in join.shields if shield.how != "rehearsed")
    return join if kept == join.shields else join.model_copy(update={"shields": kept})
