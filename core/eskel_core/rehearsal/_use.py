"""Copy what was rehearsed into the piece, by the smith's one explicit action; and say when it is out of date."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..faults import Refused
from ..piece import Bench, HouseOverrides, Join, Piece, RehearsedHeat, RehearsedStage, Shield
from ..plan import Plan, plan
from ..rules import MOST_SHIELD_C
from ._facts import facts_of, heats_of
from ._rehearse import rehearse_heat
from ._request import USUAL, HeatRequest
from ._scene import Progress, no_progress
from ._show import NEXT_AFTER_S
from ._types import Rehearsal

_LEAST_SHIELD_C = 1.0
_ROUNDS = 4


def use(piece: Piece, rehearsal: Rehearsal) -> Piece:
    """Copy times, torch and tip, and what earlier joins were spared into a piece; what was copied before goes."""
    kept = tuple(one for one in piece.rehearsals if not _same_heat(one, rehearsal))
    seconds, following = rehearsal.seconds_to_flow, rehearsal.next_ones
    of_next = seconds if following is None else following.seconds
    # From grain to grain of a tray the flame only moves.
    pause_s = 0.0 if rehearsal.purpose == "ball" and rehearsal.ball is None else NEXT_AFTER_S
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
        stages=tuple(
            RehearsedStage(
                text=stage.text,
                sign=stage.until.sign,
                see=stage.see,
                if_late=stage.if_late,
                aim=stage.aim,
                about=stage.about,
                seconds_low=stage.seconds.low,
                seconds_likely=stage.seconds.likely,
                seconds_high=stage.seconds.high,
            )
            for stage in rehearsal.programme
        ),
        well=rehearsal.hands.well,
        tried=rehearsal.hands.tried,
        bodies=rehearsal.bodies,
        seconds_next=None if rehearsal.bodies < 2 or of_next is None else of_next.likely + pause_s,
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


@dataclass(frozen=True)
class WholeRehearsed:
    """A piece with every heat rehearsed and copied in, the plan that follows, whether both agree, and each heat's rehearsal by
    its number in that plan, as far as one was made anew.
    """

    piece: Piece
    plan: Plan
    agreed: bool
    heats: dict[int, Rehearsal]


def rehearse_piece(
    piece: Piece,
    request: HeatRequest = USUAL,
    *,
    house: HouseOverrides | None = None,
    bench: Bench | None = None,
    progress: Progress = no_progress,
) -> WholeRehearsed:
    """Rehearse every heat of a piece's plan on its bench, copy that in, and plan again by what was found.

    A plan that its credits changed is rehearsed again, until both agree; where they never do, the plan without credits stands.
    `progress` is told which heat of how many, and how far, and may raise to stop.
    """
    planned, agreed = plan(piece, house, bench), False
    refused: set[int] = set()
    heats: dict[int, Rehearsal] = {}
    for again in range(_ROUNDS):
        if planned.conflict is not None:
            return WholeRehearsed(piece, planned, False, heats)
        done = {number for number, _, holds in _matched(piece, planned) if holds}
        left = [step.heat_no for step in heats_of(planned) if step.heat_no not in done | refused]
        if not left:
            agreed = True
            break
        upon = _straight_upon(planned)
        for n, heat_no in enumerate(left):
            of = f"heat {heat_no} of {len(heats_of(planned))}{', planned anew' if again else ''}"

            def tell(what: str, share: float, of: str = of, n: int = n, many: int = len(left)) -> None:
                progress(f"{of}, {what}", (n + share) / many)

            tell("its body", 0.0)
            try:
                heats[heat_no] = rehearse_heat(
                    piece,
                    heat_no,
                    request,
                    house=house,
                    bench=bench,
                    planned=planned,
                    after=heats.get(upon.get(heat_no, 0)),
                    progress=tell,
                )
            except Refused:
                refused.add(heat_no)  # Nothing of metal to bring to a temperature: no rule speaks of it.
                continue
            piece = use(piece, heats[heat_no])
        planned = plan(piece, house, bench)
    if not agreed:
        piece = without_credits(piece)
        planned = plan(piece, house, bench)
    return WholeRehearsed(piece, planned, agreed, heats)


def _straight_upon(planned: Plan) -> dict[int, int]:
    """Give the heat that each follows straight upon: nothing is cooled in between, and the block is still warm from it."""
    made: dict[int, int] = {}
    before: int | None = None
    for step in planned.steps:
        if step.kind == "heat":
            if before is not None:
                made[step.heat_no] = before
            before = step.heat_no
        elif step.kind != "prepare":
            before = None
    return made


def without_credits(piece: Piece) -> Piece:
    """Give a piece whose earlier joins are credited with nothing that was rehearsed."""
    return piece.model_copy(update={"joins": tuple(_by_hand(join) for join in piece.joins)})


def carry_over(piece: Piece, rehearsed: Piece) -> Piece:
    """Copy what stands in a rehearsed piece of the same joins into a piece: its heats, and the credits of its joins."""
    credited = {
        join.id: tuple(shield for shield in join.shields if shield.how == "rehearsed")
        for join in rehearsed.joins
    }
    joins = tuple(
        plain
        if not credited.get(plain.id)
        else plain.model_copy(update={"shields": (*plain.shields, *credited[plain.id])})
        for plain in map(_by_hand, piece.joins)
    )
    return piece.model_copy(update={"rehearsals": rehearsed.rehearsals, "joins": joins})


def _by_hand(join: Join) -> Join:
    kept = tuple(shield for shield in join.shields if shield.how != "rehearsed")
    return join if kept == join.shields else join.model_copy(update={"shields": kept})
