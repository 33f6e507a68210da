"""The tiers of the core's tests: of long tables a fixed sample is tried by `bin/test`; all of it by `bin/bench whole`.

A row of `SAMPLES` names the cases that stay, by their ids; the others are marked `whole`. Of what is in `WHOLE` nothing stays.
"""

from __future__ import annotations

import pytest

# Cases by their ids: one of each kind of work, and what has failed before.
SAMPLES = {
    "test_common_work_comes_out_well_in_its_time": (
        "jump ring-butane-kitchen",
        "jump ring, copper-acetylene-air-small",
        "bezel-propane-air-small",
        "copper ring in tweezers-butane-kitchen",
        "post, us-easy-acetylene-air-small",
        "ring on ball-oxy-propane-medium",
        "dozen balls-butane-kitchen",
        "box-propane-air-large",
    ),
    "test_common_anneals": ("part1-butane-kitchen-charcoal-0.875-seconds1",),
    "test_an_odd_part_has_an_honest_answer": ("part2",),
    "test_a_start_comes_out_well_on_the_demo_bench": ("tube-hung",),
    "test_the_hardest_of_many_draws_come_out_with_care": ("scroll-work-told7-2", "chain-told3-2"),
    "test_hands_by_another_generator_fare_about_as_well": ("ring",),
    "test_a_programme_can_be_followed": ("band",),
    "test_no_programme_is_better_than_it_could_be_by_some_of_its_hands": ("those2",),
    "test_an_example_is_planned_from_each_of_its_rounds": (
        "hollow-lantern-drop.eskel",
        "reed-brooch.eskel",
        "stone-set-finial.eskel",
        "swivel-cufflinks.eskel",
    ),
    "test_a_plan_pick_by_pick_keeps_every_order": ("22",),
}
WHOLE = {
    "test_a_row_of_sixty_joins_takes_the_fewest_heats_that_there_can_be",
    "test_something_that_helps_comes_first",
    "test_what_helps_a_ball_is_asked_of_the_ball",
    "test_the_same_input_gives_the_same_output",
}


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Mark what is tried whole only; a sample that names no case is a mistake."""
    seen: dict[str, set[str]] = {}
    for item in items:
        name, _, case = item.name.partition("[")
        seen.setdefault(name, set()).add(case.removesuffix("]"))
        kept = SAMPLES.get(name)
        if name in WHOLE or (kept is not None and case.removesuffix("]") not in kept):
            item.add_marker("whole")
    for name, kept in SAMPLES.items():
        unknown = set(kept) - seen.get(name, set(kept)) if len(seen.get(name, ())) > len(kept) else set()
        assert not unknown, f"{name} has no case {', '.join(sorted(unknown))}"
