"""The one page that the application is served from."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie


@never_cache
@ensure_csrf_cookie
def index(request: HttpRequest) -> HttpResponse:
    """Serve the built page, whatever place in the application the address names.

    It carries the nonce of its own content policy, and its cookie the token that every change must bring back.
    """
    page = settings.WEB_DIST / "index.html"
    if not page.is_file():
        return HttpResponse(
            "The web front end is not built yet: run bin/demo.", status=503, content_type="text/plain"
        )
    nonce = str(getattr(request, "csp_nonce", ""))
    told = page.read_bytes().replace(b"__NONCE__", nonce.encode()).replace(b"__PAGE__", page_name().encode())
    return HttpResponse(told, content_type="text/html; charset=utf-8")


def page_name() -> str:
    """Give the name of the build of the page that is served; empty where none is."""
    return settings.WEB_DIST.name if settings.WEB_DIST.is_dir() else ""
