"""The house hour by hour through a year: what it loses, what sun and people give, what the machine draws."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.design import losses
from cinder.design.curve.heating_limit import heating_limit_c
from cinder.design.explained import num
from cinder.design.findings import Findings
from cinder.design.house.climate import MONTHS
from cinder.design.house.tariff import Prices, prices_of
from cinder.design.house.view import HouseView, view
from cinder.design.kept import Kept
from cinder.design.losses.evaluate import LossArrays
from cinder.design.machine.beside import Beside, beside_chosen, worth_by_hour
from cinder.design.machine.load import performance
from cinder.design.machine.result import SeasonResult
from cinder.design.result import Design
from cinder.design.year.glass import Glass, glazing, sun_on
from cinder.design.year.result import Month, SunFace, Year
from cinder.library import HourlyYear
from cinder.model import Job
from cinder.physics.climate.demand import HourlyDemand, held_back_w, hourly_demand
from cinder.physics.climate.weather import HOURS, degree_days_kd, month_hours
from cinder.physics.machine import heat_pump
from cinder.physics.machine.season import season_over_bins
from cinder.physics.quantity import Array, Num

BEARINGS = ("N", "NE", "E", "SE", "S", "SW", "W", "NW")
COLDEST_C, WARMEST_C = -70.0, 60.0
RISES_FROM_C, RISES_TO_C = 0.0, 10.0
"""Ordinary heating weather, between which the loss per kelvin is read."""


@dataclass(slots=True)
class YearLoss:
    """The house's loss through the year, W, over the outdoor temperature: straight between `at_c` (K,); without what
    belongs to the design day alone."""

    at_c: Array
    at_w: Array
    inside_c: float
    area_m2: float

    def loss_w(self, outdoor_c: Num) -> Array:
        return np.asarray(np.interp(outdoor_c, self.at_c, self.at_w))

    @property
    def per_k(self) -> float:
        """Its fall for every kelvin of ordinary heating weather, W/K."""
        cold, mild = (float(self.loss_w(at)) for at in (RISES_FROM_C, RISES_TO_C))
        return (cold - mild) / (RISES_TO_C - RISES_FROM_C)

    def where_c(self, watts: float) -> float:
        """The outdoor temperature at which the house loses so much, deg C."""
        falls = np.minimum.accumulate(self.at_w)
        return float(np.interp(-watts, -falls, self.at_c)) if self.per_k > 0 else self.inside_c

    def kept_at(self, inside_c: float, *, ordinary_c: float) -> YearLoss:
        """The same house kept at another mean temperature, by its whole loss per kelvin on an ordinary heating day."""
        lift = self.inside_c - ordinary_c
        whole = float(self.loss_w(ordinary_c)) / lift if lift > 0 else self.per_k
        return YearLoss(self.at_c, self.at_w + whole * (inside_c - self.inside_c), inside_c, self.area_m2)


def year_loss(house: HouseView, arrays: LossArrays) -> YearLoss:
    """Loss of the house through the year, by the same reading as the season's bins."""
    year = losses.through_the_year(house, arrays)
    at = np.arange(COLDEST_C, WARMEST_C + 0.5)
    if house.outdoor_c is not None:
        at = np.union1d(at, [house.outdoor_c])
    area = float(arrays.area_m2[arrays.complete].sum())
    inside = float((arrays.target_c * arrays.area_m2)[arrays.complete].sum() / area) if area else 20.0
    return YearLoss(at, losses.loads(year, at).house_w, inside, area)


@dataclass(slots=True)
class Worked:
    """A year worked through: what fed it and what came of it."""

    loss: YearLoss
    outdoor_c: Array
    sun_w: Array
    people_w: float
    glass: list[tuple[Glass, Array]]
    demand: HourlyDemand


def work(
    house: HouseView,
    weather: HourlyYear,
    *,
    loss: YearLoss | None = None,
    shift_k: float = 0.0,
    kept: Kept | None = None,
) -> Worked:
    """The demand of every hour on a house as it is viewed; `shift_k` carries the weather to another altitude."""
    if loss is None:
        loss = year_loss(house, losses.of_house(house, Findings(), kept))
    gains_by = house.practice.year_gains
    outdoor = weather.outdoor_c + shift_k
    glass = [(g, sun_on(house, weather, g.azimuth_deg, g.tilt_deg)) for g in glazing(house)] if (
        gains_by == "people_and_sun"
    ) else []  # fmt: skip
    sun = np.zeros(HOURS)
    for one, irradiance in glass:
        sun = sun + one.effective_m2 * irradiance
    people = 0.0 if gains_by == "none" else house.practice.people_w_per_m2 * loss.area_m2
    gains = held_back_w(sun, hold_h=house.practice.gain_hold_h) + people
    demand = hourly_demand(
        outdoor_c=outdoor, loss_w=loss.loss_w(outdoor), gains_w=gains,
        heating_limit_c=heating_limit_c(house.practice, gains=gains_by != "none"),
    )  # fmt: skip
    return Worked(loss, outdoor, sun, people, glass, demand)


