"""A day of a hot-water store in layers: drawn from above, heated by a coil, an exchanger or an immersion, losing to its cupboard.

Plug flow with one layer a step, so that nothing mixes that a real store keeps apart; where a lower layer is warmer than the one above
the two stir. Compiled by numba.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from cinder.errors import PhysicsError
from cinder.physics.compiled import compiled
from cinder.physics.quantity import Array, require_not_negative, require_positive
from cinder.physics.store.charging import Machine
from cinder.physics.store.cylinder import WATER_WH_L_K

MINUTES = 24 * 60
LEAST_LAYERS = 10
NEVER = -1
TABLE_STEP_K = 0.5
ALIKE_K = 0.05
MOST_DAYS = 6
NO_SUN: Array = np.zeros(MINUTES)


class Draws(NamedTuple):
    """What is drawn, in order of time (D,): minute it begins, litres at the tap, L/min, deg C wanted at the tap, and the least that is
    still useful there."""

    minute: NDArray[np.intp]
    litres: Array
    flow_l_min: Array
    tap_c: Array
    useful_c: Array


class Vessel(NamedTuple):
    """The store: litres, what it loses, W/K, to what, deg C; the coil between two layers; the layer of the sensor and of the immersion."""

    volume_l: float
    loss_w_k: float
    around_c: float
    coil_from: int
    coil_to: int
    sensor: int
    immersion: int


class Rule(NamedTuple):
    """When it is heated. `hot_c` at the sensor ends a charge, `band_k` below begins one, in the minutes `allowed` (1440,).

    `ua_w_k` of the coil; or, with `plate`, of the exchanger, with `store_w_k` carried on its store side. `immersion_w` heats when
    `boost` (the machine makes no such water) up to `hot_c`, and from minute `hygiene_from` (-1: not this day) until all above it has
    stood at `hygiene_c` for `hygiene_hold` minutes, by the machine first where `hygiene_by_machine`. `most_hot`: the share of hot water
    a mixing valve passes at the most (a thermostatic one always lets a little cold in).
    """

    hot_c: float
    band_k: float
    allowed: NDArray[np.bool_]
    ua_w_k: float
    plate: bool
    store_w_k: float
    immersion_w: float
    boost: bool
    hygiene_from: int
    hygiene_c: float
    hygiene_hold: int
    hygiene_by_machine: bool
    most_hot: float = 1.0
    spare_w: Array = NO_SUN
    """What the house's own sun has to spare, W (1440,): the immersion takes it up to `spare_to_c`."""
    spare_to_c: float = 0.0


@dataclass(frozen=True, slots=True)
class Day:
    """Every minute (1440,) of one day after others like it; where two kinds of day take turns, the worse of them.

    `layers_c` (1440, N) from the bottom up; `machine_w`, `immersion_w`, `sun_w` (through the immersion, from what the sun has to spare)
    heat into the store, `drawn_w` out of it, `lost_w`;
    `electric_w` of the machine; `leaving_c` its water (NaN: at rest); `stalls`. By draw (D,): the least temperature at the tap,
    minutes and litres below what is useful, `hot_l` taken from the store. `began_c`, `ended_c`: mean temperature of the store.
    `left_w`: what of the balance does not close, W in the mean.
    """

    layers_c: Array
    machine_w: Array
    immersion_w: Array
    sun_w: Array
    drawn_w: Array
    lost_w: Array
    electric_w: Array
    leaving_c: Array
    stalls: NDArray[np.bool_]
    least_tap_c: Array
    short_min: Array
    short_l: Array
    hot_l: Array
    began_c: float
    ended_c: float
    left_w: float


@compiled
def settle_layers(layers: Array) -> None:
    """Stir what is warmer below than above, from the bottom up, until no layer is (equal layers)."""
    count = layers.shape[0]
    means, sizes = np.empty(count), np.empty(count, dtype=np.intp)
    blocks = 0
    for i in range(count):
        mean, size = layers[i], 1
        while blocks > 0 and means[blocks - 1] > mean:
            mean = (mean * size + means[blocks - 1] * sizes[blocks - 1]) / (size + sizes[blocks - 1])
            size += sizes[blocks - 1]
            blocks -= 1
        means[blocks], sizes[blocks] = mean, size
        blocks += 1
    at = 0
    for b in range(blocks):
        for _ in range(sizes[b]):
            layers[at] = means[b]
            at += 1


