"""Air that leaks in and has to be heated."""

from __future__ import annotations

from cinder.physics.quantity import AIR_HEAT_WH_M3K, Num, require_not_negative


def leakage_air_change(*, n50_per_h: Num, shelter: Num) -> Num:
    """Mean air change of the whole house from its tightness, 1/h: n = n50 / 20 x shelter.

    Valid for: natural leakage in the heating season, whole-house mean. Source: common practice.

    >>> leakage_air_change(n50_per_h=10.0, shelter=1.0)
    0.5
    """
    require_not_negative("n50_per_h", n50_per_h)
    return n50_per_h / 20.0 * shelter


def air_heat_coefficient(*, flow_m3h: Num) -> Num:
    """Heat coefficient of an air flow, W/K: H = 0.34 q. Source: EN 12831-1 (from memory).

    >>> round(air_heat_coefficient(flow_m3h=100.0), 6)
    34.0
    """
    require_not_negative("flow_m3h", flow_m3h)
    return AIR_HEAT_WH_M3K * flow_m3h
