"""How far a workbook would expand, seen from its parts before any of them is laid out: one cell in
the last corner of a sheet makes the reader fill all the sheet."""

from __future__ import annotations

import io
import re
import zipfile

from hearth_yield.core.errors import TooLarge

MAX_EXPANDED = 256 * 1024 * 1024
MAX_PARTS = 2000
MAX_AREA = 4_000_000
"""Cells that one sheet may span, empty ones among them."""
_CELL = re.compile(rb"""\br\s*=\s*["']([A-Z]{1,3})(\d{1,7})["']""")
_FAR = re.compile(rb' r="(?:[A-Z]*\d{5}|[B-Z][A-Z]+\d|[A-Z]{3}\d)')
"""A cell beyond column AZ or row 9,999."""
_ROW = re.compile(rb"<table:table-row\b([^>]*)>(.*?)</table:table-row>", re.DOTALL)
_ODS_CELL = re.compile(rb"<table:(?:covered-)?table-cell\b([^>]*?)(/?)>")
_ROWS = re.compile(rb'number-rows-repeated="(\d{1,9})"')
_COLUMNS = re.compile(rb'number-columns-repeated="(\d{1,9})"')


PICTURES = ("xl/media/", "Pictures/", "Thumbnails/", "xl/embeddings/")


def bounded_workbook(name: str, raw: bytes) -> bytes:
    """The same workbook, packed anew of what was counted, as a reader may not believe the sizes
    that the zip's headers tell.

    Raises: TooLarge; ValueError for a format that is not read; what zipfile raises for a torn
    archive.
    """
    archive = zipfile.ZipFile(io.BytesIO(raw))
    size = sum(m.file_size for m in archive.infolist())
    if size > MAX_EXPANDED or len(archive.infolist()) > MAX_PARTS:
        raise TooLarge(
            "the workbook expands too far",
            field=name,
            value=size,
            rule=f"at most {MAX_EXPANDED // 2**20} MB in {MAX_PARTS} parts",
        )
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as again:
        for member in archive.infolist():
            path = member.filename
            if path == "xl/workbook.bin":
                raise ValueError("binary workbooks are not read; save it as XLSX")
            if member.is_dir() or path.startswith(PICTURES):
                continue
            content = archive.read(member)
            if path.startswith("xl/worksheets/") and path.endswith(".xml"):
                _small(name, _area(content))
            elif path == "content.xml":
                _small(name, _repeated(content))
            again.writestr(path, content)
    return out.getvalue()


def _small(name: str, area: int) -> None:
    if area > MAX_AREA:
        raise TooLarge(
            "a sheet spans too many cells",
            field=name,
            value=area,
            rule=f"at most {MAX_AREA:,}, empty ones among them",
        )


def _area(xml: bytes) -> int:
    """Of the rectangle around all cells of a sheet; 0 for one that is surely small."""
    usual = not any(odd in xml for odd in (b"\tr=", b"\nr=", b"\rr=", b"r='", b"r ="))
    if usual and not _FAR.search(xml):
        return 0
    columns, rows = set(), set()
    for column, row in set(_CELL.findall(xml)):
        columns.add(column)
        rows.add(int(row))
    if not rows:
        return 0
    places = [_number(c) for c in columns]
    return (max(rows) - min(rows) + 1) * (max(places) - min(places) + 1)


def _number(letters: bytes) -> int:
    n = 0
    for letter in letters:
        n = 26 * n + letter - 64
    return n


def _repeated(xml: bytes) -> int:
    """Cells with something in them, as often as they are repeated."""
    area = 0
    for row, cells in _ROW.findall(xml):
        again = _ROWS.search(row)
        filled = 0
        for about, _ in _ODS_CELL.findall(cells):
            if b"office:value" in about or b"string" in about or b"office:date" in about:
                wide = _COLUMNS.search(about)
                filled += int(wide[1]) if wide else 1
        area += filled * (int(again[1]) if again else 1)
    return area
