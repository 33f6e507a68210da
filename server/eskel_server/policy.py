"""The content policy: everything comes from this address, nothing from anywhere else."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

_POLICY = (
    "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; object-src 'none'; "
    "base-uri 'none'; frame-ancestors 'none'; form-action 'self'"
)


def content_policy(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    """Put the policy on every answer."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response.headers.setdefault("Content-Security-Policy", _POLICY)
        return response

    return middleware
