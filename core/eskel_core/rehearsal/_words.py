"""A rehearsal in a smith's words."""

from __future__ import annotations

from ..heat import WAIT_S, Aim, Event, Gathered, Sign, Stage
from ..piece import Piece, base_id
from ..rules import Purpose
from ..units import celsius, difference, length
from ._facts import SUPERHEAT_C
from ._types import Habit, Hands, NextOnes, Verdict

_EVENTS = {
    "steam": "water boils off at {about}",
    "crust": "the flux at {about} crusts white",
    "dark": "the flux at {about} turns dark",
    "clear": "the flux at {about} is clear glass",
    "spent": "the flux at {about} is spent before the solder has run",
    "soft": "{about} goes soft",
    "runs-again": "{about} runs again",
    "glistens": "{about} glistens: it begins to melt at its skin",
    "slumps": "{about} slumps",
}
_REACHED = {
    "solder": "the solder of {about} has run",
    "fuse": "{about} fuses",
    "anneal": "{about} has been in its annealing range all over",
    "ball": "{about} melts",
    "melt": "{about} is melted",
}
HABITS: dict[Habit, str] = {
    "best": "The programme",
    "join": "Flame held on the join",
    "even": "Flame circled evenly",
    "light": "Flame on the light part",
}
# What a part or a join does at its limit.
GIVES = {"slumps": "slumps", "runs-again": "runs again"}
_RUNS: dict[Purpose, str] = {
    "solder": "the bright line has run all along",
    "fuse": "the edges flow into one another",
    "anneal": "all of it has been in its range",
    "ball": "it has drawn up",
    "melt": "it is liquid and turns over",
}
_OFF = ("solder", "fuse")
# From so far over its range an anneal is warned of.
GRAIN_C = 60.0
_TOO_LATE = 1.5
_NUMBERS = {
    2: "two",
    3: "three",
    4: "four",
    5: "five",
    6: "six",
    7: "seven",
    8: "eight",
    9: "nine",
    10: "ten",
}
_TENTHS = {3: "three", 4: "four", 5: "five", 6: "six", 7: "seven", 8: "eight", 9: "nine"}


def title_of(piece: Piece, name: str) -> str:
    """Give the title of a part, one of several alike, or a join."""
    for one in (*piece.joins, *piece.parts):
        if one.id == base_id(name):
            number = name.partition("#")[2]
            return f"{one.title} {number}" if number else one.title
    return name


def stage_text(piece: Piece, stage: Stage, seconds: str, purpose: Purpose) -> str:
    """Tell one stage whole: where, from which side, how strong, and until what is seen."""
    side = " from below" if stage.aim.side == "below" else ""
    if stage.aim.kind == "dry":
        where = dry_words(piece, stage.aim)
        return f"Dry the flux: {flame_words(stage.setting)}{side}, {where}, nearer by and by, {until_words(piece, stage.until, purpose)}: {seconds}."
    nearer = ", coming nearer by and by" if stage.nearer > 0 else ""
    words = f"{aim_words(piece, stage.aim)}{side}, {flame_words(stage.setting)}{nearer}"
    return f"{words}, {until_words(piece, stage.until, purpose)}: {seconds}."


def flame_words(setting: float) -> str:
    """Tell how far the flame is open.

    >>> flame_words(1.0), flame_words(0.5), flame_words(0.3)
    ('at full flame', 'at half flame', 'the flame at three tenths')
    """
    if setting >= 0.99:
        return "at full flame"
    tenths = round(setting * 10)
    return "at half flame" if tenths == 5 else f"the flame at {_TENTHS.get(tenths, str(tenths))} tenths"


def until_words(piece: Piece, sign: Sign, purpose: Purpose) -> str:
    """Tell what ends a stage, and that the flame goes off then."""
    off = ", then off at once" if sign.kind == "runs" and purpose in _OFF else ""
    return f"until {see_words(piece, sign, purpose)}{off}"


