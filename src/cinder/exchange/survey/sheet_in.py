"""A filled survey sheet read back: rows with their numbers, and what they would make of a job."""

from __future__ import annotations

import re
from typing import Any

from cinder.errors import InvalidJob, Problem, TooLarge
from cinder.exchange.survey.lengths import metres
from cinder.exchange.survey.sheet import COLUMNS, Row, unguard
from cinder.exchange.tables.table import MAX_ROWS
from cinder.exchange.tables.table import cells as cells_of
from cinder.library import Library
from cinder.model import Job, freeze, new_id
from cinder.model.operation import Operation
from cinder.model.parts import part_key

SHOWN = 40
WHAT = ("room", "window", "door", "radiator")
HOWS = ("measured", "read", "told", "inferred", "assumed")
_STEP = re.compile(r"([RLrl])\s*(\d+(?:[.,]\d+)?)?")


def read(data: bytes) -> list[tuple[int, Row]]:
    """Rows with their numbers as the spreadsheet shows them, from CSV or XLSX.

    Raises `TooLarge`, `MalformedJson` (no readable table), `InvalidJob` (columns missing).
    """
    lines = cells_of(data, wide=len(COLUMNS) + 10, page="Survey")
    head = next((n for n, line in enumerate(lines) if "What" in line and "Room" in line), None)
    if head is None:
        raise InvalidJob(
            "The sheet has no heading with What and Room.",
            problems=(Problem("row 1", "the first row names the columns: " + ", ".join(COLUMNS)),),
        )
    names = lines[head]
    strange = [name for name in names if name and name not in COLUMNS]
    if strange:
        raise InvalidJob(
            "The sheet has columns we do not know.",
            problems=tuple(
                Problem(f"row {head + 1}", f"column {name!r} is not one of ours") for name in strange[:SHOWN]
            ),
        )
    out = []
    for n, line in enumerate(lines[head + 1 :], start=head + 2):
        row = {name: unguard(cell.strip()) for name, cell in zip(names, line, strict=False) if name}
        if any(row.values()):
            out.append((n, row))
    if len(out) > MAX_ROWS:
        raise TooLarge(f"The sheet has {len(out):,} rows; at most {MAX_ROWS:,} are taken.")
    return out


