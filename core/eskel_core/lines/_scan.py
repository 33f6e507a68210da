"""A line cut into what it holds: numbers with their units in groups, words and phrases, a name in quotes or before a colon."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field, replace

from ._words import KINDS, MARKS, METALS, NAMING, NUMBERS, ROLES, SECTIONS, SMALL, TEMPERS, singular

_FRACTION = r"(?:\d+[ -])?\d+/(?:2|4|8|16|32|64)(?![\d.,])|\d+\s?[½¼¾⅛⅜⅝⅞]|[½¼¾⅛⅜⅝⅞]"
_PLAIN = r"\d+(?:[.,]\d+)?|[.,]\d+"
_UNIT = r"""mm2|mm²|mm|cm|feet|foot|ft|inch(?:es)?|in(?=\b)|"|″|ga(?:uge)?|awg|dwt|grams?|g(?=\b)"""
_STEP = r"(?:\d+(?:\s?[½¼¾]|[ -]\d/\d(?!\d)|[.,]\d+)?)"
_SIZE = re.compile(
    rf"(?<![a-z])(?:(?:(?:ring\s+)?size\s+)?(?:us|uk|jp|au|gb|iso|eu)\s*(?:{_STEP}|[a-z]\s?(?:½|1/2)?)|(?:ring\s+)?size\s+(?:{_STEP}|[a-z]\s?(?:½|1/2)?))(?![a-z0-9])",
    re.I,
)
_NUMBER = re.compile(rf"(?P<hash>#)?(?P<number>{_FRACTION}|{_PLAIN})\s*(?P<unit>{_UNIT})?", re.I)
_INCHES = frozenset({"in", "inch", "inches", '"', "″"})
_TIMES = re.compile(r"\s*(?:[×*/]|x(?=[\s\d.,½¼¾])|\bby\b)\s*", re.I)
_QUOTED = re.compile(r'“([^”]*)”|(?<![\d½¼¾⅛⅜⅝⅞])"([^"\d][^"]*)"|\'([^\']*)\'')
_CALLED = re.compile(r"^\s*([A-Za-z][\w '&-]{0,59}?)\s*:(?=\s*\S)")
_WORD = re.compile(r"[A-Za-zØø¼½][A-Za-z0-9.-]*|\d+[A-Za-z]+")
_PHRASES = sorted(
    {*KINDS, *METALS, *TEMPERS, *ROLES, *MARKS, *NAMING, *NUMBERS, *SECTIONS, *SMALL}, key=len, reverse=True
)
_PHRASE = re.compile(
    rf"(?:{'|'.join(re.escape(one) + (r'(?:e?s)?' if one in KINDS else '') for one in _PHRASES)})(?![A-Za-z0-9-])",
    re.I,
)


@dataclass(frozen=True)
class Number:
    """A number as typed, with its unit's word or none, where it stands, and whether a × stands before it."""

    text: str
    unit: str
    start: int
    end: int
    times: bool = False

    @property
    def typed(self) -> str:
        """Give it as a quantity is typed."""
        return f"{self.text} {self.unit}".strip()


@dataclass(frozen=True)
class Group:
    """Numbers joined by ×: one or more. One inch in it makes inches of its bare numbers."""

    numbers: tuple[Number, ...]

    @property
    def many(self) -> Number | None:
        """Give what may be how many: a whole number without a unit behind the last ×."""
        last = self.numbers[-1]
        return last if last.times and not last.unit and last.text.isdigit() else None


@dataclass(frozen=True)
class Word:
    """A word or phrase of the line, small letters, with where it stands; `known` where Eskel knows it."""

    text: str
    start: int
    end: int
    known: bool


@dataclass(frozen=True)
class Scanned:
    """What a line holds, in its order, and apart from that its name, count and ring size."""

    tokens: tuple[Group | Word, ...]
    name: str | None = None
    count: int = 1
    size: str | None = None
    spans: dict[str, tuple[int, int]] = field(default_factory=dict)


def scan(line: str) -> Scanned:
    """Cut a line into its tokens.

    >>> scan('2 × wire 21 ga 35 long "Post"').tokens[0]
    Word(text='wire', start=4, end=8, known=True)
    """
    found = Scanned(())
    named = _QUOTED.search(line) or _called(line)
    if named:
        name = next(one for one in named.groups() if one is not None).strip()
        found = replace(found, name=name, spans={"name": named.span()})
        line = _blank(line, named.span())
    size = _SIZE.search(line)
    if size:
        text = re.sub(r"^(?:ring\s+)?size\s+", "", size.group().strip(), flags=re.I)
        if re.match(r"[a-z](?![a-z])", text, re.I):
            # Letters alone are those of the one system that has no numbers.
            text = f"UK {text}"
        found = replace(found, size=text, spans={**found.spans, "size": size.span()})
        line = _blank(line, size.span())
    count, span = _count(line)
    if span:
        found = replace(found, count=count, spans={**found.spans, "count": span})
        line = _blank(line, span)
    return replace(found, tokens=tuple(_grouped(_tokens(line))))


