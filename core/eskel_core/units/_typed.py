"""Objects with texts in them, as a form or a shell sends them: each text is read by the unit that its key carries."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Literal

from ..faults import Fault, Refused
from ._lengths import MM_PER_INCH, read_length
from ._masses import G_PER_DWT, read_mass
from ._reading import METRIC, Reading, Units, refuse_text, split_number
from ._rings import read_ring_size
from ._temperatures import c_of_f, read_temperature

Quantity = Literal["length", "temperature", "mass", "ring-size", "number"]
_DEEPEST = 20


def read_quantity(text: str, quantity: Quantity, path: str = "value", units: Units = METRIC) -> Reading:
    """Read what was typed as a quantity of one kind; raise `Refused` when it makes no sense.

    >>> read_quantity("1205F", "temperature").understood
    '1205 °F = 651.7 °C'
    """
    match quantity:
        case "length":
            return read_length(text, path, units)
        case "temperature":
            return read_temperature(text, path, units)
        case "mass":
            return read_mass(text, path, units)
        case "ring-size":
            return read_ring_size(text, path)
        case "number":
            return _number(text, path)


def read_typed(plain: Any, units: Units = METRIC) -> Any:
    """Read every text of an object whose key ends in a unit (`_mm`, `_g`, `_c`, `_pct`, …); the rest stays.

    Raises `Refused` with every text that could not be read. Bare numbers of lengths may be 0 or below, as a place's
    are; what is allowed where is for the object's own type to say.

    >>> read_typed({"wire_mm": "21 ga", "metal": "copper", "at_mm": ["-1", "1/2 in"]})
    {'wire_mm': 0.723, 'metal': 'copper', 'at_mm': [-1.0, 12.7]}
    """
    faults: list[Fault] = []
    read = _read(plain, "", "", units, faults, _DEEPEST)
    if faults:
        raise Refused(faults)
    return read


def understand(plain: Any, units: Units = METRIC) -> dict[str, str]:
    """Say, for each text of an object that could be read, what it was understood as, by its path.

    >>> understand({"wire_mm": "21 ga", "turns": "3"})
    {'wire_mm': '21 gauge (B&S) = 0.723 mm = 0.02846 in'}
    """
    told: dict[str, str] = {}
    waiting: list[tuple[str, str, Any]] = [("", "", plain)]
    while waiting:
        path, key, value = waiting.pop()
        if isinstance(value, dict):
            waiting += [
                (f"{path}.{name}" if path else str(name), str(name), one) for name, one in value.items()
            ]
        elif isinstance(value, list):
            waiting += [(f"{path}[{n}]", key, one) for n, one in enumerate(value)]
        elif isinstance(value, str) and value.strip():
            words = _understood(key, value, path, units)
            if words:
                told[path] = words
    return told


_SPOKEN: dict[str, Quantity] = {"_mm": "length", "_c": "temperature", "_g": "mass"}


def _understood(key: str, text: str, path: str, units: Units) -> str:
    quantity = next((one for suffix, one in _SPOKEN.items() if key.endswith(suffix)), None)
    if key in ("size", "from", "to"):
        quantity = "ring-size"
    if quantity is None or key.endswith("_per_g"):
        return ""
    try:
        return read_quantity(text, quantity, path, units).understood
    except Refused:
        return ""


def _read(value: Any, key: str, path: str, units: Units, faults: list[Fault], depth: int) -> Any:
    if isinstance(value, dict) and depth:
        return {
            name: _read(inner, str(name), f"{path}.{name}" if path else str(name), units, faults, depth - 1)
            for name, inner in value.items()
        }
    if isinstance(value, list) and depth:
        return [_read(one, key, f"{path}[{n}]", units, faults, depth - 1) for n, one in enumerate(value)]
    reader = next((one for suffix, one in _BY_SUFFIX.items() if key.endswith(suffix)), None)
    if not isinstance(value, str) or reader is None:
        return value
    try:
        return reader(value, path, units)
    except Refused as problem:
        faults.extend(problem.faults)
        return value


def _number(text: str, path: str) -> Reading:
    typed = split_number(text)
    if typed is None or typed[1] not in ("", "%", "°", "deg", "h", "min", "g/l"):
        raise refuse_text(
            "not-a-number", path, text, "a number is wanted here", "Type for example 12 or 0.5."
        )
    return Reading(value=typed[0], understood=f"{typed[0]:g}")


def _bare(
    factor: Callable[[float, Units], float], read: Callable[[str, str, Units], Reading]
) -> Callable[..., float]:
    """Take a bare number in the house's unit, whatever its sign; read anything else."""

    def reader(text: str, path: str, units: Units) -> float:
        typed = split_number(text)
        if typed is not None and typed[1] == "" and typed[0] <= 0:
            return factor(typed[0], units)
        return read(text, path, units).value

    return reader


# Plain numbers first: a price `_per_g` is no mass.
_BY_SUFFIX: dict[str, Callable[[str, str, Units], float]] = dict.fromkeys(
    (
        "_pct",
        "_deg",
        "_mm2",
        "_mm3",
        "_g_l",
        "_per_g",
        "_per_hour",
        "hours",
        "count",
        "spares",
        "strands",
        "wraps",
        "links",
        "turns",
    ),
    lambda text, path, units: _number(text, path).value,
) | {
    "_mm": _bare(
        lambda number, units: number * (MM_PER_INCH if units.length == "inch" else 1.0), read_length
    ),
    "_c": _bare(
        lambda number, units: c_of_f(number) if units.temperature == "f" else number, read_temperature
    ),
    "_g": _bare(lambda number, units: number * (G_PER_DWT if units.mass == "troy" else 1.0), read_mass),
}
