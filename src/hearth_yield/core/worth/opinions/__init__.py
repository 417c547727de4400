"""Second opinions: models that ask another question than what its dividends are worth. They stand
beside the others and count once a person switches them on. (docs/method.md, Worth)

A room each for what they value: cash, dividends to an exit, all capital, what it owns, what
others pay.
"""

from __future__ import annotations

from ...figures.inputs import InputSpec
from ..declare import ModelSpec
from . import assets, capital, cash, exits, multiples

_ROOMS = (cash, exits, capital, assets, multiples)
INPUTS: tuple[InputSpec, ...] = tuple(spec for room in _ROOMS for spec in room.INPUTS)
"""In the order they are read; a default may read those declared before it."""
MODELS: tuple[ModelSpec, ...] = tuple(spec for room in _ROOMS for spec in room.MODELS)
