"""The survey sheet: one table, a row for each room, window, door or radiator; CSV or XLSX, out, printed and back in.

Lengths are metres or what `lengths` understands. `Walk` is "4.2 R 3.1 R 4.2 R 3.1" (R right, L left, or R60 an angle);
a rectangle needs only Width and Length. `Walls` says what lies beyond each wall in turn.
"""

from __future__ import annotations

import csv
import io
import re
from typing import Any

from cinder.model import Job, Room

COLUMNS = ("What", "Room", "Storey", "Use", "Name", "Type", "Height", "Width", "Length", "Walk", "Wall", "Walls",
           "Floor", "Ceiling", "X", "Y", "Turned", "How", "Note")  # fmt: skip
RISKY = re.compile(r"[\t\r\n]|\s*[=+\-@＝＋－＠﹦﹢﹣﹫]")
"""Beginnings a spreadsheet may take for a formula: also in full width, and after blanks or a line break."""
Row = dict[str, str]


def guard(text: str) -> str:
    """A text cell no spreadsheet will run as a formula."""
    return f"'{text}" if RISKY.match(text.lstrip("'")) else text


def unguard(text: str) -> str:
    """The text as it was before `guard`."""
    return text[1:] if text.startswith("'") and RISKY.match(text.lstrip("'")) else text


def _metres(value: float | None) -> str:
    return "" if value is None else f"{value:.3f}"


def rows(job: Job) -> list[Row]:
    """The job's rooms as sheet rows, in their order."""
    out: list[Row] = []
    storeys = job.survey.storeys
    for key, room in sorted(job.survey.rooms.items(), key=lambda item: (item[1].pos, item[0])):
        name = room.label or key
        place = room.position
        out.append(
            {
                "What": "room", "Room": guard(name),
                "Storey": guard(storeys[room.storey].label or room.storey) if room.storey else "",
                "Use": room.use or "", "Height": _metres(room.height_m), **_walk_cells(room),
                "Walls": _walls_cell(job, room), "Floor": _beyond_cell(job, room, "floor"),
                "Ceiling": _beyond_cell(job, room, "ceiling"),
                "X": _metres(place.x_m if place else None), "Y": _metres(place.y_m if place else None),
                "Turned": f"{place.rotation_deg:g}" if place else "",
                "How": room.known["walk"].how if "walk" in room.known else "", "Note": guard(room.note),
            }
        )  # fmt: skip
        for number, run in enumerate(room.walk, start=1):
            face = room.faces.get(run.id)
            for _, opening in sorted(face.openings.items(), key=lambda i: (i[1].pos, i[0])) if face else ():
                how = opening.known["size"].how if "size" in opening.known else ""
                out.append(
                    {
                        "What": opening.kind, "Room": guard(name), "Name": guard(opening.label),
                        "Type": opening.construction or "", "Width": _metres(opening.width_m),
                        "Height": _metres(opening.height_m), "Wall": str(number), "X": _metres(opening.offset_m),
                        "How": how,
                    }
                )  # fmt: skip
        for _, emitter in sorted(job.survey.emitters.items(), key=lambda i: (i[1].pos, i[0])):
            spec = emitter.spec
            if emitter.room != key or spec.kind not in ("panel", "stated"):
                continue  # what has pipes or a fan is no row of a survey sheet; the schedule has it
            stated = f"{spec.output_w:g} W" if spec.kind == "stated" and spec.output_w else ""
            out.append(
                {
                    "What": "radiator", "Room": guard(name), "Name": guard(emitter.label),
                    "Type": stated or spec.type or "", "Length": _metres(spec.length_m),
                    "Height": _metres(spec.height_m),
                    "How": emitter.known["spec"].how if "spec" in emitter.known else "",
                }
            )  # fmt: skip
    return out


