"""Heat loss to the ground: slab on ground and suspended floor."""

from __future__ import annotations

import math
from dataclasses import dataclass

from cinder.physics.quantity import require_not_negative, require_positive

RSI_FLOOR = 0.17
RSE = 0.04


@dataclass(frozen=True, slots=True)
class GroundFloor:
    """U of a floor on or above the ground, with its characteristic lengths (m)."""

    u_w_m2k: float
    b_m: float
    dt_m: float
    well_insulated: bool


@dataclass(frozen=True, slots=True)
class SuspendedFloor:
    """U of a suspended floor: through the floor, then ground and ventilated void in parallel."""

    u_w_m2k: float
    b_m: float
    floor_u_w_m2k: float
    ground_u_w_m2k: float
    void_u_w_m2k: float


def characteristic_dimension(*, area_m2: float, exposed_perimeter_m: float) -> float:
    """B' = A / (0.5 P), m; infinite for a floor without exposed edge.

    Source: ISO 13370:2017, 6.2 (from memory).

    >>> characteristic_dimension(area_m2=100.0, exposed_perimeter_m=40.0)
    5.0
    """
    require_positive("area_m2", area_m2)
    require_not_negative("exposed_perimeter_m", exposed_perimeter_m)
    return math.inf if exposed_perimeter_m == 0 else area_m2 / (0.5 * exposed_perimeter_m)


def _slab_form(b_m: float, dt_m: float, lambda_ground_w_mk: float) -> float:
    if math.isinf(b_m):
        return 0.0
    if dt_m < b_m:
        return 2 * lambda_ground_w_mk / (math.pi * b_m + dt_m) * math.log(math.pi * b_m / dt_m + 1)
    return lambda_ground_w_mk / (0.457 * b_m + dt_m)


def slab_on_ground(
    *,
    area_m2: float,
    exposed_perimeter_m: float,
    wall_thickness_m: float,
    floor_r_m2kw: float,
    lambda_ground_w_mk: float,
) -> GroundFloor:
    """U of a slab, W/m2K: dt = w + lambda (Rsi + Rf + Rse); dt < B': 2 lambda / (pi B' + dt) ln(pi B'/dt + 1),
    else lambda / (0.457 B' + dt).

    Valid for: slab at about ground level, insulated all over or not at all (no edge strip).
    Raises `PhysicsError` on an area or conductivity that is not positive.
    Source: ISO 13370:2017, 7.1 (from memory).

    >>> round(slab_on_ground(area_m2=100, exposed_perimeter_m=40, wall_thickness_m=0.3,
    ...                      floor_r_m2kw=0.0, lambda_ground_w_mk=2.0).u_w_m2k, 3)
    0.762
    """
    require_positive("wall_thickness_m", wall_thickness_m)
    require_not_negative("floor_r_m2kw", floor_r_m2kw)
    require_positive("lambda_ground_w_mk", lambda_ground_w_mk)
    b_m = characteristic_dimension(area_m2=area_m2, exposed_perimeter_m=exposed_perimeter_m)
    dt_m = wall_thickness_m + lambda_ground_w_mk * (RSI_FLOOR + floor_r_m2kw + RSE)
    return GroundFloor(_slab_form(b_m, dt_m, lambda_ground_w_mk), b_m, dt_m, dt_m >= b_m)


def suspended_floor(
    *,
    area_m2: float,
    exposed_perimeter_m: float,
    wall_thickness_m: float,
    floor_u_w_m2k: float,
    lambda_ground_w_mk: float,
    height_above_ground_m: float,
    wall_u_w_m2k: float,
    vent_area_m2_per_m: float,
    wind_m_s: float,
    wind_shield: float,
) -> SuspendedFloor:
    """U of a floor over a ventilated void: 1/U = 1/Uf + 1/(Ug + Ux),
    Ux = 2 h Uw / B' + 1450 eps v fw / B'.

    Valid for: natural ventilation of the void, base of the void not insulated.
    Raises `PhysicsError` on quantities that are not positive.
    Source: ISO 13370:2017, 7.2 (from memory).

    >>> round(suspended_floor(area_m2=50, exposed_perimeter_m=20, wall_thickness_m=0.25, floor_u_w_m2k=1.5,
    ...     lambda_ground_w_mk=2.0, height_above_ground_m=0.3, wall_u_w_m2k=1.7, vent_area_m2_per_m=0.0015,
    ...     wind_m_s=4.0, wind_shield=0.05).u_w_m2k, 3)
    0.625
    """
    require_positive("floor_u_w_m2k", floor_u_w_m2k)
    b_m = characteristic_dimension(area_m2=area_m2, exposed_perimeter_m=exposed_perimeter_m)
    dg_m = wall_thickness_m + lambda_ground_w_mk * (RSI_FLOOR + RSE)
    u_ground = _slab_form(b_m, dg_m, lambda_ground_w_mk)
    u_void = 2 * height_above_ground_m * wall_u_w_m2k / b_m
    u_void += 1450 * vent_area_m2_per_m * wind_m_s * wind_shield / b_m
    below = u_ground + u_void
    u = 0.0 if below == 0 else 1 / (1 / floor_u_w_m2k + 1 / below)
    return SuspendedFloor(u, b_m, floor_u_w_m2k, u_ground, u_void)
