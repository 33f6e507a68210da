"""The workroom: what takes long is worked out beside the server, in processes that can be ended.

Concepts: a *task* (plan, draw, read an outline …) is a function of texts alone, so its outcome, a refusal too, is kept by
them and worked out once, however many ask; it has a time limit, and it is ended when nobody waits for it any more. All
web processes share one workroom behind a socket (`python -m eskel_server.workroom`); where none is named in the
environment, each process has its own. Rehearsals are not its work: they have a queue of their own.

Public: `room`, and the two ways a task may fail (`TooLong`, `Broken`).
"""

from .door import room
from .room import Broken, TooLong

__all__ = ["Broken", "TooLong", "room"]
