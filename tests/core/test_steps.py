"""The steps around the heats: what has to be done, and in which order."""

from typing import Any

import pytest

from eskel_core.plan import CoolStep, HeatStep, InspectStep, PickleStep, Plan, PrepareStep, WorkStep, plan
from tests.core.pieces import chain, join, piece, plate, wire


def dome(name: str, **more: Any) -> dict[str, Any]:
    disc = {"kind": "disc", "diameter_mm": 20}
    return {
        "id": name,
        "metal": "sterling-925",
        "form": {"kind": "sheet", "thickness_mm": 0.5, "outline": disc, "domed_mm": 5},
        **more,
    }


def hollow(**more: Any) -> Plan:
    rim = {"id": "rim", "kind": "butt", "between": ["u", "l"], "holds": "seated", "encloses": "h"}
    return plan(piece([dome("u"), dome("l"), wire("w")], [rim, join("top", "w", "u", after=["rim"])], **more))


def kinds(made: Plan) -> list[str]:
    return [step.work_kind if isinstance(step, WorkStep) else step.kind for step in made.steps]


def test_steps_are_numbered_and_have_time() -> None:
    made = hollow()
    assert [step.n for step in made.steps] == list(range(1, len(made.steps) + 1))
    assert all(step.minutes > 0 and step.text for step in made.steps)


def test_each_heat_is_prepared_cooled_pickled_and_looked_at() -> None:
    assert kinds(plan(chain(2, [join("a", "w0", "w1")]))) == [
        "prepare",
        "prepare",
        "heat",
        "cool",
        "pickle",
        "inspect",
    ]


def test_a_hollow_is_vented_before_it_closes_and_dried_before_its_next_heat() -> None:
    made = hollow()
    assert kinds(made).index("drill") < kinds(made).index("heat")
    dry = kinds(made).index("dry")
    assert kinds(made)[dry:].count("heat") == 1
    assert not {"sealed-hollow", "wet-hollow"} & {caution.code for caution in made.cautions}


def test_a_vent_of_the_smiths_own_is_not_drilled_twice() -> None:
    made = hollow(work=[{"id": "v", "kind": "drill", "parts": ["u"], "vents": ["h"], "before": ["rim"]}])
    assert kinds(made).count("drill") == 1


def test_a_sealed_hollow_stays_out_of_water_until_its_last_heat_and_asks_for_confirmation() -> None:
    made = hollow(house={"hollow": "sealed-dry"})
    assert "drill" not in kinds(made)
    assert kinds(made).count("pickle") == 1
    assert kinds(made).index("pickle") > max(n for n, kind in enumerate(kinds(made)) if kind == "heat")
    assert {step.how for step in made.steps if isinstance(step, CoolStep)} == {"air-cool"}
    assert (made.cautions[0].code, made.cautions[0].severity) == ("sealed-hollow", "danger")
    assert isinstance(made.steps[0], PrepareStep)
    assert made.steps[0].confirm


@pytest.mark.parametrize(("stuff", "off"), [("steel", True), ("other", False), (None, True)])
def test_steel_comes_off_before_the_pot(stuff: str | None, off: bool) -> None:
    more = {"bound_with": stuff} if stuff else {}
    names = kinds(plan(chain(2, [join("a", "w0", "w1", holds="bound", **more)])))
    assert ("unbind" in names) == off
    assert not off or names.index("unbind") < names.index("pickle")


def test_a_stone_is_set_after_the_last_heat_and_sealing_is_last() -> None:
    stone = {
        "id": "s",
        "metal": None,
        "heat_safe": False,
        "form": {"kind": "lump", "mass_g": 1, "surface_mm2": 90},
    }
    work = [
        {"id": "w", "kind": "seal", "parts": ["p"]},
        {"id": "d", "kind": "darken", "parts": ["p"]},
        {"id": "t", "kind": "set", "parts": ["s", "p"]},
    ]
    names = kinds(plan(piece([plate("p"), wire("b"), stone], [join("a", "p", "b")], work=work)))
    assert names[-3:] == ["set", "darken", "seal"]


