"""Photographs of a run: smaller, upright, with nothing that tells where they were taken; what is none is refused by name."""

from __future__ import annotations

import base64
import io
import subprocess
import sys
from typing import Any

import pytest
from PIL import Image, ImageStat
from PIL.ExifTags import GPS, IFD, Base

from eskel_server import shrink
from eskel_server.runs import photos
from eskel_server.runs.models import Photo
from tests.server.conftest import Caller
from tests.server.test_runs import run

__all__ = ["run"]

pytestmark = pytest.mark.django_db


def picture(width: int = 2400, height: int = 1200, kind: str = "JPEG", **more: Any) -> bytes:
    """A picture, red on its left half and blue on its right."""
    made = Image.new("RGB", (width, height), (200, 20, 20))
    made.paste((20, 20, 200), (width // 2, 0, width, height))
    told = io.BytesIO()
    made.save(told, kind, **more)
    return told.getvalue()


def with_place(orientation: int) -> bytes:
    """One that says where it was taken, with which camera, and how it was held."""
    exif = Image.Exif()
    exif[Base.Orientation] = orientation
    exif[Base.Make] = "Lantern camera"
    exif.get_ifd(IFD.GPSInfo)[GPS.GPSLatitude] = (52.0, 13.0, 7.0)
    return picture(exif=exif)


def sent(plain: bytes) -> str:
    return base64.b64encode(plain).decode()


def keep(call: Caller, key: int, plain: bytes) -> tuple[int, Any]:
    return call.post(f"/runs/{key}/photos", turn="1", image=sent(plain))


def seen(call: Caller, key: int, query: str = "") -> Image.Image:
    answer = call.client.get(f"/api/photos/{key}.jpg{query}")
    assert (answer.status_code, answer["Content-Type"]) == (200, "image/jpeg")
    return Image.open(io.BytesIO(answer.content))


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_a_photograph_is_kept_smaller_with_its_run(kind: str, run: dict[str, Any], call: Caller) -> None:
    status, kept = keep(call, run["id"], picture(kind=kind))
    assert (status, kept["width"], kept["height"], kept["turn"]) == (201, 1600, 800, "1")
    assert call.get(f"/runs/{run['id']}/photos") == (200, [kept])
    assert seen(call, kept["id"]).size == (1600, 800)
    assert seen(call, kept["id"], "?small=true").size == (320, 160)
    assert call.client.delete(f"/api/photos/{kept['id']}").status_code == 204
    assert call.get(f"/runs/{run['id']}/photos") == (200, [])
    assert call.client.get(f"/api/photos/{kept['id']}.jpg").status_code == 404


def test_nothing_tells_where_it_was_taken_and_it_stands_upright(run: dict[str, Any], call: Caller) -> None:
    """Orientation 6: held with its right side down, so the left of the file is the top of what was seen."""
    plain = with_place(6)
    assert b"Lantern camera" in plain
    kept = keep(call, run["id"], plain)[1]
    for query in ("", "?small=true"):
        shown = seen(call, kept["id"], query)
        assert len(shown.getexif()) == 0
        assert "exif" not in shown.info
        assert shown.height == 2 * shown.width
        red, _, blue = ImageStat.Stat(shown.crop((0, 0, shown.width, shown.height // 4))).mean
        assert red > blue
    row = Photo.objects.get()
    assert b"Lantern camera" not in bytes(row.large) + bytes(row.small)


def test_one_that_is_small_is_not_made_larger(run: dict[str, Any], call: Caller) -> None:
    assert keep(call, run["id"], picture(40, 30))[1] | {"id": 0, "added_at": ""} == {
        "id": 0,
        "turn": "1",
        "added_at": "",
        "width": 40,
        "height": 30,
    }


@pytest.mark.parametrize(
    ("plain", "code"),
    [
        (b"no picture at all", "not-an-image"),
        (b"", "not-an-image"),
        (picture(60, 60, "GIF"), "not-an-image"),
        (picture()[:2000], "not-an-image"),
        (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "not-an-image"),
        (b"\xff\xd8" + b"x" * shrink.MOST_BYTES, "too-large"),
        (picture(10_000, 6_000, "PNG"), "too-large"),
    ],
)
def test_what_is_no_photograph_is_refused_and_nothing_kept(
    plain: bytes, code: str, run: dict[str, Any], call: Caller
) -> None:
    status, answer = keep(call, run["id"], plain)
    assert status == 422, answer
    fault = answer["faults"][0]
    assert (fault["code"], fault["path"]) == (code, "image")
    assert fault["remedy"]
    assert Photo.objects.count() == 0


def test_what_is_not_base64_or_far_too_much_is_refused(run: dict[str, Any], call: Caller) -> None:
    for image in ("%%%", "a" * 5_000_000, "ü", "a", "\u0660" * 4):
        assert call.post(f"/runs/{run['id']}/photos", turn="1", image=image)[0] == 422
    assert call.post("/runs/999999/photos", turn="1", image=sent(picture(9, 9)))[0] == 404


def test_a_photograph_is_of_a_turn_of_its_run(run: dict[str, Any], call: Caller) -> None:
    for turn in ("99", "1.7", "x", ""):
        status, answer = call.post(f"/runs/{run['id']}/photos", turn=turn, image=sent(picture(9, 9)))
        assert (status, answer["faults"][0]["path"]) == (422, "turn"), turn


@pytest.mark.parametrize(
    ("plain", "taken"),
    [
        (picture(6_000, 4_000, "PNG"), True),
        (picture(6_000, 4_200, "PNG"), False),
        (picture(8_000, 6_000, "JPEG", quality=30), True),
        (picture(8_000, 6_000, "JPEG", quality=30, progressive=True), False),
    ],
    ids=["a PNG of 24 million pixels", "a PNG of 25.2", "a JPEG of 48", "a JPEG in passes of 48"],
)
def test_what_is_decoded_small_may_have_more_pixels(
    plain: bytes, taken: bool, run: dict[str, Any], call: Caller
) -> None:
    status, answer = keep(call, run["id"], plain)
    assert status == (201 if taken else 422), answer


def test_a_photograph_is_made_smaller_in_300_megabytes() -> None:
    """In a process of its own, with the bound that its workroom sets, at the largest size that is taken."""
    script = "import sys; from eskel_server import shrink; shrink.begin(); print(shrink.carry_out(sys.stdin.read())[1].width)"
    done = subprocess.run(
        [sys.executable, "-c", script],
        input=sent(picture(5_000, 5_000, "PNG")),
        capture_output=True,
        text=True,
        check=False,
        timeout=60,
    )
    assert (done.stdout.strip(), done.stderr) == ("1600", "")


def test_a_run_has_only_so_many(run: dict[str, Any], call: Caller, monkeypatch: Any) -> None:
    monkeypatch.setattr(photos, "MOST_OF_A_RUN", 1)
    assert keep(call, run["id"], picture(9, 9))[0] == 201
    status, answer = keep(call, run["id"], picture(9, 9))
    assert (status, answer["faults"][0]["path"]) == (409, "image")
