"""The cut and solder list: every blank, how it comes out of the stock, the solder, what to buy, what scrap serves.

Concepts: a *row* (one blank, with its kerf), a *cutting* (lengths from bars, exact), sheets with outlines nested on them,
solder by join and by grade, *offers* of scrap; the list as CSV, as PDF, an outline at 1:1.
"""

from ._bars import Bar, Cutting, cut_bars
from ._export import cut_list_csv, cut_list_pdf, outline_svg
from ._list import (
    BarPlan,
    BuyLine,
    CutAndSolder,
    LengthPlan,
    ScrapOffer,
    SheetPlan,
    cut_and_solder,
)
from ._rows import CutRow, cut_rows
from ._solder import SolderRow, SolderTotal

__all__ = [
    "Bar",
    "BarPlan",
    "BuyLine",
    "CutAndSolder",
    "CutRow",
    "Cutting",
    "LengthPlan",
    "ScrapOffer",
    "SheetPlan",
    "SolderRow",
    "SolderTotal",
    "cut_and_solder",
    "cut_bars",
    "cut_list_csv",
    "cut_list_pdf",
    "cut_rows",
    "outline_svg",
]
