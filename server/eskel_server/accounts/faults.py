"""Errors that any app may raise, each with one fault, and the answer in which all of them are told."""

from __future__ import annotations

from ninja import Schema

from eskel_core.faults import Fault, Refused


class Faults(Schema):
    """Why a request was not carried out."""

    faults: list[Fault]


class Missing(LookupError):
    """What was asked for is not there."""

    def __init__(self, what: str, key: object) -> None:
        self.fault = Fault(
            code="not-found",
            path=what,
            value=str(key),
            rule=f"a {what} of that id exists",
            remedy="Go back and reload.",
        )
        super().__init__(self.fault.sentence())


class Clash(RuntimeError):
    """A change no longer fits what is there."""

    def __init__(self, path: str, value: object, rule: str, remedy: str) -> None:
        self.fault = Fault(code="clash", path=path, value=value, rule=rule, remedy=remedy)
        super().__init__(self.fault.sentence())


class Unreadable(RuntimeError):
    """Something kept cannot be read; each fault says where in it."""

    def __init__(self, what: str, key: object, problem: Refused) -> None:
        self.faults = tuple(
            fault.model_copy(update={"code": "unreadable", "path": f"{what} {key}: {fault.path}"})
            for fault in problem.faults
        )
        super().__init__("; ".join(fault.sentence() for fault in self.faults))
