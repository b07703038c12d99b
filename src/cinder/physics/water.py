"""Properties of plain water at about atmospheric pressure."""

from __future__ import annotations

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

    Valid for 0-100 deg C within 0.01 %. Source: steam-table values at 0 (10) 100 deg C (from memory), fitted.

    >>> round(specific_heat_j_kgk(temperature_c=40.0))
    4180
    """
    t = temperature_c
    return 4219.858 + t * (-3.270207 + t * (9.964625e-2 + t * (-1.480372e-3 + t * (1.152809e-5 - t * 3.460951e-8))))


def viscosity_pa_s(*, temperature_c: Num) -> Num:
    """Dynamic viscosity, Pa s. Valid for 0-100 deg C within 0.5 %.

    log10(mu/mu20) = (20-t)/(t+96) [1.2364 - 1.37e-3 (20-t) + 5.7e-6 (20-t)^2], mu20 = 1.002 mPa s.
    Source: Kestin, Sokolov, Wakeham 1978, J. Phys. Chem. Ref. Data 7 (from memory).

    >>> round(viscosity_pa_s(temperature_c=20.0) * 1000, 3)
    1.002
    """
    d = 20.0 - temperature_c
    exponent = d / (temperature_c + 96.0) * (1.2364 - 1.37e-3 * d + 5.7e-6 * d * d)
    return 1.002e-3 * 10.0**exponent


def flow_for_heat_lph(*, heat_w: Num, spread_k: Num, temperature_c: Num) -> Num:
    """Volume flow that carries a heat, L/h: Phi / (rho c dT) x 3.6e6. Source: energy balance.

    >>> round(flow_for_heat_lph(heat_w=1000.0, spread_k=5.0, temperature_c=40.0))
    174
    """
    rho_c = density_kg_m3(temperature_c=temperature_c) * specific_heat_j_kgk(temperature_c=temperature_c)
    return heat_w / (rho_c * spread_k) * 3.6e6
