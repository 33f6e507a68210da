"""House rules: named choices where smiths disagree, each a row of its own.

A row is a field of `House`: its type with its bounds, its default, its words, where it is shown, and which module reads it. The overrides of
a bench or a piece, the screens and the docs follow from these rows.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, create_model

from ..units import LengthUnit, MassUnit, TemperatureUnit, Units
from ._choices import HouseChoice, Unit, choices_of, option, row, unit_of
from ._kinds import StepKind, WorkKind

YesNo = Literal["yes", "no"]
Family = Literal["us", "uk", "mixed"]
HeatFrom = Literal["above", "below"]
BallAttitude = Literal["tip-up", "tip-down"]
Placing = Literal["chips-under", "chips-over", "paste", "fed-wire", "pick", "sweat"]
Fineness = Literal["off"] | Annotated[int, Field(ge=1, le=1000)]
Degrees = Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
Thickness = Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)]
Reach = Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)]
Minutes = Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)]
Picks = Annotated[int, Field(ge=1, le=100)]
ThirdHands = Annotated[int, Field(ge=0, le=6)]


class ThinnestMm(BaseModel):
    """The thinnest that the house makes each kind of part, mm."""

    model_config = ConfigDict(frozen=True, extra="forbid", populate_by_name=True)

    shank: Annotated[Thickness, row("Shank", shown="numbers", read_by="sizes._ringwork", unit="mm")] = 1.2
    post: Annotated[Thickness, row("Post", shown="numbers", read_by="rules._work_rules", unit="mm")] = 0.7
    prong: Annotated[Thickness, row("Prong", shown="numbers", read_by="sizes._balls", unit="mm")] = 0.8
    ear_wire: Annotated[
        Thickness,
        Field(alias="ear-wire"),
        row("Ear wire", shown="numbers", read_by="sizes._findings", unit="mm"),
    ] = 0.7
    pin_stem: Annotated[
        Thickness,
        Field(alias="pin-stem"),
        row("Pin stem", shown="numbers", read_by="rules._work_rules", unit="mm"),
    ] = 0.8


class House(BaseModel):
    """All house rules, resolved. Temperatures in °C."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    grade_policy: Annotated[
        Literal["step-down", "same-while-held", "easiest-that-serves"],
        row(
            "Grades",
            "",
            option(
                "step-down",
                "step down at every heat",
                "Each softer solder leaves the joins before it firm, so nothing has to be held",
            ),
            option(
                "same-while-held",
                "one grade while joins are held",
                "A join that is well held stays put even if it runs again, and hard joins are the strongest",
            ),
            option(
                "easiest-that-serves",
                "the easiest that serves",
                "Less heat spares the work, and the next repair finds room above",
            ),
            shown="rules",
            read_by="search._objectives",
            beside=True,
        ),
    ] = "step-down"
    family: Annotated[
        Family,
        row(
            "Solder family",
            "",
            option("us", "US", "Flows are far apart, so grades step down with room between"),
            option("uk", "UK", "Higher in silver, as some assay offices ask"),
            option("mixed", "both", "More steps between hard and easy, for pieces of many heats"),
            shown="rules",
            read_by="demands._demands",
            beside=True,
        ),
    ] = "us"
    cooling: Annotated[
        Literal["quench-when-black", "air-cool"],
        row(
            "Cooling",
            "",
            option("quench-when-black", "quench when black", "Quick, and the scale cracks off in the water"),
            option("air-cool", "always air-cool", "No shock to joins, domes and thick parts"),
            shown="rules",
            read_by="plan._cooling",
            beside=True,
        ),
    ] = "quench-when-black"
    placing: Annotated[
        Placing,
        row(
            "Placing",
            "",
            option("chips-under", "chips under the part", "The part sinks as the solder runs: a sure sign"),
            option("chips-over", "chips on top", "The solder is seen all the time, and can be pushed back"),
            option("paste", "paste", "Measured out cold, stays where it is put, quick for many joins"),
            option("fed-wire", "fed wire", "Given only where and when the work is hot enough to take it"),
            option("pick", "by pick", "A ball of solder is laid on when the work is ready: little and exact"),
            option("sweat", "melted onto one part first", "No chips can jump, and faces close without a gap"),
            shown="rules",
            read_by="demands._problem",
            beside=True,
        ),
    ] = "chips-under"
    flux_with_paste: Annotated[
        YesNo,
        row(
            "Flux with paste",
            "",
            option("yes", "more flux", "The paste's own flux is soon spent on larger work"),
            option("no", "none", "Paste brings its own; more of it only boils"),
            shown="rules",
            read_by="plan._words",
            beside=True,
        ),
    ] = "yes"
    hollow: Annotated[
        Literal["vent", "sealed-dry"],
        row(
            "Hollows",
            "",
            option(
                "vent", "vent every hollow", "Trapped water or air bursts a closed form; a hole lets it out"
            ),
            option(
                "sealed-dry",
                "close it dry",
                "No hole to hide; kept from all water until the last heat is over",
            ),
            shown="rules",
            read_by="plan._steps",
            beside=True,
        ),
    ] = "vent"
    pot: Annotated[
        Literal["warm", "cold"],
        row(
            "Pickle pot",
            "",
            option("warm", "warm", "Minutes instead of an hour"),
            option("cold", "cold", "No fumes, nothing to watch, and joins are not eaten"),
            shown="rules",
            read_by="plan._after_heats",
            beside=True,
        ),
    ] = "warm"
    neutralise: Annotated[
        YesNo,
        row(
            "Neutralise",
            "",
            option("yes", "soda after the pot", "No acid is left in seams and hollows to bloom later"),
            option("no", "rinse only", "Running water does for open work, and the bath stays simple"),
            shown="rules",
            read_by="plan._after_heats",
            beside=True,
        ),
    ] = "yes"
    anneal_sign: Annotated[
        Literal["glow", "marker", "flux"],
        row(
            "Sign of the anneal",
            "",
            option("glow", "the glow", "It is seen on the whole piece, in low light, at no cost"),
            option("marker", "a marker line that burns off", "The same in any light and for any eye"),
            option(
                "flux", "the flux that clears", "Flux is on the work anyway, and clears near the right heat"
            ),
            shown="rules",
            read_by="rules._anneals",
        ),
    ] = "glow"
    heat_from: Annotated[
        HeatFrom,
        row(
            "Heat from",
            "",
            option("above", "above", "The flame is where the eye is"),
            option(
                "below", "below", "Solder is drawn down through the join, and small parts above stay cooler"
            ),
            shown="rules",
            read_by="plan._course",
            beside=True,
        ),
    ] = "above"
    ball_attitude: Annotated[
        BallAttitude,
        row(
            "Ball a wire",
            "",
            option("tip-up", "tip up", "The ball draws up and sits straight on its wire"),
            option("tip-down", "tip down", "The drop hangs true by its own weight"),
            shown="rules",
            read_by="rehearsal._ball",
        ),
    ] = "tip-up"
    ear_wire_bend: Annotated[
        Literal["right-angle", "half-angle"],
        row(
            "Ear wire's first bend",
            "",
            option("right-angle", "a right angle", "The ornament faces straight ahead"),
            option("half-angle", "half of one", "The wire leans back and holds in the ear"),
            shown="rules",
            read_by="sizes._findings",
        ),
    ] = "half-angle"
    handed: Annotated[
        Literal["right", "left"],
        row(
            "Hand",
            "",
            option(
                "right", "right", "Pick in the right, torch in the left: what is laid ready lies at the right"
            ),
            option(
                "left",
                "left",
                "Pick in the left, torch in the right: what is laid ready, and the way of the flame, are mirrored",
            ),
            shown="rules",
            read_by="plan._words",
        ),
    ] = "right"
    units: Annotated[
        LengthUnit,
        row(
            "Lengths",
            "",
            option("mm", "mm"),
            option("inch", "inch"),
            shown="units",
            read_by="piece._house",
        ),
    ] = "mm"
    gauge_shown: Annotated[
        YesNo,
        row(
            "Gauge beside it",
            "",
            option("yes", "shown"),
            option("no", "not shown"),
            shown="units",
            read_by="piece._house",
        ),
    ] = "yes"
    temperature: Annotated[
        TemperatureUnit,
        row(
            "Temperatures",
            "",
            option("c", "°C"),
            option("f", "°F"),
            shown="units",
            read_by="piece._house",
        ),
    ] = "c"
    mass: Annotated[
        MassUnit,
        row(
            "Masses",
            "",
            option("g", "grams"),
            option("troy", "troy"),
            shown="units",
            read_by="piece._house",
        ),
    ] = "g"
    fineness: Annotated[
        Fineness,
        row(
            "Fineness that the assay asks",
            "Of a piece that is to be marked: a solder that holds less silver is told, in parts of a thousand",
            option("off", "not asked"),
            shown="numbers",
            read_by="rules._metal_rules",
            unit="per-mille",
        ),
    ] = "off"
    overshoot_c: Annotated[
        Degrees,
        row(
            "Overshoot",
            "How far over its flow point solder is taken, so that it runs all along",
            shown="numbers",
            read_by="rules._temperatures",
            unit="difference",
        ),
    ] = 10.0
    margin_c: Annotated[
        Degrees,
        row(
            "Margin",
            "How far under the point where an earlier join runs again a heat stays",
            shown="numbers",
            read_by="rules._temperatures",
            unit="difference",
        ),
    ] = 5.0
    remelt_allowance_c: Annotated[
        Degrees,
        row(
            "Remelt allowance",
            "A join that has run once runs again a little higher",
            shown="numbers",
            read_by="rules._temperatures",
            unit="difference",
        ),
    ] = 15.0
    thin_margin_c: Annotated[
        Degrees,
        row(
            "Thin margin",
            "A heat so near to melting is kept from what is under 0.5 mm where another way is as good",
            shown="numbers",
            read_by="demands._problem",
            unit="difference",
        ),
    ] = 20.0
    picks_per_heat: Annotated[
        Picks,
        row(
            "Places picked in a heat",
            "So many are set one after another under one flame before it is time to look",
            shown="numbers",
            read_by="demands._problem",
        ),
    ] = 6
    third_hands: Annotated[
        ThirdHands,
        row(
            "Third hands",
            "So many stands with tweezers are at hand; beside them one thing is held in the hand in a heat",
            shown="numbers",
            read_by="piece._house",
        ),
    ] = 1
    torch_stand: Annotated[
        YesNo,
        row(
            "The torch stands by itself",
            "",
            option("no", "it is held", "One hand is the torch's"),
            option("yes", "it stands", "Both hands hold the work, one thing in each"),
            shown="rules",
            read_by="piece._house",
        ),
    ] = "no"
    local_heat: Annotated[
        YesNo,
        row(
            "Local heats",
            "",
            option(
                "yes",
                "a pick or fed wire warms what is near",
                "Where solder is set place by place the flame is small and short, and a join a finger's width off stays firm",
            ),
            option(
                "no",
                "every heat warms the whole body",
                "Heat runs through silver faster than one thinks; nothing is relied on that was not rehearsed",
            ),
            shown="rules",
            read_by="rules._reach",
        ),
    ] = "yes"
    local_reach_mm: Annotated[
        Reach,
        row(
            "Reach of a local heat",
            "A join farther along the metal stays firm while one is picked",
            shown="numbers",
            read_by="rules._reach",
            unit="mm",
        ),
    ] = 12.0
    minutes: Annotated[
        dict[WorkKind | StepKind, Minutes],
        row("Minutes for each part, by kind of work", shown="minutes", read_by="plan._minutes"),
    ] = {}
    thinnest_mm: Annotated[
        ThinnestMm,
        row("Thinnest that is made", shown="numbers", read_by="sizes._base"),
    ] = ThinnestMm()

    @property
    def hands(self) -> int:
        """How many things are held at one moment: one in the hand, one in each third hand, one more where the torch stands."""
        return 1 + self.third_hands + (self.torch_stand == "yes")

    @property
    def spoken(self) -> Units:
        """The units that this house types and reads in."""
        return Units(
            length=self.units, gauge=self.gauge_shown == "yes", temperature=self.temperature, mass=self.mass
        )


