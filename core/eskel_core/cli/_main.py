"""The commands, each a function from its arguments to an exit code."""

from __future__ import annotations

import argparse
import json
import math
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn

from ..faults import Refused, refuse
from ..piece import (
    Piece,
    load_json,
    parse_piece,
    piece_object,
    piece_schema,
    read_piece,
    record_object,
    weigh,
)
from ..units import speak

if TYPE_CHECKING:
    from ..cutting import CutAndSolder

DONE, WRONG_INPUT, NO_PLAN = 0, 2, 3


class _Parser(argparse.ArgumentParser):
    """A parser that refuses in the same way as everything else."""

    def error(self, message: str) -> NoReturn:
        raise refuse("usage", "", " ".join(sys.argv[1:]), message, "See bin/eskel --help.")


def main(arguments: Sequence[str]) -> int:
    """Run one command; give its exit code."""
    try:
        asked = _parser().parse_args(arguments)
        code: int = asked.run(asked)
    except Refused as problem:
        _print([fault.model_dump(mode="json") for fault in problem.faults])
        more = len(problem.faults) - 1
        tail = f" (and {more} more)" if more else ""
        print(f"eskel: {problem.faults[0].sentence()}{tail}", file=sys.stderr)
        return WRONG_INPUT
    return code


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(
        prog="bin/eskel", description="Check, weigh and plan piece files; size anything at the bench."
    )
    commands = parser.add_subparsers(dest="command", required=True, parser_class=_Parser)
    for name, run, about in (
        ("check", _check, "print [] for a sound piece file, or what is wrong with it"),
        ("weigh", _weigh, "print each part's volume, mass, surface and blank, and the totals"),
        ("plan", _plan, "print the plan; exit 3 when none is possible"),
        ("run", _run, 'print a run as it stands after {"presses": [...]} of standard input'),
        ("state", _state, "print the work as it stands after each step of the plan"),
    ):
        command = commands.add_parser(name, help=about, description=about)
        from_input = "" if name == "run" else ", or - for standard input"
        command.add_argument("file", metavar="FILE", help=f"a piece file{from_input}")
        command.set_defaults(run=run)
        if name == "plan":
            command.add_argument(
                "--rehearse", action="store_true", help="rehearse each heat and let the rehearsed rules speak"
            )
    _add_rehearse(commands)
    why = commands.add_parser(
        "why", help="print why a join has its solder and heat, and what else it could be"
    )
    why.add_argument("file", metavar="FILE", help="a piece file, or - for standard input")
    why.add_argument("join", metavar="JOIN", help="the id of a join")
    why.set_defaults(run=_why)
    export = commands.add_parser("export", help="write the cut and solder list of a piece file")
    export.add_argument("file", metavar="FILE", help="a piece file, or - for standard input")
    export.add_argument("--as", dest="form", required=True, choices=sorted(_EXPORTS), help="what to write")
    export.set_defaults(run=_export)
    size = commands.add_parser(
        "size", help="print the result of a calculator; its input is JSON on standard input"
    )
    size.add_argument("name", metavar="NAME", nargs="?", help="the calculator")
    size.add_argument("--list", action="store_true", help="print every calculator with its keys")
    size.set_defaults(run=_size)
    begin = commands.add_parser(
        "begin",
        help="print a piece made from a start; what it asks is JSON on standard input, {} for its example",
    )
    begin.add_argument("name", metavar="NAME", nargs="?", help="the start")
    begin.add_argument("--list", action="store_true", help="print every start with what it asks")
    begin.set_defaults(run=_begin)
    part = commands.add_parser(
        "part", help="print the part that a line tells of, and what of it was understood"
    )
    part.add_argument("line", metavar="LINE", help='as said: "disc 14 × 0.5 fine, domed 4"')
    part.add_argument(
        "--after", metavar="FILE", help="a piece file: what is left out comes from its last part"
    )
    part.set_defaults(run=_part)
    join = commands.add_parser("join", help="print the join that two parts of a piece call for, and why")
    join.add_argument("file", metavar="FILE", help="a piece file, or - for standard input")
    join.add_argument("a", metavar="A", help="the id of a part")
    join.add_argument("b", metavar="B", help="the id of another, or the same to close it on itself")
    join.set_defaults(run=_join)
    schema = commands.add_parser("schema", help="print the JSON Schema of the piece file")
    schema.set_defaults(run=_schema)
    return parser


