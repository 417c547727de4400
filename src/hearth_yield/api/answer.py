"""What an answer is: declared once, as a dataclass, from which its schema, the page's types and its
JSON are made."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, TypeVar, dataclass_transform

import msgspec
import numpy as np
from fastapi import Response
from pydantic import BaseModel

Out = TypeVar("Out")

if TYPE_CHECKING:

    @dataclass_transform(kw_only_default=True)
    def wire(out: type[Out]) -> type[Out]: ...
else:

    def wire(out: type[Out]) -> type[Out]:
        """A shape that goes over the wire. A dataclass, not a model: it holds what was computed,
        and a test holds every answer against its schema."""
        return dataclass(slots=True, kw_only=True)(out)


def written(answer: object) -> Response:
    """An answer straight to JSON."""
    return Response(msgspec.json.encode(answer, enc_hook=_plain), media_type="application/json")


def _plain(value: Any) -> Any:
    match value:
        case np.floating():
            return float(value)
        case BaseModel():
            return value.model_dump(mode="json")
    raise TypeError(type(value).__name__)
