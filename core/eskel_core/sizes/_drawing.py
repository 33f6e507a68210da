"""A bar or wire brought down pass by pass, by the mill and through the draw plate, annealed before its limit."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import AliasChoices, Field

from ..coldwork import compounded_pct
from ..faults import refuse
from ..forms import (
    Form,
    HalfRound,
    Profile,
    Rect,
    Round,
    Square,
    Wire,
    profile_across_mm,
    profile_area_mm2,
    profile_height_mm,
)
from ..metals import Metal
from ..units import about, bare
from ._base import (
    Calculator,
    Cut,
    Found,
    Grams,
    Hand,
    Keys,
    Pct,
    Record,
    SizeCaution,
    ToolAnswer,
    caution,
    key,
    num,
    one_of,
)
from ._sketch import Sketch, box, circle, label, line, sketch

MILL_SAFETY = ("Never roll wet, red-hot or folded metal; fingers off the rollers.",)


class DrawDownKeys(Keys):
    """A bar or wire brought down from one section to another."""

    metal: str = key("Metal", "sterling-925")
    start: Profile = key("From", quantity="section", alias=AliasChoices("start", "from", "start_profile"))
    end: Profile = key("To", quantity="section", alias=AliasChoices("end", "to", "end_profile"))
    length_mm: Annotated[float, Field(gt=0, le=100_000)] | None = key("Length of the bar", None)
    mass_g: Grams | None = key("or its mass", None)
    hardness_start_pct: Pct = key("Reduced since its last anneal", 0.0)
    pass_pct: Annotated[float, Field(ge=1, le=40)] = key("Each pass takes at most", 15.0)
    first: Literal["mill", "draw"] = key("First", "mill")


class Pass(Record):
    """One pass: with which tool, the section after it, the length then, and how hard it is."""

    n: int
    by: Literal["mill", "draw"]
    section: Profile
    size_mm: float
    length_mm: float
    reduction_pct: float
    reduction_since_anneal_pct: float
    anneal_before: bool
    turns: float | None = None


class DrawDownFound(Found):
    """The passes of a draw-down, with the anneals on the way."""

    end_length_mm: float = key("Comes out at")
    passes: tuple[Pass, ...] = key("Passes")
    anneals: int = key("Anneals on the way")
    total_reduction_pct: float = key("Reduced in all")
    mass_g: float = key("Mass")


def draw_down(asked: DrawDownKeys, hand: Hand) -> DrawDownFound:
    """Give a draw-down: area × length is kept; an anneal stands before a pass that would exceed the metal's limit."""
    metal = hand.metal(asked.metal)
    before, after = profile_area_mm2(asked.start), profile_area_mm2(asked.end)
    if after >= before:
        raise refuse(
            "contradiction",
            "end",
            asked.end.model_dump(mode="json"),
            f"a pass makes the section smaller: it starts at {num(before, 2)} mm² and would end at {num(after, 2)}",
            "Start thicker, or end thinner.",
        )
    if asked.pass_pct >= metal.max_reduction_pct:
        raise refuse(
            "contradiction",
            "pass_pct",
            asked.pass_pct,
            f"one pass stays below the metal's limit of {num(metal.max_reduction_pct)} %",
            "Take smaller passes.",
        )
    length = _bar_length(asked, metal, before)
    sections, tools, told = _sections(asked, hand)
    passes = _passes(sections, before, length, asked.hardness_start_pct, metal)
    told = (*told, *_past_the_limit(passes, metal))
    passes = _with_turns(passes, _size_of(asked.start), hand)
    end_area = profile_area_mm2(passes[-1].section)
    anneals = sum(one.anneal_before for one in passes)
    if anneals:
        hand.heated_metal(asked.metal)
    total = (1 - end_area / before) * 100
    mass = length * before * metal.density_g_cm3 / 1000
    return DrawDownFound(
        end_length_mm=passes[-1].length_mm,
        passes=passes,
        anneals=anneals,
        total_reduction_pct=total,
        mass_g=mass,
        how=f"{num(length, 1)} mm × {num(before)} mm² / {num(end_area)} mm² = {num(passes[-1].length_mm, 1)} mm; reduced by {num(total, 1)} % in all, at most {num(metal.max_reduction_pct)} % between anneals: {anneals} anneal{'s' if anneals != 1 else ''}",
        cautions=told,
        safety=MILL_SAFETY,
        tools=tools,
        cut=_drawn_cut(asked, passes[-1]),
        sketch=_stairs(asked.start, passes),
    )


def _bar_length(asked: DrawDownKeys, metal: Metal, area: float) -> float:
    if one_of(asked, "length_mm", "mass_g") == "length_mm":
        return asked.length_mm or 0.0
    return (asked.mass_g or 0.0) * 1000 / metal.density_g_cm3 / area


def _drawn_cut(asked: DrawDownKeys, last: Pass) -> Cut | None:
    if last.length_mm > 5000:
        return None
    form: Form = Wire(kind="wire", profile=last.section, length_mm=last.length_mm)
    return Cut(title="Drawn wire", form=form, metal=asked.metal, length_mm=last.length_mm)


