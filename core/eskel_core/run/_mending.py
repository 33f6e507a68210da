"""The steps by which a fault is mended: each written for the joins that it is for, and held against the work as it stands."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from ..metals import Solder, solder_suits, solders
from ..piece import (
    Bench,
    House,
    Join,
    Part,
    Piece,
    base_id,
    mass_g,
    metals_of,
    part_of,
    resolve_bench,
    resolve_house,
    stocked_solders,
)
from ..plan import CoolStep, HeatJoin, HeatStep, PickleStep, PrepareStep, Protect, Step, WorkStep, acts_of
from ..rules import can_be_protected
from ..state import Remark, State, after, begin, forbidden, hollow_title, hollows_in
from ..units import celsius
from ._standing import Came, heated_later

_MINUTES = {"open": 3.0, "clean": 2.0, "cut": 5.0, "dry": 3.0, "unbind": 1.0, "fit": 2.0, "air": 5.0}
_MOST_CURES = 12
_HELD_AGAIN = {"bound": "bind it again", "clipped": "clip it again", "weighted": "weight it down again"}


@dataclass(frozen=True)
class Fault:
    """A heat that did not come out as it should: the work as it stands after it, what came out badly, and what is still to be done.

    `plan` are the steps of the plan, of which those that serve are used again; `back` those that lead on to where it was found,
    where that is at a look.
    """

    piece: Piece
    house: House
    bench: Bench
    plan: tuple[Step, ...]
    state: State
    step: Step
    came: tuple[Came, ...]
    later: tuple[Step, ...]
    back: tuple[Step, ...] = ()

    @property
    def joins(self) -> tuple[str, ...]:
        """The joins that are not sound."""
        return tuple(dict.fromkeys(name for name, _, _ in self.came if name in self.state.joins))

    @property
    def names(self) -> str:
        """The joins that are not sound, or the parts of a heat without joins, as a sentence names them."""
        titles = [self.state.joins[name].title for name in self.joins]
        titles = titles or [part_of(self.piece, part).title for part in self.step.parts]
        return titles[0] if len(titles) == 1 else f"{', '.join(titles[:-1])} and {titles[-1]}"

    def parts(self) -> tuple[str, ...]:
        """Give the parts that the joins lie between, or those of the step."""
        ends = (end for name in self.joins for end in self.state.joins[name].between)
        return tuple(dict.fromkeys(ends)) or self.step.parts


def fault_at(
    piece: Piece,
    house: House,
    plan: Sequence[Step],
    state: State,
    step: Step,
    came: Sequence[Came],
    later: Sequence[Step],
    back: Sequence[Step] = (),
) -> Fault:
    """Give a fault of a piece; `state` is the work after the heat and its outcomes, `later` the steps that are still to be done."""
    bench = resolve_bench(Bench(), piece.bench)
    return Fault(piece, house, bench, tuple(plan), state, step, tuple(came), tuple(later), tuple(back))


def words(*lines: str) -> dict[str, Any]:
    """Give the sentences of a step."""
    return {"text": " ".join(lines), "lines": lines}


def put_in(kind: str, parts: tuple[str, ...], *lines: str, **more: Any) -> WorkStep:
    """Write work that no plan has."""
    return WorkStep.model_validate(
        {
            "n": 0,
            "parts": parts,
            **words(*lines),
            "work": kind,
            "work_kind": kind,
            "put_in": True,
            "minutes": _MINUTES[kind],
            **more,
        }
    )


def in_air(parts: tuple[str, ...], like: CoolStep | None = None) -> CoolStep:
    """Write cooling in air."""
    line = "Let it cool in air where it lies; do not touch it until the timer says so."
    minutes = max(_MINUTES["air"], like.minutes if like else 0.0)
    return CoolStep(n=0, parts=parts, minutes=minutes, touch_minutes=minutes, how="air-cool", **words(line))


def cooling(fault: Fault) -> list[Step]:
    """Write the cooling that comes before anything is done by hand: in air, as nothing is quenched twice; none where it is cold."""
    like = _after(fault, CoolStep)
    parts = like.parts if like else fault.step.parts
    nodes = fault.state.anatomy.of(parts)
    if all(group.parts[node].warmth == "cold" for group in fault.state.groups for node in nodes):
        return []
    return [in_air(parts, like if isinstance(like, CoolStep) and like.how == "air-cool" else None)]


def lifted(fault: Fault) -> list[Step]:
    """Write taking the joins apart that are not sound, and the cooling after it; only cooling where none of them holds."""
    apart = opening(fault)
    return [*apart, in_air(fault.parts())] if apart else cooling(fault)


def pickling(fault: Fault) -> PickleStep | None:
    """Give the pot of a heat again; None where the plan has none after it."""
    found = _after(fault, PickleStep)
    return found if isinstance(found, PickleStep) else None


def _after(fault: Fault, kind: type[CoolStep | PickleStep]) -> CoolStep | PickleStep | None:
    number = getattr(fault.step, "heat_no", None)
    found = (
        step
        for step in fault.plan
        if isinstance(step, kind) and (number in step.heats or (not step.heats and step.n > fault.step.n))
    )
    return next(found, None)


def cleaning(fault: Fault) -> WorkStep:
    """Write the cleaning that needs no water: by scraper or abrasive, where the join lies."""
    line = f"{fault.names}: scrape it bright with a scraper or abrasive where the solder is to run, and brush the dust off."
    return put_in("clean", fault.parts(), line)


def drying(state: State, wet: Sequence[Remark]) -> WorkStep:
    """Write the drying of the hollows in which water may stand, by what is said of them."""
    names = dict.fromkeys(name for remark in wet for name in remark.about)
    inside = [state.groups[0].hollows[name] for name in names]
    parts = tuple(dict.fromkeys(base_id(node) for hollow in inside for node in sorted(hollow.nodes)))
    about = " and ".join(f"the {hollow_title(state, hollow)}" for hollow in inside)
    return put_in("dry", parts, f"Dry {about} out: warm it through until no more steam comes.")


def opening(fault: Fault) -> list[Step]:
    """Write taking the joins apart that are not sound; nothing where none of them holds."""
    if not any(_holds(fault, name) for name in fault.joins):
        return []
    to_c = max((_runs_c(fault, name) for name in fault.joins), default=0.0)
    line = f"{fault.names}: warm it until what solder there is runs ({celsius(to_c)}), lift it apart with a pick or tweezers, and take the flame off."
    apart = put_in(
        "open",
        fault.parts(),
        line,
        joins=fault.joins,
        to_c=to_c,
        cooler_c=getattr(fault.step, "cooler_c", {}),
    )
    return [apart]


def _runs_c(fault: Fault, name: str) -> float:
    rows = fault.step.joins if isinstance(fault.step, HeatStep) else ()
    known = [solders()[row.solder].flow_c for row in rows if row.join == name and row.solder]
    return known[0] if known else getattr(fault.step, "working_c", 0.0)


def cutting(part: str, title: str, many: int) -> WorkStep:
    """Write making a part again."""
    each = "" if many == 1 else f"{many} of "
    line = f"Make {each}{title} anew, as the cut list has it, or take a spare: fit and clean it."
    return put_in("cut", (part,), line, many=many)


def fitting(fault: Fault, rows: Sequence[HeatJoin], *lines: str) -> PrepareStep:
    """Write making ready again, with its own sentences."""
    joins = tuple(row.join for row in rows)
    parts = tuple(dict.fromkeys(end for name in joins for end in fault.state.joins[name].between))
    minutes = _MINUTES["fit"] * max(1, len(rows))
    return PrepareStep(n=0, parts=parts, minutes=minutes, joins=joins, **words(*lines))


def fitting_anew(fault: Fault) -> Step | None:
    """Give the plan's own making ready for joins that are all to be made again; None where it has none for just these."""
    wanted = set(fault.joins)
    return next(
        (
            step
            for step in fault.plan
            if isinstance(step, PrepareStep) and wanted and set(step.joins) == wanted
        ),
        None,
    )


