"""A candidate as a plant through the hours: what it can give at the curve's water, who gives what, what is drawn and burnt."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from cinder.design.apart.running.solar import Sun, diverted_w
from cinder.design.hot_water.charging import MILD_DAY_C, charged, exchanger
from cinder.design.hot_water.store import store_of
from cinder.design.house.tariff import Prices, within
from cinder.design.house.view import HouseView
from cinder.design.machine.beside import Beside, beside, worth_by_hour
from cinder.design.machine.load import QUIET_FROM_H, QUIET_TO_H, Standing, performance_map
from cinder.design.result import Design
from cinder.design.year.decide import Worked, own_part
from cinder.library import MachineEntry
from cinder.model.scheme import Candidate
from cinder.physics.climate.weather import HOURS
from cinder.physics.machine import heat_pump
from cinder.physics.machine.season import Shared, share
from cinder.physics.quantity import Array, Num


@dataclass(frozen=True, slots=True)
class Ran:
    """A candidate through the hours (8760,): heat of the rooms and of the hot water, W, and what was drawn for them."""

    shared: Shared
    water_w: Array
    electric_w: Array
    fuel_w: Array
    machine_water_w: Array
    """Of the hot water what the machine itself makes, W; where its envelope ends a heater in the store does."""
    short_w: Array
    taken_w: Array
    """Of the electricity what the house's own sun gives, W."""
    diverted_w: Array
    """Heat of the hot water the sun makes straight in the store, W."""


@dataclass(frozen=True, slots=True)
class Plant:
    """A candidate over the hours (8760,), whatever the house asks for: what it can give when hot water has taken its part of
    every hour, what hot water asks and draws, W."""

    entry: MachineEntry
    other: Beside
    operation: heat_pump.Operation
    water_w: Array
    made_w: Array
    by_machine: bool
    machine_water_w: Array
    worth_cop: Num
    table: heat_pump.PerformanceMap
    line_c: Array
    sun: Sun | None
    collected_w: Array
    """Heat of the hot water that collectors make, W."""


def plant(
    house: HouseView, design: Design, done: Worked, prices: Prices, candidate: Candidate, entry: MachineEntry,
    sun: Sun | None = None, collected: Array | None = None,
) -> Plant:  # fmt: skip
    """A candidate at the outdoor air and the curve's water of every hour; hot water takes its part of every hour of its day:
    the house bridges it."""
    other, outdoor, standing = beside(house.job, candidate.backup), done.outdoor_c, Standing.of(house, candidate)
    table = performance_map(entry, standing._replace(quiet=False))
    line = np.interp(outdoor, design.curve.outdoor_c, design.curve.line_c) + design.separation.lift_at(outdoor)
    at = heat_pump.operate(table, outdoor_c=outdoor, water_c=line)
    greatest = at.greatest_w
    if standing.quiet:
        night = within(np.arange(HOURS) % 24, QUIET_FROM_H, QUIET_TO_H)
        greatest = np.where(night, greatest * entry.quiet_output_share, greatest)
    water_w = np.full(HOURS, (design.hot_water.daily_kwh or 0.0) * 1000 / 24)
    by_machine = bool(water_w[0] > 0 and not other.makes_water)
    made = water_w / other.efficiency if other.makes_water else np.zeros(HOURS)
    machine_water_w = np.zeros(HOURS)
    if by_machine:
        store = store_of(house)
        # the water leaves as warm as on a mild day (our choice: what an hour adds or takes is a kelvin or two)
        mild = charged(table, MILD_DAY_C, store, house.tables, entry.rated_flow_lph)
        leaves = mild.leaving_c if mild is not None else store.store_c
        charging = heat_pump.operate(table, outdoor_c=outdoor, water_c=leaves)
        passes = exchanger(store, table, house.tables, entry.rated_flow_lph).per_k * (
            leaves - store.store_c + store.band_k / 2
        )
        machine_water_w = np.where(charging.inside, water_w, 0.0)
        made = water_w / np.where(charging.inside, charging.cop, 1.0)
        gives = np.minimum(charging.greatest_w, max(passes, 1.0) if mild is not None else np.inf)
        taken = np.where(charging.inside, water_w / np.maximum(gives, 1.0), 0.0)
        greatest = greatest * (1 - np.clip(taken, 0.0, 1.0))
    operation = replace(at, greatest_w=greatest, least_w=np.minimum(at.least_w, greatest))
    worth = worth_by_hour(other, prices)
    none = np.zeros(HOURS)
    return Plant(
        entry, other, operation, water_w, made, by_machine, machine_water_w, worth, table, line, sun,
        collected if collected is not None else none,
    )  # fmt: skip


def ran(house: HouseView, design: Design, done: Worked, on: Plant, scale: float) -> Ran:
    """A candidate through the year, the loss of the house scaled."""
    other, entry = on.other, on.entry
    heat = heat_of(done, scale)
    own = heat * own_part(design)
    lost = design.outdoor_pipes.loss_at(water_c=on.line_c - house.spread_k / 2, outdoor_c=done.outdoor_c)
    load = heat - own + np.where(heat > 0, lost, 0.0)
    shared = share(
        load_w=load, operation=on.operation, degradation=house.practice.cycling_degradation,
        mode=other.way, worth_cop=on.worth_cop,
    )  # fmt: skip
    fans = sum(e.electric_w for room in design.rooms for e in room.emitters)
    goes = load > 0 if other.in_water else shared.machine_w > 0  # a heater's water goes round by the machine's pump
    heating = shared.electric_w + np.where(goes, entry.always_on_w + design.separation.pump_w, entry.standby_w)
    heating = heating + own + np.where(load > 0, fans, 0.0)
    beside_w = np.zeros(HOURS) if other.missing else shared.beside_w
    if other.electric:
        heating = heating + beside_w
    left = on.sun.left_w if on.sun is not None else np.zeros(HOURS)
    diverted = np.zeros(HOURS)
    if on.sun is not None and on.sun.diverter:
        diverted = diverted_w(left, np.minimum(left, heating), on.water_w - on.collected_w)
    # what sun and collectors bring into the store is heat the day's charging need not make
    spared = (diverted + on.collected_w).reshape(-1, 24).sum(axis=1) / np.maximum(
        on.water_w.reshape(-1, 24).sum(axis=1), 1e-9
    )
    made = on.made_w * (1 - np.repeat(np.clip(spared, 0.0, 1.0), 24))
    electric = heating + (made if on.by_machine else 0.0) + diverted
    taken = np.minimum(electric, left)
    burnt = np.zeros(HOURS)
    if not other.electric:
        burnt = beside_w / other.efficiency + (0.0 if on.by_machine else made)
    machine_water = on.machine_water_w * (1 - np.repeat(np.clip(spared, 0.0, 1.0), 24))
    whole = replace(shared, beside_w=shared.beside_w + own)
    short = shared.beside_w if other.missing else np.zeros(HOURS)
    return Ran(whole, on.water_w, electric, burnt, machine_water, short, taken, diverted)


def heat_of(done: Worked, scale: float) -> Array:
    """What the rooms ask for in every hour with the loss scaled, W."""
    return np.where(done.demand.on, np.maximum(done.demand.loss_w * scale - done.demand.gains_w, 0.0), 0.0)


def kwh(watts: Array) -> float:
    return float(watts.sum()) / 1000
