"""The shelf: what a run has made goes on it, and into other pieces, by its count."""

from __future__ import annotations

from typing import Any

import pytest

from eskel_server.findings.models import Finding
from tests.core.pieces import US, join, plate, wire
from tests.server.conftest import Caller
from tests.server.test_rest import carried_on

pytestmark = pytest.mark.django_db


@pytest.fixture
def run(workshop: Any, call: Caller) -> dict[str, Any]:
    """A run that has just closed a ring."""
    document = {
        "format": "eskel-piece/1",
        "name": "Closed ring",
        "parts": [wire("ring")],
        "joins": [{"id": "seam", "kind": "butt", "between": ["ring", "ring"]}],
        "bench": {"solders": US},
    }
    piece = call.post("/pieces", document=document)[1]
    begun: dict[str, Any] = call.post("/runs", piece=piece["id"])[1]
    return carried_on(call, begun, 1)


@pytest.fixture
def rings(run: dict[str, Any], call: Caller) -> dict[str, Any]:
    status, kept = call.post("/findings", run=run["id"], left=5)
    assert status == 201, kept
    finding: dict[str, Any] = kept
    return finding


def drop(call: Caller, **more: Any) -> dict[str, Any]:
    document = {"format": "eskel-piece/1", "name": "Drop", "parts": [plate("drop")], "bench": {"solders": US}}
    status, piece = call.post("/pieces", document=document | more)
    assert status == 201, piece
    begun: dict[str, Any] = piece
    return begun


def test_what_was_made_is_on_the_shelf(rings: dict[str, Any], run: dict[str, Any], call: Caller) -> None:
    [told] = call.get("/findings")[1]
    assert (told["name"], told["left"], told["run"], told["parts"]) == ("Closed ring", 5, run["id"], ["ring"])
    assert told["picture"]["parts"]
    kept = Finding.objects.get().document
    assert kept["joins"] == [
        {"id": "seam", "kind": "butt", "between": ["ring", "ring"], "solder": "us-hard", "made": True}
    ]


def test_what_is_taken_is_in_the_piece_and_off_the_shelf(rings: dict[str, Any], call: Caller) -> None:
    piece = drop(call)
    status, view = call.post(
        f"/findings/{rings['id']}/take", piece=piece["id"], revision=piece["revision"], number=2
    )
    assert status == 200, view
    assert [part["id"] for part in view["document"]["parts"]] == ["drop", "ring", "ring-2"]
    assert view["undo_what"] == "took Closed ring off the shelf"
    assert Finding.objects.get().left == 3
    # What hangs on it is soldered softer than it was closed with.
    document = view["document"]
    document["joins"].append({**join("hang", "ring", "drop"), "holds": "hand"})
    revised = call.put(f"/pieces/{piece['id']}", revision=view["revision"], document=document, what="joined")[
        1
    ]
    [heat] = [step for step in revised["plan"]["steps"] if step["kind"] == "heat"]
    assert [row["solder"] for row in heat["joins"]] != ["us-hard"]
    assert heat["states"]["seam"] != "flows"
    assert [line["part"] for line in revised["plan"]["cut_list"]] == ["drop"]


@pytest.mark.parametrize(("number", "copies"), [(6, 1), (2, 3)])
def test_no_more_is_taken_than_is_there(
    number: int, copies: int, rings: dict[str, Any], call: Caller
) -> None:
    piece = drop(call, copies=copies)
    status, answer = call.post(
        f"/findings/{rings['id']}/take", piece=piece["id"], revision=piece["revision"], number=number
    )
    assert (status, answer["faults"][0]["path"]) == (409, "number")
    assert Finding.objects.get().left == 5
    assert call.get(f"/pieces/{piece['id']}")[1]["revision"] == piece["revision"]


def test_a_piece_that_was_changed_meanwhile_takes_nothing(rings: dict[str, Any], call: Caller) -> None:
    piece = drop(call)
    call.put(
        f"/pieces/{piece['id']}",
        revision=piece["revision"],
        document=piece["document"] | {"notes": "other"},
        what="noted",
    )
    status, answer = call.post(f"/findings/{rings['id']}/take", piece=piece["id"], revision=piece["revision"])
    assert (status, answer["faults"][0]["path"]) == (409, "revision")
    assert Finding.objects.get().left == 5


