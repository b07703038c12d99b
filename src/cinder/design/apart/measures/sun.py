"""What new panes keep out: better ones let in less of the sun, and what it gave is then heated for."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import replace
from functools import cache
from typing import NamedTuple

from cinder.design.curve.heating_limit import heating_limit_c
from cinder.design.findings import Findings
from cinder.design.house.tariff import prices_of
from cinder.design.house.view import HouseView, view
from cinder.design.kept import Kept
from cinder.design.result import Design
from cinder.design.year.decide import Worked, bill_by_hour_minor, bought_by_hour, work
from cinder.design.year.glass import glazing
from cinder.library import ConstructionEntry, HourlyYear
from cinder.model import Job, Measure
from cinder.physics.climate.demand import hourly_demand

KeptOut = Callable[[Job, Design], "Sun"]
"""What the sun no longer gives a house with its Design."""


class Sun(NamedTuple):
    """Heat the sun no longer gives, kWh a year, the electricity and the fuel that make it instead, kWh, and what they cost, minor
    units; less than nothing where it gives more."""

    heat_kwh: float = 0.0
    electricity_kwh: float = 0.0
    fuel_kwh: float = 0.0
    bill_minor: float = 0.0

    @property
    def bought_kwh(self) -> float:
        """Whatever it is made with."""
        return self.electricity_kwh + self.fuel_kwh

    def beyond(self, other: Sun) -> Sun:
        """What is kept out more than that."""
        return Sun(*(mine - theirs for mine, theirs in zip(self, other, strict=True)))


def kept_out(job: Job, weather: HourlyYear | None, *, shift_k: float = 0.0) -> tuple[KeptOut, str]:
    """Against a job's house as it was found, so that every screen counts from the same panes; and how it was counted, in words.

    The house after, hour by hour, once with the sun of its own panes and once with that of those found: what the second asks for less
    is heated for. Nought without an hourly year, and by the practice that counts no sun. Source: hourly balance (common practice).
    """
    kept = Kept()
    house = view(job.model_copy(update={"active_scheme": None}), Findings(), kept)
    if house.practice.year_gains != "people_and_sun":
        return _nothing, "By this job's practice the sun gives nothing."
    if weather is None or house.climate is None:
        lacks = (
            "What new panes let in less of the sun is not heated for here, since this climate carries no hourly year"
        )
        return _nothing, f"{lacks}: they save less than is said here."
    panes = glazing(house)

    @cache
    def before() -> Worked:
        return work(house, weather, shift_k=shift_k, kept=kept)

    def by(after: Job, found: Design) -> Sun:
        now = view(after, Findings(), kept)
        if glazing(now) == panes:
            return Sun()
        return _less(now, found, before(), work(now, weather, shift_k=shift_k, kept=kept))

    return by, f"What new panes let in less of the sun is heated for, by the hours of {house.climate.label}."


def other_glass(job: Job, parts: Iterable[Measure], made: Mapping[str, ConstructionEntry] | None = None) -> bool:
    """Whether any of these measures puts other panes in; `made`: constructions the job has not taken over yet."""
    known = {key: of.data for key, of in job.library.constructions.items()} | dict(made or {})
    return any((entry := known.get(one.construction or "")) and entry.glazing for one in parts)


def _nothing(after: Job, found: Design) -> Sun:
    return Sun()


def _less(house: HouseView, found: Design, before: Worked, after: Worked) -> Sun:
    demand = hourly_demand(
        outdoor_c=after.outdoor_c, loss_w=after.demand.loss_w, gains_w=before.demand.gains_w,
        heating_limit_c=heating_limit_c(house.practice, gains=True),
    )  # fmt: skip
    prices, old_panes = prices_of(house.job), replace(after, demand=demand)
    heat = float((after.demand.heat_w - demand.heat_w).sum()) / 1000
    one, two = (bought_by_hour(house, found, done, prices) for done in (old_panes, after))
    if one is None or two is None:
        return Sun(heat)
    electricity, fuel = (float(of.sum()) / 1000 for of in (two.electric_w - one.electric_w, two.fuel_w - one.fuel_w))
    return Sun(heat, electricity, fuel, bill_by_hour_minor(prices, two) - bill_by_hour_minor(prices, one))