def _passes(
    sections: list[tuple[Literal["mill", "draw"], Profile]],
    area: float,
    length: float,
    hard_pct: float,
    metal: Metal,
) -> tuple[Pass, ...]:
    """Walk the sections, annealing as late as the limit allows: no other choice needs fewer anneals."""
    made: list[Pass] = []
    volume, here, since = area * length, area, hard_pct
    for n, (by, section) in enumerate(sections, 1):
        then = profile_area_mm2(section)
        taken = (1 - then / here) * 100
        anneal = compounded_pct(since, taken) > metal.max_reduction_pct + 1e-9
        since = compounded_pct(0.0 if anneal else since, taken)
        made.append(
            Pass(
                n=n,
                by=by,
                section=section,
                size_mm=_size_of(section),
                length_mm=volume / then,
                reduction_pct=taken,
                reduction_since_anneal_pct=since,
                anneal_before=anneal,
            )
        )
        here = then
    return tuple(made)


def _past_the_limit(passes: tuple[Pass, ...], metal: Metal) -> tuple[SizeCaution, ...]:
    """Say of a single pass that no anneal makes possible: the tools at hand leave out a size that is needed."""
    worst = max(passes, key=lambda one: one.reduction_pct)
    if worst.reduction_pct <= metal.max_reduction_pct:
        return ()
    return (
        caution(
            "needs-anneal",
            f"To {about(worst.size_mm, 2)} takes {num(worst.reduction_pct, 1)} % at once; {metal.name.lower()} bears {num(metal.max_reduction_pct)} % even soft: a size between is needed.",
        ),
    )


def _with_turns(passes: tuple[Pass, ...], start_mm: float, hand: Hand) -> tuple[Pass, ...]:
    """Say for each pass at the mill by how many turns its screws are closed, where the bench says what a turn is."""
    a_turn = next(
        (tool.mm_per_turn for tool in hand.tools if tool.kind == "mill-groove" and tool.mm_per_turn), None
    )
    if a_turn is None:
        return passes
    told, here = [], start_mm
    for one in passes:
        turns = (here - one.size_mm) / a_turn if one.by == "mill" else None
        told.append(one.model_copy(update={"turns": turns}))
        here = one.size_mm
    return tuple(told)


def _size_of(section: Profile) -> float:
    return min(profile_across_mm(section), profile_height_mm(section))


def _sections(
    asked: DrawDownKeys, hand: Hand
) -> tuple[list[tuple[Literal["mill", "draw"], Profile]], tuple[ToolAnswer, ...], tuple[SizeCaution, ...]]:
    """Give the sections that the bar walks through: milled in its own shape, drawn in the end's, or all in one."""
    start, end = asked.start, asked.end
    by: Literal["mill", "draw"] = "draw" if isinstance(end, Round | HalfRound) else "mill"
    if type(start) is type(end):
        return _walk(by, start, end, asked.pass_pct, hand)
    middle = _turning_point(asked)
    milled, tools, told = _walk(
        "mill" if isinstance(start, Square | Rect) else "draw", start, middle, asked.pass_pct, hand
    )
    last = milled[-1][1] if milled else start
    drawn, more_tools, more_told = _walk(by, _as_kind(end, profile_area_mm2(last)), end, asked.pass_pct, hand)
    return [*milled, *drawn], (*tools, *more_tools), (*told, *more_told)


LAST_DRAWS_SHARE = 1.3
_TOOL_OF = {"round": "draw-plate-hole", "square": "mill-groove"}


def _turning_point(asked: DrawDownKeys) -> Profile:
    """Give the section of the start's shape at which it turns to the end's: near the end if the mill comes first."""
    before, after = profile_area_mm2(asked.start), profile_area_mm2(asked.end)
    area = min(before, after * LAST_DRAWS_SHARE) if asked.first == "mill" else before
    return _as_kind(asked.start, area)


def _as_kind(like: Profile, area: float) -> Profile:
    """Give a section of the same proportions with another area."""
    scale = math.sqrt(area / profile_area_mm2(like))
    match like:
        case Round():
            return Round(kind="round", diameter_mm=like.diameter_mm * scale)
        case Square():
            return Square(kind="square", side_mm=like.side_mm * scale)
        case Rect() | HalfRound():
            return like.model_copy(
                update={"width_mm": like.width_mm * scale, "height_mm": like.height_mm * scale}
            )


def _walk(
    by: Literal["mill", "draw"], start: Profile, end: Profile, pass_pct: float, hand: Hand
) -> tuple[list[tuple[Literal["mill", "draw"], Profile]], tuple[ToolAnswer, ...], tuple[SizeCaution, ...]]:
    """Walk from one section to another of its kind: over the owned holes or grooves, or in equal steps."""
    before, after = profile_area_mm2(start), profile_area_mm2(end)
    if after >= before * (1 - 1e-9):
        return [], (), ()
    kind = _TOOL_OF.get(end.kind)
    owned = hand.sizes(kind) if kind else []
    if owned and kind:
        return _walk_owned(by, start, end, pass_pct, (kind, owned))
    steps = math.ceil(round(math.log(after / before) / math.log(1 - pass_pct / 100), 9))
    ratio = (after / before) ** (1 / steps)
    made = [(by, _between(start, end, before * ratio**n, n / steps)) for n in range(1, steps + 1)]
    tools: tuple[ToolAnswer, ...] = ()
    if kind:
        words = kind.replace("-", " ")
        tools = (
            ToolAnswer(
                kind=kind,
                wanted_mm=_size_of(end),
                owned_mm=None,
                text=f"No {words}s are listed on the bench: equal steps are given.",
            ),
        )
    return made, tools, ()


