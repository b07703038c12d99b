"""The promise: energy, cost and rooms as they are promised at the hand-over, as ranges, with what they rest on."""

from __future__ import annotations

from cinder.design import losses
from cinder.design.apart.doubts.result import Doubts
from cinder.design.apart.running.result import Running, Runs, Span
from cinder.design.base import Result
from cinder.design.curve.heating_limit import heating_limit_c
from cinder.design.explained import num
from cinder.design.findings import Findings
from cinder.design.house.prices import fuel
from cinder.design.house.view import view
from cinder.design.machine.beside import beside
from cinder.design.result import Design
from cinder.design.year.decide import work, year_loss
from cinder.library import HourlyYear
from cinder.model import Job
from cinder.physics.climate.weather import degree_days_kd


class RoomPromise(Result):
    id: str
    label: str
    target_c: float
    reached_c: float | None
    """On the coldest day it is designed for."""


class Promise(Result):
    """What is promised for an ordinary year, and what it rests on: the house's loss per kelvin with its P10 and P90, the mean room
    temperature, degree days of the climate to the temperature at which heating begins."""

    lacks: str
    sentence: str
    climate: str
    heat_kwh: Span | None
    hot_water_kwh: float
    electricity_kwh: Span | None
    fuel: str = ""
    """What burns beside the machine, in words; empty where nothing does."""
    fuel_kwh: Span | None = None
    cost_minor: Span | None
    season: Span | None
    h_w_k: Span | None
    inside_c: float
    limit_c: float | None
    base_c: float | None
    degree_days_kd: float | None
    rooms: list[RoomPromise]
    rests_on: list[str]


def promise(
    job: Job, design: Design, doubts: Doubts, runs: Runs, weather: HourlyYear | None, *, shift_k: float = 0.0
) -> Promise:
    """What the chosen machine of the scheme on show is promised to do in this house."""
    house = view(job, Findings())
    row = next((one for one in runs.rows if one.chosen), None)
    limit = heating_limit_c(house.practice, gains=house.practice.year_gains != "none")
    rooms = [
        RoomPromise(id=room.id, label=room.label, target_c=room.target_c, reached_c=room.reached_c) for room in design.rooms if room.emitters
    ]  # fmt: skip
    loss = year_loss(house, losses.of_house(house, Findings()))
    if row is None or weather is None:
        lacks = runs.lacks or "A chosen machine, and a climate with its hours: then something can be promised."
        return Promise(
            lacks=lacks, sentence=lacks, climate=runs.climate_label, heat_kwh=None, hot_water_kwh=0.0, electricity_kwh=None,
            cost_minor=None, season=None, h_w_k=None, inside_c=loss.inside_c, limit_c=limit, base_c=limit, degree_days_kd=None, rooms=rooms,
            rests_on=[],
        )  # fmt: skip
    done = work(house, weather, loss=loss, shift_k=shift_k)
    on = done.demand.on
    base = loss.where_c(float(done.demand.gains_w[on].mean()) if on.any() else 0.0)
    span, total = doubts.house, design.house.loss_w
    shares = (span.p10_w / total, span.p90_w / total) if span is not None and total else (1.0, 1.0)
    heat = Span(low=min(row.heat_range), mid=row.heat_kwh, high=max(row.heat_range))
    season_mid = row.whole if row.whole is not None else row.performance
    seasons = row.performance_range or ([season_mid, season_mid] if season_mid else [])
    season = Span(low=seasons[0], mid=row.performance, high=seasons[1]) if seasons and row.performance else None
    electric = Span(low=row.electricity_range[0], mid=row.electricity_kwh, high=row.electricity_range[1])
    burnt, what = _burnt(job, row)
    also = f" and **{num(burnt.low, 0)} to {num(burnt.high, 0)} kWh** of {what}" if burnt is not None else ""
    return Promise(
        lacks="", climate=runs.climate_label, heat_kwh=heat, hot_water_kwh=row.hot_water_kwh, electricity_kwh=electric,
        fuel=what, fuel_kwh=burnt,
        cost_minor=row.cost_minor, season=season, h_w_k=Span(low=loss.per_k * shares[0], mid=loss.per_k, high=loss.per_k * shares[1]),
        inside_c=loss.inside_c, limit_c=limit, base_c=base, degree_days_kd=degree_days_kd(done.outdoor_c, base_c=base), rooms=rooms,
        rests_on=[
            f"an ordinary year of {runs.climate_label}",
            f"the rooms kept at {num(loss.inside_c, 1)} °C in the mean, day and night",
            f"prices as they are entered: {runs.tariff}",
            f"hot water of {num(row.hot_water_kwh, 0)} kWh a year",
            runs.range_why,
        ],
        sentence=(
            f"**{num(electric.low, 0)} to {num(electric.high, 0)} kWh** of electricity{also} in an ordinary year, "
            f"**{num(row.cost_minor.low / 100, 0)} to {num(row.cost_minor.high / 100, 0)} {job.currency}**, with the rooms at "
            f"{num(loss.inside_c, 1)} °C in the mean."
        ),
    )  # fmt: skip


def _burnt(job: Job, row: Running) -> tuple[Span | None, str]:
    """What burns beside the machine in an ordinary year, and what it is called."""
    if row.blended is None:
        return None, ""
    scheme = job.schemes[job.active_scheme or ""]
    key = beside(job, scheme.candidates[row.id].backup).fuel
    known = fuel(job, key)
    return Span(low=row.fuel_range[0], mid=row.fuel_kwh, high=row.fuel_range[1]), known.label if known else key
