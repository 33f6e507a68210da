"""Photographs of a run: made smaller, turned upright, and written anew, so that nothing is kept that tells where they were taken."""

from __future__ import annotations

from django.utils import timezone

from eskel_core.faults import refuse
from eskel_server.accounts import Clash, Missing, current_workshop
from eskel_server.shrink import Refusal, Shrunk
from eskel_server.workroom import room

from .following import state_of
from .models import Photo, Run

MOST_OF_A_RUN = 60
SHRUNK_WITHIN_S = 20.0


def keep_photo(run: Run, turn: str, image: str) -> Photo:
    """Keep a photograph, given in base64, with a turn of a run. Raises `Refused` where it is none, `Clash` where the run has too many."""
    if run.photos.count() >= MOST_OF_A_RUN:
        raise Clash(
            "image",
            run.photos.count(),
            f"a run has at most {MOST_OF_A_RUN} photographs",
            "Take one away first.",
        )
    if turn not in {one.id for one in state_of(run).turns}:
        rule, remedy = "a photograph is of a turn of its run", "Open the run anew and take it there."
        raise refuse("unknown-id", "turn", turn, rule, remedy)
    made = shrunk(image)
    return Photo.objects.create(
        run=run,
        turn=turn,
        added_at=timezone.now(),
        width=made.width,
        height=made.height,
        large=made.large,
        small=made.small,
    )


def photo_of(key: int) -> Photo:
    """Give a photograph of this workshop; raise `Missing` when there is none."""
    found = Photo.objects.filter(run__workshop=current_workshop(), pk=key).first()
    if found is None:
        raise Missing("photograph", key)
    return found


def shrunk(image: str) -> Shrunk:
    """Have a photograph made smaller, beside the server and one at a time; raise `Refused` where it is too large, or none that can be read."""
    made: Shrunk | Refusal = room().do("photo", image, limit_s=SHRUNK_WITHIN_S)
    if isinstance(made, Shrunk):
        return made
    code, value, rule, remedy = made
    raise refuse(code, "image", value, rule, remedy)
