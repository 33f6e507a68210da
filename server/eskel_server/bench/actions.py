"""What can be done with the bench: each change whole or not at all."""

from __future__ import annotations

import json
from typing import Any, TypeVar

from django.db import transaction
from pydantic import BaseModel, ValidationError

from eskel_core.faults import Refused, shape_faults
from eskel_core.metals import metals
from eskel_core.piece import Bench, HouseOverrides, bench_faults
from eskel_server.accounts.models import Workshop

from .models import BenchRow

M = TypeVar("M", bound=BaseModel)


@transaction.atomic
def set_bench(workshop: Workshop, house: dict[str, Any], bench: dict[str, Any]) -> None:
    """Put house rules and bench in place of those before; raise `Refused` with every fault."""
    rules, tools = _checked(HouseOverrides, house, "house"), _checked(Bench, bench, "bench")
    faults = list(bench_faults(tools, metals()))
    if faults:
        raise Refused(faults)
    BenchRow.objects.update_or_create(
        workshop=workshop,
        defaults={
            "house": rules.model_dump(mode="json", exclude_none=True, by_alias=True),
            "bench": tools.model_dump(mode="json", exclude_none=True),
        },
    )


def _checked(model: type[M], plain: dict[str, Any], path: str) -> M:
    try:
        return model.model_validate_json(json.dumps(plain))
    except ValidationError as problem:
        faults = shape_faults(problem, plain, lambda: list(model.model_fields))
        raise Refused(one.model_copy(update={"path": f"{path}.{one.path}"}) for one in faults) from problem
