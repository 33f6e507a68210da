"""The piece file: its types, its reading and writing, its schema.

Concepts: a `Piece` (frozen, as its file says it), reading with every fault named, canonical
writing, the house rules with their shipped defaults, the bench that a piece is made on, and the
look-ups that everything later asks (`metal_of`, `part_of`).
"""

from ._bench import (
    Bench,
    KeptBench,
    PotState,
    Scrap,
    StockedMetal,
    StockedSolder,
    Tool,
    Vessel,
    read_bench,
    resolve_bench,
    shipped_bench,
    stocked_solders,
)
from ._blanks import CutBlank, blanks_of
from ._house import BallAttitude, HeatFrom, House, HouseOverrides, resolve_house
from ._kinds import StepKind, WorkKind
from ._read import check_text, load_json, parse_piece, piece_from_object, read_piece
from ._schools import School, SchoolOption, schools
from ._sense import bench_faults
from ._types import (
    COLD_KINDS,
    FORMAT,
    FORMING_WORK,
    HEAT_WORK,
    ByHand,
    ExtraCut,
    Join,
    JoinKind,
    Part,
    Piece,
    Place,
    RehearsedHeat,
    RehearsedStage,
    Shield,
    Work,
    base_id,
    contact_at,
    metal_of,
    metals_of,
    pairs_of,
    part_of,
)
from ._weigh import PartWeight, Weights, mass_g, weigh
from ._write import piece_object, piece_schema, write_piece

__all__ = [
    "COLD_KINDS",
    "FORMAT",
    "FORMING_WORK",
    "HEAT_WORK",
    "BallAttitude",
    "Bench",
    "ByHand",
    "CutBlank",
    "ExtraCut",
    "HeatFrom",
    "House",
    "HouseOverrides",
    "Join",
    "JoinKind",
    "KeptBench",
    "Part",
    "PartWeight",
    "Piece",
    "Place",
    "PotState",
    "RehearsedHeat",
    "RehearsedStage",
    "School",
    "SchoolOption",
    "Scrap",
    "Shield",
    "StepKind",
    "StockedMetal",
    "StockedSolder",
    "Tool",
    "Vessel",
    "Weights",
    "Work",
    "WorkKind",
    "base_id",
    "bench_faults",
    "blanks_of",
    "check_text",
    "contact_at",
    "load_json",
    "mass_g",
    "metal_of",
    "metals_of",
    "pairs_of",
    "parse_piece",
    "part_of",
    "piece_from_object",
    "piece_object",
    "piece_schema",
    "read_bench",
    "read_piece",
    "resolve_bench",
    "resolve_house",
    "schools",
    "shipped_bench",
    "stocked_solders",
    "weigh",
    "write_piece",
]
