"""A winter of the simulated house as a plant would tell it: readings of every few minutes, with a fault from a day on; for demo and tests."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from cinder.library import HourlyYear
from cinder.physics.quantity import Array
from cinder.twin import loop
from cinder.twin.of_job import Twin, weather_of
from cinder.twin.parts import Faults, House

STEP_S = 300.0
PER_READING = 1
"""Steps a reading is the mean of."""
OCTOBER = 273
"""The day of the year a winter begins on, 0 for the first of January."""
DAYS = 212
LEFT, DAY_K = 0.75, 1.0
"""How much of a day's strangeness is left on the next, and how strange days are, K."""


@dataclass(frozen=True, slots=True)
class Told:
    """What a plant tells through a winter: seconds from its first midnight, channels by name (N,)."""

    seconds: Array
    channels: dict[str, Array]


def winter(
    twin: Twin, year: HourlyYear, *, seed: int, shift_k: float = 0.0, loses: float = 1.0, clog_per_day: float = 0.0, clogs_from_day: int = DAYS,
    days: int = DAYS,
) -> Told:  # fmt: skip
    """From the first of October on. `shift_k`: how much warmer than the climate's year; `loses`: the house's loss over what was designed;
    the strainer clogs from a day on. Seeded: the same winter again for the same seed."""
    rng = np.random.default_rng(seed)
    house = _losing(twin.house, loses)
    weather = weather_of(twin, year, first_hour=OCTOBER * 24, hours=days * 24, step_s=STEP_S)
    strange = np.zeros(days)
    for n in range(1, days):
        strange[n] = LEFT * strange[n - 1] + rng.normal(0, DAY_K)
    per_day = round(86400 / STEP_S)
    drift = np.interp(np.arange(days * per_day) / per_day, np.arange(days) + 0.5, strange)
    people = np.repeat(rng.gamma(7, 1 / 7, days), per_day)[:, None]
    weather = weather._replace(
        outdoor_c=np.ascontiguousarray(weather.outdoor_c + drift + shift_k),
        people_w=np.ascontiguousarray(weather.people_w * people),
    )
    state = loop.start(house, supply_c=28.0, outdoor_c=float(weather.outdoor_c[0]))
    pieces = []
    cut = min(clogs_from_day, days) * per_day
    for first, last, one in ((0, cut, house), (cut, days * per_day, _clogging(house, clog_per_day))):
        if last > first:
            part = weather._replace(
                outdoor_c=weather.outdoor_c[first:last], ghi_w_m2=weather.ghi_w_m2[first:last], sun_w=weather.sun_w[first:last],
                people_w=weather.people_w[first:last],
            )  # fmt: skip
            series, state, _ = loop.run(one, part, state)
            pieces.append(series)
    return _told(twin, weather.outdoor_c, weather.ghi_w_m2, pieces, rng)


def _losing(house: House, share: float) -> House:
    """The house losing so much of what was designed to everything but its other rooms."""
    rooms = house.rooms
    across = rooms.trade_w_k.sum(axis=1)
    return house._replace(
        rooms=rooms._replace(base_w=rooms.base_w * share, slope_w_k=(rooms.slope_w_k - across) * share + across)
    )


def _clogging(house: House, per_day: float) -> House:
    was = house.faults
    return house._replace(faults=Faults(was.flow, per_day, was.reversed_valve))


def _told(twin: Twin, outdoor_c: Array, sun: Array, pieces: Sequence[loop.Series], rng: np.random.Generator) -> Told:
    """Means of every reading with the noise of instruments; meters that count."""

    def joined(name: str) -> Array:
        return np.concatenate([getattr(one, name) for one in pieces])

    mode = joined("mode")
    heat, store, electric = joined("heat_w"), joined("store_w"), joined("electric_w")
    flow = twin.flow_lph(joined("flow_w_k"), joined("supply_c"), joined("return_c"))
    count = len(mode) // PER_READING

    def mean(values: Array) -> Array:
        return np.asarray(values[: count * PER_READING].reshape(count, PER_READING, *values.shape[1:]).mean(axis=1))

    def noisy(values: Array, k: float) -> Array:
        return np.round(values + rng.normal(0, k, values.shape), 2)

    rooms = noisy(mean(joined("room_c")), 0.08)
    meter = 1 + rng.normal(0, 0.01)
    all_heat = mean(heat + store) * meter
    channels = {
        "outdoor_c": noisy(mean(outdoor_c), 0.15), "supply_c": noisy(mean(joined("supply_c")), 0.1),
        "return_c": noisy(mean(joined("return_c")), 0.1), "wanted_c": np.round(mean(joined("wanted_c")), 2),
        "flow_lph": np.round(np.maximum(mean(flow) + rng.normal(0, 8, count), 0), 1),
        "electric_w": np.round(np.maximum(mean(electric), 0)), "heat_w": np.round(all_heat),
        "sun_w_m2": np.round(mean(sun)), "mode": mode[: count * PER_READING].reshape(count, PER_READING).max(axis=1).astype(float),
    }  # fmt: skip
    channels |= {f"room:{key}": rooms[:, n] for n, key in enumerate(twin.rooms)}
    return Told((np.arange(count, dtype=float) + 1.0) * STEP_S * PER_READING, channels)
