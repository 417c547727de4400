"""Writing a file so that it is there whole or not at all."""

from __future__ import annotations

import os
import tempfile
from pathlib import Path


def write_whole(path: Path, content: bytes) -> None:
    """Write beside, sync, rename: a full disk or a killed process leaves what was there before.

    Raises: OSError.
    """
    path.parent.mkdir(parents=True, exist_ok=True)
    handle, name = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.", suffix=".part")
    beside = Path(name)
    try:
        with os.fdopen(handle, "wb") as out:
            out.write(content)
            out.flush()
            os.fsync(out.fileno())
        beside.replace(path)
    except BaseException:
        beside.unlink(missing_ok=True)
        raise
    _sync_folder(path.parent)


def _sync_folder(folder: Path) -> None:
    opened = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(opened)
    finally:
        os.close(opened)
