"""Heat-loss report: one template, two forms."""

from __future__ import annotations

from typing import Any

from cinder.design import Design
from cinder.design.apart.running.result import Running
from cinder.design.cautions import by_step
from cinder.design.explained import num
from cinder.design.fabric.result import Section
from cinder.design.fabric.section import section
from cinder.design.fabric.u_values import metal_bridged
from cinder.design.house.climate import RULES
from cinder.design.losses.result import RoomResult
from cinder.design.machine.result import CandidateResult
from cinder.exchange.report import plans
from cinder.exchange.report.written import Material, written
from cinder.exchange.tables import schedule
from cinder.model import Job, Known, Measure, Room
from cinder.model.imperial import Told

STEPS = ("rooms", "losses", "air", "measures", "emitters", "machine")
INSIDE_C = 20.0
CONTENTS = (
    ("plans", "On the plan"), ("rooms", "Rooms"), ("leaks", "Where it goes"), ("air", "Air, counted four ways"),
    ("doubts", "How sure it is"), ("year", "Through the year, and against the bill"), ("measures", "Measures"),
    ("emitters", "Emitter schedule"), ("machine", "The machine and its season"), ("place", "Where it stands"),
    ("method", "Method and schools"), ("inputs", "What it rests on"),
    ("cautions", "Cautions"), ("faces", "Every face"), ("builds", "How the constructions are built"),
)  # fmt: skip
"""Parts of the paper in their order: the anchor, and what stands in the list of contents."""
PARTS = (("fabric_w", "fabric"), ("ground_w", "ground"), ("bridges_w", "bridges"), ("air_w", "air"))


def html(material: Material, *, for_print: bool = False) -> str:
    """The report as one HTML page."""
    job, result = material.job, material.design
    drawn = plans.storeys(job, result, Told(job.site.units == "feet").amount)
    made = _measures(job, result)
    hung = schedule.scheduled(job, result)
    runs, place = _runs(material), next((one for one in result.places.places if one.chosen), None)
    there = {"plans": drawn, "measures": made, "emitters": hung, "machine": runs, "place": place}
    return written(
        "heat_loss.html.j2", "Heat loss", material, for_print=for_print,
        contents=[(key, name) for key, name in CONTENTS if there.get(key, True)], storeys=drawn,
        unplaced=[room.label for room in result.rooms if not room.placed],
        constructions=_constructions(material), sections=_sections(material),
        bars={room.id: _bar(room, result) for room in result.rooms}, parts=PARTS, measures=made, schedule=hung,
        cautions=_cautions(), inputs=_inputs(material), findings=result.findings,
        rooms=[room for room in result.rooms if room.room_emitter_load_w is not None],
        runs=runs, place=place,
        left_out=[room.label for room in result.rooms if room.room_emitter_load_w is None],
        neighbours=list(job.survey.neighbours.values()), known={key: _known(room) for key, room in job.survey.rooms.items()},
    )  # fmt: skip


def _runs(material: Material) -> list[tuple[CandidateResult, Running]]:
    """Every machine that is compared, with its year."""
    years = {one.id: one for one in material.runs().rows}
    return [(row, years[row.id]) for row in material.design.machine.rows if row.id in years]


def _known(room: Room) -> dict[str, str]:
    """How a room's measures are known."""

    def how(known: Known | None) -> str:
        return "assumed" if known is None else f"{known.how}{f' ({known.via})' if known.via else ''}"

    air = room.air.known.get("per_h")
    return {
        "walk": how(room.known.get("walk")),
        "height": how(room.known.get("height_m")),
        "air": how(air) if air else "",
    }


def _used(material: Material) -> dict[str, float]:
    """Area by construction over all faces and openings that lose heat, m2."""
    used: dict[str, float] = {}
    for leak in material.design.house.leaks:
        if leak.construction is not None:
            used[leak.construction] = leak.area_m2 or 0.0
    return used