def test_the_shelf_is_counted_anew_by_who_saw_it(rings: dict[str, Any], call: Caller) -> None:
    assert call.post(f"/findings/{rings['id']}/left", was=5, left=4)[1]["left"] == 4
    status, answer = call.post(f"/findings/{rings['id']}/left", was=5, left=6)
    assert (status, answer["faults"][0]["path"]) == (409, "left")
    assert call.client.delete(f"/api/findings/{rings['id']}").status_code == 204
    assert call.get("/findings")[1] == []


def test_nothing_made_nothing_on_the_shelf(workshop: Any, call: Caller) -> None:
    document = {
        "format": "eskel-piece/1",
        "name": "Ring",
        "parts": [wire("ring")],
        "joins": [{"id": "seam", "kind": "butt", "between": ["ring", "ring"]}],
    }
    piece = call.post("/pieces", document=document)[1]
    run = call.post("/runs", piece=piece["id"])[1]
    status, answer = call.post("/findings", run=run["id"])
    assert (status, answer["faults"][0]["path"]) == (409, "run")
    assert call.post("/findings", run=10_000)[0] == 404


def test_a_finding_that_cannot_be_read_any_more_is_told_and_not_taken(
    rings: dict[str, Any], call: Caller
) -> None:
    Finding.objects.update(document={"format": "eskel-piece/9"})
    [told] = call.get("/findings")[1]
    assert (told["name"], told["picture"]) == ("Closed ring", None)
    piece = drop(call)
    status, answer = call.post(f"/findings/{rings['id']}/take", piece=piece["id"], revision=piece["revision"])
    assert (status, answer["faults"][0]["code"]) == (409, "unreadable")
    assert Finding.objects.get().left == 5


def test_what_was_taken_is_back_when_that_is_undone_and_off_again_when_done_again(
    rings: dict[str, Any], call: Caller
) -> None:
    piece = drop(call, copies=2)
    path = f"/pieces/{piece['id']}"
    view = call.post(
        f"/findings/{rings['id']}/take", piece=piece["id"], revision=piece["revision"], number=2
    )[1]
    assert Finding.objects.get().left == 1
    view = call.put(
        path, revision=view["revision"], document=view["document"] | {"notes": "x"}, what="noted"
    )[1]
    view = call.post(f"{path}/undo", revision=view["revision"])[1]
    assert Finding.objects.get().left == 1
    view = call.post(f"{path}/undo", revision=view["revision"])[1]
    assert (Finding.objects.get().left, len(view["document"]["parts"])) == (5, 1)
    view = call.post(f"{path}/redo", revision=view["revision"])[1]
    assert (Finding.objects.get().left, len(view["document"]["parts"])) == (1, 3)
    view = call.post(f"{path}/undo", revision=view["revision"])[1]
    # Taken elsewhere meanwhile: it is told, and nothing is half done.
    call.post(f"/findings/{rings['id']}/left", was=5, left=3)
    status, answer = call.post(f"{path}/redo", revision=view["revision"])
    assert (status, answer["faults"][0]["path"]) == (409, "number")
    assert (Finding.objects.get().left, call.get(path)[1]["revision"]) == (3, view["revision"])
    # What is changed instead leaves nothing of it behind.
    call.put(path, revision=view["revision"], document=view["document"] | {"notes": "y"}, what="noted")
    view = call.get(path)[1]
    call.post(f"{path}/undo", revision=view["revision"])
    assert Finding.objects.get().left == 3


def test_what_is_undone_after_the_finding_is_gone_puts_nothing_back(
    rings: dict[str, Any], call: Caller
) -> None:
    piece = drop(call)
    view = call.post(f"/findings/{rings['id']}/take", piece=piece["id"], revision=piece["revision"])[1]
    call.client.delete(f"/api/findings/{rings['id']}")
    status, view = call.post(f"/pieces/{piece['id']}/undo", revision=view["revision"])
    assert (status, len(view["document"]["parts"])) == (200, 1)
    assert not Finding.objects.exists()
