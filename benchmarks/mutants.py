"""Whether a wrong number is noticed: some sixty lines of rules, planner, heat and sizes, each made wrong in turn.

`bin/bench mutants [--only WORD]`. Each mutant changes one line in a copy of the tree and runs the tests that should notice;
it is caught when they fail. Printed are those that were not, and the share that was: 95 in 100 are wanted.
"""

from __future__ import annotations

import argparse
import os
import shutil
import subprocess
import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]


@dataclass(frozen=True)
class Mutant:
    """A line made wrong, and the tests that should notice."""

    file: str
    right: str
    wrong: str
    tests: str


FIGURES = "test_figures.py"
HELD = "test_held_in_time.py"
RULES = "test_rules*.py test_constants.py"
PLAN = f"test_plan*.py test_steps.py {RULES}"
HEAT, HANDS = "test_heat*.py test_constants.py", "test_hands.py test_constants.py"
REHEARSED, SIZES = f"test_rehearsal.py test_calibration.py {RULES}", "test_sizes*.py"
MUTANTS = (
    Mutant("rules/_heat_rules.py", "MELT_RISK_C = 25.0", "MELT_RISK_C = 24.0", RULES),
    Mutant("rules/_heat_rules.py", "MELT_RISK_C = 25.0", "MELT_RISK_C = 26.0", RULES),
    Mutant("rules/_heat_rules.py", "NARROW_FUSE_C = 30.0", "NARROW_FUSE_C = 29.0", RULES),
    Mutant("rules/_heat_rules.py", "IMBALANCE = 8.0", "IMBALANCE = 7.5", RULES),
    Mutant("rules/_heat_rules.py", "IMBALANCE = 8.0", "IMBALANCE = 9.0", RULES),
    Mutant("rules/_heat_rules.py", "FREE_WITHIN_MM = 6.0", "FREE_WITHIN_MM = 5.0", RULES),
    Mutant("rules/_heat_rules.py", "FREE_WITHIN_MM = 6.0", "FREE_WITHIN_MM = 7.0", RULES),
    Mutant("rules/_heat_rules.py", "room <= 0 else", "room < -1 else", RULES),
    Mutant("rules/_metal_rules.py", "PASTE_SEAM_MM = 15.0", "PASTE_SEAM_MM = 16.0", RULES),
    Mutant("rules/_metal_rules.py", "PASTE_FACE_MM2 = 30.0", "PASTE_FACE_MM2 = 29.0", RULES),
    Mutant("rules/_metal_rules.py", "JUMPS_BELOW_G = 0.1", "JUMPS_BELOW_G = 0.11", RULES),
    Mutant("rules/_metal_rules.py", "FUME_C = 900.0", "FUME_C = 910.0", RULES),
    Mutant("rules/_metal_rules.py", "FUME_ZINC_PCT = 15.0", "FUME_ZINC_PCT = 16.0", RULES),
    Mutant("rules/_loose_rules.py", "SMALL_MM = 3.0", "SMALL_MM = 3.2", RULES),
    Mutant("rules/_loose_rules.py", "SPLIT_NEAR_MM = 2.0", "SPLIT_NEAR_MM = 1.0", RULES),
    Mutant("rules/_finish_rules.py", "FINER_AT_MOST = 2.0", "FINER_AT_MOST = 2.1", RULES),
    Mutant("rules/_rehearsed_rules.py", "MOST_STAINING_S = 60.0", "MOST_STAINING_S = 62.0", RULES),
    Mutant("rules/_pot_rules.py", "LONGEST_TIMES = 3.0", "LONGEST_TIMES = 3.2", RULES),
    Mutant("rules/_pot_rules.py", "NEAR_LIMIT = 0.8", "NEAR_LIMIT = 0.9", RULES),
    Mutant(
        "rules/_temperatures.py",
        "+ house.remelt_allowance_c - house.margin_c",
        "+ house.remelt_allowance_c",
        PLAN,
    ),
    Mutant("rules/_temperatures.py", "MOST_SHIELD_C = 60.0", "MOST_SHIELD_C = 80.0", PLAN),
    Mutant("rules/_temperatures.py", "solder.flow_c + house.overshoot_c", "solder.flow_c", PLAN),
    Mutant("rules/_temperatures.py", ">= filler.solidus_c else", "> filler.flow_c else", PLAN),
    Mutant("rules/_holding.py", "return lie in lies_that_hold(piece, join)", "return True", PLAN),
    Mutant("rules/_lying.py", "_EVEN_MM = 0.2", "_EVEN_MM = 3.0", HELD),
    Mutant("rules/_lying.py", "_A_STOOL = 3", "_A_STOOL = 6", HELD),
    Mutant("demands/_problem.py", '"chips-under": 6', '"chips-under": 5', PLAN),
    Mutant(
        "demands/_sharing.py",
        'return f"they lie on different sides, {one.face} and {other.face}"',
        "return None",
        PLAN,
    ),
    Mutant("rules/_asking.py", "THICK_MM = 3.0", "THICK_MM = 4.0", PLAN + " test_public_face.py"),
    Mutant("plan/_timeline.py", "> metal.max_reduction_pct", "> metal.max_reduction_pct + 30", PLAN),
    Mutant("pot/_minutes.py", "_DOUBLES_EVERY_C = 15.0", "_DOUBLES_EVERY_C = 16.0", RULES),
    Mutant("pot/_minutes.py", "_COLD_PIECE = 1.4", "_COLD_PIECE = 1.3", RULES),
    Mutant("heat/_body.py", "_COAT = 0.6", "_COAT = 0.7", HEAT),
    Mutant("cooling/_touch.py", "SIGMA = 5.670374419e-8", "SIGMA = 5.6e-8", HEAT),
    Mutant("cooling/_touch.py", "CONVECTION_W_M2K = 12.0", "CONVECTION_W_M2K = 14.0", HEAT),
    Mutant("cooling/_touch.py", "_WIRE_CONVECTION_W_MK = 0.033", "_WIRE_CONVECTION_W_MK = 0.05", HEAT),
    Mutant("heat/_network.py", "DRY_W_M2K = 5_000.0", "DRY_W_M2K = 8_000.0", HEAT),
    Mutant("heat/_network.py", "GLASSY_W_M2K = 20_000.0", "GLASSY_W_M2K = 9_000.0", HEAT),
    Mutant("heat/_setup.py", "MOST_TAKEN = 0.5", "MOST_TAKEN = 0.6", HEAT),
    Mutant("heat/_seen.py", "FLOW_HOLD_S = 0.5", "FLOW_HOLD_S = 1.5", HEAT),
    Mutant("heat/_setup.py", "LIQUID_SHARE = 0.15", "LIQUID_SHARE = 0.2", HEAT),
    Mutant("heat/_setup.py", "BOILS_C_S = 15.0", "BOILS_C_S = 20.0", HEAT),
    Mutant("heat/_wash.py", "_THIN, _WIDE = 0.33, 0.5", "_THIN, _WIDE = 0.25, 0.5", HEAT),
    Mutant("heat/_wash.py", "0.62 * reynolds**0.5", "0.5 * reynolds**0.5", HEAT),
    Mutant("heat/_hands.py", "(0.4, 0.8, 1.6)", "(0.4, 0.6, 1.6)", HANDS),
    Mutant("heat/_hands.py", "_WEAKEST = math.log(1.25), 0.75", "_WEAKEST = math.log(1.25), 0.6", HANDS),
    Mutant(
        "heat/_levels.py",
        "if hangs:\n                up[:] = 0.0",
        "if hangs:\n                up[:] = 1.0",
        HEAT,
    ),
    Mutant("rehearsal/_hands.py", "_SURE, _CARE = 7 / 8, 1 / 2", "_SURE, _CARE = 6 / 8, 1 / 2", HANDS),
    Mutant("rules/_loose_rules.py", "SPLIT_NEAR_MM = 2.0", "SPLIT_NEAR_MM = 3.0", RULES),
    Mutant("rules/_loose_rules.py", "FRAME_WIRES = 4", "FRAME_WIRES = 5", RULES),
    Mutant("metals/_melted.py", "FLAT_SHARE = 0.25", "FLAT_SHARE = 0.3", f"{RULES} {SIZES}"),
    Mutant("forms/_contact.py", "_WET_SHARE = 1 / 3", "_WET_SHARE = 1 / 2", "test_forms.py"),
    Mutant("plan/_words.py", "_AIM_RATIO = 2.0", "_AIM_RATIO = 4.0", PLAN),
    Mutant("rehearsal/_show_series.py", "STAIN_C = 700.0", "STAIN_C = 720.0", REHEARSED),
    Mutant(
        "rehearsal/_calibrate.py", "PRIOR_SPREAD = math.log(1.4)", "PRIOR_SPREAD = math.log(1.3)", REHEARSED
    ),
    Mutant("rules/_asking.py", "min(form.length_mm, 2 * _NEAR_MM)", "min(form.length_mm, _NEAR_MM)", FIGURES),
    Mutant("rules/_asking.py", "form.mass_g * 100 / math.pi", "form.mass_g * 100 * math.pi", FIGURES),
    Mutant("state/_anatomy.py", "len(counts) - 1 if", "len(counts) + 1 if", FIGURES),
    Mutant(
        "plan/_amounts.py",
        "solder_of_join_mm3(piece, join) * places",
        "solder_of_join_mm3(piece, join)",
        FIGURES,
    ),
    Mutant("plan/_amounts.py", "volume *= course.piece.copies", "volume *= 1", FIGURES),
    Mutant("plan/_timeline.py", "first = {name: ready[number]", "first = {name: over[number]", FIGURES),
    Mutant("plan/_why.py", "== heat.round - 1]", "== heat.round - 2]", FIGURES),
    Mutant("plan/_minutes.py", "pace.once + single", "single", FIGURES),
    Mutant("plan/_work_words.py", "math.log(1 - weakest.max", "math.log(2 - weakest.max", FIGURES),
    Mutant("rules/_heat_rules.py", "(metal.liquidus_c - metal.solidus_c)}.", "(metal.liquidus_c)}.", RULES),
    Mutant("sizes/_ringwork.py", "radius = inside / (2 * math.pi)", "radius = inside / math.pi", SIZES),
    Mutant("sizes/_wirework.py", "turn = 2 * math.pi * turns", "turn = math.pi * turns", SIZES),
    Mutant("sizes/_ringwork.py", "math.pi *", "3.0 *", SIZES),
    Mutant(
        "forms/_outlines.py",
        "math.pi * outline.diameter_mm**2 / 4",
        "math.pi * outline.diameter_mm**2 / 4.1",
        "test_forms.py test_sizes*.py",
    ),
)


