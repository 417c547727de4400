"""What two tabs write at once: a save carries what it began from, and is refused where that has
been replaced meanwhile, with what stands there now."""

from __future__ import annotations

from hearth_yield.core.errors import Conflict


def unless_overtaken(field: str, standing: str, begun: str | None) -> None:
    """standing: what is stored; begun: what was, when the person began; None: whatever is stored
    gives way. Raises Conflict, whose value is what is stored."""
    if begun is not None and begun.strip() != standing:
        raise Conflict(
            "it was changed elsewhere meanwhile; nothing was saved",
            field=field,
            value=standing,
            rule="what stood there when you began",
        )
