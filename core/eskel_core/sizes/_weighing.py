"""Weighing: the mass of a blank, where a hanging thing balances, what a piece costs."""

from __future__ import annotations

import math
from typing import Annotated, Any

from pydantic import Field, model_validator

from ..faults import refuse
from ..forms import Form, measure, profile_across_mm, profile_height_mm
from ..picture import draw
from ..piece import mass_g, metal_of, part_of, piece_from_object
from ..units import sizes
from ._base import (
    Calculator,
    Coordinate,
    Cut,
    Found,
    Grams,
    GramsOrZero,
    Hand,
    Keys,
    Money,
    Record,
    SizeCaution,
    caution,
    key,
    num,
)
from ._sketch import Sketch, box, circle, label, line, sketch


class BlankWeightKeys(Keys):
    """A form in a metal."""

    metal: str = key("Metal", "sterling-925")
    form: Form = key("Form", quantity="form")
    price_per_g: Money | None = key("Price of the metal, a gram", None)


class BlankWeightFound(Found):
    """What a form measures and weighs."""

    mass_g: float = key("Mass")
    volume_mm3: float = key("Volume")
    surface_mm2: float = key("Surface")
    cost: float | None = key("Metal costs", None)


def blank_weight(asked: BlankWeightKeys, hand: Hand) -> BlankWeightFound:
    """Give the volume, mass and surface of a form; what the metal costs where its price is known."""
    metal = hand.metal(asked.metal)
    found = measure(asked.form)
    mass = mass_g(asked.form, metal) or 0.0
    volume = found.volume_mm3 if found.volume_mm3 is not None else mass / metal.density_g_cm3 * 1000
    price = asked.price_per_g if asked.price_per_g is not None else hand.prices.get(asked.metal)
    return BlankWeightFound(
        mass_g=mass,
        volume_mm3=volume,
        surface_mm2=found.surface_mm2,
        cost=None if price is None else mass * price,
        how=f"{num(volume, 2)} mm³ × {num(metal.density_g_cm3)} g/cm³ = {num(mass)} g",
        cut=Cut(title="Blank", form=asked.form, metal=asked.metal, length_mm=found.blank.length_mm),
        sketch=_form_sketch(asked.form),
    )


def _form_sketch(form: Form) -> Sketch | None:
    match form.kind:
        case "wire":
            high = profile_height_mm(form.profile)
            return sketch(
                [box(0, 0, form.length_mm, high)],
                [
                    label(
                        form.length_mm / 2,
                        -high - 2,
                        sizes(form.length_mm, profile_across_mm(form.profile), places=2),
                    )
                ],
            )
        case "strip" | "tube":
            high = form.width_mm if form.kind == "strip" else form.outer_mm
            return sketch([box(0, 0, form.length_mm, high)])
        case "ball":
            return sketch([circle(0, 0, form.diameter_mm)])
        case "sheet":
            from ..forms import outline_rings

            return sketch([line(*ring, closed=True) for ring in outline_rings(form.outline)])
        case _:
            return None


class Weight(Record):
    """A mass at a place: x to the right, y down, z to the front."""

    mass_g: Grams
    x_mm: Coordinate = 0.0
    y_mm: Coordinate = 0.0
    z_mm: Coordinate = 0.0


class Pivot(Record):
    """Where a piece hangs from; a list is taken as x, y and z."""

    x_mm: Coordinate = 0.0
    y_mm: Coordinate = 0.0
    z_mm: Coordinate = 0.0

    @model_validator(mode="before")
    @classmethod
    def _from_a_list(cls, plain: Any) -> Any:
        if isinstance(plain, list) and len(plain) in (2, 3):
            return dict(zip(("x_mm", "y_mm", "z_mm"), plain, strict=False))
        return plain


class HangKeys(Keys):
    """The masses of a piece, or the piece itself, and where it hangs."""

    parts: tuple[Weight, ...] = key("Masses", (), quantity="weights")
    piece: dict[str, Any] | None = key("or a piece", None, quantity="piece")
    pivot: Pivot = key("Hangs from", Pivot(), quantity="pivot")


