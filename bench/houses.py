"""Houses whose coefficient is known, from a model the adviser does not share: three nodes of resistances and capacities, hour by hour.

Air, inner mass and a wall with its own mass; windows by two bearings, wind that changes the air, people who come and go, windows opened,
a thermostat that drifts, a meter and thermometers with their own errors.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cinder.physics.compiled import compiled

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class House:
    """What the days of a winter show, and the coefficient behind them, W/K: the mean of the season, wind and all, without the windows
    somebody opened."""

    true_w_k: float
    heat_kwh: Floats
    outdoor_c: Floats
    inside_c: Floats
    sun_w_m2: Floats


def weather(rng: np.random.Generator, days: int) -> tuple[Floats, Floats, Floats]:
    """Outdoor temperature, sun on the level, wind of every hour, October to April."""
    hours = days * 24
    t = np.arange(hours)
    mean = 7.0 - 4.5 * np.sin(np.pi * t / hours) + rng.normal(0, 1.2)
    slow = np.zeros(hours)
    for n in range(1, hours):
        slow[n] = 0.985 * slow[n - 1] + rng.normal(0, 0.6)
    day = t / 24
    height = np.maximum(np.sin((t % 24 - 6) / 12 * np.pi), 0) * (0.35 + 0.65 * np.abs(2 * day / days - 1))
    clear = np.repeat(np.clip(rng.beta(1.2, 1.6, days), 0.05, 1), 24)
    sun = 600 * height * clear
    air = mean + slow + 2.5 * clear * np.sin((t % 24 - 9) / 24 * 2 * np.pi)
    wind = np.maximum(3.5 + np.repeat(rng.normal(0, 1.5, days), 24) + rng.normal(0, 0.8, hours), 0.2)
    return air, sun, wind


@compiled
def _live(
    air: Floats,
    gain_w: Floats,
    vent_w_k: Floats,
    body: Floats,
    want: float,
    most: float,
    heat_kwh: Floats,
    inside_c: Floats,
) -> None:
    """The three nodes through their hours in quarters: air of the rooms, what lies within, walls; heat and room of every hour."""
    quick, trade, inner, outer, volume_j, mass_j, wall_j = body
    theta, mass, wall = want, want, (want + air[0]) / 2
    dt = 900.0
    for h in range(len(air)):
        total, gain = 0.0, gain_w[h]
        for _ in range(4):
            lost = (quick + vent_w_k[h]) * (theta - air[h]) + trade * (theta - mass) + inner * (theta - wall)
            asked = min(max(lost - 0.5 * gain + volume_j * (want - theta) / 3600 * 2, 0.0), most)
            total += asked * dt
            theta += (asked + 0.5 * gain - lost) * dt / volume_j
            mass += (trade * (theta - mass) + 0.5 * gain) * dt / mass_j
            wall += (inner * (theta - wall) - outer * (wall - air[h])) * dt / wall_j
        heat_kwh[h], inside_c[h] = total / 3.6e6, theta


def simulated(seed: int, days: int = 200) -> House:
    """One house through one winter."""
    rng = np.random.default_rng(seed)
    air, sun, wind = weather(rng, days)
    fabric = rng.uniform(90, 320)
    leak = rng.uniform(25, 90)
    wall_share = rng.uniform(0.35, 0.6)
    volume_j = rng.uniform(4e6, 9e6)
    mass_j, wall_j = rng.uniform(1.5e7, 5e7), rng.uniform(2e7, 6e7)
    trade = rng.uniform(400, 900)
    glass = rng.uniform(2.0, 7.0)
    people = rng.uniform(250, 600)
    want = rng.uniform(18.5, 21.5)
    most = rng.uniform(6000, 14000)
    base = 0.0
    blown = leak * (0.55 + 0.45 * wind / 3.5)
    opened = np.repeat(rng.random(days) < 0.05, 24) * rng.uniform(40, 150)
    busy = np.repeat(rng.gamma(6, 1 / 6, days), 24) * (
        0.6 + 0.8 * ((np.arange(days * 24) % 24 > 6) & (np.arange(days * 24) % 24 < 23))
    )
    wall_w_k = fabric * wall_share
    quick = fabric - wall_w_k
    inner, outer = 2 * wall_w_k, 2 * wall_w_k
    heat, inside = np.zeros(days * 24), np.zeros(days * 24)
    _live(
        air, people * busy + glass * sun * 0.7, blown + opened, np.array([quick, trade, inner, outer, volume_j, mass_j, wall_j]), want, most,
        heat, inside,
    )  # fmt: skip
    meter = 1 + rng.normal(0, 0.02)
    off = rng.normal(0, 0.2)
    by_day = lambda x: x.reshape(days, 24)  # noqa: E731
    noise = rng.normal(0, 0.1, days)
    measured = by_day(heat).sum(axis=1) * meter + base
    odd = rng.random(days) < 0.02
    measured = np.where(odd, measured * rng.uniform(0.2, 1.8, days), measured)
    sel = slice(7, None)
    true = fabric + float(blown.mean())
    return House(
        true, measured[sel], by_day(air).mean(axis=1)[sel] + rng.normal(0, 0.2), (by_day(inside).mean(axis=1) + off + noise)[sel],
        by_day(sun).mean(axis=1)[sel],
    )  # fmt: skip
