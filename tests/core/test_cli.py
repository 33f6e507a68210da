"""The commands as a shell sees them: output, exit code, one line for people."""

import io
import json
import os
import subprocess
import sys
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import pytest
from jsonschema import Draft202012Validator

from eskel_core.cli import main
from tests.core.pieces import EXAMPLES

ROOT = Path(__file__).parents[2]


@dataclass(frozen=True)
class Done:
    """What a command left behind."""

    returncode: int
    stdout: str
    stderr: str


Eskel = Callable[..., Done]


@pytest.fixture
def eskel(monkeypatch: pytest.MonkeyPatch, capfdbinary: pytest.CaptureFixture[bytes]) -> Eskel:
    """Run a command within this process: a shell of its own takes a second each time."""

    def run(*arguments: str, given: str = "") -> Done:
        monkeypatch.setattr(sys, "stdin", io.TextIOWrapper(io.BytesIO(given.encode())))
        code = main(arguments)
        sys.stdout.flush()
        told = capfdbinary.readouterr()
        return Done(code, told.out.decode("utf-8", "replace"), told.err.decode())

    return run


def test_the_commands_run_from_a_shell() -> None:
    command = [sys.executable, "-m", "eskel_core.cli", "plan", "-"]
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "core")}
    given = EXAMPLES[0].read_text(encoding="utf-8")
    done = subprocess.run(command, input=given, capture_output=True, text=True, env=environment, check=False)
    assert (done.returncode, json.loads(done.stdout)["status"], done.stderr) == (0, "best", "")


def test_check_prints_an_empty_list_for_a_sound_file(eskel: Eskel) -> None:
    done = eskel("check", str(EXAMPLES[0]))
    assert (done.returncode, json.loads(done.stdout), done.stderr) == (0, [], "")


def test_a_broken_file_exits_2_with_every_fault_and_one_line(eskel: Eskel) -> None:
    plain = json.loads(EXAMPLES[0].read_text(encoding="utf-8"))
    plain["parts"][0]["metal"] = "tin"
    plain["colour"] = 1
    done = eskel("plan", "-", given=json.dumps(plain))
    assert done.returncode == 2
    assert {key for fault in json.loads(done.stdout) for key in fault} == {
        "code",
        "path",
        "value",
        "rule",
        "remedy",
    }
    assert len(done.stderr.splitlines()) == 1


@pytest.mark.parametrize(
    "arguments", [["check", "nowhere.json"], ["check", str(ROOT)], ["polish"], [], ["check"]]
)
def test_wrong_use_exits_2_with_json_and_one_line(arguments: list[str], eskel: Eskel) -> None:
    done = eskel(*arguments)
    assert (done.returncode, len(done.stderr.splitlines())) == (2, 1)
    assert json.loads(done.stdout)[0]["remedy"]


def test_plan_and_weigh_print_json(eskel: Eskel) -> None:
    made = json.loads(eskel("plan", str(EXAMPLES[0])).stdout)
    assert (made["format"], made["status"]) == ("eskel-plan/1", "best")
    weights = json.loads(eskel("weigh", str(EXAMPLES[0])).stdout)
    assert weights["totals"]["mass_g"] > 0


def test_an_impossible_piece_exits_3_and_prints_its_conflict(eskel: Eskel) -> None:
    plain = json.loads(EXAMPLES[0].read_text(encoding="utf-8"))
    plain["joins"][0]["after"] = [plain["joins"][-1]["id"]]
    plain["joins"][-1]["after"] = [plain["joins"][0]["id"]]
    done = eskel("plan", "-", given=json.dumps(plain))
    assert done.returncode == 3
    assert json.loads(done.stdout)["conflict"]["ids"]


def test_size_lists_the_calculators_and_answers_one(eskel: Eskel) -> None:
    listed = json.loads(eskel("size", "--list").stdout)
    assert {"ring-blank", "draw-down", "nest"} <= {one["name"] for one in listed}
    done = eskel("size", "ring-blank", given='{"size": "US 9", "thickness_mm": "1.8 mm"}')
    found = json.loads(done.stdout)
    assert (done.returncode, round(found["length_mm"], 2)) == (0, 65.17)
    assert "sketch" not in found


