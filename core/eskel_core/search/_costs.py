"""What one plan costs against another, in words: what a move by hand falls short of the best by."""

from __future__ import annotations

from ..units import difference as kelvin
from ._objectives import LARGEST, OBJECTIVES, ObjectiveValue

_COUNTED = {
    "joins-run-again": (
        "join more runs again",
        "joins more run again",
        "join fewer runs again",
        "joins fewer run again",
    ),
    "heats": ("heat more", "heats more", "heat fewer", "heats fewer"),
    "rounds": ("round more", "rounds more", "round fewer", "rounds fewer"),
    "soft-while-loaded": (
        "join more is soft while something pulls on it",
        "joins more are soft while something pulls on them",
        "join fewer is soft while something pulls on it",
        "joins fewer are soft while something pulls on them",
    ),
    "protected": (
        "join more to protect",
        "joins more to protect",
        "join fewer to protect",
        "joins fewer to protect",
    ),
    "near-melting": (
        "heat more comes near to the melting of something thin",
        "heats more come near to the melting of something thin",
        "heat fewer comes near to the melting of something thin",
        "heats fewer come near to the melting of something thin",
    ),
    "solders": ("solder more", "solders more", "solder fewer", "solders fewer"),
}
_FLOWS = {
    "flow-of-chosen": "the solder of seams that show or bear load flows {degrees} {way} in all",
    "flow-of-rest": "the solder of the other joins flows {degrees} {way} in all",
}


def cost_in_words(best: tuple[ObjectiveValue, ...], found: tuple[ObjectiveValue, ...]) -> str:
    """Say by how much one plan falls short of another, in the order of preference; empty where it does not."""
    losses: list[str] = []
    gains: list[str] = []
    for one, other in zip(best, found, strict=True):
        difference = round(other.value - one.value)
        if difference:
            # What differs first is a loss: the best is the best. After it more is worse, but of flow points.
            gain = bool(losses) and (difference > 0) == (one.name in LARGEST)
            (gains if gain else losses).append(_in_words(one.name, difference))
    return ", ".join(losses) + (f", though {' and '.join(gains)}" if gains else "")


def is_as_good(best: tuple[ObjectiveValue, ...], found: tuple[ObjectiveValue, ...]) -> bool:
    """Say whether a plan reaches the same numbers as another."""
    return all(one.value == other.value for one, other in zip(best, found, strict=True))


def _in_words(name: str, difference: int) -> str:
    if name in LARGEST:
        way = "softer" if difference < 0 else "harder"
        return _FLOWS[name].format(degrees=kelvin(abs(difference)), way=way)
    one, more, one_less, fewer = _COUNTED[name]
    words = (
        (one if difference == 1 else more) if difference > 0 else (one_less if difference == -1 else fewer)
    )
    return f"{abs(difference)} {words}"


assert set(_COUNTED) | set(_FLOWS) == set(OBJECTIVES)