def _called(line: str) -> re.Match[str] | None:
    """Find a name before a colon; what says of itself what the part is ("Bezel: 0.3 × 4 × 38") is read with the rest."""
    called = _CALLED.match(line)
    said = _PHRASE.finditer(line, called.end()) if called else ()
    return called if any(_kind(one.group()) for one in said) else None


def _kind(word: str) -> bool:
    # Strands say how a rope is laid, not what a part is.
    word = word.lower()
    singular = {word, word.removesuffix("s"), word.removesuffix("es")}
    return bool(singular & KINDS.keys()) and "strand" not in singular


def _grouped(tokens: Iterator[tuple[Number | Word, bool]]) -> Iterator[Group | Word]:
    waiting: list[Number] = []
    for token, joined in tokens:
        if waiting and not (joined and isinstance(token, Number)):
            yield _of_one_unit(waiting)
            waiting = []
        if isinstance(token, Number):
            waiting.append(token)
        else:
            yield token
    if waiting:
        yield _of_one_unit(waiting)


def _of_one_unit(numbers: list[Number]) -> Group:
    unit = next((one.unit for one in numbers if one.unit in _INCHES), "")
    return Group(tuple(replace(one, unit=one.unit or unit) for one in numbers))


def _blank(line: str, span: tuple[int, int]) -> str:
    return line[: span[0]] + " " * (span[1] - span[0]) + line[span[1] :]


def _count(line: str) -> tuple[int, tuple[int, int] | None]:
    """Read how many: `2 ×` or `a pair of` before a word, a number before a noun of many, `× 6 pcs` or `… fine × 2` at the end."""
    words = "|".join(NUMBERS)
    first = re.match(
        rf"\s*(?:(\d{{1,4}})\s*(?:[×x*]|(?=\s(?:[a-z-]+\s){{0,2}}[a-z-]+s\b))\s*(?=[a-z(]|\#?\d+\s*(?:ga|gauge|awg)\b)|(?:a\s+)?({words})\s+(?:of\s+)?(?=[a-z]))",
        line,
        re.I,
    )
    if first and not _is_measure(line, first):
        return int(first[1]) if first[1] else NUMBERS[first[2].lower()], first.span()
    last = re.search(r"[,×x*]?\s*(\d{1,4})\s*(?:off|pcs|pieces|alike|of them)\s*$", line, re.I)
    if last:
        return int(last[1]), last.span()
    few = re.search(r"[×x*]\s*(\d)\s*$(?<=[a-z]\s[×x*]\s\d)", line, re.I)
    if few:
        return int(few[1]), few.span()
    return 1, None


def _number(line: str, at: int, found: re.Match[str]) -> Number:
    """Take a number as typed; `20/8` is no fraction, since it is no part of one: two numbers."""
    typed = found["number"]
    over = re.fullmatch(r"(\d+)/(\d+)", typed)
    if over and int(over[1]) >= int(over[2]):
        start = found.start("number")
        return Number(over[1], "", start, start + len(over[1]))
    unit = "ga" if found["hash"] else (found["unit"] or "").lower()
    return Number(typed, unit, at, at + len(found.group().rstrip()))


def _is_measure(line: str, first: re.Match[str]) -> bool:
    """Say whether the number at the beginning is a measure after all: `24 ga sheet`, `20 mm disc`."""
    return first[1] is not None and re.match(rf"\s*\d+\s*(?:{_UNIT})(?![a-z])", line, re.I) is not None


def _tokens(line: str) -> Iterator[tuple[Number | Word, bool]]:
    """Give each number and word, and whether a × stands before it."""
    at, grouped = 0, False
    while at < len(line):
        times = _TIMES.match(line, at)
        if times and at > 0 and line[at:].strip():
            grouped, at = True, times.end()
            continue
        if line[at] in " ,;:()+@":
            at += 1
            continue
        phrase = _PHRASE.match(line, at)
        number = None if phrase and not line[at].isdigit() else _NUMBER.match(line, at)
        if phrase and (number is None or phrase.end() > number.end()):
            yield Word(singular(" ".join(phrase.group().lower().split())), at, phrase.end(), True), grouped
            at, grouped = phrase.end(), False
        elif number:
            read = replace(_number(line, at, number), times=grouped)
            yield read, grouped
            at, grouped = read.end, False
        else:
            word = _WORD.match(line, at)
            end = word.end() if word else at + 1
            text = line[at:end].lower()
            noun = singular(text)
            yield Word(noun, at, end, noun in KINDS), grouped
            at, grouped = end, False
