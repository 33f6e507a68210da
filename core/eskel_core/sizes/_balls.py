"""Wire melted into balls, on its end or loose: volume is kept, and surface tension has its limits."""

from __future__ import annotations

import math

from ..faults import refuse
from ..forms import Ball
from ..metals import FLAT_SHARE, Metal, ball_flat_mm, drop_limit_mm
from ..units import about, bare
from ._base import (
    Calculator,
    Cut,
    Found,
    Hand,
    Keys,
    Mm,
    Record,
    SizeCaution,
    caution,
    key,
    num,
    thin,
)
from ._sketch import Sketch, bar, circle, label, line, sketch
from ._wirework import round_wire

SAFETY = ("Eye protection; a ball that lets go falls hot: stand clear of its fall.",)


def wire_of_ball_mm(ball_mm: float, wire_mm: float) -> float:
    """Give the length of round wire that a ball takes: L = 2·D³/(3·d²).

    >>> round(wire_of_ball_mm(2.2, 0.9), 3)
    8.764
    """
    return 2 * ball_mm**3 / (3 * wire_mm**2)


def ball_of_wire_mm(wire_mm: float, length_mm: float) -> float:
    """Give the ball that a length of round wire makes: D = (3·d²·L/2)^(1/3).

    >>> round(ball_of_wire_mm(1.2, 30), 3)
    4.017
    """
    return float((1.5 * wire_mm**2 * length_mm) ** (1 / 3))


def ball_mass_g(ball_mm: float, metal: Metal) -> float:
    """Give the mass of a ball, g."""
    return math.pi * ball_mm**3 / 6 * metal.density_g_cm3 / 1000


def check_thicker(ball_mm: float, wire_mm: float, path: str = "ball_mm") -> None:
    """Raise `Refused` for a ball no thicker than its wire."""
    if ball_mm <= wire_mm:
        raise refuse(
            "contradiction",
            path,
            ball_mm,
            f"a ball is thicker than its wire of {num(wire_mm)} mm",
            "Make the ball larger, or take thinner wire.",
        )


def flat_caution(ball_mm: float, flat_mm: float) -> tuple[SizeCaution, ...]:
    """Say when a loose ball rests on too large a flat."""
    if flat_mm <= FLAT_SHARE * ball_mm:
        return ()
    return (
        caution("ball-flat", f"A loose ball of {about(ball_mm, 2)} rests on a flat of {about(flat_mm, 2)}."),
    )


class BallKeys(Keys):
    """Two of a ball, its wire and the length that it takes."""

    metal: str = key("Metal", "sterling-925")
    ball_mm: Mm | None = key("Ball", None)
    wire_mm: Mm | None = key("Wire", None)
    wire_length_mm: Mm | None = key("Length of wire", None)


class BallFound(Found):
    """A ball and the wire that it takes."""

    wire_length_mm: float = key("Snip of wire")
    ball_mm: float = key("Ball")
    wire_mm: float = key("Wire")
    mass_g: float = key("Mass")
    flat_mm: float = key("Flat where it rests")


def ball(asked: BallKeys, hand: Hand) -> BallFound:
    """Give the third of ball, wire and length from the other two; the volume is kept."""
    metal = hand.heated_metal(asked.metal)
    given = [name for name in ("ball_mm", "wire_mm", "wire_length_mm") if getattr(asked, name) is not None]
    if len(given) != 2:
        code, path = ("missing", "ball_mm") if len(given) < 2 else ("contradiction", "wire_length_mm")
        raise refuse(
            code,
            path,
            None if len(given) < 2 else asked.wire_length_mm,
            "two of ball_mm, wire_mm and wire_length_mm are given",
            "Give two; the third follows.",
        )
    ball_mm, wire, length = asked.ball_mm or 0.0, asked.wire_mm or 0.0, asked.wire_length_mm or 0.0
    if not length:
        check_thicker(ball_mm, wire)
        length = wire_of_ball_mm(ball_mm, wire)
        how = f"2 × {num(ball_mm)}³ / (3 × {num(wire)}²) = {num(length)} mm"
    elif not ball_mm:
        ball_mm = ball_of_wire_mm(wire, length)
        how = f"(3 × {num(wire)}² × {num(length)} / 2)^(1/3) = {num(ball_mm)} mm"
    else:
        wire = math.sqrt(2 * ball_mm**3 / (3 * length))
        how = f"√(2 × {num(ball_mm)}³ / (3 × {num(length)})) = {num(wire)} mm"
    check_thicker(ball_mm, wire, "wire_length_mm" if asked.wire_length_mm else "ball_mm")
    flat = ball_flat_mm(ball_mm, metal)
    return BallFound(
        wire_length_mm=length,
        ball_mm=ball_mm,
        wire_mm=wire,
        mass_g=ball_mass_g(ball_mm, metal),
        flat_mm=flat,
        how=how,
        cautions=flat_caution(ball_mm, flat),
        safety=SAFETY,
        cut=Cut(
            title="Ball", form=Ball(kind="ball", diameter_mm=ball_mm), metal=asked.metal, length_mm=length
        ),
        sketch=sketch(
            [
                circle(ball_mm / 2, ball_mm / 2, ball_mm),
                line((ball_mm / 2 - flat / 2, 0), (ball_mm / 2 + flat / 2, 0), stands="mark"),
                *bar(length, wire, -ball_mm * 0.6 - wire),
            ],
            [
                label(ball_mm / 2, ball_mm / 2, bare(ball_mm, 2)),
                label(length / 2, -ball_mm - wire - 1, f"{about(length, 2)} of {bare(wire, 2)}"),
            ],
        ),
    )


