"""The front: the cheapest set for every flow temperature with the season it gives, and what is lacking where there is none."""

from __future__ import annotations

import math
import time

import numpy as np

from cinder.design.apart.measures import Sun, other_glass
from cinder.design.apart.ways.cheapest import Cheapest
from cinder.design.apart.ways.choose import at
from cinder.design.apart.ways.options import FLOWS_C, YEARS, Chosen, HouseOptions, applied, options_of
from cinder.design.apart.ways.result import Change, Front, FrontPoint, Lacking
from cinder.design.apart.ways.shared import measure_pins
from cinder.design.apart.ways.way import Lists, Prices, Table
from cinder.design.explained import num
from cinder.design.judgement import design, trial
from cinder.design.losses.evaluate import loads
from cinder.design.machine.beside import bill_minor
from cinder.design.machine.result import SeasonResult
from cinder.library import HourlyYear
from cinder.model import Job
from cinder.patience import go_on

LONGEST_S = 15.0
"""Beyond this nobody waits for water cooler still (our choice): from 60 deg C down, what was not settled by then is left out."""
WALL_KINDS = ("panel", "stated", "fan")
"""Emitters that hang on a wall, so that a free wall beside them is worth knowing."""


def _point(found: HouseOptions, flow_c: float, until: float = math.inf) -> FrontPoint:
    if time.monotonic() > until:
        return _not_weighed(flow_c)
    chosen = at(found, flow_c, until=until)
    answer = chosen.answer
    if not answer.possible and not answer.proved and time.monotonic() > until:
        return _not_weighed(flow_c)
    if not answer.possible:
        return FrontPoint(
            flow_c=flow_c, possible=False, proved=answer.proved, gap=0.0, cost_minor=None, running_minor=0.0, season=None,
            bought_kwh=None, bill_minor=None, total_minor=None, needed_flow_c=None, changes=[],
            lacking=lacking(found, answer),
        )  # fmt: skip
    served = after = chosen.after or trial(applied(found, chosen, flow_c), found.kept)
    if any(way.to_c is not None for _, way in chosen.ways):  # a room kept cooler is no saving
        after = trial(applied(found, chosen, flow_c, concede=False), found.kept)
    needed = served.needed_flow_c
    less = _sun(found, chosen, flow_c)
    bill, bought = bill_minor(found.job, after.season), after.season.bought_kwh
    bill = bill + less.bill_minor if bill is not None else None
    bought = bought + less.bought_kwh if bought is not None else None
    return FrontPoint(
        flow_c=flow_c, possible=True, proved=answer.proved, gap=answer.gap, cost_minor=chosen.cost_minor,
        running_minor=chosen.yearly_minor, season=after.season.performance, bought_kwh=bought, bill_minor=bill,
        total_minor=chosen.cost_minor + YEARS * bill if bill is not None else None, needed_flow_c=needed,
        cycling_share=_share(after.season), changes=_changes(found, chosen), lacking=[],
    )  # fmt: skip


def _sun(found: HouseOptions, chosen: Chosen, flow_c: float) -> Sun:
    """What the panes of a set keep out, those the scheme has already with them."""
    parts, scheme = [found.tried[key] for key in chosen.shared], found.job.schemes[found.job.active_scheme or ""]
    if not other_glass(found.job, scheme.measures.values()) and not any(
        other_glass(found.job, one.measures, one.constructions) for one in parts
    ):
        return Sun()
    after = applied(found, chosen, flow_c, concede=False)
    return found.sun(after, design(after, found.kept))


def _not_weighed(flow_c: float) -> FrontPoint:
    return FrontPoint(
        flow_c=flow_c, possible=False, weighed=False, proved=False, gap=0.0, cost_minor=None, running_minor=0.0, season=None,
        bought_kwh=None, bill_minor=None, total_minor=None, needed_flow_c=None, changes=[], lacking=[],
    )  # fmt: skip


def _share(season: SeasonResult) -> float | None:
    """Part of the heating hours below the machine's least output."""
    if season.cycling_hours is None or not season.heating_hours:
        return None
    return season.cycling_hours / season.heating_hours


def _changes(found: HouseOptions, chosen: Chosen) -> list[Change]:
    rooms = found.house.rooms
    out = [
        Change(
            room=rooms[n].id, room_label=rooms[n].room.label, what=way.what, kind="concession" if way.to_c is not None else "way",
            cost_minor=0.0 if way.to_c is not None else way.cost_minor, yearly_minor=way.yearly_minor,
            disturbance=way.disturbance, looks=way.looks, refuse=way.groups[0], way=f"way:{way.key}",
        )
        for n, way in chosen.ways
    ]  # fmt: skip
    for key in chosen.shared:
        option = found.tried[key].option
        what = f"{option.label}{', ' + option.detail if option.detail else ''}"
        out.append(
            Change(room="", room_label="The house", what=what, kind="measure", cost_minor=option.cost_minor, yearly_minor=0.0,
                   disturbance=option.disturbance, looks=1, refuse=measure_pins(found.tried[key])[1],
                   way=f"measure:{option.key}")
        )  # fmt: skip
    return out


