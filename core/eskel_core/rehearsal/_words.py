"""A rehearsal in a smith's words."""

from __future__ import annotations

from ..heat import Aim, Event, Gathered, Stage
from ..piece import Piece, base_id
from ..units import celsius, difference, length
from ._types import Habit, Verdict

_EVENTS = {
    "steam": "water boils off at {about}",
    "crust": "the flux at {about} crusts white",
    "dark": "the flux at {about} turns dark",
    "clear": "the flux at {about} is clear glass",
    "spent": "the flux at {about} is spent",
    "soft": "{about} goes soft",
    "runs-again": "{about} runs again",
}
_REACHED = {
    "solder": "the solder of {about} has run",
    "fuse": "{about} fuses",
    "anneal": "{about} is in its annealing range all over",
    "ball": "{about} melts",
    "melt": "{about} is melted",
}
HABITS: dict[Habit, str] = {
    "best": "The programme",
    "join": "Flame held on the join",
    "even": "Flame circled evenly",
    "light": "Flame on the light part",
}


def title_of(piece: Piece, name: str) -> str:
    """Give the title of a part, one of several alike, or a join."""
    for one in (*piece.joins, *piece.parts):
        if one.id == base_id(name):
            number = name.partition("#")[2]
            return f"{one.title} {number}" if number else one.title
    return name


def stage_text(piece: Piece, stage: Stage, seconds: str, last: bool, until: str) -> str:
    """Tell one stage whole: where, from which side, how strong, how long."""
    words = aim_words(piece, stage.aim)
    side = " from below" if stage.aim.side == "below" else ""
    strength = "" if stage.setting >= 0.99 else f", the flame turned down to {stage.setting * 10:.0f} tenths"
    end = (
        f", {seconds}" if not last else f": {seconds}" if stage.aim.places else f", until {until}: {seconds}"
    )
    return f"{words}{side}{strength}{end}."


def aim_words(piece: Piece, aim: Aim) -> str:
    """Tell where the flame is."""
    about = title_of(piece, aim.about) if aim.about else ""
    return {
        "circle": "Circle the whole work",
        "brush": "Brush the flame to and fro across the whole work, on it a quarter of the time",
        "each": f"Hold the flame on each place{f' of {about}' if about else ''} in turn until it is done",
        "beside": f"At each place{f' of {about}' if about else ''} in turn hold the flame beside it, on the heavier part, until it is done",
        "part": f"Keep the flame moving on {about}",
        "near": f"Keep the flame on {about} beside the join, not on it",
        "far": f"Keep the flame on {about}, away from the join",
        "beyond": f"Keep the flame just past the far edge of {about}, so that only its side plays over it",
        "join": f"Keep the flame on the seam of {about}",
    }[aim.kind]


def fails_words(kind: str, purpose: str) -> str:
    """Tell what a part or a join does at its limit: an anneal is passed long before the metal melts."""
    if kind == "join":
        return "runs again"
    return "is past its annealing range" if purpose == "anneal" else "begins to melt"


def event_text(piece: Piece, event: Event, purpose: str) -> str:
    """Tell an event."""
    if event.kind == "reached":
        words = _REACHED[purpose]
    elif event.kind == "melts":
        words = "{about} " + fails_words("part", purpose)
    else:
        words = _EVENTS[event.kind]
    return words.format(about=title_of(piece, event.about))


def seconds_words(low: float | None, likely: float, high: float | None) -> str:
    """Tell a time as a band: a strong torch first, a weak one last.

    >>> seconds_words(9.2, 12.6, 19.0), seconds_words(100, 150, None)
    ('about 13 s (9 to 19)', 'about 150 s (100 with a strong flame; with a weak one perhaps never)')
    """
    told = f"about {_count(likely)} s"
    if low is not None and high is not None:
        return told if _count(low) == _count(high) else f"{told} ({_count(low)} to {_count(high)})"
    if low is not None:
        return f"{told} ({_count(low)} with a strong flame; with a weak one perhaps never)"
    return told


def _count(seconds: float) -> str:
    return f"{seconds:.0f}" if seconds >= 2 else f"{max(0.5, round(seconds * 2) / 2):g}"


def gathered_line(how: Gathered | None) -> str:
    """Tell how the work was taken to lie where that is not as it is drawn; nothing where it is."""
    if how is None:
        return ""
    if how.how == "coil":
        return f"It is reckoned as wound into a coil about {length(how.across_mm, 0)} across, as long wire is annealed."
    return f"It is reckoned as one charge, about {length(how.across_mm, 0)} across when it has run together."


def verdict_lines(
    verdict: Verdict,
    what: str,
    seconds: str | None,
    tightest: str | None,
    short_c: float,
    settles_c: float | None,
) -> tuple[str, ...]:
    """Tell in one or two sentences what a rehearsal found, the one that matters first.

    `settles_c` is given where the flame is too weak; else a programme that falls short kept its limits by doing so.
    """
    match verdict:
        case "flows":
            return f"{what} after {seconds}.", tightest or ""
        case "tight":
            return f"{what} after {seconds}, but only just.", tightest or ""
        case "harms":
            return "Something is lost.", tightest or ""
        case "never" if settles_c is not None:
            return (
                "It never comes to that with this flame on this surface.",
                f"It settles at {celsius(settles_c)}.",
            )
        case "never":
            return (
                "No way was found that spares everything.",
                f"This one comes nearest, {difference(short_c)} short.",
            )
