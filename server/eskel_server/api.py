"""The HTTP API put together from the apps, and the one place where errors become answers."""

from __future__ import annotations

from types import MappingProxyType
from typing import Any

from django.db import OperationalError
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError
from ninja.parser import Parser
from ninja.renderers import JSONRenderer
from psycopg.errors import LockNotAvailable, QueryCanceled

from eskel_core.faults import Fault, Refused, refuse
from eskel_core.piece import load_json
from eskel_server.accounts import Clash, Missing, Unreadable
from eskel_server.beginnings.api import router as beginnings_router
from eskel_server.bench.api import router as bench_router
from eskel_server.findings.api import router as findings_router
from eskel_server.log.api import router as log_router
from eskel_server.pieces.api import router as pieces_router
from eskel_server.rehearsals.api import router as rehearsals_router
from eskel_server.runs.api import router as runs_router
from eskel_server.runs.around import router as around_router
from eskel_server.sizes.api import router as sizes_router
from eskel_server.workroom import Broken, TooLong


class StrictParser(Parser):
    """Bodies are read as piece files are: no key twice, no control signs, finite numbers of modest size."""

    def parse_body(self, request: HttpRequest) -> Any:
        """Read a body; raise `Refused` for what is no sound JSON."""
        plain = load_json(request.body)
        if not isinstance(plain, dict):
            raise refuse("wrong-type", "", None, "a body is one JSON object", "Begin it with {.")
        return plain


class Renderer(JSONRenderer):
    """JSON in UTF-8, so that what speaks quantities finds them."""

    json_dumps_params = MappingProxyType({"ensure_ascii": False, "allow_nan": False})


class Api(NinjaAPI):
    """The API, which tells of every operation that it may be refused, and how."""

    def get_openapi_schema(self, **options: Any) -> Any:
        """Give the OpenAPI, with the answer of refusals at every operation."""
        schema = super().get_openapi_schema(**options)
        told = {"$ref": "#/components/schemas/Faults"}
        refusal = {
            "description": "Why it was not carried out",
            "content": {"application/json": {"schema": told}},
        }
        for methods in schema["paths"].values():
            for operation in methods.values():
                operation["responses"]["default"] = refusal
        return schema


api = Api(
    title="Eskel",
    version="1",
    docs_url=None,
    openapi_url=None,
    urls_namespace="eskel",
    parser=StrictParser(),
    renderer=Renderer(),
)
api.add_router("", bench_router)
api.add_router("", pieces_router)
api.add_router("", sizes_router)
api.add_router("", beginnings_router)
api.add_router("", runs_router)
api.add_router("", around_router)
api.add_router("", findings_router)
api.add_router("", log_router)
api.add_router("", rehearsals_router)


def _answer(request: HttpRequest, status: int, faults: list[Fault]) -> HttpResponse:
    answer = api.create_response(
        request, {"faults": [fault.model_dump(mode="json") for fault in faults]}, status=status
    )
    # It is told to who asked, or to nobody where who asked has gone: not to whoever looks after the server.
    vars(answer)["_has_been_logged"] = True
    return answer


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


@api.exception_handler(HttpError)
def no_json(request: HttpRequest, problem: HttpError) -> HttpResponse:
    """Answer a body that is no sound JSON: the reader's own words are what matters."""
    cause = problem.__cause__
    if isinstance(cause, Refused):
        return _answer(request, 422, list(cause.faults))
    return _answer(request, problem.status_code, [_fault("bad-request", str(problem), "Mend the request.")])


@api.exception_handler(OperationalError)
def database_away(request: HttpRequest, problem: OperationalError) -> HttpResponse:
    """Answer while the database cannot be asked: a fault that passes, nothing that is missing."""
    if isinstance(problem.__cause__, LockNotAvailable):
        rule = "no other change of the same thing is under way"
        return _answer(request, 503, [_fault("busy", rule, "Try again in a moment.")])
    if isinstance(problem.__cause__, QueryCanceled):
        return _answer(
            request,
            503,
            [_fault("took-too-long", "the database answers in time", "Ask for less, or try again.")],
        )
    return _answer(
        request,
        503,
        [
            _fault(
                "database-away",
                "the database can be reached",
                "Wait a moment: it is started again by itself.",
            )
        ],
    )


@api.exception_handler(TooLong)
def too_long(request: HttpRequest, problem: TooLong) -> HttpResponse:
    """Answer for work that did not end in time."""
    rule = f"it is worked out within {problem.limit_s:g} s"
    return _answer(
        request, 503, [_fault("took-too-long", rule, "Try again; if it stays so, make the piece smaller.")]
    )


@api.exception_handler(Broken)
def broken(request: HttpRequest, problem: Broken) -> HttpResponse:
    """Answer for work whose process ended; the next one has a new process."""
    return _answer(request, 503, [_fault("workroom", f"it is worked out ({problem})", "Try again.")])


@api.exception_handler(ValidationError)
def misshapen(request: HttpRequest, problem: ValidationError) -> HttpResponse:
    """Answer a request of the wrong shape."""
    return _answer(request, 422, [_request_fault(error) for error in problem.errors])


def _fault(code: str, rule: str, remedy: str) -> Fault:
    return Fault(code=code, path="", value=None, rule=rule, remedy=remedy)


def _request_fault(error: dict[str, Any]) -> Fault:
    path = ".".join(str(step) for step in error["loc"][1:])
    return Fault(
        code="bad-request", path=path, value=None, rule=str(error["msg"]), remedy="Send a value of that kind."
    )
