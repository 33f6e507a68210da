"""The lines of the list: kept by what each follows from, so that a list of any length plans and draws nothing."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from itertools import count
from pathlib import Path
from typing import TYPE_CHECKING

from django.db.models import F
from django.utils import timezone
from ninja import Schema

import eskel_core
from eskel_core.faults import Refused
from eskel_core.picture import Picture, small
from eskel_core.piece import Piece
from eskel_core.plan import HeatStep, Plan
from eskel_server.accounts import beside
from eskel_server.bench import bench_of
from eskel_server.shelf import Shelf

from .contents import Content, content_standing, digest_of
from .models import KeptLine, PieceRow, Revision
from .queries import picture_of, plan_or_word, standing_of

if TYPE_CHECKING:
    from eskel_server.accounts import Workshop

MOST_KEPT = 5_000
# How large a line of the list draws its piece, at twice the pixels of a plain screen.
DRAWN_PX = (192.0, 112.0)
# Lines are counted once in so many that are made: the count takes longer than the making.
LOOKED_OVER_EVERY = 100
_MADE = count(1)


class Line(Schema):
    """What a piece's line shows beside its name: what it is and what it waits for."""

    parts: int
    joins: int
    heats: int
    status: str
    waits_for: str
    picture: Picture | None = None


@dataclass(frozen=True)
class WrittenLine:
    """A line as JSON: whole, and as the list has it, without its picture, which is asked for when it is looked at."""

    whole: str
    short: str


def _written(line: Line) -> WrittenLine:
    return WrittenLine(line.model_dump_json(), line.model_copy(update={"picture": None}).model_dump_json())


_UNPLANNED = _written(Line(parts=0, joins=0, heats=0, status="unplanned", waits_for=""))
_KNOWN = Shelf[str, WrittenLine](most=2_000)


@lru_cache(maxsize=1)
def _core() -> str:
    """Give a name of the core as it is: what follows from another one is not what follows from this."""
    sources = sorted(Path(eskel_core.__path__[0]).rglob("*.[pc]*[yv]"))
    return digest_of("".join(digest_of(source.read_text(encoding="utf-8")) for source in sources))


def bench_mark(workshop: Workshop) -> str:
    """Give a name of the bench and the core, which every line follows from."""
    house, bench = bench_of(workshop)
    return digest_of(_core() + house.model_dump_json() + bench.model_dump_json())


def list_of(workshop: Workshop) -> str:
    """Give the list of a workshop's pieces as JSON; the line of one that is not known yet says `unplanned`."""
    mark = bench_mark(workshop)
    rows = list(PieceRow.objects.filter(workshop=workshop))
    standing = Revision.objects.filter(piece__workshop=workshop, number=F("piece__revision"))
    digests = dict(standing.values_list("piece_id", "digest"))
    keys = {row.pk: digest_of(mark + digests.get(row.pk, "")) for row in rows}
    unknown = [key for key in keys.values() if _KNOWN.get(key) is None]
    for key, line in KeptLine.objects.filter(key__in=unknown).values_list("key", "line"):
        _KNOWN.put(key, _written(Line.model_validate_json(line)))
    return f"[{', '.join(line_of(row, (_KNOWN.get(keys[row.pk]) or _UNPLANNED).short) for row in rows)}]"


def line_of(row: PieceRow, line: str) -> str:
    """Give the line of a piece as JSON from what is kept of it."""
    changed = row.changed_at.isoformat()
    return beside({"id": row.pk, "name": row.name, "put_away": row.put_away, "changed_at": changed}, line)


def make_line(row: PieceRow) -> str:
    """Work a piece's line out; one that cannot be read says so."""
    standing = standing_of(row)
    try:
        content = content_standing(row, standing.digest)
    except Refused as problem:
        why = f"being mended: {problem.faults[0].sentence()}"
        key = _key_of(row, standing.digest)
        return _keep(key, Line(parts=0, joins=0, heats=0, status="unreadable", waits_for=why))
    made = plan_or_word(content, *bench_of(row.workshop))
    return keep_line(row, content, made, picture_of(content))


def keep_line(row: PieceRow, content: Content, made: Plan, picture: Picture) -> str:
    """Keep the line of a piece of this content, and give it."""
    key, piece = _key_of(row, content.digest), content.piece
    known = _KNOWN.get(key)
    if known is not None:
        return known.whole
    heats = sum(1 for step in made.steps if isinstance(step, HeatStep))
    return _keep(
        key,
        Line(
            parts=sum(part.count for part in piece.parts),
            joins=len(piece.joins),
            heats=heats,
            status=made.status,
            waits_for=_waits_for(piece, made, heats),
            picture=small(picture, *DRAWN_PX),
        ),
    )


def _key_of(row: PieceRow, digest: str) -> str:
    return digest_of(bench_mark(row.workshop) + digest)


def _keep(key: str, line: Line) -> str:
    written = _written(line)
    KeptLine.objects.bulk_create(
        [KeptLine(key=key, line=written.whole, made_at=timezone.now())],
        update_conflicts=True,
        unique_fields=["key"],
        update_fields=["line", "made_at"],
    )
    _KNOWN.put(key, written)
    if next(_MADE) % LOOKED_OVER_EVERY == 0 and KeptLine.objects.count() > MOST_KEPT:
        old = KeptLine.objects.order_by("made_at").values("key")[: MOST_KEPT // 10]
        KeptLine.objects.filter(key__in=old).delete()
    return written.whole


def _waits_for(piece: Piece, made: Plan, heats: int) -> str:
    if not piece.parts:
        return "its first part"
    if made.conflict is not None:
        return f"a way out: {made.conflict.demands[0].text}"
    if heats == 0:
        return "its joins"
    return f"the torch: {heats} heat{'s' if heats != 1 else ''}"
