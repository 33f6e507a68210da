"""Who may come in: only pages of this address, which hold this server's token, may change or read anything here.

A page of another site can make a browser send a form here, and a name that is bound anew to this machine can make it
read the answers. So the host, the origin, the site that asks and Django's own token are all held against this address.
"""

from __future__ import annotations

from collections.abc import Callable
from urllib.parse import unquote

from django.core.exceptions import DisallowedHost
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.middleware.csrf import CsrfViewMiddleware

from eskel_core.faults import Fault

_SAFE = ("GET", "HEAD", "OPTIONS")
_HERE = ("same-origin", "none", "")


def answer(status: int, *faults: Fault) -> HttpResponse:
    """Answer with faults."""
    return JsonResponse({"faults": [fault.model_dump(mode="json") for fault in faults]}, status=status)


def _turned_away(status: int, code: str, path: str, value: str | None, rule: str) -> HttpResponse:
    remedy = "Open Eskel itself, at the address that bin/demo told, and do it there."
    return answer(status, Fault(code=code, path=path, value=value, rule=rule, remedy=remedy))


def no_token(request: HttpRequest, reason: str = "") -> HttpResponse:
    """Answer a change that came without this server's token; Django calls it so."""
    return _turned_away(
        403, "no-token", "X-CSRFToken", None, "a change carries the token that the page was given"
    )


class Gate:
    """Turn away who asks for another host, comes from another site, sends a form, or holds no token of this server.

    The last is Django's own protection against forged requests. It is asked here and not left to each view, since the
    API's views say that they want none.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response
        self._tokens = CsrfViewMiddleware(get_response)

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Let a request through, or answer why not."""
        self._tokens.process_request(request)
        refused = _stranger(request) or self._tokens.process_view(request, _guarded, (), {})
        response = refused or self._get_response(request)
        self._tokens.process_response(request, response)
        return response


def _stranger(request: HttpRequest) -> HttpResponse | None:
    try:
        host = request.get_host()
    except DisallowedHost:
        named = request.META.get("HTTP_HOST")
        return _turned_away(400, "wrong-host", "Host", named, "Eskel answers under its own address only")
    origin, site = request.headers.get("Origin", ""), request.headers.get("Sec-Fetch-Site", "")
    own_pages = "requests come from Eskel's own pages"
    if origin and origin != f"{request.scheme}://{host}":
        return _turned_away(403, "foreign-origin", "Origin", origin, own_pages)
    if site not in _HERE and not _is_visit(request):
        return _turned_away(403, "foreign-site", "Sec-Fetch-Site", site, own_pages)
    return _unreadable(request)


def _unreadable(request: HttpRequest) -> HttpResponse | None:
    """Turn away what is sent in a way that is not read here: compressed, as a form, or with a NUL in its address."""
    packed = request.headers.get("Content-Encoding")
    if packed is not None:
        rule, remedy = "a request is sent as it is, not compressed", "Send it without Content-Encoding."
        fault = Fault(code="packed", path="Content-Encoding", value=packed[:40], rule=rule, remedy=remedy)
        return answer(415, fault)
    if "\0" in unquote(request.META.get("QUERY_STRING", "")) or "\0" in request.path:
        rule, remedy = "an address holds no NUL", "Leave it out."
        return answer(422, Fault(code="bad-text", path="query", value=None, rule=rule, remedy=remedy))
    if request.method not in _SAFE and not _speaks_json(request):
        kind = request.content_type or None
        return _turned_away(415, "not-json", "Content-Type", kind, "a change is sent as application/json")
    return None


def _guarded(_request: HttpRequest) -> HttpResponse:
    """Stand for a view that asks for the token."""
    return HttpResponse()


def _is_visit(request: HttpRequest) -> bool:
    """Tell whether a person followed a link to the page itself."""
    mode = request.headers.get("Sec-Fetch-Mode")
    return mode == "navigate" and request.method == "GET" and not request.path.startswith("/api/")


def _speaks_json(request: HttpRequest) -> bool:
    if request.content_type == "application/json":
        return True
    return not request.content_type and request.META.get("CONTENT_LENGTH", "0") in ("", "0")


def speak_json(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Give every refusal under /api/ the one shape that refusals have, also where no endpoint was reached."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        kind = response.headers.get("Content-Type", "")
        if not request.path.startswith("/api/") or response.status_code < 400 or "json" in kind:
            return response
        told = answer(response.status_code, _plain_fault(request, response.status_code))
        if "Allow" in response.headers:
            told.headers["Allow"] = response.headers["Allow"]
        return told

    return middleware


def not_stored(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Have no answer of the API kept on its way, but what says that it never changes."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response

    return middleware


def _plain_fault(request: HttpRequest, status: int) -> Fault:
    code, rule = {
        404: ("not-found", "the API has something at this address"),
        405: ("wrong-method", "the method is one that this address takes"),
    }.get(status, ("failed", "the server can answer"))
    return Fault(
        code=code, path=request.path[:200], value=request.method, rule=rule, remedy="Go back and reload."
    )
