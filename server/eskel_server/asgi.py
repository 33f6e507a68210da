"""The ASGI application that uvicorn serves; DJANGO_SETTINGS_MODULE is set by whoever starts it."""

from django.core.asgi import get_asgi_application

application = get_asgi_application()
