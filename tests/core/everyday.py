"""What every smith's torch does, as pieces: common work of the trade, each with the torches that do it and the time it takes.

The bands are common knowledge of the trade and wide; a model that misses one is wrong in what it is told.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from eskel_core.piece import Piece, piece_from_object

Plain = dict[str, Any]
STERLING, FINE, COPPER = "sterling-925", "fine-silver-999", "copper"


@dataclass(frozen=True)
class Work:
    """One row: a piece, which of its heats, the torches, the surface, the least share of hands, and the time, s."""

    name: str
    piece: Plain
    torches: tuple[str, ...]
    least: float
    seconds: tuple[float, float]
    surface: str = "charcoal"
    heat_no: int = 1
    other: Plain | None = None

    def ways(self) -> list[Piece]:
        """The piece itself, and where there are two ways to do it the other one."""
        return [piece_from_object(plain) for plain in (self.piece, self.other) if plain is not None]


def wire(id_: str, across: float, length: float, metal: str = STERLING, **more: Any) -> Plain:
    """A part of round wire."""
    form = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": across}, "length_mm": length}
    form |= {key: more.pop(key) for key in ("closed", "path") if key in more}
    return {"id": id_, "metal": metal, "form": form, **more}


def strip(id_: str, thick: float, wide: float, length: float, metal: str = STERLING) -> Plain:
    """A closed strip, on edge."""
    form = {"kind": "strip", "thickness_mm": thick, "width_mm": wide, "length_mm": length, "closed": True}
    return {"id": id_, "metal": metal, "form": form}


def plate(id_: str, wide: float, high: float, thick: float, metal: str = STERLING) -> Plain:
    """A rectangular plate."""
    outline = {"kind": "rect", "width_mm": wide, "height_mm": high}
    return {"id": id_, "metal": metal, "form": {"kind": "sheet", "thickness_mm": thick, "outline": outline}}


def disc(id_: str, across: float, thick: float, metal: str = STERLING, domed: float = 0.0) -> Plain:
    """A disc, flat or domed."""
    form: Plain = {"kind": "sheet", "thickness_mm": thick, "outline": {"kind": "disc", "diameter_mm": across}}
    return {"id": id_, "metal": metal, "form": form | ({"domed_mm": domed} if domed else {})}


def ball(id_: str, across: float, **more: Any) -> Plain:
    """A ball, or several."""
    return {"id": id_, "metal": STERLING, "form": {"kind": "ball", "diameter_mm": across}, **more}


def tie(id_: str, kind: str, *between: str, **more: Any) -> Plain:
    """A join."""
    return {"id": id_, "kind": kind, "between": list(between), **more}


def piece(parts: list[Plain], joins: list[Plain], solders: list[Any], **more: Any) -> Plain:
    """A piece with so many solders in stock."""
    bench = {"solders": solders}
    return {
        "format": "eskel-piece/1",
        "name": "everyday",
        "parts": parts,
        "joins": joins,
        "bench": bench,
        **more,
    }


def jump_ring(
    across: float = 1.0, inside: float = 5.5, metal: str = STERLING, solder: str = "us-hard", **more: Any
) -> Plain:
    """A jump ring to be closed."""
    ring = wire("ring", across, round(math.pi * (inside + across), 2), metal, closed=True)
    return piece([ring], [tie("close", "butt", "ring", "ring", **more)], [solder])


def bezel(thick: float = 0.32, high: float = 3.5, long: float = 44.0) -> Plain:
    """A bezel of fine silver to be closed."""
    return piece(
        [strip("bezel", thick, high, long, FINE)], [tie("close", "butt", "bezel", "bezel")], ["us-hard"]
    )


def bezel_on_plate(wide: float = 19.0, high: float = 15.0, thick: float = 0.7, **house: Any) -> Plain:
    """That bezel on its plate."""
    parts = [strip("bezel", 0.32, 3.5, 44.0, FINE), plate("plate", wide, high, thick)]
    joins = [
        tie("close", "butt", "bezel", "bezel", solder="us-hard"),
        tie("seat", "edge", "bezel", "plate", solder="us-medium", after=["close"]),
    ]
    return piece(parts, joins, ["us-hard", "us-medium"], house=house)


def band() -> Plain:
    """A half-round band to be closed."""
    profile = {"kind": "half-round", "width_mm": 3.2, "height_mm": 1.7}
    form = {"kind": "wire", "profile": profile, "length_mm": 59.0, "closed": True}
    parts = [{"id": "band", "metal": STERLING, "form": form}]
    return piece(parts, [tie("close", "butt", "band", "band")], ["us-hard"])


def post(
    solder: str = "us-easy", across: float = 0.85, disc_mm: float = 11.0, thick: float = 0.75, **more: Any
) -> Plain:
    """A post in a dimple on a disc."""
    foot = tie("foot", "tee", "post", "disc", holds="hand", **more)
    return piece([disc("disc", disc_mm, thick), wire("post", across, 12.0)], [foot], [solder])


def two_domes(metal: str = FINE) -> Plain:
    """Two domes rim on rim."""
    parts = [disc("upper", 16.0, 0.5, metal, 3.5), disc("lower", 16.0, 0.5, metal, 3.5)]
    joins = [tie("rim", "butt", "upper", "lower", holds="bound", bound_with="other", encloses="hollow")]
    vent = {"id": "vent", "kind": "drill", "parts": ["upper"], "vents": ["hollow"], "before": ["rim"]}
    return piece(parts, joins, ["us-hard"], work=[vent])


def dome_on_disc(metal: str = FINE) -> Plain:
    """A dome on a flat disc."""
    parts = [disc("dome", 16.0, 0.5, metal, 3.5), disc("flat", 14.0, 0.5, metal)]
    joins = [tie("rim", "edge", "dome", "flat", encloses="hollow")]
    vent = {"id": "vent", "kind": "drill", "parts": ["dome"], "vents": ["hollow"], "before": ["rim"]}
    return piece(parts, joins, ["us-hard"], work=[vent], house={"heat_from": "below"})


def ring_on_ball() -> Plain:
    """A small ring on a heavy ball."""
    parts = [ball("ball", 8.0), wire("ring", 0.9, 14.0, closed=True)]
    return piece(parts, [tie("top", "seat", "ring", "ball")], ["us-hard"])


def dozen_balls() -> Plain:
    """A dozen balls on a plate, in paste."""
    at = [[-8 + 5.2 * (n % 4), -6 + 6.0 * (n // 4)] for n in range(12)]
    parts = [disc("plate", 25.0, 0.9), ball("ball", 1.6, count=12)]
    joins = [tie("seat", "seat", "ball", "plate", placing="paste", at=at)]
    stock = [{"solder": "us-medium", "form": "paste"}]
    return piece(parts, joins, stock)


def tube_on_plate() -> Plain:
    """A tube along a plate."""
    tube = {
        "id": "tube",
        "metal": STERLING,
        "form": {"kind": "tube", "outer_mm": 3, "wall_mm": 0.4, "length_mm": 6},
    }
    return piece([plate("plate", 30, 18, 0.9), tube], [tie("seam", "line", "tube", "plate")], ["us-hard"])


def box() -> Plain:
    """A box's bottom under its walls."""
    parts = [plate("bottom", 38, 24, 1.0), strip("walls", 0.9, 6.0, 120.0)]
    return piece(parts, [tie("seam", "edge", "walls", "bottom")], ["us-easy"])


