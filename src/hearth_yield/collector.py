"""Rest for Python's collector of circles while figures are made by the thousand.

A review is a tree of frozen figures, in which there are none to find; looking for them again and
again took a fifth of the time it takes to measure a payer.
"""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def at_rest() -> Iterator[None]:
    """No collection until the block ends; for blocks whose garbage is small, such as a batch."""
    was = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was:
            gc.enable()
