"""Names in sentences: parts and joins as a list in words, and how many are alike."""

from __future__ import annotations

from collections.abc import Iterable

from ..metals import Solder
from ..piece import base_id, part_of
from ..rules import Course, Heat

_GRADE_WORDS = {"it": "enamelling", "extra-easy": "extra easy"}
_NUMBERS = [
    "none",
    "one",
    "two",
    "three",
    "four",
    "five",
    "six",
    "seven",
    "eight",
    "nine",
    "ten",
    "eleven",
    "twelve",
]


def names_of(course: Course, references: tuple[str, ...]) -> str:
    """Write the titles of some parts as a list in words."""
    titles = list(dict.fromkeys(part_of(course.piece, reference).title for reference in references))
    return in_words(titles)


def in_words(names: list[str]) -> str:
    """Write names as a list in words.

    >>> in_words(["rim", "crown", "loop"])
    'rim, crown and loop'
    """
    return (
        "the work"
        if not names
        else names[0]
        if len(names) == 1
        else f"{', '.join(names[:-1])} and {names[-1]}"
    )


def number_in_words(number: int) -> str:
    """Write a whole number as a smith says it: in words up to twelve.

    >>> number_in_words(6), number_in_words(40)
    ('six', '40')
    """
    return _NUMBERS[number] if number < len(_NUMBERS) else f"{number}"


def each_of(number: int) -> str:
    """Say of how many alike something is done; nothing where there is but one.

    >>> each_of(1), each_of(2), each_of(6)
    ('', 'both', 'each of the six')
    """
    return "" if number < 2 else "both" if number == 2 else f"each of the {number_in_words(number)}"


def with_each(text: str, number: int) -> str:
    """Write after some words of how many alike they hold."""
    return f"{text}, {each_of(number)}" if number > 1 else text


def alike_of(course: Course, references: tuple[str, ...], slot: int | None = None) -> int:
    """Give how many of some parts are alike in all copies, and still apart after a slot; 1 a copy where joins tie them."""
    made = [name for name, at in course.made_in.items() if slot is None or at <= slot]
    return course.piece.copies * _many(course, references, made)


def named_each(course: Course, references: tuple[str, ...], slot: int | None = None) -> str:
    """Write the titles of some parts, and how many alike each of them stands for."""
    made = [name for name, at in course.made_in.items() if slot is None or at <= slot]
    counts = {reference: _apart(course, reference, made) for reference in references}
    many = alike_of(course, references, slot)
    if len(set(counts.values())) == 1 or many == course.piece.copies:
        return with_each(names_of(course, references), many)
    each = [
        with_each(names_of(course, (name,)), course.piece.copies * count) for name, count in counts.items()
    ]
    return f"{', '.join(each[:-1])}, and {each[-1]}"


def bodies_alike(course: Course, heat: Heat) -> int:
    """Give how many alike bodies of one piece a heat is made of, which are done one after another and told once."""
    made = [name for name, at in course.made_in.items() if at <= heat.number]
    own = tuple(one for work in course.piece.work if work.id == heat.work for one in work.parts)
    return _many(course, tuple(sorted(heat.body or course.anatomy.of(own))), made)


def _many(course: Course, references: tuple[str, ...], made: list[str]) -> int:
    """Give how many things alike are meant: as many as there are of each, or all of them where they are not as many and lie apart."""
    counts = [_apart(course, reference, made) for reference in references]
    if len(set(counts)) <= 1:
        return counts[0] if counts else 1
    named = {base_id(reference) for reference in references}
    tied = any(
        len(named & {base_id(end) for end in join.between}) > 1
        for join in course.piece.joins
        if join.id in made
    )
    return 1 if tied else sum(counts)


def _apart(course: Course, reference: str, made: list[str]) -> int:
    """Give how many single things a reference stands for, 1 where joins that are made tie them to each other."""
    if "#" in reference:
        return 1
    tied = any(
        set(join.between) == {reference} and join.kind not in ("butt", "fuse")
        for join in course.piece.joins
        if join.id in made
    )
    return 1 if tied else part_of(course.piece, reference).count


def grade_named(solder: Solder, at_hand: Iterable[Solder]) -> str:
    """Name a solder as short as it can be: by its bare grade, where that says which.

    >>> from eskel_core.metals import solders
    >>> grade_named(solders()["us-extra-easy"], [])
    'extra easy'
    """
    named = solder_in_words(solder, at_hand)
    return named if solder.grade == "it" else named.removesuffix(" solder")


def solder_in_words(solder: Solder, at_hand: Iterable[Solder]) -> str:
    """Name a solder by its grade, and whole where another of that grade is at hand.

    >>> from eskel_core.metals import solders
    >>> us, uk = solders()["us-hard"], solders()["uk-hard"]
    >>> solder_in_words(us, [us]), solder_in_words(us, [us, uk])
    ('hard solder', 'hard silver solder, US')
    """
    if solder.family == "copper":
        return "copper-phosphorus rod"
    grade = _GRADE_WORDS.get(solder.grade, solder.grade)
    if any(one.grade == solder.grade and one.id != solder.id for one in at_hand):
        return f"{grade} silver solder, {solder.family.upper()}"
    return f"{grade} solder"
