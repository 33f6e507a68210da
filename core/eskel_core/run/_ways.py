"""What can be tried where a join did not come out sound: ways to do its heat again, by what went wrong (bench practice)."""

from __future__ import annotations

from collections.abc import Collection

from pydantic import BaseModel, ConfigDict

from ..log import Outcome
from ._events import Way


class WayWord(BaseModel):
    """A way to do a heat again: what is offered, and what is told at its steps."""

    model_config = ConfigDict(frozen=True)

    way: Way
    offered: str
    told: str


WAYS: tuple[WayWord, ...] = (
    WayWord(
        way="flux-and-solder",
        offered="Again, with flux and a touch more solder",
        told="Clean it, flux it anew, and lay a touch more solder where it is missing.",
    ),
    WayWord(
        way="heavy-side",
        offered="Again, more heat on the heavy side",
        told="Bring the heavier side up first and for longer: solder runs to where it is hottest.",
    ),
    WayWord(
        way="another-tip",
        offered="Again, with another tip or torch",
        told="Change the tip or torch first: a larger one where it never came to that, a smaller one where something else was in danger.",
    ),
    WayWord(
        way="pickle-first",
        offered="Into the pot first, then again",
        told="Pickle, rinse and dry it first: solder does not run on spent flux and scale.",
    ),
    WayWord(
        way="apart",
        offered="Take it apart and set it anew",
        told="Warm it until the solder runs and take it apart; pickle, file the faces clean, and set them together anew.",
    ),
    WayWord(
        way="replace-part",
        offered="Replace the part, then again",
        told="Make the part anew and fit it; look at what lay beside it before it is joined.",
    ),
    WayWord(way="close-gap", offered="Close the gap, dry", told="It stays dry: no water, no pot."),
    WayWord(
        way="softer",
        offered="Again, with a softer solder",
        told="The rest stays firm: take the flame off as soon as it runs.",
    ),
    WayWord(
        way="close-again",
        offered="Close it again",
        told="What opened is closed with this heat's solder: no hotter than before.",
    ),
    WayWord(way="again", offered="Do it again", told="The same once more, to its sign."),
    WayWord(way="melt-again", offered="Melt it again", told="All of it is molten before it is poured again."),
    WayWord(
        way="cut-anew",
        offered="Cut it anew",
        told="What is lost or spoilt is made again before it is needed.",
    ),
    WayWord(way="size-again", offered="Work it to size", told="Work it to size, and measure it again."),
    WayWord(
        way="rest", offered="Plan the rest anew", told="What is left is planned anew from the work as it is."
    ),
    WayWord(way="as-it-is", offered="Leave it as it is", told="It goes into the record as it came out."),
)
_FITS: dict[Outcome, tuple[Way, ...]] = {
    "flowed": (),
    "flooded": (),
    "short": ("flux-and-solder", "heavy-side", "pickle-first", "another-tip"),
    "did-not-flow": ("pickle-first", "flux-and-solder", "another-tip", "heavy-side"),
    "moved": ("apart", "flux-and-solder"),
    "opened-another": ("flux-and-solder", "pickle-first"),
    "melted": ("replace-part", "apart"),
}


def ways_for(outcomes: Collection[Outcome]) -> tuple[WayWord, ...]:
    """Give what can be tried after outcomes, what fits the first that is not sound before the rest; nothing where all are sound.

    >>> [one.way for one in ways_for(["flowed", "moved"])]
    ['apart', 'flux-and-solder']
    """
    by_way = {one.way: one for one in WAYS}
    return tuple(by_way[way] for way in dict.fromkeys(way for one in outcomes for way in _FITS.get(one, ())))
