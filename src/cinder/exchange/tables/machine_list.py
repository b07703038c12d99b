"""A company's own machines from a sheet: one row a test point, CSV or XLSX; and the form to fill.

Rows of one machine carry the same id. Columns, in any order:

    id, name               needed   id: small letters, digits, dashes; the same on every row of a machine
    outdoor_c, water_c     a test point: outdoor air and leaving water, deg C
    output_kw, cop         its greatest output, and COP (or power_kw instead)
    least_kw               how far it turns down there
    pump_lph, pump_kpa     a point of the pressure its pump has left for the pipes; on any row
    kind                   monobloc (unless said) or split
    refrigerant, refrigerant_kg, flammable (yes, no)
    defrost_included       yes (unless said) or no: frost is then taken off
    lowest_outdoor_c, hottest_water_c          where it stops; the hottest point it was tested at unless said
    least_flow_lph, least_water_l, content_l, max_current_a, weight_kg
    sound_db, quiet_sound_db, quiet_output     sound power; quiet mode and what part of its output it then gives (0.6 or 60 %)
    running_w, standby_w   drawn beside the compressor while it heats, and while it does not
    heater_kw, buffer_l, vessel_l, relief_bar, diverter (yes, no), refrigerant_release (yes, no)
    price                  in whole units of the company's currency

What of a machine is said once may stand on any of its rows. What nobody says is not judged. Points nobody tested are worked out
from their neighbours and marked.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Callable
from typing import Any

import numpy as np
from pydantic import ValidationError

from cinder.errors import BadCatalogue, Problem
from cinder.exchange.survey.sheet import guard, unguard
from cinder.exchange.tables.table import cells
from cinder.library.entries.machine import MachineEntry, implausible
from cinder.library.plainly import problems_of

POINT = ("outdoor_c", "water_c", "output_kw", "cop", "power_kw", "least_kw")
PUMP = ("pump_lph", "pump_kpa")
NUMBERS = (
    "refrigerant_kg", "lowest_outdoor_c", "hottest_water_c", "least_flow_lph", "least_water_l", "content_l", "max_current_a",
    "weight_kg", "sound_db", "quiet_sound_db", "quiet_output", "running_w", "standby_w", "heater_kw", "buffer_l", "vessel_l",
    "relief_bar", "price",
)  # fmt: skip
YES = ("flammable", "defrost_included", "diverter", "refrigerant_release")
WORDS = ("kind", "refrigerant")
COLUMNS = ("id", "name", *POINT, *PUMP, *WORDS, *YES, *NUMBERS)
NEEDED = ("id", "name", "outdoor_c", "water_c", "output_kw")
MAY_BE_BELOW_0 = ("outdoor_c", "lowest_outdoor_c")
FLAMMABLE = ("R290", "R32", "R454B", "R454C", "R1270")
SHOWN = 40
PAGE = "Machines"
KEPT = "No machine of it was taken; what was there before stands."
Row = dict[str, str]


def read(data: bytes, *, source: str) -> list[MachineEntry]:
    """The machines of a sheet: all of it or nothing.

    Raises `TooLarge`, `MalformedJson` where it is no table, or `BadCatalogue` with one problem a row and column.
    """
    problems: list[Problem] = []
    rows: dict[str, list[tuple[int, Row]]] = {}
    for n, row in _rows(data):
        key = row.get("id", "").lower()
        if not key:
            problems.append(Problem(f"row {n}, id", "is needed"))
            continue
        rows.setdefault(key, []).append((n, row))
    made = [entry for key, own in rows.items() if (entry := _machine(key, own, source, problems)) is not None]
    if problems:
        raise BadCatalogue(
            f"{len(problems)} {'place' if len(problems) == 1 else 'places'} of the sheet cannot be read.",
            problems=tuple(problems[:SHOWN]), kept=KEPT,
        )  # fmt: skip
    if not made:
        raise BadCatalogue("The sheet holds no machine.", kept=KEPT)
    return made


def _rows(data: bytes) -> list[tuple[int, Row]]:
    lines = cells(data, wide=len(COLUMNS) + 10, page=PAGE)
    head = next((n for n, line in enumerate(lines) if any(cell.strip() for cell in line)), 0)
    names = [name.strip().lower() for name in lines[head]] if lines else []
    problems = [Problem(f"row {head + 1}", f"the column {name} is missing") for name in NEEDED if name not in names]
    if "cop" not in names and "power_kw" not in names:
        problems.append(Problem(f"row {head + 1}", "the column cop (or power_kw) is missing"))
    problems += [
        Problem(f"row {head + 1}", f"column {name!r} is not one of ours")
        for name in names
        if name and name not in COLUMNS
    ]
    if problems:
        raise BadCatalogue(
            "The first row names the columns: " + ", ".join(COLUMNS) + ".", problems=tuple(problems[:SHOWN]), kept=KEPT
        )
    found = [
        (n, {name: unguard(cell.strip()) for name, cell in zip(names, line, strict=False) if name})
        for n, line in enumerate(lines[head + 1 :], head + 2)
    ]
    return [(n, row) for n, row in found if any(row.values())]


class _Reader:
    """The rows of one machine, every problem gathered with its row and column."""

    def __init__(self, rows: list[tuple[int, Row]], problems: list[Problem]) -> None:
        self.rows, self.problems = rows, problems

    def wrong(self, row: int, column: str, why: str, value: str = "") -> None:
        self.problems.append(Problem(f"row {row}, {column}", why, value or None))

    def number(self, n: int, row: Row, name: str) -> float | None:
        text = row.get(name, "").replace("%", "").strip()
        if not text:
            return None
        try:
            value = float(text.replace(",", ".") if text.count(",") == 1 and "." not in text else text)
        except ValueError:
            self.wrong(n, name, "is no number", row[name])
            return None
        if not abs(value) < 1e6:
            self.wrong(n, name, "is no number of this world", row[name])
            return None
        if value < 0 and name not in MAY_BE_BELOW_0:
            self.wrong(n, name, "cannot be below 0", row[name])
            return None
        return value / 100 if "%" in row[name] else value

    def once(self, name: str, take: Callable[[int, Row, str], Any]) -> Any:
        """What is said once of a machine; said twice it must be the same."""
        said: list[tuple[int, Any]] = []
        for n, row in self.rows:
            value = take(n, row, name) if row.get(name) else None
            if value is not None:
                said.append((n, value))
        for n, value in said[1:]:
            if value != said[0][1]:
                self.wrong(n, name, f"says another thing than row {said[0][0]} ({said[0][1]})", str(value))
        return said[0][1] if said else None

    def yes(self, n: int, row: Row, name: str) -> bool | None:
        text = row[name].lower()
        if text in ("yes", "y", "true", "1", "no", "n", "false", "0"):
            return text in ("yes", "y", "true", "1")
        self.wrong(n, name, "is yes or no", row[name])
        return None

    def word(self, n: int, row: Row, name: str) -> str:
        return row[name][:300]

    def points(self) -> dict[tuple[float, float], tuple[int, float, float, float | None]]:
        """Test points by (outdoor, water): row, output W, COP, least W."""
        found: dict[tuple[float, float], tuple[int, float, float, float | None]] = {}
        for n, row in self.rows:
            value = {name: self.number(n, row, name) for name in POINT}
            if all(value[name] is None for name in ("outdoor_c", "water_c", "output_kw")):
                if not any(row.get(name) for name in (*PUMP, *POINT)) and not self._says_something(row):
                    self.wrong(n, "outdoor_c", "the row says nothing")
                continue
            missing = [name for name in ("outdoor_c", "water_c", "output_kw") if value[name] is None]
            if value["cop"] is None and not value["power_kw"]:
                missing.append("cop")
            for name in missing:
                if not row.get(name):
                    self.wrong(n, name, "a test point needs it")
            if missing:
                continue
            air, water, output = value["outdoor_c"] or 0.0, value["water_c"] or 0.0, value["output_kw"] or 0.0
            cop = value["cop"] if value["cop"] is not None else output / (value["power_kw"] or 1.0)
            wrong = implausible(air, water, cop)
            if wrong:
                self.wrong(n, "cop" if value["cop"] is not None else "power_kw", wrong)
            if output <= 0:
                self.wrong(n, "output_kw", "must be more than 0")
            if (air, water) in found:
                self.wrong(n, "outdoor_c", f"A{air:g}/W{water:g} stands in row {found[air, water][0]} already")
            least = value["least_kw"]
            if least is not None and least > output:
                self.wrong(n, "least_kw", f"is more than the {output:g} kW it gives at most", row["least_kw"])
            found[air, water] = (n, output * 1000, cop, least * 1000 if least else None)
        return found

    def _says_something(self, row: Row) -> bool:
        return any(row.get(name) for name in (*WORDS, *YES, *NUMBERS))

    def pump(self) -> list[tuple[float, float]]:
        found: dict[float, float] = {}
        for n, row in self.rows:
            flow, head = (self.number(n, row, name) for name in PUMP)
            if (flow is None) != (head is None):
                self.wrong(n, PUMP[0] if flow is None else PUMP[1], "a point of the pump needs flow and pressure")
            elif flow is not None and head is not None:
                found[flow] = head
        return sorted(found.items())


def _machine(key: str, rows: list[tuple[int, Row]], source: str, problems: list[Problem]) -> MachineEntry | None:
    before, first = len(problems), rows[0][0]
    reader = _Reader(rows, problems)
    name = reader.once("name", reader.word) or ""
    if not name:
        reader.wrong(first, "name", "is needed")
    points = reader.points()
    said: dict[str, Any] = {name: reader.once(name, reader.number) for name in NUMBERS}
    said |= {name: reader.once(name, reader.yes) for name in YES}
    said |= {name: reader.once(name, reader.word) for name in WORDS}
    kind = (said["kind"] or "monobloc").lower()
    if kind not in ("monobloc", "split"):
        reader.wrong(first, "kind", "is monobloc or split", said["kind"])
    pump = reader.pump()
    if len(pump) == 1:
        reader.wrong(first, "pump_lph", "a pump curve needs at least two points")
    air, water = sorted({a for a, _ in points}), sorted({w for _, w in points})
    if len(problems) > before:
        return None
    if len(air) < 2 or len(water) < 2:
        reader.wrong(
            first, "outdoor_c",
            f"{name} has {len(points)} test {'point' if len(points) == 1 else 'points'}: a map needs at least two outdoor and two "
            "water temperatures",
        )  # fmt: skip
        return None
    tables = _filled(points, air, water)
    if tables is None:
        reader.wrong(first, "outdoor_c", f"the test points of {name} do not hang together: some cannot be worked out")
        return None
    output, cop, least, worked = tables
    hottest = said["hottest_water_c"] or max(water)
    refrigerant = said["refrigerant"] or "not said"
    flammable = said["flammable"] if said["flammable"] is not None else refrigerant.upper() in FLAMMABLE
    row: dict[str, Any] = {
        "id": key, "label": name, "kind": kind, "refrigerant": refrigerant, "flammable": flammable,
        "refrigerant_kg": said["refrigerant_kg"], "outdoor_c": air, "water_c": water, "greatest_w": output, "cop": cop,
        "least_w": least, "worked_out": worked,
        "defrost_included": said["defrost_included"] if said["defrost_included"] is not None else True,
        "lowest_outdoor_c": said["lowest_outdoor_c"] if said["lowest_outdoor_c"] is not None else min(air),
        "limit_outdoor_c": [min(air)], "limit_water_c": [hottest], "least_flow_lph": said["least_flow_lph"],
        "pump_flow_lph": [f for f, _ in pump], "pump_head_kpa": [h for _, h in pump], "least_volume_l": said["least_water_l"],
        "content_l": said["content_l"], "max_current_a": said["max_current_a"], "sound_power_day_db": said["sound_db"],
        "sound_power_night_db": said["quiet_sound_db"], "weight_kg": said["weight_kg"], "always_on_w": said["running_w"] or 0.0,
        "quiet_output_share": said["quiet_output"] or 1.0, "standby_w": said["standby_w"] or 0.0,
        "contains": {
            "heater_kw": said["heater_kw"] or 0.0, "buffer_l": said["buffer_l"] or 0.0, "vessel_l": said["vessel_l"] or 0.0,
            "relief_bar": said["relief_bar"] or 0.0, "diverter": bool(said["diverter"]),
            "refrigerant_release": bool(said["refrigerant_release"]),
        },
        "price_minor": round(said["price"] * 100) if said["price"] is not None else None, "source": source,
    }  # fmt: skip
    try:
        return MachineEntry.model_validate(row, strict=False)
    except ValidationError as error:
        problems.extend(Problem(f"row {first}, {p.path.strip('/')}", p.message) for p in problems_of(error, SHOWN))
        return None


Grid = list[list[float]]


def _filled(
    points: dict[tuple[float, float], tuple[int, float, float, float | None]], air: list[float], water: list[float]
) -> tuple[Grid, Grid, Grid | None, list[list[int]]] | None:
    """Output, COP and least output on the whole grid, and which places nobody tested; None where some cannot be worked out.

    A missing place takes what its row and column say together: out(i, j) = out(i, l) out(k, j) / out(k, l), the mean of all that
    are known; COP by the Carnot fraction in the same way.
    """
    shape = (len(air), len(water))
    output, fraction, least = (np.full(shape, np.nan) for _ in range(3))
    for (a, w), (_, watts, cop, low) in points.items():
        at = air.index(a), water.index(w)
        output[at], fraction[at] = watts, cop * max(w - a, 1.0) / (w + 273.15)
        least[at] = low if low is not None else np.nan
    worked = [[int(i), int(j)] for i, j in np.argwhere(np.isnan(output))]
    for table in (output, fraction):
        if not _fill(table):
            return None
    turns_down = bool(np.isfinite(least).any())
    if turns_down:
        share = np.where(np.isfinite(least), least, np.nan) / output
        least = np.where(np.isfinite(least), least, float(np.nanmean(share)) * output)
    ideal = (np.array(water) + 273.15) / np.maximum(np.subtract.outer(air, water) * -1, 1.0)
    cop_table = np.maximum(fraction * ideal, 1.0)
    for (a, w), (_, _, cop, _) in points.items():
        cop_table[air.index(a), water.index(w)] = cop
    return _plain(output, 1), _plain(cop_table, 3), _plain(least, 1) if turns_down else None, worked


def _plain(table: np.ndarray[Any, np.dtype[np.float64]], digits: int) -> Grid:
    return [[round(float(value), digits) for value in row] for row in table]


def _fill(table: np.ndarray[Any, np.dtype[np.float64]]) -> bool:
    while np.isnan(table).any():
        known, found = np.isfinite(table), table.copy()
        for i, j in np.argwhere(~known):
            each = [
                table[i, col] * table[row, j] / table[row, col]
                for row in np.nonzero(known[:, j])[0]
                for col in np.nonzero(known[i])[0]
                if known[row, col]
            ]
            if each:
                found[i, j] = np.mean(each)
        if np.array_equal(np.isnan(found), np.isnan(table)):
            return False
        table[:] = found
    return True


# ---- the form


def rows_of(entries: list[MachineEntry]) -> list[list[Any]]:
    """Machines as rows of the sheet, what is said once on the first row of each."""
    out: list[list[Any]] = []
    for entry in entries:
        pump = list(zip(entry.pump_flow_lph, entry.pump_head_kpa, strict=True))
        held = entry.contains
        once: dict[str, Any] = {
            "kind": entry.kind, "refrigerant": entry.refrigerant, "flammable": _yes(entry.flammable),
            "defrost_included": _yes(entry.defrost_included), "refrigerant_kg": entry.refrigerant_kg,
            "lowest_outdoor_c": entry.lowest_outdoor_c, "hottest_water_c": max(entry.limit_water_c),
            "least_flow_lph": entry.least_flow_lph, "least_water_l": entry.least_volume_l, "content_l": entry.content_l,
            "max_current_a": entry.max_current_a, "weight_kg": entry.weight_kg, "sound_db": entry.sound_power_day_db,
            "quiet_sound_db": entry.sound_power_night_db, "quiet_output": entry.quiet_output_share,
            "running_w": entry.always_on_w, "standby_w": entry.standby_w, "heater_kw": held.heater_kw, "buffer_l": held.buffer_l,
            "vessel_l": held.vessel_l, "relief_bar": held.relief_bar, "diverter": _yes(held.diverter),
            "refrigerant_release": _yes(held.refrigerant_release),
            "price": entry.price_minor / 100 if entry.price_minor is not None else None,
        }  # fmt: skip
        untested = {(i, j) for i, j in entry.worked_out}
        grid = [
            (i, j) for i in range(len(entry.outdoor_c)) for j in range(len(entry.water_c)) if (i, j) not in untested
        ]
        for n in range(max(len(grid), len(pump))):
            row: dict[str, Any] = {"id": entry.id, "name": guard(entry.label)} | (once if n == 0 else {})
            if n < len(grid):
                i, j = grid[n]
                row |= {
                    "outdoor_c": entry.outdoor_c[i], "water_c": entry.water_c[j], "output_kw": entry.greatest_w[i][j] / 1000,
                    "cop": entry.cop[i][j], "least_kw": entry.least_w[i][j] / 1000 if entry.least_w else None,
                }  # fmt: skip
            if n < len(pump):
                row |= {"pump_lph": pump[n][0], "pump_kpa": pump[n][1]}
            out.append([row.get(name) for name in COLUMNS])
    return out


def _yes(value: bool) -> str:
    return "yes" if value else "no"


def to_csv(entries: list[MachineEntry]) -> bytes:
    text = io.StringIO()
    writer = csv.writer(text, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    writer.writerows(["" if cell is None else cell for cell in row] for row in rows_of(entries))
    return text.getvalue().encode()


def to_xlsx(entries: list[MachineEntry]) -> bytes:
    from openpyxl import Workbook
    from openpyxl.styles import Font

    book = Workbook()
    page = book.active
    assert page is not None
    page.title = PAGE
    page.append(list(COLUMNS))
    for cell in page[1]:
        cell.font = Font(bold=True)
    page.freeze_panes = "C2"
    for row in rows_of(entries):
        page.append(row)
    notes = book.create_sheet("What the columns are")
    for line in (__doc__ or "").splitlines():
        notes.append([line])
    data = io.BytesIO()
    book.save(data)
    return data.getvalue()