class HangFound(Found):
    """How a piece hangs."""

    tilt_side_deg: float = key("Tilts sideways by")
    tilt_front_deg: float = key("Tilts forward by")
    centre_x_mm: float = key("Centre of mass, across")
    centre_y_mm: float = key("down")
    centre_z_mm: float = key("and to the front")


STRAIGHT_DEG = 3.0


def hang(asked: HangKeys, hand: Hand) -> HangFound:
    """Say how a piece hangs: its centre of mass comes to lie below the pivot. x to the right, y down, z to the front."""
    weights = _weights(asked)
    total = sum(weight.mass_g for weight in weights)
    x, y, z = (
        sum(weight.mass_g * getattr(weight, axis) for weight in weights) / total
        for axis in ("x_mm", "y_mm", "z_mm")
    )
    across, down, front = x - asked.pivot.x_mm, y - asked.pivot.y_mm, z - asked.pivot.z_mm
    side, forward = math.degrees(math.atan2(across, down)), math.degrees(math.atan2(front, down))
    told: tuple[SizeCaution, ...] = ()
    if down <= 0:
        told = (caution("hangs-tilted", "The centre of mass lies above the pivot: the piece turns over."),)
    elif max(abs(side), abs(forward)) > STRAIGHT_DEG:
        told = (
            caution(
                "hangs-tilted",
                f"It hangs {num(abs(side), 1)}° to the side and {num(abs(forward), 1)}° forward.",
            ),
        )
    spots = [circle(weight.x_mm, -weight.y_mm, max(0.5, weight.mass_g ** (1 / 3) * 2)) for weight in weights]
    pivot = asked.pivot
    return HangFound(
        tilt_side_deg=side,
        tilt_front_deg=forward,
        centre_x_mm=x,
        centre_y_mm=y,
        centre_z_mm=z,
        how=f"centre of mass at {num(x, 2)} across, {num(y, 2)} down, {num(z, 2)} to the front; atan({num(across, 2)} / {num(down, 2)}) = {num(side, 1)}°",
        cautions=told,
        sketch=sketch(
            [
                *spots,
                line((pivot.x_mm, -pivot.y_mm), (x, -y), stands="mark"),
                line((pivot.x_mm, -pivot.y_mm), (pivot.x_mm, -y), stands="hidden"),
            ]
        ),
    )


def _weights(asked: HangKeys) -> tuple[Weight, ...]:
    if (asked.piece is not None) == bool(asked.parts):
        raise refuse(
            "contradiction" if asked.parts else "missing",
            "parts",
            None,
            "the masses are given, or a piece",
            "Give one of the two.",
        )
    if asked.piece is None:
        return asked.parts
    piece = piece_from_object(asked.piece)
    found = []
    for one in draw(piece).parts:
        part = part_of(piece, one.part)
        mass = mass_g(part.form, metal_of(piece, one.part))
        if mass:
            z = part.place.z_mm if part.place else 0.0
            found.append(Weight(mass_g=mass, x_mm=one.x_mm, y_mm=one.y_mm, z_mm=z))
    if not found:
        raise refuse("missing", "piece", None, "a piece that hangs has parts of known mass", "Add a part.")
    return tuple(found)


class CostKeys(Keys):
    """What a piece takes, and what is paid for it."""

    metal: str = key("Metal", "sterling-925")
    metal_g: GramsOrZero = key("Metal used")
    price_per_g: Money | None = key("Price of the metal, a gram", None)
    solder_g: GramsOrZero = key("Solder", 0.0)
    solder_price_per_g: Money | None = key("Price of the solder, a gram", None)
    scrap_g: GramsOrZero = key("Scrap left over", 0.0)
    scrap_return_pct: Annotated[float, Field(ge=0, le=100)] = key("Scrap is paid at", 80.0)
    hours: Annotated[float, Field(ge=0, le=10_000)] = key("Hours", 0.0)
    labour_per_hour: Money = key("Labour, an hour", 0.0)
    bought_wire_price_per_g: Money | None = key("The same as bought wire, a gram", None)
    making_hours: Annotated[float, Field(ge=0, le=1000)] = key("Hours to make the wire", 0.0)