def rows_again(fault: Fault) -> tuple[HeatJoin, ...]:
    """Give the rows of the joins that are made again."""
    rows = fault.step.joins if isinstance(fault.step, HeatStep) else ()
    return tuple(row for row in rows if row.join in fault.joins)


def heat_again(fault: Fault) -> HeatStep | None:
    """Give the heat for the joins alone that are made again; what it made besides is in its flame now."""
    step = fault.step
    if not isinstance(step, HeatStep):
        return None
    if not step.joins:
        return step
    done = {
        row.join: "flows" for row in step.joins if row.join not in fault.joins and _holds(fault, row.join)
    }
    held = tuple(
        Protect(id=name, how=_HELD_AGAIN[fault.state.joins[name].holds])
        for name in done
        if can_be_protected(fault.state.joins[name])
    )
    return step.model_copy(
        update={
            # With more soldered in its flame than the plan has there it is a step of its own.
            "n": 0 if done else step.n,
            "joins": rows_again(fault),
            "states": {**step.states, **done},
            "protect": (*step.protect, *held),
        }
    )


def _holds(fault: Fault, name: str) -> bool:
    return any(name in group.tied for group in fault.state.groups)


def softer_heats(fault: Fault) -> Iterator[tuple[Solder, HeatStep]]:
    """Give the heat with each softer solder at hand that takes to the metals, the hardest first."""
    step = heat_again(fault)
    if step is not None and step.joins:
        yield from list(with_solders(fault, step, fault.names))[1:]


