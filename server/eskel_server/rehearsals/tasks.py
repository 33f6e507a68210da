"""What a worker does: work a rehearsal out, and take up again what another worker left behind when it ended.

Each word of how far it is goes into the row that it is kept in. A row whose job is another by then is left alone.
"""

from __future__ import annotations

import time
from typing import Any

from procrastinate import JobContext, RetryStrategy
from procrastinate.contrib.django import app
from procrastinate.exceptions import JobAborted

from eskel_core.faults import Refused

from .models import RehearsalRow
from .working import work_out

HEARTBEAT_S, LOST_AFTER_S = 3.0, 15.0
_TOLD_EVERY_S = 0.25
# A job that was begun so often and never ended ends its workers: it is not tried again.
_MOST_ATTEMPTS = 5
_FIRST = 2**31 - 1


# A worker that is asked to end gives back what it is at.
@app.task(pass_context=True, retry=RetryStrategy(max_attempts=_MOST_ATTEMPTS, retry_exceptions=[JobAborted]))
def rehearse(context: JobContext, content: str) -> None:
    """Work out a rehearsal that was asked for."""
    mine = RehearsalRow.objects.filter(content=content, job=context.job.id)
    row = mine.filter(state__in=("waiting", "running")).first()
    if row is None:
        return
    if context.job.attempts >= _MOST_ATTEMPTS:
        mine.update(state="failed", what="its worker ended each time it was tried")
        return
    told = 0.0

    def tell(what: str, share: float) -> None:
        nonlocal told
        if context.should_abort():
            raise JobAborted
        if time.monotonic() - told >= _TOLD_EVERY_S:
            told = time.monotonic()
            if not mine.filter(state="running").update(what=what, share=share):
                raise JobAborted

    if not mine.update(state="running", what="laying out the body", share=0.0):
        return
    made: dict[str, Any]
    try:
        made = {"state": "done", "what": "done", "share": 1.0, "result": work_out(row.asked, tell)}
    except JobAborted:
        raise
    except Refused as problem:
        faults = [fault.model_dump(mode="json") for fault in problem.faults]
        made = {"state": "failed", "what": "refused", "faults": faults}
    except Exception as problem:
        made = {"state": "failed", "what": f"{type(problem).__name__}: {problem}"[:500]}
    mine.filter(state="running").update(job=None, **made)


# Every five seconds: the sixth field is the second.
@app.periodic(cron="* * * * * */5")
@app.task(queueing_lock="take-up", priority=_FIRST)
async def take_up(timestamp: int) -> None:
    """Put back into the queue what a worker had begun that has given no sign of life since."""
    for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=LOST_AFTER_S):
        await app.job_manager.retry_job(job)
