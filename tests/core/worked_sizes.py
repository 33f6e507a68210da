"""Sizes that were worked by hand: the table that the calculators are held to."""

from __future__ import annotations

import math
from typing import Any

S = "sterling-925"
ROUND = "round"


def square(side: float) -> dict[str, object]:
    return {"kind": "square", "side_mm": side}


def rnd(diameter: float) -> dict[str, object]:
    return {"kind": ROUND, "diameter_mm": diameter}


# (name, input, key, value, tolerance). The first line of each name is the formula sheet's own check value.
WORKED: list[tuple[str, dict[str, Any], str, Any, float]] = [
    ("ring-blank", {"size": "US 9", "thickness_mm": 1.8}, "length_mm", 65.17, 0.005),
    # US 8½: 11.63 + 0.8128 × 8.5 = 18.5388; (18.5388 + 1.4)π = 62.640
    ("ring-blank", {"size": "US 8½", "thickness_mm": 1.4, "width_mm": 3}, "length_mm", 62.640, 0.005),
    # 8 mm wide: 4 over, 2 × 0.25 more inside; (17 + 0.5 + 1.5)π + 0.3 = 59.990
    (
        "ring-blank",
        {"inner_diameter_mm": 17, "thickness_mm": 1.5, "width_mm": 8, "saw_allowance_mm": 0.3},
        "length_mm",
        59.990,
        0.005,
    ),
    (
        "ring-blank",
        {"inner_diameter_mm": 17, "thickness_mm": 1.5, "width_mm": 8},
        "inner_diameter_mm",
        17.5,
        1e-9,
    ),
    ("ring-blank", {"size": 54, "thickness_mm": 2}, "length_mm", 54 + 2 * math.pi, 0.005),
    (
        "jump-rings",
        {"inner_diameter_mm": 4, "wire_mm": 0.9, "count": 50, "kerf_mm": 0.26},
        "length_each_mm",
        15.394,
        0.0005,
    ),
    (
        "jump-rings",
        {"inner_diameter_mm": 4, "wire_mm": 0.9, "count": 50, "kerf_mm": 0.26},
        "wire_total_mm",
        782.7,
        0.05,
    ),
    (
        "jump-rings",
        {"inner_diameter_mm": 4, "wire_mm": 0.9, "count": 50, "kerf_mm": 0.26},
        "aspect_ratio",
        4.44,
        0.005,
    ),
    (
        "bezel-strip",
        {"outline": {"kind": "ellipse", "width_mm": 14, "height_mm": 10}, "thickness_mm": 0.35},
        "length_mm",
        39.06,
        0.005,
    ),
    (
        "bezel-strip",
        {"outline": {"kind": "rect", "width_mm": 12, "height_mm": 8, "corner_mm": 2}, "thickness_mm": 0.3},
        "length_mm",
        37.51,
        0.005,
    ),
    (
        "bezel-strip",
        {"perimeter_mm": 30, "thickness_mm": 0.4, "ease_mm": 0.2},
        "length_mm",
        30.2 + 0.4 * math.pi,
        1e-9,
    ),
    # A right triangle of 3, 4, 5 cm has a perimeter of 120 mm.
    (
        "bezel-strip",
        {"outline": {"kind": "polygon", "points": [[0, 0], [30, 0], [30, 40]]}, "thickness_mm": 0.5},
        "length_mm",
        120 + 0.5 * math.pi,
        1e-6,
    ),
    ("ball", {"metal": S, "ball_mm": 2.2, "wire_mm": 0.9}, "wire_length_mm", 8.764, 0.0005),
    ("ball", {"metal": S, "wire_mm": 1.2, "wire_length_mm": 30}, "ball_mm", 4.017, 0.0005),
    ("ball", {"metal": S, "ball_mm": 4, "wire_mm": 1}, "flat_mm", 2.03, 0.006),
    # 19 gauge is 0.912 mm; 2 × 2.4³ / (3 × 0.912²) = 11.080
    ("ball", {"metal": "copper", "ball_mm": 2.4, "wire_mm": "19 ga"}, "wire_length_mm", 11.08, 0.005),
    # d = √(2 × 27 / (3 × 18)) = 1
    ("ball", {"metal": S, "ball_mm": 3, "wire_length_mm": 18}, "wire_mm", 1.0, 1e-9),
    (
        "balled-end",
        {"metal": S, "wire_mm": 0.8, "ball_mm": 2, "finished_length_mm": 40},
        "consumed_mm",
        8.333,
        0.0005,
    ),
    (
        "balled-end",
        {"metal": S, "wire_mm": 0.8, "ball_mm": 2, "finished_length_mm": 40},
        "cut_length_mm",
        46.333,
        0.0005,
    ),
    # (6 × 0.0008 × 0.93 × 0.6 / (9200 × 9.81))^(1/3) = 3.096e-3 m
    (
        "balled-end",
        {"metal": S, "wire_mm": 0.8, "ball_mm": 2, "finished_length_mm": 40},
        "drop_limit_mm",
        3.096,
        0.0005,
    ),
    ("granules", {"metal": S, "ball_mm": 1.5, "wire_mm": 1, "count": 40}, "wire_total_mm", 90.0, 1e-9),
    # 1 g of sterling ÷ (π/6 × 1.5³ × 0.01036 g) = 54.6: 54 whole balls
    ("granules", {"metal": S, "ball_mm": 1.5, "wire_mm": 1, "mass_g": 1}, "count", 54, 0),
    (
        "granules",
        {"metal": S, "ball_mm": 1.5, "wire_mm": 1, "count": 40, "snip_slip_mm": 0.09},
        "spread_pct",
        4 / 3,
        1e-9,
    ),
    (
        "granules",
        {"metal": S, "ball_mm": 1.5, "wire_mm": 1, "count": 40, "row_mm": 15.5, "row_count": 10},
        "measured_mm",
        1.55,
        1e-9,
    ),
    # a ball of 4 mm has 33.51 mm³
    ("shot", {"metal": S, "cavity_mm3": 33.510, "flash_pct": 0, "wire_mm": 2}, "ball_mm", 4.0, 0.0005),
    (
        "shot",
        {
            "metal": S,
            "outline": {"kind": "disc", "diameter_mm": 6},
            "depth_mm": 1,
            "flash_pct": 10,
            "wire_mm": 2,
        },
        "wire_length_mm",
        9.9,
        1e-9,
    ),
    ("prong", {"metal": S, "reach_mm": 9, "wire_mm": 1, "ball_mm": 1.5}, "snip_mark_mm", 9.75, 1e-9),
    ("prong", {"metal": S, "reach_mm": 9, "wire_mm": 1, "ball_mm": 1.5}, "ball_stop_mark_mm", 7.5, 1e-9),
    # half turn over 6 mm with 0.8 wire: 10.681; right angle at radius 1: π/2 × 1.4 = 2.199
    (
        "ear-wire",
        {
            "wire_mm": 0.8,
            "dowel_mm": 6,
            "ornament_mm": 20,
            "front_mm": 0,
            "drop_mm": 0,
            "bend": "right-angle",
            "bend_radius_mm": 1,
            "spare_mm": 0,
        },
        "cut_length_mm",
        10.681 + 2.199,
        0.001,
    ),
    (
        "ear-wire",
        {
            "wire_mm": 0.8,
            "dowel_mm": 6,
            "ornament_mm": 20,
            "front_mm": 4,
            "drop_mm": 15,
            "tail_mm": 5,
            "bend": "half-angle",
            "bend_radius_mm": 1,
            "spare_mm": 2,
        },
        "cut_length_mm",
        5 + 1.0996 + 4 + 10.681 + 15 + 2,
        0.001,
    ),
    (
        "ear-wire",
        {"wire_mm": 0.8, "dowel_mm": 6, "ornament_mm": 20, "front_mm": 4, "drop_mm": 15, "catch_mm": 9},
        "hidden_mm",
        9.0,
        1e-9,
    ),
    (
        "ear-wire",
        {"wire_mm": 0.8, "dowel_mm": 6, "ornament_mm": 20, "front_mm": 4, "drop_mm": 15, "catch_mm": 9},
        "catch_overlap_mm",
        2.0,
        1e-9,
    ),
    (
        "post",
        {
            "ornament_mm": 12,
            "lobe_mm": 5.5,
            "nut_mm": 2.5,
            "stick_out_mm": 1,
            "post_mm": 0.8,
            "handling_mm": 10,
        },
        "cut_length_mm",
        19.0,
        1e-9,
    ),
    (
        "post",
        {
            "ornament_mm": 12,
            "lobe_mm": 5.5,
            "nut_mm": 2.5,
            "stick_out_mm": 1,
            "post_mm": 0.8,
            "handling_mm": 10,
        },
        "trim_to_mm",
        9.0,
        1e-9,
    ),
    (
        "post",
        {
            "ornament_mm": 12,
            "lobe_mm": 5.5,
            "nut_mm": 2.5,
            "stick_out_mm": 1,
            "post_mm": 0.8,
            "handling_mm": 10,
        },
        "groove_at_mm",
        6.75,
        1e-9,
    ),
    ("post", {"ornament_mm": 12, "lobe_mm": 5.5, "nut_mm": 2.5}, "centre_mm", 6.0, 1e-9),
    (
        "twist",
        {"wire_mm": 1, "strands": 2, "pitch_mm": 6, "finished_length_mm": 100},
        "cut_length_mm",
        112.88,
        0.005,
    ),
    (
        "twist",
        {"wire_mm": 0.8, "strands": 3, "pitch_mm": 8, "finished_length_mm": 100},
        "cut_length_mm",
        106.38,
        0.005,
    ),
    ("twist", {"wire_mm": 0.8, "strands": 3, "pitch_mm": 8}, "outer_mm", 1.724, 0.0005),
    ("twist", {"wire_mm": 0.5, "strands": 7, "pitch_mm": 8}, "outer_mm", 1.5, 1e-9),
    ("dome", {"disc_mm": 18, "thickness_mm": 0.5, "hemisphere": True}, "across_low_mm", 11.46, 0.005),
    ("dome", {"disc_mm": 18, "thickness_mm": 0.5, "hemisphere": True}, "across_high_mm", 12.73, 0.005),
    ("dome", {"disc_mm": 18, "thickness_mm": 0.5, "hemisphere": True}, "punch_mm", 11.73, 0.005),
    # disc 20, 6 deep: a = √(100 − 36) = 8, R = (64 + 36)/12 = 8.33
    ("dome", {"disc_mm": 20, "thickness_mm": 0.5, "depth_mm": 6}, "across_high_mm", 16.0, 1e-9),
    ("dome", {"disc_mm": 20, "thickness_mm": 0.5, "depth_mm": 6}, "hole_mm", 16.667, 0.0005),
    (
        "draw-down",
        {"metal": S, "start": square(3), "end": rnd(1), "length_mm": 100},
        "total_reduction_pct",
        91.3,
        0.05,
    ),
    ("draw-down", {"metal": S, "start": square(3), "end": rnd(1), "mass_g": 40}, "anneals", 3, 0),
    ("draw-down", {"metal": S, "start": square(3), "end": rnd(1), "mass_g": 40}, "end_length_mm", 4916, 0.5),
    (
        "draw-down",
        {"metal": "copper", "from": rnd(2), "to": rnd(1), "length_mm": 100},
        "end_length_mm",
        400.0,
        1e-6,
    ),
    ("pour", {"metal": S, "profile": square(3), "scrap_g": 40, "loss_pct": 0}, "length_mm", 429, 0.05),
    # 6 × 6 × 80 = 2880 mm³ × 10.36 = 29.837 g; ÷ 0.98
    ("pour", {"metal": S, "profile": square(6), "length_mm": 80, "loss_pct": 2}, "mass_g", 29.837, 0.0005),
    ("pour", {"metal": S, "profile": square(6), "length_mm": 80, "loss_pct": 2}, "scrap_g", 30.446, 0.0005),
    (
        "forge",
        {
            "metal": S,
            "before": rnd(2.3),
            "after": {"kind": "rounded", "width_mm": 3.1, "height_mm": 1.4},
            "length_mm": 30,
        },
        "length_mm",
        31.80,
        0.005,
    ),
    (
        "forge",
        {
            "metal": S,
            "before": square(4),
            "after": {"kind": "rect", "width_mm": 5, "height_mm": 2},
            "length_mm": 30,
        },
        "reduction_pct",
        37.5,
        1e-9,
    ),
    (
        "cuff",
        {"wrist_mm": 168, "ease_mm": 6, "opening_mm": 28, "thickness_mm": 2.4},
        "length_mm",
        152.33,
        0.005,
    ),
    ("open-ring", {"size": "US 9", "wire_mm": 1.6, "chord_mm": 7}, "length_mm", 57.40, 0.005),
    # asin(7 / 20.545) = 19.92°
    ("open-ring", {"size": "US 9", "wire_mm": 1.6, "chord_mm": 7}, "end_bevel_deg", 19.92, 0.005),
    # one US size is 0.8128 mm of diameter: 2.553 mm round
    ("resize", {"from": "US 7", "to": "US 8"}, "add_or_remove_mm", 2.553, 0.0005),
    ("resize", {"from": "US 8", "to": "US 7"}, "add_or_remove_mm", -2.553, 0.0005),
    ("scroll", {"outer_mm": 9, "inner_mm": 1, "pitch_mm": 0.7}, "length_mm", 89.76, 0.005),
    ("scroll", {"outer_mm": 9, "inner_mm": 1, "pitch_mm": 0.8}, "turns", 5.0, 1e-9),
    # π × 3.8 + 3 × π × 1.6 + 8 = 11.938 + 15.080 + 8
    (
        "wrapped-loop",
        {"wire_mm": 0.8, "loop_mm": 3, "wraps": 3, "tail_mm": 8},
        "cut_length_mm",
        35.018,
        0.0005,
    ),
    # π × 5.6 + 8
    (
        "bail",
        {"chain_end_mm": 4, "dowel_mm": 5, "width_mm": 3, "thickness_mm": 0.6, "lap_mm": 4},
        "blank_mm",
        25.593,
        0.0005,
    ),
    (
        "bail",
        {"chain_end_mm": 6, "dowel_mm": 5, "width_mm": 3, "thickness_mm": 0.6, "lap_mm": 4},
        "ok",
        False,
        0,
    ),
    ("link-fit", {"bore_mm": 4, "thicknesses_mm": [1.0, 1.2], "links": 3}, "play_mm", 1.8, 1e-9),
    ("link-fit", {"bore_mm": 2.4, "thicknesses_mm": [1.0, 1.2], "play_mm": 0.3}, "fits", False, 0),
    ("layout", {"along": "edge", "length_mm": 40, "count": 4}, "spacing_mm", 10.0, 1e-9),
    ("layout", {"along": "row", "length_mm": 42, "count": 5, "size_mm": 2}, "spacing_mm", 10.0, 1e-9),
    # chord of a hexagon is the radius
    ("layout", {"along": "circle", "diameter_mm": 24, "count": 6}, "spacing_mm", 12.0, 1e-9),
    ("hang", {"parts": [{"mass_g": 2, "x_mm": 10, "y_mm": 10}]}, "tilt_side_deg", 45.0, 1e-9),
    (
        "hang",
        {"parts": [{"mass_g": 1, "y_mm": 10, "z_mm": 10}, {"mass_g": 1, "y_mm": 10, "z_mm": -10}]},
        "tilt_front_deg",
        0.0,
        1e-9,
    ),
    (
        "blank-weight",
        {
            "metal": S,
            "form": {
                "kind": "sheet",
                "thickness_mm": 0.8,
                "outline": {"kind": "rect", "width_mm": 30, "height_mm": 20},
            },
        },
        "mass_g",
        4.973,
        0.0005,
    ),
    (
        "blank-weight",
        {"metal": S, "form": {"kind": "tube", "outer_mm": 4, "wall_mm": 0.4, "length_mm": 6}},
        "mass_g",
        0.2812,
        0.00005,
    ),
    (
        "blank-weight",
        {
            "metal": S,
            "form": {
                "kind": "wire",
                "profile": {"kind": "half-round", "width_mm": 4, "height_mm": 1.5},
                "length_mm": 1,
            },
        },
        "volume_mm3",
        4.419,
        0.0005,
    ),
    (
        "blank-weight",
        {"metal": S, "form": {"kind": "ball", "diameter_mm": 2}, "price_per_g": 2},
        "cost",
        2 * 4.18879 * 0.01036,
        1e-5,
    ),
    ("solder-amount", {"kind": "tee", "wire_mm": 0.9, "fillet_mm": 0.25}, "volume_mm3", 0.0837, 0.00005),
    # 20 × 0.5 seam: (10 × 0.05 + 2 × 0.0625 × 0.2146 × 20) × 1.2 = 1.2438
    ("solder-amount", {"kind": "edge", "length_mm": 20, "width_mm": 0.5}, "volume_mm3", 1.2438, 0.0005),
    ("solder-amount", {"kind": "edge", "length_mm": 20, "width_mm": 0.5}, "chips", 5, 0),
    # 0.5027 mm² of 0.8 wire
    (
        "solder-amount",
        {"kind": "edge", "length_mm": 20, "width_mm": 0.5, "supply": "wire"},
        "feed_mm",
        2.4745,
        0.0005,
    ),
    # hard solder 9.97 mg/mm³, 85 % metal
    (
        "solder-amount",
        {"kind": "edge", "length_mm": 20, "width_mm": 0.5, "supply": "paste"},
        "paste_mg",
        14.589,
        0.005,
    ),
    # middles: 2/0 0.675, 1/0 0.8, 1 0.9
    ("saw", {"thickness_mm": 0.8, "metal": S, "cut_mm": 100}, "blade", "1/0", 0),
    ("saw", {"thickness_mm": 0.8, "metal": S, "cut_mm": 100}, "dust_g", 100 * 0.8 * 0.28 * 0.01036, 1e-9),
    (
        "anneal",
        {"metal": S, "thickness_mm": 1, "reduction_pct": 30, "next_reduction_pct": 30},
        "needed",
        False,
        0,
    ),
    # 1 − 0.65² = 57.75 % > 55 %
    (
        "anneal",
        {"metal": S, "thickness_mm": 1, "reduction_pct": 35, "next_reduction_pct": 35},
        "needed",
        True,
        0,
    ),
    (
        "anneal",
        {"metal": S, "thickness_mm": 1, "reduction_pct": 35, "next_reduction_pct": 35},
        "low_c",
        590.0,
        0,
    ),
    # 4 min at 60 °C; 30 °C colder: × 4; heavy × 1.8; cold piece × 1.4; half spent × 2; × 0.7
    (
        "pickle-time",
        {"pickle": "bisulphate", "bath_c": 30, "copper_g_l": 15, "hot_piece": False, "scale": "heavy"},
        "minutes_low",
        4 * 4 * 1.8 * 1.4 * 2 * 0.7,
        1e-9,
    ),
    ("pickle-time", {"pickle": "bisulphate", "bath_c": 60}, "minutes_high", 6.0, 1e-9),
    ("pickle-time", {"pickle": "bisulphate", "bath_c": 60, "copper_g_l": 15}, "bath_spent_pct", 50.0, 1e-9),
    (
        "bezel-height",
        {
            "seat_mm": 1,
            "wall_mm": 2.2,
            "overlap_mm": 0.5,
            "bezel_outside_mm": 14.7,
            "border_mm": 1,
            "trim_mm": 0.5,
        },
        "height_mm",
        3.7,
        1e-9,
    ),
    (
        "bezel-height",
        {
            "seat_mm": 1,
            "wall_mm": 2.2,
            "overlap_mm": 0.5,
            "bezel_outside_mm": 14.7,
            "border_mm": 1,
            "trim_mm": 0.5,
        },
        "plate_mm",
        17.7,
        1e-9,
    ),
    (
        "bezel-height",
        {"seat_mm": 1, "wall_mm": 2.2, "overlap_mm": 0.5, "loose_mm": 0.2},
        "length_change_mm",
        -0.2 * math.pi,
        1e-9,
    ),
    # round links of 5 inside: (457 − 2) / 5 = 91
    (
        "chain",
        {"link": {"kind": "round", "inner_diameter_mm": 5}, "wire_mm": 1, "length_mm": 457},
        "links",
        91,
        0,
    ),
    (
        "chain",
        {"link": {"kind": "round", "inner_diameter_mm": 5}, "wire_mm": 1, "length_mm": 457},
        "blank_mm",
        6 * math.pi,
        1e-6,
    ),
    (
        "chain",
        {"link": {"kind": "round", "inner_diameter_mm": 5}, "wire_mm": 1, "length_mm": 457, "metal": S},
        "mass_g",
        91 * 6 * math.pi * math.pi / 4 * 0.01036,
        1e-6,
    ),
    (
        "nest",
        {
            "outlines": [{"outline": {"kind": "rect", "width_mm": 10, "height_mm": 10}, "count": 4}],
            "sheet": {"width_mm": 50, "height_mm": 20},
            "kerf_mm": 0,
            "margin_mm": 0,
        },
        "used_pct",
        40.0,
        1e-9,
    ),
    (
        "nest",
        {
            "outlines": [{"outline": {"kind": "rect", "width_mm": 10, "height_mm": 10}, "count": 4}],
            "sheet": {"width_mm": 50, "height_mm": 20},
            "kerf_mm": 0,
            "margin_mm": 0,
        },
        "left_height_mm",
        10.0,
        0.02,
    ),
    # 24 × 1.1 + 3 × 28 − 5 × 1.1 × 0.8
    (
        "cost",
        {"metal": S, "metal_g": 24, "price_per_g": 1.1, "scrap_g": 5, "hours": 3, "labour_per_hour": 28},
        "total",
        106.0,
        1e-9,
    ),
    ("readings", {"readings_mm": [17.2, 17.3, 17.25], "zero_mm": 0.05}, "mean_mm", 17.2, 1e-9),
    # a 10 mm block that reads 10.1 on a gauge closed at 0.1 needs no scaling
    (
        "readings",
        {"readings_mm": [17.3], "zero_mm": 0.1, "block_mm": 10, "block_reads_mm": 10.1},
        "mean_mm",
        17.2,
        1e-9,
    ),
]
