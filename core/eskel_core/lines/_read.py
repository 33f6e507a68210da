"""A line read to a part: what each word and number says of it, and what is taken from the part before."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from difflib import get_close_matches
from typing import Any

from pydantic import BaseModel, ConfigDict, TypeAdapter, ValidationError

from ..faults import Fault, Refused, shape_faults
from ..forms import Form
from ..metals import metals
from ..piece import Part
from ..units import METRIC, Units, about, grams, read_length, read_mass, read_ring_size, show_ring_size
from ._forms import Measures, form_of, in_words
from ._scan import Group, Number, Scanned, Word, scan
from ._words import (
    FIRST_ROLES,
    KINDS,
    MARKS,
    METALS,
    NUMBERS,
    PLAIN_NOUNS,
    ROLES,
    SECTIONS,
    SMALL,
    TEMPERS,
    TOGETHER,
)

_FORM: TypeAdapter[Form] = TypeAdapter(Form)
_BENDS = frozenset({"wire", "half-round", "strip", "ring"})
_GAUGE = re.compile(r"\b(?:awg|g)$")
_FALLBACK_METAL = "sterling-925"
_PART_MARKS = ("spring", "bought_in", "moves", "cast", "touches_skin")


class Understood(BaseModel):
    """One stretch of a line, and what it was understood as."""

    model_config = ConfigDict(frozen=True)

    text: str
    said: str
    start: int
    end: int


class LineRead(BaseModel):
    """The part that a line tells of; what was understood of it; what was taken from elsewhere, and from where."""

    model_config = ConfigDict(frozen=True)

    part: Part
    understood: tuple[Understood, ...]
    taken: tuple[str, ...]


@dataclass
class _Line:
    """A line while it is read."""

    text: str
    units: Units
    scanned: Scanned
    metal: str | None = None
    temper: str | None = None
    marks: dict[str, Any] = field(default_factory=dict)
    measures: Measures = field(default_factory=Measures)
    understood: list[Understood] = field(default_factory=list)
    taken: list[str] = field(default_factory=list)

    def note(self, span: tuple[int, int], said: str) -> None:
        """Keep what a stretch of the line was understood as."""
        text = self.text[span[0] : span[1]].strip()
        self.understood.append(Understood(text=text, said=said, start=span[0], end=span[1]))

    def refusal(self, span: tuple[int, int], code: str, rule: str, remedy: str) -> Refused:
        """Make the refusal of a stretch of the line."""
        path = f"line[{span[0]}:{span[1]}]"
        return Refused(
            [Fault(code=code, path=path, value=self.text[span[0] : span[1]], rule=rule, remedy=remedy)]
        )


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
    line = _Line(text, units, scan(text))
    _take_words(line)
    _take_numbers(line)
    form = _form(line, last, base)
    return LineRead(
        part=_part(line, form, last, base, taken_ids),
        understood=tuple(sorted(line.understood, key=lambda one: one.start)),
        taken=tuple(line.taken),
    )


def _take_words(line: _Line) -> None:
    """Let each word say what it says; raise for the first that is not known."""
    tokens = line.scanned.tokens
    bends = any(isinstance(one, Word) and KINDS.get(one.text) in _BENDS for one in tokens)
    for n, token in enumerate(tokens):
        if isinstance(token, Group):
            continue
        word, span = token.text, (token.start, token.end)
        before_number = n + 1 < len(tokens) and isinstance(tokens[n + 1], Group)
        if word in METALS:
            line.metal = METALS[word]
            line.note(span, metals()[line.metal].name)
        elif word in TEMPERS:
            line.temper = TEMPERS[word]
            line.note(span, f"{line.temper.replace('-', ' ')} temper")
        elif word in MARKS:
            key, value = MARKS[word]
            line.marks[key] = value
            line.note(span, word)
        elif (
            word in ROLES or word in SMALL or word in NUMBERS or (word == "round" and before_number and bends)
        ):
            continue
        elif word in ("oval", "ellipse") and bends:
            line.measures.around_oval = True
            line.note(span, "round an oval")
        elif word in SECTIONS and word not in KINDS:
            line.measures.section = SECTIONS[word]
            line.note(span, word)
        elif token.known:
            _take_noun(line, token)
        else:
            raise _unknown(line, token)


def _take_noun(line: _Line, token: Word) -> None:
    """Let a noun say what kind of part it is; two that go together tell of one part."""
    told, kind, span = line.measures, KINDS[token.text], (token.start, token.end)
    if kind == "stone" and told.kind in _BENDS:
        # A bezel for a 14 × 10 cabochon: the stone is what it goes round.
        told.around_oval = True
        line.note(span, "the stone that it goes round")
        return
    if told.kind and told.kind != kind and (told.kind, kind) not in TOGETHER:
        rule = f"a line tells of one part, and this one is a {told.noun}"
        raise line.refusal(span, "not-understood", rule, "Write a line for each part.")
    if "ring" in (kind, told.kind) and {kind, told.kind} & {"half-round", "strip", "wire"}:
        line.marks.setdefault("closed", True)
    told.kind = TOGETHER.get((told.kind, kind), kind)
    if told.noun in ("", *PLAIN_NOUNS):
        told.noun = token.text
    line.note(span, token.text)


def _unknown(line: _Line, token: Word) -> Refused:
    known = [*KINDS, *METALS, *TEMPERS, *ROLES, *MARKS, *SECTIONS]
    near = get_close_matches(token.text, known, n=1, cutoff=0.55)
    remedy = f"Did you mean {near[0]}?" if near else 'Take it out, or put it in quotes as the name: "Back".'
    return line.refusal(
        (token.start, token.end), "not-understood", "each word is one that Eskel knows", remedy
    )


def _take_numbers(line: _Line) -> None:
    """Give each number the role that a word beside it says; keep the rest in their order."""
    told, used = line.measures, set[int]()
    tokens = line.scanned.tokens
    for n, token in enumerate(tokens):
        if not isinstance(token, Group):
            continue
        before, after = _word(tokens, n - 1), _word(tokens, n + 1)
        if before in ("round", "around", "round a", "round an", "for a") or (
            before in ("oval", "ellipse") and _word(tokens, n - 2).startswith(("round", "around", "for"))
        ):
            told.around = tuple(_length(line, one, "round") for one in token.numbers)
            continue
        *others, edge = token.numbers
        if after in ROLES and ROLES[after] not in FIRST_ROLES and n + 1 not in used:
            used.add(n + 1)
            _take_bare(line, tuple(others))
            _take_role(line, edge, ROLES[after])
        elif before in ROLES and n - 1 not in used:
            used.add(n - 1)
            first, *rest = token.numbers
            _take_role(line, first, ROLES[before])
            _take_bare(line, tuple(rest))
        else:
            _take_bare(line, token.numbers)
    for n, one in enumerate(tokens):
        if isinstance(one, Word) and one.text in ROLES and n not in used and ROLES[one.text] != "around":
            raise line.refusal(
                (one.start, one.end),
                "missing",
                f"a number stands beside {one.text}",
                f"Write it: 4 {one.text}.",
            )
    if line.scanned.size is not None:
        told.ring_mm = _ring_size(line, line.scanned.size)
        line.note(
            line.scanned.spans["size"], f"inside {about(told.ring_mm, 2)} ({show_ring_size(told.ring_mm)})"
        )
    told.count = line.scanned.count
    if "count" in line.scanned.spans:
        line.note(line.scanned.spans["count"], f"{told.count} alike")


def _ring_size(line: _Line, text: str) -> float:
    try:
        return read_ring_size(text, "line").value
    except Refused as problem:
        fault = problem.faults[0]
        raise line.refusal(line.scanned.spans["size"], fault.code, fault.rule, fault.remedy) from problem


def _word(tokens: tuple[Group | Word, ...], n: int) -> str:
    token = tokens[n] if 0 <= n < len(tokens) else None
    return token.text if isinstance(token, Word) else ""


def _take_bare(line: _Line, numbers: tuple[Number, ...]) -> None:
    for one in numbers:
        # What is known by its mass is told in grams; on stock a bare `18g` is its gauge.
        weighed = line.measures.kind in ("lump", "stone") or not re.fullmatch(r"\d{1,2}", one.text)
        if one.unit in ("gram", "grams", "dwt") or (one.unit == "g" and weighed):
            line.measures.mass_g = read_mass(one.typed, "line", line.units).value
            line.note((one.start, one.end), f"mass {grams(line.measures.mass_g, 3)}")
        else:
            is_gauge = one.unit.startswith(("g", "awg"))
            line.measures.bare.append((_length(line, one, ""), is_gauge, (one.start, one.end)))


def _take_role(line: _Line, number: Number, role: str) -> None:
    if role == "strands":
        line.measures.told[role] = float(number.text)
        line.note((number.start, number.end), f"{number.text} strands")
    else:
        line.measures.told[role] = _length(line, number, role)


def _length(line: _Line, number: Number, role: str) -> float:
    try:
        value = read_length(_GAUGE.sub("ga", number.typed), "line", line.units).value
    except Refused as problem:
        fault = problem.faults[0]
        raise line.refusal((number.start, number.end), fault.code, fault.rule, fault.remedy) from problem
    if role:
        line.note((number.start, number.end), in_words(role, value))
    return value


def _form(line: _Line, last: Part | None, base: Part | None) -> Form:
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


def _part(line: _Line, form: Form, last: Part | None, base: Part | None, taken_ids: frozenset[str]) -> Part:
    told, name = line.measures, line.scanned.name
    if name is not None:
        line.note(line.scanned.spans["name"], "its name")
    is_stone = told.kind == "stone"
    metal = None if is_stone else line.metal or (base.metal if base else None) or _metal_of(line, last)
    name = name or (base.name if base else "") or _name_of(told)
    plain = base.model_dump(by_alias=True) if base else {"id": _free_id(name, taken_ids)}
    plain |= {"name": name, "metal": metal, "form": form, "count": told.count, "heat_safe": not is_stone}
    if base is not None:
        # The line of a part tells all that a line can: what it does not say is not so.
        plain |= {"spring": False, "bought_in": False, "moves": False, "cast": False, "touches_skin": "none"}
    plain |= {key: line.marks[key] for key in _PART_MARKS if key in line.marks}
    if base is None or line.temper is not None or isinstance(base.temper, str):
        plain["temper"] = line.temper or "soft"
    return Part.model_validate(plain)


def _name_of(told: Measures) -> str:
    """Name a part by its noun: a half-round however it is written."""
    noun = told.kind if told.noun in PLAIN_NOUNS and told.kind == "half-round" else told.noun or told.kind
    return noun.replace("-", " ").capitalize()


def _metal_of(line: _Line, last: Part | None) -> str:
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
