"""Lines: parts said as smiths say them. Each reads to the part that its speaker means, or is refused at the word."""

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eskel_core.faults import Refused
from eskel_core.lines import line_of, read_line
from eskel_core.piece import Part, read_piece
from eskel_core.starts import begin, starts
from eskel_core.units import Units, speak

EXAMPLES = sorted((Path(__file__).parents[2] / "examples").glob("*.eskel.json"))
SILVER, FINE = "sterling-925", "fine-silver-999"


def rnd(mm: float) -> dict[str, Any]:
    return {"kind": "round", "diameter_mm": mm}


def sheet(thick: float, domed: float | None = None, **outline: Any) -> dict[str, Any]:
    return {"kind": "sheet", "thickness_mm": thick, "outline": outline} | (
        {} if domed is None else {"domed_mm": domed}
    )


def disc(mm: float, thick: float, domed: float | None = None) -> dict[str, Any]:
    return sheet(thick, domed, kind="disc", diameter_mm=mm)


def rect(wide: float, high: float, thick: float) -> dict[str, Any]:
    return sheet(thick, kind="rect", width_mm=wide, height_mm=high)


def wire(profile: dict[str, Any], long: float, **more: Any) -> dict[str, Any]:
    return {"kind": "wire", "profile": profile, "length_mm": long, **more}


def strip(wide: float, thick: float, long: float, **more: Any) -> dict[str, Any]:
    return {"kind": "strip", "width_mm": wide, "thickness_mm": thick, "length_mm": long, **more}


def tube(outer: float, wall: float, long: float, **more: Any) -> dict[str, Any]:
    return {"kind": "tube", "outer_mm": outer, "wall_mm": wall, "length_mm": long, **more}


