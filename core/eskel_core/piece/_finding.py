"""A finished finding off the shelf, put into a piece: its parts are there, its joins are made, and every heat to come meets them."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import count

from ._types import Join, Part, Piece, Work, base_id

Spots = tuple[float, float] | tuple[tuple[float, float], ...] | None


def finding_of(piece: Piece) -> Piece:
    """Give what of a piece as it was made goes on the shelf: its joins that are made and their parts, or its parts where there are none, and
    its vents; one of it, with no plans of its own.
    """
    joins = tuple(join for join in piece.joins if join.made)
    # What lies beside it and is not joined to anything yet is no part of it.
    tied = {base_id(end) for join in joins for end in join.between}
    parts = {part.id for part in piece.parts if part.made and (part.id in tied or not tied)}
    hollows = parts | {join.encloses for join in joins if join.encloses}
    work = tuple(
        one
        for one in piece.work
        if one.done
        and one.is_of_hollows
        and {base_id(part) for part in (*one.parts, *one.seals)} <= parts
        and set(one.vents) <= hollows
    )
    return Piece(
        format=piece.format,
        name=piece.name,
        parts=tuple(
            part.model_copy(update={"cut_from": part.cut_from if part.cut_from in parts else None})
            for part in piece.parts
            if part.id in parts
        ),
        joins=tuple(_alone(join, {one.id for one in joins}, parts) for join in joins),
        work=tuple(one.model_copy(update={"after": (), "before": ()}) for one in work),
        metals=piece.metals,
    )


def _alone(join: Join, joins: set[str], parts: set[str]) -> Join:
    """Give a join without what it has to do with others that are not there, or with moves by hand."""
    return join.model_copy(
        update={
            "after": tuple(name for name in join.after if name in joins),
            "through": tuple(one for one in join.through if base_id(one) in parts),
            "shields": tuple(one for one in join.shields if one.during in joins),
            "by_hand": None,
        }
    )


def with_finding(piece: Piece, finding: Piece, beside_mm: float = 0.0) -> Piece:
    """Give a piece with a finding put in: under ids of its own, and so far to the right of where it lay when it was made, mm.

    >>> from eskel_core.piece import piece_from_object
    >>> wire = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 1}, "length_mm": 10}
    >>> hook = piece_from_object({"format": "eskel-piece/1", "name": "Hook", "parts": [{"id": "hook", "metal": "fine-silver-999", "form": wire}]})
    >>> [part.id for part in with_finding(hook, hook).parts]
    ['hook', 'hook-2']
    """
    parts = _fresh((part.id for part in finding.parts), {part.id for part in piece.parts})
    steps = _fresh(
        (one.id for one in (*finding.joins, *finding.work)),
        {one.id for one in (*piece.joins, *piece.work)},
    )
    taken = {join.encloses for join in piece.joins if join.encloses} | {part.id for part in piece.parts}
    hollows = _fresh((join.encloses for join in finding.joins if join.encloses), taken)
    known = {metal.id for metal in piece.metals}
    return piece.model_copy(
        update={
            "parts": (*piece.parts, *(_part(part, parts, beside_mm) for part in finding.parts)),
            "joins": (
                *piece.joins,
                *(_join(join, parts, steps, hollows, beside_mm) for join in finding.joins),
            ),
            "work": (*piece.work, *(_work(work, parts, steps, hollows) for work in finding.work)),
            "metals": (*piece.metals, *(metal for metal in finding.metals if metal.id not in known)),
        }
    )


def _part(part: Part, parts: dict[str, str], beside_mm: float) -> Part:
    """Give a part of a finding; one whose place was not told lies where what it is joined to has it."""
    cut_from = parts.get(part.cut_from or "")
    place = part.place and part.place.model_copy(update={"x_mm": part.place.x_mm + beside_mm})
    return part.model_copy(update={"id": parts[part.id], "rough": None, "place": place, "cut_from": cut_from})


def _join(
    join: Join, parts: dict[str, str], steps: dict[str, str], hollows: dict[str, str], beside_mm: float
) -> Join:
    return join.model_copy(
        update={
            "id": steps[join.id],
            "between": _renamed(join.between, parts),
            "through": _renamed(join.through, parts),
            "after": tuple(steps[name] for name in join.after),
            "shields": tuple(one.model_copy(update={"during": steps[one.during]}) for one in join.shields),
            "encloses": hollows.get(join.encloses or ""),
            "at": _moved(join.at, beside_mm),
        }
    )


def _moved(at: Spots, beside_mm: float) -> Spots:
    """Give where a join is, one spot or several, so far to the right."""
    if not at:
        return at
    if isinstance(at[0], tuple):
        return tuple((x + beside_mm, y) for x, y in at)
    x, y = at
    return (x + beside_mm, y)


def _work(work: Work, parts: dict[str, str], steps: dict[str, str], hollows: dict[str, str]) -> Work:
    return work.model_copy(
        update={
            "id": steps[work.id],
            "parts": _renamed(work.parts, parts),
            "seals": _renamed(work.seals, parts),
            "vents": tuple(hollows.get(name) or parts.get(name, name) for name in work.vents),
        }
    )


def _renamed(references: Iterable[str], parts: dict[str, str]) -> tuple[str, ...]:
    """Give references to parts under their new ids; one to a part that is not there falls away."""
    return tuple(
        f"{parts[base_id(one)]}{one[len(base_id(one)) :]}" for one in references if base_id(one) in parts
    )


def _fresh(names: Iterable[str], taken: set[str]) -> dict[str, str]:
    """Give for each name one that is free: itself, or with a number behind it."""
    used, found = set(taken), dict[str, str]()
    for name in names:
        if name in found:
            continue
        tries = (name if n == 1 else f"{name[:56]}-{n}" for n in count(1))
        found[name] = next(one for one in tries if one not in used)
        used.add(found[name])
    return found
