"""The drawings of the calculators are to scale."""

import math

import numpy as np
import pytest

from eskel_core.sizes import calculate, calculators


@pytest.mark.parametrize(
    ("name", "lies"),
    [
        # US 9 is 18.945 mm inside; 1.8 mm on each side; the blank under it
        ("ring-blank", [(22.545, 22.545), (18.945, 18.945), (65.17, 1.8)]),
        ("resize", [(18.54, 18.54), (21.54, 21.54)]),
        # (168 + 6) / π is 55.39 inside, 2.4 mm on each side; the blank is 152.33
        ("cuff", [(60.19, 56.4), (152.33, 2.4)]),
        ("jump-rings", [(4, 4), (5.8, 5.8), (4.9, 4.9)]),
        ("chain", [(6, 3.5), (8, 5.5)]),
        ("twist", [(24, 0.99)]),
        ("wrapped-loop", [(3, 3), (4.6, 4.6)]),
        # a ball of 2.2 mm is 5.575 mm³: 8.76 mm of 0.9 mm wire
        ("ball", [(2.2, 2.2), (8.76, 0.9)]),
        # 38 mm and a ball of 2, whose 4.189 mm³ are 8.33 mm of 0.8 mm wire
        ("balled-end", [(38, 0.8), (2, 2), (46.33, 0.8)]),
        ("prong", [(10.77, 0.9), (1.6, 1.6)]),
        ("granules", [(1.2, 1.2), (4.61, 0.5)]),
        # 42 mm³ as a ball, and as wire of 2 mm
        ("shot", [(4.31, 4.31), (13.37, 2)]),
        ("bail", [(5, 5), (6.2, 6.2), (4, 4)]),
        ("link-fit", [(4, 4), (1, 6), (1.2, 6)]),
        ("bezel-strip", [(14, 10)]),
        ("bezel-height", [(0.4, 3.7), (17.7, 0.8), (14.7, 0)]),
        # a hemisphere out of a disc of 18: 18 / √2 across, half of that deep
        ("dome", [(12.73, 6.36), (18, 0)]),
        ("draw-down", [(3, 3)]),
        ("pour", [(80, 6)]),
        ("forge", [(30, 2.3)]),
        ("nest", [(100, 60), (22, 22)]),
        ("layout", [(24, 24), (1.5, 1.5)]),
        ("readings", [(17.2, 17.2), (17.15, 17.15), (17.25, 17.25)]),
        ("blank-weight", [(30, 20)]),
    ],
)
def test_a_drawing_is_to_scale(name: str, lies: list[tuple[float, float]]) -> None:
    """What the example's drawing shows, each thing as wide and as high as it is, mm."""
    made = calculate(name, dict(calculators()[name].example)).found.sketch
    assert made is not None
    drawn = []
    for outline in made.lines:
        xs, ys = zip(*outline.points, strict=True)
        drawn.append((max(xs) - min(xs), max(ys) - min(ys)))
    for size in lies:
        assert any(one == pytest.approx(size, abs=0.06) for one in drawn), (size, drawn)


def test_a_scroll_is_drawn_from_its_inside_to_its_outside_a_pitch_a_turn() -> None:
    """9 mm across outside, 1 mm inside, 0.7 mm a turn: 4 mm of radius in 5.71 turns."""
    made = calculate("scroll", {"outer_mm": 9, "inner_mm": 1, "pitch_mm": 0.7}).found.sketch
    assert made is not None
    spots = np.array(made.lines[0].points)
    middle = spots[0] - [0.5, 0]  # it begins to the right of its middle
    far = np.hypot(*(spots - middle).T)
    assert far[0] == pytest.approx(0.5, abs=0.02)
    assert far[-1] == pytest.approx(4.5, abs=0.02)
    assert (np.diff(far) > 0).all()
    turned = np.unwrap(np.arctan2(*(spots - middle).T[::-1]))
    assert abs(turned[-1] - turned[0]) / (2 * math.pi) == pytest.approx(4 / 0.7, rel=0.01)
