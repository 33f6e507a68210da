"""Write docs/house.md from the rows of the house: `PYTHONPATH=core .venv/bin/python docs/house_table.py`."""

from __future__ import annotations

from pathlib import Path

from eskel_core.piece import HouseChoice, house_choices

HEAD = """# The choices of the house

Written by `docs/house_table.py` from the rows of `core/eskel_core/piece/_house.py`. Differences are in °C.

| key | choice | shipped | options, or bounds |
|---|---|---|---|
"""


def house_table() -> str:
    """Give the page."""
    return HEAD + "".join(map(_row, house_choices()))


def _row(choice: HouseChoice) -> str:
    options = [f"`{each.value}` {each.words}" for each in choice.options]
    if choice.low is not None:
        options.append(f"{choice.low:g} to {choice.high:g} {choice.unit}".strip())
    shipped = "as the table of minutes" if choice.default is None else f"`{choice.default}`"
    return f"| `{choice.key}` | {choice.title} | {shipped} | {'; '.join(options)} |\n"


if __name__ == "__main__":
    (Path(__file__).parent / "house.md").write_text(house_table(), encoding="utf-8")
