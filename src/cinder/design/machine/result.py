"""Results of the machine: candidates, and the season of the chosen one."""

from __future__ import annotations

from cinder.design.base import Result


class CandidateResult(Result):
    """A candidate at this job's design day and over its season."""

    id: str
    machine: str
    label: str
    kind: str
    refrigerant: str
    chosen: bool
    output_w: float
    needed_w: float | None
    """Through the whole design day: the loss and a day's hot water, over 24 h."""
    least_w: float | None
    """None: nobody says how far it turns down, and whether it cycles is not judged."""
    cop: float
    extrapolated: bool
    inside: bool
    cover: float | None
    cover_without_hot_water: float | None
    hot_water_hours: float | None
    bivalent_c: float | None
    cycles_above_c: float | None
    cycling_share: float | None
    backup_share: float | None
    season: float | None
    season_with_hot_water: float | None
    electricity_kwh: float | None
    sound_power_day_db: float | None
    backup: str
    """What works beside it: heater, boiler, new boiler, stove, none."""
    whole_school: str
    small_school: str
    """Its size as the one school and the other look at it, in words."""
    greatest_curve_w: list[float]
    least_curve_w: list[float]


class MachineResult(Result):
    outdoor_c: list[float]
    load_w: list[float]
    season_load_w: list[float]
    hours: list[float]
    rows: list[CandidateResult]
    chosen: str | None


class SeasonResult(Result):
    performance: float | None
    with_hot_water: float | None
    heat_kwh: float | None
    electricity_kwh: float | None
    backup_kwh: float | None
    hot_water_kwh: float | None
    hot_water_electricity_kwh: float | None
    cycling_hours: float | None
    heating_hours: float | None
    excess_kwh: float | None
    own_heat_kwh: float
    """Heat of heaters of their own, made of as much electricity; it is in the electricity and the performance."""
    fans_kwh: float
    climate_label: str


def chosen_of(machine: MachineResult) -> CandidateResult | None:
    """The candidate that is chosen."""
    return next((row for row in machine.rows if row.chosen), None)
