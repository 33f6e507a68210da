"""Photographs made smaller, in a process of the workroom that holds little: it knows neither the core nor the database.

What is too large is refused by what its head says, before a pixel is read. A JPEG is decoded small; anything else is decoded whole,
and may have fewer pixels for it.
"""

from __future__ import annotations

import base64
import binascii
import io
import resource
import warnings
from dataclasses import dataclass

from PIL import Image, ImageOps, UnidentifiedImageError

KINDS = ("JPEG", "PNG", "WEBP")
LONGEST_PX, SMALL_PX = 1600, 320
MOST_BYTES = 3_000_000
# Of a JPEG that can be decoded small; of anything that has to be decoded whole.
MOST_PIXELS, MOST_PIXELS_WHOLE = 50_000_000, 25_000_000
QUALITY = 82
# What the process may take beside what it holds when it begins.
MOST_MORE_BYTES = 300_000_000

Refusal = tuple[str, str, str, str]
"""Code, value, rule and remedy."""


class NotTaken(ValueError):
    """A photograph that cannot be taken."""

    def __init__(self, code: str, value: str, rule: str, remedy: str) -> None:
        super().__init__(rule)
        self.told: Refusal = (code, value, rule, remedy)


@dataclass(frozen=True)
class Shrunk:
    """A photograph as it is kept: as JPEG, large and small, and how large it is, pixels."""

    large: bytes
    small: bytes
    width: int
    height: int


def begin() -> None:
    """Prepare a process: it may take so much memory and no more."""
    held = _data_bytes() + MOST_MORE_BYTES
    resource.setrlimit(resource.RLIMIT_DATA, (held, held))


def _data_bytes() -> int:
    with open("/proc/self/status", encoding="ascii") as status:
        told = next(line for line in status if line.startswith("VmData"))
    return int(told.split()[1]) * 1024


def carry_out(image: str) -> tuple[str, Shrunk | Refusal]:
    """Make a photograph, given in base64, smaller, as a task of the workroom; give why not where it is none or too large."""
    try:
        return "done", shrunk(image)
    except NotTaken as problem:
        return "done", problem.told
    except MemoryError:
        rule = "a photograph can be made smaller in 300 MB"
        return "done", ("too-large", "", rule, "Make it smaller first.")


def shrunk(image: str) -> Shrunk:
    """Make a photograph smaller, upright, and bare of all that tells where it was taken. Raises `NotTaken`."""
    plain = _plain(image)
    opened = _opened(plain)
    whole = opened.format != "JPEG" or "progression" in opened.info or "progressive" in opened.info
    most = MOST_PIXELS_WHOLE if whole else MOST_PIXELS
    if opened.width * opened.height > most:
        rule = f"a photograph of this kind has at most {most // 1_000_000} million pixels"
        size = f"{opened.width} × {opened.height}"
        raise NotTaken("too-large", size, rule, "Make it smaller first.")
    try:
        opened.draft("RGB", (LONGEST_PX, LONGEST_PX))
        opened.load()
        upright = _small(opened)
    except (OSError, ValueError, SyntaxError):
        raise _no_image(plain) from None
    width, height = upright.size
    large = _written(upright)
    upright.thumbnail((SMALL_PX, SMALL_PX))
    return Shrunk(large, _written(upright), width, height)


def _small(opened: Image.Image) -> Image.Image:
    """Make it small first: what is turned and coloured then is a small part of it."""
    turned = opened.getexif()
    opened.thumbnail((LONGEST_PX, LONGEST_PX))
    small = opened.convert("RGB")
    small.info["exif"] = turned.tobytes()
    return ImageOps.exif_transpose(small)


def _plain(image: str) -> bytes:
    """Read base64; what is too long for a photograph is not read at all."""
    most = MOST_BYTES // 3 * 4 + 4
    try:
        plain = base64.b64decode(image, validate=True) if len(image) <= most else b""
    except (binascii.Error, ValueError):
        rule = "a photograph is sent in base64"
        raise NotTaken("not-an-image", image[:40], rule, "Choose a photograph.") from None
    if len(image) > most or len(plain) > MOST_BYTES:
        rule = f"a photograph is at most {MOST_BYTES} bytes"
        raise NotTaken("too-large", f"{len(image) * 3 // 4} bytes", rule, "Make it smaller first.")
    return plain


def _opened(plain: bytes) -> Image.Image:
    """Open a picture: its pixels are read only when they are wanted."""
    try:
        with warnings.catch_warnings():
            # How many pixels are too many is said by ourselves.
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            return Image.open(io.BytesIO(plain), formats=KINDS)
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise _no_image(plain) from None


def _no_image(plain: bytes) -> NotTaken:
    rule = f"a photograph is one of {', '.join(KINDS)}, and whole"
    return NotTaken("not-an-image", f"{len(plain)} bytes", rule, "Save it as JPEG and choose that.")


def _written(image: Image.Image) -> bytes:
    """Write pixels alone: no place, no device, no time."""
    told = io.BytesIO()
    bare = Image.new("RGB", image.size)
    bare.paste(image)
    bare.save(told, "JPEG", quality=QUALITY, optimize=True)
    return told.getvalue()
