"""The cut and solder list: against trying every way, against lists added up by hand."""

import csv
import io
import itertools
import json
import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eskel_core.cutting import cut_and_solder, cut_bars, cut_list_csv, cut_list_pdf, outline_svg
from eskel_core.faults import Refused
from eskel_core.piece import Bench, Piece, piece_from_object
from eskel_core.plan import plan
from eskel_core.units import speak
from tests.core.pieces import EXAMPLES

S = "sterling-925"


def wire(diameter: float, length: float, **more: Any) -> dict[str, Any]:
    return {
        "kind": "wire",
        "profile": {"kind": "round", "diameter_mm": diameter},
        "length_mm": length,
        **more,
    }


def disc(diameter: float, thickness: float = 0.5) -> dict[str, Any]:
    return {"kind": "sheet", "thickness_mm": thickness, "outline": {"kind": "disc", "diameter_mm": diameter}}


def rect(width: float, height: float, thickness: float = 0.5) -> dict[str, Any]:
    outline = {"kind": "rect", "width_mm": width, "height_mm": height}
    return {"kind": "sheet", "thickness_mm": thickness, "outline": outline}


def part(name: str, form: dict[str, Any], **more: Any) -> dict[str, Any]:
    return {"id": name, "metal": S, "form": form, **more}


def piece(*parts: dict[str, Any], **more: Any) -> Piece:
    return piece_from_object({"format": "eskel-piece/1", "name": "t", "parts": list(parts), **more})


def listed(made: Piece, **bench: Any) -> Any:
    return cut_and_solder(made, plan(made), Bench.model_validate(bench))


def test_one_bar_takes_what_fits_with_a_kerf_between_and_none_at_the_end() -> None:
    assert cut_bars([50, 49.5], [100], 0.5).missing_mm == ()
    assert cut_bars([50, 49.51], [100], 0.5).missing_mm == (49.51,)
    (bar,) = cut_bars([30, 30], [100], 0.4).bars
    assert bar.left_mm == pytest.approx(39.2)


def test_the_shortest_bars_that_do_are_opened() -> None:
    cutting = cut_bars([40, 40], [100, 85, 45, 45], 0.5)
    assert sorted(bar.length_mm for bar in cutting.bars) == [85]
    assert cutting.proven


def test_where_laying_the_longest_first_fails_the_exact_way_is_found() -> None:
    """Best-fit opens three bars of 10 for 6, 5, 5, 4 laid badly; 7 5 4 4 5 5 fits three bars exactly."""
    cutting = cut_bars([5, 5, 4, 4, 4, 3, 3, 2], [15, 15, 15], 0)
    assert len(cutting.bars) == 2
    assert cutting.left_mm == 0
    assert cutting.proven


def test_what_is_longer_than_any_bar_is_to_be_bought() -> None:
    cutting = cut_bars([120, 30], [100], 0.3)
    assert cutting.missing_mm == (120,)
    assert [bar.cuts_mm for bar in cutting.bars] == [(30,)]
    assert cut_bars([10], [], 0.3).missing_mm == (10,)
    assert cut_bars([], [10], 0.3).bars == ()


def best_by_trying(cuts: list[int], bars: list[int], kerf: int) -> tuple[int, int]:
    """Try every way to give each cut to a bar or to none: the greatest length laid, then the least opened."""
    best = (0, 0)
    for given_to in itertools.product(range(-1, len(bars)), repeat=len(cuts)):
        loads = [[cut for cut, at in zip(cuts, given_to, strict=True) if at == n] for n in range(len(bars))]
        if any(
            sum(load) + kerf * (len(load) - 1) > bar for load, bar in zip(loads, bars, strict=True) if load
        ):
            continue
        laid = sum(sum(load) for load in loads)
        opened = sum(bar for load, bar in zip(loads, bars, strict=True) if load)
        best = max(best, (laid, -opened))
    return best[0], -best[1]


@given(
    st.lists(st.integers(2, 12), min_size=1, max_size=6),
    st.lists(st.integers(5, 20), min_size=1, max_size=3),
    st.integers(0, 1),
)
def test_no_way_lays_more_or_opens_less(cuts: list[int], bars: list[int], kerf: int) -> None:
    cutting = cut_bars(
        [float(cut) for cut in cuts], sorted((float(one) for one in bars), reverse=True), float(kerf)
    )
    laid = sum(sum(bar.cuts_mm) for bar in cutting.bars)
    assert (laid, cutting.opened_mm) == best_by_trying(cuts, bars, kerf)
    assert sorted([*itertools.chain(*(bar.cuts_mm for bar in cutting.bars)), *cutting.missing_mm]) == sorted(
        cuts
    )
    for bar in cutting.bars:
        assert sum(bar.cuts_mm) + kerf * (len(bar.cuts_mm) - 1) + bar.left_mm <= bar.length_mm + 1e-9