def see_words(piece: Piece, sign: Sign, purpose: Purpose) -> str:
    """Tell the sign that ends a stage, as it is seen."""
    about = title_of(piece, sign.about) if sign.about else ""
    if sign.seen:
        return sign.seen
    match sign.kind:
        case "crust":
            return "the flux is a white crust and still"
        case "dark":
            return "the flux has turned dark"
        case "clear":
            return f"the flux{f' at {about}' if about else ''} is clear like glass"
        case "glow" if sign.coolest:
            return f"all of {about or 'it'} has shown {_the(sign.word)}"
        case "glow":
            return f"{about or 'it'} first shows {_the(sign.word)}"
        case "range" if sign.word:
            return f"all of {about or 'it'} has shown {_the(sign.word)}"
        case "range":
            return f"all of {about or 'it'} has been in its annealing range"
        case _:
            return _RUNS[purpose]


def _the(word: str | None) -> str:
    """Give a colour with its article: the first dull red, a dull red."""
    if word is None:
        return "a glow"
    return f"the {word}" if word.startswith("first") else f"{'an' if word[0] in 'aeiou' else 'a'} {word}"


def late_words(stage: Stage, slowest_s: float) -> str:
    """Tell what to do when a sign stays away: what the hands did that were rehearsed, and when there is no more to be had.

    `slowest_s` is how long the stage takes nine hands of ten at most: a flame is too small only well after that.
    """
    if stage.nearer > 0:
        return "If it stays away, go on nearer."
    if stage.setting >= 0.99 and stage.aim.kind != "brush":
        late = 10 * max(1, round(_TOO_LATE * slowest_s / 10))
        return f"If it has not come after about {late} s, this flame is too small for it."
    more = "Leave the flame on it longer" if stage.setting >= 0.99 else "Open the flame a tenth more"
    return f"{more} every {WAIT_S:.0f} s that it stays away."


def dry_words(piece: Piece, aim: Aim) -> str:
    """Tell how flux is dried: where, and how much of the time."""
    often = ", in and out" if aim.duty < 1 else ""
    if aim.places:
        return f"well off each place in turn{often}"
    where = f"past the far edge of {title_of(piece, aim.about)}" if aim.about else "round the whole work"
    return f"well off{often}, {where}"


def aim_words(piece: Piece, aim: Aim) -> str:
    """Tell where the flame is."""
    about = title_of(piece, aim.about) if aim.about else ""
    return {
        "dry": "Dry the flux",
        "circle": "Circle the whole work",
        "brush": "Brush the flame to and fro across the whole work, on it a quarter of the time",
        "each": f"Hold the flame on each place{f' of {about}' if about else ''} in turn until it is done",
        "beside": f"At each place{f' of {about}' if about else ''} in turn hold the flame beside it, on the heavier part, until it is done",
        "part": f"Keep the flame moving on {about}",
        "near": f"Keep the flame on {about} beside the join, not on it",
        "far": f"Keep the flame on {about}, away from the join",
        "beyond": f"Keep the flame just past the far edge of {about}, so that only its side plays over it",
        "join": f"Keep the flame on the seam of {about}",
        "walk": f"Walk the flame along {about} from end to end, on as soon as a place is done",
    }[aim.kind]


def event_text(piece: Piece, event: Event, purpose: str) -> str:
    """Tell an event."""
    words = _REACHED[purpose] if event.kind == "reached" else _EVENTS[event.kind]
    return words.format(about=title_of(piece, event.about))


def fails_words(piece: Piece, about: str | None, kind: str) -> str:
    """Tell what a hand spoils, or how it falls short."""
    if kind in ("too-cool", "spent"):
        return "the flux is spent before it has run" if kind == "spent" else "it never comes to that"
    if kind in GIVES:
        return f"{title_of(piece, about) if about else 'it'} {GIVES[kind]}"
    return "the flux boils and throws its chips" if kind == "boils" else "the ball lets go"


