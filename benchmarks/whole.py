"""The core's tables whole: what bin/test samples (`bin/bench whole [PYTEST OPTIONS]`), two at a time, with the ten slowest."""

from __future__ import annotations

import subprocess
import sys
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]


def main() -> None:
    """Run the tests that are marked whole."""
    command = [
        sys.executable,
        "-m",
        "pytest",
        "tests/core",
        "-p",
        "no:django",
        "-n",
        "2",
        "--dist",
        "worksteal",
    ]
    began = time.monotonic()
    options = ["-m", "whole", "--durations=10", "--durations-min=1", *sys.argv[1:]]
    code = subprocess.run([*command, *options], cwd=ROOT, check=False).returncode
    print(f"whole: {time.monotonic() - began:.0f} s")
    raise SystemExit(code)


if __name__ == "__main__":
    main()
