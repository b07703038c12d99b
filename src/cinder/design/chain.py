"""design(job): the whole chain, in working order."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder import ENGINE_VERSION
from cinder.design import (
    air,
    cautions,
    climate,
    copies,
    curve,
    emitters,
    first_guess,
    headline,
    hot_water,
    losses,
    machine,
    pipework,
    room_emitters,
    rooms,
    sentences,
    sentences_losses,
    signs,
    volume,
    waterline,
    words,
)
from cinder.design.findings import Findings
from cinder.design.guarded import kept
from cinder.design.house import HouseView, view
from cinder.design.result import Design, Season
from cinder.model import Job, Practice
from cinder.physics.quantity import Array


def schools(house: HouseView) -> dict[str, str]:
    """The schools this job follows, in words; every report carries them."""
    practice = house.practice
    counted = {
        "tightness": "measured or estimated tightness, n50/20 with shelter; the windward room up to "
        f"{practice.windward_factor:g} times its share",
        "age": "tightness by age, n50/20 with shelter; the windward room up to "
        f"{practice.windward_factor:g} times its share",
        "room": "EN 12831:2003 room formula 2 V n50 e ε; the house half the sum of its rooms",
        "table": "air changes by room use and age",
    }
    ground = {"annual_mean": "EN 12831-1 simplified, annual mean", "full_difference": "full outside difference"}
    neighbour = {
        "cold_for_emitter": f"adiabatic for the machine, {practice.neighbour_c:g} °C for the room's emitter on the design day, "
        "milder with the weather",
        "adiabatic": "adiabatic",
        "cold": f"{practice.neighbour_c:g} °C for emitter and machine on the design day, milder with the weather",
    }
    excess = {"logarithmic": "logarithmic, referred to 49.83 K", "arithmetic": "arithmetic, referred to 50 K"}
    one = f"{practice.one_temperature_c:g} °C everywhere"
    return {
        "Air": air.as_stated(house, counted[practice.air]),
        "Least air": "0.5 per hour in habitable rooms" if practice.hygienic_minimum == "habitable" else "none",
        "Ground": ground[practice.ground],
        "Neighbour's home": neighbour[practice.neighbour],
        "Room temperatures": "by use" if practice.room_temperature == "by_use" else one,
        "Thermal bridges": f"{practice.thermal_bridge_w_m2k:.2f} W/m²K on outside faces (a figure meant for outside "
        "dimensions, used on inside ones)"
        if practice.bridges == "default"
        else f"line by line, Ψ·L on inside dimensions, {practice.bridge_quality} building",
        "Dimensions": "inside, room by room",
        "Additions": _additions(practice),
        "Excess temperature": excess[practice.excess],
        "Emitter spread": f"{practice.spread_k:g} K",
        "Heated floors": "EN 1264-2 (tables from memory), logarithmic excess"
        if practice.heated_floor == "standard"
        else "conduction in the plate, logarithmic excess",
        "Gains": f"none on the design day, {practice.gains_w_per_m2:g} W/m² in the season",
        "Need of the curve": "all rooms settling together, valved ones held at their targets, "
        + (f"{practice.curve_gains_w_per_m2:g} W/m² of gains" if practice.curve_gains_w_per_m2 else "without gains"),
        "Cold end of the curve": "what the settled house needs, the waterline's as its limit"
        if practice.cold_end == "settled"
        else "the waterline's, each neighbouring room at its own target",
        "Control": "weather curve, continuous",
    }


def _additions(practice: Practice) -> str:
    said = []
    if practice.high_room_share:
        said.append(f"{practice.high_room_share:.0%} for rooms over 4 m")
    if practice.exposed_share:
        said.append(f"{practice.exposed_share:.0%} for an exposed place")
    if practice.reheat_w_per_m2:
        said.append(f"{practice.reheat_w_per_m2:g} W/m² to warm up again after a pause")
    return ", ".join(said) or "none"


@dataclass(slots=True)
class Trial:
    """What a set of changes is judged by, per room (R,): the flow temperature needed, deg C (NaN: nothing to meet, inf: no
    emitter), the load, W, and what the emitters give at the chosen water, W; and the season of the chosen machine."""

    needed_flow_c: float | None
    needed_c: Array
    load_w: Array
    given_w: Array
    season: Season


def trial(job: Job) -> Trial:
    """The chain as far as water and season, without what is only shown: the same figures as `design` gives."""
    findings = Findings()
    house = view(job, findings)
    arrays = losses.of_house(house, findings)
    worked = losses.evaluate(arrays, house.outdoor_c or 0.0)
    complete = np.asarray(arrays.complete) & (house.outdoor_c is not None)
    if house.outdoor_c is None:
        worked.emitter_load_w[:] = 0.0
        worked.share_of_house_w[:] = 0.0
    rated = emitters.arrays(house, arrays.room_index, findings)
    performance = machine.performance_map(house.machine) if house.machine else None
    line = waterline.solve(house, arrays, worked, rated, findings)
    bend = kept(
        findings, "curve", "The weather curve",
        lambda: curve.solve(house, arrays, rated, line, performance, findings, shown=False),
        lambda: curve.nothing(house, arrays),
    )  # fmt: skip
    store = kept(
        findings, "hot-water", "Hot water",
        lambda: hot_water.solve(house, performance, findings), lambda: hot_water.nothing(house),
    )  # fmt: skip
    area, share = float(arrays.area_m2.sum()), float(worked.share_of_house_w.sum())
    season = kept(
        findings, "machine", "The machine and its season",
        lambda: machine.season_of(house, bend, rated, line, store, area_m2=area, loss_w=share if complete.any() else None),
        lambda: machine.no_season(house),
    )  # fmt: skip
    flow = line.result.chosen_flow_c
    given = np.zeros(len(house.rooms))
    if flow is not None:
        given = room_emitters.at_line(rated, flow_c=flow, target_c=arrays.target_c).sum(axis=1)
    return Trial(
        line.result.needed_flow_c, np.where(complete, line.needed_c, np.nan),
        np.where(complete, worked.emitter_load_w, 0.0), given, season,
    )  # fmt: skip


def design(job: Job) -> Design:
    """Judge a job. Pure: the same document gives the same Design.

    Every section computes what it can; what it lacks is a finding. Valid for: a parsed job.
    """
    findings = Findings()
    house = view(job, findings)
    arrays = losses.of_house(house, findings)
    worked = losses.evaluate(arrays, house.outdoor_c) if house.outdoor_c is not None else None
    rated = emitters.arrays(house, arrays.room_index, findings)
    performance = machine.performance_map(house.machine) if house.machine else None
    empty = worked or losses.evaluate(arrays, 0.0)
    if worked is None:
        empty.emitter_load_w[:] = 0.0
        empty.share_of_house_w[:] = 0.0
    line = waterline.solve(house, arrays, empty, rated, findings)
    compared = None
    if house.outdoor_c is not None:
        compared = air.compare(
            house, arrays.tightness, arrays.air, volume=arrays.volume_m3 * arrays.complete, exposed=arrays.exposed_m2,
            difference_k=arrays.target_c - house.outdoor_c, complete=np.asarray(arrays.complete, float),
        )  # fmt: skip
    listed = rooms.results(house, arrays, worked, rated, line if worked is not None else None, compared)
    total = rooms.total(house, arrays, worked, listed, compared)
    bend = kept(
        findings, "curve", "The weather curve",
        lambda: curve.solve(house, arrays, rated, line, performance, findings), lambda: curve.nothing(house, arrays),
    )  # fmt: skip
    store = kept(
        findings, "hot-water", "Hot water",
        lambda: hot_water.solve(house, performance, findings), lambda: hot_water.nothing(house),
    )  # fmt: skip
    machines, season = kept(
        findings, "machine", "The machine and its season",
        lambda: machine.judged(house, bend, rated, line, total, store, findings), lambda: machine.nothing(house),
    )  # fmt: skip
    chosen = next((row for row in machines.rows if row.chosen), None)
    flows = {e.id: e.flow_lph for room in listed for e in room.emitters if e.flow_lph is not None}
    loops = {e.id: e.heated.loop_kpa for room in listed for e in room.emitters if e.heated and e.heated.loop_kpa}
    pipes = kept(
        findings, "pipework", "The pipework",
        lambda: pipework.solve(house, rated.rated, flows, loops, line.result, findings), lambda: pipework.nothing(house),
    )  # fmt: skip
    litres = kept(
        findings, "pipework", "The water that stays open",
        lambda: volume.solve(house, rated.rated, pipes, chosen, findings), volume.nothing,
    )  # fmt: skip
    words.judge(house, findings)
    copies.judge(job, findings)
    guess = first_guess.solve(job)
    walls = signs.verdicts(job)
    for wall in walls:
        if wall.at_odds:
            findings.add(
                "doubt", "walk-round", f"/survey/parts/{wall.part}/signs", wall.sentence.replace("**", ""),
                why="The signs contradict each other.", mend=wall.settles,
            )  # fmt: skip
    return Design(
        engine=ENGINE_VERSION,
        scheme=job.active_scheme,
        scheme_label=house.scheme.label if house.scheme else "As found",
        headline=headline.figures(total, line.result, chosen, season, pipes, litres),
        sentences={
            "call": guess.sentence,
            "walk-round": sentences.walk_round(walls),
            "plan": sentences.plan(listed),
            "site": sentences.site(total),
            "rooms": sentences.rooms(total, listed),
            "climate": sentences_losses.climate(house),
            "constructions": sentences_losses.constructions(total),
            "losses": sentences_losses.losses(total, listed),
            "air": sentences_losses.air(total),
            "report": sentences_losses.report(total),
            "emitters": sentences.emitters(listed, line.result),
            "waterline": sentences.waterline(line.result, listed),
            "machine": sentences.machine(machines, season),
            "hot-water": sentences.hot_water(store),
            "pipework": sentences.pipework(pipes, litres),
            "curve": sentences.curve(bend.result, listed),
        },
        climate=climate.shown(job, house.climate, house.outdoor_c),
        house=total,
        rooms=listed,
        waterline=line.result,
        curve=bend.result,
        machine=machines,
        season=season,
        hot_water=store,
        pipework=pipes,
        volume=litres,
        findings=findings.ranked(),
        asked=first_guess.asked(job),
        first_guess=guess,
        walls=walls,
        cautions=cautions.by_step(),
        schools=schools(house),
    )
