"""Heat that a pair of pipes loses on its way, outdoors and in the ground."""

from __future__ import annotations

import math

from cinder.errors import PhysicsError
from cinder.physics.quantity import require_not_negative, require_positive

FILM_W_M2K = 15.0
"""Surface of insulation outdoors, wind on it (our choice, between still air's 10 and a gale's 25)."""


def in_air_mk_w(*, outer_m: float, insulation_m: float, lambda_w_mk: float, film_w_m2k: float = FILM_W_M2K) -> float:
    """Resistance of a metre of one pipe in air, mK/W: its insulation and the surface of that; the pipe's own wall and the water's side
    are left out. Source: ISO 12241, radial conduction (from memory).

    >>> round(in_air_mk_w(outer_m=0.028, insulation_m=0.025, lambda_w_mk=0.035), 2)
    4.93
    """
    require_positive("outer_m", outer_m)
    require_not_negative("insulation_m", insulation_m)
    require_positive("lambda_w_mk", lambda_w_mk)
    over = outer_m + 2 * insulation_m
    return math.log(over / outer_m) / (2 * math.pi * lambda_w_mk) + 1 / (math.pi * over * film_w_m2k)


def buried_mk_w(
    *, outer_m: float, insulation_m: float, lambda_w_mk: float, depth_m: float, apart_m: float, soil_w_mk: float
) -> float:
    """Resistance of a metre of one of two alike pipes side by side in the ground, mK/W: its insulation, the soil over it, and the other
    one's warmth (`apart_m` between their middles).

    Raises `PhysicsError` where the pipe would lie above the ground. Source: EN 13941, two single pipes (from memory).

    >>> round(buried_mk_w(outer_m=0.032, insulation_m=0.03, lambda_w_mk=0.03, depth_m=0.8, apart_m=0.15, soil_w_mk=1.5), 2)
    6.23
    """
    over = outer_m + 2 * insulation_m
    if depth_m <= over / 2:
        raise PhysicsError("depth_m", depth_m, "must lie below the pipe's own upper edge")
    require_positive("soil_w_mk", soil_w_mk)
    require_positive("apart_m", apart_m)
    own = math.log(over / outer_m) / (2 * math.pi * lambda_w_mk)
    soil = math.log(4 * depth_m / over) / (2 * math.pi * soil_w_mk)
    other = math.log(1 + (2 * depth_m / apart_m) ** 2) / (4 * math.pi * soil_w_mk)
    return own + soil + other
