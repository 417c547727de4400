"""Workbooks of the old binary format (XLS), read in a process of their own: what such a file says
of its size cannot be known before it is expanded, so that memory and time are bounded from
outside."""

from __future__ import annotations

import json
import subprocess
import sys
from datetime import date, datetime, time, timedelta
from typing import Any

MEMORY = 2 * 2**30
SECONDS = 30


def read_apart(raw: bytes) -> list[tuple[str, bool, list[list[Any]]]]:
    """Name, whether it is hidden, and cells of each sheet. Raises ValueError."""
    try:
        done = subprocess.run(  # noqa: S603 - our own module, and nothing of the file's
            [sys.executable, "-m", __name__], input=raw, capture_output=True, timeout=2 * SECONDS
        )
    except subprocess.TimeoutExpired:
        raise ValueError("it takes too long to read") from None
    if done.returncode != 0:
        raise ValueError(done.stderr.decode(errors="replace").strip()[-120:] or "it is too large")
    sheets = json.loads(done.stdout)
    return [(n, h, [[_from_json(c) for c in row] for row in rows]) for n, h, rows in sheets]


def _to_json(cell: Any) -> Any:
    match cell:
        case datetime() | date():
            return {"day": cell.isoformat()[:10]}
        case time() | timedelta() | bool():
            return str(cell)
    return cell


def _from_json(cell: Any) -> Any:
    return date.fromisoformat(cell["day"]) if isinstance(cell, dict) else cell


def main() -> None:
    """Reads a workbook from the standard input and writes its cells."""
    import io
    import resource

    from python_calamine import CalamineWorkbook, SheetVisibleEnum

    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS))
    try:
        book = CalamineWorkbook.from_filelike(io.BytesIO(sys.stdin.buffer.read()))
        hidden = {m.name for m in book.sheets_metadata if m.visible is not SheetVisibleEnum.Visible}
        sheets = [
            (
                name,
                name in hidden,
                [
                    [_to_json(c) for c in row]
                    for row in book.get_sheet_by_name(name).to_python(skip_empty_area=False)
                ],
            )
            for name in book.sheet_names[:201]
        ]
    except Exception as error:
        sys.stderr.write(str(error))
        raise SystemExit(1) from None
    sys.stdout.write(json.dumps(sheets))


if __name__ == "__main__":
    main()