class BalledEndKeys(Keys):
    """A wire with a ball melted on its end."""

    metal: str = key("Metal", "sterling-925")
    wire_mm: Mm = key("Wire")
    ball_mm: Mm = key("Ball")
    finished_length_mm: Mm = key("Finished length, ball and all")


class BalledEndFound(Found):
    """The wire to cut for a balled end."""

    cut_length_mm: float = key("Cut the wire")
    consumed_mm: float = key("The ball eats")
    drop_limit_mm: float = key("Largest ball that hangs on")


def balled_end(asked: BalledEndKeys, hand: Hand) -> BalledEndFound:
    """Give the wire to cut for a balled end: finished − D + what the ball eats."""
    metal, ball_mm, wire = hand.heated_metal(asked.metal), asked.ball_mm, asked.wire_mm
    check_thicker(ball_mm, wire)
    if asked.finished_length_mm <= ball_mm:
        raise refuse(
            "contradiction",
            "finished_length_mm",
            asked.finished_length_mm,
            f"the finished length is above the ball's own {num(ball_mm)} mm",
            "Make it longer.",
        )
    eaten, limit = wire_of_ball_mm(ball_mm, wire), drop_limit_mm(wire, metal)
    cut = asked.finished_length_mm - ball_mm + eaten
    told: tuple[SizeCaution, ...] = ()
    if ball_mm > limit:
        told = (
            caution(
                "ball-falls",
                f"On {about(wire)} wire a ball lets go above {about(limit, 2)}; this one is {about(ball_mm)}.",
            ),
        )
    stem = asked.finished_length_mm - ball_mm
    return BalledEndFound(
        cut_length_mm=cut,
        consumed_mm=eaten,
        drop_limit_mm=limit,
        how=f"{num(asked.finished_length_mm)} − {num(ball_mm)} + 2 × {num(ball_mm)}³ / (3 × {num(wire)}²) = {num(cut)} mm",
        cautions=told,
        safety=SAFETY,
        cut=Cut(title="Balled wire", form=round_wire(wire, cut), metal=asked.metal, length_mm=cut),
        sketch=sketch(
            [
                *bar(stem, wire, ball_mm / 2 - wire / 2),
                circle(stem + ball_mm / 2, ball_mm / 2, ball_mm),
                *bar(cut, wire, -ball_mm - wire, [cut - eaten]),
            ],
            [
                label(stem + ball_mm / 2, ball_mm * 1.4, bare(ball_mm, 2)),
                label(
                    cut / 2,
                    -ball_mm * 2 - wire - 1,
                    f"{about(cut, 2)}, the last {bare(eaten, 2)} become the ball",
                ),
            ],
        ),
    )


class ProngWanted(Record):
    """One prong: its reach along the wire to where the ball rests, its wire and its ball."""

    reach_mm: Mm = key("Reach")
    wire_mm: Mm = key("Wire")
    ball_mm: Mm = key("Ball")


class ProngKeys(Keys):
    """The prongs of a setting, each with its own reach; or a single one."""

    metal: str = key("Metal", "sterling-925")
    prongs: tuple[ProngWanted, ...] = key("Prongs", (), quantity="prongs")
    reach_mm: Mm | None = key("Reach to where the ball rests", None)
    wire_mm: Mm | None = key("Wire", None)
    ball_mm: Mm | None = key("Ball", None)


class ProngMarks(Record):
    """Where one prong is snipped, and where its ball stops."""

    snip_mark_mm: float = key("Snip at")
    ball_stop_mark_mm: float = key("Ball stops at")


class ProngFound(Found):
    """The marks of the prongs; the first prong's stand by themselves too."""

    snip_mark_mm: float = key("Snip at")
    ball_stop_mark_mm: float = key("Ball stops at")
    prongs: tuple[ProngMarks, ...] = key("Each prong")


