"""One circuit or two: every way through the whole chain, which of them the figures speak for, and what would change that."""

from __future__ import annotations

import math
from dataclasses import dataclass

from cinder.design.apart.separating.result import Need, OpenEmitter, SeparatingFound, Variant, ZonesFound
from cinder.design.apart.separating.zones import zones_of
from cinder.design.house import water
from cinder.design.hydraulics.volume import DEFROST_DROP_K, DEFROST_MINUTES, RUN_MINUTES
from cinder.design.judgement import design as judged
from cinder.design.kept import Kept
from cinder.design.result import Design
from cinder.design.separation.decide import LABELS, USUAL_BUFFER_L
from cinder.library import PlantPartEntry, load
from cinder.model import Job
from cinder.model.scheme import Separation

STEP_L = 10.0
STAYS_OPEN = ("living", "kitchen", "dining", "hall", "landing", "bathroom", "bath")
"""Uses in which emitters usually stay open (common practice)."""
GIVES = {
    "direct": "the machine's water as it is, one pump, the best season",
    "volumiser": "more open water at once, nothing mixed",
    "header": "two flows that do not disturb each other, in little space",
    "buffer 2": "the house first, the vessel takes what is over; nothing mixed in layers",
    "buffer 3": "the flow goes to the house first, the vessel takes the rest",
    "buffer 4": "two flows wholly apart, a defrost that the rooms do not feel",
}
TAKES = {
    "direct": "pump and open water must both suffice",
    "volumiser": "a place in the return",
    "header": "adds no water; both flows must be set to each other",
    "buffer 2": "a second pump; valves that close leave the machine the vessel alone",
    "buffer 3": "a second pump; some stirring",
    "buffer 4": "a second pump; the machine runs hotter by what is stirred",
}


@dataclass(frozen=True, slots=True)
class Tried:
    """A way, and the Design it makes."""

    key: str
    separation: Separation
    design: Design


def judge(job: Job, design: Design, parts: dict[str, PlantPartEntry], kept: Kept | None = None) -> SeparatingFound:
    """Every way to lay out the water of a scheme."""
    scheme = job.schemes.get(job.active_scheme or "")
    zones = zones_of(job, design, water.of(scheme, design.house.outdoor_c))
    if scheme is None or design.pipework.index_kpa is None or design.volume.open_l is None:
        lacks = (
            "As found there is nothing to lay out: choose a scheme at the top left."
            if scheme is None
            else "A machine, and one whole circuit from it to an emitter: then the ways to lay it out are compared."
        )
        return SeparatingFound(
            sentence=lacks, lacks=lacks, variants=[], best="", reasons=[], changes=[], needs=_needs(design),
            opens=_opens(job, design), zones=zones, notes=[],
        )  # fmt: skip
    kept, now = kept or Kept(), scheme.separation
    direct = _tried(job, "direct", Separation(bypass=now.bypass), kept)
    wants = direct.design.volume.wants_l or 0.0
    tried = [direct]
    volumiser = max(math.ceil(wants / STEP_L) * STEP_L, now.volumiser_l or 0.0)
    if volumiser:
        tried.append(_tried(job, "volumiser", Separation(volumiser_l=volumiser, bypass=now.bypass), kept))
    buffer = now.buffer_l if now.buffer_l is not None else max(math.ceil(wants / STEP_L) * STEP_L, USUAL_BUFFER_L)
    for kind in ("header", "buffer 2", "buffer 3", "buffer 4"):
        if kind == now.kind:  # the one that is chosen stands as it is
            tried.append(_tried(job, kind, now, kept))
            continue
        way = now.model_copy(
            update={"kind": kind, "buffer_l": None if kind == "header" else buffer, "volumiser_l": None}
        )
        one = _tried(job, kind, way, kept)
        if way.pump is None and (one.design.pipework.head_used or 2.0) > design.pipework.limit:
            one = _tried(job, kind, way.model_copy(update={"pump": _stronger()}), kept)
        tried.append(one)
    rows = [_row(one, now, tried[0], parts, design.pipework.limit) for one in tried]
    best, reasons = _best(rows, tried, zones)
    return SeparatingFound(
        sentence=_sentence(rows, best), lacks="", variants=rows, best=best, reasons=reasons,
        changes=_changes(rows, tried), needs=_needs(design), opens=_opens(job, design), zones=zones, notes=_notes(job, rows),
    )  # fmt: skip


def _stronger() -> str:
    """The strongest class of pump there is."""
    return max(load().pumps.values(), key=lambda one: one.head_kpa[0]).id


def with_separation(job: Job, separation: Separation) -> Job:
    """The job with another separation in the scheme shown."""
    key = job.active_scheme or ""
    changed = job.schemes[key].model_copy(update={"separation": separation})
    return job.model_copy(update={"schemes": {**job.schemes, key: changed}})


