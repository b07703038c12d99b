"""Money and carbon: what energy costs in every hour, what stands beside a machine, what heats the house today."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cinder.design.apart.running.result import Present, Span
from cinder.design.house.prices import fuel as fuel_of
from cinder.design.house.prices import price_minor_per_kwh
from cinder.model import Job
from cinder.model.defaults import CALL_FUELS
from cinder.model.scheme import Backup
from cinder.physics.quantity import Array
from cinder.physics.weather import HOURS

Mask = NDArray[np.bool_]
ELECTRICITY = "electricity"
YEARS = 15
SPREAD, RISE = 0.15, 0.02
"""How far next year's prices may lie off, and their rise a year, where nobody says (our choice)."""


@dataclass(frozen=True, slots=True)
class Prices:
    """What a kWh costs in every hour of the year, and a year of standing charges; carbon of a kWh; how far prices may be off."""

    job: Job
    electricity: Array
    spread: float
    rise: float

    def of(self, key: str) -> float:
        return price_minor_per_kwh(self.job, key)

    def carbon(self, key: str) -> float:
        found = fuel_of(self.job, key)
        return found.carbon_kg_per_kwh if found else 0.0

    def standing(self, key: str) -> float:
        return self.job.tariff.standing_minor.get(key, 0.0)


@dataclass(frozen=True, slots=True)
class Beside:
    """What stands beside a machine, with everything that is known of it."""

    backup: Backup
    fuel: str
    efficiency: float
    label: str

    @property
    def electric(self) -> bool:
        return self.fuel == ELECTRICITY


@dataclass(frozen=True, slots=True)
class Money:
    """A year: electricity, fuel and what is paid whatever is burnt, minor units; carbon, kg."""

    electric: float
    fuel: float
    fixed: float
    carbon_kg: float

    def at(self, electric: float, fuel: float) -> float:
        """With both prices moved by a factor."""
        return self.electric * electric + self.fuel * fuel + self.fixed


@dataclass(frozen=True, slots=True)
class Today:
    """What heats the house now, at the low, the middle and the high loss."""

    shown: Present
    fuel: str
    three: list[Money]


def prices_of(job: Job) -> Prices:
    """The tariff as hours: the night's price from its first to its last hour."""
    tariff, day = job.tariff, price_minor_per_kwh(job)
    hour = np.arange(HOURS) % 24
    electricity = np.full(HOURS, day)
    if tariff.night_minor is not None:
        electricity[within(hour, tariff.night_from_h, tariff.night_to_h)] = tariff.night_minor
    return Prices(
        job, electricity, tariff.spread if tariff.spread is not None else SPREAD,
        tariff.rise if tariff.rise is not None else RISE,
    )  # fmt: skip


def within(hour: NDArray[np.intp], start: int, end: int) -> Mask:
    return (hour >= start) & (hour < end) if start <= end else (hour >= start) | (hour < end)


def beside(job: Job, backup: Backup) -> Beside:
    """What stands beside a machine; a boiler that stays burns what the house burns today, one that is new gas."""
    if backup.kind in ("heater", "none"):
        return Beside(backup, ELECTRICITY, 1.0, "a heater in the water" if backup.kind == "heater" else "nothing")
    key = backup.fuel
    if key is None:
        key = "logs" if backup.kind == "stove" else (present_fuel(job) or "gas") if backup.kind == "boiler" else "gas"
    entry = fuel_of(job, key)
    usual = (
        (0.6, 0.8) if entry is None else entry.new_efficiency if backup.kind == "new boiler" else entry.old_efficiency
    )
    efficiency = backup.efficiency or sum(usual) / 2
    name = {"boiler": "the boiler that is there", "new boiler": "a new boiler", "stove": "a stove"}[backup.kind]
    return Beside(backup, key, efficiency, f"{name} ({entry.label if entry else key})")


