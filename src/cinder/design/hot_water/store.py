"""The store as it is reckoned with: what the scheme and the survey say of it, and what is usual where neither says anything."""

from __future__ import annotations

import math
from typing import NamedTuple

from cinder.design.house.view import HouseView
from cinder.model.scheme import HotWater
from cinder.model.survey import Store as Found

STORE_C = 48.0
COLD_C = 10.0
TAP_C = 40.0
COIL_U_W_M2K = 450.0
"""Of a coil, W/m2K: 300 to 600 in practice (from memory), so its kelvins carry a doubt of a third."""
COIL_U_LOW, COIL_U_HIGH = 300.0, 600.0
COIL_TO = 0.6
"""The part of the store's height its coil takes (our choice)."""
SENSOR_AT = 0.5
BAND_K = 6.0
IMMERSION_KW = 3.0
IMMERSION_AT = 0.2
"""How high sensor and immersion sit, the band of a charge, and the heater's kilowatts where nobody says (our choice)."""
LABEL_K = 45.0
"""A store's label counts its standing loss at 65 deg C in a room of 20 (EN 12897, from memory)."""
AROUND_C = 20.0
"""The air around a store nobody says otherwise of: it stands in the house."""
USUAL_LOSS_KWH, USUAL_LOSS_L = 1.6, 200.0
"""Standing loss of a usual store by its label; others with the two-thirds power of their litres (our choice)."""
PLATE_UNITS = 3.0
PLATE_FLOW_SHARE = 0.5
"""A plate exchanger nobody describes: three transfer units, its own pump moving half the machine's flow (our choice)."""
LINING_M, SLIM = 0.05, 2.7
"""A store nobody measured: insulation all round, and how many times as tall as wide it is inside (our choice)."""
EMPTY_KG_L = 0.25
BLEEDS = 0.05
"""What a thermostatic mixing valve lets in of the cold at the least (our choice)."""
COIL_L_M2 = 8.0
"""What a coil of 32 mm tube takes up of its store, L for every m2 (a quarter of its diameter)."""


class Store(NamedTuple):
    """A store, plain values alone; what is `None` nobody knows and nothing usual can stand in for."""

    label: str
    kept: bool
    """It is in the house now and stays."""
    volume_l: float | None
    store_c: float
    cold_c: float
    plate: bool
    coil_m2: float | None
    coil_u_w_m2k: float
    plate_ua_w_k: float | None
    plate_flow_lph: float | None
    sensor_at: float
    band_k: float
    windows: tuple[tuple[int, int], ...]
    immersion_kw: float
    label_kwh: float | None
    """Standing loss by the label, kWh a day."""
    label_known: bool
    around_c: float
    distribution_kwh: float
    also: tuple[str, ...]
    """What else heats it."""

    @property
    def loss_w_k(self) -> float:
        """What it loses for every kelvin over the room, W/K."""
        return (self.label_kwh or 0.0) * 1000 / 24 / LABEL_K

    @property
    def standing_kwh(self) -> float:
        """What it loses in a day at its own temperature, kWh."""
        return self.loss_w_k * max(self.store_c - self.around_c, 0.0) * 24 / 1000


def store_of(house: HouseView) -> Store:
    """The store of the scheme that is looked at; a store of the survey that it keeps lends what the scheme does not say."""
    chosen = house.scheme.hot_water if house.scheme else HotWater()
    found = house.job.survey.stores.get(chosen.keeps or "") or Found()
    return taken(chosen, found, kept=chosen.keeps in house.job.survey.stores)


def taken(chosen: HotWater, found: Found, *, kept: bool) -> Store:
    """What is said, else what the kept store has, else what is usual."""
    volume = chosen.volume_l if chosen.volume_l is not None else found.volume_l
    label = chosen.standing_kwh_per_day
    if label is None and volume is not None:
        label = USUAL_LOSS_KWH * (volume / USUAL_LOSS_L) ** (2 / 3)
    return Store(
        label=chosen.label or found.label, kept=kept, volume_l=volume,
        store_c=_or(chosen.store_c, STORE_C), cold_c=_or(chosen.cold_c, COLD_C), plate=chosen.exchanger == "plate",
        coil_m2=chosen.coil_m2 if chosen.coil_m2 is not None else found.coil_m2, coil_u_w_m2k=_or(chosen.coil_u_w_m2k, COIL_U_W_M2K),
        plate_ua_w_k=chosen.plate_ua_w_k, plate_flow_lph=chosen.plate_flow_lph, sensor_at=_or(chosen.sensor_share, SENSOR_AT),
        band_k=_or(chosen.band_k, BAND_K), windows=tuple((one.from_minute, one.to_minute) for one in chosen.windows),
        immersion_kw=_or(chosen.immersion_kw, IMMERSION_KW), label_kwh=label, label_known=chosen.standing_kwh_per_day is not None,
        around_c=_or(chosen.air_around_c, AROUND_C), distribution_kwh=_or(chosen.distribution_kwh_per_day, 0.0), also=tuple(found.also),
    )  # fmt: skip


def least_store_c(mixer: str, cold_c: float) -> float:
    """The least at the top of a store that still gives 40 deg C: a thermostatic mixer always lets some cold in.

    >>> round(least_store_c("thermostatic", 10.0), 1), least_store_c("plain", 10.0)
    (41.6, 40.0)
    """
    bleeds = BLEEDS if mixer == "thermostatic" else 0.0
    return (TAP_C - bleeds * cold_c) / (1 - bleeds)


def size_m(chosen: HotWater, volume_l: float) -> tuple[float, float, bool]:
    """Diameter and height over its insulation, m, and whether somebody measured both."""
    inside = (4 * volume_l / 1000 / (math.pi * SLIM)) ** (1 / 3)
    wide, tall = inside + 2 * LINING_M, SLIM * inside + 2 * LINING_M
    known = chosen.diameter_m is not None and chosen.height_m is not None
    return _or(chosen.diameter_m, wide), _or(chosen.height_m, tall), known


def _or(said: float | None, usual: float) -> float:
    return said if said is not None else usual
