"""Moisture in a wall on a cold day: a plain hint, no proof."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.physics.quantity import Array, Num, require_not_negative, require_positive


@dataclass(frozen=True, slots=True)
class Diffusion:
    """Vapour pressures at the surfaces and between layers, inside first (Pa), and where they exceed saturation."""

    pressure_pa: Array
    saturation_pa: Array
    wet: tuple[int, ...]


def saturation_pressure_pa(*, temperature_c: Num) -> Array:
    """Saturation pressure of water vapour, Pa: 610.5 exp(17.269 t / (237.3 + t)), below 0 deg C over ice
    610.5 exp(21.875 t / (265.5 + t)).

    Valid for: -60 to 60 deg C. Source: ISO 13788:2012, annex E (from memory).

    >>> float(saturation_pressure_pa(temperature_c=20.0).round())
    2337.0
    """
    t = np.asarray(temperature_c, float)
    over_water = 610.5 * np.exp(17.269 * t / (237.3 + t))
    over_ice = 610.5 * np.exp(21.875 * t / (265.5 + t))
    return np.where(t >= 0, over_water, over_ice)


def dew_point_c(*, temperature_c: float, relative_humidity: float) -> float:
    """Dew point of air, deg C, from the inverse of `saturation_pressure_pa`.

    >>> round(dew_point_c(temperature_c=20.0, relative_humidity=0.5), 1)
    9.3
    """
    require_positive("relative_humidity", relative_humidity)
    log = float(np.log(saturation_pressure_pa(temperature_c=temperature_c) * relative_humidity / 610.5))
    over_water = 237.3 * log / (17.269 - log)
    return over_water if over_water >= 0 else 265.5 * log / (21.875 - log)


def diffusion(*, sd_m: Array, temperature_c: Array, inside_humidity: float, outside_humidity: float) -> Diffusion:
    """Vapour pressure through a section against saturation: linear in the air-equivalent thickness.

    Shapes: `sd_m` (L,) per layer, `temperature_c` (L + 1,) from the inside surface to the outside surface.
    `wet` lists the interfaces (index into `temperature_c`) where the straight line exceeds saturation: there
    condensate may form while such a day lasts. Valid for: steady days, no sun, no rain, no air leakage; a hint.
    Source: the graphical method of ISO 13788 for one cold spell (from memory).

    >>> cold = diffusion(sd_m=np.array([0.1, 5.0]), temperature_c=np.array([17.0, 2.0, -4.0]),
    ...                  inside_humidity=0.5, outside_humidity=0.8)
    >>> cold.wet
    (1,)
    """
    for sd in sd_m:
        require_not_negative("sd_m", float(sd))
    saturation = saturation_pressure_pa(temperature_c=temperature_c)
    inside = float(saturation_pressure_pa(temperature_c=20.0)) * inside_humidity
    outside = float(saturation[-1]) * outside_humidity
    along = np.concatenate([[0.0], np.cumsum(sd_m)])
    share = along / along[-1] if along[-1] > 0 else np.zeros(len(along))
    pressure = inside + (outside - inside) * share
    wet = tuple(int(n) for n in np.nonzero(pressure[1:-1] > saturation[1:-1] * (1 + 1e-9))[0] + 1)
    return Diffusion(np.asarray(pressure), np.asarray(saturation), wet)
