"""Springs that a heat makes soft: what makes them hard again, and when the planner puts that in."""

from __future__ import annotations

from collections.abc import Iterator

from ..piece import FORMING_WORK, Part, base_id, metal_of
from ._asking import metals_in
from ._course import Course, Heat
from ._finding import Finding
from ._registry import speaks

_HARDENS = frozenset({"harden", "tumble"})
_DRAWN_HARD = ("spring", "hard", "half-hard")


@speaks("spring-softened")
def springs(course: Course) -> Iterator[Finding]:
    """`spring-softened`: a springy part reaches its annealing range, not asked to, and nothing makes it hard again."""
    for part in course.piece.parts:
        heat = next(_softening(course, part), None)
        if heat is not None and not _is_hardened_after(course, part, heat) and not _is_put_in(course, part):
            words = part.temper if part.temper != "soft" else "springy"
            text = f"{part.title} is {words} and goes soft in heat {heat.number}."
            yield Finding("spring-softened", (part.id,), text, heat.number)


def hardenings(course: Course) -> dict[str, int]:
    """Give the springy parts that are hardened though nobody told it, each with the slot in which: after its last heat and forming."""
    found = {}
    for part in course.piece.parts:
        heats = list(_softening(course, part, asked=True))
        if heats and _is_put_in(course, part):
            formed = [
                course.slots.get(work.id, 0)
                for work in course.piece.work
                if work.kind in FORMING_WORK and part.id in map(base_id, work.parts)
            ]
            over = max(heat.number for heat in course.heats if heat.round == heats[-1].round)
            found[part.id] = max(over, *formed, 0)
    return found


def _is_put_in(course: Course, part: Part) -> bool:
    """Say whether hardening is put in: for what the smith calls a spring, where no hardening of it was told."""
    return part.spring and not any(
        work.kind in _HARDENS and part.id in map(base_id, work.parts) for work in course.piece.work
    )


def _is_hardened_after(course: Course, part: Part, heat: Heat) -> bool:
    return any(
        work.kind in _HARDENS
        and (not work.parts or part.id in map(base_id, work.parts))
        and course.slots.get(work.id, 0) >= heat.number
        for work in course.piece.work
    )


def _softening(course: Course, part: Part, *, asked: bool = False) -> Iterator[Heat]:
    """Give the heats that soften a springy part, its anneals only where they are `asked` for.

    Once annealed by intent, the hardness of drawn stock is not missed; a spring's is.
    """
    if not (part.spring or part.temper in _DRAWN_HARD) or metal_of(course.piece, part.id) is None:
        return
    for heat in course.heats:
        reached = [
            metal
            for one, metal in metals_in(course, heat)
            if one == part and heat.working_c >= metal.anneal_low_c
        ]
        if not reached or not heat.filler.heats_evenly:
            continue
        if heat.filler.purpose == "anneal":
            if not part.spring:
                return
            if not asked:
                continue
        yield heat