@compiled
def pushed_up(layers: Array, part: float, below_c: float) -> float:
    """Push a part of a layer's volume up through the store from below; what leaves at the top, deg C."""
    count = layers.shape[0]
    top = layers[count - 1]
    for i in range(count - 1, 0, -1):
        layers[i] += part * (layers[i - 1] - layers[i])
    layers[0] += part * (below_c - layers[0])
    return float(top)


@compiled
def pushed_down(layers: Array, part: float, above_c: float) -> None:
    """Push a part of a layer's volume down through the store from above."""
    count = layers.shape[0]
    for i in range(count - 1):
        layers[i] += part * (layers[i + 1] - layers[i])
    layers[count - 1] += part * (above_c - layers[count - 1])


@compiled
def on_table(x: float, first: float, step: float, values: Array) -> float:
    """A value between the even steps of a table, held at its ends."""
    at = min(max((x - first) / step, 0.0), values.shape[0] - 1.0)
    cell = min(int(at), values.shape[0] - 2)
    return float(values[cell] + (at - cell) * (values[cell + 1] - values[cell]))


@compiled
def leaving(first: float, step: float, greatest: Array, slope: float, base: float) -> float:
    """The water at which slope T - base meets the greatest output, the warmest where it never does."""
    count = greatest.shape[0]
    low, high = 0, count - 1
    if slope * (first + high * step) - base <= greatest[high]:
        return float(first + high * step)
    if slope * first - base >= greatest[0]:
        return float((greatest[0] + base) / slope)
    while high - low > 1:
        middle = (low + high) // 2
        if slope * (first + middle * step) - base < greatest[middle]:
            low = middle
        else:
            high = middle
    under = greatest[low] - (slope * (first + low * step) - base)
    over = slope * (first + high * step) - base - greatest[high]
    part = min(max(under / (under + over), 0.0), 1.0) if under + over > 0 else 0.0
    return float(first + (low + part) * step)


