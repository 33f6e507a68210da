"""A thin builder over the CP-SAT solver of OR-tools (a kept constraint solver).

The solver's own Python layer imports a data-frame library, which takes seconds; its compiled half does
not. This builder writes the solver's model directly: boolean and integer variables, clauses, linear
bounds with enforcement, one objective. A literal is an int: `var` or, negated, `no(var)`.

Runs are deterministic: one worker, a fixed seed, limits in the solver's deterministic units.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any, Literal

Term = tuple[int, int]
Bound = Any
Relaxed = Literal[0, 1, 2]
OPEN = 2**40  # a limit that limits nothing
# The solver counts its work on linear relaxations too low: about five seconds pass for each unit, else about one.
RELAXED_COSTS = 3


def no(literal: int) -> int:
    """Negate a literal."""
    return -literal - 1


@dataclass
class Effort:
    """How much may still be spent on solving, in the solver's deterministic units (about a second each)."""

    left: float

    def share(self, part: float) -> Effort:
        """Give a part of what is left as an effort of its own; what it spends is not taken from this one."""
        return Effort(self.left * part)


@dataclass(frozen=True)
class Answer:
    """What a solve found: the values of all variables (None: none exists or none found), and the proof.

    `blamed` are assumptions that cannot all be true, where that is why no solution exists.
    """

    values: tuple[int, ...] | None
    proven: bool
    bound: int
    blamed: tuple[int, ...] = ()

    @property
    def impossible(self) -> bool:
        """Whether it was proven that no solution exists."""
        return self.values is None and self.proven


class Model:
    """A model under construction.

    `relaxed` lets the solver use linear relaxations: 1 of what is linear in itself, 2 of all that can be made linear.
    """

    def __init__(self, *, relaxed: Relaxed = 0) -> None:
        from ortools.sat.python import cp_model_helper

        self._helper: Any = cp_model_helper
        self._proto: Any = cp_model_helper.CpModelProto()
        self._size = 0
        self._relaxed = relaxed
        self.true = self.boolean()
        self.clause(self.true)

    def boolean(self) -> int:
        """Add a variable that is 0 or 1."""
        return self.integer(0, 1)

    def integer(self, low: int, high: int) -> int:
        """Add a whole number variable."""
        variable = self._proto.variables.add()
        variable.domain.extend([low, high])
        self._size += 1
        return self._size - 1

    def clause(self, *literals: int) -> None:
        """Demand that at least one literal is true."""
        self._proto.constraints.add().bool_or.literals.extend(literals)

    def exactly_one(self, literals: Sequence[int]) -> None:
        """Demand that exactly one literal is true."""
        self._proto.constraints.add().exactly_one.literals.extend(literals)

    def between(self, low: int, terms: Iterable[Term], high: int, when: Sequence[int] = ()) -> Bound:
        """Demand low ≤ Σ coefficient·variable ≤ high, whenever all literals of `when` are true."""
        listed = list(terms)
        constraint = self._proto.constraints.add()
        constraint.enforcement_literal.extend(when)
        constraint.linear.vars.extend([variable for _, variable in listed])
        constraint.linear.coeffs.extend([coefficient for coefficient, _ in listed])
        constraint.linear.domain.extend([low, high])
        return constraint

    def at_most(self, terms: Iterable[Term], high: int, when: Sequence[int] = ()) -> Bound:
        """Demand Σ ≤ high, whenever all literals of `when` are true; gives a handle for `rebound`."""
        return self.between(-OPEN, terms, high, when)

    def rebound(self, bound: Bound, high: int) -> None:
        """Change what a sum is kept at or below."""
        bound.linear.domain[1] = high

    def settle(self, variable: int, low: int) -> None:
        """Make a variable 1 (low 1), or leave it open again (low 0)."""
        self._proto.variables[variable].domain[0] = low

    def at_least(self, terms: Iterable[Term], low: int, when: Sequence[int] = ()) -> None:
        """Demand Σ ≥ low, whenever all literals of `when` are true."""
        self.between(low, terms, OPEN, when)

    def minimise(
        self,
        terms: Iterable[Term],
        effort: Effort,
        hint: Sequence[int] | None = None,
        *,
        presolve: bool = True,
        most: float = math.inf,
        relaxed: Relaxed | None = None,
    ) -> Answer:
        """Find the least Σ, with the effort that is left but at `most` so much; `hint` is a solution to begin with.

        Without `presolve` a small model is answered sooner, a large one perhaps much later. `relaxed` stands for the model's
        own: of a large model a solution is found sooner without, and a proof sooner with.
        """
        self._proto.clear_objective()
        for coefficient, variable in terms:
            self._proto.objective.vars.append(variable)
            self._proto.objective.coeffs.append(coefficient)
        own = self._relaxed if relaxed is None else relaxed
        return self._solve(effort, hint, presolve=presolve, minimising=True, most=most, relaxed=own)

    def feasible(self, effort: Effort, assuming: Sequence[int] | None = None) -> Answer:
        """Find any solution in which some literals are true; where there is none, say which of them are to blame."""
        self._proto.clear_objective()
        self._proto.assumptions.clear()
        self._proto.assumptions.extend(assuming or ())
        answer = self._solve(effort, None, presolve=assuming is None, relaxed=self._relaxed)
        self._proto.assumptions.clear()
        return answer

    def _solve(
        self,
        effort: Effort,
        hint: Sequence[int] | None,
        *,
        presolve: bool = True,
        minimising: bool = False,
        most: float = math.inf,
        relaxed: Relaxed,
    ) -> Answer:
        self._proto.clear_solution_hint()
        if hint is not None:
            self._proto.solution_hint.vars.extend(range(len(hint)))
            self._proto.solution_hint.values.extend(hint)
        parameters = self._helper.SatParameters()
        parameters.num_workers = 1
        parameters.random_seed = 1
        allowed = min(effort.left, most) / (RELAXED_COSTS if relaxed else 1)
        parameters.max_deterministic_time = max(0.0, allowed)
        # The solver would take Ctrl-C for itself and leave it without a handler afterwards.
        parameters.catch_sigint_signal = False
        # These models are small and solved many times: probing, symmetry search and repeated presolving cost
        # more than they save (benchmarks/planning.py: about half of the time at 8 to 12 joins).
        parameters.linearization_level = relaxed
        if relaxed < 2:
            parameters.cp_model_probing_level = 0
            parameters.symmetry_level = 0
            parameters.max_presolve_iterations = 1
        if minimising:
            # Minimising learnt clauses by way of implications takes a quarter of a search for the least.
            minimisations = self._helper.SatParameters.BinaryMinizationAlgorithm
            parameters.binary_minimization_algorithm = minimisations.NO_BINARY_MINIMIZATION
        # A question under assumptions is one of many put to the same model: presolving it again costs most of the time.
        parameters.cp_model_presolve = presolve
        wrapper = self._helper.SolveWrapper()
        wrapper.set_parameters(parameters)
        response = wrapper.solve(self._proto)
        effort.left -= response.deterministic_time * (RELAXED_COSTS if relaxed else 1)
        status = response.status.name
        found = status in ("OPTIMAL", "FEASIBLE")
        return Answer(
            values=tuple(response.solution) if found else None,
            proven=status in ("OPTIMAL", "INFEASIBLE"),
            bound=round(response.best_objective_bound) if found else 0,
            blamed=tuple(response.sufficient_assumptions_for_infeasibility),
        )
