"""The season of every candidate hour by hour, its money and carbon, beside what heats the house today."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from cinder.design.apart.running.money import (
    ELECTRICITY,
    Beside,
    Money,
    Prices,
    Today,
    beside,
    fifteen_years,
    present_fuel,
    prices_of,
    range_why,
    saving,
    span_of,
    tariff_words,
    today,
    within,
)
from cinder.design.apart.running.result import RunMonth, Running, Runs, Span
from cinder.design.apart.running.say import of_all, of_one
from cinder.design.findings import Findings
from cinder.design.hot_water.decide import charging_water_c
from cinder.design.house.climate import MONTHS
from cinder.design.house.view import HouseView, view
from cinder.design.machine.load import QUIET_FROM_H, QUIET_TO_H, Standing, performance_map
from cinder.design.machine.look import reference
from cinder.design.machine.result import chosen_of
from cinder.design.result import Design
from cinder.design.year.decide import Worked, own_part, work
from cinder.library import HourlyYear, MachineEntry
from cinder.model import Job
from cinder.model.scheme import Candidate
from cinder.physics import heat_pump
from cinder.physics.quantity import Array
from cinder.physics.sources import Mode as Way
from cinder.physics.sources import Shared, break_even_cop, share
from cinder.physics.weather import HOURS, month_hours

WAYS: dict[str, Way] = {"parallel": "parallel", "alternate": "alternate", "price": "cheaper", "carbon": "cheaper"}
MODES = {"parallel": "beside it", "alternate": "in its place", "price": "whichever is cheaper", "carbon": "less carbon"}


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


def judge(
    job: Job, design: Design, weather: HourlyYear | None, *, shift_k: float = 0.0,
    loss_range: tuple[float, float] | None = None,
) -> Runs:  # fmt: skip
    """Every candidate over the hours of the job's climate, at the water this job's curve asks for.

    `loss_range`: the P10 and P90 of the house's loss over the figure of the design; without it the range is that of the prices
    alone. Source: hourly balance (common practice); part load by EN 14825 (from memory).
    """
    house = view(job, Findings())
    candidates = sorted(
        house.scheme.candidates.items() if house.scheme else (), key=lambda item: (item[1].pos, item[0])
    )
    if weather is None or house.climate is None:
        return nothing(house, "This climate carries no hourly year: bring a weather file, or choose a generic one.")
    if not candidates:
        return nothing(house, "No machine is compared yet.")
    if not design.curve.line_c or not any(room.volume_m3 for room in house.rooms):
        return nothing(house, "The house or its curve is not complete yet.")
    done, prices = work(house, weather, shift_k=shift_k), prices_of(job)
    scales = loss_range or (1.0, 1.0)
    now, lacks = today(
        job, prices, [_kwh(_heat(done, scale)) + _water_kwh(design) for scale in (scales[0], 1.0, scales[1])]
    )
    rows = [_row(house, design, done, prices, key, candidate, scales, now) for key, candidate in candidates]
    present = now.shown if now else None
    fifteen = fifteen_years(present.cost_minor, 0.0, prices.rise) if present else None
    return Runs(
        lacks="", climate_label=house.climate.label, synthetic=house.climate.synthetic, present=present, present_lacks=lacks,
        present_fifteen_minor=fifteen, rows=rows, heating_hours=float((done.demand.heat_w > 0).sum()),
        range_why=range_why(loss_range, prices), tariff=tariff_words(job),
        sentence=of_all(rows, present, job.currency, [row.label for row, (_, one) in zip(rows, candidates, strict=True)
                                                      if one.service_minor is not None]),
    )  # fmt: skip


def nothing(house: HouseView, lacks: str) -> Runs:
    return Runs(
        lacks=lacks, climate_label=house.climate.label if house.climate else "", synthetic=False, present=None,
        present_lacks="", present_fifteen_minor=None, rows=[], heating_hours=0.0, range_why="", tariff="", sentence=lacks,
    )  # fmt: skip


def _row(
    house: HouseView, design: Design, done: Worked, prices: Prices, key: str, candidate: Candidate,
    scales: tuple[float, float], now: Today | None,
) -> Running:  # fmt: skip
    entry = house.job.library.machines[candidate.machine].data
    on = plant(house, design, done, prices, candidate, entry)
    other, middle = on.other, ran(house, design, done, on, 1.0)
    runs = [middle if scale == 1.0 else ran(house, design, done, on, scale) for scale in scales]
    once = _once(candidate)
    three = [_money(one, other, prices, candidate) for one in (runs[0], middle, runs[1])]
    cost = span_of(three, prices.spread)
    heat_w, hours = middle.shared.load_w, float((middle.shared.load_w > 0).sum())
    heat, water = _kwh(heat_w), _kwh(middle.water_w)
    machine = _kwh(middle.shared.machine_w + middle.machine_water_w)
    drawn, burnt = _kwh(middle.electric_w), _kwh(middle.fuel_w)
    all_heat = heat + water - _kwh(middle.short_w)
    turns_down = entry.least_w is not None
    cycling = middle.shared.cycling
    by_machine = _kwh(middle.shared.machine_w)
    running = _kwh(np.where(middle.shared.machine_w > 0, middle.shared.electric_w + entry.always_on_w, 0.0))
    shown = next((r for r in design.machine.rows if r.id == key), None)
    worth = None
    if not other.electric:
        worth = break_even_cop(
            electricity_per_kwh=prices.of(ELECTRICITY), fuel_per_kwh=prices.of(other.fuel), efficiency=other.efficiency
        )
    row = Running(
        id=key, label=entry.label, chosen=bool(house.scheme and house.scheme.chosen == key), backup=other.label,
        mode=MODES[candidate.backup.mode] if candidate.backup.kind != "none" else "", heat_kwh=heat, hot_water_kwh=water,
        machine_kwh=machine, beside_kwh=heat + water - machine - _kwh(middle.short_w), electricity_kwh=drawn, fuel_kwh=burnt,
        coldest_cop=shown.cop if shown else None,
        performance=by_machine / running if running > 0 else None,
        whole=all_heat / drawn if other.electric and drawn > 0 else None,
        blended=all_heat / (drawn + burnt) if not other.electric and drawn + burnt > 0 else None,
        scop_35=reference(entry, 35), scop_55=reference(entry, 55),
        alone_hours=float(middle.shared.alone.sum()) / hours if hours else None,
        heat_share=machine / all_heat if all_heat > 0 else None,
        cycling_hours=float(cycling.sum()) / hours if hours and turns_down else None,
        cycling_heat=_kwh(np.where(cycling, middle.shared.machine_w, 0.0)) / heat if heat and turns_down else None,
        beside_hours=float((middle.shared.beside_w > 0).sum()), short_kwh=_kwh(middle.short_w), break_even_cop=worth,
        cost_minor=cost,
        carbon_kg=Span(low=three[0].carbon_kg, mid=three[1].carbon_kg, high=three[2].carbon_kg),
        saves_minor=saving(now, three, other.fuel, prices.spread) if now else None, once_minor=once,
        fifteen_minor=fifteen_years(cost, once, prices.rise) if once is not None else None,
        months=_months(middle, done), sentence="",
    )  # fmt: skip
    return row.model_copy(update={"sentence": of_one(row, chosen_of(design.machine))})


@dataclass(frozen=True, slots=True)
class Plant:
    """A candidate over the hours (8760,), whatever the house asks for: what it can give when hot water has taken its part of
    every hour, what hot water asks and draws, W."""

    candidate: Candidate
    entry: MachineEntry
    other: Beside
    operation: heat_pump.Operation
    water_w: Array
    made_w: Array
    by_machine: bool
    machine_water_w: Array
    worth_cop: Array | float


def plant(
    house: HouseView, design: Design, done: Worked, prices: Prices, candidate: Candidate, entry: MachineEntry
) -> Plant:
    """A candidate at the outdoor air and the curve's water of every hour; hot water takes its part of every hour of its day:
    the house bridges it."""
    other, outdoor, standing = beside(house.job, candidate.backup), done.outdoor_c, Standing.of(house, candidate)
    table = performance_map(entry, standing._replace(quiet=False))
    line = np.interp(outdoor, design.curve.outdoor_c, design.curve.line_c)
    at = heat_pump.operate(table, outdoor_c=outdoor, water_c=line)
    greatest = at.greatest_w
    if standing.quiet:
        night = within(np.arange(HOURS) % 24, QUIET_FROM_H, QUIET_TO_H)
        greatest = np.where(night, greatest * entry.quiet_output_share, greatest)
    by_boiler = candidate.backup.hot_water and not other.electric
    water_w = np.full(HOURS, (design.hot_water.daily_kwh or 0.0) * 1000 / 24)
    by_machine = bool(water_w[0] > 0 and not by_boiler)
    made = water_w / other.efficiency if by_boiler else np.zeros(HOURS)
    machine_water_w = np.zeros(HOURS)
    if by_machine:
        store = charging_water_c(design.hot_water.store_c)
        charging = heat_pump.operate(table, outdoor_c=outdoor, water_c=store)
        machine_water_w = np.where(charging.inside, water_w, 0.0)
        made = water_w / np.where(charging.inside, charging.cop, 1.0)
        taken = np.where(charging.inside, water_w / np.maximum(charging.greatest_w, 1.0), 0.0)
        greatest = greatest * (1 - np.clip(taken, 0.0, 1.0))
    operation = replace(at, greatest_w=greatest, least_w=np.minimum(at.least_w, greatest))
    worth = _worth(candidate.backup.mode, other, prices)
    return Plant(candidate, entry, other, operation, water_w, made, by_machine, machine_water_w, worth)


def ran(house: HouseView, design: Design, done: Worked, on: Plant, scale: float) -> Ran:
    """A candidate through the year, the loss of the house scaled."""
    backup, other, entry = on.candidate.backup, on.other, on.entry
    heat = _heat(done, scale)
    own = heat * own_part(design)
    load = heat - own
    shared = share(
        load_w=load, operation=on.operation, degradation=house.practice.cycling_degradation,
        mode=WAYS[backup.mode if backup.kind != "none" else "parallel"], worth_cop=on.worth_cop,
    )  # fmt: skip
    fans = sum(e.electric_w for room in design.rooms for e in room.emitters)
    electric = shared.electric_w + np.where(shared.machine_w > 0, entry.always_on_w, entry.standby_w)
    electric = electric + own + np.where(load > 0, fans, 0.0) + (on.made_w if on.by_machine else 0.0)
    missing = backup.kind == "none"
    beside_w = np.zeros(HOURS) if missing else shared.beside_w
    burnt = np.zeros(HOURS)
    if other.electric:
        electric = electric + beside_w
    else:
        burnt = beside_w / other.efficiency + (0.0 if on.by_machine else on.made_w)
    whole = replace(shared, beside_w=shared.beside_w + own)
    return Ran(whole, on.water_w, electric, burnt, on.machine_water_w, shared.beside_w if missing else np.zeros(HOURS))


def _heat(done: Worked, scale: float) -> Array:
    """What the rooms ask for in every hour with the loss scaled, W."""
    return np.where(done.demand.on, np.maximum(done.demand.loss_w * scale - done.demand.gains_w, 0.0), 0.0)


def _water_kwh(design: Design) -> float:
    return (design.hot_water.daily_kwh or 0.0) * HOURS / 24


def _money(one: Ran, other: Beside, prices: Prices, candidate: Candidate) -> Money:
    """A year's money and carbon: every hour at its price, standing charges, service."""
    fixed = prices.standing(ELECTRICITY) + (candidate.service_minor or 0.0) + (candidate.backup.service_minor or 0.0)
    if not other.electric:
        fixed += prices.standing(other.fuel)
    elif prices.job.site.present.stays and present_fuel(prices.job) != ELECTRICITY:
        fixed += prices.standing(present_fuel(prices.job) or "")
    burnt = 0.0 if other.electric else _kwh(one.fuel_w)
    return Money(
        electric=float((one.electric_w * prices.electricity).sum()) / 1000, fuel=burnt * prices.of(other.fuel), fixed=fixed,
        carbon_kg=_kwh(one.electric_w) * prices.carbon(ELECTRICITY) + burnt * prices.carbon(other.fuel),
    )  # fmt: skip


