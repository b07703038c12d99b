"""The emitter schedule: every emitter as it will be, with what it gives and its flow, as a table for the site."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass

from cinder.design import Design
from cinder.design.emitters.result import EmitterResult
from cinder.design.losses.result import RoomResult
from cinder.exchange.survey.sheet import guard
from cinder.model import Job

FATES = {"keep": "stays", "replace": "replaced", "add": "new"}
COLUMNS = (
    "Room", "Emitter", "What", "Fate", "Target degC", "Room load W", "Rated W", "Gives W", "At the line W", "Spread K",
    "Flow L/h", "Valve", "Water L", "Surface degC", "Limit degC", "Loops", "Loop m", "Loop kPa", "Fan W", "Costs", "Note",
)  # fmt: skip


@dataclass(frozen=True)
class ScheduledEmitter:
    """A row of the schedule; numbers None where there is none."""

    room: str
    emitter: str
    what: str
    fate: str
    target_c: float
    load_w: float | None = None
    rated_w: float | None = None
    gives_w: float | None = None
    at_line_w: float | None = None
    spread_k: float | None = None
    flow_lph: float | None = None
    valve: str = ""
    water_l: float | None = None
    surface_c: float | None = None
    limit_c: float | None = None
    loops: int | None = None
    loop_m: float | None = None
    loop_kpa: float | None = None
    fan_w: float | None = None
    cost: float | None = None
    note: str = ""

    def cells(self) -> list[str | float | int | None]:
        """In the order of the columns; numbers to the digit they are good for, text no spreadsheet runs."""
        digits = {
            "load_w": 0,
            "rated_w": 0,
            "gives_w": 0,
            "at_line_w": 0,
            "flow_lph": 0,
            "loop_m": 0,
            "fan_w": 0,
            "cost": 0,
        }
        out: list[str | float | int | None] = []
        for name in self.__dataclass_fields__:
            value = getattr(self, name)
            out.append(
                guard(value)
                if isinstance(value, str)
                else round(value, digits.get(name, 1))
                if value is not None
                else None
            )
        return out


def scheduled(job: Job, design: Design) -> list[ScheduledEmitter]:
    """Every emitter in the order of the rooms; those taken out in the scheme come last."""
    scheme = job.schemes.get(job.active_scheme or "")
    actions = scheme.emitters if scheme else {}
    costs = {key: action.cost_minor for key, action in actions.items()}
    out = [_line(room, one, costs.get(one.id)) for room in design.rooms for one in room.emitters]
    rooms = {room.id: room for room in design.rooms}
    for key, action in actions.items():
        emitter = job.survey.emitters.get(key)
        if action.action == "remove" and emitter is not None and emitter.room in rooms:
            room = rooms[emitter.room]
            cost = action.cost_minor / 100 if action.cost_minor is not None else None
            out.append(
                ScheduledEmitter(
                    room=room.label, emitter=emitter.label or "Radiator", what="", fate="taken out", target_c=room.target_c,
                    note=action.note, cost=cost,
                )
            )  # fmt: skip
    return out


def _line(room: RoomResult, one: EmitterResult, cost_minor: float | None) -> ScheduledEmitter:
    hot = one.heated
    note = f"x {one.factor:.2f}: {one.factor_words}" if one.factor < 1 else ""
    if room.status == "short" and room.reached_c is not None:
        note = "; ".join(part for part in (note, f"room reaches {room.reached_c:.1f} degC only") if part)
    return ScheduledEmitter(
        room=room.label, emitter=one.label, what=one.description, fate=FATES.get(one.action, one.action),
        target_c=room.target_c, load_w=room.room_emitter_load_w, rated_w=one.rated_w, gives_w=one.output_w,
        at_line_w=one.at_line_w, spread_k=one.spread_k, flow_lph=one.flow_lph, valve=one.valve_label,
        water_l=one.water_l or None, surface_c=hot.surface_most_c if hot else None, limit_c=hot.limit_c if hot else None,
        loops=hot.loops if hot else None, loop_m=hot.loop_m if hot else None, loop_kpa=hot.loop_kpa if hot else None,
        fan_w=one.electric_w or None, cost=cost_minor / 100 if cost_minor is not None else None, note=note,
    )  # fmt: skip


def to_csv(job: Job, design: Design) -> bytes:
    """The schedule as CSV, UTF-8 with a byte-order mark so that spreadsheets read it right."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for line in scheduled(job, design):
        writer.writerow(["" if cell is None else cell for cell in line.cells()])
    return out.getvalue().encode("utf-8-sig")


def to_xlsx(job: Job, design: Design) -> bytes:
    """The schedule as XLSX; a second sheet says what goes at the manifolds."""
    from openpyxl import Workbook
    from openpyxl.styles import Font, PatternFill

    book = Workbook()
    sheet = book.active
    sheet.title = "Emitters"
    sheet.append(list(COLUMNS))
    for line in scheduled(job, design):
        sheet.append(line.cells())
    for letter, width in zip("ABCDEFGHIJKLMNOPQRSTU", (18, 20, 34, 11, *[10] * 7, 24, *[9] * 8, 40), strict=True):
        sheet.column_dimensions[letter].width = width
    sheet.freeze_panes = "C2"
    sheet.page_setup.orientation = "landscape"
    sheet.page_setup.fitToWidth, sheet.page_setup.fitToHeight = 1, 0
    sheet.sheet_properties.pageSetUpPr.fitToPage = True
    hung = book.create_sheet("Manifolds")
    hung.append(["What", "Number", "Rooms", "Fate", "Why", "How"])
    for one in design.waterline.manifolds:
        hung.append(
            [guard(one.label), one.count, guard(", ".join(one.rooms)), one.fate, guard(one.why), guard(one.how)]
        )
    for letter, width in zip("ABCDEF", (28, 8, 26, 10, 60, 60), strict=True):
        hung.column_dimensions[letter].width = width
    for one in book.worksheets:
        for cell in one[1]:
            cell.font = Font(bold=True)
            cell.fill = PatternFill("solid", fgColor="E4E8E6")
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()