def test_doming_comes_before_what_is_set_on_the_dome() -> None:
    work = [{"id": "d", "kind": "dome", "parts": ["p"], "reduction_pct": 20}]
    names = kinds(plan(piece([plate("p"), wire("b")], [join("a", "p", "b")], work=work)))
    assert names.index("dome") < names.index("heat")


def test_an_anneal_is_put_in_where_forming_asks_for_it_and_not_where_a_heat_has_done_it() -> None:
    """Sterling bears 55 %: 40 % and 40 % come to 64 %."""
    twice = [
        {"id": "r1", "kind": "roll", "parts": ["p"], "reduction_pct": 40},
        {"id": "r2", "kind": "roll", "parts": ["p"], "reduction_pct": 40, "after": ["r1"]},
    ]
    made = plan(piece([plate("p")], [], work=twice))
    heats = [step for step in made.steps if isinstance(step, HeatStep)]
    assert [(step.purpose, step.working_c) for step in heats] == [("anneal", 620)]
    names = kinds(made)
    assert names.index("roll") < names.index("heat") < len(names) - 1 - names[::-1].index("roll")
    close = {"id": "c", "kind": "butt", "between": ["w", "w"], "holds": "seated"}
    between = [
        {"id": "r1", "kind": "roll", "parts": ["w"], "reduction_pct": 40, "before": ["c"]},
        {"id": "r2", "kind": "roll", "parts": ["w"], "reduction_pct": 40, "after": ["c"]},
    ]
    made = plan(piece([wire("w")], [close], work=between))
    assert [step.purpose for step in made.steps if isinstance(step, HeatStep)] == ["solder"]
    assert {"anneal-by-heat", "form-through-join"} <= {caution.code for caution in made.cautions}


def test_a_hard_part_of_unknown_temper_is_annealed_first() -> None:
    bend = [{"id": "b", "kind": "bend", "parts": ["w"], "reduction_pct": 20}]
    made = plan(piece([wire("w", temper="unknown")], [], work=bend))
    assert kinds(made).index("heat") < kinds(made).index("bend")
    assert "temper-unknown" in {caution.code for caution in made.cautions}


@pytest.mark.parametrize(
    ("part", "house", "how"),
    [
        (wire("p"), {}, "quench-when-black"),
        (wire("p"), {"cooling": "air-cool"}, "air-cool"),
        (wire("p", cast=True), {}, "air-cool"),
        (wire("p", "nickel-silver-c752"), {}, "air-cool"),
    ],
)
def test_the_strictest_way_of_cooling_wins(part: dict[str, Any], house: dict[str, Any], how: str) -> None:
    made = plan(piece([part, wire("b")], [join("a", "p", "b")], house=house))
    assert [step.how for step in made.steps if isinstance(step, CoolStep)] == [how]


def test_pickle_minutes_follow_bath_and_warmth() -> None:
    """Bisulphate at 60 °C: 4 min for medium scale, 0.7 and 1.5 of it; half as fast for each 15 °C less."""
    warm = next(s for s in plan(chain(2, [join("a", "w0", "w1")])).steps if isinstance(s, PickleStep))
    assert (warm.minutes_low, warm.minutes_high) == (2.8, 6.0)
    cold = next(
        s
        for s in plan(chain(2, [join("a", "w0", "w1")], house={"pot": "cold"})).steps
        if isinstance(s, PickleStep)
    )
    assert cold.minutes_high == pytest.approx(6.0 * 2 ** (40 / 15), abs=0.1)


def test_every_join_is_inspected_before_the_next_heat() -> None:
    made = plan(chain(3, [join("a", "w0", "w1"), join("b", "w1", "w2", after=["a"])]))
    seen: set[str] = set()
    for step in made.steps:
        if isinstance(step, InspectStep):
            seen |= {check.about for check in step.checks}
        if isinstance(step, HeatStep):
            assert set(step.states) <= seen