@compiled
def run(
    layers: Array, cold_c: float, draws: Draws, vessel: Vessel, rule: Rule, first: float, step: float, greatest: Array, least: Array,
    cop: Array, flow_w_k: float, left: Array, shown: Array, flows: Array, by_draw: Array, on: bool,
) -> bool:  # fmt: skip
    """One day, minute by minute: `layers` (N,) are changed; `shown` (1440, N), `flows` (8, 1440), `by_draw` (4, D) are filled.

    `left` (D,): what of every draw is still to come, so that one that runs on past midnight goes on in the morning. `on`: whether a
    charge is under way, and whether one is at the end.
    """
    count = layers.shape[0]
    capacity = vessel.volume_l * WATER_WH_L_K / count * 60.0  # of a layer, W min / K
    warmest = first + (greatest.shape[0] - 1) * step
    pending = 0.0
    held, hygiene = 0, False
    for d in range(left.shape[0]):
        by_draw[0, d], by_draw[1, d], by_draw[2, d], by_draw[3, d] = 1000.0, 0.0, 0.0, 0.0
    for minute in range(MINUTES):
        # what is drawn: whole layers move at once, the rest waits until the draws end
        drawn, busy = 0.0, False
        for d in range(left.shape[0]):
            if draws.minute[d] == minute:
                left[d] += draws.litres[d]
            if left[d] <= 0.0:
                continue
            tapped = min(draws.flow_l_min[d], left[d])
            top = layers[count - 1]
            wanted = draws.tap_c[d]
            share = (wanted - cold_c) / (top - cold_c) if top > wanted else 1.0
            share = min(share, rule.most_hot)
            hot = tapped * share
            tap = min(cold_c + share * (top - cold_c), wanted)
            if tap < by_draw[0, d]:
                by_draw[0, d] = tap
            if tap < draws.useful_c[d] - 1e-6:
                by_draw[1, d] += tapped / draws.flow_l_min[d]
                by_draw[2, d] += tapped
            by_draw[3, d] += hot
            left[d] -= tapped
            pending += hot
            busy = busy or left[d] > 0.0
        layer_l = vessel.volume_l / count
        while pending >= layer_l or (pending > 0.0 and not busy):
            part = min(pending / layer_l, 1.0)
            drawn += part * capacity * (pushed_up(layers, part, cold_c) - cold_c)
            pending = max(pending - part * layer_l, 0.0)
        # whether it is heated
        if rule.hygiene_from >= 0 and minute == rule.hygiene_from:
            hygiene, held = True, 0
        goal = rule.hygiene_c if hygiene and rule.hygiene_by_machine else rule.hot_c
        if not on and (rule.allowed[minute] or (hygiene and rule.hygiene_by_machine)):
            on = layers[vessel.sensor] < goal - (0.0 if hygiene and rule.hygiene_by_machine else rule.band_k)
        if on and (layers[vessel.sensor] >= goal or not (rule.allowed[minute] or hygiene)):
            on = False
        heat, leaves, stalls = 0.0, np.nan, False
        if on and greatest.max() > 0.0:
            if rule.plate:
                small, large = min(flow_w_k, rule.store_w_k), max(flow_w_k, rule.store_w_k)
                units, ratio = rule.ua_w_k / small, small / large
                fades = np.exp(-units * (1 - ratio))
                share = units / (1 + units) if ratio > 1 - 1e-9 else (1 - fades) / (1 - ratio * fades)
                slope = share * small
                leaves = leaving(first, step, greatest, slope, slope * layers[0])
                heat = max(slope * (leaves - layers[0]), 0.0)
                moved = rule.store_w_k / WATER_WH_L_K / 60.0 / layer_l  # layers a minute
                while moved > 0.0:
                    part = min(moved, 1.0)
                    # what the pump brings up from below comes back above, warmed by the same heat
                    above = layers[0] + heat / rule.store_w_k
                    pushed_down(layers, part, above)
                    moved -= part
            else:
                parts = vessel.coil_to - vessel.coil_from + 1
                keeps = np.exp(-rule.ua_w_k / parts / flow_w_k)
                a, b = 1.0, 0.0
                for i in range(vessel.coil_to, vessel.coil_from - 1, -1):
                    a, b = a * keeps, b * keeps + layers[i] * (1 - keeps)
                leaves = leaving(first, step, greatest, flow_w_k * (1 - a), flow_w_k * b)
                heat = flow_w_k * (leaves * (1 - a) - b)
                if heat > 0.0:
                    water = leaves
                    for i in range(vessel.coil_to, vessel.coil_from - 1, -1):
                        given = (water - layers[i]) * (1 - keeps)
                        water -= given
                        layers[i] += flow_w_k * given / capacity
                heat = max(heat, 0.0)
            stalls = leaves >= warmest - 1e-9 and heat < on_table(leaves, first, step, least)
        by_hand = 0.0
        lowest = layers[vessel.immersion]
        if rule.immersion_w > 0.0:
            boosts = rule.boost and greatest.max() <= 0.0 and rule.allowed[minute] and layers[count - 1] < rule.hot_c
            if (hygiene and lowest < rule.hygiene_c + 1.0) or boosts:
                by_hand = rule.immersion_w
                layers[vessel.immersion] += by_hand / capacity
        led = 0.0
        if rule.spare_w[minute] > 0.0 and lowest < rule.spare_to_c:
            led = min(rule.spare_w[minute], max(rule.immersion_w - by_hand, 0.0))
            layers[vessel.immersion] += led / capacity
        if hygiene:
            held = held + 1 if lowest >= rule.hygiene_c - 0.05 else 0
            if held >= rule.hygiene_hold:
                hygiene = False
        lost = 0.0
        for i in range(count):
            loses = vessel.loss_w_k / count * (layers[i] - vessel.around_c)
            layers[i] -= loses / capacity
            lost += loses
        settle_layers(layers)
        for i in range(count):
            shown[minute, i] = layers[i]
        flows[0, minute], flows[1, minute], flows[2, minute], flows[3, minute] = heat, by_hand, drawn, lost
        flows[4, minute] = heat / max(on_table(leaves, first, step, cop), 0.1) if heat > 0.0 else 0.0
        flows[5, minute], flows[6, minute] = leaves, 1.0 if stalls else 0.0
        flows[7, minute] = led
    if pending > 0.0:
        flows[2, MINUTES - 1] += pending / layer_l * capacity * (pushed_up(layers, pending / layer_l, cold_c) - cold_c)
    return on


