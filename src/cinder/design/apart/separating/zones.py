"""Zones: rooms that open and close together, what the machine does when one alone calls, and which of them holds the water up."""

from __future__ import annotations

import numpy as np

from cinder.design.apart.separating.result import ZoneRow, ZonesFound
from cinder.design.hydraulics.volume import BAND_K, MILD_C, RUN_MINUTES
from cinder.design.judgement import trial
from cinder.design.losses.result import RoomResult
from cinder.design.machine.result import chosen_of
from cinder.design.result import Design
from cinder.model import Job
from cinder.physics.flow.fluid import Fluid
from cinder.physics.flow.separation import carried_w_k

OPEN = "open"


def zones_of(job: Job, design: Design, fluid: Fluid) -> ZonesFound:
    """The scheme's zones; where it names none, every room whose valves close is one, and the open rooms together are another."""
    scheme = job.schemes.get(job.active_scheme or "")
    named = scheme.zones if scheme else {}
    rooms = {room.id: room for room in design.rooms if room.room_share_of_house_w is not None and room.emitters}
    groups: list[tuple[str, str, list[str], bool]] = []
    taken: set[str] = set()
    for key, zone in sorted(named.items(), key=lambda item: (item[1].pos, item[0])):
        groups.append((key, zone.label or "A zone", [r for r in zone.rooms if r in rooms], zone.mixed))
        taken |= set(zone.rooms)
    rest = [key for key in rooms if key not in taken]
    loose = [key for key in rest if not all(one.closes for one in rooms[key].emitters)]
    if loose:
        groups.append((OPEN, "the rooms that stay open", loose, False))
    groups += [(f"room:{key}", rooms[key].label, [key], False) for key in rest if key not in loose]
    least = _at_mild(design, least=True)
    part = _part(design)
    rows = [
        _row(design, key, label, [rooms[r] for r in held], mixed, least, part, fluid)
        for key, label, held, mixed in groups
        if held
    ]
    return _found(job, design, rows, least)


def _at_mild(design: Design, *, least: bool) -> float | None:
    row, machines = chosen_of(design.machine), design.machine
    if row is None or row.least_w is None or not machines.outdoor_c:
        return None
    return float(np.interp(MILD_C, machines.outdoor_c, row.least_curve_w if least else machines.season_load_w))


def _part(design: Design) -> float:
    """What the house asks for in mild air, of what it asks for on the design day."""
    machines, loss = design.machine, design.house.loss_w
    if not machines.outdoor_c or not loss:
        return 0.0
    return float(np.interp(MILD_C, machines.outdoor_c, machines.season_load_w)) / loss


def _row(
    design: Design,
    key: str,
    label: str,
    held: list[RoomResult],
    mixed: bool,
    least: float | None,
    part: float,
    fluid: Fluid,
) -> ZoneRow:
    own = {p.emitter: p.water_l for p in design.pipework.pipes if p.emitter}
    litres = sum((e.water_l or 0.0) + own.get(e.id, 0.0) for room in held for e in room.emitters)
    # what always goes round with it: the machine, its primaries, what lies between
    shared = design.volume.machine_l + design.volume.volumiser_l + design.volume.separator_l
    shared += sum(p.water_l for p in design.pipework.pipes if p.parent is None and p.emitter is None)
    load = sum(room.room_share_of_house_w or 0.0 for room in held)
    mild = max(load * part, 0.0)
    needs = [room.needed_flow_c for room in held if room.needed_flow_c is not None]
    top = design.waterline.needed_flow_c
    needed = max(needs) if needs else None
    run = starts = None
    if least is not None and least > mild:
        held_j = carried_w_k(flow_lph=3600.0, fluid=fluid) * (litres + shared) * BAND_K
        on = held_j / (least - mild)
        run = on / 60
        starts = 3600 / (on + held_j / mild) if mild > 0 else None
    return ZoneRow(
        key=key, label=label, rooms=[room.label for room in held], mixed=mixed, design_w=load, mild_w=mild, litres=litres + shared,
        needed_c=needed, holds=bool(needed is not None and top is not None and needed > top - 0.05), run_minutes=run,
        starts_per_h=starts,
    )  # fmt: skip


def _found(job: Job, design: Design, rows: list[ZoneRow], least: float | None) -> ZonesFound:
    words, without, label, season = [], None, "", None
    known = sorted((row for row in rows if row.needed_c is not None), key=lambda row: -(row.needed_c or 0.0))
    chosen = design.waterline.chosen_flow_c
    if len(known) > 1 and chosen is not None and (known[0].needed_c or 0.0) - (known[1].needed_c or 0.0) >= 1.0:
        without, label = known[1].needed_c, known[0].label
        if without is not None and design.season.performance is not None:
            season = trial(_at(job, max(float(np.ceil(without - 1e-9)), 25.0))).season.performance
        words.append(
            (
                f"The rooms that stay open hold the water up: without them {without:.0f} °C would do. "
                if known[0].key == OPEN
                else f"{label[:1].upper()}{label[1:]} holds the water up: without it {without:.0f} °C would do. "
            )
            + "Larger emitters there cost less than a machine that runs hot for all of them."
        )
    mixed = [row for row in rows if row.mixed]
    for row in mixed:
        if row.needed_c is not None and chosen is not None and chosen - row.needed_c < 3.0:
            words.append(
                f"{row.label[:1].upper()}{row.label[1:]} needs {row.needed_c:.0f} °C, hardly less than the {chosen:.0f} °C of all: its blending "
                "valve and pump can go."
            )
        elif row.needed_c is not None and chosen is not None:
            words.append(
                f"{row.label[:1].upper()}{row.label[1:]} is blended down from {chosen:.0f} to {row.needed_c:.0f} °C: the machine pays for the "
                "hotter water all the same."
            )
    short = [row for row in rows if row.run_minutes is not None and row.run_minutes < RUN_MINUTES and row.key != OPEN]
    if short and least is not None:
        names = ", ".join(row.label for row in short[:3]) + (" and others" if len(short) > 3 else "")
        words.append(
            f"Alone, {names} cannot carry the {least / 1000:.1f} kW the machine gives at least: join zones, or leave valves open."
        )
    return ZonesFound(
        rows=rows, mild_c=MILD_C, least_w=least, without_c=without, without_label=label, without_season=season,
        season=design.season.performance, words=words,
    )  # fmt: skip


def _at(job: Job, flow_c: float) -> Job:
    key = job.active_scheme or ""
    changed = job.schemes[key].model_copy(update={"flow_c": flow_c})
    return job.model_copy(update={"schemes": {**job.schemes, key: changed}})
