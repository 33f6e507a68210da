"""The piece file: what is written reads again the same, and what is wrong is named."""

import json
from pathlib import Path
from typing import Annotated, Any, Literal

import pytest
from hypothesis import given
from hypothesis import strategies as st
from jsonschema import Draft202012Validator
from pydantic import Field, create_model

from eskel_core.faults import Refused
from eskel_core.piece import (
    House,
    HouseOverrides,
    UnregisteredChoice,
    house_choices,
    parse_piece,
    piece_schema,
    resolve_house,
    write_piece,
)
from eskel_core.piece._choices import choices_of, option, row
from tests.core.pieces import EXAMPLES

LANTERN = json.loads((EXAMPLES[0].parent / "hollow-lantern-drop.eskel.json").read_text(encoding="utf-8"))


def faults_of(plain: object) -> list[tuple[str, str]]:
    with pytest.raises(Refused) as caught:
        parse_piece(json.dumps(plain))
    assert all(fault.rule and fault.remedy for fault in caught.value.faults)
    return [(fault.code, fault.path) for fault in caught.value.faults]


def changed(**steps: Any) -> Any:
    """The lantern with some values set: `parts__0__metal=...`; `...` takes the key out."""
    plain = json.loads(json.dumps(LANTERN))
    for path, value in steps.items():
        keys: list[Any] = [int(key) if key.isdigit() else key for key in path.split("__")]
        here = plain
        for key in keys[:-1]:
            here = here[key]
        if value is ...:
            del here[keys[-1]]
        else:
            here[keys[-1]] = value
    return plain


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.name)
def test_examples_read_and_write_byte_for_byte(path: Path) -> None:
    text = path.read_text(encoding="utf-8")
    assert write_piece(parse_piece(text)) == text


@pytest.fixture(scope="module")
def published() -> Draft202012Validator:
    return Draft202012Validator(piece_schema())


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.name)
def test_examples_satisfy_the_published_schema(path: Path, published: Draft202012Validator) -> None:
    published.validate(json.loads(path.read_text(encoding="utf-8")))


def test_the_schema_refuses_unknown_keys_too(published: Draft202012Validator) -> None:
    assert list(published.iter_errors(changed(colour="red")))


def test_an_override_equal_to_the_shipped_default_is_kept() -> None:
    plain = changed(house={"cooling": "quench-when-black"})
    assert json.loads(write_piece(parse_piece(json.dumps(plain))))["house"] == {
        "cooling": "quench-when-black"
    }


def test_overrides_name_the_same_rules_as_the_house() -> None:
    assert set(House.model_fields) == set(HouseOverrides.model_fields)
    assert resolve_house(HouseOverrides(margin_c=3), HouseOverrides(margin_c=2)).margin_c == 2


def test_every_choice_of_the_house_has_a_row_with_its_words() -> None:
    told = {choice.key: choice for choice in house_choices()}
    assert {key.split(".")[0] for key in told} == set(House.model_fields)
    for key, choice in told.items():
        assert choice.title, key
        assert choice.why or choice.shown != "rules" or all(option.why for option in choice.options), key
        if choice.kind == "number":
            assert choice.low is not None, key
            assert choice.low <= float(choice.default or 0) <= (choice.high or 0), key
        if choice.kind == "option":
            assert choice.default in {option.value for option in choice.options}, key


@pytest.mark.parametrize(
    ("row_", "type_", "says"),
    [
        (row("Torch", shown="numbers", read_by="rules._reach"), float, "does not read it"),
        (row("Torch", shown="numbers", read_by="nowhere"), float, "does not read it"),
        (None, float, "has a row"),
        (
            row("Torch", "", option("yes", "yes"), shown="rules", read_by="rules._temperatures"),
            Literal["yes", "no"],
            "its options are no, yes",
        ),
    ],
)
def test_a_choice_that_nothing_reads_is_refused_when_it_registers(row_: Any, type_: Any, says: str) -> None:
    key = "margin_c" if says == "its options are no, yes" else "torch_hand"
    annotated = type_ if row_ is None else Annotated[type_, row_]
    house = create_model("House", **{key: (annotated, Field(default=None))})
    with pytest.raises(UnregisteredChoice, match=says):
        choices_of(house)


