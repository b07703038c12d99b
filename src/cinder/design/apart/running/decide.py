"""The season of every candidate hour by hour, its money and carbon, beside what heats the house today."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.design.apart.running.grants import granted
from cinder.design.apart.running.money import (
    Money,
    Today,
    fifteen_years,
    range_why,
    saving,
    span_of,
    today,
)
from cinder.design.apart.running.plant import Plant, Ran, heat_of, kwh, plant, ran
from cinder.design.apart.running.result import OwnSun, Present, RunMonth, Running, Runs, Shifted, Span, Term
from cinder.design.apart.running.say import of_all, of_one, of_shifting
from cinder.design.apart.running.shift import apart, shifted
from cinder.design.apart.running.solar import Sun, collected_w, household_w, sun_of
from cinder.design.findings import Findings
from cinder.design.house import routes
from cinder.design.house.climate import MONTHS
from cinder.design.house.prices import ELECTRICITY, present_fuel
from cinder.design.house.tariff import Prices, prices_of, tariff_words
from cinder.design.house.view import HouseView, view
from cinder.design.kept import Kept
from cinder.design.machine.beside import Beside
from cinder.design.machine.look import reference
from cinder.design.machine.result import chosen_of
from cinder.design.result import Design
from cinder.design.year.decide import Worked, own_part, work
from cinder.library import HourlyYear, MachineEntry
from cinder.model import Job
from cinder.model.scheme import Candidate
from cinder.physics.climate.weather import HOURS, month_hours
from cinder.physics.machine.season import break_even_cop
from cinder.physics.quantity import Array

MODES = {"parallel": "beside it", "alternate": "in its place", "price": "whichever is cheaper", "carbon": "less carbon"}
TWENTY_MINUTES = 1 / 3
"""Of an hour: what stands beside a machine joins when the water has not risen for so long (common practice)."""


@dataclass(frozen=True, slots=True)
class Year:
    """What every candidate of a house runs through: the hours, the prices, the sun, the range of the loss, today."""

    house: HouseView
    design: Design
    done: Worked
    prices: Prices
    sun: Sun | None
    collected: Array
    scales: tuple[float, float]
    now: Today | None


def judge(
    job: Job, design: Design, weather: HourlyYear | None, *, shift_k: float = 0.0,
    loss_range: tuple[float, float] | None = None, kept: Kept | None = None,
) -> Runs:  # fmt: skip
    """Every candidate over the hours of the job's climate, at the water this job's curve asks for.

    `loss_range`: the P10 and P90 of the house's loss over the figure of the design; without it the range is that of the prices
    alone; `kept`: what was made of the house before. Source: hourly balance (common practice); part load by EN 14825 (from memory).
    """
    house = view(job, Findings(), kept)
    candidates = sorted(
        house.scheme.candidates.items() if house.scheme else (), key=lambda item: (item[1].pos, item[0])
    )
    if weather is None or house.climate is None:
        return nothing(house, "This climate carries no hourly year: bring a weather file, or choose a generic one.")
    if not candidates:
        return nothing(house, "No machine is compared yet.")
    if not design.curve.line_c or not any(room.volume_m3 for room in house.rooms):
        return nothing(house, "The house or its curve is not complete yet.")
    done, prices, sun = work(house, weather, shift_k=shift_k, kept=kept), prices_of(job), sun_of(house, weather)
    scales = loss_range or (1.0, 1.0)
    now, lacks = _today(job, design, done, prices, scales)
    water = np.full(HOURS, (design.hot_water.daily_kwh or 0.0) * 1000 / 24)
    year = Year(house, design, done, prices, sun, collected_w(house, weather, water), scales, now)
    rows = [_row(year, key, candidate) for key, candidate in candidates]
    present = now.shown if now else None
    fifteen = fifteen_years(present.cost_minor, 0.0, prices.rise) if present else None
    moved = _shifted(year)
    serviced = [row.label for row, (_, one) in zip(rows, candidates, strict=True) if one.service_minor is not None]
    return Runs(
        lacks="", climate_label=house.climate.label, synthetic=house.climate.synthetic, present=present, present_lacks=lacks,
        present_fifteen_minor=fifteen, rows=rows, heating_hours=float((done.demand.heat_w > 0).sum()),
        range_why=range_why(loss_range, prices), tariff=tariff_words(prices), sun=_own_sun(job, sun), shifted=moved,
        shifted_why=of_shifting(moved, job.currency), sentence=of_all(rows, present, job.currency, serviced),
    )  # fmt: skip


def present_of(
    job: Job, design: Design, weather: HourlyYear | None, *, shift_k: float = 0.0,
    loss_range: tuple[float, float] | None = None,
) -> tuple[Present | None, str]:  # fmt: skip
    """What heats the house today, asked for what a Design asks: as `judge` has it, without any machine; else why not."""
    house = view(job, Findings())
    if weather is None or house.climate is None:
        return None, "This climate carries no hourly year."
    done = work(house, weather, shift_k=shift_k)
    now, lacks = _today(job, design, done, prices_of(job), loss_range or (1.0, 1.0))
    return (now.shown if now else None), lacks


def _today(
    job: Job, design: Design, done: Worked, prices: Prices, scales: tuple[float, float]
) -> tuple[Today | None, str]:
    water = np.full(HOURS, (design.hot_water.daily_kwh or 0.0) * 1000 / 24)
    return today(job, prices, [heat_of(done, scale) + water for scale in (scales[0], 1.0, scales[1])])


def nothing(house: HouseView, lacks: str) -> Runs:
    return Runs(
        lacks=lacks, climate_label=house.climate.label if house.climate else "", synthetic=False, present=None,
        present_lacks="", present_fifteen_minor=None, rows=[], heating_hours=0.0, range_why="", tariff="", sun=None,
        shifted=[], shifted_why="", sentence=lacks,
    )  # fmt: skip


def _row(year: Year, key: str, candidate: Candidate) -> Running:
    house, design, done, prices, now = year.house, year.design, year.done, year.prices, year.now
    entry = house.job.library.machines[candidate.machine].data
    on = plant(house, design, done, prices, candidate, entry, year.sun, year.collected)
    other, middle = on.other, ran(house, design, done, on, 1.0)
    runs = [middle if scale == 1.0 else ran(house, design, done, on, scale) for scale in year.scales]
    scop_35 = reference(entry, 35)
    grants = granted(house.job, design, candidate, scop_35, present_fuel(house.job))
    once = _once(house.job, candidate, sum(one.amount_minor for one in grants))
    three = [_money(one, other, prices, candidate, year.sun) for one in (runs[0], middle, runs[1])]
    cost = span_of(three, prices.spread)
    heat_w, hours = middle.shared.load_w, float((middle.shared.load_w > 0).sum())
    heat, water = kwh(heat_w), kwh(middle.water_w)
    machine = kwh(middle.shared.machine_w + middle.machine_water_w)
    drawn, burnt = kwh(middle.electric_w), kwh(middle.fuel_w)
    all_heat = heat + water - kwh(middle.short_w)
    turns_down = entry.least_w is not None
    cycling = middle.shared.cycling
    shown = next((r for r in design.machine.rows if r.id == key), None)
    worth = None
    if not other.electric:
        worth = break_even_cop(
            electricity_per_kwh=prices.of(ELECTRICITY), fuel_per_kwh=prices.of(other.fuel), efficiency=other.efficiency
        )
    joins, late = _joining(middle)
    second_w = design.separation.pump_w
    row = Running(
        id=key, label=entry.label, chosen=bool(house.scheme and house.scheme.chosen == key), backup=other.label,
        mode=MODES[candidate.backup.mode] if candidate.backup.kind != "none" else "", heat_kwh=heat,
        heat_range=[kwh(one.shared.load_w) for one in runs], hot_water_kwh=water,
        machine_kwh=machine, beside_kwh=heat + water - machine - kwh(middle.short_w), electricity_kwh=drawn,
        electricity_range=sorted(kwh(one.electric_w) for one in runs),
        fuel_kwh=burnt, fuel_range=sorted(kwh(one.fuel_w) for one in runs), coldest_cop=shown.cop if shown else None,
        performance=_performance(middle, entry, second_w),
        performance_range=_range([_performance(one, entry, second_w) for one in runs]),
        whole=all_heat / drawn if other.electric and drawn > 0 else None,
        blended=all_heat / (drawn + burnt) if not other.electric and drawn + burnt > 0 else None,
        scop_35=scop_35, scop_55=reference(entry, 55),
        alone_hours=float(middle.shared.alone.sum()) / hours if hours else None,
        heat_share=_share(middle), heat_share_range=_range([_share(one) for one in runs]),
        cycling_hours=_cycling(middle) if turns_down else None,
        cycling_range=_range([_cycling(one) for one in runs]) if turns_down else None,
        cycling_heat=kwh(np.where(cycling, middle.shared.machine_w, 0.0)) / heat if heat and turns_down else None,
        beside_hours=float((middle.shared.beside_w > 0).sum()), short_kwh=kwh(middle.short_w), break_even_cop=worth,
        joins=joins, late_kwh=late, own_sun_kwh=kwh(middle.taken_w),
        terms=_terms(middle, other, prices, candidate, year.sun), cost_minor=cost,
        carbon_kg=Span(low=three[0].carbon_kg, mid=three[1].carbon_kg, high=three[2].carbon_kg),
        saves_minor=saving(now, three, other.fuel, prices.spread) if now else None, once_minor=once, granted=grants,
        fifteen_minor=fifteen_years(cost, once, prices.rise) if once is not None else None,
        months=_months(middle, done), sentence="",
    )  # fmt: skip
    return row.model_copy(update={"sentence": of_one(row, chosen_of(design.machine))})


def _performance(one: Ran, entry: MachineEntry, pump_w: float) -> float | None:
    """Of the machine with its pump, for the rooms alone."""
    drawn = kwh(np.where(one.shared.machine_w > 0, one.shared.electric_w + entry.always_on_w + pump_w, 0.0))
    return kwh(one.shared.machine_w) / drawn if drawn > 0 else None


def _share(one: Ran) -> float | None:
    """Of the year's heat the machine makes, hot water in it."""
    heat = kwh(one.shared.load_w + one.water_w - one.short_w)
    return kwh(one.shared.machine_w + one.machine_water_w) / heat if heat > 0 else None


