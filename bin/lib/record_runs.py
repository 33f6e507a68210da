"""Write down what runs look like by their events, to hold the web's own fold to the core's: tests/shared/runs.json;
and what signs say of today: tests/shared/today.json.

Run on what bin/test has set up:

    PYTHONPATH=core .venv/bin/python bin/lib/record_runs.py

One run as it is carried out, and others, drawn from a seed, in which two devices whose clocks differ press what they like. A
test of the core holds the file to the core, one of the web its own fold to the file.
"""

from __future__ import annotations

import json
import random
from dataclasses import asdict
from pathlib import Path
from typing import Any

from eskel_core.run import Face, read_event, run_state, told_anew

ROOT = Path(__file__).parents[2]
DRAWN, MOST_EVENTS = 40, 28
FACES = (
    Face(kind="prepare", confirm=True),
    Face(kind="heat", joins=("a", "b"), stages=3),
    Face(kind="prepare"),
    Face(kind="prepare"),
    Face(kind="heat", joins=("c",), each=(3,), stages=2),
    Face(kind="heat", work="soften", words="anneal", alike=2, stages=1),
    Face(kind="cool", waits_low_ms=60_000, waits_high_ms=60_000),
    Face(kind="pickle", waits_low_ms=180_000, waits_high_ms=420_000),
    Face(kind="inspect", checks=2),
    Face(kind="work", alike=27),
    Face(kind="work", extra=True),
    Face(kind="heat", joins=("b", "c"), each=(1, 3), extra=True),
)
Told = tuple[str, dict[str, Any]]
CARRIED_OUT: tuple[Told, ...] = (
    ("note", {"turn": "1", "text": "thin flux"}),
    ("next", {"turn": "1", "confirmed": True}),
    ("lit", {"turn": "2"}),
    ("sign", {"turn": "2", "stage": 1}),
    ("sign", {"turn": "2", "stage": 2}),
    ("off", {"turn": "2"}),
    ("outcome", {"turn": "2", "join": "a", "outcome": "flowed"}),
    ("outcome", {"turn": "2", "join": "b", "outcome": "did-not-flow"}),
    (
        "again",
        {"turn": "2", "ways": ["pickle-first", "flux-and-solder"], "joins": ["b"]},
    ),
    ("next", {"turn": "7.2"}),
    ("next", {"turn": "8.2"}),
    ("next", {"turn": "1.2", "confirmed": True}),
    ("lit", {"turn": "2.2"}),
    ("outcome", {"turn": "2.2", "join": "b", "outcome": "short"}),
    ("outcome", {"turn": "2.2", "join": "b", "outcome": "flowed"}),
    ("undo", {"of": "tablet-a-0015"}),
    ("next", {"turn": "2.2"}),
    ("next", {"turn": "3"}),
    ("next", {"turn": "4"}),
    ("outcome", {"turn": "5", "join": "c", "outcome": "flowed"}),
    ("outcome", {"turn": "5", "join": "c", "outcome": "short", "copies": [3]}),
    ("next", {"turn": "5"}),
    ("outcome", {"turn": "6", "join": "soften", "outcome": "still-hard", "copies": [2]}),
    ("next", {"turn": "6"}),
    ("next", {"turn": "7"}),
    ("next", {"turn": "8"}),
    ("look", {"turn": "9", "check": 1, "passes": False}),
    ("again", {"turn": "9", "of": "5", "ways": ["heavy-side"]}),
    ("measure", {"turn": "9", "what": "mass_g", "value": 12.5}),
    ("tally", {"turn": "10", "done": 14, "lost": 2}),
    ("note", {"turn": "1", "text": "thin flux; wet", "replaces": "tablet-a-0001"}),
    ("stop", {"turn": "3.2"}),
    ("next", {"turn": "3.2", "confirmed": True}),
)


def main() -> None:
    """Write the file."""
    carried = [_event("tablet-a", n + 1, 4000 * (n + 1), told) for n, told in enumerate(CARRIED_OUT)]
    cases = [_case("carried out, one join twice", 1_000, carried)]
    cases.append(_case("into the pot before the heat and after it", 1_000, _through_the_pot_twice()))
    cases += [_case(f"drawn {seed}", 2_000, _drawn(random.Random(seed))) for seed in range(DRAWN)]
    _write("runs", cases)
    _write("today", [_today(random.Random(seed)) for seed in range(DRAWN)])


def _through_the_pot_twice() -> list[dict[str, Any]]:
    """Go to the look, and from it back to a heat by way of the pot: cool and pickle come before the heat, and again after it."""
    told: list[Told] = [("next", {"turn": str(n), "skipped": True, "confirmed": True}) for n in range(1, 9)]
    told.append(("again", {"turn": "9", "of": "5", "ways": ["pickle-first"]}))
    told += [("next", {"turn": turn, "skipped": True}) for turn in ("7.2", "8.2", "3.2", "5.2", "7.3")]
    return [_event("tablet-a", n + 1, 4000 * (n + 1), each) for n, each in enumerate(told)]


def _write(name: str, cases: list[dict[str, Any]]) -> None:
    rows = ",\n".join(json.dumps(case, ensure_ascii=False, separators=(",", ":")) for case in cases)
    (ROOT / "tests" / "shared" / f"{name}.json").write_text(f"[\n{rows}\n]\n", encoding="utf-8")