# (line, its form, what else it says of the part)
LINES: list[tuple[str, dict[str, Any], dict[str, Any]]] = [
    ("disc 14 × 0.5 fine, domed 4", disc(14, 0.5, 4), {"metal": FINE, "name": "Disc"}),
    ("2 × wire 21 ga 35 long", wire(rnd(0.723), 35), {"count": 2}),
    ("Base ring: wire 2.4x188 closed", wire(rnd(2.4), 188, closed=True), {"name": "Base ring"}),
    ("Ear posts : 2 × wire 0.9 11", wire(rnd(0.9), 11), {"name": "Ear posts", "count": 2}),
    ("Bezel: 0.3 × 4 × 38 closed", strip(4, 0.3, 38, closed=True), {"name": "Bezel"}),
    ("Plate 2:disc 20 x 0.5", disc(20, 0.5), {"name": "Plate 2"}),
    (
        "half-round 3.2 x 1.7 ring US 8½ copper",
        wire({"kind": "half-round", "width_mm": 3.2, "height_mm": 1.7}, 63.58, closed=True),
        {"metal": "copper"},
    ),
    ("tube 3/0.4 × 6", tube(3, 0.4, 6), {}),
    ("strip 0.35 × 3.2 round 14×10 oval closed", strip(3.2, 0.35, 39.06, closed=True), {}),
    ("ball 2.4", {"kind": "ball", "diameter_mm": 2.4}, {}),
    (
        'sheet 30x18x0.9 brass "Back"',
        rect(30, 18, 0.9),
        {"metal": "brass-c260", "name": "Back", "id": "back"},
    ),
    ("18ga round wire 2 1/4 in long", wire(rnd(1.024), 57.15), {}),
    ("1.2 square wire 20", wire({"kind": "square", "side_mm": 1.2}, 20), {}),
    ("square 1.1 x 20.4 closed", wire({"kind": "square", "side_mm": 1.1}, 20.4, closed=True), {}),
    ("jump ring 5 id 1.0 wire", wire(rnd(1), 18.85, closed=True), {"name": "Jump ring"}),
    ("12 jump rings 1.0 × 5", wire(rnd(1), 18.85, closed=True), {"count": 12}),
    ("oval 20 × 14 × 0.8 sterling", sheet(0.8, kind="ellipse", width_mm=20, height_mm=14), {"metal": SILVER}),
    ("washer 20/8 × 0.9", sheet(0.9, kind="ring", outer_mm=20, inner_mm=8), {}),
    (
        "band 5 × 1.5 US 7 half hard",
        strip(5, 1.5, 59.52, closed=True),
        {"temper": "half-hard", "name": "Band"},
    ),
    (
        "post 0.9 x 11 spring hard through the ear",
        wire(rnd(0.9), 11),
        {"temper": "spring", "touches_skin": "through"},
    ),
    ("tube 3 od 2.2 id 8 long", tube(3, 0.4, 8), {}),
    ("cabochon 14 x 10 x 4", {"kind": "sheet", "thickness_mm": 4}, {"metal": None, "heat_safe": False}),
    ("bezel 0.35 x 3.2 round 14x10 oval fine silver", strip(3.2, 0.35, 39.06, closed=True), {"metal": FINE}),
    ("bezel 0.35 x 3.2 for a 14 x 10 cab, fine", strip(3.2, 0.35, 39.06, closed=True), {"name": "Bezel"}),
    ("bought clasp 1.2 g", {"kind": "lump", "mass_g": 1.2}, {"bought_in": True}),
    ("twisted wire 2 strands 0.8 × 60 pitch 5", wire(rnd(0.8), 60, strands=2, pitch_mm=5), {}),
    ("dome 22 × 0.45 rise 6.5", disc(22, 0.45, 6.5), {"name": "Dome"}),
    ('5/32" ball', {"kind": "ball", "diameter_mm": 3.9688}, {}),
    ("3 balls 2 mm", {"kind": "ball", "diameter_mm": 2}, {"count": 3}),
    ("sheet 24 ga 1 x 1 1/2 in copper", rect(25.4, 38.1, 0.511), {"metal": "copper"}),
    ("copper sheet 30 x 20, 22 gauge", rect(30, 20, 0.644), {"metal": "copper"}),
    ("20g copper sheet 30 x 20", rect(30, 20, 0.812), {"metal": "copper"}),
    ("20 mm disc 0.6", disc(20, 0.6), {}),
    (
        'nickel silver wire 0.9 x 36 springy "Pin"',
        wire(rnd(0.9), 36),
        {"metal": "nickel-silver-c752", "spring": True},
    ),
    ("pair of discs 12 x 0.6", disc(12, 0.6), {"count": 2}),
    ("a disk of brass 12 mm across, 20 gauge", disc(12, 0.812), {"metal": "brass-c260"}),
    ("flat wire 3 x 1 x 50", wire({"kind": "rect", "width_mm": 3, "height_mm": 1}, 50), {}),
    ("wire 1 mm 40 mm half-hard", wire(rnd(1), 40), {"temper": "half-hard"}),
    ("strap 5 by 1.5 by 60 closed", strip(5, 1.5, 60, closed=True), {}),
    ("18 ga x 3 in wire", wire(rnd(1.024), 76.2), {}),
    ("8.5 g casting", {"kind": "lump", "mass_g": 8.5}, {}),
    (
        "1/2 round wire 4 x 2 x 60",
        wire({"kind": "half-round", "width_mm": 4, "height_mm": 2}, 60),
        {"name": "Half round"},
    ),
    ("round plate 15 × 0.8", disc(15, 0.8), {"name": "Plate"}),
    ("plate oval 16 x 12 x .8", sheet(0.8, kind="ellipse", width_mm=16, height_mm=12), {}),
    ("5 × 1.5 band ring size US 7", strip(5, 1.5, 59.52, closed=True), {}),
    ("#20 wire 30", wire(rnd(0.812), 30), {}),
    ("ring wire 1.2 US 6", wire(rnd(1.2), 55.63, closed=True), {}),
    ("tube 5 x 0.5 x 40 sealed at both ends", tube(5, 0.5, 40, sealed_ends=2), {}),
    (
        "two strips 3.2 x 0.35 x 44 closed fine",
        strip(3.2, 0.35, 44, closed=True),
        {"count": 2, "metal": FINE},
    ),
    ("loop 1.15 x 17 long closed moves", wire(rnd(1.15), 17, closed=True), {"moves": True}),
    ("0.8 plate 26 × 14", rect(26, 14, 0.8), {}),
    ("18 ct gold wire 0,9 × 30", wire(rnd(0.9), 30), {"metal": "gold-18k-yellow"}),
    # A word that may be a section or what is gone round, whichever its place says.
    ("round 1.2 wire 40 copper", wire(rnd(1.2), 40), {"metal": "copper"}),
    ("round 14x10 oval bezel 0.35 x 3.2 fine", strip(3.2, 0.35, 39.06, closed=True), {"metal": FINE}),
    ("bezel 8 mm round 0.3 x 2.5", strip(2.5, 0.3, 26.08, closed=True), {}),
    (
        "bezel cup for 8mm round cab, 3mm high, 0.32",
        strip(3, 0.32, 26.14, closed=True),
        {"name": "Bezel cup"},
    ),
    ("12x8 oval link 1.2 wire", wire(rnd(1.2), 35.50, closed=True), {"name": "Link"}),
    # How many, behind the last × where no measure is left for it.
    ("jump rings 5mm id 18ga x 10", wire(rnd(1.024), 18.93, closed=True), {"count": 10}),
    ("claw 0.9x12 x4", wire(rnd(0.9), 12), {"count": 4}),
    ("4 mm balls x 12", {"kind": "ball", "diameter_mm": 4}, {"count": 12}),
    ("tube 4 od x 0.5 wall x 10", tube(4, 0.5, 10), {"count": 1}),
    ("6 x 20ga balled headpins 50 mm", wire(rnd(0.812), 50), {"count": 6, "name": "Balled headpin"}),
    # Sections by their sizes, the longest first or last.
    ("square wire 2x2 x 30", wire({"kind": "square", "side_mm": 2}, 30), {}),
    ("bar 4 x 2 x 30", wire({"kind": "rect", "width_mm": 4, "height_mm": 2}, 30), {"name": "Bar"}),
    ("strip 50 x 6 x 1.2", strip(6, 1.2, 50), {}),
    ('cuff blank 6" x 1" 16ga', strip(25.4, 1.291, 152.4), {"name": "Cuff"}),
    ("D wire 4x2 60mm", wire({"kind": "half-round", "width_mm": 4, "height_mm": 2}, 60), {}),
    ("brass tube 6/5 x 30", tube(6, 0.5, 30), {"metal": "brass-c260"}),
    ("tube 5 wall 0.5 x 12", tube(5, 0.5, 12), {}),
    ("tube 3 × 1.6 × 6", tube(3, 0.7, 6), {}),
    ("tube OD 6 ID 5 L 30", tube(6, 0.5, 30), {}),
    ("disc D 20 T 0.8", disc(20, 0.8), {}),
    # What tells one part from another goes into its name.
    ("ear post 20g 11mm", wire(rnd(0.812), 11), {"name": "Ear post"}),
    ("outer bezel 0.4 x 4 x 60 fine", strip(4, 0.4, 60), {"name": "Outer bezel"}),
    ("box wall 0.8 x 8 x 120", strip(8, 0.8, 120), {"name": "Box wall"}),
    ("lid 30 x 18 x .9 copper", rect(30, 18, 0.9), {"name": "Lid", "metal": "copper"}),
    ("2 sides 30 x 12 x 0.9", rect(30, 12, 0.9), {"name": "Side", "count": 2}),
    ("dome 16 diam 0.6 thick 5 high", disc(16, 0.6, 5), {}),
    ("ring shank 4x1.8 size N", wire({"kind": "half-round", "width_mm": 4, "height_mm": 1.8}, 59.41), {}),
    ("copper ring, 2.2mm round wire, 62mm", wire(rnd(2.2), 62, closed=True), {}),
    ("washer 20mm with 8mm hole 0.9 thick", sheet(0.9, kind="ring", outer_mm=20, inner_mm=8), {}),
    ("copper wire four strands 2.0 x 280", wire(rnd(2), 280, strands=4), {}),
    ("rope: 2 strands 0.8 x 60", wire(rnd(0.8), 60, strands=2), {"name": "Rope"}),
    ("clasp 1.6 wire 55 long", wire(rnd(1.6), 55), {}),
    ("bail 1.2 wire 20", wire(rnd(1.2), 20), {}),
    ("cast ring 8 g", {"kind": "lump", "mass_g": 8}, {"cast": True}),
    ("3 ft of 18 ga copper wire", wire(rnd(1.024), 914.4), {"count": 1}),
]


