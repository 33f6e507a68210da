"""A worker: takes rehearsals from the queue, one at a time, until it is told to end."""

from __future__ import annotations

import importlib
from typing import Any

from procrastinate.contrib.django import app
from procrastinate.contrib.django.django_connector import DjangoConnector

from .tasks import HEARTBEAT_S, LOST_AFTER_S

_ENDS_WITHIN_S = 0.5


def work(**options: Any) -> None:
    """Work until a signal comes; with `wait=False` until nothing is left in the queue.

    What is under way when it ends goes back into the queue.
    """
    # Loaded before anything is asked for.
    importlib.import_module("eskel_core.rehearsal")

    connector = app.connector
    assert isinstance(connector, DjangoConnector)
    with app.replace_connector(connector.get_worker_connector()) as working:
        working.run_worker(
            concurrency=1,
            fetch_job_polling_interval=2.0,
            abort_job_polling_interval=1.0,
            shutdown_graceful_timeout=_ENDS_WITHIN_S,
            update_heartbeat_interval=HEARTBEAT_S,
            stalled_worker_timeout=LOST_AFTER_S,
            delete_jobs="always",
            **options,
        )
