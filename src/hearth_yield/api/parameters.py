"""A parameter that no route knows is refused with its name: a misspelt one changed nothing, and the
answer looked like one to what was meant."""

from __future__ import annotations

from collections.abc import Iterator

from fastapi import Request
from fastapi.dependencies.models import Dependant
from pydantic import BaseModel

from hearth_yield.core.errors import InvalidInput


async def no_unknown_parameter(request: Request) -> None:
    """Raises InvalidInput naming the first of the address that its route does not know."""
    if not request.query_params:
        return
    known = set(_names(request.scope["route"].dependant))
    for name, value in request.query_params.multi_items():
        if name not in known:
            raise InvalidInput(
                "nothing here goes by that name",
                field=name[:200],
                value=value[:200],
                rule=f"one of {', '.join(sorted(known))}" if known else "no parameters",
            )


def _names(dependant: Dependant) -> Iterator[str]:
    for param in dependant.query_params:
        kind = param.field_info.annotation
        if isinstance(kind, type) and issubclass(kind, BaseModel):
            yield from kind.model_fields
        else:
            yield param.alias
    for rest in dependant.dependencies:
        yield from _names(rest)