def simulate(machine: Machine, *, draws: Draws, vessel: Vessel, rule: Rule, layers: int, cold_c: float) -> Day:
    """One day of a store after days like it: run until it ends as it began, or the worse of two days that take turns.

    `layers` at least 10. Valid for: draws in order of time within the day, a coil and a sensor within the store. Raises
    `PhysicsError` otherwise. Source: energy balance of every layer; plug flow.
    """
    require_positive("volume_l", vessel.volume_l)
    require_not_negative("loss_w_k", vessel.loss_w_k)
    require_positive("flow_w_k", machine.flow_w_k)
    if layers < LEAST_LAYERS:
        raise PhysicsError("layers", layers, f"at least {LEAST_LAYERS}")
    if not 0 <= vessel.coil_from <= vessel.coil_to < layers:
        raise PhysicsError("coil", (vessel.coil_from, vessel.coil_to), "must lie in the store, from below to above")
    if len(draws.minute) and (
        draws.minute.min() < 0 or draws.minute.max() >= MINUTES or np.any(np.diff(draws.minute) < 0)
    ):
        raise PhysicsError("minute", draws.minute.tolist(), "must lie in the day, in order")
    if np.any(draws.flow_l_min <= 0) or np.any(draws.litres < 0):
        raise PhysicsError("flow_l_min", draws.flow_l_min.tolist(), "must be greater than zero")
    first, last = float(machine.water_c[0]), float(machine.water_c[-1])
    count = max(round((last - first) / TABLE_STEP_K), 1) + 1
    water = np.linspace(first, last, count)
    greatest, least, cop = (
        np.interp(water, machine.water_c, of) for of in (machine.greatest_w, machine.least_w, machine.cop)
    )
    state, on = np.full(layers, float(rule.hot_c)), False
    left = np.zeros(len(draws.minute))
    days: list[Day] = []
    for _ in range(MOST_DAYS):
        began = state.copy()
        shown, flows, by_draw = np.empty((MINUTES, layers)), np.empty((8, MINUTES)), np.empty((4, len(draws.minute)))
        on = run(
            state, cold_c, draws, vessel, rule, first, float(water[1] - water[0]), greatest, least, cop, machine.flow_w_k, left, shown, flows,
            by_draw, on,
        )  # fmt: skip
        days.append(_day(shown, flows, by_draw, began, state, vessel.volume_l))
        if np.abs(state - began).max() < ALIKE_K:
            return days[-1]
    return max(days[-2:], key=lambda day: (float(day.short_min.sum()), -day.began_c))


def _day(shown: Array, flows: Array, by_draw: Array, began: Array, ended: Array, volume_l: float) -> Day:
    heat, by_hand, drawn, lost, electric, leaving_c, stalls, sun = flows
    held = volume_l * WATER_WH_L_K * float(ended.mean() - began.mean()) / 24
    left = float(heat.mean() + by_hand.mean() + sun.mean() - drawn.mean() - lost.mean()) - held
    return Day(
        shown, heat, by_hand, sun, drawn, lost, electric, leaving_c, stalls > 0, by_draw[0], by_draw[1], by_draw[2], by_draw[3],
        float(began.mean()), float(ended.mean()), left,
    )  # fmt: skip


def ready() -> None:
    """Compile the day, so that nobody waits for it."""
    water = np.array([20.0, 60.0])
    machine = Machine(water, np.array([6000.0, 5000.0]), np.array([2000.0, 2000.0]), np.array([4.0, 2.0]), 1000.0)
    simulate(
        machine, draws=Draws(np.array([420]), np.array([60.0]), np.array([8.0]), np.array([40.0]), np.array([40.0])),
        vessel=Vessel(200.0, 1.5, 20.0, 0, 5, 5, 3),
        rule=Rule(48.0, 6.0, np.ones(MINUTES, dtype=bool), 900.0, False, 0.0, 0.0, False, NEVER, 60.0, 60, False),
        layers=LEAST_LAYERS, cold_c=10.0,
    )  # fmt: skip
