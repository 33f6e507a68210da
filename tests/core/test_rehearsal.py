"""Rehearsals of small heats: a smith's sense of what happens, honest answers, and the copy into the piece."""

from __future__ import annotations

import json
import math
from functools import lru_cache
from typing import Any

import pytest

from eskel_core.cli import main
from eskel_core.faults import Refused
from eskel_core.piece import Piece, is_of_grains, parse_piece, piece_object, write_piece
from eskel_core.plan import HeatStep, plan
from eskel_core.rehearsal import (
    Habit,
    HeatRequest,
    Rehearsal,
    TorchFactor,
    out_of_date,
    rehearse_heat,
    rehearse_piece,
    use,
    what_would_help,
)
from eskel_core.rehearsal._facts import HeatFacts, as_heated, facts_of, tools_of
from eskel_core.rehearsal._scene import scene_of
from eskel_core.units import speak
from tests.core.pieces import EXAMPLES, US, join, piece, plate, wire

FINIAL = next(path for path in EXAMPLES if path.name.startswith("stone-set"))


def post_on_plate(metal: str = "sterling-925", thick: float = 1.0, post: float = 1.0, **more: Any) -> Piece:
    base = plate("base", metal)
    base["form"]["thickness_mm"] = thick
    pin = wire("post", metal)
    pin["form"] = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": post}, "length_mm": 10}
    return piece([base, pin], [join("foot", "post", "base")], **more)


def easy(made: Piece, **options: Any) -> Rehearsal:
    """Rehearse the first heat; what was rehearsed once in a run of the tests is not rehearsed again."""
    return _once(write_piece(made), tuple(sorted(options.items())))


@lru_cache(maxsize=64)
def _once(text: str, options: tuple[tuple[str, Any], ...]) -> Rehearsal:
    told = dict(options)
    with_habits = told.pop("with_habits", False)
    return rehearse_heat(parse_piece(text), 1, HeatRequest(**told), with_habits=with_habits)


def with_easy(**more: Any) -> Piece:
    return post_on_plate(**more, bench={"solders": ["us-easy"]})


@pytest.mark.long
def test_the_programme_does_what_the_habits_do_not() -> None:
    """A thin post on a plate: a flame on the post or on its foot melts it long before the plate is warm."""
    made = with_easy(thick=1.2, post=0.8)
    best = easy(made, with_habits=True)
    assert best.verdict == "sure"
    assert 2 <= len(best.programme) <= 4
    tried = {habit.habit: habit for habit in best.habits}
    assert tried["light"].verdict in ("luck", "never")
    assert tried["light"].hands.spoilt[0].kind == "slumps"
    assert "post slumps" in tried["light"].text
    assert best.tightest is not None
    assert best.tightest.degrees_c >= 5
    assert best.seconds_to_flow is not None
    whole = sum(stage.seconds.likely for stage in best.programme)
    # The flame goes off a little after the last has run: the middle hand is 0.8 s late.
    assert whole == pytest.approx(best.seconds_to_flow.likely + 0.8, abs=0.3)


@pytest.mark.parametrize("habit", ["join", "even", "light"])
def test_a_habit_is_followed_and_judged(habit: Any) -> None:
    told = easy(with_easy(), habit=habit)
    assert told.habit == habit
    assert told.programme[0].aim == "dry"
    assert len(told.programme) == 2
    hands = told.hands
    assert hands.tried == 64
    assert hands.well + hands.short + sum(one.count for one in hands.spoilt) == 64
    assert len(hands.marks) == 64 - hands.well


@pytest.mark.long
def test_twice_the_plate_takes_about_twice_as_long() -> None:
    """The flame gives much the same; a plate of twice the thickness holds twice the heat."""
    thin, thick = (easy(with_easy(thick=one, post=3.0), habit="even").seconds_to_flow for one in (0.8, 1.6))
    assert thin is not None
    assert thick is not None
    # The drying, as slow as the flux bears it, takes about as long for either.
    assert 1.3 < thick.likely / thin.likely < 2.8


def test_copper_takes_longer_than_silver_of_the_same_size() -> None:
    """Capacity by volume: 8.94 × 430 against 10.36 × 265, four tenths more, and it radiates more."""
    silver, copper = (
        easy(with_easy(metal=metal, post=3.0), habit="even", torch="propane-air-large").programme[-1]
        for metal in ("sterling-925", "copper")
    )
    assert copper.seconds.likely > 1.2 * silver.seconds.likely


