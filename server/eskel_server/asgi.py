"""The ASGI application that uvicorn serves; DJANGO_SETTINGS_MODULE is set by whoever starts it."""

import django

from .edge import Edge
from .seats import Seats

django.setup(set_prefix=False)
application = Edge(Seats())
