"""Air that is thin because a house stands high."""

from __future__ import annotations

NOTICED_ALTITUDE_M = 300.0
"""Below it nothing is taken off (our choice: 3 % of the density, and less than anybody knows a leak by)."""
RADIATOR_RADIANT_SHARE = 0.25
FREE_POWER = 0.6
"""Of the density in free convection: Nu ~ Ra^m with Ra ~ density^2, m from 1/4 (laminar) to 1/3 (turbulent)."""
FORCED_POWER = 0.8
"""Of the density under a fan that moves as much volume: Nu ~ Re^0.8 (textbooks, from memory)."""


def air_density_ratio(altitude_m: float) -> float:
    """Density of air at an altitude over that at sea level, standard atmosphere, -500 to 5000 m.

    >>> round(air_density_ratio(1500.0), 3)
    0.864
    """
    return float((1 - 2.25577e-5 * altitude_m) ** 4.25588)


def noticed_density_ratio(altitude_m: float) -> float:
    """As `air_density_ratio`, and 1 below 300 m.

    >>> noticed_density_ratio(250.0)
    1.0
    """
    return 1.0 if altitude_m < NOTICED_ALTITUDE_M else air_density_ratio(altitude_m)


def radiator_share(density_ratio: float) -> float:
    """What a radiator gives in thin air over its rating: what it radiates stays, what it convects falls with the density.

    Valid for: radiators that radiate about a quarter (panels with convector sheets); a bare panel loses less.
    Source: free convection at a wall (textbooks, from memory), a quarter radiated (common practice).

    >>> round(radiator_share(0.864), 3)
    0.937
    """
    return float(RADIATOR_RADIANT_SHARE + (1 - RADIATOR_RADIANT_SHARE) * density_ratio**FREE_POWER)


def fan_share(density_ratio: float) -> float:
    """What a fan unit gives in thin air over its rating.

    >>> round(fan_share(0.864), 3)
    0.89
    """
    return float(density_ratio**FORCED_POWER)
