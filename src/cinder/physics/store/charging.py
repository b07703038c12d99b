"""A store charged by a machine: what its coil, or a plate exchanger beside it, can pass, and how warm the water must then leave."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cinder.errors import PhysicsError
from cinder.physics.quantity import Array, require_not_negative, require_positive
from cinder.physics.store.cylinder import WATER_WH_L_K

MOST_MINUTES = 3 * 24 * 60.0
"""A charge that takes longer is none."""
STEPS = 96


@dataclass(frozen=True, slots=True)
class Machine:
    """A machine over leaving water (W,), deg C, rising, at one outdoor temperature: greatest and least output, W, and COP.

    The last of `water_c` is the warmest water it makes then. `flow_w_k`: what its water carries, W/K.
    """

    water_c: Array
    greatest_w: Array
    least_w: Array
    cop: Array
    flow_w_k: float


@dataclass(frozen=True, slots=True)
class Charge:
    """While a stirred store stands at `store_c` (S,): leaving water, deg C, heat passed, W, COP; `limited`: the exchanger, not
    the machine, sets the heat; `stalls`: not even the machine's least output passes, it runs on and off at its warmest water."""

    store_c: Array
    leaving_c: Array
    heat_w: Array
    cop: Array
    limited: NDArray[np.bool_]
    stalls: NDArray[np.bool_]


def flow_w_k(*, flow_lph: float) -> float:
    """What a flow of water carries, W/K.

    >>> round(flow_w_k(flow_lph=860.0))
    1000
    """
    require_positive("flow_lph", flow_lph)
    return flow_lph * WATER_WH_L_K


def coil_share(*, ua_w_k: float, flow_w_k: float) -> float:
    """Effectiveness of a coil in a stirred store: what of flow - store its water gives up, 1 - e^(-UA/flow). That is the log mean
    of the coil with its own spread. Source: energy balance of a tube at a wall of one temperature.

    >>> round(coil_share(ua_w_k=1000.0, flow_w_k=1000.0), 4)
    0.6321
    """
    require_positive("ua_w_k", ua_w_k)
    require_positive("flow_w_k", flow_w_k)
    return -math.expm1(-ua_w_k / flow_w_k)


def plate_share(*, ua_w_k: float, flow_w_k: float, store_flow_w_k: float) -> float:
    """Effectiveness of a plate exchanger in counterflow over the smaller of its two flows.

    Source: effectiveness and number of transfer units, textbook (from memory).

    >>> round(plate_share(ua_w_k=2000.0, flow_w_k=1000.0, store_flow_w_k=1000.0), 4)
    0.6667
    """
    require_positive("ua_w_k", ua_w_k)
    small, large = sorted((flow_w_k, store_flow_w_k))
    require_positive("flow_w_k", small)
    units, ratio = ua_w_k / small, small / large
    if ratio > 1 - 1e-9:
        return units / (1 + units)
    fades = math.exp(-units * (1 - ratio))
    return (1 - fades) / (1 - ratio * fades)


def passed_w_k(*, share: float, flow_w_k: float) -> float:
    """Heat per kelvin of leaving water over the store, W/K."""
    require_not_negative("share", share)
    return share * flow_w_k


def charge(machine: Machine, *, per_k: float, store_c: Array) -> Charge:
    """What is passed into a stirred store at each of its temperatures, the machine giving all it can.

    `per_k`: heat per kelvin of leaving water over the store, W/K. The water leaves as warm as the heat needs, at most as warm as the
    machine makes it; there the exchanger is the limit. Shapes: `store_c` (S,). Source: energy balance.

    >>> steady = Machine(np.array([20.0, 70.0]), np.array([8000.0, 8000.0]), np.array([3000.0, 3000.0]), np.array([3.0, 3.0]), 1600.0)
    >>> charge(steady, per_k=800.0, store_c=np.array([40.0, 65.0])).leaving_c.tolist()
    [50.0, 70.0]
    """
    require_positive("per_k", per_k)
    water = machine.water_c
    if len(water) < 2 or np.any(np.diff(water) <= 0):
        raise PhysicsError("water_c", water.tolist(), "must rise from point to point")
    store = np.asarray(store_c, float)
    over = per_k * (water - store[:, None]) - machine.greatest_w  # (S, W), rising with the water
    warm = over >= 0
    there = np.where(warm.any(axis=1), warm.argmax(axis=1), len(water) - 1)
    before = np.maximum(there - 1, 0)
    rows = np.arange(len(store))
    low, high = over[rows, before], over[rows, there]
    part = np.where(high > low, np.clip(-low / np.where(high > low, high - low, 1.0), 0.0, 1.0), 1.0)
    leaving = np.maximum(water[before] + part * (water[there] - water[before]), store)
    leaving = np.where(warm[:, 0], store + machine.greatest_w[0] / per_k, leaving)  # cooler than it was ever tested
    limited = ~warm[:, -1]
    leaving = np.where(limited, np.maximum(water[-1], store), leaving)
    heat = per_k * np.maximum(leaving - store, 0.0)
    least = float(machine.least_w[-1])
    return Charge(store, leaving, heat, np.interp(leaving, water, machine.cop), limited, limited & (heat < least))


def minutes(machine: Machine, *, per_k: float, volume_l: float, cold_c: float, hot_c: float) -> float:
    """Time to bring a stirred store from cold to hot, min; infinite where the warmest water gets it no warmer.

    Source: energy balance, in equal steps of temperature.
    """
    require_positive("volume_l", volume_l)
    require_not_negative("hot_c - cold_c", hot_c - cold_c)
    edges = np.linspace(cold_c, hot_c, STEPS + 1)
    heat = charge(machine, per_k=per_k, store_c=(edges[:-1] + edges[1:]) / 2).heat_w
    if heat.min(initial=np.inf) <= 0:
        return math.inf
    took = float((volume_l * WATER_WH_L_K * np.diff(edges) / heat).sum() * 60)
    return took if took < MOST_MINUTES else math.inf


def limit_c(machine: Machine, *, per_k: float) -> tuple[float, float]:
    """The store's temperature from which the exchanger is the limit and not the machine; and that from which not even the machine's
    least output passes: it then runs on and off, or trips on high pressure. Source: energy balance at the warmest water.

    >>> steady = Machine(np.array([20.0, 60.0]), np.array([8000.0, 8000.0]), np.array([3000.0, 3000.0]), np.array([3.0, 3.0]), 1600.0)
    >>> limit_c(steady, per_k=800.0)
    (50.0, 56.25)
    """
    require_positive("per_k", per_k)
    warmest = float(machine.water_c[-1])
    return warmest - float(machine.greatest_w[-1]) / per_k, warmest - float(machine.least_w[-1]) / per_k