def most_often(piece: Piece, hands: Hands) -> str:
    """Tell what goes wrong most often; nothing where nothing does."""
    short = [one for one in hands.marks if one.kind in ("too-cool", "spent")]
    worst = hands.spoilt[0] if hands.spoilt else None
    if worst is None and not hands.short:
        return ""
    if worst is None or hands.short > worst.count:
        spent = sum(one.kind == "spent" for one in short)
        kind = "spent" if 2 * spent > len(short) else "too-cool"
        return f"Most often, in {hands.short}, {fails_words(piece, None, kind)}."
    return f"Most often, in {worst.count}, {fails_words(piece, worst.about, worst.kind)}."


def seconds_words(low: float | None, likely: float, high: float | None) -> str:
    """Tell a time as a band: the quick hands first, the slow ones last, where those come to it at all.

    >>> seconds_words(9.2, 12.6, 19.0), seconds_words(100, 150, None)
    ('about 13 s (9 to 19)', 'about 150 s (from 100)')
    """
    told = f"about {_count(likely)} s"
    if low is not None and high is not None:
        return told if _count(low) == _count(high) else f"{told} ({_count(low)} to {_count(high)})"
    if low is not None:
        return f"{told} (from {_count(low)})"
    return told


def _count(seconds: float) -> str:
    return f"{seconds:.0f}" if seconds >= 2 else f"{max(0.5, round(seconds * 2) / 2):g}"


def grain_words(over_c: float, seconds: float, about: str) -> str:
    """Tell that an anneal goes over its range: a note, from 60 °C on a warning."""
    told = f"{about} is over its annealing range by up to {difference(over_c)}, for {_count(seconds)} s"
    if over_c >= GRAIN_C:
        return f"{told}: its grain grows coarse, and it cracks and wrinkles sooner when it is worked."
    return f"{told}: a little grain growth."


def gathered_line(how: Gathered | None) -> str:
    """Tell how the work was taken to lie where that is not as it is drawn; nothing where it is."""
    if how is None:
        return ""
    if how.how == "coil":
        return f"It is reckoned as wound into a coil about {length(how.across_mm, 0)} across, as long wire is annealed."
    if how.how == "melt":
        return f"It is reckoned as one charge in a crucible, about {length(how.across_mm, 0)} across when it has run together, {difference(SUPERHEAT_C)} over its liquidus to be poured."
    return f"It is reckoned lying loose, a ball of about {length(how.across_mm, 1)} when it has drawn up."


def next_line(bodies: int, following: NextOnes | None) -> str:
    """Tell that bodies alike are done one after another, and how the next go on the warm block; nothing where there is one."""
    if bodies < 2:
        return ""
    lead = f"There are {_NUMBERS.get(bodies, str(bodies))} alike, each in its turn."
    if following is None:
        return lead
    share = f"{following.hands.well} of {following.hands.tried} hands do them well"
    if following.seconds is None:
        return f"{lead} On the warm block {share}."
    return f"{lead} On the warm block the next take about {_count(following.seconds.likely)} s each; {share}."


def verdict_lines(
    piece: Piece,
    verdict: Verdict,
    hands: Hands,
    seconds: str | None,
    tightest: str | None,
    short_c: float,
    settles_c: float | None,
) -> tuple[str, ...]:
    """Tell in a few sentences what a rehearsal found, the one that matters first: the share of hands that do well.

    `settles_c` is given where the flame is too weak; else a programme that falls short kept its limits by doing so.
    """
    share = f"{hands.well} of {hands.tried} hands"
    wrong = most_often(piece, hands)
    if verdict == "never" and settles_c is not None:
        return (
            "It never comes to that with this flame on this surface.",
            f"It settles at {celsius(settles_c)}.",
        )
    if verdict == "never":
        near = f"This way comes nearest, {difference(short_c)} short." if short_c > 0 else wrong
        return "No way was found that comes out well in any hand.", near
    lead = {
        "sure": f"{share} do it well",
        "care": f"With care: {share} do it well",
        "luck": f"By luck only: {share} do it well",
    }
    told = f"{lead[verdict]}, in {seconds}." if seconds else f"{lead[verdict]}."
    return told, wrong, tightest or ""