def test_sixty_cuts_are_laid_and_proven() -> None:
    cuts = [17.0, 23.5, 31.0, 8.2, 44.0, 12.6] * 10
    cutting = cut_bars(cuts, [300.0] * 8, 0.3)
    assert cutting.missing_mm == ()
    assert cutting.proven
    needed = sum(cuts) + 0.3 * 60
    assert len(cutting.bars) == -(-needed // 300.3)


def test_a_twelve_piece_order_added_up_by_hand() -> None:
    """Twelve pairs of hoops of 62.5 mm: 24 × 62.5 = 1500 mm; 36 spare rings of 15.4: 554.4 mm; and 24 discs of 8."""
    made = piece(
        part("hoop", wire(1.2, 62.5), count=2),
        part("disc", disc(8), count=2),
        copies=12,
        cuts=[{"id": "ring", "metal": S, "form": wire(0.9, 15.4, closed=True), "count": 36}],
    )
    whole = listed(made)
    assert {row.id: (row.count, row.length_mm) for row in whole.rows} == {
        "hoop": (24, 62.5),
        "disc": (24, None),
        "ring": (36, 15.4),
    }
    hoop = whole.rows[0]
    assert hoop.mass_g == pytest.approx(3.14159265 / 4 * 1.2**2 * 62.5 * 0.01036)
    assert (hoop.gauge, hoop.kerf_mm) == ("17 ga", 0.36)
    buy = {speak(line.what): speak(line.amount) for line in whole.buy}
    assert buy["Sterling silver, round wire 1.2 mm"] == f"{1500 + 23 * 0.36:.1f} mm"
    assert buy["Sterling silver, sheet 0.5 mm"] == f"{24 * 50.2655 / 100:.1f} cm² at least"
    assert whole.mass_by_metal_g[S] == pytest.approx(sum(row.mass_g * row.count for row in whole.rows))


def test_bought_stones_and_what_is_cut_from_others_are_not_cut() -> None:
    made = piece(
        part("plate", rect(20, 20)),
        part("inlay", rect(5, 5), **{"from": "plate"}),
        part("clasp", {"kind": "lump", "mass_g": 1, "surface_mm2": 50}, bought_in=True),
        {"id": "stone", "metal": None, "heat_safe": False, "form": {"kind": "ball", "diameter_mm": 4}},
    )
    assert [row.id for row in listed(made).rows] == ["plate"]


def test_the_rough_form_is_what_is_cut_and_strands_are_cut_apart() -> None:
    made = piece(
        part("post", wire(0.9, 8), rough=wire(0.9, 18)),
        part("twist", wire(0.8, 100, strands=3, pitch_mm=8)),
    )
    post, twist = listed(made).rows
    assert post.length_mm == 18
    assert (twist.count, twist.length_mm, speak(twist.stock)) == (
        3,
        pytest.approx(106.38, abs=0.005),
        "round wire 0.8 mm",
    )


def test_bars_of_the_bench_are_cut_and_named_and_only_their_own_stock_serves() -> None:
    made = piece(part("long", wire(1, 80)), part("short", wire(1, 35), count=2), part("thick", wire(2, 30)))
    stock = [
        {"metal": S, "form": wire(1, 120), "count": 2},
        {"metal": "copper", "form": wire(2, 500)},
        {"metal": S, "form": wire(1.5, 500)},
    ]
    thin, thick = listed(made, stock=stock).lengths
    assert [[name for name, _ in bar.cuts] for bar in thin.bars] in (
        [["long", "short"], ["short"]],
        [["short"], ["long", "short"]],
    )
    assert (thin.buy_mm, thin.proven) == (0, True)
    assert (thick.bars, thick.buy_mm) == ((), 30)


def test_outlines_are_laid_on_the_smallest_owned_sheet_that_takes_them() -> None:
    made = piece(part("a", disc(20), count=3), part("b", rect(70, 30)))
    stock = [
        {"metal": S, "form": rect(100, 60)},
        {"metal": S, "form": rect(25, 25)},
        {"metal": S, "form": rect(99, 99, 1.0)},
    ]
    small, large = listed(made, stock=stock).sheets
    assert ((small.width_mm, small.placed), large.width_mm) == ((25, ("a",)), 100)
    assert sorted(large.placed) == ["a", "a", "b"]
    assert listed(made, stock=stock).buy == ()
    (short,) = listed(made, stock=stock[1:2]).buy
    assert short.amount == f"{(2 * 314.159 + 2100) / 100:.1f} cm² at least"


def lantern() -> Piece:
    text = (EXAMPLES[0].parent / "hollow-lantern-drop.eskel.json").read_text(encoding="utf-8")
    return piece_from_object(json.loads(text))


def test_solder_is_summed_by_grade_held_against_the_drawer_and_bought() -> None:
    drawer = [
        "us-hard",
        {"solder": "us-medium", "left": 3},
        "us-easy",
        {"solder": "us-extra-easy", "left": 0.0001},
    ]
    made = lantern().model_copy(update={"bench": None})
    whole = cut_and_solder(made, plan(made), Bench.model_validate({"solders": drawer}))
    totals = {total.grade: total for total in whole.solder_totals}
    by_hand: dict[str, float] = {}
    for row in whole.solder:
        by_hand[row.grade] = by_hand.get(row.grade, 0.0) + row.mass_mg
    assert {grade: one.mass_mg for grade, one in totals.items()} == pytest.approx(by_hand)
    assert totals["extra-easy"].buy_g == pytest.approx(by_hand["extra-easy"] / 1000 - 0.0001)
    assert totals["medium"].buy_g == 0
    assert any(line.what.startswith("us-extra-easy") for line in whole.buy)


def test_copies_take_their_solder_each() -> None:
    one, three = (listed(lantern().model_copy(update={"copies": n})) for n in (1, 3))
    assert [row.mass_mg for row in three.solder] == pytest.approx([3 * row.mass_mg for row in one.solder])


def test_scrap_of_the_same_metal_is_offered_to_balls_and_pours() -> None:
    made = piece(
        part("drop", {"kind": "ball", "diameter_mm": 4}, count=2),
        part("bar", wire(3, 50)),
        work=[{"id": "melt", "kind": "pour", "parts": ["bar"], "mass_g": 5}],
    )
    wanted = 2 * 33.5103 * 0.01036 + 5
    (offer,) = listed(made, scrap=[{"metal": S, "mass_g": 20}, {"metal": "copper", "mass_g": 9}]).scrap
    assert (offer.metal, offer.have_g, offer.wanted_g) == (S, 20, pytest.approx(wanted, abs=1e-4))
    assert "can come from" in offer.text
    assert "for a part of" in listed(made, scrap=[{"metal": S, "mass_g": 1}]).scrap[0].text
    assert listed(made).scrap == ()


def test_the_csv_adds_up() -> None:
    made = lantern()
    rows = list(csv.reader(io.StringIO(cut_list_csv(listed(made)))))
    head = rows[0]
    cuts = [dict(zip(head, row, strict=True)) for row in rows[1 : 1 + len(made.parts)]]
    assert [row["part"] for row in cuts] == [part.title for part in made.parts]
    for row in cuts:
        assert float(row["mass g"]) == pytest.approx(
            float(row["mass each g"]) * int(row["how many"]), abs=1e-3
        )


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.name)
def test_every_example_is_listed_and_its_mass_is_that_of_its_parts(path: Any) -> None:
    made = piece_from_object(json.loads(path.read_text(encoding="utf-8")))
    whole = listed(made)
    assert {row.id for row in whole.rows} <= {part.id for part in made.parts}
    assert all(row.count > 0 and row.mass_g > 0 for row in whole.rows)


