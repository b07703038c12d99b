"""Properties of plain water at about atmospheric pressure."""

from __future__ import annotations

import numpy as np

from cinder.physics.quantity import Num


def density_kg_m3(*, temperature_c: Num) -> Num:
    """Density, kg/m3. Valid for 0-100 deg C within 0.01 %. Source: Kell 1975, J. Chem. Eng. Data 20 (from memory).

    >>> round(density_kg_m3(temperature_c=40.0), 1)
    992.2
    """
    t = temperature_c
    top = 999.83952 + t * (
        16.945176 + t * (-7.9870401e-3 + t * (-46.170461e-6 + t * (105.56302e-9 - t * 280.54253e-12)))
    )
    return top / (1 + 16.87985e-3 * t)


def specific_heat_j_kgk(*, temperature_c: Num) -> Num:
    """Specific heat, J/kgK, a fifth-order fit to tabulated values.

    Valid for 0-100 deg C within 0.02 %. Source: steam-table values at 0 (10) 100 deg C (from memory), fitted.

    >>> round(specific_heat_j_kgk(temperature_c=40.0))
    4180
    """
    t = temperature_c
    return 4219.858 + t * (-3.270207 + t * (9.964625e-2 + t * (-1.480372e-3 + t * (1.152809e-5 - t * 3.460951e-8))))


def viscosity_pa_s(*, temperature_c: Num) -> Num:
    """Dynamic viscosity, Pa s. Valid for 0-100 deg C within 0.3 %.

    From 20 deg C: log10(mu/mu20) = [1.3272 (20-t) - 0.001053 (t-20)^2]/(t+105), mu20 = 1.002 mPa s; below:
    log10(mu/mPa s) = 1301/[998.333 + 8.1855 (t-20) + 0.00585 (t-20)^2] - 1.30233.
    Source: Hardy and Cottington 1949, Swindells, as printed in the CRC Handbook (from memory).

    >>> round(float(viscosity_pa_s(temperature_c=20.0)) * 1000, 3)
    1.002
    """
    above = np.asarray(temperature_c, float) - 20.0
    warm = (-1.3272 * above - 0.001053 * above * above) / (above + 125.0)
    cold = 1301.0 / (998.333 + 8.1855 * above + 0.00585 * above * above) - 1.30233
    out = np.where(above >= 0, 1.002e-3 * 10.0**warm, 1e-3 * 10.0**cold)
    return out if out.ndim else float(out)


def flow_for_heat_lph(*, heat_w: Num, spread_k: Num, temperature_c: Num) -> Num:
    """Volume flow that carries a heat, L/h: Phi / (rho c dT) x 3.6e6. Source: energy balance.

    >>> round(flow_for_heat_lph(heat_w=1000.0, spread_k=5.0, temperature_c=40.0))
    174
    """
    rho_c = density_kg_m3(temperature_c=temperature_c) * specific_heat_j_kgk(temperature_c=temperature_c)
    return heat_w / (rho_c * spread_k) * 3.6e6
