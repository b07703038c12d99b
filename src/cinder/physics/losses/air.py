"""Air that leaks in and has to be heated."""

from __future__ import annotations

import numpy as np

from cinder.errors import PhysicsError
from cinder.physics.quantity import AIR_HEAT_WH_M3K, Array, Num, require_not_negative, require_positive


def leakage_air_change(*, n50_per_h: Num, shelter: Num) -> Num:
    """Mean air change of the whole house from its tightness, 1/h: n = n50 / 20 x shelter.

    Valid for: natural leakage in the heating season, whole-house mean. Source: common practice.

    >>> leakage_air_change(n50_per_h=10.0, shelter=1.0)
    0.5
    """
    require_not_negative("n50_per_h", n50_per_h)
    return n50_per_h / 20.0 * shelter


def air_heat_coefficient(*, flow_m3h: Num, air_heat_wh_m3k: float = AIR_HEAT_WH_M3K) -> Num:
    """Heat coefficient of an air flow, W/K: H = 0.34 q, or with what a m3 of thinner air carries in place of 0.34.
    Source: EN 12831-1 (from memory).

    >>> round(air_heat_coefficient(flow_m3h=100.0), 6)
    34.0
    """
    require_not_negative("flow_m3h", flow_m3h)
    return air_heat_wh_m3k * flow_m3h


def n50_from_q50(*, q50_m3h_m2: float, envelope_m2: float, volume_m3: float) -> float:
    """Air changes at 50 Pa from the leakage per envelope area, 1/h: n50 = q50 A_E / V.

    Source: ISO 9972:2015, 3 (from memory).

    >>> round(n50_from_q50(q50_m3h_m2=5.0, envelope_m2=300.0, volume_m3=400.0), 2)
    3.75
    """
    require_not_negative("q50_m3h_m2", q50_m3h_m2)
    require_not_negative("envelope_m2", envelope_m2)
    require_positive("volume_m3", volume_m3)
    return q50_m3h_m2 * envelope_m2 / volume_m3


def room_infiltration_m3h(*, volume_m3: Num, n50_per_h: Num, shield: Num, height: Num) -> Num:
    """Air that leaks into one room while the wind stands on it, m3/h: 2 V n50 e eps.

    `shield` e: 0 without an opening to the outside, 0.01 to 0.05 by shelter and number of exposed faces; `height`
    eps: 1 up to 10 m, 1.2 up to 30 m. The house takes half the sum of its rooms, because wind blows from one side.

    Valid for: natural leakage. Source: EN 12831:2003, 7.2.1, equation 17 (from memory).

    >>> room_infiltration_m3h(volume_m3=50.0, n50_per_h=6.0, shield=0.03, height=1.0)
    18.0
    """
    require_not_negative("volume_m3", volume_m3)
    require_not_negative("n50_per_h", n50_per_h)
    require_not_negative("shield", shield)
    require_not_negative("height", height)
    return 2.0 * volume_m3 * n50_per_h * shield * height


def effective_flow_m3h(*, leak_m3h: Num, supply_m3h: Num, recovery: float, drawn_m3h: Num, least_m3h: Num) -> Array:
    """Flow of outside air that has to be heated in full, m3/h: leak + drawn + supply (1 - eta), and what lacks to
    the hygienic minimum once leak, drawn air and supply are counted as air.

    `supply_m3h` comes through a heat exchanger of temperature efficiency `recovery` (0..1); `drawn_m3h` is pulled
    through the shell by fans that only extract. Source: EN 12831-1 (from memory), energy balance of the exchanger.

    >>> float(effective_flow_m3h(leak_m3h=20.0, supply_m3h=40.0, recovery=0.75, drawn_m3h=0.0, least_m3h=50.0))
    30.0
    """
    if not 0 <= recovery <= 1:
        raise PhysicsError("recovery", recovery, "must lie between 0 and 1")
    fresh = np.asarray(leak_m3h, float) + supply_m3h + drawn_m3h
    return np.asarray(leak_m3h + drawn_m3h + supply_m3h * (1 - recovery) + np.maximum(least_m3h - fresh, 0.0))