CAUTIONS = [
    ("melt-risk", piece([wire("a"), wire("b")], [join("x", "a", "b")])),
    (
        "mass-imbalance",
        piece([plate("a"), {**wire("b"), "form": {"kind": "ball", "diameter_mm": 1}}], [join("x", "a", "b")]),
    ),
    ("spring-softened", piece([wire("a"), wire("b", temper="hard")], [join("x", "a", "b")])),
    ("bought-in-last", piece([wire("a"), wire("b", bought_in=True)], [join("x", "a", "b")])),
    ("red-short", piece([wire("a"), wire("b", "germanium-silver-935")], [join("x", "a", "b")])),
    ("solder-shows", piece([wire("a", "copper"), wire("b")], [join("x", "a", "b", visible=True)])),
    (
        "nickel-skin",
        piece([wire("a"), wire("b", "nickel-silver-c752", touches_skin="on")], [join("x", "a", "b")]),
    ),
    ("detail-floods", piece([wire("a"), wire("b")], [join("x", "a", "b", beside_detail=True)])),
    (
        "gold-filled-heat",
        piece([wire("a", "gold-filled-14-20"), wire("b")], [join("x", "a", "b", grade="hard")]),
    ),
    ("fineness-short", piece([wire("a"), wire("b")], [join("x", "a", "b")], house={"fineness": 800})),
    (
        "paste-weak",
        piece([plate("a"), plate("b")], [join("x", "a", "b", kind="overlay")], house={"placing": "paste"}),
    ),
    (
        "placing-no-stock",
        piece(
            [wire("a"), wire("b")],
            [join("x", "a", "b")],
            bench={"solders": [{"solder": "us-hard", "form": "wire", "size": 0.8, "left": 2}]},
        ),
    ),
    ("ball-falls", piece([wire("a")], [], work=[{"id": "k", "kind": "ball", "parts": ["a"], "ball_mm": 9}])),
    (
        "sealed-tube",
        piece(
            [
                {
                    **wire("a"),
                    "form": {"kind": "tube", "outer_mm": 3, "wall_mm": 0.5, "length_mm": 9, "sealed_ends": 2},
                },
                wire("b"),
            ],
            [join("x", "a", "b")],
        ),
    ),
    (
        "too-thin",
        piece(
            [
                {
                    **wire("a", touches_skin="through"),
                    "form": {
                        "kind": "wire",
                        "profile": {"kind": "round", "diameter_mm": 0.6},
                        "length_mm": 12,
                    },
                },
                plate("b"),
            ],
            [join("x", "a", "b")],
        ),
    ),
    (
        "moving-part",
        piece(
            [wire("a", moves=True), plate("b"), wire("c")],
            [
                {"id": "m", "kind": "butt", "between": ["a", "a"], "through": ["b"], "holds": "hand"},
                join("x", "b", "c"),
            ],
        ),
    ),
]


@pytest.mark.parametrize(("code", "made"), CAUTIONS, ids=[code for code, _ in CAUTIONS])
def test_a_caution_is_given_where_it_applies(code: str, made: Any) -> None:
    found = {caution.code: caution for caution in plan(made).cautions}
    assert code in found
    assert found[code].remedy


def test_no_caution_without_its_cause() -> None:
    made = plan(piece([wire("a", "fine-silver-999"), wire("b", "fine-silver-999")], [join("x", "a", "b")]))
    assert made.cautions == ()


@pytest.mark.parametrize(
    ("reduction", "goes"),
    [(55, None), (56, "In 2 goes"), (79, "In 2 goes"), (80, "In 3 goes"), (95, "In 4 goes")],
)
def test_more_than_a_metal_bears_at_once_is_done_in_goes(reduction: float, goes: str | None) -> None:
    """Sterling bears 55 %: two goes leave 0.45² = 20.25 %, three 9.1 %, four 4.1 %."""
    made = plan(
        piece(
            [plate("p")], [], work=[{"id": "r", "kind": "roll", "parts": ["p"], "reduction_pct": reduction}]
        )
    )
    told = next(step.text for step in made.steps if step.kind == "work" and step.work == "r")
    assert goes in told if goes else "goes" not in told


@pytest.mark.parametrize(
    ("diameter_mm", "words", "aim"),
    [
        (1.4, "Keep the flame moving over all of it.", ("circle", None)),
        (1.43, "Keep the flame on b, always moving; let a come along.", ("part", "b")),
    ],
)
def test_the_flame_is_kept_on_what_takes_twice_the_heat(
    diameter_mm: float, words: str, aim: tuple[str, str | None]
) -> None:
    """Two wires end to end: the thicker takes twice the heat of 1 mm from 1.414 mm on."""
    form = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": diameter_mm}, "length_mm": 20}
    made = plan(piece([wire("a"), wire("b", form=form)], [join("j", "a", "b", kind="butt")]))
    (heat,) = (step for step in made.steps if isinstance(step, HeatStep))
    assert heat.lines[1] == words
    assert (heat.aim, heat.about) == aim


