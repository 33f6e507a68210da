"""Addresses: the API, and the one page for everything else."""

from django.urls import path, re_path

from .api import api
from .page import index

urlpatterns = [
    path("api/", api.urls),
    re_path(r"^(?!api/|assets/).*$", index),
]
