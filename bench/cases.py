"""Houses with something known wrong with them, run by the twin and looked at with noisy instruments: for judging the correction desk.

Every case is made by its seed alone. Half of the seeds (the odd ones) were never looked at while the diagnosis was written.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from cinder.field.expected import Expected
from cinder.field.looks import looks_of
from cinder.field.seen import Seen
from cinder.library import HourlyYear
from cinder.physics.machine import curve as law
from cinder.physics.quantity import Array
from cinder.twin import loop
from cinder.twin.at_rest import spread_k
from cinder.twin.of_job import weather_of
from cinder.twin.parts import House, Weather

DAYS, STEP_S = 16, 300.0
RUN_IN = 5
IDLE_C = 21.0
NOT_FOLLOWED = "not followed"
CURVES = {
    "steeper": (1.0, 0.0), "flatter": (-1.0, 0.0), "level up": (1.0, 1.0), "level down": (-1.0, -1.0), "mild end up": (0.0, 1.0),
    "mild end down": (0.0, -1.0),
}  # fmt: skip
ROOMS = ("balance", "emitter", "valve", "open valve", "sun")
KINDS = ("right", *CURVES, *ROOMS, NOT_FOLLOWED)


@dataclass(frozen=True, slots=True)
class Case:
    seed: int
    truth: str
    room: int | None
    house: Expected
    seen: Seen
    cold_c: float
    mild_c: float


def case(expected: Expected, year: HourlyYear, seed: int, *, cold_c: float, mild_c: float) -> Case:
    """One house with one thing wrong; what it is goes round with the seed."""
    rng = np.random.default_rng([20261130, seed])
    kinds = [one for one in KINDS if one != "open valve" or expected.closes.any()]
    truth = kinds[(seed // 2) % len(kinds)]
    house, room = expected.house.house, None
    first = _first_day(year, rng, cold_c, mild_c)
    weather = weather_of(
        expected.house, year, first_hour=(first - RUN_IN) * 24, hours=(DAYS + RUN_IN) * 24, step_s=STEP_S
    )
    if truth in CURVES:
        size = rng.uniform(3.0, 6.0)
        wants = np.array(CURVES[truth]) * size
        if rng.random() < 0.5:  # somebody set the line so, and the job knows it
            house = _line_off(house, -wants, cold_c, mild_c)
            expected = replace(expected, control_line=_moved(expected.line, -wants, cold_c, mild_c))
        else:
            house = _house_off(expected, house, wants, cold_c, mild_c)
    elif truth == NOT_FOLLOWED:
        house = _line_off(house, rng.choice([-1.0, 1.0]) * rng.uniform(3.0, 7.0) * np.ones(2), cold_c, mild_c)
    elif truth in ROOMS:
        room, house, weather = _one_room(expected, house, weather, truth, rng)
    if truth != "sun":  # blinds and curtains
        weather = weather._replace(sun_w=weather.sun_w * rng.uniform(0.3, 0.7))
    weather = _lived_in(expected, weather, rng, room)
    state = loop.start(house, supply_c=30.0, outdoor_c=float(weather.outdoor_c[0]))
    series, _, _ = loop.run(house, weather, state)
    return Case(seed, truth, room, expected, _looked(expected, house, weather, series, rng), cold_c, mild_c)


def _first_day(year: HourlyYear, rng: np.random.Generator, cold_c: float, mild_c: float) -> int:
    """A first day such that the days after it hold both cold and mild weather."""
    days = np.asarray(year.outdoor_c).reshape(-1, 24).mean(axis=1)
    starts = [d for d in range(RUN_IN, 365 - DAYS) if (d < 100 or d > 280)]
    good = [
        d
        for d in starts
        if np.ptp(days[d : d + DAYS]) > 6.0
        and days[d : d + DAYS].min() < 0.6 * cold_c + 0.4 * mild_c
        and days[d : d + DAYS].max() < 15.0
    ]
    return int(rng.choice(good or starts))


def _ends(out: Array, cold_c: float, mild_c: float) -> tuple[Array, Array]:
    part = (mild_c - out) / (mild_c - cold_c)
    return part, 1.0 - part


def _line_off(house: House, by: Array, cold_c: float, mild_c: float) -> House:
    control = house.control
    out = control.line_from_c + np.arange(len(control.line_c))
    cold, mild = _ends(out, cold_c, mild_c)
    return house._replace(
        control=control._replace(line_c=np.maximum(control.line_c + by[0] * cold + by[1] * mild, 20.0))
    )


def _moved(line: law.Setting, by: Array, cold_c: float, mild_c: float) -> law.Setting:
    cold, mild = law.flow_at(line, outdoor_c=np.array([cold_c, mild_c])) + by
    return law.TwoPoint(cold_c, float(cold), mild_c, float(mild), 20.0, 70.0)


def _house_off(expected: Expected, house: House, wants: Array, cold_c: float, mild_c: float) -> House:
    """Every room loses as much more as its emitters give by water that much warmer."""
    rooms, e = house.rooms, house.emitters
    out = rooms.base_from_c + np.arange(len(rooms.base_w))
    cold, mild = _ends(out, cold_c, mild_c)
    control = house.control
    line = np.interp(out, control.line_from_c + np.arange(len(control.line_c)), control.line_c)
    shift = wants[0] * cold + wants[1] * mild
    base = rooms.base_w.copy()
    for k in range(len(out)):
        at = expected.at(np.array([out[k]]), np.array([line[k]]), np.zeros(1)).room_c[0]
        more, now = np.zeros(len(at)), np.zeros(len(at))
        for n, r in enumerate(e.room):
            given = _given(house, n, line[k], at[r])
            now[r] += given
            more[r] += _given(house, n, line[k] + shift[k], at[r]) - given
        open_ = expected.heated & ~expected.closes & (now > 0)
        part = float(np.median(more[open_] / now[open_])) if open_.any() else 0.0
        own = expected.load_w(np.array([out[k]]))[0]
        base[k] += np.where(expected.closes, part * own, more)
    return house._replace(rooms=rooms._replace(base_w=base))


def _given(house: House, n: int, flow: float, room: float) -> float:
    """Heat of an emitter at rest, W."""
    moves = float(house.emitters.flow_w_k[n])
    return moves * float(spread_k(house.emitters, n, supply_c=flow, room_c=room, flow_w_k=moves))


def _one_room(
    expected: Expected, house: House, weather: Weather, truth: str, rng: np.random.Generator
) -> tuple[int, House, Weather]:
    """Something wrong with one room, bad enough to be noticed: as bad as it must be for the room to be 1.3 K off in the cold."""
    e = house.emitters
    if truth == "sun":
        r = int(rng.choice(np.nonzero(expected.heated)[0]))
        enough, sunny = rng.uniform(2.5, 4.0), weather
        for part in np.linspace(0.1, 1.0, 10):
            sun = weather.sun_w.copy()
            sun[:, r] += part * weather.ghi_w_m2 * expected.house.area_m2[r]
            sunny = weather._replace(sun_w=sun)
            if _bright_k(house, sunny, r) - _bright_k(house, weather, r) > enough:
                break
        return r, house, sunny
    # a lockshield that is shut looks like a head set low where there is one: such rooms are asked for the one alone
    rooms = np.nonzero(
        expected.closes
        if "valve" in truth
        else expected.heated & ~expected.closes
        if truth == "balance"
        else expected.heated
    )[0]
    enough = rng.uniform(1.3, 2.2)
    found = (int(rooms[0]), house)
    for r in rng.permutation(rooms):
        for bad in np.linspace(0.25, 1.0, 7):
            one = _spoilt(house, truth, int(r), float(bad), e.room == r)
            found = (int(r), one)
            if abs(_cold_k(one, int(r)) - _cold_k(house, int(r))) > enough:
                return (*found, weather)
    return (*found, weather)


def _spoilt(house: House, truth: str, r: int, bad: float, mine: np.ndarray) -> House:
    e = house.emitters
    if truth == "open valve":  # such a room is only warm where its emitter has more than it needs
        rated = np.where(mine, e.rated_w * (1.0 + 1.5 * bad), e.rated_w)
        return house._replace(emitters=e._replace(closes=np.where(mine, False, e.closes), rated_w=rated))
    if truth == "balance":
        return house._replace(emitters=e._replace(flow_w_k=np.where(mine, e.flow_w_k * (1.0 - 0.97 * bad), e.flow_w_k)))
    if truth == "emitter":
        return house._replace(emitters=e._replace(rated_w=np.where(mine, e.rated_w * (1.0 - 0.75 * bad), e.rated_w)))
    target = house.rooms.target_c.copy()
    target[r] -= 4.0 * bad
    closes = np.where(mine, True, e.closes)
    return house._replace(rooms=house.rooms._replace(target_c=target), emitters=e._replace(closes=closes))


def _bright_k(house: House, weather: Weather, r: int) -> float:
    """A room on bright afternoons over what it is before dawn."""
    series, _, _ = loop.run(house, weather, loop.start(house, supply_c=35.0, outdoor_c=float(weather.outdoor_c[0])))
    hour = (np.arange(len(weather.outdoor_c)) * STEP_S / 3600.0) % 24
    noon = (hour >= 12) & (hour < 17) & (weather.ghi_w_m2 > 220.0)
    dawn = (hour >= 4) & (hour < 7)
    return float(series.room_c[noon, r].mean() - series.room_c[dawn, r].mean()) if noon.any() else 0.0


def _cold_k(house: House, r: int) -> float:
    """Where a room stands after a week of cold."""
    steps, cold = 7 * 288, 0.0
    still = np.zeros((steps, len(house.rooms.target_c)))
    weather = Weather(STEP_S, np.full(steps, cold), np.zeros(steps), still, still, 0.0)
    series, _, _ = loop.run(house, weather, loop.start(house, supply_c=35.0, outdoor_c=cold))
    return float(series.room_c[-288:, r].mean())


def _lived_in(expected: Expected, weather: Weather, rng: np.random.Generator, _: int | None) -> Weather:
    """Windows left open and guests, some hours each, in rooms of their own choice."""
    people = np.array(weather.people_w)
    per_day = round(86400 / STEP_S)
    for watts in (-35.0, 14.0):
        for _n in range(int(rng.integers(0, 4))):
            room, day = int(rng.choice(np.nonzero(expected.heated)[0])), int(rng.integers(RUN_IN, RUN_IN + DAYS))
            at = day * per_day + int(rng.uniform(0, 0.8) * per_day)
            for_steps = int(rng.uniform(3, 10) * 3600 / STEP_S)
            people[at : at + for_steps, room] += watts * expected.house.area_m2[room]
    return weather._replace(people_w=people)


def _looked(expected: Expected, house: House, weather: Weather, series: loop.Series, rng: np.random.Generator) -> Seen:
    """What instruments show of it, every one with an offset of its own and noise, by the hour."""
    per_hour = round(3600 / STEP_S)
    first = RUN_IN * 24

    def hourly(values: Array) -> Array:
        return np.asarray(values.reshape(-1, per_hour, *values.shape[1:]).mean(axis=1))[first:]

    rooms = hourly(series.room_c)
    rooms = rooms + rng.normal(0, 0.25, rooms.shape[1]) + rng.normal(0, 0.15, rooms.shape)
    out = hourly(weather.outdoor_c) + rng.normal(0, 0.3) + rng.normal(0, 0.2, len(rooms))
    house_s = np.where(series.mode == loop.HOT_WATER, IDLE_C, series.supply_c)
    flow = hourly(house_s)
    flow = flow + rng.normal(0, 0.3) + rng.normal(0, 0.3, len(rooms))
    e = house.emitters
    wanted = hourly(series.wanted_c)
    spread = np.full((len(rooms), len(e.room)), np.nan)
    true_rooms, true_flow = hourly(series.room_c), hourly(house_s)
    for n in range(len(e.room)):
        probe = rng.normal(0, 0.25)
        r = e.room[n]
        opening = (
            np.clip((house.rooms.target_c[r] + 0.5 - true_rooms[:, r]), 0.02, 1.0)
            if e.closes[n]
            else np.ones(len(rooms))
        )
        for h in range(0, len(rooms), 6):
            spread[h, n] = (
                _spread(house, n, true_flow[h], true_rooms[h, r], float(opening[h])) + probe + rng.normal(0, 0.2)
            )
    sun = hourly(weather.ghi_w_m2)
    return looks_of(np.arange(first, first + len(rooms)) % 24, out, flow, wanted, rooms, spread, sun)[0]


def _spread(house: House, n: int, flow: float, room: float, opening: float) -> float:
    moves = float(house.emitters.flow_w_k[n]) * opening
    return float(spread_k(house.emitters, n, supply_c=flow, room_c=room, flow_w_k=moves))


def make(houses: list[tuple[Expected, HourlyYear]], seed: int) -> Case:
    """The case of a seed, at one house after the other."""
    house, year = houses[seed // 2 % len(houses)]
    curve = house.house.design.curve
    assert curve.cold_out_c is not None
    assert curve.mild_out_c is not None
    return case(house, year, seed, cold_c=curve.cold_out_c, mild_c=curve.mild_out_c)
