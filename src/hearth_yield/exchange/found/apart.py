"""Foreign files are read by a process of their own, which the system bounds, or a watch of ours
where the system cannot: no file takes the server with it."""

from __future__ import annotations

import subprocess
import sys
import threading
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date
from tempfile import TemporaryFile
from typing import IO, Any, cast

import msgspec
import psutil

from hearth_yield.core.errors import TooLarge
from hearth_yield.progress import Progress, unwatched

from .reader import MAX_CELLS, MAX_COLUMNS, MAX_ROWS, MAX_SHEETS, PARTED
from .sheets import Cell, Sheet

MEMORY = 320 * 2**20
"""Bytes that the reader may take."""
SECONDS = 8
"""Seconds of a processor that it may take."""
LONGEST = 120
"""Seconds by the clock, on a machine that is busy with other things."""
LOOKS = 0.02
BOUNDS = (
    f"at most {MAX_ROWS:,} rows of {MAX_COLUMNS} columns a sheet, {MAX_SHEETS} sheets and "
    f"{MAX_CELLS:,} cells"
)
MAX_FRAME = 64 * 2**20
MAX_OUT = 256 * 2**20

_RUN = f"import sys; from {__package__}.reader import main; main(*sys.argv[1:])"


class Unreadable(Exception):
    """Why a file gives no sheets, in words."""


@dataclass(slots=True, kw_only=True)
class FileRead:
    """sheets: those that have cells. left: what of an archive was not read. encoding: of a text
    that is not plain, with what else it might be, and what it would say then; told: by the
    person."""

    sheets: list[Sheet] = field(default_factory=list)
    left: list[str] = field(default_factory=list)
    encoding: str = ""
    sure: bool = True
    told: bool = False
    choices: Sequence[tuple[str, str]] = ()


def read_apart(
    file: str,
    raw: bytes,
    encoding: str = "",
    progress: Progress = unwatched,
    *,
    watched: bool = sys.platform != "linux",
) -> FileRead:
    """What a file holds. progress: called with the rows that are read; raising from it ends the
    reader. watched: ours is the bound, not the system's. Raises Unreadable, TooLarge."""
    bounds = ["0" if watched else str(MEMORY), str(SECONDS)]
    command = [sys.executable, "-I", "-c", _RUN, file[-200:], encoding, *bounds]
    with TemporaryFile() as held:
        held.write(raw)
        held.seek(0)
        with subprocess.Popen(  # noqa: S603 - our own module, and nothing of the file's
            command, stdin=held, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL
        ) as reader:
            watch = _Watch(reader, whole=watched)
            try:
                found = _put_together(file, cast("IO[bytes]", reader.stdout), progress)
            except _Torn as torn:
                why = _why(reader.wait()) if torn.ended else ""
                raise _ended(file, watch.why or why) from None
            finally:
                watch.done.set()
                reader.kill()
    if not found.sheets:
        raise Unreadable("; ".join(found.left[:5]) or "there is nothing in it")
    found.told = bool(encoding)
    return found


class _Torn(Exception):
    """The frames end before they say so, or are none. ended: nothing more comes."""

    def __init__(self, *, ended: bool) -> None:
        super().__init__()
        self.ended = ended


class _Watch:
    """Ends a reader that takes too long by the clock; whole: too much memory or too much of a
    processor as well."""

    def __init__(self, reader: subprocess.Popen[bytes], *, whole: bool) -> None:
        self.done = threading.Event()
        self.why = ""
        self._reader, self._whole = reader, whole
        threading.Thread(target=self._look, daemon=True).start()

    def _look(self) -> None:
        try:
            seen = psutil.Process(self._reader.pid)
        except psutil.Error:
            return  # it has ended before it was looked for
        for _ in range(round(LONGEST / LOOKS)):
            if self.done.wait(LOOKS):
                return
            if self._whole and (why := _beyond(seen)):
                self._end(why)
                return
        self._end("time")

    def _end(self, why: str) -> None:
        self.why = why
        self._reader.kill()


def _beyond(seen: psutil.Process) -> str:
    """What a running reader has taken too much of."""
    try:
        if seen.memory_info().rss > MEMORY:
            return "memory"
        return "time" if sum(seen.cpu_times()[:2]) > SECONDS else ""
    except psutil.Error:
        return ""


def _why(returncode: int | None) -> str:
    """What a reader that ended by itself had too little of, by how it ended."""
    return "time" if returncode in (-24, -9) else "memory" if returncode == -6 else ""


def _ended(file: str, why: str) -> Exception:
    if why == "memory":
        return TooLarge(
            "the file takes too much memory to read",
            field=file,
            value="far more than it weighs",
            rule=f"at most {MEMORY // 2**20} MB",
        )
    if why == "time":
        return TooLarge(
            "the file takes too long to read",
            field=file,
            value=f"over {SECONDS} seconds",
            rule=f"at most {SECONDS} seconds of a processor",
        )
    return Unreadable("it is damaged, or made of too much: its reader broke off")


def _frames(out: IO[bytes]) -> Iterator[list[Any]]:
    total = 0
    while head := out.read(4):
        size = int.from_bytes(head, "big")
        total += size
        if len(head) == 4 and (size > MAX_FRAME or total > MAX_OUT):
            raise _Torn(ended=False)
        raw = out.read(size)
        try:
            yield msgspec.json.decode(raw, type=list[Any])
        except msgspec.MsgspecError:
            raise _Torn(ended=len(raw) < size) from None
    raise _Torn(ended=True)


def _parted(width: int, joined: str) -> list[list[Cell]]:
    """Rows of as many texts each, without what stands empty at their ends."""
    texts: list[Cell] = [c or None for c in joined.split(PARTED)]
    if width < 1 or len(texts) % width:
        raise _Torn(ended=False)
    rows = list(map(list, zip(*[iter(texts)] * width, strict=True)))
    for row in rows if None in texts else ():
        while row and row[-1] is None:
            row.pop()
    return rows


def _put_together(file: str, out: IO[bytes], progress: Progress) -> FileRead:
    found, count = FileRead(), 0
    for kind, *parts in _frames(out):
        progress("reading rows", count, 0)
        match kind:
            case "sheet":
                found.sheets.append(Sheet(file, parts[0], [], parts[1]))
            case "rows":
                rows, days = parts
                for row, at in days:
                    rows[row][at] = date.fromisoformat(rows[row][at])
                found.sheets[-1].rows.extend(rows)
                count += len(rows)
            case "texts":
                rows = _parted(*parts)
                found.sheets[-1].rows.extend(rows)
                count += len(rows)
            case "text":
                found.encoding, found.sure = parts[0], parts[1]
                found.choices = [(e, s) for e, s in parts[2]]
            case "only":
                del found.sheets[parts[0] :]
            case "left":
                found.left.append(parts[0])
            case "refused":
                words, large, value = parts
                if large:
                    raise TooLarge(words, field=file, value=value, rule=BOUNDS)
                raise Unreadable(words)
            case "end":
                return found
    raise _Torn(ended=True)
