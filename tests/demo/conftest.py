"""Folders for what `bin/demo` keeps. The database's own user can enter them; pytest closes its own folders to others."""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest


@pytest.fixture(scope="session")
def new_home() -> Iterator[Callable[[], Path]]:
    """Give a function that names another folder for everything that a start keeps."""
    with tempfile.TemporaryDirectory(prefix="eskel-demo-") as folders:
        Path(folders).chmod(0o711)

        def another() -> Path:
            folder = Path(tempfile.mkdtemp(dir=folders))
            folder.chmod(0o711)
            return folder / "run"

        yield another


@pytest.fixture
def home(new_home: Callable[[], Path]) -> Path:
    """A folder for everything that a start keeps."""
    return new_home()