@pytest.mark.parametrize(("local_heat", "aim"), [("yes", "each"), ("no", "circle")])
def test_an_annealed_piece_is_heated_all_round_and_what_is_local_place_by_place(
    local_heat: str, aim: str
) -> None:
    made = plan(piece([plate("p")], [], work=[{"id": "soft", "kind": "anneal", "parts": ["p"]}]))
    (soft,) = (step for step in made.steps if isinstance(step, HeatStep))
    assert (soft.aim, soft.about, soft.stages) == ("circle", None, ())
    made = plan(
        piece(
            [wire("a"), wire("b")],
            [join("j", "a", "b", kind="butt")],
            house={"local_heat": local_heat, "placing": "pick"},
        )
    )
    (heat,) = (step for step in made.steps if isinstance(step, HeatStep))
    assert (heat.aim, heat.about) == (aim, None)


def test_a_solder_is_named_whole_where_another_of_its_grade_is_at_hand() -> None:
    def said(**more: Any) -> str:
        made = plan(
            piece([wire("a", "copper"), wire("b", "copper")], [join("j", "a", "b", **more)], bench=two)
        )
        return " ".join(step.text for step in made.steps if step.kind in ("prepare", "heat"))

    two = {"solders": ["us-hard", "uk-hard", "cu-p", "us-easy"]}
    assert "Lay hard silver solder, US (" in said(grade="hard")
    assert "Lay easy solder (" in said(grade="easy")
    assert "Have ready copper-phosphorus rod (" in said(solder="cu-p")


def test_a_fine_surface_is_brought_up_in_as_many_heats_as_were_told() -> None:
    once, thrice = (
        plan(piece([plate("p")], [], work=[{"id": "fine", "kind": "deplete", "parts": ["p"], "times": n}]))
        for n in (1, 3)
    )
    goes = [step for step in thrice.steps if isinstance(step, HeatStep)]
    assert [(step.heat_no, step.round, step.work) for step in goes] == [(n, n, "fine") for n in (1, 2, 3)]
    assert ["heat 2 of 3" in step.text for step in goes] == [False, True, False]
    assert [step.how for step in thrice.steps if isinstance(step, CoolStep)] == ["air-cool"] * 3
    assert sum(isinstance(step, PickleStep) for step in thrice.steps) == 3
    seen = [step.checks[0].passes for step in thrice.steps if isinstance(step, InspectStep)]
    assert len(set(seen)) == 3, "each time something else is seen"
    assert {one.name: one.value for one in thrice.objectives}["heats"] == 3
    minutes = [sum(s.minutes for s in made.steps if s.kind in ("heat", "pickle")) for made in (once, thrice)]
    assert minutes[1] == pytest.approx(3 * minutes[0], rel=0.01)


def test_work_after_a_fine_surface_waits_for_the_last_of_its_heats() -> None:
    fine = {"id": "fine", "kind": "deplete", "parts": ["p"], "times": 3}
    mark = {"id": "mark", "kind": "texture", "parts": ["p"], "after": ["fine"]}
    made = plan(piece([plate("p")], [], work=[fine, mark]))
    assert kinds(made).index("texture") > max(step.n for step in made.steps if step.kind == "heat") - 1


def tube(ends: int, *work: dict[str, Any]) -> Plan:
    """A tube on a plate, and a wire on that in a later heat."""
    form = {"kind": "tube", "outer_mm": 4, "wall_mm": 0.4, "length_mm": 30, "sealed_ends": ends}
    parts = [{"id": "stem", "metal": "sterling-925", "form": form}, plate("plate"), wire("w")]
    joins = [join("foot", "stem", "plate"), join("post", "w", "plate", after=["foot"])]
    return plan(piece(parts, joins, work=list(work)))