if TYPE_CHECKING:

    class HouseOverrides(BaseModel):
        """The house rules that a bench or a piece sets for itself; what is left out stays as it was."""

        def __init__(self, **choices: Any) -> None: ...
        def __getattr__(self, key: str) -> Any: ...

else:

    def _left_out(info: Any) -> Any:
        return Annotated[info.annotation, *info.metadata] if info.metadata else info.annotation

    HouseOverrides = create_model(
        "HouseOverrides",
        __module__=__name__,
        __doc__="""The house rules that a bench or a piece sets for itself; what is left out stays as it was.""",
        __config__=ConfigDict(frozen=True, extra="forbid"),
        **{key: (_left_out(info) | None, None) for key, info in House.model_fields.items()},
    )


def resolve_house(*layers: HouseOverrides | None) -> House:
    """Lay overrides one over the other upon the shipped defaults; the last one given wins, of minutes for each kind."""
    chosen: dict[str, object] = {}
    minutes: dict[WorkKind | StepKind, float] = {}
    for layer in layers:
        if layer is not None:
            chosen.update({key: value for key, value in layer if value is not None})
            minutes |= layer.minutes or {}
    chosen["minutes"] = minutes
    return House.model_validate(chosen)


def house_choices() -> tuple[HouseChoice, ...]:
    """Give every choice of the house, in its order. Raises `UnregisteredChoice` for one that nothing reads."""
    return choices_of(House)


def shipped_number(key: str) -> tuple[float, Unit]:
    """Give a number of the house as it is shipped, and its unit; one within another is named with a dot."""
    house: BaseModel = House()
    *outer, last = key.split(".")
    for name in outer:
        house = getattr(house, name)
    fields = type(house).model_fields
    name = next(name for name, info in fields.items() if last in (name, info.alias))
    return float(getattr(house, name)), unit_of(fields[name])