def scroll() -> Plain:
    """A scroll of thin wire in a frame, solder by the pick."""
    parts = [wire("frame", 1.3, 90.0, closed=True), wire("scroll", 0.6, 25.0)]
    return piece(parts, [tie("touch", "tee", "scroll", "frame", placing="pick", holds="seated")], ["us-easy"])


def bundle() -> Plain:
    """The ends of four copper wires."""
    parts = [wire("strand", 2.0, 280.0, COPPER, count=4)]
    joins = [tie("ends", "bundle", *(f"strand#{n + 1}" for n in range(4)), placing="fed-wire", holds="bound")]
    return piece(parts, joins, ["us-hard"])


BUTANE, PENCIL = "butane-kitchen", "butane-pencil"
PROPANE, PROPANE_LARGE = "propane-air-small", "propane-air-large"
ACETYLENE, ACETYLENE_LARGE = "acetylene-air-small", "acetylene-air-large"
OXY, OXY_MEDIUM, ROSEBUD = "oxy-propane-fine", "oxy-propane-medium", "oxy-propane-rosebud"

SOLDERED = (
    Work("jump ring", jump_ring(), (PENCIL, BUTANE, ACETYLENE, OXY), 7 / 8, (6, 40)),
    *(
        # Neighbours of the first row: a ring that is held, finer and stouter ones, other metals.
        Work(f"jump ring, {name}", made, (PENCIL, BUTANE, ACETYLENE), 7 / 8, (6, 45))
        for name, made in {
            "in the hand": jump_ring(holds="hand"),
            "a link of 1.2 in the hand": jump_ring(1.2, 5.8, holds="hand"),
            "0.6": jump_ring(0.6, 2.5),
            "1.5": jump_ring(1.5, 9.0),
            "copper": jump_ring(1.0, 5.0, COPPER),
            "brass, in the hand": jump_ring(1.2, 8.0, "brass-c260", holds="hand"),
        }.items()
    ),
    Work("bezel", bezel(), (BUTANE, PROPANE, ACETYLENE), 7 / 8, (8, 50)),
    Work("bezel on plate", bezel_on_plate(), (BUTANE, PROPANE), 7 / 8, (20, 90), heat_no=2),
    Work(
        "bezel on plate, from below",
        bezel_on_plate(heat_from="below"),
        (PROPANE, ACETYLENE),
        7 / 8,
        (15, 80),
        surface="mesh-tripod",
        heat_no=2,
    ),
    Work("band", band(), (BUTANE, PROPANE, ACETYLENE_LARGE), 7 / 8, (20, 100)),
    Work(
        "copper ring in tweezers",
        jump_ring(2.2, 62 / math.pi - 2.2, COPPER),
        (BUTANE, ACETYLENE, PROPANE),
        3 / 4,
        (20, 120),
        surface="third-hand",
    ),
    *(
        Work(
            f"post, {solder}",
            post(solder, brought_in=False),
            (BUTANE, PROPANE, ACETYLENE),
            3 / 4,
            (12, 60),
            other=post(solder, brought_in=True),
        )
        for solder in ("us-easy", "us-medium", "us-hard")
    ),
    Work("two domes", two_domes(), (BUTANE,), 3 / 4, (20, 90)),
    Work("dome on disc", dome_on_disc(), (PROPANE,), 3 / 4, (15, 80), surface="mesh-tripod"),
    Work("ring on ball", ring_on_ball(), (ACETYLENE_LARGE, OXY_MEDIUM), 3 / 4, (20, 120)),
    Work("dozen balls", dozen_balls(), (BUTANE,), 3 / 4, (30, 120)),
    Work("tube on plate", tube_on_plate(), (PROPANE, ACETYLENE_LARGE), 3 / 4, (25, 120)),
    Work("box", box(), (ACETYLENE_LARGE, PROPANE_LARGE), 3 / 4, (45, 240)),
    Work("scroll", scroll(), (OXY,), 3 / 4, (3, 20)),
    Work("bundle", bundle(), (PROPANE_LARGE,), 3 / 4, (40, 240)),
)
