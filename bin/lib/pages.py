"""Builds of the page: `pages.py FOLDER PART NAME` puts a finished build in its place. Standard library only.

Each build lies in a folder of its own, `.run/pages/NAME`; the link `current` names the one that is served. It is switched whole, so a server
never reads half a build. Tabs that were opened with an earlier build fetch parts of it later: its files are served for a day more.
"""

from __future__ import annotations

import os
import shutil
import sys
import time
from collections.abc import Iterator
from pathlib import Path

KEPT_S = 24 * 3600.0


def switch(folder: Path, part: Path, name: str, now_s: float) -> None:
    """Serve a build from now on: give it the files of those before it, put it in its place, and drop what is too old."""
    folder.mkdir(parents=True, exist_ok=True)
    current, place = folder / "current", folder / name
    new = place if place.exists() else part
    before = current.resolve() if current.exists() else None
    if before is not None and before.name != name:
        os.utime(before, (now_s, now_s))  # from now on it is one of those before
    for old in _builds(folder):
        if old.name == name:
            continue
        if now_s - old.stat().st_mtime > KEPT_S:
            shutil.rmtree(old)
        else:
            _add_files(old / "assets", new / "assets")
    if new is part:
        part.rename(place)
    link = folder / f"{name}.link"
    link.unlink(missing_ok=True)
    link.symlink_to(name)
    link.replace(current)


def _builds(folder: Path) -> Iterator[Path]:
    for path in sorted(folder.iterdir()):
        if path.is_dir() and not path.is_symlink() and path.suffix != ".part":
            yield path


def _add_files(old: Path, new: Path) -> None:
    """Give a build the files of an earlier one that it has not: their names hold a hash of what is in them."""
    for file in old.iterdir() if old.is_dir() and new.is_dir() else ():
        if not (new / file.name).exists():
            shutil.copy2(file, new / file.name)


if __name__ == "__main__":
    switch(Path(sys.argv[1]), Path(sys.argv[2]), sys.argv[3], time.time())