def test_a_stronger_torch_is_sooner_and_the_band_is_in_order() -> None:
    small, large = (
        easy(with_easy(post=3.0), habit="even", torch=one).seconds_to_flow
        for one in ("propane-air-small", "propane-air-large")
    )
    assert small is not None
    assert large is not None
    assert large.likely < small.likely
    for band in (small, large):
        assert band.low is not None
        assert band.low < band.likely
        assert band.high is None or band.likely < band.high


@pytest.mark.long
def test_a_known_torch_has_a_narrower_band() -> None:
    wide = easy(with_easy(post=3.0), habit="even").seconds_to_flow
    narrow = easy(with_easy(post=3.0), habit="even", hand=TorchFactor(1.0, 0.02)).seconds_to_flow
    assert wide is not None
    assert narrow is not None
    assert wide.low is not None
    assert narrow.low is not None
    assert wide.high is not None
    assert narrow.high is not None
    assert narrow.high - narrow.low < wide.high - wide.low


def big_copper() -> Piece:
    base = plate("base", "copper")
    base["form"] = {
        "kind": "sheet",
        "thickness_mm": 3,
        "outline": {"kind": "rect", "width_mm": 90, "height_mm": 90},
    }
    return piece(
        [base, wire("post", "copper")], [join("foot", "post", "base")], bench={"solders": ["us-hard"]}
    )


@pytest.mark.long
def test_a_torch_that_cannot_says_so_and_what_would() -> None:
    """A pencil torch of 350 W against 217 g of copper."""
    made = big_copper()
    told = easy(made, torch="butane-pencil")
    assert (told.verdict, told.seconds_to_flow) == ("never", None)
    assert told.settles_c is not None
    assert 60 < told.settles_c < 788
    assert all(math.isfinite(c) for line in (*told.series.parts, *told.series.joins) for c in line.c)
    kinds = {one.kind for one in what_would_help(made, 1, HeatRequest(torch="butane-pencil"))}
    assert {"torch", "surface", "below", "solder"} <= kinds


@pytest.mark.long
def test_a_flame_that_is_too_weak_is_told_as_that_and_not_as_a_loss() -> None:
    """On a great plate a flame on the foot melts the post; circling harms nothing, and shows that it is too weak."""
    great = post_on_plate(thick=3.0, bench={"solders": ["us-easy"]})
    form = great.parts[0].form
    outline = form.outline.model_copy(update={"width_mm": 300.0, "height_mm": 200.0})
    wide = great.parts[0].model_copy(update={"form": form.model_copy(update={"outline": outline})})
    told = easy(great.model_copy(update={"parts": (wide, *great.parts[1:])}))
    assert told.verdict == "never"
    assert told.settles_c is not None
    assert told.settles_c < 718
    assert "settles at" in told.says
    assert all(line.limit_c is None or max(line.hottest_c) < line.limit_c for line in told.series.parts)


@pytest.mark.long
def test_something_that_helps_comes_first() -> None:
    told = what_would_help(with_easy(thick=2.0), 1, HeatRequest(torch="butane-pencil"))
    assert told[0].verdict == "sure"
    assert told[0].kind in ("torch", "brought")


@pytest.mark.long
def test_events_come_in_the_order_of_the_trade() -> None:
    """Steam, crust, dark, clear, and then the solder runs."""
    events = [event.kind for event in easy(with_easy()).events if event.about == "foot"]
    assert events == [kind for kind in ("steam", "crust", "dark", "clear", "reached") if kind in events]
    assert events[-1] == "reached"


@pytest.mark.long
def test_every_place_of_a_join_is_done_once() -> None:
    base, posts = plate("base"), wire("post", count=3)
    made = piece([base, posts], [join("feet", "post", "base")], bench={"solders": ["us-easy"]})
    told = easy(made)
    done = [event.about for event in told.events if event.kind == "reached"]
    assert done == ["feet"]
    assert [(line.id, line.flow_c, line.places) for line in told.series.joins] == [("feet", 718.0, 3)]


