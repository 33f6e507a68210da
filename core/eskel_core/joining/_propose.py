"""The join between two parts that were pointed at: proposed whole, each choice with its reason."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import count
from typing import Any

from pydantic import BaseModel, ConfigDict

from ..faults import refuse
from ..forms import Sheet, Strip, Tube, Wire
from ..piece import Join, Part, Piece, base_id, part_of
from ._kinds import pick
from ._pick import Pick

Spot = tuple[float, float]


class Change(BaseModel):
    """What changes with a join at another one: its key and the value that it gets, with the reason."""

    model_config = ConfigDict(frozen=True)

    join: str
    key: str
    value: str
    why: str


class Proposal(BaseModel):
    """A join that is proposed, why each of its keys is so, and what changes with it."""

    model_config = ConfigDict(frozen=True)

    join: Join
    why: dict[str, str]
    also: tuple[Change, ...] = ()


def propose(piece: Piece, a: str, b: str, at: Spot | None = None) -> Proposal:
    """Propose the join of two parts of a piece (`link#2` names one of several), or of one with itself.

    `at` is the spot that was pointed at, mm. Raises `Refused` for a part that is not there, and for two that no join can
    hold together.
    """
    one, other = _part(piece, a, "a"), _part(piece, b, "b")
    chosen = _through_a_hole(piece, one, other) or pick(one, other)
    keys, why = dict(chosen.keys), dict(chosen.why)
    small = chosen.small or one
    title = _title(chosen, one, other, small)
    between = (a, b) if chosen.small is None or small.id == base_id(a) else (b, a)
    if chosen.kind == "ring-open" and small.moves:
        hung = other if small.id == one.id else one
        between, keys["through"] = (small.id, small.id), (hung.id,)
        why["through"] = f"{hung.title} hangs in it by then"
    if at is not None:
        keys["at"], why["at"] = at, "where it was pointed at"
    also = _hollow(piece, chosen, one, other, keys, why)
    _order(piece, (one, other), small, keys, why)
    heated = chosen.kind not in ("ring-open", "wrap", "rivet", "screw")
    if not heated:
        keys = {key: value for key, value in keys.items() if key in ("through", "after", "at")}
    made = {"id": _free_id(piece, title), "name": title, "kind": chosen.kind, "between": between, **keys}
    return Proposal(join=Join.model_validate(made), why=why, also=also)


def _part(piece: Piece, reference: str, path: str) -> Part:
    try:
        part = part_of(piece, reference)
    except KeyError:
        names = ", ".join(part.id for part in piece.parts) or "none yet"
        raise refuse(
            "unknown-id", path, reference, "a part of that id exists", f"Choose one of: {names}."
        ) from None
    number = int(reference.partition("#")[2] or 1)
    if number > part.count:
        raise refuse(
            "unknown-id", path, reference, f"{part.title} counts {part.count}", "Take a smaller number."
        )
    return part


def _through_a_hole(piece: Piece, one: Part, other: Part) -> Pick | None:
    """Rivet a wire in sheet that is drilled for it: a hole that vents a hollow is none for a pin."""
    for wire, sheet in ((one, other), (other, one)):
        if isinstance(wire.form, Wire) and isinstance(sheet.form, Sheet):
            drilled = any(
                work.kind == "drill" and not work.vents and sheet.id in map(base_id, work.parts)
                for work in piece.work
            )
            if drilled:
                why = (
                    f"{sheet.title} is drilled: {wire.title} goes through it and is hammered to a head, cold"
                )
                return Pick("rivet", {"kind": why}, small=wire)
    return None


def _title(chosen: Pick, one: Part, other: Part, small: Part) -> str:
    if one.id == other.id:
        return f"{one.title} ends" if chosen.kind == "bundle" else f"{one.title} seam"
    large = other if small.id == one.id else one
    if chosen.kind == "tee":
        return f"{small.title} foot"
    return (
        f"{one.title} and {other.title}"
        if chosen.kind in ("butt", "cross")
        else f"{small.title} on {large.title}"
    )


def _order(
    piece: Piece, parts: tuple[Part, Part], small: Part, keys: dict[str, Any], why: dict[str, str]
) -> None:
    """What closes a part comes before what stands on it; what is springy or bought comes after everything."""
    first = {part.id for part in parts}
    closing = [
        join.id
        for join in piece.joins
        if {base_id(end) for end in join.between} <= first
        and len({base_id(end) for end in join.between}) == 1
        and join.heated
    ]
    if parts[0].id == parts[1].id:
        closing = []
    last = small.spring or small.bought_in
    body = (
        [join.id for join in _body(piece, parts) if join.heated]
        if last and parts[0].id != parts[1].id
        else []
    )
    after = tuple(dict.fromkeys([*closing, *body]))
    if after:
        keys["after"] = after
        titles = " and ".join(next(join.title for join in piece.joins if join.id == one) for one in after)
        lasting = "springy" if small.spring else "bought"
        why["after"] = (
            f"{small.title} is {lasting}: it sees the fewest heats"
            if body
            else f"{titles} is closed before anything stands on it"
        )


def _body(piece: Piece, parts: tuple[Part, Part]) -> Iterator[Join]:
    """Give the joins of all that hangs together with the two parts."""
    known = {part.id for part in parts}
    grown = True
    while grown:
        grown = False
        for join in piece.joins:
            ends = {base_id(end) for end in join.between}
            if ends & known and not ends <= known:
                known |= ends
                grown = True
    yield from (join for join in piece.joins if {base_id(end) for end in join.between} <= known)


def _hollow(
    piece: Piece, chosen: Pick, one: Part, other: Part, keys: dict[str, Any], why: dict[str, str]
) -> tuple[Change, ...]:
    """Say whether the join closes a hollow: domes always; walls with a second plate; a tube with its second cap."""
    if not chosen.closes:
        return ()
    if isinstance(one.form, Sheet) and isinstance(other.form, Sheet):
        dome = one if one.form.domed_mm else other
        keys["encloses"], why["encloses"] = dome.id, "a dome that is closed holds air"
        return ()
    ring = one if isinstance(one.form, Strip | Tube) else other
    earlier = [
        join
        for join in piece.joins
        if join.kind == "edge"
        and ring.id in map(base_id, join.between)
        and _other_is_sheet(piece, join, ring.id)
    ]
    if not earlier:
        return ()
    keys["encloses"], why["encloses"] = ring.id, f"{ring.title} is closed from both sides: it holds air"
    return tuple(
        Change(
            join=join.id, key="encloses", value=ring.id, why=f"it encloses the same hollow as {ring.title}"
        )
        for join in earlier
        if join.encloses != ring.id
    )


def _other_is_sheet(piece: Piece, join: Join, ring: str) -> bool:
    return any(isinstance(part_of(piece, end).form, Sheet) for end in join.between if base_id(end) != ring)


def _free_id(piece: Piece, title: str) -> str:
    taken = {one.id for one in (*piece.joins, *piece.work)}
    cleaned = "".join(c if c.isascii() and c.isalnum() else " " for c in title.lower())
    base = "-".join(cleaned.split())[:50] or "join"
    return next(one for n in count(1) if (one := base if n == 1 else f"{base}-{n}") not in taken)