def test_a_sealed_tube_is_a_danger_that_waits_and_sees_no_water_before_its_last_heat() -> None:
    made = tube(2)
    first, second = [caution for caution in made.cautions if caution.code == "sealed-tube"]
    assert (first.severity, first.about) == (second.severity, second.about) == ("danger", ("stem",))
    assert [first.step, second.step] == [step.n for step in made.steps if step.kind == "heat"]
    assert all("burst it open" in told.text for told in (first, second))
    assert made.steps[0].kind == "prepare"
    assert made.steps[0].confirm
    assert [step.how for step in made.steps if step.kind == "cool"] == ["air-cool", "air-cool"]
    assert kinds(made).count("pickle") == 1
    assert kinds(made).index("pickle") > max(n for n, kind in enumerate(kinds(made)) if kind == "heat")


def test_sawn_with_no_order_a_tube_that_came_closed_stays_a_danger() -> None:
    made = tube(2, {"id": "cut", "kind": "saw", "parts": ["stem"]})
    assert "sealed-tube" in {caution.code for caution in made.cautions}
    opened = tube(2, {"id": "cut", "kind": "saw", "parts": ["stem"], "before": ["foot"]})
    assert "sealed-tube" not in {caution.code for caution in opened.cautions}


def test_a_pinhole_makes_a_vented_hollow_that_is_dried_before_each_heat() -> None:
    made = tube(2, {"id": "hole", "kind": "drill", "parts": ["stem"], "before": ["foot"]})
    assert not {caution.code for caution in made.cautions} & {"sealed-tube", "wet-hollow"}
    first, second = (n for n, kind in enumerate(kinds(made)) if kind == "heat")
    assert "dry" in kinds(made)[first:second]
    assert kinds(made).count("pickle") == 2


SHUT = {"id": "shut", "kind": "flatten", "parts": ["stem"], "seals": ["stem"]}
CUT = {"id": "cut", "kind": "saw", "parts": ["stem"]}


def shut_and_annealed(*work: dict[str, Any]) -> Plan:
    """A copper tube: its ends are hammered shut, then it is textured, annealed and textured, twice."""
    form = {"kind": "tube", "outer_mm": 6, "wall_mm": 0.5, "length_mm": 60, "sealed_ends": 0}
    then = [
        {"id": f"{kind}-{n}", "kind": kind, "parts": ["stem"], "after": [before]}
        for kind, n, before in [
            ("texture", 1, "shut"),
            ("anneal", 1, "texture-1"),
            ("texture", 2, "anneal-1"),
            ("anneal", 2, "texture-2"),
        ]
    ]
    return plan(piece([{"id": "stem", "metal": "copper", "form": form}], [], work=[*work, *then]))


@pytest.mark.parametrize(
    "work",
    [
        (SHUT,),
        (CUT, SHUT),  # sawn with no order: nobody knows that it opens anything
        (SHUT, CUT),
        (CUT | {"before": ["shut"]}, SHUT),  # a cut from before is no way out of what is shut
    ],
)
def test_a_tube_that_is_hammered_shut_is_a_danger_at_each_heat_and_sees_no_water(work: Any) -> None:
    made = shut_and_annealed(*work)
    heats = [step.n for step in made.steps if step.kind == "heat"]
    dangers = [one.step for one in made.cautions if (one.code, one.severity) == ("sealed-tube", "danger")]
    assert dangers == heats
    assert [step.how for step in made.steps if step.kind == "cool"] == ["air-cool", "air-cool"]
    before_the_last = kinds(made)[: heats[-1]]
    assert not {"pickle", "dry"} & set(before_the_last)
    assert "wet-on-steel" not in {one.code for one in made.cautions}


@pytest.mark.parametrize(
    "opened",
    [
        CUT | {"after": ["shut"], "before": ["anneal-1"]},
        CUT | {"before": ["shut"], "vents": ["stem"]},
        {"id": "hole", "kind": "drill", "parts": ["stem"], "before": ["shut"]},
    ],
)
def test_what_is_opened_after_it_was_shut_or_told_to_vent_has_a_way_out(opened: dict[str, Any]) -> None:
    made = shut_and_annealed(SHUT, opened)
    assert "sealed-tube" not in {one.code for one in made.cautions}
    first, last = (n for n, kind in enumerate(kinds(made)) if kind == "heat")
    assert "dry" in [getattr(step, "work_kind", "") for step in made.steps[first:last]]