@pytest.mark.long
@pytest.mark.parametrize(
    "part",
    [
        {"kind": "ball", "diameter_mm": 0.3},
        {"kind": "sheet", "thickness_mm": 0.05, "outline": {"kind": "disc", "diameter_mm": 3}},
        {"kind": "lump", "mass_g": 4000, "surface_mm2": 20000},
        {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 0.2}, "length_mm": 4000},
        {"kind": "tube", "outer_mm": 1.2, "wall_mm": 0.1, "length_mm": 3},
    ],
)
def test_an_odd_part_has_an_honest_answer(part: dict[str, Any]) -> None:
    odd = {"id": "odd", "metal": "sterling-925", "form": part}
    made = piece([plate("base"), odd], [join("foot", "odd", "base")], bench={"solders": ["us-easy"]})
    for habit in ("best", "join"):
        told = easy(made, habit=habit)
        assert told.verdict in ("sure", "care", "luck", "never")
        text = told.model_dump_json()
        assert "NaN" not in text
        assert "Infinity" not in text


@pytest.mark.long
def test_a_stone_in_the_heat_is_named_and_left_out() -> None:
    stone = {"id": "stone", "metal": None, "heat_safe": False, "form": {"kind": "ball", "diameter_mm": 4}}
    made = piece(
        [plate("base"), wire("post"), stone],
        [join("foot", "post", "base"), join("glue", "stone", "base", kind="rivet")],
        bench={"solders": ["us-easy"]},
    )
    assert easy(made).verdict == "sure"


@pytest.mark.parametrize(
    ("options", "words"),
    [({"torch": "dragon"}, "torch"), ({"surface": "lap"}, "surface")],
)
def test_an_unknown_tool_is_refused(options: dict[str, str], words: str) -> None:
    with pytest.raises(Refused, match=words):
        easy(with_easy(), **options)


def test_a_heat_that_there_is_not_is_refused() -> None:
    with pytest.raises(Refused, match="heats 1 to 1"):
        rehearse_heat(with_easy(), 7)


@pytest.mark.long
def test_the_same_input_gives_the_same_output() -> None:
    one, other = (rehearse_heat(with_easy(), 1) for _ in range(2))
    assert one.model_dump_json() == other.model_dump_json()


def codes(made: Piece) -> set[str]:
    return {caution.code for caution in plan(made).cautions}


@pytest.mark.long
def test_only_what_was_copied_lets_the_rules_speak() -> None:
    made = big_copper()
    assert "torch-too-small" not in codes(made)
    copied = use(made, easy(made, torch="butane-pencil"))
    assert "torch-too-small" in codes(copied)
    better = use(copied, easy(made, torch="oxy-propane-rosebud"))
    assert len(better.rehearsals) == 1
    assert "torch-too-small" not in codes(better)


@pytest.mark.parametrize(("high", "speaks"), [(230.0, False), (250.0, True)])
def test_flux_is_spent_after_its_minutes(high: float, speaks: bool) -> None:
    """White paste lasts 4 minutes."""
    made = with_easy()
    copied = use(made, easy(made))
    (one,) = copied.rehearsals
    long = copied.model_copy(update={"rehearsals": (one.model_copy(update={"seconds_high": high}),)})
    assert ("flux-spent" in codes(long)) is speaks


@pytest.mark.parametrize(("seconds", "speaks"), [(59.0, False), (61.0, True)])
def test_fire_stain_after_a_minute_in_air(seconds: float, speaks: bool) -> None:
    made = with_easy()
    (one,) = use(made, easy(made)).rehearsals
    long = made.model_copy(update={"rehearsals": (one.model_copy(update={"above_700_s": seconds}),)})
    assert ("fire-stain" in codes(long)) is speaks


def test_a_copied_rehearsal_gives_the_heat_its_minutes() -> None:
    made = with_easy()
    told = easy(made)
    (heat,) = (step for step in plan(use(made, told)).steps if isinstance(step, HeatStep))
    assert heat.rehearsed is not None
    assert told.seconds_to_flow is not None
    assert heat.minutes == math.ceil(told.seconds_to_flow.likely / 30) / 2


