"""What can be done with the bench: each change whole or not at all."""

from __future__ import annotations

import json
from typing import TYPE_CHECKING, Any, TypeVar

from django.db import transaction
from pydantic import BaseModel, ValidationError

from eskel_core.faults import Refused, shape_faults
from eskel_core.metals import metals
from eskel_core.piece import Bench, HouseOverrides, KeptBench, bench_faults
from eskel_server.accounts import Clash
from eskel_server.edge import current_visit

from .models import BenchRow
from .queries import row_of

if TYPE_CHECKING:
    from eskel_server.accounts import Workshop

M = TypeVar("M", bound=BaseModel)


@transaction.atomic
def set_bench(
    workshop: Workshop, house: dict[str, Any], bench: dict[str, Any], based_on: int | None = None
) -> None:
    """Put house rules and bench in place of those before; raise `Refused` with every fault.

    `based_on` is the revision that was changed; raise `Clash` when it is not the newest any more.
    """
    rules, tools = _checked(HouseOverrides, house, "house"), _checked(Bench, bench, "bench")
    faults = list(bench_faults(tools, metals()))
    if faults:
        raise Refused(faults)
    row = BenchRow.objects.select_for_update().get(pk=row_of(workshop).pk)
    if based_on not in (None, row.revision):
        raise Clash(
            "revision",
            based_on,
            f"the bench has been changed elsewhere since (it stands at {row.revision})",
            "Reload it and make the change again.",
        )
    row.format, row.revision = KeptBench().format, row.revision + 1
    row.house = rules.model_dump(mode="json", exclude_none=True, by_alias=True)
    row.bench = tools.model_dump(mode="json", exclude_none=True)
    row.save()
    current_visit().changed(f"bench of {workshop.pk}")


def _checked(model: type[M], plain: dict[str, Any], path: str) -> M:
    try:
        return model.model_validate_json(json.dumps(plain))
    except ValidationError as problem:
        faults = shape_faults(problem, plain, lambda: list(model.model_fields))
        raise Refused(
            fault.model_copy(update={"path": f"{path}.{fault.path}"}) for fault in faults
        ) from problem
