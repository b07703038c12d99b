"""The heating water: plain, or with glycol in it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.errors import PhysicsError
from cinder.physics.flow import water
from cinder.physics.quantity import Array, Num

MEAN_WATER_C = 40.0
"""Of heating water, where flows are set for a heat (our choice)."""
MOST_SHARE = 0.6
"""Beyond it glycol protects no better and the table ends."""


@dataclass(frozen=True, slots=True, eq=False)
class Table:
    """Glycol in water over its share by volume (S,) and the temperature (T,): `density_kg_m3`, `specific_heat_j_kgk`,
    `viscosity_pa_s` (S, T); `freezes_c` (S,), falling. The first row is plain water."""

    share: Array
    freezes_c: Array
    temperature_c: Array
    density_kg_m3: Array
    specific_heat_j_kgk: Array
    viscosity_pa_s: Array


@dataclass(frozen=True, slots=True, eq=False)
class Fluid:
    """Properties over the temperature (T,); plain water where there are none. `share`: glycol by volume."""

    share: float = 0.0
    freezes_c: float = 0.0
    temperature_c: Array | None = None
    density: Array | None = None
    heat: Array | None = None
    log_viscosity: Array | None = None

    def _at(self, column: Array | None, temperature_c: Num) -> Array:
        if column is None or self.temperature_c is None:
            raise PhysicsError("share", self.share, "plain water has no table")
        return np.asarray(np.interp(temperature_c, self.temperature_c, column))

    def density_kg_m3(self, *, temperature_c: Num) -> Num:
        """Density, kg/m3."""
        if self.density is None:
            return water.density_kg_m3(temperature_c=temperature_c)
        return self._at(self.density, temperature_c)

    def specific_heat_j_kgk(self, *, temperature_c: Num) -> Num:
        """Specific heat, J/kgK."""
        if self.heat is None:
            return water.specific_heat_j_kgk(temperature_c=temperature_c)
        return self._at(self.heat, temperature_c)

    def viscosity_pa_s(self, *, temperature_c: Num) -> Num:
        """Dynamic viscosity, Pa s: straight in its logarithm between the rows."""
        if self.log_viscosity is None:
            return water.viscosity_pa_s(temperature_c=temperature_c)
        return np.exp(self._at(self.log_viscosity, temperature_c))

    def flow_for_heat_lph(self, *, heat_w: Num, spread_k: Num, temperature_c: Num) -> Num:
        """Volume flow that carries a heat, L/h. Source: energy balance."""
        if self.density is None:
            return water.flow_for_heat_lph(heat_w=heat_w, spread_k=spread_k, temperature_c=temperature_c)
        heat = self.density_kg_m3(temperature_c=temperature_c) * self.specific_heat_j_kgk(temperature_c=temperature_c)
        return heat_w / (heat * spread_k) * 3.6e6

    def w_k_per_lph(self, *, temperature_c: Num) -> Num:
        """What 1 L/h carries for every kelvin, W/K (in numbers the Wh a litre holds for a kelvin). Source: energy balance.

        >>> round(float(PLAIN.w_k_per_lph(temperature_c=40.0)), 4)
        1.152
        """
        return (
            self.density_kg_m3(temperature_c=temperature_c)
            * self.specific_heat_j_kgk(temperature_c=temperature_c)
            / 3.6e6
        )


PLAIN = Fluid()


def mixed(table: Table, share: float) -> Fluid:
    """Water with a share of glycol by volume, straight between the rows of the table (viscosity in its logarithm).

    Raises `PhysicsError` on a share below 0 or above 0.6. Valid for: 0-100 deg C, above freezing.
    """
    if not 0 <= share <= MOST_SHARE:
        raise PhysicsError("share", share, f"must lie between 0 and {MOST_SHARE:g}")
    if share == 0:
        return PLAIN

    def row(values: Array) -> Array:
        return np.array([np.interp(share, table.share, column) for column in values.T])

    return Fluid(
        share, float(np.interp(share, table.share, table.freezes_c)), table.temperature_c, row(table.density_kg_m3),
        row(table.specific_heat_j_kgk), row(np.log(table.viscosity_pa_s)),
    )  # fmt: skip


def share_for(table: Table, freezes_c: float) -> float | None:
    """The least share of glycol by volume that freezes no sooner than at `freezes_c`; None where none of the table does."""
    if freezes_c >= 0:
        return 0.0
    if freezes_c < float(table.freezes_c[-1]):
        return None
    return float(np.interp(-freezes_c, -table.freezes_c, table.share))
