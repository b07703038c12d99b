"""Expansion of the heating water: the vessel that takes it, its pre-charge, and the pressure to fill to."""

from __future__ import annotations

from dataclasses import dataclass

from cinder.errors import PhysicsError
from cinder.physics.flow.fluid import PLAIN, Fluid
from cinder.physics.quantity import require_not_negative, require_positive

BAR_PER_M = 9.80665 * 1000 / 1e5
"""Pressure of a metre of water, bar."""
OVER_STATIC_BAR = 0.3
"""A vessel is charged so far above the height of water over it (common practice: 0.2-0.3)."""
UNDER_RELIEF_BAR = 0.5
"""The greatest pressure stays so far below a relief of up to 5 bar; above that a tenth of it. Source: EN 12828 (from memory)."""
SMALL_L, SMALL_RESERVE = 15.0, 0.2
LARGE_RESERVE, LEAST_RESERVE_L = 0.005, 3.0


@dataclass(frozen=True, slots=True)
class Vessel:
    """The least vessel, L, with its reserve of water, L; how much the water grows, L; greatest pressure, bar."""

    least_l: float
    reserve_l: float
    grows_l: float
    greatest_bar: float


def growth(*, cold_c: float, hot_c: float, fluid: Fluid = PLAIN) -> float:
    """What a litre of water grows by from cold to hot.

    >>> round(growth(cold_c=10.0, hot_c=70.0), 4)
    0.0224
    """
    if hot_c < cold_c:
        raise PhysicsError("hot_c", hot_c, "must not lie below cold_c")
    return float(fluid.density_kg_m3(temperature_c=cold_c)) / float(fluid.density_kg_m3(temperature_c=hot_c)) - 1


def precharge_bar(*, static_m: float, least_bar: float = 0.5) -> float:
    """Pre-charge of a vessel under so many metres of water, bar.

    >>> round(precharge_bar(static_m=5.0), 2)
    0.79
    """
    require_not_negative("static_m", static_m)
    return max(static_m * BAR_PER_M + OVER_STATIC_BAR, least_bar)


def greatest_bar(*, relief_bar: float) -> float:
    """The greatest pressure under a relief, bar: half a bar below it, a tenth below one of more than 5 bar."""
    require_positive("relief_bar", relief_bar)
    return relief_bar - max(UNDER_RELIEF_BAR, 0.1 * relief_bar if relief_bar > 5 else 0.0)


def vessel(*, system_l: float, share: float, precharge_bar: float, relief_bar: float) -> Vessel:
    """The least vessel: (e V + reserve) (pe + 1)/(pe - p0); the reserve a fifth of vessels up to 15 L, above that 0.5 % of the water and at
    least 3 L.

    Raises `PhysicsError` where the pre-charge leaves no room under the relief. Source: EN 12828 (from memory).

    >>> round(vessel(system_l=200.0, share=0.0224, precharge_bar=1.0, relief_bar=3.0).least_l, 1)
    17.5
    """
    require_positive("system_l", system_l)
    require_not_negative("share", share)
    top = greatest_bar(relief_bar=relief_bar)
    if precharge_bar >= top - 0.1:
        raise PhysicsError("precharge_bar", precharge_bar, f"leaves no room under a relief of {relief_bar:g} bar")
    grows, part = share * system_l, (top + 1) / (top - precharge_bar)
    if 1 - SMALL_RESERVE * part > 0:
        small = grows * part / (1 - SMALL_RESERVE * part)
        if small <= SMALL_L:
            return Vessel(small, SMALL_RESERVE * small, grows, top)
    reserve = max(LARGE_RESERVE * system_l, LEAST_RESERVE_L)
    return Vessel((grows + reserve) * part, reserve, grows, top)


def fill_bar(*, vessel_l: float, reserve_l: float, precharge_bar: float) -> float:
    """Pressure to fill to, cold, so that a vessel of this size holds its reserve, bar. Source: Boyle's law.

    >>> round(fill_bar(vessel_l=18.0, reserve_l=3.0, precharge_bar=1.0), 2)
    1.4
    """
    require_positive("vessel_l", vessel_l)
    if reserve_l >= vessel_l:
        raise PhysicsError("reserve_l", reserve_l, "must be less than the vessel")
    return vessel_l * (precharge_bar + 1) / (vessel_l - reserve_l) - 1


def reached_bar(*, vessel_l: float, taken_l: float, precharge_bar: float) -> float:
    """Pressure when a vessel has taken so much water, bar; infinite where that is more than it holds. Source: Boyle's law."""
    require_positive("vessel_l", vessel_l)
    return vessel_l * (precharge_bar + 1) / (vessel_l - taken_l) - 1 if taken_l < vessel_l else float("inf")
