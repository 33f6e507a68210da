"""Measuring: spacing along a length or round a ring, readings of one thing."""

from __future__ import annotations

import math
import statistics
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from ..faults import refuse
from ..units import bare
from ._base import (
    Calculator,
    Coordinate,
    Count,
    Found,
    Hand,
    Keys,
    Mm,
    MmOrZero,
    key,
    num,
)
from ._sketch import Sketch, circle, label, line, ruler, sketch


class LayoutKeys(Keys):
    """Things to be spaced evenly along an edge, a circle, or a row from end to end."""

    along: Literal["edge", "circle", "row"] = key("Along", "edge")
    length_mm: Mm | None = key("Length of the edge or row", None)
    diameter_mm: Mm | None = key("Diameter of the circle", None)
    count: Count = key("How many")
    size_mm: MmOrZero = key("Size of each", 0.0)

    @model_validator(mode="before")
    @classmethod
    def _one_key_says_both(cls, plain: Any) -> Any:
        """Take `edge_mm`, `row_mm` or `circle_mm` for what it runs along and how long that is."""
        if isinstance(plain, dict):
            for along in ("edge", "row", "circle"):
                if f"{along}_mm" in plain and not {"along", "length_mm", "diameter_mm"} & set(plain):
                    rest = {name: value for name, value in plain.items() if name != f"{along}_mm"}
                    size = "diameter_mm" if along == "circle" else "length_mm"
                    return {**rest, "along": along, size: plain[f"{along}_mm"]}
        return plain


class LayoutFound(Found):
    """The spacing, and the marks of the middles."""

    spacing_mm: float = key("From middle to middle")
    marks: tuple[float, ...] = key("Marks at")
    between_mm: float = key("Left between them")


def layout(asked: LayoutKeys, hand: Hand) -> LayoutFound:
    """Space things evenly. Along an edge the ends keep half a space; in a row the first and last touch the ends;
    round a circle marks are along the arc, and the spacing is the chord, as dividers are set."""
    length, count, size = _run(asked), asked.count, asked.size_mm
    spacing = length / count
    if asked.along == "edge":
        marks = tuple(spacing * (n + 0.5) for n in range(count))
        how = f"{num(length, 2)} / {count} = {num(spacing)} mm, the first at half of it"
    elif asked.along == "row":
        if size > length:
            raise refuse(
                "contradiction",
                "size_mm",
                size,
                f"each is at most the row's own {num(length)} mm",
                "Make them smaller.",
            )
        spacing = (length - size) / (count - 1) if count > 1 else 0.0
        marks = tuple(size / 2 + spacing * n for n in range(count))
        how = (
            f"({num(length, 2)} − {num(size)}) / ({count} − 1) = {num(spacing)} mm"
            if count > 1
            else "one, at the end"
        )
    else:
        marks = tuple(spacing * n for n in range(count))
        chord = (asked.diameter_mm or 0.0) * math.sin(math.pi / count) if count > 1 else 0.0
        how = f"arc π × {num(asked.diameter_mm or 0)} / {count} = {num(spacing)} mm; chord D × sin(180° / {count}) = {num(chord)} mm"
        spacing = chord
    between = spacing - size
    if count > 1 and between < -1e-9:
        raise refuse(
            "contradiction",
            "count",
            count,
            f"{count} of {num(size)} mm lie side by side without overlapping",
            "Take fewer, or smaller ones.",
        )
    return LayoutFound(
        spacing_mm=spacing,
        marks=marks,
        between_mm=between,
        how=how,
        sketch=_layout_sketch(asked, marks, length),
    )


def _run(asked: LayoutKeys) -> float:
    name = "diameter_mm" if asked.along == "circle" else "length_mm"
    value = getattr(asked, name)
    if value is None:
        raise refuse("missing", name, None, f"a {asked.along} has its size", f"Add {name}.")
    return float(value) * (math.pi if asked.along == "circle" else 1.0)


def _layout_sketch(asked: LayoutKeys, marks: tuple[float, ...], length: float) -> Sketch:
    size = asked.size_mm or length / asked.count / 6
    if asked.along == "circle":
        radius = (asked.diameter_mm or 0.0) / 2
        spots = [(radius * math.cos(at / radius), radius * math.sin(at / radius)) for at in marks[:200]]
        return sketch([circle(0, 0, 2 * radius, "fine"), *(circle(x, y, size) for x, y in spots)])
    drawn = [circle(at, 0, size) for at in marks[:200]]
    return sketch(
        [line((0, 0), (length, 0), stands="fine"), *drawn, *ruler(length, -size)],
        [label(at, size, bare(at, 1)) for at in marks[:12]],
    )


class ReadingsKeys(Keys):
    """Several readings of one thing, and of a gauge that is closed or a block that is known."""

    readings_mm: Annotated[tuple[Mm, ...], Field(min_length=1, max_length=100)] = key(
        "Readings", quantity="lengths"
    )
    zero_mm: Coordinate = key("The closed jaws read", 0.0)
    block_mm: Mm | None = key("A block known to be", None)
    block_reads_mm: Mm | None = key("reads", None)


class ReadingsFound(Found):
    """The mean of readings, set right, and how far they spread."""

    mean_mm: float = key("Mean, set right")
    spread_mm: float = key("From least to most")
    deviation_mm: float = key("Standard deviation")
    zero_ok: bool = key("The zero is right")


ZERO_SLIP_MM = 0.02


def readings(asked: ReadingsKeys, hand: Hand) -> ReadingsFound:
    """Give mean and spread of readings, less the zero; a known block sets the scale right."""
    scale = 1.0
    if asked.block_mm is not None and asked.block_reads_mm is not None:
        scale = asked.block_mm / (asked.block_reads_mm - asked.zero_mm)
    right = [(one - asked.zero_mm) * scale for one in asked.readings_mm]
    mean = statistics.fmean(right)
    if mean <= 0:
        raise refuse(
            "contradiction", "zero_mm", asked.zero_mm, "the zero lies below the readings", "Check the zero."
        )
    return ReadingsFound(
        mean_mm=mean,
        spread_mm=max(right) - min(right),
        deviation_mm=statistics.stdev(right) if len(right) > 1 else 0.0,
        zero_ok=abs(asked.zero_mm) <= ZERO_SLIP_MM,
        how=f"({' + '.join(num(one) for one in asked.readings_mm[:6])}{' + …' if len(right) > 6 else ''}) / {len(right)} − {num(asked.zero_mm)} = {num(mean)} mm",
        sketch=sketch(
            [circle(0, 0, mean), *(circle(0, 0, one, "fine") for one in right[:20])],
            [label(0, 0, bare(mean, 2))],
        ),
    )


CALCULATORS = (
    Calculator(
        "layout",
        "Equal spacing",
        "Measuring",
        "Marks along an edge, a circle or a row.",
        LayoutKeys,
        LayoutFound,
        layout,
        "spacing_mm",
        {"along": "circle", "diameter_mm": 24, "count": 12, "size_mm": 1.5},
        {"diameter_mm": 0.2},
    ),
    Calculator(
        "readings",
        "Several readings",
        "Measuring",
        "Mean and spread of readings of one thing, zero and scale set right.",
        ReadingsKeys,
        ReadingsFound,
        readings,
        "mean_mm",
        {"readings_mm": [17.2, 17.3, 17.25], "zero_mm": 0.05},
        {},
    ),
)