@pytest.mark.parametrize(
    ("name", "given", "path"),
    [
        ("ring-blank", '{"size": "US 9", "thickness_mm": 0}', "thickness_mm"),
        ("ring-blank", "{", "line 1, column 2"),
        ("ring-blank", "[]", ""),
        ("polish", "{}", "name"),
    ],
)
def test_a_size_that_makes_no_sense_exits_2(name: str, given: str, path: str, eskel: Eskel) -> None:
    done = eskel("size", name, given=given)
    assert (done.returncode, json.loads(done.stdout)[0]["path"]) == (2, path)
    assert len(done.stderr.splitlines()) == 1


def test_schema_is_a_schema(eskel: Eskel) -> None:
    Draft202012Validator.check_schema(json.loads(eskel("schema").stdout))


def test_export_writes_the_list_and_names_what_it_cannot(eskel: Eskel) -> None:
    done = eskel("export", str(EXAMPLES[0]), "--as", "cut-list.csv")
    assert (done.returncode, done.stdout.splitlines()[0].split(",")[:2]) == (0, ["part", "metal"])
    assert eskel("export", str(EXAMPLES[0]), "--as", "cut-list.pdf").stdout.startswith("%PDF")
    assert json.loads(eskel("export", str(EXAMPLES[0]), "--as", "cut-list.doc").stdout)[0]["code"] == "usage"


def test_an_impossible_piece_is_cut_all_the_same(eskel: Eskel) -> None:
    plain = json.loads(EXAMPLES[0].read_text(encoding="utf-8"))
    plain["joins"][0]["after"], plain["joins"][-1]["after"] = (
        [plain["joins"][-1]["id"]],
        [plain["joins"][0]["id"]],
    )
    done = eskel("export", "-", "--as", "cut-list.csv", given=json.dumps(plain))
    assert done.returncode == 3
    assert plain["parts"][0]["name"] in done.stdout
    assert "no solder is listed" in done.stderr


def test_begin_lists_the_starts_and_makes_one(eskel: Eskel) -> None:
    listed = json.loads(eskel("begin", "--list").stdout)
    assert len(listed) == 27
    assert {"name", "asks", "example"} <= set(listed[0])
    done = eskel("begin", "band", given='{"size": "US 9", "width_mm": "4 mm"}')
    assert done.returncode == 0
    again = eskel("check", "-", given=done.stdout)
    assert json.loads(again.stdout) == []
    assert json.loads(eskel("begin", "band", given="{}").stdout)["name"] == "Band"


@pytest.mark.parametrize(
    ("name", "given", "path"),
    [
        ("bend", "{}", "name"),
        ("band", '{"width_mm": 40}', "width_mm"),
        ("band", '{"metal": "lead"}', "metal"),
        ("band", "[]", ""),
        ("band", "{", "line 1, column 2"),
    ],
)
def test_a_beginning_that_makes_no_sense_exits_2(name: str, given: str, path: str, eskel: Eskel) -> None:
    done = eskel("begin", name, given=given)
    assert done.returncode == 2
    assert json.loads(done.stdout)[0]["path"] == path


def test_part_prints_what_a_line_tells_and_the_word_that_it_does_not_know(eskel: Eskel) -> None:
    told = json.loads(eskel("part", "disc 14 × 0.5 fine, domed 4").stdout)
    assert told["part"]["form"]["domed_mm"] == 4
    assert told["understood"][0] == {"text": "disc", "as": "disc"}
    assert told["taken"] == []
    wrong = eskel("part", "disk 14 × 0.5 sterlin")
    assert wrong.returncode == 2
    fault = json.loads(wrong.stdout)[0]
    assert (fault["value"], fault["remedy"]) == ("sterlin", "Did you mean sterling?")


def test_join_prints_what_two_parts_call_for(eskel: Eskel) -> None:
    given = json.dumps(
        {
            "format": "eskel-piece/1",
            "name": "test",
            "parts": [
                json.loads(eskel("part", line).stdout)["part"]
                for line in ("disc 11 × 0.75", "post 0.85 × 12 springy")
            ],
        }
    )
    told = json.loads(eskel("join", "-", "disc", "post", given=given).stdout)
    assert (told["join"]["kind"], told["join"]["face"], told["join"]["holds"]) == ("tee", "back", "hand")
    assert set(told["why"]) >= {"kind", "face", "holds"}
    assert eskel("join", "-", "disc", "pots", given=given).returncode == 2
