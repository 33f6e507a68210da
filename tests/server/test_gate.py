"""Who may come in: every endpoint against a foreign host, origin and site, without the token, and with a form."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from django.db import OperationalError
from django.test import Client
from psycopg.errors import LockNotAvailable

from tests.server.conftest import Caller

pytestmark = pytest.mark.django_db
OPENAPI = json.loads((Path(__file__).parents[2] / "web" / "openapi.json").read_text(encoding="utf-8"))
ENDPOINTS = [
    (method, path.replace("{key}", "1").replace("{record}", "1").replace("{", "").replace("}", ""))
    for path, methods in OPENAPI["paths"].items()
    for method in methods
]
CHANGES = [(method, path) for method, path in ENDPOINTS if method != "get"]
FOREIGN = {
    "a rebound name": ({"HTTP_HOST": "rebound.example"}, 400, "wrong-host"),
    "another site's page": ({"HTTP_ORIGIN": "http://other.example"}, 403, "foreign-origin"),
    "another port of this machine": ({"HTTP_ORIGIN": "http://testserver:3000"}, 403, "foreign-origin"),
    "a site, said by the browser": ({"HTTP_SEC_FETCH_SITE": "cross-site"}, 403, "foreign-site"),
    "a near site, said by the browser": ({"HTTP_SEC_FETCH_SITE": "same-site"}, 403, "foreign-site"),
}


def send(client: Client, method: str, path: str, kind: str = "application/json", **headers: Any) -> Any:
    """Send a request as a stranger would."""
    return client.generic(method.upper(), path, "{}" if method != "get" else "", content_type=kind, **headers)


def code_of(response: Any) -> str:
    told: str = response.json()["faults"][0]["code"]
    return told


@pytest.mark.parametrize("who", FOREIGN)
def test_no_endpoint_lets_a_stranger_in(who: str) -> None:
    headers, status, code = FOREIGN[who]
    for method, path in ENDPOINTS:
        response = send(Client(), method, path, **headers)
        assert (response.status_code, code_of(response)) == (status, code), (method, path)


def test_no_change_is_made_without_the_token_or_as_a_form() -> None:
    for method, path in CHANGES:
        response = send(Client(enforce_csrf_checks=True), method, path)
        assert (response.status_code, code_of(response)) == (403, "no-token"), (method, path)
        for kind in ("text/plain", "application/x-www-form-urlencoded", "multipart/form-data; boundary=x"):
            response = send(Client(), method, path, kind)
            assert (response.status_code, code_of(response)) == (415, "not-json"), (method, path, kind)


def test_the_page_gives_the_token_that_changes_bring_back(workshop: Any) -> None:
    client = Client(enforce_csrf_checks=True)
    assert client.get("/").status_code in (200, 503)
    token = client.cookies["eskel_token"].value
    begin = {"path": "/api/pieces", "data": {"name": "Mine"}, "content_type": "application/json"}
    own = {"HTTP_ORIGIN": "http://testserver", "HTTP_SEC_FETCH_SITE": "same-origin"}
    assert client.post(**begin, **own, HTTP_X_CSRFTOKEN="x" * 32).status_code == 403
    assert client.post(**begin, **own, HTTP_X_CSRFTOKEN=token).status_code == 201


def test_a_link_from_another_site_opens_the_page_and_nothing_else() -> None:
    visit = {"HTTP_SEC_FETCH_SITE": "cross-site", "HTTP_SEC_FETCH_MODE": "navigate"}
    assert Client().get("/work/3", **visit).status_code in (200, 503)
    assert Client().get("/api/pieces", **visit).status_code == 403


def test_the_page_carries_the_nonce_of_its_policy_and_no_style_is_let_in_otherwise(
    tmp_path: Path, settings: Any
) -> None:
    settings.WEB_DIST = tmp_path
    (tmp_path / "index.html").write_text('<meta name="nonce" content="__NONCE__" />')
    first, second = Client().get("/"), Client().get("/")
    policy = first.headers["Content-Security-Policy"]
    nonce = first.content.decode().partition('content="')[2].partition('"')[0]
    assert len(nonce) > 16
    assert f"style-src 'self' 'nonce-{nonce}'" in policy
    assert "unsafe" not in policy
    assert nonce not in second.content.decode()


@pytest.mark.parametrize(
    ("body", "code"),
    [
        ("{", "bad-json"),
        ("", "bad-request"),
        ('{"name": "a", "name": "b"}', "duplicate-key"),
        ('{"name": "\\u0000"}', "bad-text"),
        ('{"name": "\\ud800"}', "bad-text"),
        (f'{{"name": {"9" * 400}}}', "out-of-range"),
        ('{"name": 1e999}', "out-of-range"),
        (f"{'[' * 60}{']' * 60}", "bad-json"),
        ("5", "wrong-type"),
        ("[null]", "wrong-type"),
    ],
)
def test_a_body_that_is_no_sound_json_is_refused_with_a_fault(
    body: str, code: str, workshop: Any, call: Caller
) -> None:
    response = call.client.generic("POST", "/api/pieces", body, content_type="application/json")
    assert (response.status_code, code_of(response)) == (422, code)
    assert call.get("/pieces")[1] == []


@pytest.mark.parametrize(
    ("method", "path", "status"),
    [("GET", "/api/nothing", 404), ("DELETE", "/api/pieces", 405), ("GET", "/api/", 404)],
)
def test_where_no_endpoint_is_the_answer_is_a_fault_too(method: str, path: str, status: int) -> None:
    response = Client().generic(method, path)
    assert response.status_code == status
    assert response.json()["faults"][0]["path"] == path


def test_what_is_sent_compressed_is_refused(workshop: Any) -> None:
    packed = {"HTTP_CONTENT_ENCODING": "gzip"}
    response = send(Client(), "post", "/api/pieces", **packed)
    assert (response.status_code, code_of(response)) == (415, "packed")


@pytest.mark.parametrize(
    "address",
    ["/api/log?words=a%00b", "/api/log/sums?piece=%00", "/api/log/outcomes.csv?torch=%00", "/api/log?%00=x"],
)
def test_an_address_with_a_nul_is_refused(address: str, workshop: Any) -> None:
    response = Client().get(address)
    assert (response.status_code, code_of(response)) == (422, "bad-text")


def test_no_answer_of_the_api_is_kept_on_its_way(workshop: Any) -> None:
    for address in ("/api/pieces", "/api/nothing", "/api/log?words=%00", "/api/log/outcomes.csv"):
        assert Client().get(address).headers["Cache-Control"] == "no-store", address


def test_waiting_for_a_row_that_another_changes_is_called_so(workshop: Any, monkeypatch: Any) -> None:
    def locked(_key: int) -> None:
        raise OperationalError("lock timeout") from LockNotAvailable()

    monkeypatch.setattr("eskel_server.runs.api.run_of", locked)
    response = Client().get("/api/runs/1")
    assert (response.status_code, code_of(response)) == (503, "busy")


@pytest.mark.parametrize(
    ("path", "body", "key"),
    [
        ("/api/runs/table", {"text": "", "skip": "1"}, "told.skip"),
        ("/api/runs/table", {"text": "", "skip": 1.0}, "told.skip"),
        ("/api/runs/table", {"text": "", "skip": True}, "told.skip"),
        ("/api/starts/band/typed", {"typed": {}, "plan": "no"}, "asked.plan"),
        ("/api/starts/band/typed", {"typed": {}, "plan": 0}, "asked.plan"),
        ("/api/starts/band/typed", {"typed": [["thickness_mm", 1]]}, "asked.typed"),
        ("/api/runs/1/stop", {"at": "1"}, "step.at"),
    ],
)
def test_no_value_is_taken_for_one_of_another_kind(path: str, body: Any, key: str, workshop: Any) -> None:
    response = Client().post(path, json.dumps(body), "application/json")
    assert (response.status_code, response.json()["faults"][0]["path"]) == (422, key)


@pytest.mark.parametrize("since", ["1700000000", "2026-01-01T00:00:00", "-1", "2026-13-01", "1e9"])
def test_a_day_is_written_as_a_day(since: str, workshop: Any) -> None:
    assert Client().get("/api/log", {"since": since}).status_code == 422
    assert Client().get("/api/log", {"since": "2026-01-01"}).status_code == 200