def judge(
    job: Job, design: Design, weather: HourlyYear | None, *, shift_k: float = 0.0, kept: Kept | None = None
) -> Year:
    """The year of the scheme shown, month by month. Source: hourly balance (common practice), sun by pvlib."""
    house = view(job, Findings(), kept)
    if weather is None or house.climate is None:
        return _nothing(house, "This climate carries no hourly year: bring a weather file, or choose a generic one.")
    if not any(room.volume_m3 for room in house.rooms):
        return _nothing(house, "No room is complete yet.")
    done = work(house, weather, shift_k=shift_k, kept=kept)
    prices = prices_of(job)
    bought = bought_by_hour(house, design, done, prices)
    heat = done.demand.heat_w
    base = _base_c(done)
    months = [_month(name, hours, done, bought) for name, hours in zip(MONTHS, month_hours(), strict=True)]
    drawn, burnt, short = (
        (_kwh(bought.electric_w), _kwh(bought.fuel_w), _kwh(bought.short_w)) if bought else (None, 0.0, 0.0)
    )
    total = float(heat.sum()) / 1000
    counted = np.minimum(done.demand.gains_w, done.demand.loss_w) * (done.demand.on)
    days = heat.reshape(365, 24).mean(axis=1)
    coldest = min(range(12), key=lambda m: months[m].outdoor_c)
    return Year(
        lacks="",
        climate_label=house.climate.label,
        synthetic=house.climate.synthetic,
        heat_kwh=total,
        loss_kwh=float(done.demand.loss_w[done.demand.on].sum()) / 1000,
        sun_kwh=float(done.sun_w[done.demand.on].sum()) / 1000,
        people_kwh=done.people_w * float(done.demand.on.sum()) / 1000,
        electricity_kwh=drawn,
        fuel="" if bought is None or bought.other.electric else bought.other.fuel,
        fuel_kwh=burnt,
        beside=bought.other.label if bought else "",
        short_kwh=short,
        performance=(total - short) / (drawn + burnt) if drawn else None,
        bill_minor=bill_by_hour_minor(prices, bought) if bought else None,
        greatest_w=float(heat.max()),
        coldest_month_w=float(heat[month_hours()[coldest]].mean()),
        heating_hours=float((heat > 0).sum()),
        degree_days_kd=degree_days_kd(done.outdoor_c, base_c=base),
        degree_base_c=base,
        by_degree_days_kwh=done.loss.per_k * degree_days_kd(done.outdoor_c, base_c=base) * 24 / 1000,
        months=months,
        glass=[
            SunFace(
                bearing=_bearing(one), azimuth_deg=one.azimuth_deg or 0.0, tilt_deg=one.tilt_deg, area_m2=one.area_m2,
                sun_kwh=one.effective_m2 * float(irradiance[done.demand.on].sum()) / 1000,
            )
            for one, irradiance in done.glass
        ],
        day_outdoor_c=done.outdoor_c.reshape(365, 24).mean(axis=1).round(2).tolist(),
        day_heat_w=days.round(0).tolist(),
        school={"people_and_sun": "people, devices and sun", "people": "people and devices", "none": "no gains"}[
            house.practice.year_gains
        ],
        by_bins=_by_bins(design.season, total, drawn, burnt),
        sentence=_sentence(total, drawn, burnt, short, bought, float(counted.sum()) / 1000, house),
    )  # fmt: skip


def _bearing(glass: Glass) -> str:
    if glass.tilt_deg == 0:
        return "up"
    if glass.azimuth_deg is None:
        return "not known"
    return BEARINGS[round(glass.azimuth_deg / 45.0) % 8]


def _base_c(done: Worked) -> float:
    """Base temperature: where loss and mean gains of the heating season meet."""
    on = done.demand.on
    gains = float(done.demand.gains_w[on].mean()) if on.any() else 0.0
    return done.loss.where_c(gains)


@dataclass(slots=True)
class Bought:
    """What the heat of every hour takes (8760,), W: electricity, and what burns beside the machine; heat nobody gives."""

    electric_w: Array
    fuel_w: Array
    short_w: Array
    other: Beside


