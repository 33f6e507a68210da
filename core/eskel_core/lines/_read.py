"""A line read to a part: what each word and number says of it, and what is taken from the part before."""

from __future__ import annotations

from collections.abc import Iterator

from pydantic import BaseModel, ConfigDict, TypeAdapter, ValidationError

from ..faults import shape_faults
from ..forms import Form
from ..metals import metals
from ..piece import Part
from ..units import METRIC, Units
from ._forms import form_of
from ._line import Line, Understood
from ._numbers import take_numbers
from ._say import take_words
from ._scan import scan
from ._words import PLAIN_NOUNS

_FORM: TypeAdapter[Form] = TypeAdapter(Form)
_FALLBACK_METAL = "sterling-925"
_PART_MARKS = ("spring", "bought_in", "moves", "cast", "touches_skin")


class LineRead(BaseModel):
    """The part that a line tells of; what was understood of it; what was taken from elsewhere, and from where."""

    model_config = ConfigDict(frozen=True)

    part: Part
    understood: tuple[Understood, ...]
    taken: tuple[str, ...]


def read_line(
    text: str,
    last: Part | None = None,
    units: Units = METRIC,
    *,
    base: Part | None = None,
    taken_ids: frozenset[str] = frozenset(),
) -> LineRead:
    """Read a line to a part.

    Metal and thickness that it leaves out come from the `last` part. With `base` it edits that part: what no line tells of
    (its place, what it is cut from) stays. Raises `Refused`, with the stretch of the line (`line[4:9]`) as the path, for a
    word that is not known, and for a measure too many or one that is missing.

    >>> read_line("ball 2.4").part.form.diameter_mm
    2.4
    """
    line = Line(text, units, scan(text))
    take_words(line)
    take_numbers(line)
    form = _form(line, last, base)
    return LineRead(
        part=_part(line, form, last, base, taken_ids),
        understood=tuple(sorted(line.understood, key=lambda one: one.start)),
        taken=tuple(line.taken),
    )


def _form(line: Line, last: Part | None, base: Part | None) -> Form:
    """Make the form; raise `Refused` for what is missing, too much or cannot be."""
    told = line.measures
    told.marks = line.marks
    found = form_of(told, last, base)
    for span, said in found.understood:
        line.note(span, said)
    if found.fault is not None:
        where, code, rule, remedy = found.fault
        raise line.refusal(where or (0, len(line.text)), code, rule, remedy)
    line.taken += found.taken
    try:
        return _FORM.validate_python(found.form)
    except ValidationError as problem:
        fault = shape_faults(problem, found.form, lambda: ())[0]
        raise line.refusal((0, len(line.text)), fault.code, fault.rule, fault.remedy) from problem


def _part(line: Line, form: Form, last: Part | None, base: Part | None, taken_ids: frozenset[str]) -> Part:
    told, name = line.measures, line.scanned.name
    if name is not None:
        line.note(line.scanned.spans["name"], "its name")
    is_stone = told.kind == "stone"
    metal = None if is_stone else line.metal or (base.metal if base else None) or _metal_of(line, last)
    name = name or (base.name if base else "") or _name_of(line)
    plain = base.model_dump(by_alias=True) if base else {"id": _free_id(name, taken_ids)}
    plain |= {"name": name, "metal": metal, "form": form, "count": told.count, "heat_safe": not is_stone}
    if base is not None:
        # The line of a part tells all that a line can: what it does not say is not so.
        plain |= {"spring": False, "bought_in": False, "moves": False, "cast": False, "touches_skin": "none"}
    plain |= {key: line.marks[key] for key in _PART_MARKS if key in line.marks}
    if base is None or line.temper is not None or isinstance(base.temper, str):
        plain["temper"] = line.temper or "soft"
    try:
        return Part.model_validate(plain)
    except ValidationError as problem:
        fault = shape_faults(problem, plain, lambda: ())[0]
        raise line.refusal(
            line.scanned.spans.get(fault.path, (0, len(line.text))), fault.code, fault.rule, fault.remedy
        ) from problem


def _name_of(line: Line) -> str:
    """Name a part by its noun and what tells it from others: `Ear post`, `Bezel cup`; a half-round however it is written."""
    told = line.measures
    noun = told.kind if told.noun in PLAIN_NOUNS and told.kind == "half-round" else told.noun
    if not noun and not line.naming:
        noun = told.kind
    words = {one.start: one.text for one in line.naming if one.text != "blank" or not noun}
    if noun:
        words[told.noun_at] = noun
    return " ".join(words[at] for at in sorted(words)).replace("-", " ").capitalize()


def _metal_of(line: Line, last: Part | None) -> str:
    metal = last.metal if last is not None and last.metal is not None else _FALLBACK_METAL
    whence = (
        f"as {last.title}" if last is not None and last.metal is not None else "since no part was before it"
    )
    line.taken.append(f"{metals()[metal].name}, {whence}")
    return metal


def _free_id(name: str, taken: frozenset[str]) -> str:
    """Give an id made of a name that no other part has."""
    cleaned = "".join(c if c.isascii() and c.isalnum() else " " for c in name.lower())
    base = "-".join(cleaned.split())[:50] or "part"
    return next(one for one in _ids(base) if one not in taken)


def _ids(base: str) -> Iterator[str]:
    yield base
    n = 2
    while True:
        yield f"{base}-{n}"
        n += 1
