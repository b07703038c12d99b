"""The promise held against a winter: what was promised for these days, what came, and what moved it: weather, habits, fabric, machine; what
nobody can explain is named as that."""

from __future__ import annotations

import datetime as dt

import numpy as np

from cinder.design import Design, losses
from cinder.design.apart.running.result import Span
from cinder.design.base import Result
from cinder.design.curve.heating_limit import heating_limit_c
from cinder.design.explained import num
from cinder.design.findings import Findings
from cinder.design.house.view import view
from cinder.design.year.decide import work, year_loss
from cinder.field.winter.decide import sun_worth
from cinder.field.winter.result import WinterFound
from cinder.handover.promise import Promise
from cinder.library import HourlyYear
from cinder.model import Job
from cinder.physics.measured.signature import KWH_PER_WK
from cinder.physics.quantity import Array, Num

LEAST_DAYS = 30
SHORT_K = 0.5
"""A room cooler than promised by more than this is short (our choice): what thermometers differ by."""


class Mover(Result):
    """Something that moved the winter from the promise, kWh of heat; `share` of the promise."""

    key: str
    label: str
    kwh: float
    says: str


class RoomKept(Result):
    """A room asked to be at so much, and how it was in the cold hours; `short`: cooler than the promise by more than half a kelvin."""

    label: str
    target_c: float
    promised_c: float
    cold_c: float
    short: bool


class Kept(Result):
    """Heat for the rooms, kWh, of the days that were read: promised for ordinary days of the same dates, as lived, and put right for
    weather and habits; `within`: the one put right lies in the promised range."""

    lacks: str
    sentence: str
    days: int
    of_year: float
    """Part of an ordinary year's heat that falls on these dates."""
    promised: Span | None
    lived_kwh: float
    normal_kwh: float | None
    normal_year_kwh: Span | None
    """What an ordinary year would take, by what was measured."""
    within: bool
    movers: list[Mover]
    unexplained_kwh: float | None
    electricity_kwh: float | None
    electricity_normal_kwh: float | None
    cost_normal_minor: Span | None
    rooms: list[RoomKept]
    """Rooms with a thermometer: as promised and as they were in cold weather."""