def _worth(mode: str, other: Beside, prices: Prices) -> Array | float:
    """The COP from which the machine is the better one, in every hour; by carbon one figure serves all year."""
    if mode == "price":
        each = prices.of(other.fuel)
        return prices.electricity / each * other.efficiency if each > 0 else np.full(HOURS, np.inf)
    if mode == "carbon":
        return break_even_cop(
            electricity_per_kwh=prices.carbon(ELECTRICITY),
            fuel_per_kwh=prices.carbon(other.fuel),
            efficiency=other.efficiency,
        )
    return 0.0


def _kwh(watts: Array) -> float:
    return float(watts.sum()) / 1000


def _once(candidate: Candidate) -> float | None:
    given = (candidate.cost_minor, candidate.backup.cost_minor)
    return sum(one or 0.0 for one in given) if candidate.cost_minor is not None else None


def _months(one: Ran, done: Worked) -> list[RunMonth]:
    months = []
    for name, hours in zip(MONTHS, month_hours(), strict=True):
        heat, water = _kwh(one.shared.load_w[hours]), _kwh(one.water_w[hours])
        drawn, burnt = _kwh(one.electric_w[hours]), _kwh(one.fuel_w[hours])
        machine = _kwh((one.shared.machine_w + one.machine_water_w)[hours])
        short = _kwh(one.short_w[hours])
        months.append(
            RunMonth(
                name=name, outdoor_c=float(done.outdoor_c[hours].mean()), heat_kwh=heat, hot_water_kwh=water,
                machine_kwh=machine, beside_kwh=heat + water - machine - short, electricity_kwh=drawn, fuel_kwh=burnt,
                performance=(heat + water - short) / (drawn + burnt) if drawn + burnt > 0 else None,
                cycling_hours=float(one.shared.cycling[hours].sum()),
            )
        )  # fmt: skip
    return months
