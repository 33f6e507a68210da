"""The ASGI application that uvicorn serves; DJANGO_SETTINGS_MODULE is set by whoever starts it."""

import django

from .edge import AT_ONCE, Edge, Seats

django.setup(set_prefix=False)
application = Edge(Seats(AT_ONCE))
