"""The rules that look at the work as it stands: each act is judged by the state that it meets."""

from __future__ import annotations

from collections.abc import Iterator

from ..state import Act, State, forbidden, to_tell
from ._finding import Finding
from ._registry import speaks


@speaks(
    "remelt-flows",
    "sealed-hollow",
    "sealed-tube",
    "stone-in-heat",
    "contaminated",
    "unknown-metal",
    "hands-full",
    "red-short",
    "wet-mould",
    "wet-hollow",
    "hot-into-acid",
    "steel-in-pickle",
    "wet-on-steel",
    "melts-together",
    on="state",
)
def of_an_act(state: State, act: Act) -> Iterator[Finding]:
    """Give what is forbidden of an act, and what is told of it, by the work as it stands."""
    for remark in (*forbidden(state, act), *to_tell(state, act)):
        # A remedy of the catalogue has no full stop: whoever shows it sets one.
        remedy = remark.remedy.removesuffix(".")
        yield Finding(remark.code, remark.about, remark.text, own_severity=remark.severity, own_remedy=remedy)