def kept(
    job: Job, design: Design, promised: Promise, winter: WinterFound, weather: HourlyYear | None, *, shift_k: float = 0.0,
    price_minor: float | None = None,
) -> Kept:  # fmt: skip
    """One winter against the promise. Each step changes one thing from what was promised to what was lived, in this order; common practice."""
    # a stretch between two readings counts as so many days like their mean
    points = [
        one.model_copy(update={"day": one.day + dt.timedelta(n - one.days // 2)}) if one.days > 1 else one
        for one in winter.points
        if not one.odd
        for n in range(one.days)
    ]
    found = winter.signature
    if promised.lacks or promised.heat_kwh is None or weather is None or len(points) < LEAST_DAYS or found is None:
        lacks = (
            promised.lacks
            or winter.signature_lacks
            or f"{len(points)} whole days: {LEAST_DAYS} are needed to hold a promise against."
        )
        return _nothing(lacks, (points and sum(one.heat_kwh for one in points)) or 0.0, len(points))
    house = view(job, Findings())
    loss = year_loss(house, losses.of_house(house, Findings()))
    done = work(house, weather, loss=loss, shift_k=shift_k)
    day_heat = done.demand.heat_w.reshape(365, 24).sum(axis=1) / 1000
    day_air = done.outdoor_c.reshape(365, 24).mean(axis=1)
    at = np.array([_of_year(one.day) for one in points])
    ordinary = float(day_heat[at].sum())
    share = ordinary / max(float(day_heat.sum()), 1e-9)
    span = promised.heat_kwh
    given = Span(low=span.low * share, mid=span.mid * share, high=span.high * share)
    limit = heating_limit_c(job.practice, gains=job.practice.year_gains != "none")
    edge = limit if limit is not None else 16.0
    below = loss.inside_c - edge
    air, inside = np.array([one.outdoor_c for one in points]), np.array([one.inside_c for one in points])
    typical = day_air[at]
    ours, theirs = loss.per_k * KWH_PER_WK, found.h_w_k.mid * KWH_PER_WK
    sunny = np.array([one.sun_w_m2 if one.sun_w_m2 is not None else 0.0 for one in points])
    level = np.asarray(weather.ghi_w_m2).reshape(365, 24).mean(axis=1) * sun_worth(house, loss, weather)
    usual = level[at] if sunny.any() else np.zeros(len(at))
    seen = found.below_k + found.sun_k_per_w_m2 * usual
    seen_then = found.below_k + found.sun_k_per_w_m2 * sunny

    def heat(by_kelvin: float, out: Array, room: Array, edge_k: Num) -> float:
        return float((by_kelvin * np.maximum(room - out - edge_k, 0.0)).sum())

    agreed = np.full(len(air), loss.inside_c)
    designed = heat(ours, typical, agreed, below)
    scale = ordinary / designed if designed > 0 else 1.0
    fabric = heat(theirs, typical, agreed, below)
    gains = heat(theirs, typical, agreed, seen)
    weathered = heat(theirs, air, agreed, seen_then)
    lived_in = heat(theirs, air, inside, seen_then)
    lived = float(sum(one.heat_kwh for one in points)) - found.base_kwh.mid * len(points)
    steps = [
        ("fabric", "What the house loses", (fabric - designed) * scale,
         f"{num(found.h_w_k.mid, 0)} W/K measured, {num(loss.per_k, 0)} designed"),
        ("gains", "What people and sun are worth", gains - fabric * scale,
         f"heating begins {num(float(np.mean(seen)), 1)} K below the rooms, {num(below, 1)} designed"),
        ("weather", "Weather and sun", weathered - gains, _weather_says(air, typical)),
        ("habits", "How warm it was kept", lived_in - weathered,
         f"the rooms at {num(float(inside.mean()), 1)} °C in the mean instead of {num(loss.inside_c, 1)}"),
    ]  # fmt: skip
    movers = [Mover(key=key, label=label, kwh=kwh, says=says) for key, label, kwh, says in steps]
    unexplained = lived - given.mid - sum(one.kwh for one in movers)
    normal = lived - sum(one.kwh for one in movers if one.key in ("weather", "habits"))
    off = found.h_w_k.high / found.h_w_k.mid - 1
    year = Span(low=normal * (1 - off) / share, mid=normal / share, high=normal * (1 + off) / share)
    machine = winter.machine
    # where something burns beside the machine, nobody says which of them gave the heat that was read
    performance = machine.performance if machine is not None and not promised.fuel else None
    drawn = lived / performance if performance else None
    drawn_normal = normal / performance if performance else None
    cost = None
    if performance and price_minor:
        low, mid, high = (kwh / performance * price_minor for kwh in (year.low, year.mid, year.high))
        cost = Span(low=low, mid=mid, high=high)
    within = given.low - 1e-9 <= normal <= given.high + 1e-9
    return Kept(
        lacks="", sentence=_sentence(given, lived, normal, movers, unexplained, within=within), days=len(points), of_year=share, promised=given,
        lived_kwh=lived, normal_kwh=normal, normal_year_kwh=year, within=within, movers=movers, unexplained_kwh=unexplained,
        electricity_kwh=drawn, electricity_normal_kwh=drawn_normal, cost_normal_minor=cost, rooms=_rooms(promised, winter),
    )  # fmt: skip


def _rooms(promised: Promise, winter: WinterFound) -> list[RoomKept]:
    """A room is promised what it reaches on the coldest day, or its target where that is less."""
    seen = {one.id: one.cold_c for one in winter.rooms}
    out = []
    for one in promised.rooms:
        cold = seen.get(one.id)
        if cold is None:
            continue
        least = min(one.target_c, one.reached_c) if one.reached_c is not None else one.target_c
        out.append(
            RoomKept(
                label=one.label, target_c=one.target_c, promised_c=least, cold_c=cold, short=cold < least - SHORT_K
            )
        )
    return out


def _nothing(lacks: str, lived: float, days: int) -> Kept:
    return Kept(
        lacks=lacks, sentence=lacks, days=days, of_year=0.0, promised=None, lived_kwh=float(lived), normal_kwh=None, normal_year_kwh=None,
        within=False, movers=[], unexplained_kwh=None, electricity_kwh=None, electricity_normal_kwh=None, cost_normal_minor=None, rooms=[],
    )  # fmt: skip


def _of_year(day: dt.date) -> int:
    """The day in an ordinary year, 0 to 364; the 29th of February is the 28th."""
    if day.month == 2 and day.day == 29:
        day = day.replace(day=28)
    return dt.date(2023, day.month, day.day).timetuple().tm_yday - 1


def _weather_says(air: Array, typical: Array) -> str:
    off = float(air.mean() - typical.mean())
    return f"{num(abs(off), 1)} K {'milder' if off >= 0 else 'colder'} than ordinary days of the same dates"


def _sentence(
    given: Span, lived: float, normal: float, movers: list[Mover], unexplained: float, *, within: bool
) -> str:
    most = max(movers, key=lambda one: abs(one.kwh))
    held = "**kept**" if within else "**not kept**" if normal > given.high else "**better than promised**"
    said = (
        f"Promised **{num(given.low, 0)} to {num(given.high, 0)} kWh** for these days, lived **{num(lived, 0)}**; with ordinary weather and "
        f"the rooms as agreed **{num(normal, 0)}**: {held}."
    )
    said += f" Most of it moved by {most.label.lower()} ({num(most.kwh, 0)} kWh)"
    return said + f"; {num(abs(unexplained), 0)} kWh nobody can explain."