def prong(asked: ProngKeys, hand: Hand) -> ProngFound:
    """Give each prong's marks: snip = reach − D + what the ball eats; the ball stops where its lower edge rests."""
    metal = hand.heated_metal(asked.metal)
    wanted = [(f"prongs[{n}].", one) for n, one in enumerate(asked.prongs)]
    if not wanted:
        missing = next(
            (name for name in ("reach_mm", "wire_mm", "ball_mm") if getattr(asked, name) is None), None
        )
        if missing:
            raise refuse(
                "missing", missing, None, "a prong has its reach, its wire and its ball", f"Add {missing}."
            )
        wanted = [
            (
                "",
                ProngWanted(
                    reach_mm=asked.reach_mm or 0, wire_mm=asked.wire_mm or 0, ball_mm=asked.ball_mm or 0
                ),
            )
        ]
    told: list[SizeCaution] = []
    for path, one in wanted:
        check_thicker(one.ball_mm, one.wire_mm, f"{path}ball_mm")
        if one.reach_mm <= one.ball_mm:
            raise refuse(
                "contradiction",
                f"{path}reach_mm",
                one.reach_mm,
                f"the reach is above the ball's own {num(one.ball_mm)} mm",
                "Make it longer.",
            )
        told += thin(hand, "a prong", one.wire_mm, "prong")
        limit = drop_limit_mm(one.wire_mm, metal)
        if one.ball_mm > limit:
            told.append(
                caution("ball-falls", f"On {about(one.wire_mm)} wire a ball lets go above {about(limit, 2)}.")
            )
    marks = tuple(
        ProngMarks(
            snip_mark_mm=one.reach_mm - one.ball_mm + wire_of_ball_mm(one.ball_mm, one.wire_mm),
            ball_stop_mark_mm=one.reach_mm - one.ball_mm,
        )
        for _, one in wanted
    )
    first, mark = wanted[0][1], marks[0]
    return ProngFound(
        snip_mark_mm=mark.snip_mark_mm,
        ball_stop_mark_mm=mark.ball_stop_mark_mm,
        prongs=marks,
        how=f"{num(first.reach_mm)} − {num(first.ball_mm)} + 2 × {num(first.ball_mm)}³ / (3 × {num(first.wire_mm)}²) = {num(mark.snip_mark_mm)} mm",
        cautions=tuple(told),
        safety=SAFETY,
        cut=Cut(
            title="Prong",
            form=round_wire(first.wire_mm, mark.snip_mark_mm),
            metal=asked.metal,
            count=len(marks),
            length_mm=mark.snip_mark_mm,
        ),
        sketch=_prong_sketch([(one, marks[n]) for n, (_, one) in enumerate(wanted)]),
    )


def _prong_sketch(prongs: list[tuple[ProngWanted, ProngMarks]]) -> Sketch:
    lines, labels = [], []
    for n, (one, mark) in enumerate(prongs[:8]):
        y = -n * 3 * one.ball_mm
        lines += bar(mark.snip_mark_mm, one.wire_mm, y, [mark.ball_stop_mark_mm])
        lines.append(
            circle(mark.ball_stop_mark_mm + one.ball_mm / 2, y + one.wire_mm / 2, one.ball_mm, "hidden")
        )
        labels.append(label(mark.snip_mark_mm + 1, y, bare(mark.snip_mark_mm, 2), "start"))
    return sketch(lines, labels)


CALCULATORS = (
    Calculator(
        "ball",
        "Ball from wire",
        "Balls",
        "Ball, wire and length: any two give the third.",
        BallKeys,
        BallFound,
        ball,
        "wire_length_mm",
        {"metal": "sterling-925", "ball_mm": 2.2, "wire_mm": 0.9},
        {"wire_mm": 0.05, "wire_length_mm": 0.5},
    ),
    Calculator(
        "balled-end",
        "Balled end",
        "Balls",
        "How much longer to cut a wire whose end is melted to a ball.",
        BalledEndKeys,
        BalledEndFound,
        balled_end,
        "cut_length_mm",
        {"metal": "sterling-925", "wire_mm": 0.8, "ball_mm": 2.0, "finished_length_mm": 40},
        {"ball_mm": 0.1, "wire_mm": 0.05},
    ),
    Calculator(
        "prong",
        "Balled prongs",
        "Balls",
        "Where to snip each prong, and where its ball stops.",
        ProngKeys,
        ProngFound,
        prong,
        "snip_mark_mm",
        {"metal": "sterling-925", "reach_mm": 9, "wire_mm": 0.9, "ball_mm": 1.6},
        {"ball_mm": 0.1},
    ),
)