def lacking(found: HouseOptions, answer: Cheapest) -> list[Lacking]:
    """Rooms no known set serves, by how many watts, and what would make it possible."""
    scheme = found.job.schemes[found.job.active_scheme or ""]
    slope = loads(found.arrays, found.house.outdoor_c or 0.0).loss_per_k
    out = []
    for r, n in enumerate(found.served):
        short = min(float(answer.short_w[r]), float(found.load_w[n]))
        if short <= 0:
            continue
        room = found.house.rooms[n]
        mine = [one.id for one in found.house.emitters if one.room == room.id and one.spec.kind in WALL_KINDS]
        mends = []
        if float(answer.short_w[r]) > short:
            mend = "let go of the floor wished for here: its surface bears no such water"
            out.append(Lacking(room=room.id, label=room.room.label, short_w=short, mend=mend))
            continue
        if any(key.split(":")[-1] in (room.id, *mine) for key in scheme.refused):
            mends.append("allow what was refused here")
        unknown = [key for key in mine if (e := found.job.survey.emitters.get(key)) is not None and e.free_wall is None]
        if unknown:
            mends.append("record the free wall at its emitter")
        if f"electric:{room.id}" not in scheme.allowed:
            mends.append(f"allow a heater of its own, {np.ceil(short / 50) * 50:.0f} W")
        if slope[n] > 0 and room.id not in scheme.concessions:
            mends.append(f"accept about {room.target_c - short / float(slope[n]):.1f} °C")
        out.append(
            Lacking(room=room.id, label=room.room.label, short_w=short, mend=", or ".join(mends) or "warmer water")
        )
    return out


def front(job: Job, prices: Prices, table: Table, lists: Lists = (), weather: HourlyYear | None = None) -> Front:
    """The cheapest set for every whole flow temperature from 30 to 60 deg C, with the season it gives.

    Season by the chosen machine's own map at that water; the cost of 15 years without interest or rising prices.
    """
    return front_of(options_of(job, prices, table, lists, weather=weather))


def front_of(found: HouseOptions) -> Front:
    """The front of what can be chosen from."""
    points: list[FrontPoint] = []
    until = time.monotonic() + LONGEST_S
    for flow in reversed(FLOWS_C):
        go_on()
        points.insert(0, _point(found, float(flow), until))
    points = _beaten(points)
    scheme = found.job.schemes[found.job.active_scheme or ""]
    return Front(
        points=points, refused=list(scheme.refused), wishes=dict(scheme.wishes), allowed=list(scheme.allowed),
        concessions=dict(scheme.concessions), unmet=found.unmet, years=YEARS, sun=found.sun_said, sentence=_sentence(points),
    )  # fmt: skip


def _beaten(points: list[FrontPoint]) -> list[FrontPoint]:
    """Name for each point the warmer one that costs no more and gives the better season, where there is one.

    Cooler water makes the machine better; but what is done to the house for it leaves it so little to do that it may
    run on and off for most of the winter.
    """
    out = []
    for n, point in enumerate(points):
        better = [
            p for p in points[n + 1 :]
            if None not in (p.season, p.cost_minor, point.season, point.cost_minor)
            and (p.season or 0.0) > (point.season or 0.0) + 0.005 and (p.cost_minor or 0.0) <= (point.cost_minor or 0.0)
        ]  # fmt: skip
        best = max(better, key=lambda p: p.season or 0.0, default=None)
        out.append(point.model_copy(update={"beaten_by": best.flow_c}) if best else point)
    return out


def _sentence(points: list[FrontPoint]) -> str:
    possible = [p for p in points if p.possible and p.cost_minor is not None]
    unweighed = [p.flow_c for p in points if not p.weighed]
    if not possible and len(unweighed) == len(points):
        return "Nothing could be weighed in time: too many ways to combine."
    if not possible:
        return "No set of changes the tool knows serves every room, not even at 60 °C."
    free = next((p for p in possible if not p.changes), None)  # a concession costs nothing, but is a change
    lowest = possible[0]
    said = f"The lowest water with what the tool knows is **{num(lowest.flow_c, 0)} °C**"
    if free is not None:
        said = f"Nothing need be changed for **{num(free.flow_c, 0)} °C**; {said[0].lower()}{said[1:]}"
    whole = [p for p in possible if p.total_minor is not None]
    if whole:
        best = min(whole, key=lambda p: p.total_minor or 0.0)
        said += f"; over {YEARS} years **{num(best.flow_c, 0)} °C** comes cheapest"
    said += "."
    if unweighed:
        said += f" {num(max(unweighed), 0)} °C and cooler were not weighed: too many ways to combine."
    return said