def with_solders(fault: Fault, step: HeatStep, names: str) -> Iterator[tuple[Solder, HeatStep]]:
    """Give a heat with the solder that this heat had, and then with each softer one at hand that takes to the metals."""
    own = [solders()[row.solder] for row in getattr(fault.step, "joins", ()) if row.solder]
    if not own:
        return
    known = metals_of(fault.piece)
    ends = [end for row in step.joins for end in fault.state.joins[row.join].between]
    metals = [known[name] for end in ends if (name := part_of(fault.piece, base_id(end)).metal)]
    softer = [one for one, _ in stocked_solders(fault.bench) if one.flow_c < own[0].flow_c]
    for solder in (own[0], *sorted(softer, key=lambda one: -one.flow_c)):
        if all(solder_suits(solder, metal) for metal in metals):
            yield solder, _with(fault, step, solder, names)


def _with(fault: Fault, step: HeatStep, solder: Solder, names: str) -> HeatStep:
    to_c = solder.flow_c + fault.house.overshoot_c
    name = solder.name[0].lower() + solder.name[1:]
    rows = tuple(
        row.model_copy(update={"solder": solder.id, "grade": solder.grade, "named": name})
        for row in step.joins
    )
    line = f"Dry the flux to a white crust, warm the whole piece, then bring {names} to {celsius(to_c)}: {name} solder runs. Take the flame off at once."
    cooler = {one: by - (step.working_c - to_c) for one, by in step.cooler_c.items()}
    return step.model_copy(
        update={
            "n": 0,
            "joins": rows,
            "working_c": to_c,
            "stages": (),
            "rehearsed": None,
            "cooler_c": {one: by for one, by in cooler.items() if by > 0},
            **words(line),
        }
    )


def walked(fault: Fault, steps: Sequence[Step]) -> tuple[Step, ...] | None:
    """Give steps as they can be done to the work as it stands, with what cools, dries, holds or frees it put in.

    None where something in them must never be, and nothing that can be put in allows it; or where what is still to be done after
    them must never be any more.
    """
    wanted, done, state = [*steps, *fault.back], list[Step](), fault.state
    for _ in range(_MOST_CURES + len(wanted)):
        if not wanted:
            return tuple(done) if _may_be(state, fault.later) else None
        step, *rest = wanted
        acts = acts_of(state, step, again=heated_later(state, step, (*rest, *fault.later)))
        bad, later = list[Remark](), state
        for act in acts:
            bad += forbidden(later, act)
            later = after(later, act)
        if not bad:
            done.append(_cooled_to_the_end(state, step) if isinstance(step, CoolStep) else step)
            wanted, state = rest, later
            continue
        cured = _cured(fault, step, bad)
        if cured is None:
            return None
        wanted = [*cured, *rest]
    return None


def _cooled_to_the_end(state: State, step: CoolStep) -> CoolStep:
    """Give a cooling that is not in the plan as one that waits to its end where what cools is closed."""
    shut = closed_in(state, step.parts)
    return step.model_copy(update={"to_the_end": shut}) if step.n == 0 else step