def present_fuel(job: Job) -> str | None:
    """What heats the house today, by its key in the tables: as entered, as the bills say, as the first call said."""
    if job.site.present.fuel is not None:
        return job.site.present.fuel
    bought: dict[str, float] = {}
    for bill in job.site.bills.values():
        entry = fuel_of(job, bill.fuel)
        per = entry.gross_kwh_per_unit if entry and bill.unit == "unit" else 1.0
        bought[bill.fuel] = bought.get(bill.fuel, 0.0) + (bill.amount or 0.0) * per
    if bought:
        return max(bought, key=lambda key: bought[key])
    return CALL_FUELS.get(str(job.site.answers.get("fuel")))


def today(job: Job, prices: Prices, heat_kwh: Sequence[float]) -> tuple[Today | None, str]:
    """What heats the house today, asked for the same heat and hot water (at the low, middle and high loss); else why not."""
    key = present_fuel(job)
    entry = fuel_of(job, key) if key else None
    if key is None or entry is None:
        return None, "Nobody says what heats the house today: there is nothing to compare with."
    given, why = job.site.present.efficiency, "as entered"
    bill = next((b for b in job.site.bills.values() if b.fuel == key), None)
    if given is None and bill is not None and bill.efficiency is not None:
        given, why = bill.efficiency, "as on its bill"
    if given is None:  # as the bills reckon it
        old = bill is None or bill.old_boiler
        usual = entry.old_efficiency if old else entry.new_efficiency
        given, why = sum(usual) / 2, f"usual for {'an old' if old else 'a newer'} heater on {entry.label}"
    fixed = prices.standing(key) + (job.site.present.service_minor or 0.0)
    fixed += prices.standing(ELECTRICITY) if key != ELECTRICITY else 0.0
    three = []
    for heat in heat_kwh:
        burnt = heat / given
        money = burnt * prices.of(key)
        by_wire = key == ELECTRICITY
        three.append(
            Money(money if by_wire else 0.0, 0.0 if by_wire else money, fixed, burnt * entry.carbon_kg_per_kwh)
        )
    shown = Present(
        label=entry.label, fuel=key, efficiency=given, why=why, fuel_kwh=heat_kwh[1] / given,
        cost_minor=span_of(three, prices.spread),
        carbon_kg=Span(low=three[0].carbon_kg, mid=three[1].carbon_kg, high=three[2].carbon_kg),
    )  # fmt: skip
    return Today(shown, key, three), ""


def span_of(three: Sequence[Money], spread: float) -> Span:
    """The cost at the low loss and low prices, as reckoned, and at the high ones."""
    low, mid, high = three
    down, up = 1 - spread, 1 + spread
    return Span(low=low.at(down, down), mid=mid.at(1.0, 1.0), high=high.at(up, up))


def saving(now: Today, three: Sequence[Money], fuel: str, spread: float) -> Span:
    """What a machine saves against today: the same loss on both sides, every price free to move by itself, one fuel at one
    price."""
    found = []
    for was, will in zip(now.three, three, strict=True):
        for electric in (1 - spread, 1 + spread):
            for burnt in (1 - spread, 1 + spread):
                for other in (burnt,) if fuel == now.fuel else (1 - spread, 1 + spread):
                    found.append(was.at(electric, burnt) - will.at(electric, other))
    return Span(low=min(found), mid=now.three[1].at(1.0, 1.0) - three[1].at(1.0, 1.0), high=max(found))


def fifteen_years(cost: Span, once: float, rise: float) -> Span:
    """Paid once, and fifteen years of running at prices that rise; not discounted."""
    factor = sum((1 + rise) ** n for n in range(YEARS))
    return Span(low=once + cost.low * factor, mid=once + cost.mid * factor, high=once + cost.high * factor)


def range_why(loss_range: tuple[float, float] | None, prices: Prices) -> str:
    said = f"prices ±{prices.spread:.0%}"
    if loss_range is not None:
        said += f", the loss from {loss_range[0]:.0%} (P10) to {loss_range[1]:.0%} (P90) of the figure"
    return said


def tariff_words(job: Job) -> str:
    tariff, day = job.tariff, price_minor_per_kwh(job)
    if tariff.night_minor is None:
        return f"{day:g} a kWh all day"
    return f"{day:g} a kWh, {tariff.night_minor:g} from {tariff.night_from_h}:00 to {tariff.night_to_h}:00"
