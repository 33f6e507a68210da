"""The work as it stands, what each act does to it, and what must never be done to it.

Concepts: a `State` holds the work as it is now, in `Group`s of copies that are still alike. In each group every join is a list
of `Seam`s (alike places together), every part has a `Condition`, every tube and hollow is a `Hollow` with its ways out.
An `Act` is what is done. `after(state, act)` is the only function that changes anything, and it gives a new state.
`forbidden(state, act)` says why an act must not be, `to_tell(state, act)` what is said of one that may be.

    begin ── Cover ── Heat ── Cool ── Bath ── Dry ── Form ── …      after(state, act)
      │        │        │        │       │       │
      │        flux     glowing  cold    wet     dry               each part
      │                 soldered                                   each join that the heat makes
      ways: its joins   a way less       wet     dry               each hollow; with no way left it is closed
                        at so many °C    inside  inside

A body is what is in one piece by solder; what is wrapped, set, riveted, hung or strung on it hangs together with it, and
cools and gets wet with it. The room knows no steps of a plan and no events of a run: `plan` and `run` translate into acts.

>>> from eskel_core.piece import resolve_house
>>> from eskel_core.piece import piece_from_object
>>> tube = {"id": "bead", "metal": "copper", "form": {"kind": "tube", "outer_mm": 4, "wall_mm": 0.5, "length_mm": 20}}
>>> ends = {"id": "ends", "kind": "flatten", "parts": ["bead"], "seals": ["bead"]}
>>> piece = piece_from_object({"format": "eskel-piece/1", "name": "Bead", "parts": [tube], "work": [ends]})
>>> state = after(begin(piece, resolve_house()), Shut(frozenset({"bead"}), by="ends"))
>>> [remark.code for remark in to_tell(state, Heat(frozenset({"bead"}), to_c=600))]
['sealed-tube']
"""

from ._acts import (
    Act,
    Bath,
    Bind,
    Cool,
    Cover,
    Dry,
    Fit,
    Fix,
    Form,
    Heat,
    Look,
    Making,
    Measure,
    Miss,
    Outcome,
    Pierce,
    Ready,
    Replace,
    Shut,
    Unbind,
)
from ._after import after, whole
from ._anatomy import Anatomy, JoinNodes, anatomy
from ._begin import begin, opens, runs_c
from ._bodies import body_of, hollows_in, hung_on, together
from ._judge import CONTACT_COOLER_C, forbidden, hollow_title, to_tell
from ._types import Closed, Condition, Ground, Group, Hollow, Remark, Seam, Softness, State
from ._write import StateChange, changes, state_object

__all__ = [
    "CONTACT_COOLER_C",
    "Act",
    "Anatomy",
    "Bath",
    "Bind",
    "Closed",
    "Condition",
    "Cool",
    "Cover",
    "Dry",
    "Fit",
    "Fix",
    "Form",
    "Ground",
    "Group",
    "Heat",
    "Hollow",
    "JoinNodes",
    "Look",
    "Making",
    "Measure",
    "Miss",
    "Outcome",
    "Pierce",
    "Ready",
    "Remark",
    "Replace",
    "Seam",
    "Shut",
    "Softness",
    "State",
    "StateChange",
    "Unbind",
    "after",
    "anatomy",
    "begin",
    "body_of",
    "changes",
    "forbidden",
    "hollow_title",
    "hollows_in",
    "hung_on",
    "opens",
    "runs_c",
    "state_object",
    "to_tell",
    "together",
    "whole",
]