def _cycling(one: Ran) -> float | None:
    hours = float((one.shared.load_w > 0).sum())
    return float(one.shared.cycling.sum()) / hours if hours else None


def _range(found: list[float | None]) -> list[float] | None:
    """At the lower and the higher loss, the smaller first; None where one of them is not known."""
    known = sorted(one for one in found if one is not None)
    return known if len(known) == len(found) else None


def _joining(one: Ran) -> tuple[int, float]:
    """How often what stands beside the machine joins it while it runs, and the heat that is late by twenty minutes each time."""
    both = (one.shared.beside_w > 0) & (one.shared.machine_w > 0) & (one.short_w <= 0)
    begins = both & ~np.concatenate(([False], both[:-1]))
    return int(begins.sum()), kwh(np.where(begins, one.shared.beside_w, 0.0)) * TWENTY_MINUTES


def _shifted(year: Year) -> list[Shifted]:
    """Heat of the chosen machine moved into cheap hours."""
    house, scheme = year.house, year.house.scheme
    candidate = scheme.candidates.get(scheme.chosen) if scheme and scheme.chosen else None
    if candidate is None or not apart(year.prices.electricity):
        return []
    entry = house.job.library.machines[candidate.machine].data
    on: Plant = plant(house, year.design, year.done, year.prices, candidate, entry)
    return shifted(
        load_w=heat_of(year.done, 1.0) * (1 - own_part(year.design)), operation=on.operation, table=on.table,
        outdoor_c=year.done.outdoor_c, water_c=on.line_c, room_c=year.done.loss.inside_c, area_m2=year.done.loss.area_m2,
        prices=year.prices.electricity, degradation=house.practice.cycling_degradation,
    )  # fmt: skip