def closed_in(state: State, parts: Sequence[str]) -> bool:
    """Say whether any hollow in some parts is closed, in any copy."""
    nodes = state.anatomy.of(tuple(parts))
    return any(not hollow.open for group in state.groups for hollow in hollows_in(group, nodes))


def _may_be(state: State, steps: Sequence[Step]) -> bool:
    """Say whether steps may be done, one after another, to the work as it stands."""
    for place, step in enumerate(steps):
        for act in acts_of(state, step, again=heated_later(state, step, steps[place + 1 :])):
            if forbidden(state, act):
                return False
            state = after(state, act)
    return True


def _cured(fault: Fault, step: Step, bad: Sequence[Remark]) -> list[Step] | None:
    """Give a step with what allows it; None where nothing does."""
    codes = {remark.code for remark in bad}
    match step:
        case CoolStep() if step.how != "air-cool":
            return [in_air(step.parts)]
        case HeatStep() if codes == {"remelt-flows"}:
            names = [name for remark in bad for name in remark.about]
            joins = [fault.state.joins[name] for name in names]
            if all(can_be_protected(join) for join in joins):
                more = tuple(Protect(id=join.id, how=_HELD_AGAIN[join.holds]) for join in joins)
                told = " ".join(f"{join.title}: {_HELD_AGAIN[join.holds]}." for join in joins)
                return [
                    step.model_copy(
                        update={"n": 0, "protect": (*step.protect, *more), **words(told, *step.lines)}
                    )
                ]
        case HeatStep() | WorkStep() if codes == {"wet-hollow"} and all(
            one.allows == "it is dried out" for one in bad
        ):
            return [drying(fault.state, bad), step]
        case PickleStep() if codes <= {"hot-into-acid", "steel-in-pickle"}:
            before: list[Step] = [in_air(step.parts)] if "hot-into-acid" in codes else []
            line = "Take all wire, pins and clips off: steel in the pot plates everything pink."
            return [
                *before,
                *([put_in("unbind", step.parts, line)] if "steel-in-pickle" in codes else []),
                step,
            ]
    return None


def as_the_work_bears(
    piece: Piece, first: Sequence[Step], rest: Sequence[Step]
) -> tuple[list[Step], list[Step]]:
    """Give the steps that are waited for, and the rest, so that each may be done to the work as it is by then.

    What a heat would burst is dried out before it; the pot that a closed hollow must not have is cleaning without water.
    """
    state, done = begin(piece, resolve_house(piece.house)), (list[Step](), list[Step]())
    wanted = [*first, *rest]
    for place, planned in enumerate(wanted):
        again = heated_later(state, planned, wanted[place + 1 :])
        wet = [
            remark
            for act in acts_of(state, planned, again=again)
            for remark in forbidden(state, act)
            if remark.code == "wet-hollow"
        ]
        for step in _kept_dry(state, planned, wet) if wet else [planned]:
            for act in acts_of(state, step, again=again):
                state = after(state, act)
            done[place >= len(first)].append(step)
    return done


def _kept_dry(state: State, step: Step, wet: Sequence[Remark]) -> list[Step]:
    match step:
        case HeatStep() if all(remark.allows == "it is dried out" for remark in wet):
            return [drying(state, wet), step]
        case PickleStep():
            line = "No pot: a hollow in it is closed and is heated again. Scrape it bright where the next solder is to run, and brush the dust off."
            return [put_in("clean", step.parts, line)]
        case _:
            return [step]


def lighter_part(fault: Fault, join: Join) -> Part:
    """Give the part of a join that melts first: the lighter of the two."""
    metals = metals_of(fault.piece)

    def weight(part: Part) -> float:
        return (mass_g(part.form, metals[part.metal] if part.metal else None) or 0.0) / part.count

    return min((part_of(fault.piece, base_id(end)) for end in join.between), key=weight)


def stands_alone(fault: Fault, part: Part) -> bool:
    """Say whether nothing that is sound holds a part: it can be made again by itself."""
    nodes = set(fault.state.anatomy.nodes[part.id])
    return not any(
        name not in fault.joins and fault.state.anatomy.joins[name].nodes & nodes
        for group in fault.state.groups
        for name in group.tied
    )