class _Reader:
    """Turns rows into rooms and emitters, gathering every problem with its row and column."""

    def __init__(self, job: Job, library: Library, by: str, at: str) -> None:
        self.job, self.library, self.by, self.at = job, library, by, at
        self.problems: list[Problem] = []
        self.rooms: dict[str, dict[str, Any]] = {}
        self.emitters: dict[str, dict[str, Any]] = {}
        self.constructions: set[str] = set()
        self.emitter_types: set[str] = set()
        self.names: dict[str, str] = {}
        self.beyonds: list[tuple[int, str, str, str, str]] = []

    def wrong(self, row: int, column: str, why: str, value: str = "") -> None:
        self.problems.append(Problem(f"row {row}, {column}", why, value or None))

    def length(self, row: int, cells: Row, column: str, *, zero: bool = False) -> float | None:
        text = cells.get(column, "")
        if not text:
            return None
        value = metres(text)
        if value is None or value < 0 or (value == 0 and not zero) or value > 200:
            self.wrong(row, column, "is no length we understand", text)
            return None
        return value

    def known(self, row: int, cells: Row, *fields: str) -> dict[str, Any]:
        how = cells.get("How", "").lower() or "told"
        if how not in HOWS:
            self.wrong(row, "How", f"use {', '.join(HOWS)}", how)
            how = "told"
        return {field: {"how": how, "via": "sheet", "by": self.by, "at": self.at} for field in fields}

    def room(self, row: int, cells: Row) -> None:
        name = cells.get("Room", "")
        if not name:
            return self.wrong(row, "Room", "a room needs its name")
        if name.lower() in self.names:
            return self.wrong(row, "Room", "stands twice in the sheet", name)
        key = new_id()
        self.names[name.lower()] = key
        room: dict[str, Any] = {"label": name[:200], "faces": {}, "air": {}, "known": {}, "walk": self.walk(row, cells)}
        room["pos"] = len(self.job.survey.rooms) + len(self.rooms)
        height = self.length(row, cells, "Height")
        if height is not None:
            room["height_m"] = height
        room["known"] = self.known(row, cells, *(["height_m"] if height else []), *(["walk"] if room["walk"] else []))
        room |= self.storey(row, cells) | self.use(row, cells)
        part = part_key(self.job.survey, None)
        if part is not None:
            room["part"] = part
        if cells.get("Note"):
            room["note"] = cells["Note"][:4000]
        x, y = (self.number(row, cells, column) for column in ("X", "Y"))
        if x is not None and y is not None:
            room["position"] = {"x_m": x, "y_m": y, "rotation_deg": self.number(row, cells, "Turned") or 0.0}
        for face, column in (("floor", "Floor"), ("ceiling", "Ceiling")):
            if cells.get(column):
                self.beyonds.append((row, column, key, face, cells[column]))
        for n, text in enumerate(cells.get("Walls", "").split(";")):
            if text.strip() and n < len(room["walk"]):
                self.beyonds.append((row, "Walls", key, room["walk"][n]["id"], text.strip()))
        self.rooms[key] = room

    def number(self, row: int, cells: Row, column: str) -> float | None:
        text = cells.get(column, "").replace(",", ".").replace("−", "-")
        if not text:
            return None
        try:
            value = float(text)
        except ValueError:
            self.wrong(row, column, "is no number", text)
            return None
        if not abs(value) < 1e4:
            self.wrong(row, column, "is out of reach", text)
            return None
        return value

    def storey(self, row: int, cells: Row) -> Row:
        text = cells.get("Storey", "")
        if not text:
            return {}
        for key, storey in self.job.survey.storeys.items():
            if text.lower() in (key.lower(), storey.label.lower()):
                return {"storey": key}
        labels = ", ".join(s.label or k for k, s in self.job.survey.storeys.items())
        self.wrong(row, "Storey", f"is no storey of this job ({labels})", text)
        return {}

    def use(self, row: int, cells: Row) -> Row:
        text = cells.get("Use", "")
        if not text:
            return {}
        uses = self.library.tables["standard"].room_uses
        for key, use in uses.items():
            if text.lower() in (key, use.label.lower()):
                return {"use": key}
        self.wrong(row, "Use", f"use {', '.join(uses)}", text)
        return {}

    def walk(self, row: int, cells: Row) -> list[dict[str, Any]]:
        text = cells.get("Walk", "")
        if not text:
            width, long = self.length(row, cells, "Width"), self.length(row, cells, "Length")
            if width is None and long is None:
                return []
            sides = (width, long, width, long)
            return [
                {"id": f"w{n + 1}", "turn_deg": 90.0} | ({"length_m": side} if side is not None else {})
                for n, side in enumerate(sides)
            ]
        runs: list[dict[str, Any]] = []
        for part in re.split(
            r"(?<=[RLrl])(?=\s)|(?<=[RLrl]\d)(?=\s)|(?<=[RLrl]\d\d)(?=\s)|(?<=[RLrl]\d\d\d)(?=\s)", text
        ):
            part = part.strip()
            if not part:
                continue
            turn = _STEP.search(part)
            length = metres(part[: turn.start()] if turn else part)
            if length is None or not 0 < length <= 200:
                self.wrong(row, "Walk", f"step {len(runs) + 1} is no length and turn", part)
                return []
            angle = float((turn.group(2) or "90").replace(",", ".")) if turn else 90.0
            if angle > 180:
                self.wrong(row, "Walk", f"step {len(runs) + 1} turns by more than 180 degrees", part)
                return []
            sign = -1.0 if turn and turn.group(1).lower() == "l" else 1.0
            runs.append({"id": f"w{len(runs) + 1}", "length_m": length, "turn_deg": sign * angle})
        if len(runs) > 60:
            self.wrong(row, "Walk", "has more than 60 walls", str(len(runs)))
            return []
        return runs

    def owner(self, row: int, cells: Row) -> tuple[str, dict[str, Any]] | None:
        name = cells.get("Room", "")
        key = self.names.get(name.lower())
        if key is None:
            self.wrong(row, "Room", "names no room above it in the sheet", name)
            return None
        return key, self.rooms[key]

    def opening(self, row: int, cells: Row, kind: str) -> None:
        found = self.owner(row, cells)
        if found is None:
            return
        _, room = found
        wall = cells.get("Wall", "") or "1"
        if not wall.isdigit() or not 1 <= int(wall) <= max(len(room["walk"]), 1):
            return self.wrong(row, "Wall", f"the room has {len(room['walk'])} walls", wall)
        if not room["walk"]:
            return self.wrong(row, "Wall", "the room has no walls yet", wall)
        out: dict[str, Any] = {"kind": kind, "label": cells.get("Name", "")[:200]}
        for column, field in (("Width", "width_m"), ("Height", "height_m")):
            value = self.length(row, cells, column)
            if value is not None:
                out[field] = value
        offset = self.length(row, cells, "X", zero=True)
        if offset is not None:
            out["offset_m"] = offset
        if cells.get("Type"):
            key = self.named(
                row, cells["Type"], {k: e.label for k, e in self.library.constructions.items() if e.element == kind}
            )
            if key:
                self.constructions.add(key)
                out["construction"] = key
        out["known"] = self.known(row, cells, "size", "construction")
        face: dict[str, Any] = room["faces"].setdefault(
            room["walk"][int(wall) - 1]["id"], {"openings": {}, "spans": {}}
        )
        out["pos"] = float(len(face["openings"]))
        face["openings"][new_id()] = out

    def radiator(self, row: int, cells: Row) -> None:
        found = self.owner(row, cells)
        if found is None:
            return
        key, _ = found
        spec: dict[str, Any] = {}
        text = cells.get("Type", "")
        watts = re.fullmatch(r"(\d+(?:[.,]\d+)?)\s*[wW]", text)
        if watts:
            spec = {"kind": "stated", "output_w": float(watts.group(1).replace(",", "."))}
        elif text:
            type_key = self.named(row, text, {k: e.label for k, e in self.library.emitter_types.items()})
            if type_key:
                self.emitter_types.add(type_key)
                spec = {"kind": "panel", "type": type_key}
        for column, field in (("Length", "length_m"), ("Height", "height_m")):
            value = self.length(row, cells, column)
            if value is not None:
                spec[field] = value
        emitter: dict[str, Any] = {"room": key, "label": cells.get("Name", "")[:200], "spec": spec}
        emitter["known"] = self.known(row, cells, "spec")
        emitter["pos"] = float(len(self.job.survey.emitters) + len(self.emitters))
        self.emitters[new_id()] = emitter

    def named(self, row: int, text: str, table: dict[str, str]) -> str | None:
        for key, label in table.items():
            if text.lower() in (key.lower(), label.lower()):
                return key
        self.wrong(row, "Type", f"is none of {', '.join(sorted(table))}", text)
        return None

    def beyond(self, row: int, column: str, text: str) -> dict[str, Any] | None:
        kind, _, name = (part.strip() for part in text.partition(":"))
        kind = kind.lower()
        if kind in ("outside", "heated", "ground") and not name:
            return {"kind": kind}
        survey = self.job.survey
        if kind == "room":
            key = self.names.get(name.lower()) or next(
                (k for k, r in survey.rooms.items() if r.label.lower() == name.lower()), None
            )
        else:
            group: dict[str, Any] = dict(survey.spaces if kind == "space" else survey.neighbours)
            group = group if kind in ("space", "neighbour") else {}
            key = next((k for k, e in group.items() if name.lower() in (k.lower(), e.label.lower())), None)
        if key is None:
            self.wrong(row, column, "names nothing that could lie beyond", text)
            return None
        return {"kind": kind, kind: key}

    def finish(self) -> None:
        for row, column, room, face, text in self.beyonds:
            beyond = self.beyond(row, column, text)
            if beyond is not None:
                entry: dict[str, Any] = self.rooms[room]["faces"].setdefault(face, {"openings": {}, "spans": {}})
                entry["spans"] = {"all": {"beyond": beyond}}