def bought_by_hour(house: HouseView, design: Design, done: Worked, prices: Prices) -> Bought | None:
    """At the water the controller's line asks for, the rooms alone."""
    table = performance(house)
    if house.machine is None or table is None or not design.curve.line_c:
        return None
    water = np.interp(done.outdoor_c, design.curve.outdoor_c, design.curve.line_c)
    water = water + design.separation.lift_at(done.outdoor_c)
    other, heated = beside_chosen(house), done.demand.heat_w > 0
    own = done.demand.heat_w * own_part(design)
    lost = design.outdoor_pipes.loss_at(water_c=water - house.spread_k / 2, outdoor_c=done.outdoor_c)
    summed = season_over_bins(
        hours=np.ones(HOURS), load_w=done.demand.heat_w - own + np.where(heated, lost, 0.0),
        operation=heat_pump.operate(table, outdoor_c=done.outdoor_c, water_c=water), degradation=house.practice.cycling_degradation,
        always_on_w=house.machine.always_on_w + design.separation.pump_w, second=other.second(worth_by_hour(other, prices)),
    )  # fmt: skip
    fans_w = sum(e.electric_w for room in design.rooms for e in room.emitters)
    rest = summed.backup_kwh * 1000
    none = np.zeros(HOURS)
    return Bought(
        summed.electricity_kwh * 1000 + own + np.where(heated, fans_w, 0.0), none if other.electric else rest / other.efficiency,
        rest if other.missing else none, other,
    )  # fmt: skip


def own_part(design: Design) -> float:
    """Share of the season's heat that heaters of their own give."""
    season = design.season
    return season.own_heat_kwh / season.heat_kwh if season.heat_kwh else 0.0


def _kwh(watts: Array) -> float:
    return float(watts.sum()) / 1000


def bill_by_hour_minor(prices: Prices, bought: Bought) -> float:
    """Every hour's electricity at its price, and the fuel."""
    fuel = 0.0 if bought.other.electric else _kwh(bought.fuel_w) * prices.of(bought.other.fuel)
    return float((bought.electric_w * prices.electricity).sum()) / 1000 + fuel


def _month(name: str, hours: slice, done: Worked, bought: Bought | None) -> Month:
    on = done.demand.on[hours]
    outdoor = done.outdoor_c[hours]
    days = outdoor.reshape(-1, 24).mean(axis=1)
    return Month(
        name=name,
        outdoor_c=float(outdoor.mean()),
        degree_days_kd=float(np.maximum(_base_c(done) - days, 0.0).sum()),
        loss_kwh=float(done.demand.loss_w[hours][on].sum()) / 1000,
        sun_kwh=float(done.sun_w[hours][on].sum()) / 1000,
        people_kwh=done.people_w * float(on.sum()) / 1000,
        heat_kwh=float(done.demand.heat_w[hours].sum()) / 1000,
        electricity_kwh=_kwh(bought.electric_w[hours]) if bought is not None else None,
        fuel_kwh=_kwh(bought.fuel_w[hours]) if bought is not None else 0.0,
    )


def _nothing(house: HouseView, lacks: str) -> Year:
    return Year(
        lacks=lacks, climate_label=house.climate.label if house.climate else "", synthetic=False, heat_kwh=None,
        loss_kwh=None, sun_kwh=None, people_kwh=None, electricity_kwh=None, fuel="", fuel_kwh=0.0, beside="", short_kwh=0.0,
        performance=None, bill_minor=None,
        greatest_w=None, coldest_month_w=None, heating_hours=None, degree_days_kd=None, degree_base_c=None,
        by_degree_days_kwh=None, months=[], glass=[], day_outdoor_c=[], day_heat_w=[], school="", by_bins="", sentence=lacks,
    )  # fmt: skip


def _by_bins(season: SeasonResult, heat: float, drawn: float | None, burnt: float) -> str:
    """The season the other screens count by, beside the year: two routes to one thing, each by its name."""
    if season.heat_kwh is None:
        return ""
    said = "Hour by hour, with the gains of each hour. Counted by the climate's bins with one constant gain, as the machine, the "
    said += f"schemes and the ways to cooler water are compared, it is {num(season.heat_kwh, 0)} kWh of heat"
    if season.electricity_kwh is not None and season.bought_kwh is not None and drawn:
        fuel = f" and {num(season.fuel_kwh, 0)} kWh of fuel" if season.fuel else ""
        more = _more(season.bought_kwh / (drawn + burnt) - 1)
        said += f"{',' if fuel else ' and'} {num(season.electricity_kwh, 0)} kWh of electricity{fuel} ({more})"
    elif heat:
        said += f" ({_more(season.heat_kwh / heat - 1)})"
    return said + "."


def _more(share: float) -> str:
    return f"{abs(share):.1%} {'more' if share > 0 else 'less'}"


def _sentence(
    heat: float, drawn: float | None, burnt: float, short: float, bought: Bought | None, gains: float, house: HouseView
) -> str:
    said = f"Through the year the house asks for **{num(heat, 0)} kWh** of heat"
    if gains > 0:
        said += f"; people and sun give {num(gains, 0)} kWh"
    if drawn is not None:
        said += f", and the machine draws **{num(drawn, 0)} kWh**"
    if bought is not None and not bought.other.electric:
        said += f"; {bought.other.label} burns **{num(burnt, 0)} kWh** of fuel beside it"
    if short > 0:
        said += f"; **{num(short, 0)} kWh** nobody gives, for nothing stands beside it"
    said += "."
    if house.climate is not None and house.climate.synthetic:
        said += " The year is synthetic, not measured."
    return said
