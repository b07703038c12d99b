"""A table somebody brings, CSV or XLSX, as rows of text; what is too large or no table is refused before it is built."""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Iterable
from typing import Any

from cinder.errors import MalformedJson, TooLarge

MAX_ROWS = 2000
MAX_BYTES = 4 * 1024 * 1024
MAX_UNPACKED = 20 * 1024 * 1024
MAX_CELLS = 400_000
MAX_STRINGS = 100_000
MAX_CELL_TEXT = 4000


def cells(data: bytes, *, wide: int, page: str) -> list[list[str]]:
    """The rows of a CSV (UTF-8; comma, semicolon or tab) or of a workbook's page (the first, if none has that name), at most
    `wide` columns of each.

    Raises `TooLarge`, `MalformedJson` (no readable table).
    """
    if len(data) > MAX_BYTES:
        raise TooLarge(f"The sheet has {len(data):,} bytes; at most {MAX_BYTES:,} are taken.")
    table = _xlsx_rows(data, wide, page) if data[:2] == b"PK" else _csv_rows(data, wide)
    return [[_text(cell) for cell in line] for line in table]


def _text(cell: Any) -> str:
    if cell is None:
        return ""
    if isinstance(cell, float) and cell.is_integer():
        return str(int(cell)) if abs(cell) < 100 else f"{cell:.1f}"
    return str(cell)[:MAX_CELL_TEXT]


def _csv_rows(data: bytes, wide: int) -> list[list[str]]:
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise MalformedJson(f"Not UTF-8 text: byte {error.start}.") from None
    if "\x00" in text:
        raise MalformedJson("Text holds U+0000: this is no CSV.")
    comma = text.split("\n", 1)[0]
    delimiter = ";" if comma.count(";") > comma.count(",") else "\t" if "\t" in comma else ","
    try:
        out: list[list[str]] = []
        for line in csv.reader(io.StringIO(text), delimiter=delimiter):
            out.append(line[:wide])
            if len(out) > MAX_ROWS + 10:
                raise TooLarge(f"The sheet has more than {MAX_ROWS:,} rows.")
        return out
    except csv.Error as error:
        raise MalformedJson(f"Not CSV: {error}.") from None


def _countable(packed: zipfile.ZipFile) -> None:
    """Refuse a workbook by what it holds before anything of it is built."""
    items = packed.infolist()
    total = sum(item.file_size for item in items)
    if total > MAX_UNPACKED or len(items) > 500:
        raise TooLarge(f"The workbook unpacks to {total:,} bytes; at most {MAX_UNPACKED:,} are taken.")
    cells = strings = 0
    for item in items:
        if item.filename.startswith("xl/worksheets/"):
            data = packed.read(item)
            cells += data.count(b"<c ") + data.count(b"<c>")
        elif item.filename.endswith("sharedStrings.xml"):
            strings += packed.read(item).count(b"<si")
    if cells > MAX_CELLS or strings > MAX_STRINGS:
        raise TooLarge(
            f"The workbook holds {cells:,} cells and {strings:,} texts; at most {MAX_CELLS:,} and {MAX_STRINGS:,} are taken."
        )


def _xlsx_rows(data: bytes, wide: int, page: str) -> list[Iterable[Any]]:
    from openpyxl import load_workbook  # slow to import: only where a workbook is read

    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            _countable(packed)
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True, keep_links=False)
        sheet = book[page] if page in book.sheetnames else book.worksheets[0]
        # a cell far out would otherwise be padded with everything before it
        out: list[Iterable[Any]] = list(sheet.iter_rows(values_only=True, max_row=MAX_ROWS + 11, max_col=wide))
        if len(out) > MAX_ROWS + 10:
            raise TooLarge(f"The sheet has more than {MAX_ROWS:,} rows.")
        return out
    except (TooLarge, MemoryError):
        raise
    except Exception as error:  # a damaged workbook breaks its reader in more ways than can be listed
        raise MalformedJson(f"Not a workbook we can read: {type(error).__name__}, {str(error)[:120]}.") from None
