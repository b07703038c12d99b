"""The candidates through a year of hours, and what heats the house today."""

from __future__ import annotations

from cinder.design.base import Result


class Span(Result):
    """A figure with the range its inputs give it."""

    low: float
    mid: float
    high: float


class RunMonth(Result):
    """One month of a candidate, kWh; `performance` of the whole plant, None where nothing ran."""

    name: str
    outdoor_c: float
    heat_kwh: float
    hot_water_kwh: float
    machine_kwh: float
    machine_water_kwh: float
    """Of it for hot water."""
    beside_kwh: float
    electricity_kwh: float
    fuel_kwh: float
    performance: float | None
    cycling_hours: float


class Present(Result):
    """What heats the house today, reckoned for the same heat: what a machine is compared with."""

    label: str
    fuel: str
    efficiency: float
    why: str
    fuel_kwh: float
    cost_minor: Span
    carbon_kg: Span


class Term(Result):
    """One sum of a year's money: so many kWh at so much, or an amount that is paid whatever is burnt."""

    label: str
    kwh: float | None
    minor: float


class Granted(Result):
    """A grant for one candidate: its amount, or which of its conditions does not hold."""

    label: str
    amount_minor: float
    why: str


class Shifted(Result):
    """A share of the dear hours' heat moved into the cheap hours of its day: how much fits, by how much warmer the water is
    there and its hottest, what more is drawn, what that saves, by how much the rooms swing; `beyond`: the water leaves the
    machine's envelope in some hours."""

    share: float
    moved_kwh: float
    warmer_k: float
    hottest_c: float | None
    electricity_more_kwh: float
    saves_minor: float
    swing_k: float | None
    beyond: bool


class OwnSun(Result):
    """The house's own solar electricity in a year, kWh."""

    made_kwh: float
    household_kwh: float
    """Of it the household takes."""


class Running(Result):
    """One candidate through the year.

    `performance` of the machine with its pump, for heating alone; `whole` the plant with hot water, standby and heater, all of
    it electricity; `blended` with the fuel of a boiler counted in: no COP. `scop_35`, `scop_55` the test bench's, for its label.
    """

    id: str
    label: str
    chosen: bool
    backup: str
    mode: str
    heat_kwh: float
    heat_range: list[float]
    """Heat for the rooms at the P10 and the P90 of the loss."""
    hot_water_kwh: float
    machine_kwh: float
    beside_kwh: float
    electricity_kwh: float
    electricity_range: list[float]
    fuel_kwh: float
    fuel_range: list[float]
    coldest_cop: float | None
    performance: float | None
    performance_range: list[float] | None
    """At the P10 and the P90 of the loss, the smaller first, as the other ranges."""
    whole: float | None
    blended: float | None
    scop_35: float | None
    scop_55: float | None
    alone_hours: float | None
    """Share of the heating hours it carries alone."""
    heat_share: float | None
    """Share of the year's heat, hot water in it, that the machine makes."""
    heat_share_range: list[float] | None
    cycling_hours: float | None
    cycling_range: list[float] | None
    cycling_heat: float | None
    beside_hours: float
    short_kwh: float
    """Heat nobody gives: there is no backup."""
    break_even_cop: float | None
    joins: int
    """How often in the year what stands beside it joins the running machine."""
    late_kwh: float
    """Heat that comes later, because it joins only when the water has not risen for twenty minutes."""
    own_sun_kwh: float
    """Of the house's own sun: drawn by the machine, or led into the store."""
    terms: list[Term]
    cost_minor: Span
    carbon_kg: Span
    saves_minor: Span | None
    once_minor: float | None
    """Machine, work, backup and place, less what is granted."""
    granted: list[Granted]
    fifteen_minor: Span | None
    """Money of fifteen years: what it costs once, and to run, with prices that rise."""
    months: list[RunMonth]
    sentence: str


class Runs(Result):
    """Every candidate of the scheme over one year of weather, beside what stands there now."""

    lacks: str
    climate_label: str
    synthetic: bool
    present: Present | None
    present_lacks: str
    present_fifteen_minor: Span | None
    rows: list[Running]
    heating_hours: float
    range_why: str
    tariff: str
    sun: OwnSun | None
    shifted: list[Shifted]
    """Of the chosen machine; empty where every hour costs the same."""
    shifted_why: str
    sentence: str
