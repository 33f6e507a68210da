"""What can be done with workshops."""

from __future__ import annotations

from .models import Workshop


def begin_workshop(name: str) -> Workshop:
    """Begin a workshop with nothing in it."""
    return Workshop.objects.create(name=name)


def forget_workshops() -> None:
    """Throw every workshop away, with everything that belongs to it."""
    Workshop.objects.all().delete()
