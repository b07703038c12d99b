"""Hot water stored and reheated."""

from __future__ import annotations

from cinder.physics.quantity import require_not_negative, require_positive

WATER_WH_L_K = 1.163  # rho c at about 20 deg C, Wh per litre and kelvin


def stored_heat_kwh(*, volume_l: float, cold_c: float, hot_c: float) -> float:
    """Heat to bring a store from cold to hot, kWh: V rho c (hot - cold).

    >>> round(stored_heat_kwh(volume_l=200, cold_c=10, hot_c=48), 2)
    8.84
    """
    require_positive("volume_l", volume_l)
    require_not_negative("hot_c - cold_c", hot_c - cold_c)
    return volume_l * WATER_WH_L_K * (hot_c - cold_c) / 1000


def reheat_minutes(*, volume_l: float, cold_c: float, hot_c: float, power_w: float) -> float:
    """Time to reheat a mixed store at constant power, min. Source: energy balance.

    >>> round(reheat_minutes(volume_l=200, cold_c=10, hot_c=48, power_w=5000))
    106
    """
    require_positive("power_w", power_w)
    return stored_heat_kwh(volume_l=volume_l, cold_c=cold_c, hot_c=hot_c) * 1000 / power_w * 60