def test_the_pdf_has_a_page_for_the_list_and_one_for_each_outline() -> None:
    made = lantern()
    raw = cut_list_pdf(listed(made), made)
    assert raw.startswith(b"%PDF-")
    assert raw.count(b"/Type /Page\n") == 3


def test_an_outline_is_written_at_one_to_one() -> None:
    made = piece(part("plate", rect(30, 20)), part("w", wire(1, 10)))
    svg = outline_svg(made, "plate")
    assert 'width="42.000mm"' in svg
    assert "M1.000 21.000L31.000 21.000L31.000 1.000L1.000 1.000Z" in svg
    assert "h20" in svg
    for name in ("w", "x"):
        with pytest.raises(Refused):
            outline_svg(made, name)


def test_every_cut_list_is_of_the_same_blanks() -> None:
    """A rough wire of 75 for 58, a twist of two, a spare, a bought clasp, a part sawn from another, two copies."""
    plain = {
        "format": "eskel-piece/1",
        "name": "One source",
        "copies": 2,
        "parts": [
            part("band", wire(2, 58), rough=wire(2, 75)),
            part("offcut", wire(2, 10), **{"from": "band"}),
            part("clasp", wire(2, 20), bought_in=True),
            part("rope", wire(0.8, 40, strands=2, pitch_mm=4)),
        ],
        "joins": [{"id": "seam", "kind": "butt", "between": ["band", "band"]}],
        "cuts": [{"id": "spare", "metal": "sterling-925", "form": wire(1, 60), "count": 3}],
    }
    made = piece_from_object(plain)
    planned = plan(made)
    told = [(line.part, line.count, line.blank.length_mm, line.mass_g) for line in planned.cut_list]
    shown = [(row.id, row.count, row.length_mm, row.mass_g) for row in listed(made).rows]
    written = [row[4:6] for row in csv.reader(io.StringIO(cut_list_csv(listed(made))))][1:4]
    assert told == shown
    rope = pytest.approx(40 * math.sqrt(1 + (math.pi * 0.8 / 4) ** 2))
    assert [row[:3] for row in told] == [("band", 2, 75), ("rope", 4, rope), ("spare", 3, 60)]
    assert [int(count) for count, _ in written] == [2, 4, 3]
    assert [float(each) for _, each in written] == pytest.approx([row[2] for row in told], abs=0.01)
