"""Each number of a line, and the role that a word beside it gives it; what has none is kept in its order."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from ..faults import Refused
from ..units import about, grams, read_length, read_mass, read_ring_size, show_ring_size
from ._line import Line, Tokens, goes_round, is_role, word_at
from ._measures import in_words
from ._scan import Group, Number, Word
from ._words import FIRST_ROLES, NUMBERS, ROLES

_GAUGE = re.compile(r"\b(?:awg|g)$")


def take_numbers(line: Line) -> None:
    """Give each number the role that a word beside it says; keep the rest in their order."""
    told, tokens = line.measures, line.scanned.tokens
    beside = _Beside()
    for n, token in enumerate(tokens):
        if isinstance(token, Group):
            _take_group(line, n, token, beside)
        elif token.text in NUMBERS and ROLES.get(word_at(tokens, n + 1)) == "strands":
            beside.used.add(n + 1)
            told.told["strands"] = NUMBERS[token.text]
            line.note((token.start, token.end), f"{NUMBERS[token.text]} strands")
    last = next((one for one in reversed(tokens) if isinstance(one, Group)), None)
    if last is not None and last.many is not None and line.scanned.count == 1:
        told.many = (last.many.start, last.many.end)
    for n, one in enumerate(tokens):
        alone = isinstance(one, Word) and is_role(tokens, n) and n not in beside.used
        if isinstance(one, Word) and alone and ROLES[one.text] != "around":
            rule, remedy = f"a number stands beside {one.text}", f"Write it: 4 {one.text}."
            raise line.refusal((one.start, one.end), "missing", rule, remedy)
    _take_size_and_count(line)


@dataclass
class _Beside:
    """The words whose number was found, and the groups of numbers that stand behind such a word."""

    used: set[int] = field(default_factory=set)
    behind: set[int] = field(default_factory=set)


def _take_group(line: Line, n: int, group: Group, beside: _Beside) -> None:
    """Take numbers joined by ×: what is gone round, or a role for the first or the last of them, and the rest bare."""
    tokens, numbers = line.scanned.tokens, group.numbers
    before, after = word_at(tokens, n - 1), word_at(tokens, n + 1)
    before = "" if before in ROLES and not is_role(tokens, n - 1) else before
    if _is_gone_round(tokens, n, before):
        line.measures.around = tuple(_length(line, one, "round") for one in numbers)
        line.measures.around_at = [(one.start, one.end) for one in numbers]
        return
    takes_after = after in ROLES and ROLES[after] not in FIRST_ROLES and n + 1 not in beside.used
    if after == "wall" and _stands_before(tokens, n + 1, numbers[-1]):
        takes_after = False
    takes_before = before in ROLES and n - 1 not in beside.used
    # A word between two numbers is of the one that none stands before: `od 6 id 5`.
    own = n < 2 or not isinstance(tokens[n - 2], Group) or n - 2 in beside.behind
    if takes_before and (own or not takes_after):
        beside.used.add(n - 1)
        beside.behind.add(n)
        _take_role(line, numbers[0], ROLES[before])
        numbers = numbers[1:]
    if numbers and takes_after:
        beside.used.add(n + 1)
        _take_role(line, numbers[-1], ROLES[after])
        numbers = numbers[:-1]
    _take_bare(line, numbers)


def _is_gone_round(tokens: Tokens, n: int, before: str) -> bool:
    """Say whether numbers are of what a run goes round: `round 14`, `for a 10 × 8 cab`, `round an oval 14 × 10`."""
    of_oval = before in ("oval", "ellipse") and word_at(tokens, n - 2).startswith(("round", "around", "for"))
    return (before == "round" and goes_round(tokens, n - 1)) or ROLES.get(before) == "around" or of_oval


def _take_size_and_count(line: Line) -> None:
    told = line.measures
    if line.scanned.size is not None:
        told.ring_mm = _ring_size(line, line.scanned.size)
        said = f"inside {about(told.ring_mm, 2)} ({show_ring_size(told.ring_mm)})"
        line.note(line.scanned.spans["size"], said)
    told.count = line.scanned.count
    if "count" in line.scanned.spans:
        line.note(line.scanned.spans["count"], f"{told.count} alike")


def _stands_before(tokens: Tokens, n: int, other: Number) -> bool:
    """Say whether a word between two numbers is of the second: a wall is thinner than what it is the wall of (`tube 5 wall 0.5`)."""
    following = tokens[n + 1] if n + 1 < len(tokens) else None
    if not isinstance(following, Group):
        return False
    try:
        return float(following.numbers[0].text.replace(",", ".")) < float(other.text.replace(",", "."))
    except ValueError:
        return False


def _ring_size(line: Line, text: str) -> float:
    try:
        return read_ring_size(text, "line").value
    except Refused as problem:
        fault = problem.faults[0]
        raise line.refusal(line.scanned.spans["size"], fault.code, fault.rule, fault.remedy) from problem


def _take_bare(line: Line, numbers: tuple[Number, ...]) -> None:
    for one in numbers:
        # What is known by its mass is told in grams; on stock a bare `18g` is its gauge.
        weighed = (
            line.measures.kind in ("lump", "stone")
            or "cast" in line.marks
            or not re.fullmatch(r"\d{1,2}", one.text)
        )
        if one.unit in ("gram", "grams", "dwt") or (one.unit == "g" and weighed):
            line.measures.mass_g = read_mass(one.typed, "line", line.units).value
            line.note((one.start, one.end), f"mass {grams(line.measures.mass_g, 3)}")
        else:
            is_gauge = one.unit.startswith(("g", "awg"))
            line.measures.bare.append((_length(line, one, ""), is_gauge, (one.start, one.end)))


def _take_role(line: Line, number: Number, role: str) -> None:
    if role == "strands":
        line.measures.told[role] = float(number.text)
        line.note((number.start, number.end), f"{number.text} strands")
    else:
        line.measures.told[role] = _length(line, number, role)


def _length(line: Line, number: Number, role: str) -> float:
    try:
        value = read_length(_GAUGE.sub("ga", number.typed), "line", line.units).value
    except Refused as problem:
        fault = problem.faults[0]
        raise line.refusal((number.start, number.end), fault.code, fault.rule, fault.remedy) from problem
    if role:
        line.note((number.start, number.end), in_words(role, value))
    return value
