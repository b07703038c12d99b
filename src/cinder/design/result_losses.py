"""Results of the slower sections of losses: a section through a construction, the year, the bills, the measures."""

from __future__ import annotations

from typing import Literal

from cinder.design.result import Finding
from cinder.design.result_base import Result


class SectionLayer(Result):
    """A layer of a section: how thick, how much it resists, and whether it counts at all."""

    label: str
    kind: Literal["material", "air", "open", "resistance"]
    thickness_m: float | None
    lambda_w_mk: float | None
    r_m2kw: float
    bridge_label: str
    bridge_share: float
    sd_m: float | None
    counted: bool


class Section(Result):
    """A construction cut through, on the design day: temperatures from the inside surface to the outside surface.

    `temperature_c` has one more entry than the layers that count; `wet` are interfaces where condensate may form.
    """

    element: str
    label: str
    u_w_m2k: float
    r_total_m2kw: float | None
    r_upper_m2kw: float | None
    r_lower_m2kw: float | None
    limits_ratio: float
    rsi_m2kw: float
    rse_m2kw: float
    inside_c: float
    outside_c: float
    humidity: float
    surface_c: float
    dew_point_c: float
    mould_c: float
    layers: list[SectionLayer]
    temperature_c: list[float]
    wet: list[int]
    warnings: list[str]
    sentence: str


class Month(Result):
    """One month of the year, kWh."""

    name: str
    outdoor_c: float
    degree_days_kd: float
    loss_kwh: float
    sun_kwh: float
    people_kwh: float
    heat_kwh: float
    electricity_kwh: float | None


class SunFace(Result):
    """Glass looking one way, and what the year's sun brings through it."""

    bearing: str
    azimuth_deg: float
    tilt_deg: float
    area_m2: float
    sun_kwh: float


class Year(Result):
    """The house hour by hour through a year, on the scheme shown."""

    lacks: str
    climate_label: str
    synthetic: bool
    heat_kwh: float | None
    loss_kwh: float | None
    sun_kwh: float | None
    people_kwh: float | None
    electricity_kwh: float | None
    performance: float | None
    bill_minor: float | None
    greatest_w: float | None
    coldest_month_w: float | None
    heating_hours: float | None
    degree_days_kd: float | None
    degree_base_c: float | None
    by_degree_days_kwh: float | None
    months: list[Month]
    glass: list[SunFace]
    day_outdoor_c: list[float]
    day_heat_w: list[float]
    school: str
    by_bins: str
    """The season by the climate's bins beside it, in words."""
    sentence: str


class BillLine(Result):
    """One bill made into heat for the rooms."""

    id: str
    label: str
    fuel: str
    days: int
    bought_kwh: float | None
    efficiency: float
    efficiency_why: str
    hot_water_kwh: float
    hot_water_low_kwh: float
    hot_water_high_kwh: float
    hot_water_why: str
    cooking_kwh: float
    rooms_kwh: float | None
    rooms_low_kwh: float | None
    rooms_high_kwh: float | None


class BillCheck(Result):
    """The specific loss from life against the calculated one, on the house as found; each with how far it may be off.

    `h_life_low_w_k` and `_high_`: by the usual range of heaters and, with people unknown, of hot water;
    `h_calculated_low_w_k` and `_high_`: P10 and P90 of the sampled loss.
    """

    lacks: str
    lines: list[BillLine]
    rooms_kwh: float | None
    degree_days_kd: float | None
    base_c: float | None
    kept_c: float
    kept_why: str
    h_life_w_k: float | None
    h_life_low_w_k: float | None
    h_life_high_w_k: float | None
    h_calculated_w_k: float | None
    h_calculated_low_w_k: float | None
    h_calculated_high_w_k: float | None
    ratio: float | None
    verdict: Literal["agrees", "within doubt", "life is lower", "life is higher", "unknown"]
    reasons: list[str]
    as_lived_kwh: float | None
    as_designed_kwh: float | None
    basis: str
    findings: list[Finding]
    sentence: str


class Option(Result):
    """One way to lose less, at one thickness, alone on the scheme shown."""

    key: str
    measure: str
    label: str
    detail: str
    was: str | None
    was_label: str
    becomes_label: str
    area_m2: float | None
    u_before_w_m2k: float | None
    u_after_w_m2k: float | None
    cost_minor: float
    disturbance: int
    note: str
    cautions: list[str]
    adopted: bool


class Effects(Result):
    """What a set of measures does: before less after."""

    loss_w: float
    flow_c: float | None
    cover: float | None
    season: float | None
    electricity_kwh: float | None
    heat_kwh: float | None
    bill_minor: float | None
    cost_minor: float
    payback_years: float | None


class Tried(Result):
    """An option with its effect."""

    option: Option
    effect: Effects


class Measures(Result):
    """Every option of the scheme shown with its effect; and the chosen ones together."""

    base_loss_w: float | None
    base_flow_c: float | None
    base_season: float | None
    base_bill_minor: float | None
    price_minor_per_kwh: float
    tried: list[Tried]
    together: Effects | None
    sentence: str
