"""The schools a company follows, frozen into each job."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from cinder.model.base import LibraryKey, NotNegative, OutdoorCelsius, Part, Positive, RoomCelsius, Share


class GroundPractice(Part):
    lambda_w_mk: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] = 2.0
    water_near: bool = False
    void_height_m: Annotated[float, Field(ge=0, le=3, allow_inf_nan=False)] = 0.3
    void_wall_u_w_m2k: Positive = 1.7
    void_vent_m2_per_m: NotNegative = 0.0015
    wind_m_s: NotNegative = 4.5
    wind_shield: Annotated[float, Field(ge=0, le=0.2, allow_inf_nan=False)] = 0.05


class Turn(Part):
    """A lockshield so many turns open, and its kv."""

    turns: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)]
    kv_m3h: Annotated[float, Field(gt=0, le=20, allow_inf_nan=False)]


LOCKSHIELD = tuple(
    Turn(turns=turns, kv_m3h=kv)
    for turns, kv in (
        (0.25, 0.05),
        (0.5, 0.10),
        (0.75, 0.16),
        (1.0, 0.23),
        (1.5, 0.38),
        (2.0, 0.55),
        (3.0, 0.80),
        (4.0, 1.0),
    )
)
"""A lockshield of 15 mm nobody has a table of (our choice: the maker's table goes in its place)."""


def _opens(rows: list[Turn]) -> list[Turn]:
    by_turns = sorted(rows, key=lambda one: one.turns)
    for less, more in pairwise(by_turns):
        if more.kv_m3h <= less.kv_m3h or more.turns == less.turns:
            raise ValueError(f"the kv at {more.turns:g} turns must be more than that at {less.turns:g}")
    return rows


class Practice(Part):
    """Every choice where practitioners differ, with its default."""

    air: Literal["tightness", "age", "room", "table"] = "tightness"
    windward_factor: Annotated[float, Field(ge=1, le=2, allow_inf_nan=False)] = 1.5
    hygienic_minimum: Literal["habitable", "off"] = "habitable"
    thin_air: Literal["counted", "sea_level"] = "counted"
    """Whether air carries less heat, and emitters give less to it, where a house stands high."""
    ground: Literal["annual_mean", "full_difference"] = "annual_mean"
    ground_detail: GroundPractice = GroundPractice()
    neighbour: Literal["cold_for_emitter", "adiabatic", "cold"] = "cold_for_emitter"
    neighbour_c: RoomCelsius = 10.0
    room_temperature: Literal["by_use", "one"] = "by_use"
    one_temperature_c: RoomCelsius = 20.0
    bridges: Literal["default", "list"] = "default"
    bridge_quality: Literal["poor", "usual", "good"] = "usual"
    psi_w_mk: Annotated[
        dict[LibraryKey, Annotated[float, Field(ge=-1, le=3, allow_inf_nan=False)]], Field(max_length=30)
    ] = {}
    """Own psi values by junction, instead of the table's."""
    thermal_bridge_w_m2k: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.10
    excess: Literal["logarithmic", "arithmetic"] = "logarithmic"
    heated_floor: Literal["standard", "conduction"] = "standard"
    """How a heated floor in screed is reckoned: by EN 1264, or by conduction in the plate."""
    spread_k: Annotated[float, Field(ge=0.1, le=20, allow_inf_nan=False)] = 5.0
    cold_end: Literal["settled", "waterline"] = "settled"
    """Which need of the design day the curve's cold end is set to: that of the rooms settling together, with the
    waterline's as its upper limit; or the waterline's itself."""
    curve_start: Literal["design", "low"] = "design"
    """Whether the line begins as designed, or cooler and is raised bit by bit while people live in the house."""
    curve_start_k: Annotated[float, Field(ge=0, le=15, allow_inf_nan=False)] = 5.0
    curve_gains_w_per_m2: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] = 0.0
    """People and devices in every room while the curve's need is reckoned."""
    gains_w_per_m2: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] = 8.0
    heating_limit_c: OutdoorCelsius = 16.0
    year_gains: Literal["people_and_sun", "people", "none"] = "people_and_sun"
    people_w_per_m2: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] = 4.0
    """People, devices and cooking through the year, W per m2 of floor."""
    sunlit: Share = 0.6
    gain_hold_h: Annotated[float, Field(ge=0, le=200, allow_inf_nan=False)] = 12.0
    high_room_share: Annotated[float, Field(ge=0, le=0.3, allow_inf_nan=False)] = 0.0
    exposed_share: Annotated[float, Field(ge=0, le=0.3, allow_inf_nan=False)] = 0.0
    reheat_w_per_m2: Annotated[float, Field(ge=0, le=60, allow_inf_nan=False)] = 0.0
    room_tolerance_k: Annotated[float, Field(ge=0, le=2, allow_inf_nan=False)] = 0.3
    cycling_degradation: Annotated[float, Field(ge=0.5, le=1, allow_inf_nan=False)] = 0.9
    hygiene: Literal["weekly", "fortnightly", "machine", "fresh_water"] = "weekly"
    """How bacteria are kept down: an immersion every week or every 15 days, the machine itself, or no stored drinking water."""
    hygiene_c: Annotated[float, Field(ge=55, le=75, allow_inf_nan=False)] = 60.0
    hygiene_minutes: Annotated[int, Field(ge=10, le=240)] = 60
    mixer: Literal["thermostatic", "plain"] = "thermostatic"
    """The mixing valve at the shower."""
    lockshield: Annotated[list[Turn], Field(min_length=2, max_length=20), AfterValidator(_opens)] = list(LOCKSHIELD)
    noise: Literal["together", "alone"] = "together"
    """Whether the unit with an assumed background is judged at a neighbour's window, or the unit alone."""
    noise_background_db: Annotated[float, Field(ge=20, le=60, allow_inf_nan=False)] = 40.0
    noise_together_db: Annotated[float, Field(ge=25, le=70, allow_inf_nan=False)] = 42.0
    noise_alone_db: Annotated[float, Field(ge=20, le=70, allow_inf_nan=False)] = 37.0
    machine_work_minor: NotNegative = 550000.0
    machine_minor_per_kw: NotNegative = 60000.0
    """What a machine with its work costs where nobody has priced it: the work, and a kW on the design day (our choice)."""
    primary_minor_per_m: NotNegative = 6500.0
    cable_minor_per_m: NotNegative = 2200.0
    """What a metre of the primary pair in its insulation, and of the cable, costs laid (our choice)."""
    pump_limit: Annotated[float, Field(ge=0.3, le=1, allow_inf_nan=False)] = 0.85
