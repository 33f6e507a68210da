"""The workroom: what takes long is worked out beside the server, in processes that can be ended.

Concepts: a *task* (plan, draw, read an outline …) is a function of texts alone, so its outcome, a refusal too, is kept by
them and worked out once, however many ask; it has a time limit, and it is ended when nobody waits for it any more. A
*job* is a rehearsal at the *desk*: asked for, looked at while it goes on, stopped. All web processes share one workroom
behind a socket (`python -m eskel_server.workroom`); where none is named in the environment, each process has its own.

Public: `room`, the two ways a task may fail (`TooLong`, `Broken`), and the `Job` of the desk.
"""

from .desk import Job, State
from .door import room
from .room import Broken, TooLong

__all__ = ["Broken", "Job", "State", "TooLong", "room"]
