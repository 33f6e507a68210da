"""What goes out to the screens is spoken in the units of the house: sentences of the core hold quantities, not figures."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from eskel_core.piece import resolve_house
from eskel_core.units import METRIC, Units, speak

_MARK = "⦃".encode()


def spoken(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Speak every answer of the API that holds a quantity."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        if response.streaming:
            return response  # A file goes out as it is kept, to be taken in again.
        if "json" in response.headers.get("Content-Type", "") and _MARK in response.content:
            response.content = speak(response.content.decode(), house_units()).encode()
        return response

    return middleware


def house_units() -> Units:
    """Give the units of the workshop's house; metric where its bench cannot be read."""
    from eskel_server.accounts import Unreadable, current_workshop
    from eskel_server.bench import bench_of

    try:
        return resolve_house(bench_of(current_workshop())[0]).spoken
    except Unreadable:
        return METRIC
