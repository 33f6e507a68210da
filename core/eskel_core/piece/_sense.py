"""The sense of a piece beyond its shape: ids that exist, references that resolve, fixed things that agree."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from difflib import get_close_matches
from itertools import pairwise
from typing import Any

from ..faults import Fault, Refused
from ..forms import Sheet, Strip, Wire, outline_size_mm
from ..forms._outlines import check_outline, path_rings
from ..metals import Metal, fluxes, pickles, solders, surfaces, torches
from ._bench import Bench, PotState
from ._types import ByHand, ExtraCut, Join, Part, Piece, RehearsedHeat, Work, base_id, metals_of, part_of

MOST_ALIKE = 2_000


def sense_faults(piece: Piece) -> list[Fault]:
    """Give every fault of sense in a piece of right shape."""
    return [
        *_ids(piece),
        *_counts(piece),
        *_own_metals(piece),
        *(fault for n, part in enumerate(piece.parts) for fault in _part(piece, part, f"parts[{n}]")),
        *(fault for n, join in enumerate(piece.joins) for fault in _join(piece, join, f"joins[{n}]")),
        *(fault for n, work in enumerate(piece.work) for fault in _work(piece, work, f"work[{n}]")),
        *(
            fault
            for n, one in enumerate(piece.rehearsals)
            for fault in _rehearsal(piece, one, f"rehearsals[{n}]")
        ),
        *(fault for n, cut in enumerate(piece.cuts) for fault in _cut(piece, cut, f"cuts[{n}]")),
        *(bench_faults(piece.bench, metals_of(piece)) if piece.bench else ()),
    ]


def _counts(piece: Piece) -> Iterator[Fault]:
    """Alike parts are drawn and joined one by one: there is an end to how many."""
    counts = {part.id: part.count for part in piece.parts}
    if sum(counts.values()) > MOST_ALIKE:
        yield Fault(
            code="too-large",
            path="parts",
            value=sum(counts.values()),
            rule=f"a piece has at most {MOST_ALIKE} parts, alike ones counted each",
            remedy="Draw one up, and make copies of it.",
        )
    for n, join in enumerate(piece.joins):
        sides = [1 if "#" in reference else counts.get(reference, 1) for reference in join.between]
        meeting = max((a * b for a, b in pairwise(sides) if a != b), default=0)
        if meeting > MOST_ALIKE:
            yield Fault(
                code="too-large",
                path=f"joins[{n}].between",
                value=meeting,
                rule=f"at most {MOST_ALIKE} pairs of alike parts meet in a join",
                remedy="Give both the same count, or name the ones that meet.",
            )


def _ids(piece: Piece) -> Iterator[Fault]:
    parts = [(f"parts[{n}].id", part.id) for n, part in enumerate(piece.parts)]
    steps = [(f"joins[{n}].id", join.id) for n, join in enumerate(piece.joins)]
    steps += [(f"work[{n}].id", work.id) for n, work in enumerate(piece.work)]
    cuts = [(f"cuts[{n}].id", cut.id) for n, cut in enumerate(piece.cuts)]
    for group, what in ((parts, "parts"), (steps, "joins and work"), (cuts, "cuts")):
        seen: set[str] = set()
        for path, name in group:
            if name in seen:
                yield Fault(
                    code="duplicate-id",
                    path=path,
                    value=name,
                    rule=f"ids of {what} differ",
                    remedy="Rename one.",
                )
            seen.add(name)


def _own_metals(piece: Piece) -> Iterator[Fault]:
    seen: set[str] = set()
    for n, metal in enumerate(piece.metals):
        if metal.id in seen:
            yield Fault(
                code="duplicate-id",
                path=f"metals[{n}].id",
                value=metal.id,
                rule="ids of metals differ",
                remedy="Rename one.",
            )
        seen.add(metal.id)


def _part(piece: Piece, part: Part, path: str) -> Iterator[Fault]:
    if part.metal is None and part.heat_safe:
        yield Fault(
            code="contradiction",
            path=f"{path}.metal",
            value=None,
            rule="only a part that is not heat-safe (a stone) has no metal",
            remedy='Name its metal, or set "heat_safe": false.',
        )
    if part.metal is not None:
        yield from _known(part.metal, metals_of(piece), f"{path}.metal", "metal")
    if part.cut_from is not None:
        yield from _cut_from(piece, part, path)
    for key, form in (("form", part.form), ("rough", part.rough)):
        if form is not None:
            yield from _form(form, f"{path}.{key}")


def _cut(piece: Piece, cut: ExtraCut, path: str) -> Iterator[Fault]:
    yield from _known(cut.metal, metals_of(piece), f"{path}.metal", "metal")
    yield from _form(cut.form, f"{path}.form")


def _cut_from(piece: Piece, part: Part, path: str) -> Iterator[Fault]:
    sources = {one.id: one.cut_from for one in piece.parts}
    yield from _known(part.cut_from or "", sources, f"{path}.from", "part")
    seen, here = {part.id}, part.cut_from
    while here in sources:
        if here in seen:
            yield Fault(
                code="contradiction",
                path=f"{path}.from",
                value=part.cut_from,
                rule="a part is not cut from itself, nor in a circle",
                remedy="Name the part it is cut from.",
            )
            return
        seen.add(here)
        here = sources[here]


def _form(form: Any, path: str) -> Iterator[Fault]:
    try:
        if isinstance(form, Sheet):
            check_outline(form.outline)
            yield from _dome(form, path)
        if isinstance(form, Wire | Strip) and isinstance(form.path, str):
            path_rings(form.path)
    except Refused as problem:
        for fault in problem.faults:
            yield fault.model_copy(
                update={"path": f"{path}.{'outline' if isinstance(form, Sheet) else 'path'}"}
            )


def _dome(form: Sheet, path: str) -> Iterator[Fault]:
    wide, high = outline_size_mm(form.outline)
    if form.domed_mm > min(wide, high) / 2:
        yield Fault(
            code="contradiction",
            path=f"{path}.domed_mm",
            value=form.domed_mm,
            rule=f"a dome is no deeper than half of its blank ({min(wide, high) / 2:g} mm)",
            remedy="Make it shallower, or the blank larger.",
        )


def _join(piece: Piece, join: Join, path: str) -> Iterator[Fault]:
    yield from _part_refs(piece, join.between, f"{path}.between")
    yield from _part_refs(piece, join.through, f"{path}.through")
    yield from _between(piece, join, path)
    yield from _step_refs(piece, join.id, join.after, f"{path}.after")
    joins = {one.id: one for one in piece.joins}
    for n, shield in enumerate(join.shields):
        yield from _known(shield.during, joins, f"{path}.shields[{n}].during", "join")
    if join.by_hand is not None:
        yield from _by_hand(piece, join, join.by_hand, f"{path}.by_hand")
    yield from _fixed_solder(join, path)
    yield from _own_flux(join, path)
    if join.made and join.heated and join.kind != "fuse" and join.solder is None:
        yield Fault(
            code="missing",
            path=f"{path}.solder",
            value=None,
            rule="a join that is made already names the solder that it was made with",
            remedy="Name its solder, or take `made` out.",
        )
    if join.bound_with is not None and join.holds not in ("bound", "clipped", "weighted"):
        yield Fault(
            code="contradiction",
            path=f"{path}.bound_with",
            value=join.bound_with,
            rule="bound_with goes with what is bound, clipped or weighted",
            remedy="Take it out, or say how it is held.",
        )


def _by_hand(piece: Piece, join: Join, moved: ByHand, path: str) -> Iterator[Fault]:
    yield from _step_refs(piece, join.id, moved.after, f"{path}.after")
    joins = {one.id: one for one in piece.joins if one.heated and one.id != join.id}
    for key, names in (("shares", moved.shares), ("apart", moved.apart)):
        for n, name in enumerate(names):
            yield from _known(name, joins, f"{path}.{key}[{n}]", "heated join other than itself")
    if moved.grade is not None and (join.kind == "fuse" or not join.heated):
        yield Fault(
            code="contradiction",
            path=f"{path}.grade",
            value=moved.grade,
            rule=f"a {join.kind} join takes no solder",
            remedy="Take the grade out.",
        )


def _own_flux(one: Join | Work, path: str) -> Iterator[Fault]:
    if one.flux is not None:
        yield from _known(one.flux, fluxes(), f"{path}.flux", "flux")


def _between(piece: Piece, join: Join, path: str) -> Iterator[Fault]:
    if len(join.between) > 2 and join.kind not in ("bundle", "cross"):
        yield Fault(
            code="contradiction",
            path=f"{path}.between",
            value=list(join.between),
            rule="only a bundle or a cross joins more than two",
            remedy="Make a join of each pair, or kind bundle.",
        )
    counts = {part.id: part.count for part in piece.parts}
    same = len(set(join.between)) == 1 and counts.get(base_id(join.between[0]), 1) == 1
    # A bent strip lapped over itself, as a bail is.
    lapped = (
        same and join.kind == "overlay" and isinstance(part_of(piece, join.between[0]).form, Strip | Wire)
    )
    if same and not lapped and join.heated and join.kind not in ("butt", "fuse", "bundle"):
        yield Fault(
            code="contradiction",
            path=f"{path}.between",
            value=list(join.between),
            rule="only a butt, fuse or bundle joins a part to itself, or an overlay where a strip laps over itself",
            remedy="Name the other part, or use kind butt.",
        )


def _fixed_solder(join: Join, path: str) -> Iterator[Fault]:
    fixed = "solder" if join.solder is not None else "grade" if join.grade is not None else None
    if fixed and (join.kind == "fuse" or not join.heated):
        yield Fault(
            code="contradiction",
            path=f"{path}.{fixed}",
            value=getattr(join, fixed),
            rule=f"a {join.kind} join takes no solder",
            remedy=f"Take {fixed} out.",
        )
    if join.solder is None:
        return
    unknown = list(_known(join.solder, solders(), f"{path}.solder", "solder"))
    yield from unknown
    if not unknown and join.grade is not None and solders()[join.solder].grade != join.grade:
        yield Fault(
            code="contradiction",
            path=f"{path}.grade",
            value=join.grade,
            rule=f"{join.solder} is of grade {solders()[join.solder].grade}",
            remedy="Fix one of the two only.",
        )


def _work(piece: Piece, work: Work, path: str) -> Iterator[Fault]:
    yield from _part_refs(piece, work.parts, f"{path}.parts")
    yield from _step_refs(piece, work.id, work.after, f"{path}.after")
    yield from _step_refs(piece, work.id, work.before, f"{path}.before")
    yield from _part_refs(piece, work.seals, f"{path}.seals")
    yield from _own_flux(work, path)
    hollows = {join.encloses: None for join in piece.joins if join.encloses} | {
        base_id(name): None
        for name in (
            *(part.id for part in piece.parts if part.form.kind == "tube"),
            *(name for other in piece.work for name in other.seals),
        )
    }
    for n, hollow in enumerate(work.vents):
        yield from _known(hollow, hollows, f"{path}.vents[{n}]", "hollow")
    if work.kind in ("anneal", "ball", "melt", "deplete") and not work.parts:
        yield Fault(
            code="missing",
            path=f"{path}.parts",
            value=[],
            rule=f"a {work.kind} names the parts in the flame",
            remedy="Name at least one part.",
        )


def _part_refs(piece: Piece, references: Iterable[str], path: str) -> Iterator[Fault]:
    counts = {part.id: part.count for part in piece.parts}
    for n, reference in enumerate(references):
        yield from _known(base_id(reference), counts, f"{path}[{n}]", "part", shown=reference)
        number = reference.partition("#")[2]
        if number and int(number) > counts.get(base_id(reference), int(number)):
            yield Fault(
                code="unknown-id",
                path=f"{path}[{n}]",
                value=reference,
                rule=f"there are {counts[base_id(reference)]} of {base_id(reference)}",
                remedy="Name one of those.",
            )


def _step_refs(piece: Piece, own: str, names: Iterable[str], path: str) -> Iterator[Fault]:
    steps = {one.id: None for one in [*piece.joins, *piece.work]}
    for n, name in enumerate(names):
        yield from _known(name, steps, f"{path}[{n}]", "join or work")
        if name == own:
            yield Fault(
                code="contradiction",
                path=f"{path}[{n}]",
                value=name,
                rule="nothing comes before or after itself",
                remedy="Take it out.",
            )


def _rehearsal(piece: Piece, one: RehearsedHeat, path: str) -> Iterator[Fault]:
    for n, name in enumerate(one.joins):
        yield from _known(name, {join.id: None for join in piece.joins}, f"{path}.joins[{n}]", "join")
    if one.work is not None:
        yield from _known(one.work, {work.id: None for work in piece.work}, f"{path}.work", "work")
    for key, table in (("torch", torches()), ("surface", surfaces()), ("flux", fluxes())):
        yield from _known(getattr(one, key), table, f"{path}.{key}", key)


def bench_faults(bench: Bench, known: Mapping[str, Metal], path: str = "bench") -> Iterator[Fault]:
    """Give every fault of sense in a bench: ids that do not exist, stock that has no sense."""
    tables = (("torch", torches()), ("surface", surfaces()), ("pickle", pickles()), ("flux", fluxes()))
    for key, table in tables:
        name = getattr(bench, key)
        if name is not None:
            yield from _known(name, table, f"{path}.{key}", key)
    for n, stock in enumerate(bench.solders or ()):
        name, suffix = (stock, "") if isinstance(stock, str) else (stock.solder, ".solder")
        yield from _known(name, solders(), f"{path}.solders[{n}]{suffix}", "solder")
    for n, kept in enumerate(bench.stock or ()):
        yield from _known(kept.metal, known, f"{path}.stock[{n}].metal", "metal")
        yield from _form(kept.form, f"{path}.stock[{n}].form")
    if bench.pot is not None:
        yield from _pot_faults(bench, bench.pot, f"{path}.pot")
    for n, scrap in enumerate(bench.scrap or ()):
        yield from _known(scrap.metal, known, f"{path}.scrap[{n}].metal", "metal")


def _pot_faults(bench: Bench, pot: PotState, path: str) -> Iterator[Fault]:
    bath = pickles().get(bench.pickle or "bisulphate")
    if bath is None:
        return
    if pot.copper_g_l >= bath.copper_limit_g_l:
        yield Fault(
            code="bath-spent",
            path=f"{path}.copper_g_l",
            value=pot.copper_g_l,
            rule=f"below the limit of the bath, {bath.copper_limit_g_l:g} g/l",
            remedy="Mix a new bath.",
        )
    if pot.bath_c is not None and not bath.temp_low_c <= pot.bath_c <= bath.temp_high_c:
        yield Fault(
            code="out-of-range",
            path=f"{path}.bath_c",
            value=pot.bath_c,
            rule=f"{bath.name.lower()} is used from {bath.temp_low_c:g} to {bath.temp_high_c:g} °C",
            remedy="Keep it within that, and never let it boil.",
        )


def _known(name: str, table: Any, path: str, what: str, shown: str | None = None) -> Iterator[Fault]:
    if name in table:
        return
    near = get_close_matches(name, [str(key) for key in table], n=1, cutoff=0.6)
    remedy = f"Did you mean {near[0]}?" if near else f"Add that {what}, or name another."
    yield Fault(
        code="unknown-id", path=path, value=shown or name, rule=f"a {what} of that id exists", remedy=remedy
    )