def _per_cent(text: str) -> float:
    """Read a spread in per cent: more than nothing, at most a hundred."""
    value = float(text)
    if not 0 < value <= 100:
        raise ValueError(text)
    return value


def _add_rehearse(commands: Any) -> None:
    about = "print the rehearsal of a heat: where to point, how long, what happens"
    rehearse = commands.add_parser("rehearse", help=about, description=about)
    rehearse.add_argument("file", metavar="FILE", help="a piece file, or - for standard input")
    rehearse.add_argument("--heat", metavar="HEAT_NO", type=int, default=1, help="which heat of its plan (1)")
    rehearse.add_argument("--torch", metavar="ID", help="a torch of the table, else the bench's")
    rehearse.add_argument("--surface", metavar="ID", help="a surface of the table, else the bench's")
    rehearse.add_argument(
        "--spread",
        metavar="PCT",
        type=_per_cent,
        help="how far the torch's strength may be off, in per cent (40)",
    )
    rehearse.add_argument(
        "--habit",
        choices=("best", "join", "even", "light"),
        default="best",
        help="the best programme, or a habit",
    )
    rehearse.add_argument(
        "--setting", type=float, default=1.0, help="how far the flame is open in a habit, 0.3 to 1"
    )
    rehearse.set_defaults(run=_rehearse)


def _read(name: str) -> Piece:
    return parse_piece(sys.stdin.buffer.read()) if name == "-" else read_piece(Path(name))


def _check(asked: argparse.Namespace) -> int:
    _read(asked.file)
    _print([])
    return DONE


def _schema(asked: argparse.Namespace) -> int:
    _print(piece_schema())
    return DONE


def _weigh(asked: argparse.Namespace) -> int:
    _print(weigh(_read(asked.file)).model_dump(mode="json"))
    return DONE


def _plan(asked: argparse.Namespace) -> int:
    piece = _read(asked.file)
    if asked.rehearse:
        from ..rehearsal import rehearse_piece

        made = rehearse_piece(piece).plan
    else:
        from ..plan import plan

        made = plan(piece)
    _print(made.model_dump(mode="json"))
    if made.conflict is None:
        return DONE
    told = speak(" ".join(demand.text for demand in made.conflict.demands))
    print(f"eskel: no plan is possible: {told}", file=sys.stderr)
    return NO_PLAN


def _state(asked: argparse.Namespace) -> int:
    from ..plan import standing
    from ..state import state_object

    plan, rows = standing(_read(asked.file))
    _print([{"n": row.n, "state": state_object(row.state)} for row in rows])
    if plan.conflict is None:
        return DONE
    told = speak(" ".join(demand.text for demand in plan.conflict.demands))
    print(f"eskel: no plan is possible: {told}", file=sys.stderr)
    return NO_PLAN


def _run(asked: argparse.Namespace) -> int:
    from ..plan import plan
    from ..run import Presses, shown_run

    piece = _read(asked.file)
    said = load_json(sys.stdin.buffer.read())
    presses = said.get("presses") if isinstance(said, dict) else None
    if not isinstance(presses, list) or not all(isinstance(press, str) for press in presses):
        raise refuse(
            "wrong-type", "presses", said, "presses is a list of texts", 'Write {"presses": ["next"]}.'
        )
    made = plan(piece)
    if made.conflict is not None:
        print("eskel: no plan is possible.", file=sys.stderr)
        return NO_PLAN
    run = Presses(piece, made)
    for press in presses:
        run.press(press)
    _print(shown_run(run))
    return DONE