def _tried(job: Job, key: str, separation: Separation, kept: Kept) -> Tried:
    return Tried(key, separation, judged(with_separation(job, separation), kept))


def _row(one: Tried, now: Separation, direct: Tried, parts: dict[str, PlantPartEntry], limit: float) -> Variant:
    found, way, pipes = one.design.separation, one.separation, one.design.pipework
    flow, spread = one.design.waterline.chosen_flow_c, one.design.waterline.spread_k
    season, plain = one.design.season.performance, direct.design.season.performance
    back = flow - spread if flow is not None else None
    machine = flow + found.lift_k if flow is not None else None
    same = way.kind == now.kind and (way.kind != "direct" or bool(way.volumiser_l) == bool(now.volumiser_l))
    hours = one.design.season.heating_hours
    machine_back = None
    if machine is not None and found.machine_lph and found.emitters_lph:
        machine_back = machine - spread * found.emitters_lph / found.machine_lph
    return Variant(
        key=one.key, label="a volumiser in the return" if one.key == "volumiser" else LABELS[way.kind], chosen=same,
        volumiser_l=way.volumiser_l or 0.0, buffer_l=found.vessel_l, pump=found.pump, pump_label=found.pump_label,
        open_l=one.design.volume.open_l, need_l=one.design.volume.need_l, index_kpa=pipes.index_kpa, head_kpa=pipes.head_kpa,
        head_used=pipes.head_used, primary_used=pipes.primary.used if pipes.primary else None,
        machine_lph=found.machine_lph, emitters_lph=found.emitters_lph, lift_k=found.lift_k,
        layered_k=found.layered_k, stirred_k=found.stirred_k, machine_flow_c=machine, machine_return_c=machine_back,
        flow_c=flow, return_c=back, season=season, season_change=season / plain - 1 if season and plain else None,
        pump_kwh=found.pump_w * hours / 1000 if hours is not None else None,
        cost_minor=sum(parts[key].price_minor(size=size) for key, size in bought(one.key, way, found.vessel_l)),
        lacks=_lacks(one, limit), gives=GIVES[one.key], takes=TAKES[one.key],
    )  # fmt: skip


def bought(key: str, way: Separation, vessel_l: float) -> list[tuple[str, float]]:
    """The parts a way needs beyond one circuit, with their litres."""
    out: list[tuple[str, float]] = []
    if key == "volumiser":
        out.append(("volumiser", way.volumiser_l or 0.0))
    if way.kind == "header":
        out.append(("header", 0.0))
    if way.kind.startswith("buffer"):
        out.append(("buffer", vessel_l))
    if way.kind != "direct":
        out += [("second-pump", 0.0), ("buffer-vent", 0.0), ("flow-sensor", 0.0)]
        if way.bypass:
            out.append(("bypass", 0.0))
    return out


def _lacks(one: Tried, limit: float) -> list[str]:
    out, pipes, water = [], one.design.pipework, one.design.volume
    who = "the second pump" if one.design.separation.two else "the machine's pump"
    if pipes.head_kpa is not None and pipes.index_kpa is not None and pipes.index_kpa > pipes.head_kpa:
        out.append(f"{who} is {pipes.index_kpa - pipes.head_kpa:.0f} kPa short")
    elif pipes.head_used is not None and pipes.head_used > limit:
        out.append(f"{who} runs at {pipes.head_used:.0%} of its head")
    if pipes.primary is not None and pipes.primary.used is not None and pipes.primary.used > limit:
        out.append("the machine's own side takes too much of its pump")
    if water.wants_l:
        out.append(f"{water.wants_l:.0f} L of open water too little")
    season = one.design.machine.rows
    if any(row.chosen and not row.inside for row in season):
        out.append("the machine does not make water that hot")
    return out


def _best(rows: list[Variant], tried: list[Tried], zones: ZonesFound) -> tuple[str, list[str]]:
    """The cheapest in the season of those that do all of it; where none does, the one that lacks least."""
    able = [row for row in rows if not row.lacks]
    ranked = sorted(able or rows, key=lambda row: (len(row.lacks), -(row.season or 0.0), row.cost_minor))
    best, direct = ranked[0], rows[0]
    reasons = []
    if best.head_used is not None:
        whose = "the second pump" if best.pump else "the machine's pump"
        reasons.append(f"{whose[:1].upper()}{whose[1:]} gives the flow at {best.head_used:.0%} of its head.")
    if best.open_l is not None and best.need_l is not None:
        reasons.append(f"{best.open_l:.0f} L are always open; {best.need_l:.0f} L are wanted.")
    if best.key != "direct" and direct.lacks:
        reasons.append(f"Direct, {' and '.join(direct.lacks)}.")
    if best.key == "direct":
        for other in rows[1:]:
            if other.season_change is not None and other.season_change < -0.005:
                reasons.append(f"With {other.label} the season would be {-other.season_change:.1%} worse.")
                break
    small = [row for row in zones.rows if row.run_minutes is not None and row.run_minutes < RUN_MINUTES]
    if small:
        shortest = min(small, key=lambda row: row.run_minutes or 0.0)
        reasons.append(
            f"When {shortest.label} alone calls at {zones.mild_c:g} °C, the machine runs {shortest.run_minutes:.0f} minutes at a time: "
            "leave rooms open, or give it more water."
        )
    if not able:
        reasons.append("None of the ways does all of it as the pipes lie: look at what would leave the pump more room.")
    return best.key, reasons


