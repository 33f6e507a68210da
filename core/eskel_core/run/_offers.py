"""What can be done where a heat did not come out as it should: offers by the work as it stands, the best first.

Each way has its reason and the steps that it puts in. A way is offered only where each of its steps may be done to the work as it
stands then: what must never be (`state.forbidden`) takes it off the list. Ways, reasons and their order are bench practice.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence

from pydantic import BaseModel, ConfigDict

from ..log import SOUND, Outcome
from ..piece import part_of
from ..plan import HeatJoin, HeatStep, Measuring, PrepareStep, Step, WorkStep, say_amount
from ..state import Hollow, hollow_title
from ..units import grams, length
from ._events import Way
from ._mending import (
    Fault,
    cleaning,
    cooling,
    cutting,
    fitting,
    fitting_anew,
    heat_again,
    lifted,
    lighter_part,
    pickling,
    rows_again,
    softer_heats,
    stands_alone,
    walked,
    with_solders,
)


class Offer(BaseModel):
    """A way out of a fault: what it is called, why it fits, the steps that it puts in, and the joins that it is for.

    A step of the plan that serves again has its number in the plan; one that the plan does not have has 0 until it is put in.
    """

    model_config = ConfigDict(frozen=True)

    way: Way
    title: str
    why: str
    steps: tuple[Step, ...] = ()
    joins: tuple[str, ...] = ()


_BY_WORD: dict[Outcome, tuple[Way, ...]] = {
    "short": ("close-gap", "flux-and-solder", "softer", "apart", "pickle-first", "heavy-side"),
    "did-not-flow": ("close-gap", "pickle-first", "flux-and-solder", "another-tip", "heavy-side", "softer"),
    "moved": ("apart",),
    "opened-another": ("close-again", "apart"),
    "melted": ("replace-part",),
    "still-hard": ("again",),
    "too-hot": ("cut-anew",),
    "dropped": ("cut-anew",),
    "out-of-round": ("again",),
    "fold": ("melt-again",),
}
_OF_WORK: dict[str, tuple[Way, ...]] = {"melt": ("melt-again",)}


def offers_for(fault: Fault, opened: Sequence[str] = ()) -> tuple[Offer, ...]:
    """Give what can be done, the best first; `opened` are earlier joins that opened in the heat."""
    ways = dict.fromkeys(way for _, word, _ in fault.came for way in _ways(fault, word))
    if opened:
        ways = dict.fromkeys(("close-again", *ways))
    found = [offer for way in ways if (offer := _WAYS[way](fault, opened)) is not None]
    if not opened and _goes_on(fault):
        found.append(AS_IT_IS.model_copy(update={"joins": fault.joins}))
    if opened or _is_left(fault):
        found.append(Offer(way="rest", title="Plan the rest anew", why=_REST))
    return tuple(found)


def _is_left(fault: Fault) -> bool:
    """Say whether anything is left that could be planned anew: a join that is not there, or a later heat."""
    there = {name for group in fault.state.groups for name in group.tied}
    return not there >= set(fault.joins) or any(isinstance(step, HeatStep) for step in fault.later)


_FLUX = "Flux it anew, and dry the flux to a white crust before the heat."
_REST = "What is left is planned anew from the work as it is now: other solders, another order."
AS_IT_IS = Offer(
    way="as-it-is",
    title="Leave it as it is",
    why="It goes into the record as it came out, and the steps that follow are done to it as it is.",
)


def _ways(fault: Fault, word: Outcome) -> tuple[Way, ...]:
    if SOUND[word]:
        return ()
    if word == "short" and not fault.joins:
        return _OF_WORK.get(getattr(fault.step, "purpose", ""), ("again",))
    if word == "out-of-round" and getattr(fault.step, "purpose", "") == "melt":
        return ("melt-again",)
    return _BY_WORD[word]


def _goes_on(fault: Fault) -> bool:
    """Say whether what is still to be done may be done to the work as it came out: what is not joined at all is not left so."""
    there = {name for group in fault.state.groups for name in group.tied}
    return there >= set(fault.joins) and walked(fault, []) is not None


def _dry_hollow(fault: Fault) -> Hollow | None:
    """Give the hollow that a join leaves open by a gap alone, by which water gets in and not out: it must stay dry."""
    for name in fault.joins:
        hollow = fault.state.joins[name].encloses
        for group in fault.state.groups:
            now = group.hollows.get(hollow) if hollow else None
            if now is not None and now.holds_water and now.ways <= group.seams.keys():
                return now
    return None


def _touch(row: HeatJoin) -> str:
    """Say how much solder is laid where it is missing: one chip, or a touch of what it is laid as."""
    amount = row.amount
    named = row.named or "the same"
    if amount is not None and amount.chips:
        return f"{say_amount(amount.model_copy(update={'chips': 1}))} of {named} solder"
    return f"a touch of {named} solder" if row.solder else "nothing: it is fused"


def _retry(fault: Fault, way: Way, title: str, why: str, before: Sequence[Step], *lines: str) -> Offer | None:
    """Give the heat again after some steps, made ready by some sentences."""
    heat, rows = heat_again(fault), rows_again(fault)
    if heat is None or not rows:
        return None
    steps = walked(fault, [*before, fitting(fault, rows, *lines), heat])
    return None if steps is None else Offer(way=way, title=title, why=why, steps=steps, joins=fault.joins)


def _laid(fault: Fault, where: str) -> list[str]:
    return [f"{row.title}: {_touch(row)} {where}." for row in rows_again(fault)]


def _close_gap(fault: Fault, _: Sequence[str]) -> Offer | None:
    hollow = _dry_hollow(fault)
    if hollow is None:
        return None
    name = hollow_title(fault.state, hollow)
    why = f"The {name} stays dry: no water, no pot. What draws in by the gap turns to steam in the next heat, and bursts it."
    lines = [
        "Only where no light shows: solder bridges no gap.",
        *_laid(fault, "at the gap"),
        "Flux it sparingly, and dry the flux to a white crust while the gap is still open.",
    ]
    before = [*cooling(fault), cleaning(fault)]
    return _retry(fault, "close-gap", "Close the gap, dry", why, before, *lines)


def _flux_and_solder(fault: Fault, _: Sequence[str]) -> Offer | None:
    if _dry_hollow(fault) is not None:
        return None
    why = "It takes where no light shows through: clean faces and fresh flux. Solder bridges no gap."
    lines = [_FLUX, *_laid(fault, "where it is missing")]
    before = [*cooling(fault), cleaning(fault)]
    return _retry(fault, "flux-and-solder", "Again, with flux and a touch more solder", why, before, *lines)


def _pickle_first(fault: Fault, _: Sequence[str]) -> Offer | None:
    pot = pickling(fault)
    if pot is None or _dry_hollow(fault) is not None:
        return None
    why = "Solder does not run on spent flux and scale."
    lines = [_FLUX, *_laid(fault, "where it is missing")]
    return _retry(
        fault, "pickle-first", "Into the pot first, then again", why, [*cooling(fault), pot], *lines
    )


def _heavy_side(fault: Fault, _: Sequence[str]) -> Offer | None:
    if _dry_hollow(fault) is not None:
        return None
    why = "Solder runs to where it is hottest: bring the heavier side up first, and for longer."
    lines = [_FLUX, *_laid(fault, "where it is missing"), "Keep the flame on the heavier side."]
    before = [*cooling(fault), cleaning(fault)]
    return _retry(fault, "heavy-side", "Again, more heat on the heavy side", why, before, *lines)


def _another_tip(fault: Fault, _: Sequence[str]) -> Offer | None:
    if _dry_hollow(fault) is not None:
        return None
    why = "Where it never came to the heat, the flame was too small for it."
    lines = ["Put a larger tip or torch on.", _FLUX, *_laid(fault, "where it is missing")]
    before = [*cooling(fault), cleaning(fault)]
    return _retry(fault, "another-tip", "Again, with a larger tip or torch", why, before, *lines)


def _softer(fault: Fault, _: Sequence[str]) -> Offer | None:
    """Give the retry with the hardest softer solder that leaves the rest firm, where the same solder would run what nothing holds."""
    if _flux_and_solder(fault, ()) is not None or _close_gap(fault, ()) is not None:
        return None
    for solder, heat in softer_heats(fault):
        lines = [_FLUX, *(f"{row.title}: {_touch(row)} where it is missing." for row in heat.joins)]
        before = [*cooling(fault), cleaning(fault)]
        steps = walked(fault, [*before, fitting(fault, heat.joins, *lines), heat])
        if steps is not None:
            name = solder.name[0].lower() + solder.name[1:]
            why = f"{solder.name} runs below what is soldered already: the rest stays firm."
            return Offer(way="softer", title=f"Again, with {name}", why=why, steps=steps, joins=fault.joins)
    return None


def _apart(fault: Fault, _: Sequence[str]) -> Offer | None:
    fit, heat, pot = fitting_anew(fault), heat_again(fault), pickling(fault)
    if heat is None or not heat.joins:
        return None
    why = "Where light shows through, or a part sits wrong: solder does not mend a fit."
    lines = [f"Fit {fault.names} so that no light shows through; clean bright.", "Flux. Lay the solder anew."]
    ready = fit or fitting(fault, rows_again(fault), *lines)
    steps = walked(fault, [*lifted(fault), pot or cleaning(fault), ready, heat])
    title = "Take it apart and set it anew"
    return None if steps is None else Offer(way="apart", title=title, why=why, steps=steps, joins=fault.joins)


def _close_again(fault: Fault, opened: Sequence[str]) -> Offer | None:
    """Give the opened joins again, with the solder of this heat, or the hardest softer one that leaves the rest firm."""
    heat = heat_again(fault)
    if heat is None or not opened:
        return None
    known = {row.join: row for one in fault.plan if isinstance(one, HeatStep) for row in one.joins}
    rows = (*rows_again(fault), *(known[name] for name in opened if name in known))
    firm = {name: is_ for name, is_ in heat.states.items() if name not in opened}
    names = " and ".join(fault.state.joins[name].title for name in opened)
    for solder, again in with_solders(
        fault, heat.model_copy(update={"n": 0, "joins": rows, "states": firm}), names
    ):
        lines = [
            "Set it together again and hold it.",
            _FLUX,
            *(f"{row.title}: {_touch(row)}." for row in again.joins),
        ]
        ready = fitting(fault, again.joins, *lines)
        steps = walked(fault, [*cooling(fault), pickling(fault) or cleaning(fault), ready, again])
        if steps is not None:
            why = f"{names} opened in this heat: with {solder.name.lower()} it closes again, and nothing gets hotter than it was."
            joins = tuple(row.join for row in again.joins)
            return Offer(way="close-again", title=f"Close {names} again", why=why, steps=steps, joins=joins)
    return None


def _replace_part(fault: Fault, _: Sequence[str]) -> Offer | None:
    heat, pot = heat_again(fault), pickling(fault)
    if heat is None or not heat.joins:
        return None
    parts = {part.id: part for name in fault.joins if (part := lighter_part(fault, fault.state.joins[name]))}
    if not all(stands_alone(fault, part) for part in parts.values()):
        return None
    made = [cutting(part.id, part.title, 1) for part in parts.values()]
    fit = fitting_anew(fault) or fitting(
        fault, rows_again(fault), f"Fit {fault.names}; clean bright.", "Flux. Lay the solder anew."
    )
    steps = walked(fault, [*lifted(fault), pot or cleaning(fault), *made, fit, heat])
    why = "What has melted is not soldered over: take it off, make it anew, and look at what lay beside it."
    title = f"Make {' and '.join(part.title for part in parts.values())} anew, then again"
    return (
        None
        if steps is None
        else Offer(way="replace-part", title=title, why=why, steps=steps, joins=fault.joins)
    )


def _again(fault: Fault, _: Sequence[str]) -> Offer | None:
    steps = walked(fault, [*cooling(fault), fault.step] if isinstance(fault.step, HeatStep) else [fault.step])
    why = "The same once more, to its sign."
    return None if steps is None else Offer(way="again", title="Do it again", why=why, steps=steps)


def _melt_again(fault: Fault, _: Sequence[str]) -> Offer | None:
    """Give the melt again: what was poured once is cold, and is molten first."""
    heat = fault.step if isinstance(fault.step, HeatStep) else _melt_before(fault)
    if heat is None:
        return None
    heats = [heat] if heat is fault.step else [heat, fault.step]
    poured = {getattr(step, "work", None) for step in heats} - {None}
    moulds = [step for step in fault.plan if isinstance(step, PrepareStep) and step.mould_of in poured]
    steps = walked(fault, [*cooling(fault), cleaning(fault), *moulds[:1], *heats])
    why = "A fold, a skin or a short end opens up in the rolls: melt all of it again, into a warm, dry mould."
    return None if steps is None else Offer(way="melt-again", title="Melt it again", why=why, steps=steps)


def _melt_before(fault: Fault) -> HeatStep | None:
    found = [
        step
        for step in fault.plan
        if isinstance(step, HeatStep) and step.purpose == "melt" and step.n < fault.step.n
    ]
    return found[-1] if found else None


def _cut_anew(fault: Fault, _: Sequence[str]) -> Offer | None:
    many = sum(max(1, len(copies)) for _, word, copies in fault.came if not SOUND[word])
    parts = [part_of(fault.piece, part) for part in fault.step.parts]
    if not all(stands_alone(fault, part) for part in parts):
        return None
    made = [cutting(part.id, part.title, many) for part in parts]
    steps = walked(
        fault, [*cooling(fault), *made, *([fault.step] if isinstance(fault.step, HeatStep) else [])]
    )
    why = "What dropped or burnt is not used: cut it anew, a spare with it, and do this heat for it."
    return (
        None
        if steps is None
        else Offer(way="cut-anew", title="Cut it anew, then again", why=why, steps=steps)
    )


def lost_offers(fault: Fault, left: dict[str, int], heats: Sequence[HeatStep]) -> Iterator[Offer]:
    """Give what is lost made again: cut anew, with the heats that it had by itself before (`heats`)."""
    for part, many in left.items():
        own = [heat for heat in heats if set(heat.parts) == {part}]
        steps = walked(fault, [cutting(part, part_of(fault.piece, part).title, many), *own])
        if steps is not None:
            title = f"Make {many} {part_of(fault.piece, part).title} again"
            why = "What is lost is made again, or a spare is taken, before it is needed."
            yield Offer(way="cut-anew", title=title, why=why, steps=steps)


_WAYS: dict[Way, Callable[[Fault, Sequence[str]], Offer | None]] = {
    "close-gap": _close_gap,
    "flux-and-solder": _flux_and_solder,
    "pickle-first": _pickle_first,
    "heavy-side": _heavy_side,
    "another-tip": _another_tip,
    "softer": _softer,
    "apart": _apart,
    "close-again": _close_again,
    "replace-part": _replace_part,
    "again": _again,
    "melt-again": _melt_again,
    "cut-anew": _cut_anew,
}


def size_offers(fault: Fault, wanted: Measuring, over: float) -> Iterator[Offer]:
    """Give what is done about a size that is off, mm or g: what it needs, as the smith does it; or it is left as it is."""
    text = _sized(fault, wanted, over)
    again = fault.step.model_copy(update={"n": 0, "text": text, "lines": (text,)})
    steps = walked(fault, [again])
    if steps is not None:
        yield Offer(way="size-again", title="Work it to size", why=text, steps=steps)
    if _goes_on(fault):
        yield AS_IT_IS


def _sized(fault: Fault, wanted: Measuring, over: float) -> str:
    """Say what a size that is off needs."""
    by = grams(abs(over)) if wanted.what == "mass_g" else length(abs(over), 2)
    off = f"It is {by} {'over' if over > 0 else 'under'}"
    band = length(abs(over) * math.pi, 1)
    is_band = isinstance(fault.step, WorkStep) and fault.step.work_kind == "size"
    match wanted.what:
        case "size_mm" if is_band and over < 0:
            return f"{off}: stretch it on the mandrel, {band} more round the band, and measure it again."
        case "size_mm" if is_band:
            return f"{off}: press it down through the stretcher's ring, {band} less round the band, or cut that out and close it again; measure it again."
        case "ball_mm" if over < 0:
            return f"{off}: melt more of the wire into it, and measure it again."
        case "length_mm" if over > 0:
            return f"{off}: trim it, and measure it again."
        case _:
            return f"{off}: measure it again; what is too small for its place is cut anew."
