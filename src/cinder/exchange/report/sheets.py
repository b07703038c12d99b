"""Papers for one reader each: the customer's page, the noise assessment, the electrician's sheet."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from cinder.design.apart.running.result import Running
from cinder.design.cautions import by_step
from cinder.design.machine.result import PlaceResult
from cinder.exchange import schedule
from cinder.exchange.report.site_svg import site
from cinder.exchange.report.written import Material, written
from cinder.library import MachineEntry

SETTLE = 3
"""Doubts told to a customer."""
CHANGES = 9
VOLTS = 230.0


def customer(material: Material, *, for_print: bool = False) -> str:
    """What a heat pump would mean in this house, on one page for those who live in it."""
    row = _chosen(material)
    lines = schedule.scheduled(material.job, material.design)
    fates = Counter(line.fate for line in lines)
    place = _place(material)
    loudest = max(place.heard, key=lambda one: one.level_db, default=None) if place else None
    cool = [one for one in material.design.rooms if one.status == "short" and one.reached_c is not None]
    return written(
        "customer.html.j2", "What it would mean here", material, for_print=for_print, row=row, entry=_entry(material),
        place=place, loudest=loudest, fates=fates, bars=_bars(material, row), settle=material.doubts.causes[:SETTLE],
        drawn=site(material.job, material.design, place) if place else "",
        changes=[line for line in lines if line.fate != "stays"][:CHANGES], touched=_touched(material), cool=cool,
        cautions=by_step().get("machine", []), granted=[g for g in row.granted if not g.why] if row else [],
    )  # fmt: skip


def noise(material: Material, *, for_print: bool = False) -> str:
    """How loud the chosen machine is at every window of the site, by both ways of judging, with its working."""
    place = _place(material)
    return written(
        "noise.html.j2", "Noise assessment", material, for_print=for_print, place=place, entry=_entry(material),
        drawn=site(material.job, material.design, place) if place else "",
        ears=material.job.site.receivers, others=[m for m in material.job.site.marks.values() if m.kind == "unit"],
        p=material.job.practice,
    )  # fmt: skip


def electrics(material: Material, *, for_print: bool = False) -> str:
    """What the machine asks of the supply, and what an electrician fills in."""
    entry = _entry(material)
    heater_a = entry.contains.heater_kw * 1000 / VOLTS if entry else 0.0
    return written(
        "electrics.html.j2", "For the electrician", material, for_print=for_print, entry=entry, place=_place(material),
        supply=material.job.site.supply, sums=material.design.places.electrics, heater_a=heater_a,
        cautions=[one for one in by_step().get("machine", []) if one.id in ("electric", "refrigerant", "freezing")],
    )  # fmt: skip


def _chosen(material: Material) -> Running | None:
    return next((row for row in material.runs.rows if row.chosen), None)


def _entry(material: Material) -> MachineEntry | None:
    job = material.job
    scheme = job.schemes.get(job.active_scheme or "")
    candidate = scheme.candidates.get(scheme.chosen) if scheme and scheme.chosen else None
    return job.library.machines[candidate.machine].data if candidate else None


def _place(material: Material) -> PlaceResult | None:
    return next((one for one in material.design.places.places if one.chosen), None)


def _touched(material: Material) -> list[str]:
    """Rooms in which something is hung, taken down or built."""
    job, labels = material.job, {room.id: room.label for room in material.design.rooms}
    scheme = job.schemes.get(job.active_scheme or "")
    if scheme is None:
        return []
    rooms = [
        action.room or (job.survey.emitters[key].room if key in job.survey.emitters else None)
        for key, action in scheme.emitters.items()
        if action.action != "keep"
    ]
    rooms += [measure.room for measure in scheme.measures.values()]
    return sorted({labels[room] for room in rooms if room in labels})


@dataclass(frozen=True, slots=True)
class Bar:
    """A year's cost as part of the dearest, %."""

    label: str
    from_share: float
    mid_share: float
    to_share: float
    low: float
    high: float


def _bars(material: Material, row: Running | None) -> list[Bar]:
    spans = (
        [(f"{material.runs.present.label} today", material.runs.present.cost_minor)] if material.runs.present else []
    )
    if row is not None:
        spans.append((row.label, row.cost_minor))
    most = max((span.high for _, span in spans), default=0.0) or 1.0
    return [
        Bar(
            label, span.low / most * 100, span.mid / most * 100, span.high / most * 100, span.low / 100, span.high / 100
        )
        for label, span in spans
    ]