def _changes(rows: list[Variant], tried: list[Tried]) -> list[str]:
    """What would turn the decision, in figures of this house."""
    direct, out = tried[0].design, []
    water, pipes = direct.volume, direct.pipework
    if water.open_l is not None and water.need_l is not None:
        over = water.open_l - water.need_l
        out.append(
            f"Direct running keeps enough water until {over:.0f} L more are put behind closing valves."
            if over > 0
            else f"{-over:.0f} L more that stay open, by valves taken off, and no volumiser is needed."
        )
    if pipes.head_kpa is not None and pipes.index_kpa is not None and pipes.head_used is not None:
        most = pipes.head_kpa * pipes.limit
        out.append(
            f"Its pump has room until the index circuit takes {most:.0f} kPa; it takes {pipes.index_kpa:.0f}."
            if pipes.index_kpa <= most
            else f"{pipes.index_kpa - most:.0f} kPa less in the index circuit, and its own pump does without a second."
        )
    for row in rows:
        if row.key == "buffer 4" and row.stirred_k > 0:
            out.append(
                f"A buffer on four connections costs {row.layered_k:.1f} K while it keeps its layers and {row.stirred_k:.1f} K stirred "
                f"through; {row.lift_k:.1f} K are counted."
            )
    return out


def _sentence(rows: list[Variant], best: str) -> str:
    row = next(one for one in rows if one.key == best)
    said = f"The figures speak for **{row.label}**"
    if row.head_used is not None and row.open_l is not None:
        said += f": the pump at {row.head_used:.0%} of its head, {row.open_l:.0f} L always open"
        said += f" of {row.need_l:.0f} wanted" if row.need_l is not None else ""
    chosen = next((one for one in rows if one.chosen), None)
    if chosen is not None and chosen.key != best:
        lost = chosen.season_change if chosen.season_change is not None else 0.0
        said += f". Chosen is {chosen.label}" + (f", {-lost:.1%} off the season" if lost < -0.0005 else "")
    return said + "."


def _needs(design: Design) -> list[Need]:
    water = design.volume
    machine = water.need_why.startswith("least volume")
    return [
        Need(key="maker", label="By its maker", litres=water.need_l if machine else None, why=water.need_why if machine else "not stated"),
        Need(
            key="defrost", label="To defrost", litres=water.defrost_l,
            why=f"{DEFROST_MINUTES:g} min of its output, the water {DEFROST_DROP_K:g} K cooler (our choice)",
        ),
        Need(
            key="cycling", label="Not to run on and off", litres=water.cycling_l,
            why=f"{RUN_MINUTES:g} min at its least output in air of {water.cycling_at_c:g} °C, what the house takes off it (our choice)",
        ),
        Need(key="rule", label="By the rule of thumb", litres=water.rule_l, why="about 20 L for each kW (common practice)"),
    ]  # fmt: skip


def _opens(job: Job, design: Design) -> list[OpenEmitter]:
    """Every wet emitter with its own water, the largest first."""
    own = {p.emitter: p.water_l for p in design.pipework.pipes if p.emitter}
    out = []
    for room in design.rooms:
        for one in room.emitters:
            if one.spread_k is None:
                continue
            usual = any(word in room.use for word in STAYS_OPEN)
            advice = "usually left open" if usual else "often closed"
            out.append(
                OpenEmitter(
                    emitter=one.id, room=room.id, label=f"{room.label}: {one.label}",
                    litres=(one.water_l or 0.0) + own.get(one.id, 0.0), open=not one.closes, valve_label=one.valve_label or "no valve",
                    advice=advice,
                )
            )  # fmt: skip
    return sorted(out, key=lambda row: -row.litres)


def _notes(job: Job, rows: list[Variant]) -> list[str]:
    out = ["The maker's manual decides which of these a machine may have."]
    if any(row.lift_k > 0 for row in rows):
        out.append("The controller measures the machine's water: its line is dialled higher by what a separator adds.")
    scheme = job.schemes.get(job.active_scheme or "")
    if scheme is not None and scheme.hot_water.volume_l:
        out.append(
            "The hot-water branch joins the return after a buffer, so that it never stirs it; the second pump stops meanwhile."
        )
    return out