def _constructions(material: Material) -> list[dict[str, Any]]:
    known = {cause.key.removeprefix("construction:"): cause.how for cause in material.doubts().causes}
    leaks = {leak.construction: leak for leak in material.design.house.leaks}
    out = []
    for key, area in _used(material).items():
        entry = material.job.library.constructions[key].data
        leak = leaks[key]
        out.append(
            {
                "label": entry.label, "age": entry.age, "area": area, "u": leak.u_w_m2k, "loss": leak.loss_w,
                "how": known.get(key, "–"), "source": entry.source, "metal": metal_bridged(entry),
                "origin": material.job.library.constructions[key].origin,
            }
        )  # fmt: skip
    return out


def _sections(material: Material) -> list[Section]:
    outside = material.design.house.outdoor_c
    entries = [material.job.library.constructions[key].data for key in _used(material)]
    return [
        section(entry, inside_c=INSIDE_C, outside_c=outside if outside is not None else 0.0)
        for entry in entries
        if entry.layers
    ]


def _bar(room: RoomResult, result: Design) -> list[dict[str, Any]]:
    """Shares of a room's bar, of the house's greatest room."""
    most = max((r.room_emitter_load_w or 0.0 for r in result.rooms), default=0.0) or 1.0
    return [{"name": name, "share": max(getattr(room, field) or 0.0, 0.0) / most * 100} for field, name in PARTS]


def _rule(job: Job, result: Design) -> str:
    if job.climate.design_c is not None:
        return "entered by hand"
    return RULES[job.climate.rule] if result.house.climate_label else ""


def _place(result: Design, measure: Measure) -> str:
    """The face or window a measure is at, in words."""
    for room in result.rooms:
        for face in room.faces:
            if room.id == measure.room and face.key == measure.face:
                opening = next((o.label for o in face.openings if o.id == measure.opening), "")
                return f"{room.label}: {(opening or face.label).lower()}"
    return measure.kind


def _measures(job: Job, result: Design) -> list[dict[str, Any]]:
    scheme = job.schemes.get(job.active_scheme or "")
    rows = sorted(scheme.measures.items(), key=lambda item: item[1].pos) if scheme else []
    entries = job.library.constructions
    out = []
    for _, measure in rows:
        becomes = entries[measure.construction].data.label if measure.construction else ""
        what = measure.label or (
            f"n50 {measure.n50_per_h:g} per hour" if measure.n50_per_h else _place(result, measure)
        )
        out.append({"what": what, "becomes": becomes, "cost": measure.cost_minor})
    return out


def _cautions() -> list[Any]:
    found = {caution.id: caution for step in STEPS for caution in by_step().get(step, [])}
    return list(found.values())


def _inputs(material: Material) -> list[tuple[str, str, str]]:
    """What the figures rest on, and how each is known."""
    house, job = material.design.house, material.job
    how = [known.how for room in job.survey.rooms.values() for known in [room.known.get("walk")] if known]
    measured = sum(h == "measured" for h in how)
    rows = [
        ("Outside, design day", f"{num(house.outdoor_c)} °C", f"{house.climate_label}, {_rule(job, material.design)}"),
        ("Tightness n50", f"{num(house.n50_per_h)} per hour", house.n50_why),
        ("Envelope", f"{num(house.envelope_m2, 0)} m²", "from the walks"),
        ("Heated floor", f"{num(house.area_m2, 1)} m²", f"{measured} of {len(job.survey.rooms)} rooms measured"),
        ("Volume of air", f"{num(house.volume_m3, 0)} m³", "inside dimensions, room by room"),
    ]
    fans = job.survey.ventilation
    if fans.kind != "natural":
        known = fans.known.get("flow_m3h")
        rows.append(
            (
                "Ventilation",
                f"{fans.kind}, recovery {num((fans.recovery or 0) * 100, 0)} %",
                known.how if known else "assumed",
            )
        )
    return rows
