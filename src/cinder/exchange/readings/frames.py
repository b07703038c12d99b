"""A file of readings piece by piece: CSV of any separator and decimals, or the first sheet of a workbook."""

from __future__ import annotations

import csv
import io
import zipfile
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from cinder.errors import BadReadings, Problem, TooLarge

MAX_BYTES = 256 * 1024 * 1024
MAX_ROWS = 1_200_000
MAX_SHEET_ROWS = 100_000
MAX_SHEET_BYTES = 400 * 1024 * 1024
MAX_COLUMNS = 700
PIECE = 25_000
LINE = "\x00line"
SHOWN = 12
KEPT = "Nothing of it was taken; the readings of before stand."
ZIP = b"PK"


@dataclass(frozen=True, slots=True)
class Head:
    """The heading of a file: names of its columns, and how numbers are written."""

    names: list[str]
    separator: str
    decimal: str


def bad(message: str, problems: Sequence[Problem] = ()) -> BadReadings:
    return BadReadings(message, problems=tuple(problems[:SHOWN]), kept=KEPT)


def frames(source: bytes | Path) -> tuple[Head, Iterator[Any]]:
    """The heading, and tables of at most `PIECE` lines whose column `LINE` says which line each is.

    Raises `TooLarge`, `BadReadings`: no text, no table, two columns of one name.
    """
    size = len(source) if isinstance(source, bytes) else source.stat().st_size
    if size > MAX_BYTES:
        raise TooLarge(f"The file has {size:,} bytes; at most {MAX_BYTES:,} are taken.", kept=KEPT)
    with _opened(source) as start:
        begins = start.read(4)
    return _sheet(source) if begins[:2] == ZIP else _csv(source)


def _opened(source: bytes | Path) -> Any:
    return io.BytesIO(source) if isinstance(source, bytes) else source.open("rb")


def _named(names: list[str]) -> list[str]:
    if len(names) > MAX_COLUMNS:
        raise TooLarge(f"The file has more than {MAX_COLUMNS} columns.", kept=KEPT)
    out = [name.strip() or f"column {n}" for n, name in enumerate(names, start=1)]
    twice = [name for name, count in Counter(out).items() if count > 1]
    if twice:
        at = [n for n, name in enumerate(out, start=1) if name == twice[0]]
        raise bad(
            f"{len(at)} columns are called {twice[0]!r}: give each a name of its own.",
            [Problem(f"line 1, column {n}", f"is called {twice[0]!r}") for n in at],
        )
    return out


def _csv(source: bytes | Path) -> tuple[Head, Iterator[Any]]:
    with _opened(source) as file:
        first = file.readline(1_000_000)
    try:
        text = first.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise bad(f"Not UTF-8 text: byte {error.start}.") from None
    if "\x00" in text:
        raise bad("Text holds U+0000: this is no CSV.")
    separator = ";" if text.count(";") > text.count(",") else "\t" if "\t" in text else ","
    rows = list(csv.reader([text.rstrip("\r\n")], delimiter=separator))
    head = Head(_named(rows[0] if rows else []), separator, "," if separator != "," else ".")
    return head, _pieces(source, head)


def _pieces(source: bytes | Path, head: Head) -> Iterator[Any]:
    import pandas as pd  # slow to import: only such a file needs it

    file = _opened(source)
    try:
        reader = pd.read_csv(
            file, sep=head.separator, names=head.names, header=None, skiprows=1, skip_blank_lines=False, decimal=head.decimal,
            encoding="utf-8-sig", chunksize=PIECE, low_memory=False, index_col=False, dtype={head.names[0]: str} if head.names else None,
        )  # fmt: skip
        line = 2
        for table in reader:
            if line + len(table) - 2 > MAX_ROWS:
                raise TooLarge(f"The file has more than {MAX_ROWS:,} lines.", kept=KEPT)
            yield _with_lines(table, line)
            line += len(table)
    except UnicodeDecodeError as error:
        raise bad(f"Not UTF-8 text: {error.reason} at byte {error.start}.") from None
    except pd.errors.EmptyDataError:
        return
    except (ValueError, pd.errors.ParserError) as error:
        raise bad(f"Not a table: {str(error)[:120]}.") from None
    finally:
        file.close()


def _with_lines(table: Any, first: int) -> Any:
    filled = table.notna().any(axis=1).to_numpy()
    table[LINE] = np.arange(len(table)) + first
    return table[filled]


def _sheet(source: bytes | Path) -> tuple[Head, Iterator[Any]]:
    from openpyxl import load_workbook
    from openpyxl.utils.exceptions import InvalidFileException

    file = _opened(source)
    try:
        with zipfile.ZipFile(file) as packed:
            if sum(item.file_size for item in packed.infolist()) > MAX_SHEET_BYTES:
                raise TooLarge("The workbook unpacks to more than is taken.", kept=KEPT)
        file.seek(0)
        book = load_workbook(file, read_only=True, data_only=True)
        rows = book.worksheets[0].iter_rows(values_only=True)
        first = next(rows, None)
    except (zipfile.BadZipFile, InvalidFileException, KeyError, ValueError, OSError, IndexError) as error:
        raise bad(f"Not a workbook we can read: {str(error)[:100]}.") from None
    if first is None:
        raise bad("The first sheet of the workbook is empty.")
    while first and first[-1] is None:
        first = first[:-1]
    head = Head(_named([str(cell) if cell is not None else "" for cell in first]), "", ".")
    return head, _rows(rows, head)


def _rows(rows: Iterator[tuple[Any, ...]], head: Head) -> Iterator[Any]:
    import pandas as pd

    wide, held, line = len(head.names), [], 2
    for n, row in enumerate(rows, start=2):
        if n - 1 > MAX_SHEET_ROWS:
            raise TooLarge(f"The sheet has more than {MAX_SHEET_ROWS:,} lines: bring it as CSV.", kept=KEPT)
        cells = list(row[:wide]) + [None] * (wide - len(row))
        held.append([cell.isoformat() if hasattr(cell, "isoformat") else cell for cell in cells])
        if len(held) == PIECE:
            yield _with_lines(pd.DataFrame(held, columns=head.names), line)
            held, line = [], n + 1
    if held:
        yield _with_lines(pd.DataFrame(held, columns=head.names), line)