def test_a_copied_rehearsal_leads_its_step() -> None:
    """The step says what is to be done in the programme's words, which hold no quantity that a house would tell otherwise."""
    told = easy(with_easy())
    copied = use(with_easy(), told)
    (heat,) = (step for step in plan(copied).steps if isinstance(step, HeatStep))
    assert heat.lines[1:] == tuple(stage.text for stage in told.programme)
    assert [stage.sign for stage in heat.stages] == [stage.until.sign for stage in told.programme]
    assert heat.stages[0].see == "the flux is a white crust and still"
    # Where the flame is can be drawn, stage by stage, and not for the heat as a whole.
    assert [(stage.aim, stage.about) for stage in heat.stages] == [
        (stage.aim, stage.about) for stage in told.programme
    ]
    assert heat.stages[0].aim == "dry"
    assert (heat.aim, heat.about) == (None, None)
    assert sum(stage.likely_s for stage in heat.stages) == pytest.approx(
        sum(stage.seconds.likely for stage in told.programme)
    )
    (kept,) = copied.rehearsals
    assert (kept.well, kept.tried) == (told.hands.well, 64)
    assert all("⦃" not in words for stage in kept.stages for words in (stage.text, stage.see, stage.if_late))


def test_a_part_is_heated_as_it_was_cut_until_it_is_trimmed() -> None:
    base, post = plate("base"), wire("post")
    post["form"] = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 1.0}, "length_mm": 10}
    larger = base | {"rough": {**base["form"], "outline": {"kind": "rect", "width_mm": 34, "height_mm": 34}}}
    trim = [{"id": "cut", "kind": "trim", "parts": ["base"], "after": ["foot"]}]
    joins, bench = [join("foot", "post", "base")], {"solders": ["us-easy"]}

    def facts(made: Piece) -> HeatFacts:
        return facts_of(made, plan(made), 1)

    small = piece([base, post], joins, bench=bench)
    large = piece([larger, post], joins, work=trim, bench=bench)
    before = piece([larger, post], joins, work=[trim[0] | {"after": [], "before": ["foot"]}], bench=bench)
    assert facts(large).untrimmed == {"base"}
    assert facts(before).untrimmed == frozenset()
    assert as_heated(before, facts(before)) is before
    assert as_heated(large, facts(large)).parts[0].form == large.parts[0].rough
    less, more = (
        scene_of(made, facts(made), tools_of(made, None, None, None), HeatRequest(), cells=60).setup.network
        for made in (small, large)
    )
    plates = [float(one.capacity_j_k[one.cells("base")].sum()) for one in (less, more)]
    assert plates[1] / plates[0] == pytest.approx(34 * 34 / (20 * 20), rel=0.02)


def test_a_changed_form_makes_it_out_of_date_and_a_changed_name_does_not() -> None:
    copied = use(with_easy(), easy(with_easy()))
    assert out_of_date(copied, plan(copied)) == ()
    base, post = copied.parts
    named = copied.model_copy(update={"parts": (base.model_copy(update={"name": "Ground"}), post)})
    assert out_of_date(named, plan(named)) == ()
    thicker = base.form.model_copy(update={"thickness_mm": 1.4})
    changed = copied.model_copy(update={"parts": (base.model_copy(update={"form": thicker}), post)})
    assert out_of_date(changed, plan(changed)) == (1,)


def test_another_solder_makes_it_out_of_date() -> None:
    """What a rehearsal found holds for the solder that it was rehearsed with."""
    copied = use(with_easy(), easy(with_easy()))
    assert copied.rehearsals[0].solders == ("us-easy",)
    harder = copied.model_copy(
        update={"bench": copied.bench and copied.bench.model_copy(update={"solders": ("us-hard",)})}
    )
    assert out_of_date(copied, plan(copied)) == ()
    assert out_of_date(harder, plan(harder)) == (1,)


def test_earlier_joins_are_credited_with_what_the_model_found() -> None:
    """A long bar, soldered at one end and then at the other: the first join stays far below the second heat."""
    bar = wire("bar")
    bar["form"] = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 3}, "length_mm": 160}
    ends = [
        {
            "id": name,
            "metal": "sterling-925",
            "form": {"kind": "ball", "diameter_mm": 4},
            "place": {"x_mm": x},
        }
        for name, x in (("left", -82), ("right", 82))
    ]
    bar["place"] = {"x_mm": 0}
    made = piece(
        [bar, *ends],
        [
            join("one", "left", "bar", at=[-80, 0], holds="nothing", grade="easy"),
            join("two", "right", "bar", at=[80, 0], holds="nothing", after=["one"], grade="extra-easy"),
        ],
    )
    told = rehearse_heat(made, 2, HeatRequest(torch="oxy-propane-medium"))
    assert told.seconds_to_flow is not None
    (peak,) = told.peaks
    assert peak.shield_c > 20
    shields = use(made, told).joins[0].shields
    assert [(shield.during, shield.how, shield.degrees_c) for shield in shields] == [
        ("two", "rehearsed", peak.shield_c)
    ]


