"""Papers for one reader each: the customer's page, the noise assessment, the electrician's sheet."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from cinder.design.apart.running.result import Running
from cinder.design.cautions import Caution, by_step
from cinder.design.house.water import glycol_share
from cinder.design.machine.electrics import VOLTS
from cinder.design.machine.result import PlaceResult
from cinder.exchange.report import curve_svg, pipes_svg, plant_svg
from cinder.exchange.report.day_svg import strip
from cinder.exchange.report.site_svg import site
from cinder.exchange.report.written import Material, written
from cinder.exchange.tables import schedule
from cinder.handover.offer import OfferVariant
from cinder.handover.offer.decide import worked_in
from cinder.library import MachineEntry
from cinder.model.imperial import Told
from cinder.physics.machine import sound

SETTLE = 3
"""Doubts told to a customer."""
CHANGES = 9


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
        place=place, loudest=loudest, fates=fates, bars=_bars(material, row), settle=material.doubts().causes[:SETTLE],
        drawn=site(material.job, material.design, place) if place else "",
        changes=[line for line in lines if line.fate != "stays"][:CHANGES], cool=cool,
        touched=worked_in(material.job, material.design), offered=_offered(material),
        cautions=by_step().get("machine", []),
    )  # fmt: skip


def _offered(material: Material) -> OfferVariant | None:
    """What the scheme on show is offered for: so that no two papers name two sums for one thing."""
    found, _ = material.offer()
    return next((one for one in found.variants if one.scheme == material.job.active_scheme and not one.lacks), None)


def noise(material: Material, *, for_print: bool = False) -> str:
    """How loud the chosen machine is at every window of the site, by both ways of judging, with its working."""
    place = _place(material)
    return written(
        "noise.html.j2", "Noise assessment", material, for_print=for_print, place=place, entry=_entry(material),
        drawn=site(material.job, material.design, place) if place else "",
        ears=material.job.site.receivers, others=[m for m in material.job.site.marks.values() if m.kind == "unit"],
        p=material.job.practice, directivity=sound.DIRECTIVITY, screened=sound.SCREENED_DB,
    )  # fmt: skip


def hot_water(material: Material, *, for_print: bool = False) -> str:
    """The store, its day, its place and how it is kept clean."""
    shown = next((day for day in material.water().days if day.key == "design"), None)
    return written(
        "hot_water.html.j2", "Hot water", material, for_print=for_print, strip=strip(shown) if shown else "",
        cautions=by_step().get("hot-water", []),
    )  # fmt: skip


def balancing(material: Material, *, for_print: bool = False) -> str:
    """Every circuit with the flow it wants and how far its lockshield is opened for it."""
    return written(
        "balancing.html.j2", "Balancing card", material, for_print=for_print, entry=_entry(material), cautions=by_step().get("pipework", []),
    )  # fmt: skip


STEERS = {
    "two_point": ("the cold point {k} up", "the mild point {k} up"),
    "slope": ("the slope one step up", "the level {k} up and the slope one step down"),
    "numbered": ("the next number up", "the line {k} up and the next number down"),
    "offset": ("nothing but the button: {k} up, and the mild end gets too warm", "the button {k} up"),
    "fixed": ("the temperature {k} up", "the temperature {k} up"),
}
"""What is turned where it is cold only in cold weather, and only in mild weather, by the kind of controller (common practice)."""
CARD_OUT_C = (-10.0, -5.0, 0.0, 5.0, 10.0, 15.0)


def curve_card(material: Material, *, for_print: bool = False) -> str:
    """One page beside the controller: what is dialled in, the water that should give, what to turn when it is not right."""
    curve = material.design.curve
    cold, mild = (said.format(k="1 K") for said in STEERS[curve.kind if not curve.lacks else "two_point"])
    all_of_it = {"slope": "the level 1 K up", "fixed": "the temperature 1 K up", "offset": "the button 1 K up"}
    ways = [
        ("Cold only in cold weather", f"Turn {cold}."),
        ("Cold only in mild weather", f"Turn {mild}."),
        ("Cold always", f"Turn {all_of_it.get(curve.kind, 'the whole line 1 K up')}."),
        ("Too warm", "The same the other way. A kelvin lower saves a little every day."),
        ("One room only", "Not the curve: its lockshield, its valve or its emitter."),
        ("Too warm in the sun", "Not the curve: a valve in that room."),
    ]
    waters = [
        (out, curve.line_c[curve.outdoor_c.index(out)])
        for out in CARD_OUT_C
        if curve.line_c and out in curve.outdoor_c and (curve.cold_out_c or out) - 5 <= out < curve.heating_limit_c
    ]
    rows = [row for row in (*curve.dial, *curve.limits) if row.key != "mild_out"]
    return written(
        "curve_card.html.j2", "Curve card", material, for_print=for_print, drawn=curve_svg.drawn(curve, Told(material.job.site.units == "feet")),
        entry=_entry(material), rows=rows, waters=waters, ways=ways, cautions=by_step().get("curve", []),
    )  # fmt: skip


def occupant(material: Material, *, for_print: bool = False) -> str:
    """One plain page for those who live there: what is normal, what to turn, what never to touch, whom to call."""
    return written(
        "occupant.html.j2", "Living with the heating", material, for_print=for_print, entry=_entry(material), found=material.guide(),
        cautions=[one for one in by_step().get("curve", []) if one.id in ("scalding", "cold-people", "freezing")],
    )  # fmt: skip


WHO = {
    "engineer": "the engineer", "electrician": "a licensed electrician", "refrigerant": "who holds the refrigerant certificate",
    "registered": "who is registered for the fuel", "second": "somebody who did not do the work",
}  # fmt: skip


def fire_up(material: Material, *, for_print: bool = False) -> str:
    """The commissioning record: every step as it was done, what was expected and found, what is off and why, what waits."""
    found = material.fire_up()
    groups = [
        (name, [one for one in found.steps if one.group == name])
        for name in dict.fromkeys(one.group for one in found.steps)
    ]
    seen: dict[str, Caution] = {c.id: c for one in found.steps for c in one.cautions}
    record = material.job.fire_up
    pictures = Counter(
        (one.item or "").removeprefix("fire-up.") for one in material.job.survey.photos.values() if one.item
    )
    return written(
        "fire_up.html.j2", "Commissioning record", material, for_print=for_print, entry=_entry(material), found=found, groups=groups, who=WHO,
        pictures=pictures, balance=found.balance, corrections=sorted(record.corrections.values(), key=lambda one: one.at),
        signatures=sorted(record.signatures.values(), key=lambda one: one.at), cautions=list(seen.values()),
    )  # fmt: skip


def controller(material: Material, *, for_print: bool = False) -> str:
    """What is wired to which terminal, and what was set: for the electrical file."""
    found = material.wiring()
    names = dict.fromkeys(one.circuit for one in found.points)
    circuits = [(name, [one for one in found.points if one.circuit == name]) for name in names]
    parameters = sorted(material.job.fire_up.controller.parameters.values(), key=lambda one: one.pos)
    return written(
        "controller.html.j2", "Controller record", material, for_print=for_print, entry=_entry(material), found=found, circuits=circuits,
        parameters=parameters, cautions=by_step().get("wiring", []),
    )  # fmt: skip


def hydraulic(material: Material, *, for_print: bool = False) -> str:
    """Pipes, the index circuit, open water, one circuit or two, frost, and the plant as a picture."""
    design = material.design
    by_id = {pipe.id: pipe for pipe in design.pipework.pipes}
    path, plant = design.pipework.circuits[0].path if design.pipework.circuits else [], material.plant()
    scheme = material.job.schemes.get(material.job.active_scheme or "")
    return written(
        "hydraulic.html.j2", "Hydraulic sheet", material, for_print=for_print, entry=_entry(material), index=[by_id[key] for key in path],
        pipes=pipes_svg.drawn(material.job, design, material.routes()), plant="" if plant.lacks else plant_svg.drawn(plant),
        share=glycol_share(scheme, design.house.outdoor_c), cautions=by_step().get("pipework", []),
    )  # fmt: skip


def materials(material: Material, *, for_print: bool = False) -> str:
    """What to buy, why, and what it costs."""
    rows = material.materials().rows
    groups = [
        (group, [one for one in rows if one.group == group]) for group in dict.fromkeys(one.group for one in rows)
    ]
    return written("materials.html.j2", "Materials", material, for_print=for_print, groups=groups)


def electrics(material: Material, *, for_print: bool = False) -> str:
    """What the machine asks of the supply, and what an electrician fills in."""
    entry = _entry(material)
    heater_a = entry.contains.heater_kw * 1000 / VOLTS if entry else 0.0
    return written(
        "electrics.html.j2", "For the electrician", material, for_print=for_print, entry=entry, place=_place(material),
        volts=VOLTS, supply=material.job.site.supply, sums=material.design.places.electrics, heater_a=heater_a,
        cautions=[one for one in by_step().get("machine", []) if one.id in ("electric", "refrigerant", "freezing")],
    )  # fmt: skip


def _chosen(material: Material) -> Running | None:
    return next((row for row in material.runs().rows if row.chosen), None)


def _entry(material: Material) -> MachineEntry | None:
    job = material.job
    scheme = job.schemes.get(job.active_scheme or "")
    candidate = scheme.candidates.get(scheme.chosen) if scheme and scheme.chosen else None
    return job.library.machines[candidate.machine].data if candidate else None


def _place(material: Material) -> PlaceResult | None:
    return next((one for one in material.design.places.places if one.chosen), None)


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
    present = material.runs().present
    spans = [(f"{present.label} today", present.cost_minor)] if present else []
    if row is not None:
        spans.append((row.label, row.cost_minor))
    most = max((span.high for _, span in spans), default=0.0) or 1.0
    return [
        Bar(
            label, span.low / most * 100, span.mid / most * 100, span.high / most * 100, span.low / 100, span.high / 100
        )
        for label, span in spans
    ]
