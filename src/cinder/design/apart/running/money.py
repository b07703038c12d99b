"""Money and carbon: what a year costs, and what heats the house today."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from cinder.design.apart.running.result import Present, Span
from cinder.design.house.prices import ELECTRICITY, present_fuel
from cinder.design.house.prices import fuel as fuel_of
from cinder.design.house.tariff import CHEAP_HOURS, Prices, cheapest
from cinder.model import Job
from cinder.physics.quantity import Array

YEARS = 15


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


def present_how(job: Job) -> str | None:
    """Storage heaters, or nothing at all: as entered, else, where no fuel is entered, as the first call said."""
    present = job.site.present
    if present.how is not None or present.fuel is not None:
        return present.how
    return {"storage": "storage", "none": "nothing"}.get(str(job.site.answers.get("fuel")))


def today(job: Job, prices: Prices, heat_w: Sequence[Array]) -> tuple[Today | None, str]:
    """What heats the house now, asked for the same heat and hot water in every hour (at the low, middle and high loss, W); else
    why not."""
    how = present_how(job)
    if how == "nothing":
        return _nothing(), ""
    key = ELECTRICITY if how == "storage" else present_fuel(job)
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
    for heat in heat_w:
        burnt_w = heat / given
        burnt = float(burnt_w.sum()) / 1000
        if key == ELECTRICITY:
            electric, fuel = _by_wire(job, prices, burnt_w), 0.0
        else:
            electric, fuel = 0.0, burnt * prices.of(key)
        three.append(Money(electric, fuel, fixed, burnt * entry.carbon_kg_per_kwh))
    label = "storage heaters" if how == "storage" else entry.label
    shown = Present(
        label=label, fuel=key, efficiency=given, why=why, fuel_kwh=float(heat_w[1].sum()) / 1000 / given,
        cost_minor=span_of(three, prices.spread),
        carbon_kg=Span(low=three[0].carbon_kg, mid=three[1].carbon_kg, high=three[2].carbon_kg),
    )  # fmt: skip
    return Today(shown, key, three), ""


def _by_wire(job: Job, prices: Prices, drawn_w: Array) -> float:
    """What electric heat of today costs: when it is wanted, or for storage heaters in the cheapest hours of its day."""
    if present_how(job) != "storage":
        return float((drawn_w * prices.electricity).sum()) / 1000
    cheap = cheapest(prices.electricity, CHEAP_HOURS)
    each = np.where(cheap, prices.electricity, 0.0).reshape(-1, 24).sum(axis=1) / CHEAP_HOURS
    return float((drawn_w.reshape(-1, 24).sum(axis=1) * each).sum()) / 1000


def _nothing() -> Today:
    none = Span(low=0.0, mid=0.0, high=0.0)
    shown = Present(
        label="no heating",
        fuel="",
        efficiency=1.0,
        why="nothing heats it",
        fuel_kwh=0.0,
        cost_minor=none,
        carbon_kg=none,
    )
    return Today(shown, "", [Money(0.0, 0.0, 0.0, 0.0)] * 3)


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