def changes(job: Job, data: bytes, library: Library, *, by: str, at: str) -> list[Operation]:
    """The operations that take a filled sheet into a job; nothing is changed here.

    Every value comes in as *told* unless its row says better. Raises `InvalidJob` with every problem by row and
    column; then nothing of the sheet is taken.
    """
    return changes_of(job, read(data), library, by=by, at=at)


def changes_of(job: Job, rows: list[tuple[int, Row]], library: Library, *, by: str, at: str) -> list[Operation]:
    """The same from the rows of `read`."""
    reader = _Reader(job, library, by, at)
    for number, cells in rows:
        what = cells.get("What", "").lower()
        if what == "room":
            reader.room(number, cells)
        elif what in ("window", "door"):
            reader.opening(number, cells, what)
        elif what == "radiator":
            reader.radiator(number, cells)
        else:
            reader.wrong(number, "What", f"use {', '.join(WHAT)}", cells.get("What", ""))
    reader.finish()
    if reader.problems:
        count = len(reader.problems)
        raise InvalidJob(
            f"The sheet has {count} {'problems' if count > 1 else 'problem'}.",
            problems=tuple(reader.problems[:SHOWN]), kept="Nothing of it was taken.",
        )  # fmt: skip
    if not reader.rooms:
        raise InvalidJob("The sheet names no room.", kept="Nothing of it was taken.")
    copies = job.library
    added: dict[str, Any] = {
        f"/library/constructions/{key}": freeze(library.constructions[key])
        for key in sorted(reader.constructions - set(copies.constructions))
    }
    for key in sorted(reader.emitter_types - set(copies.emitter_types)):
        added[f"/library/emitter_types/{key}"] = freeze(library.emitter_types[key])
    added |= {f"/survey/rooms/{key}": room for key, room in reader.rooms.items()}
    added |= {f"/survey/emitters/{key}": one for key, one in reader.emitters.items()}
    return [{"op": "add", "path": path, "value": value} for path, value in added.items()]