def _own_sun(job: Job, sun: Sun | None) -> OwnSun | None:
    if sun is None or job.site.solar is None:
        return None
    household = household_w(job.site.solar)
    return OwnSun(made_kwh=kwh(sun.made_w), household_kwh=kwh(np.minimum(sun.made_w, household)))


def _electric(one: Ran, prices: Prices, sun: Sun | None) -> float:
    """A year's electricity, minor units: what the sun gives is worth what would be paid for letting it go."""
    bought = float(((one.electric_w - one.taken_w) * prices.electricity).sum()) / 1000
    return bought + (kwh(one.taken_w) * sun.export_minor if sun is not None else 0.0)


def _money(one: Ran, other: Beside, prices: Prices, candidate: Candidate, sun: Sun | None) -> Money:
    """A year's money and carbon: every hour at its price, standing charges, service."""
    burnt = 0.0 if other.electric else kwh(one.fuel_w)
    return Money(
        electric=_electric(one, prices, sun), fuel=burnt * prices.of(other.fuel),
        fixed=sum(term.minor for term in _fixed(other, prices, candidate)),
        carbon_kg=kwh(one.electric_w - one.taken_w) * prices.carbon(ELECTRICITY) + burnt * prices.carbon(other.fuel),
    )  # fmt: skip


