"""At the torch: a run as the list of what happened in it, what it looks like by that, and what the signs say of today.

Concepts: an `Event`, written once by the device that saw it; a `Face`, what counts in a run of a step of its plan; `run_state`, from
faces and events to a `RunState` of `Turn`s, the same on the server and on every device; `told_anew`, from the stages that were
rehearsed and the moments at which their signs were pressed, to a `Today`; `JoinFacets`, what a join is by what a log is asked; `meanwhile`, what can
be done while a piece waits; `as_made`, the piece as a run has made it so far, for the rest to be planned anew.
"""

from ._as_made import Otherwise, as_made, going_on, otherwise
from ._events import (
    Again,
    Back,
    Event,
    FlameOff,
    Inspected,
    JoinCame,
    Lit,
    Lost,
    Measured,
    Next,
    Noted,
    Opened,
    SignSeen,
    Sized,
    Stopped,
    Tallied,
    Undone,
    Way,
    read_event,
)
from ._faces import Face, faces_of
from ._facets import JoinFacets, facets_of
from ._file import RunFile, read_run_file
from ._fold import Telling, run_state
from ._here import Here
from ._meanwhile import AtHand, Meanwhile, meanwhile
from ._order import in_order
from ._presses import Presses
from ._shown import shown_run
from ._standing import step_of, work_of_run
from ._state import Aside, JoinWord, Look, Measure, Note, RunState, SignAt, Stay, Turn
from ._table import FROM_TABLE, TableRun, read_table
from ._today import Today, told_anew
from ._ways import WAYS, WayWord, ways_for
from ._written import LIT

__all__ = [
    "FROM_TABLE",
    "LIT",
    "WAYS",
    "Again",
    "Aside",
    "AtHand",
    "Back",
    "Event",
    "Face",
    "FlameOff",
    "Here",
    "Inspected",
    "JoinCame",
    "JoinFacets",
    "JoinWord",
    "Lit",
    "Look",
    "Lost",
    "Meanwhile",
    "Measure",
    "Measured",
    "Next",
    "Note",
    "Noted",
    "Opened",
    "Otherwise",
    "Presses",
    "RunFile",
    "RunState",
    "SignAt",
    "SignSeen",
    "Sized",
    "Stay",
    "Stopped",
    "TableRun",
    "Tallied",
    "Telling",
    "Today",
    "Turn",
    "Undone",
    "Way",
    "WayWord",
    "as_made",
    "faces_of",
    "facets_of",
    "going_on",
    "in_order",
    "meanwhile",
    "otherwise",
    "read_event",
    "read_run_file",
    "read_table",
    "run_state",
    "shown_run",
    "step_of",
    "told_anew",
    "ways_for",
    "work_of_run",
]
