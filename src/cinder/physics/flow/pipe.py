"""Friction in pipes and pressure loss in fittings."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from cinder.physics.compiled import compiled
from cinder.physics.quantity import Array, Num, flat, require_not_negative, require_positive

LN_10 = math.log(10.0)
LAMINAR_BELOW_RE = 2000.0
TURBULENT_ABOVE_RE = 2300.0
"""Between the two nobody can tell which it is: the turbulent law is taken from 2300 on, since it asks for more head."""


def velocity_m_s(*, flow_lph: Num, bore_m: Num) -> Num:
    """Mean velocity, m/s.

    >>> round(velocity_m_s(flow_lph=1000.0, bore_m=0.02), 3)
    0.884
    """
    require_positive("bore_m", bore_m)
    require_not_negative("flow_lph", flow_lph)
    return flow_lph / 3.6e6 / (np.pi / 4 * bore_m * bore_m)


def reynolds(*, velocity_m_s: Num, bore_m: Num, density_kg_m3: Num, viscosity_pa_s: Num) -> Num:
    """Reynolds number of pipe flow.

    >>> round(reynolds(velocity_m_s=1.0, bore_m=0.02, density_kg_m3=1000.0, viscosity_pa_s=0.001))
    20000
    """
    return density_kg_m3 * velocity_m_s * bore_m / viscosity_pa_s


def colebrook(*, reynolds_number: Num, relative_roughness: Num) -> Array:
    """Darcy friction factor of turbulent flow: 1/sqrt(f) = -2 log10(eps/3.71 + 2.51/(Re sqrt(f))).

    Solved by Newton's method on y = 1/sqrt(f), started at Haaland's explicit form.
    Valid for: Re >= 2300, relative roughness <= 0.05. Source: Colebrook 1939 (from memory).

    >>> float(colebrook(reynolds_number=1e5, relative_roughness=1e-4).round(5))
    0.01851
    """
    return _each(_colebrook_all, reynolds_number, relative_roughness)


def _each(law: Callable[[Array, Array, Array], None], one: Num, other: Num) -> Array:
    """A compiled law at every pair of two values or arrays."""
    shape, (first, second) = flat(one, other)
    out = np.empty(len(first))
    law(first, second, out)
    return out.reshape(shape)


@compiled
def _colebrook(re: float, roughness: float) -> float:
    rough = roughness / 3.71
    y = -1.8 * math.log10(rough**1.11 + 6.9 / re)
    for _ in range(4):
        inner = rough + 2.51 * y / re
        slope = 1.0 + 2.0 / LN_10 * (2.51 / re) / inner
        y -= (y + 2.0 * math.log10(inner)) / slope
    return 1.0 / (y * y)


@compiled
def _factor(re: float, roughness: float) -> float:
    if not re > 0:
        return 0.0
    laminar = 64.0 / min(re, LAMINAR_BELOW_RE)
    if re <= LAMINAR_BELOW_RE:
        return laminar
    mix = min((re - LAMINAR_BELOW_RE) / (TURBULENT_ABOVE_RE - LAMINAR_BELOW_RE), 1.0)
    return laminar * (1 - mix) + _colebrook(max(re, TURBULENT_ABOVE_RE), roughness) * mix


@compiled
def _colebrook_all(re: Array, roughness: Array, out: Array) -> None:
    for n in range(len(re)):
        out[n] = _colebrook(re[n], roughness[n])


@compiled
def _factor_all(re: Array, roughness: Array, out: Array) -> None:
    for n in range(len(re)):
        out[n] = _factor(re[n], roughness[n])


def friction_factor(*, reynolds_number: Num, relative_roughness: Num) -> Array:
    """Darcy factor over the whole range: 64/Re to 2000, Colebrook from 2300 on, straight between in Re.

    Valid for: Re > 0 (0 gives 0). Source: Darcy-Weisbach with Colebrook; where the two laws meet is our choice.

    >>> float(friction_factor(reynolds_number=1000.0, relative_roughness=0.0))
    0.064
    """
    return _each(_factor_all, reynolds_number, relative_roughness)


def friction_pa_per_m(
    *, flow_lph: Num, bore_m: Num, roughness_m: Num, density_kg_m3: Num, viscosity_pa_s: Num
) -> Array:
    """Pressure gradient, Pa/m: f rho v^2 / (2 d).

    Valid for: full circular pipes, Newtonian water, Re <= 1e8. Raises `PhysicsError` on a bore <= 0 or flow < 0.
    Source: Darcy-Weisbach (from memory).

    >>> float(friction_pa_per_m(flow_lph=130.0, bore_m=0.007, roughness_m=7e-6,
    ...                         density_kg_m3=993.0, viscosity_pa_s=6.8e-4).round(-2))
    2000.0
    """
    v = velocity_m_s(flow_lph=flow_lph, bore_m=bore_m)
    re = reynolds(velocity_m_s=v, bore_m=bore_m, density_kg_m3=density_kg_m3, viscosity_pa_s=viscosity_pa_s)
    f = friction_factor(reynolds_number=re, relative_roughness=roughness_m / np.asarray(bore_m))
    return np.asarray(f * density_kg_m3 * np.square(v) / (2 * np.asarray(bore_m)))


def fitting_pa(*, k_sum: Num, velocity_m_s: Num, density_kg_m3: Num) -> Num:
    """Loss of fittings, Pa: K rho v^2 / 2. Source: common practice.

    >>> fitting_pa(k_sum=2.0, velocity_m_s=1.0, density_kg_m3=1000.0)
    1000.0
    """
    return k_sum * density_kg_m3 * velocity_m_s * velocity_m_s / 2


def valve_pa(*, flow_lph: Num, kv_m3h: Num) -> Num:
    """Loss of a valve or filter from its kv, Pa: (Q / kv)^2 bar. Source: definition of kv.

    >>> round(valve_pa(flow_lph=100.0, kv_m3h=1.0), 6)
    1000.0
    """
    require_positive("kv_m3h", kv_m3h)
    bar_root = flow_lph / 1000.0 / kv_m3h
    return bar_root * bar_root * 1e5


def water_content_l(*, bore_m: Num, length_m: Num) -> Num:
    """Water in a pipe, L.

    >>> round(water_content_l(bore_m=0.02, length_m=10.0), 2)
    3.14
    """
    return np.pi / 4 * bore_m * bore_m * length_m * 1000
