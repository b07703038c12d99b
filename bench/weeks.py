"""A first week of houses with one thing wrong, from a model the adviser does not share: three nodes, emitters by the arithmetic excess in
pieces, a pump of its own, hour by hour; instruments with their own errors. Odd seeds never set anything."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
FAULTS = ("as thought", "fabric", "emitters", "curve", "flow")


@dataclass(frozen=True)
class FirstWeek:
    """What is so, what was designed, and what was read (168,)."""

    truth: str
    loss_w_k: float
    below_k: float
    rated_w: Floats
    exponent: Floats
    line_out_c: Floats
    line_c: Floats
    flow_lph: float
    wanted_c: float
    outdoor_c: Floats
    inside_c: Floats
    heat_w: Floats
    supply_c: Floats
    return_c: Floats
    read_lph: Floats
    on: Floats
    sun_w_m2: Floats


def simulated(seed: int) -> FirstWeek:
    """One house. What was designed is a nominal house; what stands there is off it by what designs usually are, and by its fault."""
    rng = np.random.default_rng([77, seed])
    truth = FAULTS[seed // 2 % len(FAULTS)]
    loss, want, out_design = rng.uniform(140, 340), rng.uniform(19.5, 21.0), rng.uniform(-6, -1)
    design_w = loss * (want - out_design)
    flow_c = rng.uniform(40, 52)
    spread = rng.uniform(5, 8)
    count = int(rng.integers(6, 12))
    exponent = rng.uniform(1.24, 1.36, count)
    part = rng.dirichlet(np.full(count, 8.0))
    # nominal: sized so that at the design day the line serves with the usual mean water
    excess = flow_c - spread / 2 - want
    rated = part * design_w * 1.08 / (excess / 50.0) ** exponent
    flow_lph = design_w / 1.163 / spread
    line_out = np.array([out_design, 16.0])
    line = np.array([flow_c, want + 4.0])
    people = rng.uniform(2.0, 3.4)
    size = {"fabric": np.exp(rng.uniform(0.18, 0.45)), "emitters": np.exp(-rng.uniform(0.22, 0.6)),
            "flow": np.exp(-rng.uniform(0.3, 0.9)), "curve": rng.choice([-1.0, 1.0]) * rng.uniform(3.0, 7.0)}  # fmt: skip
    true_loss = loss * np.exp(rng.normal(0, 0.05)) * (size["fabric"] if truth == "fabric" else 1.0)
    true_rated = (
        rated
        * np.exp(rng.normal(0, 0.04))
        * np.exp(rng.normal(0, 0.05, count))
        * (size["emitters"] if truth == "emitters" else 1.0)
    )
    true_flow = flow_lph * np.exp(rng.normal(0, 0.04)) * (size["flow"] if truth == "flow" else 1.0)
    off = size["curve"] if truth == "curve" else rng.normal(0, 0.4)
    hours, steps = 168, 12
    t = np.arange(hours)
    air = rng.uniform(-1, 6) + np.cumsum(rng.normal(0, 0.35, hours)) * 0.6 + 2.2 * np.sin((t % 24 - 9) / 24 * 2 * np.pi)
    sun = (
        np.maximum(np.sin((t % 24 - 7) / 10 * np.pi), 0)
        * (t % 24 >= 7)
        * (t % 24 <= 17)
        * 260
        * np.repeat(rng.beta(1.1, 2.0, 7), 24)
    )
    glass = rng.uniform(1.5, 4.0)
    room = mass = wall = want
    volume_j, mass_j, wall_j = rng.uniform(4e6, 8e6), rng.uniform(1.5e7, 4e7), rng.uniform(2e7, 5e7)
    inner = true_loss * rng.uniform(0.8, 1.2)
    quick = true_loss - inner / 2
    trade = rng.uniform(500, 900)
    dt = 3600.0 / steps
    read = {name: np.zeros(hours) for name in ("in", "heat", "up", "back", "on")}
    water = flow_c - 8
    for h in range(-96, hours):
        n = max(h, 0)
        busy = rng.gamma(8, 1 / 8)
        gain = people * loss * 0.9 * busy + glass * sun[n] * 0.7
        sums = np.zeros(5)
        for _ in range(steps):
            supply = float(np.interp(air[n], line_out, line)) + off
            if room > want + 1.2:  # somebody closes a valve, the controller idles
                supply = min(supply, room + 6)
            water += (supply - water) * 0.6
            back, given = water, 0.0
            for _ in range(6):
                mean = max((water + back) / 2 - room, 0.0)
                given = float((true_rated * (mean / 50.0) ** exponent).sum())
                back = 0.5 * back + 0.5 * max(water - given / 1.163 / true_flow, room)
            given = min(given, 1.163 * true_flow * (water - room))
            lost = quick * (room - air[n]) + trade * (room - mass) + inner * (room - wall)
            room += (given + 0.55 * gain - lost) * dt / volume_j
            mass += (trade * (room - mass) + 0.45 * gain) * dt / mass_j
            wall += (inner * (room - wall) - inner * (wall - air[n])) * dt / wall_j
            sums += np.array([room, given, water, back, 1.0])
        if h >= 0:
            for name, value in zip(read, sums / steps, strict=True):
                read[name][h] = value
    bias = rng.normal(0, 0.25, 4)

    def noisy(values: Floats, k: float, own: float) -> Floats:
        return values + own + rng.normal(0, k, hours)

    meter = np.exp(rng.normal(0, 0.025))
    gauge = np.exp(rng.normal(0, 0.03))
    return FirstWeek(
        truth, loss, people, rated, exponent, line_out, line, flow_lph, want, noisy(air, 0.3, bias[0]), noisy(read["in"], 0.1, bias[1]),
        read["heat"] * meter * np.exp(rng.normal(0, 0.02, hours)), noisy(read["up"], 0.15, bias[2]), noisy(read["back"], 0.15, bias[3]),
        true_flow * gauge * np.exp(rng.normal(0, 0.02, hours)), np.ones(hours), sun,
    )  # fmt: skip