def caught(mutant: Mutant, tree: Path) -> bool | None:
    """Say whether the tests notice a mutant; None where its line is not there any more."""
    file = tree / "core" / "eskel_core" / mutant.file
    right = file.read_text(encoding="utf-8") if file.exists() else ""
    if mutant.right not in right:
        return None
    file.write_text(right.replace(mutant.right, mutant.wrong, 1), encoding="utf-8")
    names = [
        str(path) for one in mutant.tests.split() for path in sorted((tree / "tests" / "core").glob(one))
    ]
    environment = {
        **os.environ,
        "PYTHONPATH": f"{tree / 'core'}:{tree}",
        "PYTHONPYCACHEPREFIX": str(tree / "bytecode"),
    }
    command = [
        sys.executable,
        "-m",
        "pytest",
        "-x",
        "-q",
        "-p",
        "no:django",
        "-n",
        "2",
        "--rootdir",
        str(tree),
        *names,
    ]
    done = subprocess.run(command, cwd=tree, env=environment, capture_output=True, check=False)
    file.write_text(right, encoding="utf-8")
    return done.returncode != 0


def main() -> int:
    """Make each line wrong in turn, and print what was not noticed."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--only", default="")
    asked = parser.parse_args()
    chosen = [mutant for mutant in MUTANTS if asked.only in f"{mutant.file} {mutant.right}"]
    with tempfile.TemporaryDirectory() as home:
        tree = Path(home)
        for part in ("core", "tests", "examples", "bin", "docs"):
            shutil.copytree(ROOT / part, tree / part, ignore=shutil.ignore_patterns("__pycache__"))
        (tree / ".venv").symlink_to(ROOT / ".venv")
        shutil.copy(ROOT / "pyproject.toml", tree)
        ends = []
        for one in chosen:
            ends.append(caught(one, tree))
            word = {True: "caught", False: "NOT NOTICED", None: "gone: mend the list"}[ends[-1]]
            print(f"{word:20} {one.file}: {one.right}  ->  {one.wrong}", flush=True)
    print(f"{ends.count(True)} of {len(ends)} caught ({100 * ends.count(True) / len(ends):.0f} in 100)")
    return 0 if ends.count(True) >= 0.95 * len(ends) else 1


if __name__ == "__main__":
    raise SystemExit(main())