def _walk_cells(room: Room) -> Row:
    walk = room.walk
    square = len(walk) == 4 and all(run.turn_deg == 90 and run.diagonal_m is None for run in walk)
    if square and walk[0].length_m == walk[2].length_m and walk[1].length_m == walk[3].length_m:
        return {"Width": _metres(walk[0].length_m), "Length": _metres(walk[1].length_m)}
    words = []
    for run in walk:
        side = "R" if run.turn_deg >= 0 else "L"
        angle = "" if abs(run.turn_deg) == 90 else f"{abs(run.turn_deg):g}"
        words.append(f"{_metres(run.length_m) or '?'} {side}{angle}")
    return {"Walk": " ".join(words)}


def _beyond_cell(job: Job, room: Room, face_key: str) -> str:
    face = room.faces.get(face_key)
    beyond = next((s.beyond for _, s in sorted(face.spans.items()) if s.beyond), None) if face else None
    if beyond is None:
        return ""
    if beyond.room is not None:
        return guard(f"room: {job.survey.rooms[beyond.room].label or beyond.room}")
    named = beyond.space or beyond.neighbour
    return f"{beyond.kind}: {named}" if named else beyond.kind


def _walls_cell(job: Job, room: Room) -> str:
    cells = [_beyond_cell(job, room, run.id) for run in room.walk]
    return "; ".join(cells) if any(cells) else ""


def to_csv(job: Job) -> bytes:
    """The sheet as CSV, UTF-8 with a byte-order mark so that spreadsheets read it right."""
    out = io.StringIO()
    writer = csv.DictWriter(out, COLUMNS, restval="", lineterminator="\r\n")
    writer.writeheader()
    writer.writerows(rows(job))
    return out.getvalue().encode("utf-8-sig")


def to_xlsx(job: Job | None, *, blank_rows: int = 0) -> bytes:
    """The sheet as XLSX; without a job an empty one to print and fill."""
    from openpyxl import Workbook
    from openpyxl.styles import Font, PatternFill

    book = Workbook()
    sheet = book.active
    sheet.title = "Survey"
    sheet.append(list(COLUMNS))
    for cell in sheet[1]:
        cell.font = Font(bold=True)
        cell.fill = PatternFill("solid", fgColor="E4E8E6")
    for row in rows(job) if job else []:
        sheet.append([_cell(row.get(name, "")) for name in COLUMNS])
    for _ in range(blank_rows):
        sheet.append([""] * len(COLUMNS))
    for letter, width in zip(
        "ABCDEFGHIJKLMNOPQRS", (9, 18, 14, 11, 16, 18, *[9] * 3, 30, 6, 30, 12, 14, *[8] * 3, 10, 24), strict=True
    ):
        sheet.column_dimensions[letter].width = width
    sheet.freeze_panes = "C2"
    sheet.page_setup.orientation = "landscape"
    sheet.page_setup.fitToWidth = 1
    sheet.page_setup.fitToHeight = 0
    sheet.sheet_properties.pageSetUpPr.fitToPage = True
    help_sheet = book.create_sheet("How to fill it")
    for line in HELP:
        help_sheet.append([line])
    help_sheet.column_dimensions["A"].width = 110
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


HELP = (
    "One row for each thing. What: room, window, door or radiator; a window, door or radiator names its room.",
    "Lengths: 4.2, 4200, 4200mm or 13' 9 3/8\". A bare whole number of 100 or more is millimetres.",
    "A rectangle needs Width and Length. Any other room: Walk, clockwise, e.g. 4.2 R 3.1 R 4.2 R 3.1 (R60: by 60 degrees).",
    "Radiators only: heated floors, fan units and heaters of their own are recorded in the application.",
    "Wall: the number of the wall a window or door is in, counted along the walk. X: its distance from the wall's start.",
    "Walls: beyond each wall in turn, parted by semicolons: outside; heated; ground; room: Hall; space: loft; neighbour: n1.",
    "How: measured, read, told, inferred or assumed. Empty means told, until somebody confirms it.",
)


def _cell(text: str) -> Any:
    return float(text) if re.fullmatch(r"-?\d+(\.\d+)?", text) else text