def _rehearse(asked: argparse.Namespace) -> int:
    from ..plan import plan
    from ..rehearsal import HeatRequest, TorchFactor, rehearse_heat

    piece = _read(asked.file)
    planned = plan(piece)
    if planned.conflict is not None:
        _print(planned.model_dump(mode="json"))
        texts = speak(" ".join(demand.text for demand in planned.conflict.demands))
        print(f"eskel: no plan is possible, so no heat is rehearsed: {texts}", file=sys.stderr)
        return NO_PLAN
    made = rehearse_heat(
        piece,
        asked.heat,
        HeatRequest(
            torch=asked.torch,
            surface=asked.surface,
            habit=asked.habit,
            setting=asked.setting,
            hand=TorchFactor() if asked.spread is None else TorchFactor(1.0, math.log1p(asked.spread / 100)),
        ),
        planned=planned,
        with_habits=asked.habit == "best",
    )
    _print(made.model_dump(mode="json", exclude={"cells", "help"}))
    return DONE


def _why(asked: argparse.Namespace) -> int:
    from ..plan import why_join

    _print(why_join(_read(asked.file), asked.join).model_dump(mode="json"))
    return DONE


def _size(asked: argparse.Namespace) -> int:
    from ..sizes import calculate, calculator, calculators, describe

    if asked.list:
        chosen = [calculator(asked.name)] if asked.name else list(calculators().values())
        _print([describe(one) for one in chosen])
        return DONE
    if asked.name is None:
        raise refuse("usage", "", "size", "a calculator is named", "bin/eskel size --list tells them all.")
    calculator(asked.name)
    _print(calculate(asked.name, load_json(sys.stdin.buffer.read())).plain())
    return DONE


def _begin(asked: argparse.Namespace) -> int:
    from ..starts import begin, describe_start, start_named, starts

    if asked.list:
        chosen = [start_named(asked.name)] if asked.name else list(starts().values())
        _print([describe_start(one).model_dump(mode="json") for one in chosen])
        return DONE
    if asked.name is None:
        raise refuse("usage", "", "begin", "a start is named", "bin/eskel begin --list tells them all.")
    start_named(asked.name)
    _print(piece_object(begin(asked.name, load_json(sys.stdin.buffer.read())).piece))
    return DONE


def _part(asked: argparse.Namespace) -> int:
    from ..lines import read_line

    before = _read(asked.after).parts if asked.after else ()
    read = read_line(
        asked.line, before[-1] if before else None, taken_ids=frozenset(part.id for part in before)
    )
    understood = [{"text": one.text, "as": one.said} for one in read.understood]
    _print({"part": record_object(read.part), "understood": understood, "taken": list(read.taken)})
    return DONE


def _join(asked: argparse.Namespace) -> int:
    from ..joining import propose

    made = propose(_read(asked.file), asked.a, asked.b)
    also = [one.model_dump(mode="json") for one in made.also]
    _print({"join": record_object(made.join), "why": made.why, "also": also})
    return DONE


def _export(asked: argparse.Namespace) -> int:
    from ..cutting import cut_and_solder
    from ..plan import plan

    piece = _read(asked.file)
    made = plan(piece)
    sys.stdout.buffer.write(_EXPORTS[asked.form](cut_and_solder(piece, made), piece))
    if made.conflict is None:
        return DONE
    print("eskel: no plan is possible, so no solder is listed", file=sys.stderr)
    return NO_PLAN


def _as_csv(whole: CutAndSolder, piece: Piece) -> bytes:
    from ..cutting import cut_list_csv

    return cut_list_csv(whole).encode()


def _as_pdf(whole: CutAndSolder, piece: Piece) -> bytes:
    from ..cutting import cut_list_pdf

    return cut_list_pdf(whole, piece)


_EXPORTS = {"cut-list.csv": _as_csv, "cut-list.pdf": _as_pdf}


def _print(plain: Any) -> None:
    sys.stdout.write(speak(json.dumps(plain, indent=2, ensure_ascii=False)) + "\n")