class CostFound(Found):
    """What a piece costs."""

    total: float = key("Costs in all")
    metal_cost: float = key("Metal")
    solder_cost: float = key("Solder")
    labour_cost: float = key("Labour")
    scrap_returned: float = key("Scrap returns")
    make_or_buy: str | None = key("Make or buy the wire", None)


def cost(asked: CostKeys, hand: Hand) -> CostFound:
    """Give what a piece costs: metal + solder + labour − scrap returned; prices are the smith's own, else the feed's."""
    price = asked.price_per_g if asked.price_per_g is not None else hand.prices.get(asked.metal)
    if price is None:
        raise refuse(
            "missing", "price_per_g", None, f"a price is known for {asked.metal}", "Give price_per_g."
        )
    if asked.scrap_g > asked.metal_g:
        raise refuse(
            "contradiction",
            "scrap_g",
            asked.scrap_g,
            f"no more is left over than the metal taken, {num(asked.metal_g)} g",
            "Check the two.",
        )
    solder_price = asked.solder_price_per_g if asked.solder_price_per_g is not None else price
    metal, solder, labour = (
        asked.metal_g * price,
        asked.solder_g * solder_price,
        asked.hours * asked.labour_per_hour,
    )
    back = asked.scrap_g * price * asked.scrap_return_pct / 100
    total = metal + solder + labour - back
    choice = None
    if asked.bought_wire_price_per_g is not None:
        bought, made = (
            asked.metal_g * asked.bought_wire_price_per_g,
            metal + asked.making_hours * asked.labour_per_hour,
        )
        choice = f"{'make' if made < bought else 'buy'}: {num(made, 2)} made, {num(bought, 2)} bought"
    return CostFound(
        total=total,
        metal_cost=metal,
        solder_cost=solder,
        labour_cost=labour,
        scrap_returned=back,
        make_or_buy=choice,
        how=f"{num(asked.metal_g)} g × {num(price)} + {num(asked.solder_g)} g × {num(solder_price)} + {num(asked.hours)} h × {num(asked.labour_per_hour)} − {num(asked.scrap_g)} g × {num(price)} × {num(asked.scrap_return_pct)} % = {num(total, 2)}",
    )


CALCULATORS = (
    Calculator(
        "blank-weight",
        "Weight of a blank",
        "Measuring",
        "Volume, mass and surface of any form.",
        BlankWeightKeys,
        BlankWeightFound,
        blank_weight,
        "mass_g",
        {
            "metal": "sterling-925",
            "form": {
                "kind": "sheet",
                "thickness_mm": 0.8,
                "outline": {"kind": "rect", "width_mm": 30, "height_mm": 20},
            },
        },
        {},
    ),
    Calculator(
        "hang",
        "How it hangs",
        "Measuring",
        "Where the centre of mass lies, and how the piece tilts.",
        HangKeys,
        HangFound,
        hang,
        "tilt_side_deg",
        {
            "parts": [{"mass_g": 2, "x_mm": 0, "y_mm": 12}, {"mass_g": 0.5, "x_mm": 4, "y_mm": 20}],
            "pivot": {"x_mm": 0, "y_mm": 0},
        },
        {},
    ),
    Calculator(
        "cost",
        "Cost",
        "Measuring",
        "Metal, solder, labour, and what scrap returns.",
        CostKeys,
        CostFound,
        cost,
        "total",
        {
            "metal": "sterling-925",
            "metal_g": 24,
            "price_per_g": 1.1,
            "scrap_g": 5,
            "hours": 3,
            "labour_per_hour": 28,
        },
        {},
    ),
)