def _between(start: Profile, end: Profile, area: float, share: float) -> Profile:
    if isinstance(start, Rect) and isinstance(end, Rect):
        width = start.width_mm * (end.width_mm / start.width_mm) ** share
        return Rect(kind="rect", width_mm=width, height_mm=area / width)
    return _as_kind(end, area)


def _walk_owned(
    by: Literal["mill", "draw"], start: Profile, end: Profile, pass_pct: float, tools: tuple[str, list[float]]
) -> tuple[list[tuple[Literal["mill", "draw"], Profile]], tuple[ToolAnswer, ...], tuple[SizeCaution, ...]]:
    """Walk the owned sizes from start to end: each as far as the pass allows, and the next one where none is so near."""
    kind, owned = tools
    wanted, here = _size_of(end), profile_area_mm2(start)
    last = min(owned, key=lambda size: (abs(size - wanted), -size))
    steps: list[tuple[Literal["mill", "draw"], Profile]] = []
    large: list[tuple[float, float]] = []
    left = [
        size for size in owned if last <= size and profile_area_mm2(_sized(end, size)) < here * (1 - 1e-9)
    ]
    while left:
        fits = [
            size for size in left if 1 - profile_area_mm2(_sized(end, size)) / here <= pass_pct / 100 + 1e-9
        ]
        size = min(fits) if fits else max(left)
        section = _sized(end, size)
        taken = (1 - profile_area_mm2(section) / here) * 100
        if not fits:
            large.append((taken, size))
        steps.append((by, section))
        here = profile_area_mm2(section)
        left = [one for one in left if one < size]
    words = kind.replace("-", " ")
    text = f"Walks {len(steps)} {words}s of the bench down to {about(last, 2)}."
    if abs(last - wanted) > 5e-3:
        text = f"No {words} of {about(wanted, 2)} is on the bench: it ends at {about(last, 2)}."
    if not steps:
        steps.append((by, end))
        text = f"No {words} on the bench lies between: {about(wanted, 2)} is reached without one."
    return (
        steps,
        (ToolAnswer(kind=kind, wanted_mm=wanted, owned_mm=last, text=text),),
        _too_large(large, pass_pct),
    )


def _too_large(large: list[tuple[float, float]], pass_pct: float) -> tuple[SizeCaution, ...]:
    """Say of the passes that take more than is wanted how many there are, and which takes most."""
    if not large:
        return ()
    taken, size = max(large)
    passes = "A pass takes" if len(large) == 1 else f"{len(large)} passes take"
    return (
        caution(
            "pass-too-large",
            f"{passes} more than {num(pass_pct)} %, since no size between is owned: to {about(size, 2)} it is {num(taken, 1)} %.",
        ),
    )


def _sized(like: Profile, size: float) -> Profile:
    return (
        Round(kind="round", diameter_mm=size)
        if isinstance(like, Round)
        else Square(kind="square", side_mm=size)
    )


STAIRS_IN_A_ROW = 9


def _stairs(start: Profile, passes: tuple[Pass, ...]) -> Sketch:
    """Draw the sections as stairs in rows, the largest first, a mark before each that is annealed first."""
    step = _size_of(start) * 1.5
    lines, labels = [], []
    for n, section in enumerate([start, *(one.section for one in passes)]):
        x, y = n % STAIRS_IN_A_ROW * step, -(n // STAIRS_IN_A_ROW) * step * 1.9
        wide, high = profile_across_mm(section), profile_height_mm(section)
        if n and passes[n - 1].anneal_before:
            lines.append(
                line((x - step * 0.18, y - step * 0.1), (x - step * 0.18, y + step * 0.8), stands="mark")
            )
            labels.append(label(x - step * 0.18, y + step * 0.95, "anneal"))
        lines.append(
            circle(x + wide / 2, y + high / 2, wide) if isinstance(section, Round) else box(x, y, wide, high)
        )
        if n in (0, len(passes)):
            labels.append(label(x + wide / 2, y - step * 0.45, bare(_size_of(section), 2)))
    return sketch(lines, labels)


CALCULATORS = (
    Calculator(
        "draw-down",
        "Draw down",
        "Stock",
        "Pass by pass from a bar to wire, annealed before its limit.",
        DrawDownKeys,
        DrawDownFound,
        draw_down,
        "end_length_mm",
        {
            "metal": "sterling-925",
            "start": {"kind": "square", "side_mm": 3},
            "end": {"kind": "round", "diameter_mm": 1},
            "mass_g": 40,
        },
        {"mass_g": 1.0},
    ),
)