@pytest.mark.parametrize(("line", "form", "more"), LINES)
def test_a_line_is_read_as_its_speaker_means_it(
    line: str, form: dict[str, Any], more: dict[str, Any]
) -> None:
    part = read_line(line).part
    plain = part.form.model_dump(mode="json")
    for key, value in form.items():
        if isinstance(value, float) or (isinstance(value, int) and not isinstance(value, bool)):
            assert plain[key] == pytest.approx(value, abs=0.01), key
        elif isinstance(value, dict):
            assert (
                {name: plain[key][name] for name in value} == pytest.approx(value)
                if key == "profile"
                else value.items() <= plain[key].items()
            )
        else:
            assert plain[key] == value, key
    for key, value in more.items():
        assert getattr(part, key) == value, key


# (line, code, the stretch that is told, a word of the remedy)
WRONG = [
    ("wire 0.8 x 45 sterlin", "not-understood", "sterlin", "sterling"),
    ("disc 14 x 0.5 doomed 4", "not-understood", "doomed", "domed"),
    ("dics 14 x 0.5", "not-understood", "dics", "Did you mean dis"),
    ("tub 3 x 0.4 x 6", "not-understood", "tub", "tube"),
    ("wire 0.9 x 11 x 4.5", "not-understood", "4.5", "take it out"),
    ("wire 0.9 x 11 4", "not-understood", "4", "take it out"),
    ("wire 1 ga 300 yards", "not-understood", "yards", "Did you mean"),
    ("square tube 5 x 0.5 x 20", "not-understood", "square tube 5 x 0.5 x 20", "Bend a strip"),
    ("disc 14 x 0.5 and tube 3 x 0.4 x 6", "not-understood", "tube", "each part"),
    ("5 × 1.5 band size 7", "not-a-ring-size", "size 7", "Say whose size"),
    ("strip 3 × 0.4", "missing", "strip 3 × 0.4", "20 long"),
    ("sheet 20 x 20", "missing", "sheet 20 x 20", "thick"),
    ("14 × 0.5", "missing", "14 × 0.5", "disc"),
    ("clasp", "missing", "clasp", "1.2 g"),
    ("disc 14 × 0.5 pitch", "missing", "pitch", "4 pitch"),
    ("tube 3 × 3 × 6", "contradiction", "tube 3 × 3 × 6", "thinner"),
    ("", "missing", "", "Begin with a word"),
    ("disc 99999 × 0.5", "out-of-range", "99999", "Check"),
]


