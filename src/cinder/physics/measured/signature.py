"""Daily heat against outdoor temperature, sun and inside temperature: heat-loss coefficient, heating limit, base load, with their bands.

    Q = base + 0.024 H max(0, (θi - θo') - δ - a S) + C (θi - θi of yesterday)      kWh a day

θo' the outdoor temperature as the walls see it, partly yesterday's; δ what people and devices are worth in kelvin, S the mean sun of the day.
Robust (Huber), so that odd days count little; the band by a sandwich of Newey and West, since days hang together, with what the meter and
the thermometers may be off. Source: change-point model (common practice); Huber 1964, Newey and West 1987, from memory.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares

from cinder.physics.quantity import Array
from cinder.physics.running import running_mean

KWH_PER_WK = 0.024
HUBER = 1.345
ODD = 2.7
"""A day further off than so many times the scatter is odd and does not count: windows open, a stove lit, the house empty (our choice)."""
Z10 = 1.2815515655446004
LEAST_DAYS = 14
LEFT_OUT = 0.02
"""What the model leaves out, as a share of H, one standard deviation: sun a warm house has no use for, slow walls (our choice, set on one
half of the houses of `bench/houses.py`)."""
LAGS = 4


@dataclass(frozen=True, slots=True)
class Fit:
    """H in W/K, the limit as a difference inside to outside, K (`below_k`), the base in kWh a day; each with its standard deviation, and
    what was fitted beside: `sun_k_per_w_m2`, `yesterday` share with its `memory`, `mass_kwh_k`. `weight` of every day (N,), `resid_kwh`
    (N,), `scatter_kwh`."""

    h_w_k: float
    h_sd: float
    below_k: float
    below_sd: float
    base_kwh: float
    base_sd: float
    sun_k_per_w_m2: float
    yesterday: float
    memory: float
    mass_kwh_k: float
    weight: Array
    resid_kwh: Array
    scatter_kwh: float
    heating_days: int

    def at_rest(self, *, inside_c: Array, outdoor_c: Array, sun_w_m2: Array) -> Array:
        """Heat of days like all those before them, kWh."""
        k = np.maximum(inside_c - outdoor_c - self.below_k - self.sun_k_per_w_m2 * sun_w_m2, 0.0)
        return np.asarray(self.base_kwh + KWH_PER_WK * self.h_w_k * k)


def _remembered(outdoor_c: Array, starts: NDArray[np.intp], memory: float) -> Array:
    """The days before as a wall remembers them: each counts `memory` of the one after it; from every gap on (`starts`, indices) it begins
    anew."""
    out = np.empty(len(outdoor_c))
    for first, end in zip(starts, np.append(starts[1:], len(outdoor_c)), strict=True):
        part = outdoor_c[first:end]
        held = running_mean(part, keep=memory, start=float(part[0]))
        out[first] = part[0]
        out[first + 1 : end] = held[:-1]
    return out


def fit(
    *, heat_kwh: Array, outdoor_c: Array, inside_c: Array, sun_w_m2: Array | None = None, follows: NDArray[np.bool_] | None = None,
    meter_share: float = 0.02, thermometer_k: float = 0.3, base_known: float | None = None,
) -> Fit:  # fmt: skip
    """The signature of days (N,). `follows`: whether each day follows the one before it (N,); without it all do. `meter_share`,
    `thermometer_k`: what heat meter and difference of temperatures may be off throughout, one standard deviation; `base_known`: the base
    load where it is known (nought where hot water is metered apart).

    Raises `ValueError` where fewer than 14 days are there, or none of them is heated.
    """
    if len(heat_kwh) < LEAST_DAYS:
        raise ValueError(f"{len(heat_kwh)} days are too few: at least {LEAST_DAYS} are needed")
    delta = inside_c - outdoor_c
    if float(np.quantile(delta, 0.9)) < 6.0 or float(heat_kwh.max()) <= 0:
        raise ValueError("no day of it is a heating day")
    sun = np.zeros_like(heat_kwh) if sun_w_m2 is None else sun_w_m2
    joined = np.ones(len(heat_kwh), dtype=bool) if follows is None else follows
    starts = np.flatnonzero(~joined | (np.arange(len(joined)) == 0))
    rise = np.where(joined, inside_c - np.concatenate(([inside_c[0]], inside_c[:-1])), 0.0)
    with_sun = sun_w_m2 is not None and float(sun.std()) > 5.0
    scale_sun = 100.0

    def model(p: Array) -> Array:
        h, below, base, a, w, c, m = p
        seen = (1 - w) * outdoor_c + w * _remembered(outdoor_c, starts, float(m))
        k = inside_c - seen - below - (a / scale_sun) * sun
        return np.asarray(base + KWH_PER_WK * h * np.maximum(k, 0.0) + c * rise)

    slope = max(float(np.polyfit(delta, heat_kwh, 1)[0]) / KWH_PER_WK, 10.0)
    start = np.array(
        [
            slope,
            3.0,
            max(float(np.quantile(heat_kwh, 0.02)), 0.0) if base_known is None else base_known,
            0.2,
            0.25,
            0.0,
            0.5,
        ]
    )
    low = np.array([1.0, -5.0, 0.0, 0.0, 0.0, -200.0, 0.0])
    high = np.array([5000.0, 15.0, 200.0, 8.0 if with_sun else 1e-9, 0.8, 200.0, 0.92])
    if base_known is not None:
        low[2], high[2] = base_known - 1e-9, base_known + 1e-9
    start = np.clip(start, low + 1e-10, high - 1e-10)
    scatter = 1.4826 * float(np.median(np.abs(heat_kwh - model(start)))) + 0.5
    p = start
    counts = np.ones(len(heat_kwh))
    for _ in range(3):
        now = scatter

        def priced(q: Array, now: float = now, counts: Array = counts) -> Array:
            # people are worth something like 3 K everywhere, and some of yesterday's air stands in the walls: said softly, for mild or short
            # records that cannot tell them from the slope
            return np.concatenate(
                (
                    counts * (heat_kwh - model(q)) / now,
                    [(q[1] - 3.0) / 3.0, (q[4] - 0.25) / 0.2, q[5] / 15.0, (q[6] - 0.5) / 0.25],
                )
            )

        found = least_squares(
            priced,
            p,
            bounds=(low, high),
            loss="huber",
            f_scale=HUBER,
            x_scale=np.array([100.0, 2, 3, 0.5, 0.2, 5.0, 0.2]),
            max_nfev=60,
        )
        p = found.x
        resid = heat_kwh - model(p)
        scatter = max(
            1.4826 * float(np.median(np.abs(resid - np.median(resid)))), 0.02 * float(np.median(heat_kwh)) + 0.05
        )
        counts = np.where(np.abs(resid) > ODD * scatter, 0.0, 1.0)
    weight = counts * np.minimum(1.0, HUBER * scatter / np.maximum(np.abs(resid), 1e-12))
    jacobian = _slopes(model, p)
    free = (high - low) > 1e-6
    cov = _sandwich(jacobian[:, free], resid, weight, joined, scatter, free)
    sd = np.zeros(7)
    sd[free] = np.sqrt(np.maximum(np.diag(cov), 0.0))
    heated = (p[2] + 1e-6 < model(p)) & (weight > 0.2)
    h_sd = float(np.sqrt(sd[0] ** 2 + (p[0] * meter_share) ** 2 + (p[0] * LEFT_OUT) ** 2))
    return Fit(
        h_w_k=float(p[0]), h_sd=h_sd, below_k=float(p[1]), below_sd=float(np.hypot(sd[1], thermometer_k)), base_kwh=float(p[2]),
        base_sd=float(sd[2]), sun_k_per_w_m2=float(p[3]) / scale_sun if with_sun else 0.0, yesterday=float(p[4]),
        memory=float(p[6]), mass_kwh_k=float(p[5]),
        weight=weight, resid_kwh=resid, scatter_kwh=scatter, heating_days=int(heated.sum()),
    )  # fmt: skip


def _slopes(model: object, p: Array) -> Array:
    """Slopes of the model at p, by central differences (N, P)."""
    columns = []
    for n in range(len(p)):
        step = 1e-4 * max(abs(p[n]), 0.1)
        up, down = p.copy(), p.copy()
        up[n] += step
        down[n] -= step
        columns.append((model(up) - model(down)) / (2 * step))  # type: ignore[operator]
    return np.stack(columns, axis=1)


PRIOR_SD = np.array([np.inf, 3.0, np.inf, np.inf, 0.2, 15.0, 0.25])


def _sandwich(
    jacobian: Array, resid: Array, weight: Array, joined: NDArray[np.bool_], scatter: float, free: NDArray[np.bool_]
) -> Array:
    """Covariance of robustly weighted days that hang together: bread, Newey–West meat, bread."""
    inside = weight >= 1.0 - 1e-9  # where Huber's influence still grows with the residual
    bread = (jacobian * inside[:, None]).T @ jacobian + np.diag((scatter / PRIOR_SD[free]) ** 2)
    inverse = np.linalg.pinv(bread)
    score = jacobian * (weight * resid)[:, None]
    meat = score.T @ score
    linked = np.ones(len(resid), dtype=bool)
    for lag in range(1, LAGS + 1):
        linked = linked[1:] & joined[lag:] if lag > 1 else joined[1:].copy()
        cross = (score[lag:] * linked[:, None]).T @ score[:-lag]
        meat += (1 - lag / (LAGS + 1)) * (cross + cross.T)
    meat += scatter**2 * np.diag((scatter / PRIOR_SD[free]) ** 2)
    n, k = jacobian.shape
    return np.asarray(inverse @ meat @ inverse * n / max(n - k, 1))
