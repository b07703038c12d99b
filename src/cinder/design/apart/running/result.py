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
    hot_water_kwh: float
    machine_kwh: float
    beside_kwh: float
    electricity_kwh: float
    fuel_kwh: float
    coldest_cop: float | None
    performance: float | None
    whole: float | None
    blended: float | None
    scop_35: float | None
    scop_55: float | None
    alone_hours: float | None
    """Share of the heating hours it carries alone."""
    heat_share: float | None
    """Share of the year's heat, hot water in it, that the machine makes."""
    cycling_hours: float | None
    cycling_heat: float | None
    beside_hours: float
    short_kwh: float
    """Heat nobody gives: there is no backup."""
    break_even_cop: float | None
    cost_minor: Span
    carbon_kg: Span
    saves_minor: Span | None
    once_minor: float | None
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
    sentence: str
