"""Programmes by numbers, as a search makes them: the seeds of the trade, what is drawn, what lies beside one, what varies it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from itertools import pairwise

import numpy as np

from ._ways import RISES, SETTINGS, Gene, Genes, Ways

MOST_STAGES, MOST_CHANGES = 4, 2
_EVERY_SETTING = 3


def alone(ways: Ways) -> list[Genes]:
    """Every aim alone, at some settings, held as it is or coming nearer."""
    some = range(0, len(SETTINGS), _EVERY_SETTING)
    return [
        ((aim, setting, 0, rise),)
        for aim in range(len(ways.aims))
        for setting in (*some, len(SETTINGS) - 1)
        for rise in (0, len(RISES) - 1)
    ]


def brought(ways: Ways, draw: np.random.Generator, many: int) -> list[Genes]:
    """So many of the ways to bring the whole, or the heaviest part, to a sign at full or middle flame first, and then go on gently."""
    full, middle = len(SETTINGS) - 1, 3
    network = ways.ready.setup.network
    heavy = max(network.nodes, key=lambda node: (network.capacity_of(node), node))
    first = [0, *(n for n, aim in enumerate(ways.aims) if aim.about == heavy)]
    made: list[Genes] = [
        ((at, bring, sign, 0), (aim, 0, 0, rise))
        for at in first
        for sign in range(len(ways.signs))
        for bring in (full, middle)
        for aim in range(len(ways.aims))
        for rise in (0, len(RISES) - 1)
    ]
    return [made[n] for n in sorted(int(n) for n in draw.permutation(len(made))[:many])]


def drawn(ways: Ways, draw: np.random.Generator) -> Iterator[Genes]:
    """Draw programmes of two or three stages, without end; none where there are no signs to part them by."""
    most = min(3, MOST_STAGES - len(ways.dry))
    while ways.signs and most >= 2:
        genes = _ended([_stage(ways, draw) for _ in range(int(draw.integers(2, most + 1)))])
        if allowed(genes, ways):
            yield genes


def beside(genes: Genes, ways: Ways) -> list[Genes]:
    """Give what differs from a programme in one thing only: a setting, how it comes nearer, a sign."""
    made: dict[Genes, None] = {}
    for at, (aim, setting, sign, rise) in enumerate(genes):
        others = [(aim, to, sign, rise) for to in (setting - 1, setting + 1) if 0 <= to < len(SETTINGS)]
        others += [(aim, setting, sign, to) for to in range(len(RISES)) if to != rise]
        if at < len(genes) - 1:
            others += [(aim, setting, to, rise) for to in range(len(ways.signs)) if to != sign]
        for other in others:
            changed = (*genes[:at], other, *genes[at + 1 :])
            if allowed(changed, ways):
                made[changed] = None
    return list(made)


def varied(genes: Genes, ways: Ways, draw: np.random.Generator) -> Genes:
    """Change one thing of a programme: an aim, a setting, a sign, how it comes nearer; put a stage in, or leave one out."""
    made, at, signs = list(genes), int(draw.integers(len(genes))), len(ways.signs)
    aim, setting, sign, rise = made[at]
    match int(draw.choice(6, p=(0.25, 0.3, 0.15, 0.12, 0.12, 0.06))):
        case 0:
            made[at] = int(draw.integers(len(ways.aims))), setting, sign, rise
        case 1:
            step = int(draw.choice([-3, -2, -1, 1, 2, 3]))
            made[at] = aim, min(len(SETTINGS) - 1, max(0, setting + step)), sign, rise
        case 2 if signs:
            made[at] = aim, setting, int(draw.integers(signs)), rise
        case 3:
            made[at] = aim, setting, sign, int(draw.integers(len(RISES)))
        case 4 if signs:
            made.insert(at, (*_stage(ways, draw)[:3], 0))
        case 5 if len(made) > 1:
            del made[at]
    return _ended(made)


def _stage(ways: Ways, draw: np.random.Generator) -> Gene:
    aim, setting = int(draw.integers(len(ways.aims))), int(draw.integers(len(SETTINGS)))
    return aim, setting, int(draw.integers(len(ways.signs))), int(draw.integers(len(RISES)))


def _ended(stages: Sequence[Gene]) -> Genes:
    """Let the last go on until it runs: it has no sign of its own."""
    aim, setting, _, rise = stages[-1]
    return (*stages[:-1], (aim, setting, 0, rise))


def allowed(genes: Genes, ways: Ways) -> bool:
    """At most four stages with the drying, two changes of the setting, no neighbours that do the same."""
    settings = [gene[1] for gene in genes]
    if ways.dry:
        settings = [0, *settings]
    changes = sum(one != other for one, other in pairwise(settings))
    same = any(a[:2] == b[:2] and a[3] == b[3] for a, b in pairwise(genes))
    return len(genes) + len(ways.dry) <= MOST_STAGES and changes <= MOST_CHANGES and not same


def carried(rough: Ways, fine: Ways, found: Iterable[Genes]) -> list[Genes]:
    """Give programmes of the rough body by the numbers of the fine one; without those whose aims or signs that has not."""
    aims = {aim.key: n for n, aim in enumerate(fine.aims)}
    signs = {sign.key: n for n, sign in enumerate(fine.signs)}
    made = []
    for genes in found:
        names = [
            (rough.aims[aim].key, rough.signs[sign].key if rough.signs else "") for aim, _, sign, _ in genes
        ]
        if all(aim in aims and (sign in signs or not rough.signs) for aim, sign in names):
            made.append(
                tuple(
                    (aims[aim], gene[1], signs.get(sign, 0), gene[3])
                    for (aim, sign), gene in zip(names, genes, strict=True)
                )
            )
    return made
