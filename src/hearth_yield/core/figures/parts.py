"""Parts of a review that hold figures: each is opened when figures are named.

A part that stands among others of its kind has a `key` of its own: a year, an id, an ISO day.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import fields
from functools import cached_property

from ..errors import HearthError
from .figure import Figure


class HoldsFigures:
    """Marks a dataclass whose members may be figures, or parts that hold some."""

    __slots__ = ()


_MEMBERS: dict[type, tuple[str, ...]] = {}


def members_of(part: HoldsFigures) -> tuple[str, ...]:
    """Fields of a part, and what it builds when asked."""
    kind = type(part)
    if kind not in _MEMBERS:
        built = (n for n, v in vars(kind).items() if isinstance(v, cached_property))
        _MEMBERS[kind] = (*(f.name for f in fields(kind)), *built)  # type: ignore[arg-type]
    return _MEMBERS[kind]


def collect(node: object, path: str, found: dict[str, Figure]) -> None:
    """Adds every figure below a node under the path that leads to it.

    Raises HearthError for two figures under one path.
    """
    if isinstance(node, Figure):
        if path in found:
            raise HearthError(f"two figures of a review are called {path}")
        found[path] = node
    elif isinstance(node, HoldsFigures):
        for name in members_of(node):
            child = getattr(node, name)
            if isinstance(child, Figure | HoldsFigures | tuple | Mapping):
                collect(child, f"{path}.{name}", found)
    elif isinstance(node, tuple):
        for child in node:
            if isinstance(child, HoldsFigures):
                collect(child, f"{path}.{key_of(child)}", found)
    elif isinstance(node, Mapping):
        for key, child in node.items():
            if isinstance(child, Figure | HoldsFigures):
                collect(child, f"{path}.{key}", found)


def key_of(part: object) -> str:
    key: str = part.key  # type: ignore[attr-defined]
    return key


def member_at(node: object, name: str) -> object:
    """The member of a part, a list of parts or a mapping that has this name; None without one."""
    if isinstance(node, HoldsFigures):
        return getattr(node, name, None) if name in members_of(node) else None
    if isinstance(node, tuple):
        held = (c for c in node if isinstance(c, HoldsFigures))
        return next((c for c in held if key_of(c) == name), None)
    if isinstance(node, Mapping):
        return next((v for k, v in node.items() if str(k) == name), None)
    return None