@pytest.mark.parametrize(("line", "code", "stretch", "remedy"), WRONG)
def test_what_is_not_understood_is_shown_where_it_stands(
    line: str, code: str, stretch: str, remedy: str
) -> None:
    with pytest.raises(Refused) as refused:
        read_line(line)
    fault = refused.value.faults[0]
    start = line.index(stretch)
    assert (fault.code, fault.value, fault.path) == (code, stretch, f"line[{start}:{start + len(stretch)}]")
    assert remedy in fault.remedy


def test_metal_and_thickness_come_from_the_part_before_and_say_so() -> None:
    last = read_line('disc 14 × 0.5 fine "Front"').part
    read = read_line("disc 12", last)
    assert (read.part.metal, read.part.form) == (FINE, read_line("disc 12 × 0.5").part.form)
    assert tuple(map(speak, read.taken)) == ("0.5 mm thick, as Front", "Fine silver, as Front")
    assert read_line("disc 12 × 0.6 brass", last).taken == ()


def test_what_was_understood_is_told_stretch_by_stretch() -> None:
    line = "2 × wire 21 ga 35 long half-hard"
    read = read_line(line)
    assert [(one.text, speak(one.said)) for one in read.understood] == [
        ("2 ×", "2 alike"),
        ("wire", "wire"),
        ("21 ga", "wire 0.723 mm"),
        ("35", "35 mm long"),
        ("half-hard", "half hard temper"),
    ]
    assert all(line[one.start : one.end].strip() == one.text for one in read.understood)


