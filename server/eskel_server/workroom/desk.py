"""The desk where rehearsals are asked for: kept by content, worked out one after another, stopped at a word."""

from __future__ import annotations

import hashlib
import json
import threading
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, field
from multiprocessing.connection import Connection
from typing import Any, Literal

from .rehearsing import serve

State = Literal["waiting", "running", "done", "stopped", "failed"]
ENDED = ("done", "stopped", "failed")
MOST_KEPT = 200


@dataclass
class Job:
    """One rehearsal asked for: how far it is, and what came of it."""

    id: str
    asked: dict[str, Any]
    state: State = "waiting"
    what: str = "waiting for the one before"
    share: float = 0.0
    result: dict[str, Any] = field(default_factory=dict)
    faults: list[dict[str, Any]] = field(default_factory=list)


class Desk:
    """All jobs of this server, by their content: what was worked out once is there at once, and what was stopped is
    asked for under a new name."""

    def __init__(self, context: Callable[[], Any]) -> None:
        self._context = context
        self._lock = threading.Condition()
        self._jobs: OrderedDict[str, Job] = OrderedDict()
        self._running: Job | None = None
        self._asked = 0
        self._process: Any = None
        self._pipe: Connection | None = None

    def ask(self, asked: dict[str, Any]) -> Job:
        """Ask for a rehearsal; the same one again is the same job, unless it was stopped or failed."""
        name = hashlib.sha256(json.dumps(asked, sort_keys=True).encode()).hexdigest()[:24]
        with self._lock:
            job = self._jobs.get(name)
            if job is None or job.state in ("stopped", "failed"):
                self._asked += 1
                job = Job(f"{name}-{self._asked}", asked)
                self._jobs[name] = job
            self._jobs.move_to_end(name)
            self._forget()
            self._next()
            return job

    def look(self, name: str) -> Job | None:
        """Give a job by its name."""
        with self._lock:
            return self._named(name)

    def wait(self, name: str, patience_s: float) -> Job | None:
        """Give a job when it has ended, or as it is when the patience is over."""
        with self._lock:
            self._lock.wait_for(lambda: (job := self._named(name)) is None or job.state in ENDED, patience_s)
            return self._named(name)

    def _named(self, name: str) -> Job | None:
        job = self._jobs.get(name.rpartition("-")[0])
        return job if job is not None and job.id == name else None

    def stop(self, name: str) -> Job | None:
        """Stop a job; its process ends, and the next job has a new one."""
        with self._lock:
            job = self._named(name)
            if job is None or job.state not in ("waiting", "running"):
                return job
            job.state, job.what = "stopped", "stopped"
            if job is self._running:
                self._end_process()
                self._running = None
            self._next()
            return job

    def close(self) -> None:
        """End the process, and what it is at."""
        with self._lock:
            self._end_process()
            self._running = None

    def _forget(self) -> None:
        idle = [name for name, job in self._jobs.items() if job.state not in ("waiting", "running")]
        for name in idle[: max(0, len(self._jobs) - MOST_KEPT)]:
            del self._jobs[name]

    def _next(self) -> None:
        """Begin the job asked for last, where none is running: what is being looked at comes first."""
        self._lock.notify_all()
        if self._running is not None:
            return
        waiting = [job for job in self._jobs.values() if job.state == "waiting"]
        if not waiting:
            return
        job = waiting[-1]
        if self._pipe is None:
            self._begin_process()
        assert self._pipe is not None
        job.state, job.what, self._running = "running", "laying out the body", job
        self._pipe.send(job.asked)

    def _begin_process(self) -> None:
        context = self._context()
        ours, theirs = context.Pipe()
        # A daemon ends with the server, whatever it is at.
        self._process = context.Process(target=serve, args=(theirs,), daemon=True)
        self._process.start()
        theirs.close()
        self._pipe = ours
        threading.Thread(target=self._listen, args=(ours,), daemon=True).start()

    def _end_process(self) -> None:
        if self._process is not None:
            self._process.kill()
            self._process.join()
        if self._pipe is not None:
            self._pipe.close()
        self._process = self._pipe = None

    def _listen(self, pipe: Connection) -> None:
        while True:
            try:
                kind, payload = pipe.recv()
            except (EOFError, OSError):
                self._lost(pipe)
                return
            with self._lock:
                if pipe is self._pipe and self._running is not None:
                    self._hear(self._running, kind, payload)

    def _lost(self, pipe: Connection) -> None:
        """A process that ended by itself takes its job with it; one that was ended took none."""
        with self._lock:
            if pipe is not self._pipe:
                return
            if self._running is not None:
                self._running.state, self._running.what = "failed", "the process ended"
            self._process = self._pipe = self._running = None
            self._next()

    def _hear(self, job: Job, kind: str, payload: Any) -> None:
        if kind == "progress":
            job.what, job.share = payload
            return
        if kind == "done":
            job.state, job.what, job.share, job.result = "done", "done", 1.0, payload
        elif kind == "refused":
            job.state, job.what, job.faults = "failed", "refused", payload
        else:
            job.state, job.what = "failed", str(payload)
        self._running = None
        self._next()
