"""Heat loss to the ground: slab with and without edge insulation, suspended floor, heated and unheated basement."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from cinder.physics.quantity import require_not_negative, require_positive

RSI_FLOOR = 0.17
RSE = 0.04
RSI_WALL = 0.13
AIR_HEAT_VOID_WH_M3K = 0.33


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


@dataclass(frozen=True, slots=True)
class Basement:
    """U of a basement's floor and walls to the ground, with B', dt and dw (m)."""

    floor_u_w_m2k: float
    wall_u_w_m2k: float
    b_m: float
    dt_m: float
    dw_m: float


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


def edge_insulation(
    *,
    b_m: float,
    dt_m: float,
    lambda_ground_w_mk: float,
    kind: Literal["horizontal", "vertical"],
    width_m: float,
    thickness_m: float,
    lambda_insulation_w_mk: float,
) -> float:
    """What a strip of insulation along the edge takes off a slab's U, W/m2K (negative): 2 dPsi / B'.

    d' = (Rn - dn/lambda) lambda; dPsi = -lambda/pi (ln(D/dt + 1) - ln(D/(dt + d') + 1)), D the strip's width; a
    vertical strip of depth D counts as 2 D. Of two strips only the better one counts (the standard's rule).

    Valid for: slabs at about ground level. Raises `PhysicsError` on sizes that are not positive.
    Source: ISO 13370:2017, annex D (from memory).

    >>> round(edge_insulation(b_m=5.0, dt_m=0.72, lambda_ground_w_mk=2.0, kind="vertical", width_m=0.6,
    ...                       thickness_m=0.08, lambda_insulation_w_mk=0.035), 3)
    -0.197
    """
    require_positive("dt_m", dt_m)
    require_positive("width_m", width_m)
    require_positive("thickness_m", thickness_m)
    require_positive("lambda_insulation_w_mk", lambda_insulation_w_mk)
    if math.isinf(b_m):
        return 0.0
    r_extra = thickness_m / lambda_insulation_w_mk - thickness_m / lambda_ground_w_mk
    extra_m = max(r_extra, 0.0) * lambda_ground_w_mk
    reach_m = width_m * (2 if kind == "vertical" else 1)
    fall = math.log(reach_m / dt_m + 1) - math.log(reach_m / (dt_m + extra_m) + 1)
    return -2 * lambda_ground_w_mk / math.pi * fall / b_m


def heated_basement(
    *,
    area_m2: float,
    exposed_perimeter_m: float,
    wall_thickness_m: float,
    floor_r_m2kw: float,
    wall_r_m2kw: float,
    depth_m: float,
    lambda_ground_w_mk: float,
) -> Basement:
    """U of floor and walls of a basement that is heated, W/m2K; `depth_m` z: its floor below the ground.

    Floor: as a slab with dt + z/2 in the place of dt (both in the condition and the formula):
    U = 2 lambda / (pi B' + dt + z/2) ln(pi B' / (dt + z/2) + 1), well insulated lambda / (0.457 B' + dt + z/2).
    Walls: dw = lambda (Rsi + Rw + Rse); U = 2 lambda / (pi z) (1 + 0.5 dt/(dt + z)) ln(z/dw + 1), dt not above dw.

    Valid for: the whole floor at one depth. Raises `PhysicsError` on a depth that is not positive.
    Source: ISO 13370:2017, 7.3 (from memory).

    >>> cellar = heated_basement(area_m2=60, exposed_perimeter_m=32, wall_thickness_m=0.3, floor_r_m2kw=0.0,
    ...                          wall_r_m2kw=0.3, depth_m=2.0, lambda_ground_w_mk=2.0)
    >>> round(cellar.floor_u_w_m2k, 3), round(cellar.wall_u_w_m2k, 3)
    (0.61, 0.822)
    """
    require_positive("depth_m", depth_m)
    require_positive("wall_thickness_m", wall_thickness_m)
    require_not_negative("floor_r_m2kw", floor_r_m2kw)
    require_not_negative("wall_r_m2kw", wall_r_m2kw)
    require_positive("lambda_ground_w_mk", lambda_ground_w_mk)
    b_m = characteristic_dimension(area_m2=area_m2, exposed_perimeter_m=exposed_perimeter_m)
    dt_m = wall_thickness_m + lambda_ground_w_mk * (RSI_FLOOR + floor_r_m2kw + RSE)
    floor = _slab_form(b_m, dt_m + depth_m / 2, lambda_ground_w_mk)
    wall = basement_wall(wall_r_m2kw=wall_r_m2kw, dt_m=dt_m, depth_m=depth_m, lambda_ground_w_mk=lambda_ground_w_mk)
    return Basement(floor, wall, b_m, dt_m, lambda_ground_w_mk * (RSI_WALL + wall_r_m2kw + RSE))


def basement_wall(*, wall_r_m2kw: float, dt_m: float, depth_m: float, lambda_ground_w_mk: float) -> float:
    """U of a basement wall against the ground, W/m2K: dw = lambda (Rsi + Rw + Rse),
    2 lambda / (pi z) (1 + 0.5 dt/(dt + z)) ln(z/dw + 1), with dw in the place of a larger dt.

    Source: ISO 13370:2017, 7.3.3 (from memory).

    >>> round(basement_wall(wall_r_m2kw=0.3, dt_m=0.72, depth_m=2.0, lambda_ground_w_mk=2.0), 3)
    0.822
    """
    require_positive("depth_m", depth_m)
    require_not_negative("wall_r_m2kw", wall_r_m2kw)
    dw_m = lambda_ground_w_mk * (RSI_WALL + wall_r_m2kw + RSE)
    least = min(dt_m, dw_m)
    slope = 2 * lambda_ground_w_mk / (math.pi * depth_m) * (1 + 0.5 * least / (least + depth_m))
    return slope * math.log(depth_m / dw_m + 1)


def basement_wall_band(
    *, wall_r_m2kw: float, dt_m: float, from_m: float, to_m: float, lambda_ground_w_mk: float
) -> float:
    """U of a part of a basement wall, W/m2K, between two depths below the ground: what the wall down to the lower one
    loses more than the wall down to the upper one, over the difference. All bands together lose what the whole wall does.

    Valid for: 0 <= from < to. Raises `PhysicsError` otherwise. Source: `basement_wall`, a difference of its heat flows.

    >>> whole = basement_wall(wall_r_m2kw=0.3, dt_m=0.72, depth_m=5.0, lambda_ground_w_mk=2.0)
    >>> upper, lower = (basement_wall_band(wall_r_m2kw=0.3, dt_m=0.72, from_m=a, to_m=b, lambda_ground_w_mk=2.0)
    ...                 for a, b in ((0.0, 2.5), (2.5, 5.0)))
    >>> round(whole - (upper + lower) / 2, 12), upper > lower
    (0.0, True)
    """
    require_not_negative("from_m", from_m)
    require_positive("to_m - from_m", to_m - from_m)

    def flow(depth_m: float) -> float:
        u = basement_wall(wall_r_m2kw=wall_r_m2kw, dt_m=dt_m, depth_m=depth_m, lambda_ground_w_mk=lambda_ground_w_mk)
        return u * depth_m

    return (flow(to_m) - (flow(from_m) if from_m > 0 else 0.0)) / (to_m - from_m)


def unheated_basement(
    *,
    area_m2: float,
    exposed_perimeter_m: float,
    below: Basement,
    depth_m: float,
    floor_above_u_w_m2k: float,
    height_above_ground_m: float,
    wall_above_u_w_m2k: float,
    volume_m3: float,
    air_per_h: float,
) -> float:
    """U from the room above through an unheated basement to the outside, W/m2K:
    1/U = 1/Uf + A / (A Ubf + z P Ubw + h P Uw + 0.33 n V).

    Source: ISO 13370:2017, 7.4 (from memory).

    >>> cellar = heated_basement(area_m2=60, exposed_perimeter_m=32, wall_thickness_m=0.3, floor_r_m2kw=0.0,
    ...                          wall_r_m2kw=0.3, depth_m=2.0, lambda_ground_w_mk=2.0)
    >>> round(unheated_basement(area_m2=60, exposed_perimeter_m=32, below=cellar, depth_m=2.0,
    ...     floor_above_u_w_m2k=1.0, height_above_ground_m=0.4, wall_above_u_w_m2k=1.6, volume_m3=144,
    ...     air_per_h=0.3), 3)
    0.674
    """
    require_positive("area_m2", area_m2)
    require_positive("floor_above_u_w_m2k", floor_above_u_w_m2k)
    require_not_negative("air_per_h", air_per_h)
    outward = area_m2 * below.floor_u_w_m2k + depth_m * exposed_perimeter_m * below.wall_u_w_m2k
    outward += height_above_ground_m * exposed_perimeter_m * wall_above_u_w_m2k
    outward += AIR_HEAT_VOID_WH_M3K * air_per_h * volume_m3
    return 0.0 if outward <= 0 else 1 / (1 / floor_above_u_w_m2k + area_m2 / outward)


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
