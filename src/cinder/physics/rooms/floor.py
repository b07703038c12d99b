"""Heated floors and walls: what they give, how warm their surface gets, what goes down instead of up."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from cinder.errors import PhysicsError
from cinder.physics.quantity import Array, Num, require_not_negative, require_positive

ALPHA_FLOOR = 10.8
"""Heat transfer of a heated floor to its room, W/m2K (EN 1264-2, from memory)."""
ALPHA_WALL = 8.0
B_PLAIN = 6.7
PIPE_LAMBDA, PIPE_WALL_M = 0.35, 0.002
COVER_M, COVER_LAMBDA = 0.045, 1.0
GREATEST_COVERING = 0.15
COVERINGS = np.array([0.0, 0.05, 0.10, 0.15])
A_T = np.array([1.23, 1.188, 1.156, 1.134])
# a_u and a_D by spacing (m) and covering resistance (m2K/W). Source: EN 1264-2:2008 (from memory).
TABLE_T = np.array([0.05, 0.10, 0.15, 0.20, 0.30])
A_U = np.array([
    [1.069, 1.056, 1.043, 1.037], [1.063, 1.050, 1.039, 1.0335], [1.057, 1.046, 1.035, 1.0305],
    [1.051, 1.041, 1.0315, 1.0275], [1.0395, 1.031, 1.024, 1.021],
])  # fmt: skip
A_D = np.array([
    [1.013, 1.013, 1.012, 1.011], [1.029, 1.025, 1.022, 1.018], [1.040, 1.034, 1.029, 1.024],
    [1.046, 1.040, 1.035, 1.030], [1.053, 1.049, 1.044, 1.039],
])  # fmt: skip
LEAST_LAMBDA, GREATEST_LAMBDA = 0.02, 500.0
LEAST_SPACING_M, GREATEST_SPACING_M = 0.05, 0.375
TERMS = 240
PROFILE_POINTS = 13
AROUND = np.radians(22.5 + 45.0 * np.arange(8))


@dataclass(frozen=True, slots=True)
class Characteristic:
    """What a heated surface gives per kelvin of mean water over the room, W/m2K, and how uneven it is.

    `uneven`: hottest over mean excess of the surface (1: even). `down`: heat that goes the other way while both sides
    are equally warm, as a share of what goes into the room. `profile`: excess of the surface over its mean, from over the
    pipe to the middle between two, at even steps.
    """

    k_w_m2k: float
    uneven: float
    down: float
    profile: tuple[float, ...] = ()


def _between(table: Array, spacing_m: float, covering: float) -> float:
    rows = np.array([np.interp(covering, COVERINGS, row) for row in table])
    return float(np.interp(spacing_m, TABLE_T, rows))


def wet_screed(
    *,
    spacing_m: float,
    cover_m: float,
    cover_lambda_w_mk: float,
    covering_r_m2kw: float,
    pipe_m: float,
    pipe_lambda_w_mk: float = PIPE_LAMBDA,
    pipe_wall_m: float = PIPE_WALL_M,
) -> float:
    """K_H of pipes in a wet screed, W/m2K: B a_B a_T^mT a_u^mu a_D^mD, q = K_H x log excess of the water.

    `cover_m` is the screed over the pipe, `pipe_m` its outer diameter. B = 6.7 for the standard's pipe, else
    1/B = 1/6.7 + 1.1/pi (prod a^m) T (1/2 lambda ln(D/(D - 2 s)) - the same for the standard's pipe).

    Valid for: spacing 0.05 to 0.375 m, covering up to 0.15 m2K/W, screed over the pipe at least 10 mm, pipes 10 to 30 mm.
    Raises `PhysicsError` outside. Source: EN 1264-2:2008, type A (from memory).

    >>> round(wet_screed(spacing_m=0.15, cover_m=0.045, cover_lambda_w_mk=1.0, covering_r_m2kw=0.0, pipe_m=0.017), 2)
    5.29
    """
    _valid(spacing_m, cover_m, covering_r_m2kw, pipe_m, pipe_wall_m, (cover_lambda_w_mk, pipe_lambda_w_mk))
    r = covering_r_m2kw
    a_b = (1 / ALPHA_FLOOR + COVER_M / COVER_LAMBDA) / (1 / ALPHA_FLOOR + COVER_M / cover_lambda_w_mk + r)
    a_t = float(np.interp(r, COVERINGS, A_T)) ** (1 - spacing_m / 0.075)
    a_u = _between(A_U, spacing_m, r) ** (100 * (0.045 - cover_m))
    a_d = _between(A_D, spacing_m, r) ** (250 * (pipe_m - 0.020))
    product = a_b * a_t * a_u * a_d
    other = math.log(pipe_m / (pipe_m - 2 * pipe_wall_m)) / (2 * pipe_lambda_w_mk)
    plain = math.log(pipe_m / (pipe_m - 2 * PIPE_WALL_M)) / (2 * PIPE_LAMBDA)
    b = 1 / (1 / B_PLAIN + 1.1 / math.pi * product * spacing_m * (other - plain))
    return float(b * product)


STANDARD_COVER_M = (0.030, 0.080)
STANDARD_LAMBDA = (0.9, 2.0)
STANDARD_SPACING_M = (0.05, 0.30)
STANDARD_PITCH = 7.0
"""Where the formula of EN 1264-2 is used: its tables end at 300 mm pitch, and within these bounds it lies between 11 % below
and 26 % above conduction, most of that on bare floors with wide pitch; beyond them it is up to twice too high or half too low."""


def outside_standard(*, spacing_m: float, cover_m: float, cover_lambda_w_mk: float) -> str:
    """What of a screed lies outside the range in which EN 1264's formula is used; "" where nothing does.

    Source: own comparison of the formula with conduction (`conducted`) over covers, conductivities and pitches.

    >>> outside_standard(spacing_m=0.15, cover_m=0.045, cover_lambda_w_mk=1.2)
    ''
    >>> outside_standard(spacing_m=0.15, cover_m=0.12, cover_lambda_w_mk=1.2)
    '120 mm over the pipes (30 to 80 mm)'
    """
    low, high = STANDARD_COVER_M
    if not low <= cover_m <= high:
        return f"{cover_m * 1000:.0f} mm over the pipes ({low * 1000:.0f} to {high * 1000:.0f} mm)"
    low, high = STANDARD_LAMBDA
    if not low <= cover_lambda_w_mk <= high:
        return f"a conductivity of {cover_lambda_w_mk:g} W/mK ({low:g} to {high:g} W/mK)"
    low, high = STANDARD_SPACING_M[0], min(STANDARD_SPACING_M[1], STANDARD_PITCH * cover_m)
    if not low <= spacing_m <= high + 1e-9:
        return f"a pitch of {spacing_m * 1000:.0f} mm ({low * 1000:.0f} to {high * 1000:.0f} mm under this cover)"
    return ""


def _valid(
    spacing_m: float,
    cover_m: float,
    covering_r_m2kw: float,
    pipe_m: float,
    pipe_wall_m: float,
    lambdas: tuple[float, ...],
) -> None:
    if not 0 < 2 * pipe_wall_m < pipe_m:
        raise PhysicsError("pipe_wall_m", pipe_wall_m, "the wall of a pipe is thinner than half of it")
    if not all(LEAST_LAMBDA <= one <= GREATEST_LAMBDA for one in lambdas):
        raise PhysicsError("lambda_w_mk", lambdas, "screed and pipe conduct 0.02 to 500 W/mK")
    if not LEAST_SPACING_M <= spacing_m <= GREATEST_SPACING_M:
        raise PhysicsError("spacing_m", spacing_m, "the method holds from 0.05 to 0.375 m")
    if not 0 <= covering_r_m2kw <= GREATEST_COVERING:
        raise PhysicsError("covering_r_m2kw", covering_r_m2kw, "the method holds from 0 to 0.15 m2K/W")
    if not 0.010 <= pipe_m <= 0.030:
        raise PhysicsError("pipe_m", pipe_m, "an outer diameter of 10 to 30 mm")
    if not 0.010 <= cover_m <= 0.25:
        raise PhysicsError("cover_m", cover_m, "the material over the pipe is 10 to 250 mm thick")


def conducted(
    *,
    spacing_m: float,
    cover_m: float,
    cover_lambda_w_mk: float,
    covering_r_m2kw: float,
    pipe_m: float,
    pipe_lambda_w_mk: float = PIPE_LAMBDA,
    pipe_wall_m: float = PIPE_WALL_M,
    below_r_m2kw: float = 2.0,
    alpha_w_m2k: float = ALPHA_FLOOR,
) -> Characteristic:
    """The same by two-dimensional conduction: a row of pipes lying on insulation in one plate, both sides at 0 K.

    The field of a periodic row of lines between two surfaces, as a cosine series in the plane of the row; the wall of
    the pipe in series. The covering counts as a resistance without spread of its own.

    Valid as `wet_screed`; a heated wall with `alpha_w_m2k` 8. Raises `PhysicsError` outside.
    Source: conduction in a plate (Fourier series), own derivation.

    >>> found = conducted(spacing_m=0.15, cover_m=0.045, cover_lambda_w_mk=1.0, covering_r_m2kw=0.05, pipe_m=0.017)
    >>> round(found.k_w_m2k, 1), 1.0 < found.uneven < 1.5
    (3.8, True)
    """
    _valid(spacing_m, cover_m, covering_r_m2kw, pipe_m, pipe_wall_m, (cover_lambda_w_mk, pipe_lambda_w_mk))
    require_positive("below_r_m2kw", below_r_m2kw)
    lam, radius = cover_lambda_w_mk, pipe_m / 2
    depth, thick = cover_m + radius, cover_m + pipe_m
    up, down = 1 / (1 / alpha_w_m2k + covering_r_m2kw), 1 / below_r_m2kw
    # per W/m of pipe: the mean field ...
    to_top = lam / up + depth
    to_bottom = lam / down + thick - depth
    share_up = to_bottom / (to_top + to_bottom)
    scale = 1 / (lam * spacing_m)
    # ... and its waves
    k = 2 * math.pi * np.arange(1, TERMS + 1) / spacing_m

    def wave(y: Array) -> Array:
        """f(y) of every wave (points, TERMS), with the source at `depth`."""
        low, high = np.minimum(y, depth)[:, None], np.maximum(y, depth)[:, None]
        top, bottom = up / (lam * k), down / (lam * k)

        def from_top(at: Num) -> Array:
            return np.asarray((1 + top) + (1 - top) * np.exp(-2 * k * at))

        def from_bottom(at: Num) -> Array:
            return np.asarray((1 + bottom) + (1 - bottom) * np.exp(-2 * k * (thick - at)))

        slope_top = (1 + top) - (1 - top) * np.exp(-2 * k * depth)
        slope_bottom = (1 + bottom) - (1 - bottom) * np.exp(-2 * k * (thick - depth))
        bend = k * (slope_top * from_bottom(depth) + from_top(depth) * slope_bottom)
        return np.asarray(from_top(low) * from_bottom(high) * np.exp(-k * (high - low)) / bend)

    around_y = depth + radius * np.sin(AROUND)
    waves = (2 * np.cos(np.outer(radius * np.cos(AROUND), k)) * wave(around_y)).sum(axis=1)
    level = np.where(
        around_y <= depth,
        (lam / up + around_y) * to_bottom / (to_top + to_bottom),
        (lam / down + thick - around_y) * to_top / (to_top + to_bottom),
    )
    pipe_outside = scale * float((level + waves).mean())
    water = pipe_outside + math.log(pipe_m / (pipe_m - 2 * pipe_wall_m)) / (2 * math.pi * pipe_lambda_w_mk)
    mean_top = scale * (lam / up) * share_up
    along = np.linspace(0.0, spacing_m / 2, PROFILE_POINTS)
    surface = mean_top + scale * (2 * wave(np.zeros(1)) * np.cos(np.outer(along, k))).sum(axis=1)
    q_up = share_up / spacing_m
    profile = tuple((surface / mean_top).tolist())
    return Characteristic(q_up / water, profile[0], (1 - share_up) / share_up, profile)


def mean_surface_excess_k(flux_w_m2: Num) -> Num:
    """Mean surface over room of a heated floor, K: q = 8.92 x^1.1. Source: EN 1264-2 base curve (from memory).

    >>> round(float(mean_surface_excess_k(100.0)), 1)
    9.0
    """
    require_not_negative("flux_w_m2", flux_w_m2)
    return (np.asarray(flux_w_m2, float) / 8.92) ** (1 / 1.1)


def greatest_flux_w_m2(*, surface_limit_c: float, room_c: float, uneven: float) -> float:
    """Most a floor may give before its hottest line passes the limit, W/m2: the base curve at (limit - room)/uneven.

    `uneven`: hottest over mean excess, from `conducted`. 0 where the limit is not above the room.
    Source: EN 1264-2 base curve for the mean, conduction for the line over the pipe.

    >>> round(greatest_flux_w_m2(surface_limit_c=29.0, room_c=20.0, uneven=1.0))
    100
    """
    if uneven < 1:
        raise PhysicsError("uneven", uneven, "the hottest line is no cooler than the mean")
    return float(8.92 * max((surface_limit_c - room_c) / uneven, 0.0) ** 1.1)


def downward_flux_w_m2(
    *, flux_w_m2: float, above_r_m2kw: float, below_r_m2kw: float, room_c: float, below_c: float
) -> float:
    """Heat that goes down, W/m2: (R_o q + room - below) / R_u, never negative.

    `above_r_m2kw` R_o from the plane of the pipes to the room with its surface, `below_r_m2kw` R_u to what lies below.
    Source: EN 1264-4 (from memory).

    >>> round(downward_flux_w_m2(flux_w_m2=50.0, above_r_m2kw=0.15, below_r_m2kw=1.5, room_c=21.0, below_c=9.0), 1)
    13.0
    """
    require_positive("below_r_m2kw", below_r_m2kw)
    require_not_negative("above_r_m2kw", above_r_m2kw)
    return max((above_r_m2kw * flux_w_m2 + room_c - below_c) / below_r_m2kw, 0.0)