BEAD = {"id": "bead", "metal": None, "form": {"kind": "ball", "diameter_mm": 6}, "heat_safe": False}
THREAD = {"id": "thread", "kind": "wrap", "between": ["bead", "pin"]}
HEAD = {"id": "head", "kind": "ball", "parts": ["pin"], "ball_mm": 1.8}


@pytest.mark.parametrize(
    ("joins", "work"),
    [
        ([THREAD], [HEAD]),
        ([THREAD, join("foot", "ring", "pin")], []),
        ([join("foot", "ring", "pin")], [{"id": "thread", "kind": "hang", "parts": ["bead", "ring"]}]),
        (
            [join("foot", "ring", "pin")],
            [{"id": "thread", "kind": "set", "parts": ["bead"]}],  # in what, nobody told
        ),
        (
            [join("foot", "ring", "pin")],
            [{"id": "soft", "kind": "anneal", "parts": ["pin"]}, {**HEAD, "id": "thread", "kind": "set"} | {"parts": ["bead", "pin"], "ball_mm": None}],
        ),
    ],
)  # fmt: skip
def test_what_does_not_bear_heat_goes_on_after_every_heat(joins: Any, work: Any) -> None:
    made = plan(piece([wire("pin"), wire("ring"), BEAD], joins, work=work))
    assert made.conflict is None
    last_heat = max(step.n for step in made.steps if step.kind == "heat")
    on = [step.n for step in made.steps if "bead" in step.text and step.kind in ("prepare", "work")]
    assert on
    assert min(on) > last_heat


@pytest.mark.parametrize(
    ("joins", "work"),
    [
        ([THREAD], [HEAD | {"after": ["thread"]}]),
        ([THREAD, join("foot", "ring", "pin", after=["thread"])], []),
        ([join("foot", "ring", "ring", kind="butt", through=["bead"])], []),
        (
            [join("foot", "ring", "pin", after=["thread"])],
            [{"id": "thread", "kind": "set", "parts": ["bead"]}],  # in what, nobody told
        ),
    ],
)
def test_no_plan_heats_what_a_bead_is_on(joins: Any, work: Any) -> None:
    """Told so by the smith, it is refused with the reason; what is not tied to it may be heated."""
    made = plan(piece([wire("pin"), wire("ring"), BEAD], joins, work=work))
    assert made.conflict is not None
    assert "does not bear heat" in " ".join(one.text for one in made.conflict.demands)


def test_a_bead_holds_up_no_heat_of_what_it_does_not_hang_on() -> None:
    made = plan(
        piece(
            [wire("pin"), BEAD, plate("base"), wire("post")],
            [THREAD, join("foot", "post", "base", after=["thread"])],
        )
    )
    assert made.conflict is None


def test_a_tube_that_work_seals_is_open_until_then() -> None:
    shut = {
        "id": "shut",
        "kind": "forge",
        "parts": ["stem"],
        "seals": ["stem"],
        "after": ["foot"],
        "before": ["post"],
    }
    made = tube(1, shut)
    (sealed,) = [caution for caution in made.cautions if caution.code == "sealed-tube"]
    heats = [step.n for step in made.steps if step.kind == "heat"]
    assert sealed.step == heats[1]
    assert [step.how for step in made.steps if step.kind == "cool"] == ["quench-when-black", "air-cool"]


def test_steel_comes_off_all_of_a_round_before_its_one_pot_as_the_smith_told_it() -> None:
    rows = [join("a", "w0", "w1", holds="bound"), join("b", "w2", "w3", holds="bound")]
    off = {"id": "off", "kind": "unbind", "parts": ["w0", "w1", "w2", "w3"], "after": ["a", "b"]}
    for work, put_in in (([], [True]), ([off], [False])):
        made = plan(chain(4, rows, work=work))
        steps = [step for step in made.steps if isinstance(step, WorkStep)]
        assert [step.put_in for step in steps] == put_in
        assert "steel-in-pickle" not in {caution.code for caution in made.cautions}
        assert steps[0].n < next(step.n for step in made.steps if step.kind == "pickle")
