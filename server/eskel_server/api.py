"""The HTTP API put together from the apps, and the one place where errors become answers."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import ValidationError

from eskel_core.faults import Fault, Refused
from eskel_server.accounts import Clash, Missing, Unreadable
from eskel_server.bench.api import router as bench_router
from eskel_server.log.api import router as log_router
from eskel_server.pieces.api import router as pieces_router
from eskel_server.rehearsals.api import router as rehearsals_router
from eskel_server.runs.api import router as runs_router
from eskel_server.sizes.api import router as sizes_router

api = NinjaAPI(title="Eskel", version="1", docs_url=None, urls_namespace="eskel")
api.add_router("", bench_router)
api.add_router("", pieces_router)
api.add_router("", sizes_router)
api.add_router("", runs_router)
api.add_router("", log_router)
api.add_router("", rehearsals_router)


def _answer(request: HttpRequest, status: int, faults: list[Fault]) -> HttpResponse:
    return api.create_response(
        request, {"faults": [fault.model_dump(mode="json") for fault in faults]}, status=status
    )


@api.exception_handler(Refused)
def refused(request: HttpRequest, problem: Refused) -> HttpResponse:
    """Answer an input that cannot be taken."""
    return _answer(request, 422, list(problem.faults))


@api.exception_handler(Missing)
def missing(request: HttpRequest, problem: Missing) -> HttpResponse:
    """Answer for something that is not there."""
    return _answer(request, 404, [problem.fault])


@api.exception_handler(Clash)
def clash(request: HttpRequest, problem: Clash) -> HttpResponse:
    """Answer a change that no longer fits what is there."""
    return _answer(request, 409, [problem.fault])


@api.exception_handler(Unreadable)
def unreadable(request: HttpRequest, problem: Unreadable) -> HttpResponse:
    """Answer for something kept that cannot be read: what else is kept is not touched by it."""
    return _answer(request, 409, list(problem.faults))


@api.exception_handler(ValidationError)
def misshapen(request: HttpRequest, problem: ValidationError) -> HttpResponse:
    """Answer a request of the wrong shape."""
    return _answer(request, 422, [_request_fault(error) for error in problem.errors])


def _request_fault(error: dict[str, Any]) -> Fault:
    path = ".".join(str(step) for step in error["loc"][1:])
    return Fault(
        code="bad-request", path=path, value=None, rule=str(error["msg"]), remedy="Send a value of that kind."
    )
