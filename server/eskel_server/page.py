"""The one page that the application is served from."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache


@never_cache
def index(request: HttpRequest) -> HttpResponse:
    """Serve the built page, whatever place in the application the address names."""
    page = settings.WEB_DIST / "index.html"
    if not page.is_file():
        return HttpResponse(
            "The web front end is not built yet: run bin/demo.", status=503, content_type="text/plain"
        )
    return HttpResponse(page.read_bytes(), content_type="text/html; charset=utf-8")
