"""Builds of the page: switched whole, with the files of those before for a day; and a second start that looks before it builds."""

from __future__ import annotations

import fcntl
import os
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[2]
PAGES = ROOT / "bin" / "lib" / "pages.py"
HOUR_S = 3600.0


def build(folder: Path, name: str, *assets: str) -> None:
    """Make a build as the front end's own tool does, and have it served."""
    part = folder / f"{name}.part"
    (part / "assets").mkdir(parents=True)
    (part / "index.html").write_text(name)
    for asset in assets:
        (part / "assets" / asset).write_text(f"{asset} of {name}")
    switch(folder, name)


def switch(folder: Path, name: str) -> None:
    command = [sys.executable, str(PAGES), str(folder), str(folder / f"{name}.part"), name]
    subprocess.run(command, check=True, timeout=60)


def served(folder: Path) -> tuple[str, set[str]]:
    """Give which build is served, and the files that it has."""
    page = folder / "current"
    return (page / "index.html").read_text(), {file.name for file in (page / "assets").iterdir()}


def age(folder: Path, name: str, hours: float) -> None:
    at = (folder / name).stat().st_mtime - hours * HOUR_S
    os.utime(folder / name, (at, at))


def test_a_build_is_switched_whole_and_keeps_the_files_of_those_before_for_a_day(tmp_path: Path) -> None:
    build(tmp_path, "one", "log-1.js", "page-1.js")
    first = (tmp_path / "current").resolve()
    build(tmp_path, "two", "log-1.js", "page-2.js")
    assert served(tmp_path) == ("two", {"log-1.js", "page-1.js", "page-2.js"})
    assert (tmp_path / "current" / "assets" / "log-1.js").read_text() == "log-1.js of two"
    # What is served by a server that was begun before is there as it was.
    assert {file.name for file in (first / "assets").iterdir()} == {"log-1.js", "page-1.js"}
    age(tmp_path, "one", 25)
    build(tmp_path, "three", "page-3.js")
    assert served(tmp_path)[0] == "three"
    assert not first.exists()
    assert "page-2.js" in served(tmp_path)[1]


def test_what_was_built_before_is_served_again_without_being_built(tmp_path: Path) -> None:
    build(tmp_path, "one", "page-1.js")
    build(tmp_path, "two", "page-2.js")
    switch(tmp_path, "one")
    assert served(tmp_path) == ("one", {"page-1.js", "page-2.js"})


def test_the_build_that_was_served_last_counts_as_old_from_then_on(tmp_path: Path) -> None:
    """A tab that was opened on its last day still finds its files a day later."""
    build(tmp_path, "one", "page-1.js")
    age(tmp_path, "one", 100)
    build(tmp_path, "two", "page-2.js")
    assert served(tmp_path) == ("two", {"page-1.js", "page-2.js"})


def test_a_second_start_looks_before_it_installs_or_builds_anything() -> None:
    lock = ROOT / ".run" / "demo.lock"
    with lock.open("a+") as held:
        fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        environment = {**os.environ, "PATH": "/usr/bin:/bin"}
        done = subprocess.run(
            [str(ROOT / "bin" / "demo")],
            env=environment,
            capture_output=True,
            text=True,
            timeout=30,
            check=False,
        )
    assert done.returncode == 1
    assert "already runs from this folder" in done.stderr
    assert "building" not in done.stderr