@pytest.mark.long
@pytest.mark.parametrize("habit", ["even", pytest.param("best", marks=pytest.mark.whole)])
def test_a_piece_rehearses_itself_and_survives_its_file(habit: Habit) -> None:
    made = parse_piece(FINIAL.read_bytes())
    done = rehearse_piece(made, HeatRequest(habit=habit))
    whole, planned = done.piece, done.plan
    heats = [step for step in planned.steps if isinstance(step, HeatStep)]
    assert heats
    assert all(heat.rehearsed for heat in heats)
    again = parse_piece(json.dumps(piece_object(whole)).encode())
    assert again == whole


def test_an_anneal_is_rehearsed_to_its_range_all_over() -> None:
    made = piece(
        [plate("base"), wire("post")],
        [join("foot", "post", "base")],
        work=[{"id": "soften", "kind": "anneal", "parts": ["base"], "before": ["foot"]}],
        bench={"solders": US},
    )
    told = rehearse_heat(made, 1)
    assert (told.purpose, told.work, told.verdict) == ("anneal", "soften", "sure")
    (line,) = told.series.parts
    assert 620 < max(line.hottest_c) < 720
    assert line.flow_c == 590
    assert (told.programme[-1].until.sign, told.programme[-1].until.word) == ("glow", "first dull red")
    assert [stage.aim for stage in told.programme if stage.aim == "dry"] == []


def test_the_command_prints_it(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["rehearse", str(FINIAL), "--heat", "1", "--habit", "even"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert set(told["seconds_to_flow"]) == {"low", "likely", "high"}
    assert len(told["series"]["time_s"]) == len(told["series"]["parts"][0]["c"])
    assert {"programme", "events", "tightest"} <= set(told)


def test_the_command_takes_a_torch_that_is_known(capsys: pytest.CaptureFixture[str]) -> None:
    """Two per cent: its hands are nearer to one another than those of a torch within forty."""

    def band(*more: str) -> float:
        assert (
            main(["rehearse", str(FINIAL), "--heat", "1", "--habit", "even", "--setting", "0.4", *more]) == 0
        )
        seconds = json.loads(capsys.readouterr().out)["seconds_to_flow"]
        return float(seconds["high"] / seconds["low"])

    assert band("--spread", "2") < band()


@pytest.mark.parametrize(
    ("more", "code", "path"),
    [
        (["--heat", "9"], 2, "heat"),
        (["--torch", "none"], 2, "torch"),
        (["--habit", "none"], 2, ""),
        (["--spread", "0"], 2, ""),
        (["--spread", "much"], 2, ""),
    ],
)
def test_the_command_refuses(
    more: list[str], code: int, path: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["rehearse", str(FINIAL), *more]) == code
    (fault,) = json.loads(capsys.readouterr().out)
    assert fault["path"] == path


@pytest.mark.long
def test_the_command_lets_the_rehearsed_rules_speak(
    capsys: pytest.CaptureFixture[str], tmp_path: Any
) -> None:
    file = tmp_path / "big.eskel.json"
    plain = piece_object(big_copper())
    plain["bench"] |= {"torch": "butane-pencil", "surface": "ceramic-board"}
    file.write_text(json.dumps(plain), encoding="utf-8")
    found = []
    for more in ([], ["--rehearse"]):
        assert main(["plan", str(file), *more]) == 0
        found.append({one["code"] for one in json.loads(capsys.readouterr().out)["cautions"]})
    assert "torch-too-small" not in found[0]
    assert "torch-too-small" in found[1]


@pytest.mark.long
@pytest.mark.parametrize(("ball", "verdict"), [(1.8, "sure"), (4.0, "never")])
def test_balling_tells_when_to_lift_the_flame_or_that_it_falls(ball: float, verdict: str) -> None:
    """The limit of a sterling ball on 0.8 mm wire is 3.1 mm."""
    pin = wire("pin")
    pin["form"] = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 0.8}, "length_mm": 40}
    work = [{"id": "head", "kind": "ball", "parts": ["pin"], "ball_mm": ball}]
    made = piece([pin], [], work=work, bench={"solders": US})
    told = rehearse_heat(made, 1, HeatRequest(torch="oxy-propane-fine"))
    assert (told.purpose, told.work, told.verdict) == ("ball", "head", verdict)
    assert told.ball is not None
    assert told.ball.limit_mm == pytest.approx(3.1, abs=0.02)
    assert len(told.ball.diameter_mm) == len(told.series.time_s)
    assert (told.seconds_to_flow is not None) == (verdict == "sure")


