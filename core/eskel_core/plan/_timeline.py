"""Where work that takes no heat goes, and the anneals that forming asks for.

A *slot* is the place after a round: slot 0 comes before the first heat, slot n after heat n, the last of its round. Work goes
as early as its order allows, or as late, by its kind.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from heapq import heapify, heappop, heappush

from ..coldwork import compounded_pct, start_reduction_pct
from ..demands import LAST_WORK, Problem, closure
from ..piece import HEAT_WORK, Part, Piece, Work, base_id, harm_in_heat, metal_of
from ..rules import Course, Heat, filler_of_anneal, reduction_of

_LATE = frozenset({"resist", "bind", "hang", "trim", "size"})
# Of what comes last: hardening, finish, cold joins, stones, and the skin at the very end.
_END_ORDER = {"harden": 0, "finish": 1, "tumble": 1, "set": 3, "darken": 4, "seal": 5}
_COLD_JOIN = 2


@dataclass(frozen=True)
class Timeline:
    """Each slot with its work in order (also cold joins, by id), and the anneals put in before some of it."""

    slots: dict[str, int]
    order: tuple[str, ...]


def lay_out(problem: Problem, made_in: dict[str, int], heats: tuple[Heat, ...]) -> Timeline:
    """Give every work without heat, and every cold join, its slot and its order within it."""
    piece = problem.piece
    edges = {demand.ids for demand in problem.demands if demand.kind == "order"}
    follows = closure(edges)
    loose = {work.id: work for work in piece.work if work.kind not in HEAT_WORK and not work.done}
    cold = [join.id for join in piece.joins if not join.heated and not join.made]
    names = [*loose, *cold]
    over = {heat.number: max(one.number for one in heats if one.round == heat.round) for heat in heats}
    ready = {heat.number: min(one.number for one in heats if one.round == heat.round) - 1 for heat in heats}
    first = {name: ready[number] for name, number in made_in.items()}
    last = {name: over[number] for name, number in made_in.items()}
    slots = {name: _slot(piece, name, loose.get(name), follows, (first, last), len(heats)) for name in names}
    ends = {name: _END_ORDER.get(loose[name].kind, -1) if name in loose else _COLD_JOIN for name in names}
    rank = {name: (slots[name], ends[name], n) for n, name in enumerate(names)}
    return Timeline(slots, tuple(_in_order(rank, follows)))


def _in_order(rank: Mapping[str, tuple[int, int, int]], follows: set[tuple[str, str]]) -> Iterator[str]:
    """Give names by their rank, each after all that must come before it (Kahn's way, with a heap of what is ready)."""
    waits = dict.fromkeys(rank, 0)
    behind: dict[str, list[str]] = {}
    for earlier, later in follows:
        if earlier in rank and later in rank:
            waits[later] += 1
            behind.setdefault(earlier, []).append(later)
    ready = [(rank[name], name) for name, count in waits.items() if count == 0]
    heapify(ready)
    while ready:
        _, name = heappop(ready)
        yield name
        for later in behind.get(name, ()):
            waits[later] -= 1
            if waits[later] == 0:
                heappush(ready, (rank[later], later))


def _slot(
    piece: Piece,
    name: str,
    work: Work | None,
    follows: set[tuple[str, str]],
    around: tuple[dict[str, int], dict[str, int]],
    heats: int,
) -> int:
    """Give the slot of one work; `around` tells the slots before and after the round of each task."""
    before, after = around
    earliest = max((slot for task, slot in after.items() if (task, name) in follows), default=0)
    latest = min((slot for task, slot in before.items() if (name, task) in follows), default=heats)
    if work is None or work.kind in LAST_WORK:
        return latest
    told_before = any(earlier == name for earlier, _ in follows)
    told_after = any(later == name for _, later in follows)
    if work.kind in _LATE and (told_before or not told_after):
        return latest if told_before else max(earliest, _last_heat_of(piece, work, after))
    return earliest


def _last_heat_of(piece: Piece, work: Work, after: dict[str, int]) -> int:
    """Give the slot after the last heat that joins one of the work's parts: what is sized or trimmed waits for it."""
    parts = {base_id(part) for part in work.parts}
    numbers = [
        after[join.id]
        for join in piece.joins
        if join.id in after and parts & {base_id(end) for end in join.between}
    ]
    return max(numbers, default=0)


def put_in_anneals(course: Course, order: tuple[str, ...]) -> Course:
    """Put an anneal before every forming that would pass its metal's limit since the last one."""
    while True:
        need = _first_need(course, order)
        if need is None:
            return course
        course = _with_anneal(course, *need)


MOST_GOES = 20
"""A fine surface is up after a few heats: of work that asks for more than so many, the last says to go on."""


def each_go(course: Course) -> Course:
    """Give each time that a fine surface is brought up a heat of its own, with its own cooling and pot."""
    works = {work.id: work for work in course.piece.work}
    for heat in course.heats:
        work = works.get(heat.work or "")
        more = min(work.times or 1, MOST_GOES) - 1 if work is not None and work.kind == "deplete" else 0
        if more and not any(other.work == heat.work and other.go > 1 for other in course.heats):
            return each_go(_with_goes(course, heat, more))
    return course


def _with_goes(course: Course, first: Heat, more: int) -> Course:
    """Give the course with more heats like one, after its round; later heats and rounds move up."""
    last = max(heat.number for heat in course.heats if heat.round == first.round)
    goes = [
        replace(first, number=last + n, round=first.round + n, go=1 + n, put_in=True)
        for n in range(1, more + 1)
    ]
    heats = [
        replace(heat, number=heat.number + more, round=heat.round + more) if heat.number > last else heat
        for heat in course.heats
    ]
    return replace(
        course,
        heats=tuple(sorted([*heats, *goes], key=lambda heat: heat.number)),
        made_in={name: at + more if at > last else at for name, at in course.made_in.items()},
        slots={name: at + more if at >= last else at for name, at in course.slots.items()},
    )


def _first_need(course: Course, order: tuple[str, ...]) -> tuple[Work, Part, int] | None:
    works = {work.id: work for work in course.piece.work}
    for part in course.piece.parts:
        metal = metal_of(course.piece, part.id)
        if metal is None or harm_in_heat(course.piece, part.id):
            continue
        start = (
            part.temper.reduction_pct
            if not isinstance(part.temper, str)
            else start_reduction_pct(part.temper, part.form)
        )
        so_far, slot = start, 0
        for name in order:
            work = works.get(name)
            reduction = None if work is None else reduction_of(work)
            if work is None or reduction is None or part.id not in map(base_id, work.parts):
                continue
            here = course.slots[name]
            if any(_softens(course, heat, part) for heat in course.heats if slot < heat.number <= here):
                so_far = 0.0
            slot = here
            if so_far > 0 and compounded_pct(so_far, reduction) > metal.max_reduction_pct:
                return work, part, here
            so_far = compounded_pct(so_far, reduction)
    return None


def _softens(course: Course, heat: Heat, part: Part) -> bool:
    metal = metal_of(course.piece, part.id)
    inside = part.id in {course.anatomy.part(node) for node in heat.body}
    return metal is not None and inside and heat.working_c >= metal.anneal_low_c


def _with_anneal(course: Course, work: Work, part: Part, slot: int) -> Course:
    """Give the course with an anneal of one part put in after a slot; later heats move up by one."""
    metal = metal_of(course.piece, part.id)
    assert metal is not None
    number = slot + 1
    seeds = frozenset(course.anatomy.nodes[part.id])
    made = [join for join, at in course.made_in.items() if at <= slot]
    body = course.anatomy.body(seeds, made)
    filler = filler_of_anneal(f"anneal:{part.id}:{work.id}", metal)
    of_round = max((heat.round for heat in course.heats if heat.number <= slot), default=0) + 1
    new = Heat(number, filler, (), None, "front-up", body, put_in=True, anneals=(work.id,), round=of_round)
    heats = [
        replace(heat, number=heat.number + 1, round=heat.round + 1) if heat.number > slot else heat
        for heat in course.heats
    ]
    ahead = _work_before(course, work, slot)
    return replace(
        course,
        heats=tuple(sorted([*heats, new], key=lambda heat: heat.number)),
        made_in={name: at + 1 if at > slot else at for name, at in course.made_in.items()},
        slots={name: at if at < slot or name in ahead else at + 1 for name, at in course.slots.items()},
    )


def _work_before(course: Course, work: Work, slot: int) -> set[str]:
    """Give the work of a slot that comes before some work, in the order in which it was laid out."""
    same = [name for name, at in course.slots.items() if at == slot]
    return set(same[: same.index(work.id)])