def test_bare_numbers_are_in_the_units_of_the_house() -> None:
    form = read_line("sheet 1 × 1.5 × 24 ga", units=Units(length="inch")).part.form
    assert form == read_line("sheet 25.4 × 38.1 × 0.511").part.form


def test_names_are_told_apart() -> None:
    assert read_line("ball 2", taken_ids=frozenset({"ball", "ball-2"})).part.id == "ball-3"


def every_part() -> list[Part]:
    made = [part for path in EXAMPLES for part in read_piece(path).parts]
    return made + [part for name in starts() for part in begin(name).piece.parts]


@pytest.mark.parametrize("part", every_part(), ids=lambda part: part.id)
def test_the_line_of_a_part_reads_back_the_same(part: Part) -> None:
    again = read_line(line_of(part), base=part).part
    assert again.model_copy(update={"name": part.name}) == part


def test_a_line_edits_a_part_in_its_place() -> None:
    part = read_line('disc 14 × 0.5 fine "Front"').part.model_copy(
        update={"rough": read_line("disc 16 × 0.5").part.form}
    )
    edited = read_line('disc 15 × 0.5 fine "Front"', base=part).part
    assert (edited.id, edited.rough, edited.form) == (
        part.id,
        part.rough,
        read_line("disc 15 × 0.5").part.form,
    )


@pytest.mark.parametrize("line", ["1200× ball 0.6 fine", "1001 × headpin 0.8 × 50"])
def test_more_alike_than_a_part_may_be_is_refused_at_the_count(line: str) -> None:
    with pytest.raises(Refused) as refused:
        read_line(line)
    fault = refused.value.faults[0]
    assert (fault.code, fault.rule) == ("out-of-range", "at most 1000")
    assert fault.path.startswith("line[0:")


@given(st.text(max_size=60))
def test_no_line_does_anything_but_read_or_refuse(line: str) -> None:
    assert outcome(line) in ("read", "refused")


@given(
    st.lists(
        st.sampled_from(
            [
                "disc",
                "sheet",
                "wire",
                "tube",
                "strip",
                "ball",
                "2",
                "0.5",
                "14",
                "×",
                "x",
                "/",
                "fine",
                "domed",
                "round",
                "oval",
                "US",
                "7",
                "ga",
                "in",
                "long",
                "closed",
                "3",
                "g",
                '"A"',
                "½",
            ]
        ),
        max_size=12,
    ).map(" ".join)
)
def test_no_order_of_its_own_words_does(line: str) -> None:
    assert outcome(line) in ("read", "refused")


def outcome(line: str) -> str:
    try:
        json.dumps(read_line(line).model_dump(mode="json"))
    except Refused as refused:
        return "refused" if all(fault.rule and fault.remedy for fault in refused.faults) else "bare"
    return "read"
