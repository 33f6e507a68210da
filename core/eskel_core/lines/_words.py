"""The words that a line may hold, each with what it says: kinds of part, metals, tempers, roles of a measure, marks."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

# What a part is, by its noun: the kind it is read as. A noun that is none of the plain ones also names the part.
KINDS: Mapping[str, str] = MappingProxyType(
    {
        **dict.fromkeys(("disc", "disk", "circle"), "disc"),
        **dict.fromkeys(("sheet", "plate", "rectangle", "rect", "base", "backing", "backplate"), "rect"),
        **dict.fromkeys(("oval", "ellipse"), "oval"),
        **dict.fromkeys(("washer", "annulus"), "washer"),
        **dict.fromkeys(("dome", "cup-blank"), "disc"),
        **dict.fromkeys(
            (
                "wire",
                "post",
                "pin",
                "headpin",
                "hook",
                "s-hook",
                "s hook",
                "stem",
                "rod",
                "rivet",
                "bar",
                "claw",
                "prong",
                "strand",
                "rope",
                "frame",
                "earwire",
            ),
            "wire",
        ),
        **dict.fromkeys(
            (
                "half-round",
                "half round",
                "halfround",
                "1/2 round",
                "½ round",
                "d wire",
                "d-wire",
                "d section",
                "d shape",
                "shank",
            ),
            "half-round",
        ),
        **dict.fromkeys(
            ("strip", "bezel", "band", "strap", "bail", "wall", "walls", "collet", "cuff"), "strip"
        ),
        **dict.fromkeys(("tube", "tubing", "knuckle", "hinge", "pipe"), "tube"),
        **dict.fromkeys(("ball", "shot", "granule", "grain", "bead", "boss"), "ball"),
        **dict.fromkeys(("ring", "jump-ring", "jump ring", "jumpring", "link", "loop", "eye"), "ring"),
        **dict.fromkeys(("stone", "cab", "cabochon"), "stone"),
        **dict.fromkeys(("lump", "casting", "clasp", "catch", "finding", "nut"), "lump"),
    }
)
PLAIN_NOUNS = frozenset(
    {
        "wire",
        "sheet",
        "strip",
        "rect",
        "rectangle",
        "half-round",
        "half round",
        "halfround",
        "1/2 round",
        "½ round",
        "d wire",
        "d-wire",
        "d section",
        "d shape",
    }
)
SECTIONS: Mapping[str, str] = MappingProxyType(
    {
        "round": "round",
        "rnd": "round",
        "square": "square",
        "sq": "square",
        "flat": "rect",
        "rectangular": "rect",
    }
)
METALS: Mapping[str, str] = MappingProxyType(
    {
        **dict.fromkeys(
            ("sterling", "sterling silver", "sterling 925", "925", "silver", "stg", "ss"), "sterling-925"
        ),
        **dict.fromkeys(("fine", "fine silver", "fs", "999", "999 silver"), "fine-silver-999"),
        **dict.fromkeys(("britannia", "britannia silver", "958"), "britannia-958"),
        **dict.fromkeys(
            ("germanium silver", "germanium sterling", "germanium", "935"), "germanium-silver-935"
        ),
        **dict.fromkeys(("coin silver", "coin", "900"), "coin-900"),
        **dict.fromkeys(("copper", "cu"), "copper"),
        **dict.fromkeys(("brass", "yellow brass", "cz"), "brass-c260"),
        **dict.fromkeys(("red brass", "gilding metal", "gilding"), "brass-c230"),
        "bronze": "bronze-c220",
        **dict.fromkeys(("nickel silver", "nickel"), "nickel-silver-c752"),
        **dict.fromkeys(("gold-filled", "gold filled", "gf"), "gold-filled-14-20"),
        **dict.fromkeys(("fine gold", "24k", "24ct", "24 ct", "24 k"), "gold-fine"),
        **dict.fromkeys(
            ("22k", "22ct", "22 ct", "22 k", "22k gold", "22ct gold", "22 ct gold"), "gold-22k-yellow"
        ),
        **dict.fromkeys(
            ("18k", "18ct", "18 ct", "18 k", "18k gold", "18ct gold", "18 ct gold"), "gold-18k-yellow"
        ),
        **dict.fromkeys(
            ("14k", "14ct", "14 ct", "14 k", "14k gold", "14ct gold", "14 ct gold"), "gold-14k-yellow"
        ),
    }
)
TEMPERS: Mapping[str, Any] = MappingProxyType(
    {
        **dict.fromkeys(("soft", "annealed", "dead soft"), "soft"),
        **dict.fromkeys(("quarter-hard", "quarter hard", "¼ hard", "1/4 hard"), "quarter-hard"),
        **dict.fromkeys(("half-hard", "half hard", "½ hard", "1/2 hard", "hh"), "half-hard"),
        **dict.fromkeys(("hard", "full hard", "hard-drawn"), "hard"),
        **dict.fromkeys(("spring-hard", "spring temper", "spring hard"), "spring"),
        "unknown temper": "unknown",
    }
)
# Words that say which measure the number beside them is; `before` those that stand before their number only.
ROLES: Mapping[str, str] = MappingProxyType(
    {
        **dict.fromkeys(("long", "length", "l"), "long"),
        **dict.fromkeys(("thick", "thickness", "gauge of", "t"), "thick"),
        **dict.fromkeys(("wide", "width", "across", "w"), "wide"),
        **dict.fromkeys(("high", "tall", "height", "deep", "h"), "high"),
        **dict.fromkeys(("wall",), "wall"),
        **dict.fromkeys(("od", "outside", "outer", "outside diameter"), "outer"),
        **dict.fromkeys(("id", "inside", "inner", "inside diameter", "hole"), "inner"),
        **dict.fromkeys(("dia", "diam", "diameter", "ø", "d"), "across"),
        **dict.fromkeys(("domed", "rise", "domed by", "rising"), "domed"),
        **dict.fromkeys(("pitch",), "pitch"),
        **dict.fromkeys(("corner", "corners", "radius"), "corner"),
        **dict.fromkeys(("strands", "ply"), "strands"),
        **dict.fromkeys(("around", "round a", "round an", "for a", "for an", "for"), "around"),
    }
)
FIRST_ROLES = frozenset({"domed", "pitch", "corner", "around"})
MARKS: Mapping[str, tuple[str, Any]] = MappingProxyType(
    {
        **dict.fromkeys(("closed", "soldered shut"), ("closed", True)),
        **dict.fromkeys(("open",), ("closed", False)),
        **dict.fromkeys(("spring", "springy", "sprung"), ("spring", True)),
        **dict.fromkeys(("bought", "bought-in", "bought in"), ("bought_in", True)),
        **dict.fromkeys(("moves", "moving", "loose"), ("moves", True)),
        **dict.fromkeys(("cast",), ("cast", True)),
        **dict.fromkeys(("through skin", "through the skin", "through the ear"), ("touches_skin", "through")),
        **dict.fromkeys(("on skin", "on the skin"), ("touches_skin", "on")),
        **dict.fromkeys(("as drawn",), ("as_drawn", True)),
        **dict.fromkeys(("sealed", "sealed at one end"), ("sealed_ends", 1)),
        **dict.fromkeys(("sealed at both ends",), ("sealed_ends", 2)),
        **dict.fromkeys(("twisted",), ("twisted", True)),
    }
)
# Words that tell one part from another and go into its name: `ear post`, `top plate`, `box wall`.
NAMING = frozenset(
    {
        *("ear", "box", "chain", "cup", "tip", "blank", "cover", "lid", "floor", "setting", "faceted", "cap"),
        *("toggle", "scalloped", "gallery", "balled"),
        *("small", "large", "big", "little", "main", "first", "second", "third", "upper", "lower", "middle"),
        *("top", "bottom", "front", "back", "side", "left", "right", "centre", "center", "end"),
    }
)
# Such words tell of sheet where no other noun stands in the line: `lid 30 × 18 × 0.9`.
SHEET_NAMES = frozenset({"top", "bottom", "front", "back", "side", "lid", "floor", "cover", "blank", "tip"})
# Measures' names that tell one part from another where a noun follows: `outer bezel 0.4 × 4 × 60`.
NAMING_ROLES = frozenset({"outer", "inner", "inside", "outside"})
NUMBERS: Mapping[str, int] = MappingProxyType(
    {
        "one": 1,
        "two": 2,
        "three": 3,
        "four": 4,
        "five": 5,
        "six": 6,
        "seven": 7,
        "eight": 8,
        "nine": 9,
        "ten": 10,
        "dozen": 12,
        "twelve": 12,
        "pair": 2,
    }
)
# Two nouns that tell of one part: `bezel strip`, `post wire`, `round plate`, `half-round ring`.
TOGETHER: Mapping[tuple[str, str], str] = MappingProxyType(
    {
        ("disc", "rect"): "disc",
        ("rect", "disc"): "disc",
        ("ring", "disc"): "washer",
        ("disc", "ring"): "washer",
        ("oval", "rect"): "oval",
        ("rect", "oval"): "oval",
        ("oval", "stone"): "stone",
        ("stone", "oval"): "stone",
        ("strip", "wire"): "strip",
        ("wire", "strip"): "strip",
        ("wire", "half-round"): "half-round",
        ("half-round", "wire"): "half-round",
        ("ring", "half-round"): "half-round",
        ("half-round", "ring"): "half-round",
        ("strip", "ring"): "strip",
        ("ring", "strip"): "strip",
        ("wire", "ring"): "ring",
        ("ring", "wire"): "ring",
        ("half-round", "strip"): "half-round",
        ("strip", "half-round"): "half-round",
        ("lump", "wire"): "lump",
        ("strip", "rect"): "strip",
        ("rect", "strip"): "strip",
        ("wire", "lump"): "lump",
    }
)
SMALL = frozenset(
    {
        "a",
        "an",
        "of",
        "the",
        "and",
        "with",
        "in",
        "mm",
        "made",
        "from",
        "size",
        "is",
        "to",
        "dapped",
        "cut",
        "pcs",
        "pieces",
        "off",
    }
)


def singular(word: str) -> str:
    """Give a noun of one, for a noun of many.

    >>> singular("discs"), singular("washers"), singular("glass")
    ('disc', 'washer', 'glass')
    """
    if word in KINDS or word in ROLES or word in METALS or word in MARKS:
        return word
    for end, cut in (("shes", 2), ("ches", 2), ("s", 1)):
        if word.endswith(end) and not word.endswith("ss") and (word[:-cut] in KINDS or word[:-cut] in NAMING):
            return word[:-cut]
    return word
