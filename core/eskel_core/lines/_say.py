"""Each word of a line, and what it says: a metal, a temper, a mark, a section, a part of the name, the noun."""

from __future__ import annotations

from difflib import get_close_matches

from ..faults import Refused
from ..metals import metals
from ._line import BENDS, Line, goes_round, is_role, names
from ._scan import Group, Word
from ._words import (
    KINDS,
    MARKS,
    METALS,
    NAMING,
    NUMBERS,
    PLAIN_NOUNS,
    ROLES,
    SECTIONS,
    SHEET_NAMES,
    SMALL,
    TEMPERS,
    TOGETHER,
)


def take_words(line: Line) -> None:
    """Let each word say what it says; raise for the first that is not known."""
    tokens = line.scanned.tokens
    bends = any(isinstance(one, Word) and KINDS.get(one.text) in BENDS for one in tokens)
    for n, token in enumerate(tokens):
        if isinstance(token, Group):
            continue
        word, span = token.text, (token.start, token.end)
        if word in NAMING or names(tokens, n):
            line.naming.append(token)
            line.note(span, "in its name")
        elif word in METALS:
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
            is_role(tokens, n)
            or word in SMALL
            or word in NUMBERS
            or (word == "round" and goes_round(tokens, n))
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
    if (
        not line.measures.kind
        and not line.measures.section
        and {one.text for one in line.naming} & SHEET_NAMES
    ):
        line.measures.kind = "rect"


def _take_noun(line: Line, token: Word) -> None:
    """Let a noun say what kind of part it is; two that go together tell of one part."""
    told, kind, span = line.measures, KINDS[token.text], (token.start, token.end)
    if kind == "stone" and told.kind in BENDS:
        # A bezel for a 14 × 10 cabochon: the stone is what it goes round.
        told.around_oval = True
        line.note(span, "the stone that it goes round")
        return
    if told.kind and told.kind != kind and (told.kind, kind) not in TOGETHER:
        rule = f"a line tells of one part, and this one is a {told.noun}"
        raise line.refusal(span, "not-understood", rule, "Write a line for each part.")
    if "ring" in (kind, told.kind) and {kind, told.kind} & {"half-round", "strip", "wire"}:
        line.marks.setdefault("closed", True)
    told.of_wire = told.of_wire or kind == "wire"
    told.kind = TOGETHER.get((told.kind, kind), kind)
    if told.noun in ("", *PLAIN_NOUNS):
        told.noun, told.noun_at = token.text, token.start
    line.note(span, token.text)


def _unknown(line: Line, token: Word) -> Refused:
    known = [*KINDS, *METALS, *TEMPERS, *ROLES, *MARKS, *SECTIONS, *NAMING]
    near = get_close_matches(token.text, known, n=1, cutoff=0.55)
    remedy = f"Did you mean {near[0]}?" if near else 'Take it out, or put it in quotes as the name: "Back".'
    return line.refusal(
        (token.start, token.end), "not-understood", "each word is one that Eskel knows", remedy
    )
