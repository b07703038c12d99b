"""Thermal transmittance of layered elements and of windows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import product
from typing import Literal

import numpy as np

from cinder.errors import PhysicsError
from cinder.physics.quantity import KELVIN_AT_0_C, Array, require_not_negative, require_positive

STEFAN_BOLTZMANN = 5.67e-8
BLACK_EMISSIVITY = 0.9
AIR_MEAN_C = 10.0
GREATEST_GAP_M = 0.3
COMBINED_RATIO = 1.5
"""Above this R_upper / R_lower the combined method does not hold (ISO 6946:2017, 6.7.2.1, from memory)."""
METAL_LAMBDA = 10.0
"""A bridge that conducts better than this is metal, and the combined method is invalid for it."""


@dataclass(frozen=True, slots=True)
class Layer:
    """One layer as parallel parts, each (share of the area, resistance m2K/W); shares sum to 1."""

    parts: tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class Transmittance:
    """A U-value with everything that made it (resistances in m2K/W)."""

    u_w_m2k: float
    r_total: float
    r_upper: float
    r_lower: float
    rsi: float
    rse: float
    r_layers: tuple[float, ...]

    @property
    def limits_ratio(self) -> float:
        """R_upper / R_lower: 1 without bridges; the combined method holds up to 1.5."""
        return self.r_upper / self.r_lower


def homogeneous_layer(*, thickness_m: float, lambda_w_mk: float) -> Layer:
    """Layer of one material, R = d / lambda.

    >>> homogeneous_layer(thickness_m=0.1, lambda_w_mk=0.5).parts
    ((1.0, 0.2),)
    """
    require_positive("thickness_m", thickness_m)
    require_positive("lambda_w_mk", lambda_w_mk)
    return Layer(((1.0, thickness_m / lambda_w_mk),))


def resistance_layer(*, r_m2kw: float) -> Layer:
    """Layer of stated resistance (an air space, a declared board).

    >>> resistance_layer(r_m2kw=0.18).parts
    ((1.0, 0.18),)
    """
    require_positive("r_m2kw", r_m2kw)
    return Layer(((1.0, r_m2kw),))


def bridged_layer(*, thickness_m: float, lambda_w_mk: float, bridge_lambda_w_mk: float, share: float) -> Layer:
    """Layer crossed by studs or joists that take `share` (0..1) of the area.

    >>> bridged_layer(thickness_m=0.1, lambda_w_mk=0.04, bridge_lambda_w_mk=0.13, share=0.1).parts[1][0]
    0.1
    """
    require_positive("thickness_m", thickness_m)
    require_positive("lambda_w_mk", lambda_w_mk)
    require_positive("bridge_lambda_w_mk", bridge_lambda_w_mk)
    require_not_negative("share", share)
    return Layer(((1.0 - share, thickness_m / lambda_w_mk), (share, thickness_m / bridge_lambda_w_mk)))


def transmittance(layers: Sequence[Layer], *, rsi: float, rse: float) -> Transmittance:
    """U-value by the combined method: R_T = (R_upper + R_lower) / 2, U = 1 / R_T.

    R_upper: every straight path through the layers in parallel, 1/R = sum f_path / R_path.
    R_lower: isothermal planes, R = Rsi + sum_j 1 / sum_i (f_i / R_ji) + Rse.

    Valid for: plane elements without metal bridges, ratio R_upper / R_lower <= 1.5.
    Raises `PhysicsError` on a resistance that is not positive.
    Source: ISO 6946:2017, 6.7 (from memory).

    >>> round(transmittance([homogeneous_layer(thickness_m=0.22, lambda_w_mk=0.77)],
    ...                     rsi=0.13, rse=0.04).u_w_m2k, 3)
    2.194
    """
    require_not_negative("rsi", rsi)
    require_not_negative("rse", rse)
    r_layers = tuple(1.0 / sum(f / r for f, r in layer.parts) for layer in layers)
    r_lower = rsi + sum(r_layers) + rse
    conductance = 0.0
    for path in product(*(layer.parts for layer in layers)):
        share, r_path = 1.0, rsi + rse
        for f, r in path:
            share *= f
            r_path += r
        conductance += share / r_path
    r_upper = 1.0 / conductance
    r_total = (r_upper + r_lower) / 2.0
    return Transmittance(1.0 / r_total, r_total, r_upper, r_lower, rsi, rse, r_layers)


def air_layer_resistance(
    *,
    thickness_m: float,
    flow: Literal["across", "up", "down"],
    emissivity: float = BLACK_EMISSIVITY,
    mean_c: float = AIR_MEAN_C,
) -> float:
    """Resistance of an unventilated air layer, m2K/W: 1 / (h_a + E h_r0), 1/E = 1/e1 + 1/0.9 - 1.

    h_a: across max(1.25, 0.025/d), upwards max(1.95, 0.025/d), downwards max(0.12 d^-0.44, 0.025/d);
    h_r0 = 4 sigma T^3. `emissivity`: of the brighter surface (0.9 ordinary, about 0.05 to 0.2 foil).

    Valid for: gaps up to 300 mm between parallel faces. Raises `PhysicsError` outside.
    Source: ISO 6946:2017, annex D (from memory).

    >>> round(air_layer_resistance(thickness_m=0.05, flow="across"), 2)
    0.18
    """
    require_positive("thickness_m", thickness_m)
    require_positive("emissivity", emissivity)
    if thickness_m > GREATEST_GAP_M:
        raise PhysicsError("thickness_m", thickness_m, "an air layer is at most 300 mm; a larger space is a room")
    by_convection: float = {"across": 1.25, "up": 1.95, "down": 0.12 * thickness_m**-0.44}[flow]
    h_a = max(by_convection, 0.025 / thickness_m)
    h_r0 = 4 * STEFAN_BOLTZMANN * (mean_c + KELVIN_AT_0_C) ** 3
    between = 1 / (1 / emissivity + 1 / BLACK_EMISSIVITY - 1)
    return 1 / (h_a + between * h_r0)


def temperatures_through(*, resistances: Sequence[float], inside_c: float, outside_c: float) -> Array:
    """Temperatures at the surfaces and between the layers, inside first, deg C; shape (len(resistances) + 1,).

    `resistances` runs from the room air to the outside air: Rsi, every layer, Rse; the first temperature is the
    room air, the second the inside surface. Steady, one-dimensional: each drop is as the resistance.
    Source: conduction in series.

    >>> temperatures_through(resistances=[0.13, 0.83, 0.04], inside_c=20.0, outside_c=0.0).round(1).tolist()
    [20.0, 17.4, 0.8, 0.0]
    """
    for r in resistances:
        require_not_negative("resistance", r)
    steps = np.cumsum([0.0, *resistances])
    if steps[-1] <= 0:
        raise PhysicsError("resistances", list(resistances), "their sum must be greater than zero")
    return np.asarray(inside_c - (inside_c - outside_c) * steps / steps[-1])


def window_transmittance(
    *,
    glass_u_w_m2k: float,
    frame_u_w_m2k: float,
    frame_share: float,
    edge_psi_w_mk: float,
    edge_m_per_m2: float,
) -> float:
    """Window U, W/m2K: (1 - f) Ug + f Uf + (l/A) psi.

    Valid for: one glazing in one frame, `frame_share` 0..1 of the opening.
    Source: ISO 10077-1:2017, 6.4 (from memory).

    >>> round(window_transmittance(glass_u_w_m2k=1.1, frame_u_w_m2k=1.4, frame_share=0.3,
    ...                            edge_psi_w_mk=0.06, edge_m_per_m2=2.5), 2)
    1.34
    """
    require_positive("glass_u_w_m2k", glass_u_w_m2k)
    require_positive("frame_u_w_m2k", frame_u_w_m2k)
    require_not_negative("frame_share", frame_share)
    return (1 - frame_share) * glass_u_w_m2k + frame_share * frame_u_w_m2k + edge_m_per_m2 * edge_psi_w_mk