def _today(dice: random.Random) -> dict[str, Any]:
    """Draw some stages and the signs pressed of them, early or late; and what the core says of that."""
    stages = [round(dice.uniform(4, 60), 1) for _ in range(dice.randint(2, 5))]
    times, pressed, at_s = dice.uniform(0.6, 1.6), dict[int, float](), 0.0
    for n, stage_s in enumerate(stages[: dice.randint(0, len(stages))]):
        at_s += times * stage_s
        if dice.random() < 0.8:
            pressed[n] = round(at_s, 2)
    told = told_anew(stages, pressed)
    says = {"longer": 0, "left_s": 0, "words": None} if told is None else asdict(told)
    return {"stages_s": stages, "pressed_s": pressed, **says}


def _case(name: str, began_ms: int, events: list[dict[str, Any]]) -> dict[str, Any]:
    state = run_state(FACES, began_ms, [read_event(event) for event in events])
    return {
        "name": name,
        "faces": [face.model_dump(mode="json") for face in FACES],
        "began_ms": began_ms,
        "events": events,
        "state": state.model_dump(mode="json"),
    }


def _event(device: str, seq: int, at_ms: int, told: Told, ahead_ms: int = 0) -> dict[str, Any]:
    kind, more = told
    plain = {"id": f"{device}-{seq:04}", "device": device, "seq": seq, "at_ms": at_ms, "kind": kind, **more}
    return plain if ahead_ms == 0 else plain | {"ahead_ms": ahead_ms}


def _drawn(dice: random.Random) -> list[dict[str, Any]]:
    """Two devices press mostly what fits where the run stands, and now and then whatever they like."""
    events: list[dict[str, Any]] = []
    seqs = {"tablet-a": 0, "phone-b0": 0}
    at_ms = 0
    for _ in range(dice.randint(3, MOST_EVENTS)):
        state = run_state(FACES, 0, [read_event(event) for event in events])
        turn = state.at if dice.random() < 0.85 else dice.choice([one.id for one in state.turns])
        face = FACES[int(turn.split(".")[0]) - 1]
        device = dice.choice(list(seqs))
        seqs[device] += 1
        at_ms += dice.randint(0, 3000)
        behind = 0 if device == "tablet-a" else dice.choice([0, 500, -2000])
        told = _pressed(dice, turn, face, events)
        events.append(_event(device, seqs[device], max(0, at_ms - behind), told, behind))
    dice.shuffle(events)
    return events


def _of_copies(dice: random.Random, name: str, word: str) -> dict[str, Any]:
    """Give a word on some copies."""
    return {"join": name, "outcome": word, "copies": dice.choice([[1], [2, 3], [1, 2, 3], [9]])}


def _pressed(dice: random.Random, turn: str, face: Face, events: list[dict[str, Any]]) -> Told:
    at: dict[str, Any] = {"turn": turn}
    pressed: list[Told] = [
        ("next", at | {"confirmed": dice.random() < 0.8, "skipped": dice.random() < 0.3}),
        ("next", at | {"confirmed": True}),
        ("back", at),
        ("note", at | {"text": dice.choice(["", "hot", "thin flux"])}),
        ("measure", at | {"what": dice.choice(["size_mm", "ball_mm"]), "value": dice.randint(1, 40) / 4}),
        ("undo", {"of": dice.choice(events)["id"] if events else "nothing-there"}),
    ]
    if face.kind == "heat":
        word = dice.choice(["flowed", "short", "melted"])
        pressed += [
            ("lit", at),
            ("sign", at | {"stage": dice.randint(1, 4)}),
            ("off", at),
            *(("outcome", at | {"join": join, "outcome": word}) for join in (*face.joins, "z")),
            *(("outcome", at | _of_copies(dice, join, word)) for join in face.joins),
            ("outcome", at | _of_copies(dice, "soften", dice.choice(["soft", "too-hot", "flowed"]))),
            ("opened", at | {"join": "a", "copies": dice.choice([[], [1]])}),
            ("lost", at | {"part": "dot", "many": dice.randint(1, 3)}),
            (
                "again",
                at | {"ways": ["close-again"], "joins": dice.choice([["b"], ["a"]]), "steps": [11, 12]},
            ),
            ("again", at | {"ways": ["again"], "steps": [dice.choice([11, 12, 13]), 7]}),
            (
                "again",
                at | {"ways": dice.sample(["pickle-first", "apart", "heavy-side"], dice.randint(0, 2))},
            ),
        ]
    if face.kind == "inspect":
        pressed += [("look", at | {"check": dice.randint(1, 3), "passes": dice.random() < 0.5})] * 2
        pressed += [("again", at | {"of": dice.choice(["2", "5", "6", "1"])})]
    if face.kind == "prepare":
        pressed += [("again", at | {"of": dice.choice(["2", "2.2"])})]
    if face.kind == "work":
        pressed += [("tally", at | {"done": dice.randint(0, 27), "lost": dice.randint(0, 3)})] * 3
    return dice.choice(pressed)


if __name__ == "__main__":
    main()
