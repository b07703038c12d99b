"""Results of the machine: candidates, the season of the chosen one, the places it may stand at."""

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
    """Of all that is bought: electricity, and what stands beside it burns."""
    season_with_hot_water: float | None
    machine_season: float | None
    """Of the machine alone, with what always runs."""
    electricity_kwh: float | None
    fuel: str
    """What burns beside it, by its key in the tables; empty where nothing does: its seasons are then of electricity alone."""
    fuel_kwh: float
    sound_power_day_db: float | None
    backup: str
    """What works beside it: heater, boiler, new boiler, stove, none."""
    beside: str
    """The same in words."""
    makes_water: bool
    """It burns for the hot water too."""
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
    """The season of the chosen machine by the climate's bins, kWh.

    `performance` is the heat that is given over all that is bought for it: electricity, and where something burns beside the machine
    (`fuel`) its fuel too: such a figure blends both and is no COP; `machine_performance` is of the machine alone."""

    performance: float | None
    with_hot_water: float | None
    machine_performance: float | None
    heat_kwh: float | None
    electricity_kwh: float | None
    backup_kwh: float | None
    """Heat of what stands beside the machine; of nothing, heat nobody gives."""
    beside: str
    """What that is, in words."""
    fuel: str
    """What it burns, by its key in the tables; empty where it burns nothing."""
    fuel_kwh: float
    """Burnt for the rooms."""
    short_kwh: float
    """Heat nobody gives: nothing stands beside the machine."""
    hot_water_kwh: float | None
    hot_water_electricity_kwh: float | None
    hot_water_fuel_kwh: float
    cycling_hours: float | None
    heating_hours: float | None
    excess_kwh: float | None
    """What a line warmer than the rooms need costs more, electricity and fuel."""
    own_heat_kwh: float
    """Heat of heaters of their own, made of as much electricity; it is in the electricity and the performance."""
    fans_kwh: float
    climate_label: str

    @property
    def bought_kwh(self) -> float | None:
        """All that is bought for the rooms: electricity and fuel."""
        return self.electricity_kwh + self.fuel_kwh if self.electricity_kwh is not None else None


class RuleResult(Result):
    """One thing to be kept free: its measure (None where nothing is near), met or not."""

    key: str
    label: str
    measure_m: float | None
    least_m: float
    met: bool | None
    """None: nobody has said what lies about it, so nothing is judged."""
    by_manual: bool
    what: str
    why: str
    source: str


class HeardResult(Result):
    """The unit at one receiver, by the school that is followed, day and quiet mode."""

    id: str
    label: str
    distance_m: float
    level_db: float
    quiet_db: float | None
    others_db: float | None
    """What other units of the site add; None: there are none."""
    directivity: float
    screened_db: float
    together_db: float
    limit_db: float
    met: bool
    alone_met: bool
    together_met: bool
    further_m: float | None
    """How much further away it would pass; None: at no distance."""
    passes: str


class LevelResult(Result):
    """A level and how far from the unit it reaches, nothing in the way."""

    level_db: float
    radius_m: float


class ContourResult(Result):
    """A level of everything that sounds, as lines over the plan, m."""

    level_db: float
    lines: list[list[list[float]]]


class LinesResult(Result):
    """Refrigerant lines of a split machine on their way: by the maker's table, certified hands only."""

    length_m: float | None
    lift_m: float | None
    most_length_m: float
    most_lift_m: float
    gas_mm: float
    liquid_mm: float
    extra_g: float | None
    """Charge to be added for the length beyond what it comes charged for."""
    charge_kg: float | None
    met: bool | None


class WayResult(Result):
    """A way over the site: its length with its rise, the points it runs through, what laying it costs."""

    length_m: float | None
    points: list[list[float]]
    why: str
    cost_minor: float | None


class PlaceResult(Result):
    id: str
    label: str
    x_m: float
    y_m: float
    facing_deg: float
    on: str
    chosen: bool
    inside: bool
    walls_near: int
    alley: bool
    levels: list[LevelResult]
    rules: list[RuleResult]
    heard: list[HeardResult]
    contours: list[ContourResult]
    """Instead of rings where other units sound too."""
    run: WayResult
    cable: WayResult
    lines: LinesResult | None
    cost_minor: float | None
    """Pipes, cable and access, as far as they are known."""
    meltwater: str
    access: str
    unmet: int
    unseen: int
    """Rules nothing is known for yet."""


class ElectricsResult(Result):
    """What the supply is asked for at once, A."""

    labels: list[str]
    amperes: list[float]
    sum_a: float
    fuse_a: float | None
    left_a: float | None
    lacks: str


class PlacesResult(Result):
    """Every place for the chosen machine, beside the outline of the ground floor (rings of plan points, m)."""

    outline: list[list[list[float]]]
    places: list[PlaceResult]
    machine: str
    zone_m: float | None
    noise_school: str
    noise_lacks: str
    electrics: ElectricsResult
    sentence: str


def chosen_of(machine: MachineResult) -> CandidateResult | None:
    """The candidate that is chosen."""
    return next((row for row in machine.rows if row.chosen), None)