@pytest.mark.parametrize(
    ("attitude", "held", "gives"),
    [("tip-up", "upright", "leans over"), ("tip-down", "tip down", "lets go")],
)
def test_a_ball_is_held_as_the_house_holds_it(attitude: str, held: str, gives: str) -> None:
    """On its wire a ball that is too large leans over, hanging from it it drops."""
    pin = wire("pin")
    pin["form"] = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 0.8}, "length_mm": 40}
    work = [{"id": "head", "kind": "ball", "parts": ["pin"], "ball_mm": 4.0}]
    made = piece([pin], [], work=work, bench={"solders": US}, house={"ball_attitude": attitude})
    told = rehearse_heat(made, 1, HeatRequest(torch="oxy-propane-fine", habit="even"))
    assert held in told.programme[0].text
    assert gives in told.says
    assert {one.kind for one in told.hands.spoilt} == {"leans" if attitude == "tip-up" else "drops"}


@pytest.mark.long
def test_what_helps_a_ball_is_asked_of_the_ball() -> None:
    """Copper of 2.6 mm never draws up under a pencil torch; under each larger one it does, as its own rehearsal says."""
    pin = wire("pin", "copper")
    pin["form"] = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 2.6}, "length_mm": 40}
    work = [{"id": "head", "kind": "ball", "parts": ["pin"], "ball_mm": 4.0}]
    made = piece([pin], [], work=work, bench={"solders": US})
    assert rehearse_heat(made, 1, HeatRequest(torch="butane-pencil")).verdict == "never"
    helps = what_would_help(made, 1, HeatRequest(torch="butane-pencil"))
    assert {one.kind for one in helps} == {"torch"}
    best = helps[0]
    assert best.hands.well > 48
    again = rehearse_heat(made, 1, HeatRequest(torch=best.id))
    assert (again.verdict, again.hands.well) == (best.verdict, best.hands.well)


def test_a_heat_is_rehearsed_with_its_own_flux_and_flame() -> None:
    """On a mesh, where the flame reaches it from below."""
    bench = {
        "solders": ["us-hard"],
        "torch": "propane-air-small",
        "surface": "mesh-tripod",
        "flux": "white-paste",
    }
    row = join("foot", "post", "plate")
    usual, own = (
        rehearse_heat(
            piece([plate("plate"), wire("post")], [row | more], bench=bench),
            1,
            HeatRequest(habit="even", setting=0.5),
        )
        for more in ({}, {"heat_from": "below", "flux": "borax-paste"})
    )
    assert (usual.flux, own.flux) == ("white-paste", "borax-paste")
    assert {stage.side for stage in own.programme} == {"below"}


def test_grains_that_are_melted_draw_up_one_by_one() -> None:
    """Forty of 2 mm are no charge of 7 mm in a crucible."""
    grain = {
        "id": "grain",
        "metal": "fine-silver-999",
        "count": 40,
        "form": {"kind": "ball", "diameter_mm": 2},
    }
    work = [{"id": "melting", "kind": "melt", "parts": ["grain"]}]
    told = rehearse_heat(piece([grain], [], work=work), 1, with_habits=False)
    one = rehearse_heat(piece([grain | {"count": 1}], [], work=work), 1, with_habits=False)
    assert (told.bodies, one.bodies) == (40, 1)
    assert told.hands == one.hands
    assert "a ball of about 2.0 mm" in speak(told.says)


def test_a_pour_that_names_no_part_is_a_charge_and_no_grains() -> None:
    made = piece([wire("bar")], [], work=[{"id": "pouring", "kind": "pour", "mass_g": 20}])
    (work,) = made.work
    assert not is_of_grains(made, work)
    (heat,) = [step for step in plan(made).steps if step.kind == "heat"]
    assert heat.purpose == "melt"
    assert "one go" in heat.text