def _fixed(other: Beside, prices: Prices, candidate: Candidate) -> list[Term]:
    """What is paid whatever is burnt."""
    job, burns = prices.job, present_fuel(prices.job)
    found = [("standing charge of electricity", prices.standing(ELECTRICITY))]
    if not other.electric:
        found.append((f"standing charge of {other.fuel}", prices.standing(other.fuel)))
    elif job.site.present.stays and burns != ELECTRICITY:
        found.append((f"standing charge of {burns}, whose meter stays", prices.standing(burns or "")))
    found += [
        ("service of the machine", candidate.service_minor or 0.0),
        (f"service of {other.label}", candidate.backup.service_minor or 0.0),
    ]
    return [Term(label=label, kwh=None, minor=minor) for label, minor in found if minor]


def _terms(one: Ran, other: Beside, prices: Prices, candidate: Candidate, sun: Sun | None) -> list[Term]:
    """The sums of the middle figure, in their order."""
    bought = one.electric_w - one.taken_w
    terms = [Term(label="electricity bought", kwh=kwh(bought), minor=float((bought * prices.electricity).sum()) / 1000)]
    if sun is not None:
        taken = kwh(one.taken_w)
        terms.append(Term(label="own sun, at what its export would pay", kwh=taken, minor=taken * sun.export_minor))
    if not other.electric:
        burnt = kwh(one.fuel_w)
        terms.append(Term(label=f"{other.fuel}, burnt", kwh=burnt, minor=burnt * prices.of(other.fuel)))
    return terms + _fixed(other, prices, candidate)


def _once(job: Job, candidate: Candidate, given_minor: float) -> float | None:
    """Machine and work, backup, and what its place costs, less what is granted; None where nobody has priced the machine."""
    if candidate.cost_minor is None:
        return None
    return candidate.cost_minor + (candidate.backup.cost_minor or 0.0) + routes.cost_minor(job, candidate) - given_minor


def _months(one: Ran, done: Worked) -> list[RunMonth]:
    months = []
    for name, hours in zip(MONTHS, month_hours(), strict=True):
        heat, water = kwh(one.shared.load_w[hours]), kwh(one.water_w[hours])
        drawn, burnt = kwh(one.electric_w[hours]), kwh(one.fuel_w[hours])
        machine = kwh((one.shared.machine_w + one.machine_water_w)[hours])
        short = kwh(one.short_w[hours])
        months.append(
            RunMonth(
                name=name, outdoor_c=float(done.outdoor_c[hours].mean()), heat_kwh=heat, hot_water_kwh=water,
                machine_kwh=machine, machine_water_kwh=kwh(one.machine_water_w[hours]), beside_kwh=heat + water - machine - short,
                electricity_kwh=drawn, fuel_kwh=burnt,
                performance=(heat + water - short) / (drawn + burnt) if drawn + burnt > 0 else None,
                cycling_hours=float(one.shared.cycling[hours].sum()),
            )
        )  # fmt: skip
    return months
