"""A state as plain data (`eskel-state/1`), and what one has that another has not."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, fields, replace
from typing import Any

from pydantic import BaseModel

from ._types import Condition, Group, Hollow, Seam, State

FORMAT = "eskel-state/1"


@dataclass(frozen=True, slots=True)
class StateChange:
    """What an act changed of a join, part or hollow (`about`): `what` of it, as it was and as it is now, in words."""

    of: str
    about: str
    what: str
    was: str
    now: str


def state_object(state: State) -> dict[str, Any]:
    """Give a state as plain data: what is as it was at first is left out of parts, so that a reader sees what matters."""
    return {"format": FORMAT, "groups": [_group(state, group) for group in state.groups]}


def _group(state: State, group: Group) -> dict[str, Any]:
    return {
        "copies": list(group.copies),
        "joins": {name: [_plain(seam) for seam in seams] for name, seams in group.seams.items()},
        "parts": {node: _plain(now) for node, now in group.parts.items()},
        "hollows": {name: _hollow(hollow) for name, hollow in group.hollows.items()},
        "fixed": sorted(group.fixed),
        "measured": dict(group.measured),
        "passed": sorted(group.passed),
    }


def _hollow(hollow: Hollow) -> dict[str, Any]:
    return {
        "part": hollow.part,
        "ways_out": sorted(hollow.ways),
        "holds_water": hollow.holds_water,
        "closed": None if hollow.closed is None else {"how": hollow.closed.how, "at_c": hollow.closed.at_c},
        "wet": sorted(hollow.wet),
    }


def _plain(record: Seam | Condition) -> dict[str, Any]:
    names = record._fields if isinstance(record, Condition) else [field.name for field in fields(record)]
    return {name: _value(getattr(record, name)) for name in names}


def _value(value: Any) -> Any:
    if isinstance(value, frozenset):
        return sorted(value)
    if isinstance(value, tuple):
        return list(value)
    return value.model_dump() if isinstance(value, BaseModel) else value


def changes(before: State, later: State) -> tuple[StateChange, ...]:
    """Give what a state has that an earlier one had not, group by group as they are now; the same of all groups once."""
    return tuple(
        dict.fromkeys(
            change for group in later.groups for change in _changes(later, _before(before, group), group)
        )
    )


def _before(before: State, group: Group) -> Group:
    first = group.copies[0]
    return next(known for known in before.groups if first in known.copies)


def _changes(state: State, before: Group, now: Group) -> Iterator[StateChange]:
    for name, seams in now.seams.items():
        if seams is not before.seams[name]:
            yield from _change("join", name, "stage", _seams(before.seams[name]), _seams(seams))
            yield from _change("join", name, "steel", _steel(before.seams[name]), _steel(seams))
    yield from _of_parts(state, before, now)
    for name, hollow in now.hollows.items():
        if hollow is not before.hollows[name]:
            yield from _change("hollow", name, "way out", _ways(before.hollows[name]), _ways(hollow))
            yield from _change("hollow", name, "inside", _wet(before.hollows[name].wet), _wet(hollow.wet))
    for name in sorted(now.fixed - before.fixed):
        yield StateChange(of="work", about=name, what="put on", was="no", now="yes")
    for name in sorted(now.ready ^ before.ready):
        was, is_ = ("cold", "warm and dry") if name in now.ready else ("warm and dry", "used")
        yield StateChange(of="work", about=name, what="mould", was=was, now=is_)
    for name, value in now.measured.items():
        if before.measured.get(name) != value:
            yield StateChange(of="work", about=name, what="measured", was="", now=f"{value:g}")


def _of_parts(state: State, before: Group, now: Group) -> Iterator[StateChange]:
    """Give what changed of the parts: of alike ones once, by the part's id, where all of them fare alike."""
    for part, nodes in state.anatomy.nodes.items():
        if len(nodes) == 1:
            if now.parts[nodes[0]] is not before.parts[nodes[0]]:
                yield from _of_part(part, before.parts[nodes[0]], now.parts[nodes[0]])
            continue
        rows = [
            tuple(_of_part(node, before.parts[node], now.parts[node]))
            if now.parts[node] is not before.parts[node]
            else ()
            for node in nodes
        ]
        plain = {tuple(replace(row, about=part) for row in each) for each in rows}
        if len(plain) == 1:
            yield from plain.pop()
        else:
            yield from (row for each in rows for row in each)


def _of_part(node: str, was: Condition, now: Condition) -> Iterator[StateChange]:
    if was == now:
        return
    yield from _change("part", node, "there", was.there, now.there)
    yield from _change("part", node, "lost", str(was.lost), str(now.lost))
    yield from _change("part", node, "warmth", was.warmth, now.warmth)
    yield from _change("part", node, "wet with", _wet(was.wet), _wet(now.wet))
    yield from _change("part", node, "flux", was.flux, now.flux)
    yield from _change("part", node, "scale", _yes(was.scaled), _yes(now.scaled))
    yield from _change("part", node, "worked", _worked(was), _worked(now))


def _change(of: str, about: str, what: str, was: str, now: str) -> Iterator[StateChange]:
    if was != now:
        yield StateChange(of=of, about=about, what=what, was=was, now=now)


def _seams(seams: tuple[Seam, ...]) -> str:
    return "; ".join(_seam(seam) for seam in seams)


def _seam(seam: Seam) -> str:
    with_ = f" with {seam.solder}" if seam.solder else ""
    how = "" if seam.quality == "sound" else f", {seam.quality}"
    where = f" at {', '.join(map(str, seam.places))}" if seam.places else ""
    return f"{seam.stage.replace('-', ' ')}{with_}{how}{where}"


def _steel(seams: tuple[Seam, ...]) -> str:
    return _yes(any(seam.steel for seam in seams))


def _yes(true: bool) -> str:
    return "yes" if true else "no"


def _worked(condition: Condition) -> str:
    return "not known" if condition.reduction_pct is None else f"{condition.reduction_pct:g} %"


def _ways(hollow: Hollow) -> str:
    return ", ".join(sorted(hollow.ways)) or "none"


def _wet(fluids: frozenset[Any]) -> str:
    return " and ".join(sorted(fluids)) or "dry"
