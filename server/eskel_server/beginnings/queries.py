"""What can be asked on the way to a piece: which starts there are, what one makes, what a line says, which join two parts call for."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from eskel_core.faults import Refused
from eskel_core.forms import Bend, Strip, Wire, bend_line, profile_height_mm
from eskel_core.joining import Proposal, propose
from eskel_core.lines import line_of, read_line
from eskel_core.picture import Picture, draw, small
from eskel_core.piece import FORMAT, Part, Piece, piece_from_object, resolve_house, weigh
from eskel_core.plan import HeatStep
from eskel_core.starts import Begun, begin, describe_start, starts
from eskel_core.units import Units, understand
from eskel_server.accounts import current_workshop
from eskel_server.bench import bench_of
from eskel_server.pieces import content_of, plan_or_word

from .views import LineView, Looked, Miniature, StartTyped, StartView

# How large the gallery draws a start, at twice the pixels of a plain screen.
CARD_PX = (400.0, 260.0)
MOST_LINES = 100


def house_units() -> Units:
    """Give the units in which the workshop types."""
    return resolve_house(bench_of(current_workshop())[0]).spoken


@lru_cache(maxsize=1)
def gallery() -> list[StartView]:
    """Give every start with its example drawn."""
    return [
        StartView(info=describe_start(start), picture=small(draw(begin(name).piece), *CARD_PX))
        for name, start in starts().items()
    ]


def begun_from(name: str, typed: dict[str, Any]) -> Begun:
    """Make a piece from a start; raise `Refused` for what it cannot make."""
    return begin(name, {key: value for key, value in typed.items() if value not in ("", None)}, house_units())


def start_typed(name: str, typed: dict[str, Any], *, planned: bool = True) -> StartTyped:
    """Give what a start makes of what was typed so far, or what is wrong with it; its plan where that is wanted."""
    try:
        begun = begun_from(name, typed)
    except Refused as problem:
        return StartTyped(faults=problem.faults)
    return StartTyped(
        asked=begun.asked,
        understood=understand(typed, house_units()),
        picture=draw(begun.piece),
        plan=miniature(begun.piece) if planned else None,
    )


def miniature(piece: Piece) -> Miniature:
    """Give the plan of a piece on the workshop's bench in a few words."""
    made = plan_or_word(content_of(piece), *bench_of(current_workshop()))
    heats = [step for step in made.steps if isinstance(step, HeatStep)]
    grades = [step.joins[0].grade or step.purpose if step.joins else step.purpose for step in heats]
    return Miniature(
        status=made.status,
        heats=len(heats),
        grades=[str(grade) for grade in grades],
        minutes=sum(step.minutes for step in made.steps),
        grams=weigh(piece).totals.mass_g,
    )


def lines_read(lines: list[str], last: Part | None, base: Part | None, taken: list[str]) -> list[LineView]:
    """Read lines one after another: each takes from the part before it; one that is not understood says where."""
    units, ids, made = house_units(), set(taken), []
    for line in lines[:MOST_LINES]:
        try:
            read = read_line(line, last, units, base=base, taken_ids=frozenset(ids))
        except Refused as problem:
            made.append(LineView(line=line, faults=problem.faults))
            continue
        last = read.part
        ids.add(read.part.id)
        made.append(
            LineView(
                line=line,
                part=read.part,
                picture=_drawn(read.part),
                understood=read.understood,
                taken=read.taken,
            )
        )
    return made


def lines_of(parts: list[Part]) -> list[str]:
    """Give the line of each part."""
    return [line_of(part) for part in parts]


def _drawn(part: Part) -> Picture:
    alone = part.model_copy(update={"count": 1, "place": None, "cut_from": None})
    return draw(Piece(format=FORMAT, name="a part", parts=(alone,)))


def proposal(document: dict[str, Any], a: str, b: str, at: tuple[float, float] | None) -> Proposal:
    """Propose the join of two parts of a document as it stands on the screen; raise `Refused` where none is."""
    return propose(piece_from_object(document), a, b, at)


def looked_at(document: dict[str, Any]) -> Looked:
    """Look at a piece file before anything is begun from it."""
    try:
        piece = piece_from_object(document)
    except Refused as problem:
        return Looked(faults=problem.faults)
    return Looked(
        name=piece.name,
        parts=len(piece.parts),
        joins=len(piece.joins),
        picture=draw(piece),
        plan=miniature(piece),
    )


def bent(form: Wire | Strip, kind: Bend, across_mm: float | None) -> Wire | Strip:
    """Give a wire or strip bent to a named bend, as long as it is; an oval is closed."""
    thick = form.thickness_mm if isinstance(form, Strip) else profile_height_mm(form.profile)
    path = bend_line(kind, form.length_mm, thick, across_mm)
    closed = kind == "oval"
    return form.model_copy(update={"path": path[:-1] if closed else path, "closed": closed})
