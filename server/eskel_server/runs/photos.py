"""Photographs of a run: made smaller, turned upright, and written anew, so that nothing is kept that tells where they were taken."""

from __future__ import annotations

import base64
import binascii
import io
import warnings
from dataclasses import dataclass

from django.utils import timezone
from PIL import Image, ImageOps, UnidentifiedImageError

from eskel_core.faults import Refused, refuse
from eskel_server.accounts import Clash, Missing, current_workshop

from .models import Photo, Run

KINDS = ("JPEG", "PNG", "WEBP")
LONGEST_PX, SMALL_PX = 1600, 320
MOST_BYTES, MOST_PIXELS = 3_000_000, 50_000_000
MOST_OF_A_RUN = 60
QUALITY = 82


@dataclass(frozen=True)
class Shrunk:
    """A photograph as it is kept: as JPEG, large and small, and how large it is, pixels."""

    large: bytes
    small: bytes
    width: int
    height: int


def keep_photo(run: Run, turn: str, image: str) -> Photo:
    """Keep a photograph, given in base64, with a turn of a run. Raises `Refused` where it is none, `Clash` where the run has too many."""
    if run.photos.count() >= MOST_OF_A_RUN:
        raise Clash(
            "image",
            run.photos.count(),
            f"a run has at most {MOST_OF_A_RUN} photographs",
            "Take one away first.",
        )
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
    """Make a photograph smaller; raise `Refused` where it is too large, or nothing that can be read."""
    try:
        plain = base64.b64decode(image, validate=True)
    except binascii.Error:
        raise refuse(
            "not-an-image", "image", image[:40], "a photograph is sent in base64", "Choose a photograph."
        ) from None
    if len(plain) > MOST_BYTES:
        raise refuse(
            "too-large",
            "image",
            len(plain),
            f"a photograph is at most {MOST_BYTES} bytes",
            "Make it smaller first.",
        )
    opened = _opened(plain)
    if opened.width * opened.height > MOST_PIXELS:
        rule = f"a photograph has at most {MOST_PIXELS // 1_000_000} million pixels"
        raise refuse(
            "too-large", "image", f"{opened.width} × {opened.height}", rule, "Make it smaller first."
        )
    try:
        upright = ImageOps.exif_transpose(opened).convert("RGB")
    except (OSError, ValueError, SyntaxError):
        raise _no_image(plain) from None
    upright.thumbnail((LONGEST_PX, LONGEST_PX))
    width, height = upright.size
    large = _written(upright)
    upright.thumbnail((SMALL_PX, SMALL_PX))
    return Shrunk(large, _written(upright), width, height)


def _opened(plain: bytes) -> Image.Image:
    """Open a picture: its pixels are read only when they are asked for."""
    try:
        with warnings.catch_warnings():
            # How many pixels are too many is said by ourselves.
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            return Image.open(io.BytesIO(plain), formats=KINDS)
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise _no_image(plain) from None


def _no_image(plain: bytes) -> Refused:
    rule = f"a photograph is one of {', '.join(KINDS)}, and whole"
    return refuse("not-an-image", "image", f"{len(plain)} bytes", rule, "Save it as JPEG and choose that.")


def _written(image: Image.Image) -> bytes:
    """Write pixels alone: no place, no device, no time."""
    told = io.BytesIO()
    bare = Image.new("RGB", image.size)
    bare.paste(image)
    bare.save(told, "JPEG", quality=QUALITY, optimize=True)
    return told.getvalue()
