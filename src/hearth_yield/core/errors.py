"""Everything that can be refused, in one tree.

    HearthError
    ├── InvalidInput        a value breaks a rule; names field, value and rule
    │   └── MethodError     an argument a method cannot work with (r not above g)
    ├── NotFound            what was asked for is not held
    ├── Conflict            it is held, but its present state forbids the step
    │   └── Unsure              it contradicts itself; done once the person says it is meant so
    ├── Uncomputable        facts that are held, but with which no figure can be computed
    │   └── Miscomputed     the program failed over a payer: its fault, whatever the facts are
    ├── TooLarge            an upload beyond its bounds
    ├── Unreachable         another service that does not answer, or not as it should
    ├── RejectedImport      a file with faults; carries every one of them
    └── Cancelled           the person stopped a long task

Unknown is not in the tree: it is a result with a reason (see figure.py).
"""

from __future__ import annotations

from collections.abc import Sequence


class HearthError(Exception):
    """Base of every refusal. `field`, `value` and `rule` may be None."""

    def __init__(
        self,
        message: str,
        *,
        field: str | None = None,
        value: object = None,
        rule: str | None = None,
    ) -> None:
        super().__init__(message)
        self.message = message
        self.field = field
        self.value = value
        self.rule = rule


class InvalidInput(HearthError):
    """A value breaks a rule."""


class MethodError(InvalidInput):
    """A caller's argument with which the method has no meaning."""


class NotFound(HearthError):
    """Nothing is held under that name."""


class Conflict(HearthError):
    """The present state of what is held forbids the step."""


class Unsure(Conflict):
    """What is asked contradicts itself; it is done when it is said again as meant."""


class Uncomputable(HearthError):
    """Facts are held that no figure can be computed with: beyond the bounds a file is read with."""


class Miscomputed(Uncomputable):
    """The program failed over a payer: a fault of its own. Its cause is the exception met."""


class TooLarge(HearthError):
    """An upload beyond its bounds in size, rows or expansion."""


class Unreachable(HearthError):
    """Another service did not answer, or not whole. Nothing was kept."""


class RejectedImport(HearthError):
    """An import with faults. Nothing of it was kept."""

    def __init__(self, message: str, *, faults: Sequence[object]) -> None:
        super().__init__(message)
        self.faults = tuple(faults)


class Cancelled(HearthError):
    """The person stopped a long task; nothing of it was kept."""