FAULTS = [
    ({"colour": "red"}, "unknown-key", "colour"),
    ({"parts__0__form__thicknes_mm": 1}, "unknown-key", "parts[0].form.thicknes_mm"),
    ({"name": ...}, "missing", "name"),
    ({"parts__0__form": ...}, "missing", "parts[0].form"),
    ({"parts__0__form__outline__kind": ...}, "missing", "parts[0].form.outline.kind"),
    ({"parts__0__form__outline__kind": "square"}, "not-a-choice", "parts[0].form.outline.kind"),
    ({"parts__2__form__profile__side_mm": 0}, "out-of-range", "parts[2].form.profile.side_mm"),
    ({"parts__2__form__profile__side_mm": "1.1"}, "wrong-type", "parts[2].form.profile.side_mm"),
    ({"parts__2__form__profile__side_mm": None}, "wrong-type", "parts[2].form.profile.side_mm"),
    ({"parts__0__form__domed_mm": 12}, "contradiction", "parts[0].form.domed_mm"),
    ({"parts__0__metal": "sterling"}, "unknown-id", "parts[0].metal"),
    ({"parts__0__metal": None}, "contradiction", "parts[0].metal"),
    ({"parts__1__id": "upper"}, "duplicate-id", "parts[1].id"),
    ({"parts__1__id": "up per"}, "bad-id", "parts[1].id"),
    ({"parts__0__count": 0}, "out-of-range", "parts[0].count"),
    ({"parts__0__from": "lower", "parts__1__from": "upper"}, "contradiction", "parts[0].from"),
    ({"joins__0__between": ["upper", "lowest"]}, "unknown-id", "joins[0].between[1]"),
    ({"joins__0__between": ["upper", "lower#2"]}, "unknown-id", "joins[0].between[1]"),
    ({"joins__0__between": ["upper"]}, "out-of-range", "joins[0].between"),
    ({"joins__0__between": ["upper", "lower", "loop"]}, "contradiction", "joins[0].between"),
    ({"joins__1__between": ["upper", "upper"]}, "contradiction", "joins[1].between"),
    ({"joins__0__after": ["rim"]}, "contradiction", "joins[0].after[0]"),
    ({"joins__0__after": ["brim"]}, "unknown-id", "joins[0].after[0]"),
    ({"joins__0__holds": "glue"}, "not-a-choice", "joins[0].holds"),
    ({"joins__1__bound_with": "steel"}, "contradiction", "joins[1].bound_with"),
    ({"joins__0__solder": "us-hardest"}, "unknown-id", "joins[0].solder"),
    ({"joins__0__solder": "us-hard", "joins__0__grade": "easy"}, "contradiction", "joins[0].grade"),
    ({"joins__0__kind": "rivet", "joins__0__grade": "easy"}, "contradiction", "joins[0].grade"),
    ({"work__1__vents": ["lamp"]}, "unknown-id", "work[1].vents[0]"),
    ({"work__0__kind": "anneal", "work__0__parts": []}, "missing", "work[0].parts"),
    ({"bench__torch": "sun"}, "unknown-id", "bench.torch"),
    ({"house__margin_c": -1}, "out-of-range", "house.margin_c"),
    ({"format": "eskel-piece/2"}, "format-newer", "format"),
    ({"format": "recipe"}, "not-a-piece", "format"),
    ({"format": ...}, "missing", "format"),
    (
        {"parts__0__form": {"kind": "tube", "outer_mm": 2, "wall_mm": 1, "length_mm": 5}},
        "contradiction",
        "parts[0].form",
    ),
    (
        {"parts__0__form__outline": {"kind": "polygon", "points": [[0, 0], [5, 5], [5, 0], [0, 5]]}},
        "contradiction",
        "parts[0].form.outline",
    ),
    ({"parts__0__form__outline": {"kind": "path", "path": "what"}}, "not-a-path", "parts[0].form.outline"),
]


@pytest.mark.parametrize(("steps", "code", "path"), FAULTS)
def test_a_fault_is_named_with_its_path(steps: dict[str, Any], code: str, path: str) -> None:
    assert (code, path) in faults_of(changed(**steps))


@pytest.mark.parametrize(
    "text",
    [
        "",
        "{",
        "[]",
        "null",
        "3",
        '{"format": NaN}',
        '{"a": 1, "a": 2}',
        "[" * 100_000,
        '{"format": 1e999}',
        "\ufffe",
    ],
)
def test_what_is_no_piece_is_refused(text: str) -> None:
    with pytest.raises(Refused):
        parse_piece(text)


def test_every_fault_is_told_at_once() -> None:
    plain = changed(parts__0__metal="osmium", parts__1__metal="iridium", joins__0__after=["x"])
    assert len(faults_of(plain)) == 3


junk = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=6,
)
spots = st.sampled_from(
    [
        "name",
        "copies",
        "parts",
        "joins",
        "work",
        "house",
        "bench",
        "metals",
        "parts__0__form",
        "parts__0__form__outline",
        "parts__0__place",
        "parts__0__temper",
        "joins__0__between",
        "joins__0__at",
        "joins__0__shields",
        "work__0__from",
    ]
)


@given(spots, junk)
def test_junk_anywhere_is_read_or_refused_and_never_a_trace(spot: str, value: Any) -> None:
    try:
        piece = parse_piece(json.dumps(changed(**{spot: value})))
    except Refused:
        return
    assert parse_piece(write_piece(piece)) == piece
