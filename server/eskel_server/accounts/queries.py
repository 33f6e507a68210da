"""What can be asked: which workshop this is."""

from __future__ import annotations

from typing import TYPE_CHECKING

from eskel_server.edge import current_visit

if TYPE_CHECKING:
    from .models import Workshop


def current_workshop() -> Workshop:
    """Give the workshop that a request speaks for: the first one, made when there is none yet."""
    return current_visit().once("workshop", _first)


def _first() -> Workshop:
    from .models import Workshop

    return Workshop.objects.order_by("pk").first() or Workshop.objects.create(name="My workshop")


def any_workshop() -> bool:
    """Tell whether there is a workshop yet."""
    from .models import Workshop

    return Workshop.objects.exists()
