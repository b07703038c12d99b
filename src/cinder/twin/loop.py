"""The twin walked step by step: compiled, and exact where it is linear.

Rooms: two nodes each, all of them linear together, so a step of them is a matrix (`exact_step`). Emitters: one node of water each, whose
output bends; a step of theirs follows their slope exactly (Rosenbrock-Euler), and what leaves the water is what enters the rooms,
so that energy is kept to rounding. Water of the machine: its own node; running within its band it comes to the line as `answer_s` says.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from scipy.linalg import expm

from cinder.errors import PhysicsError
from cinder.physics.compiled import compiled
from cinder.physics.quantity import Array
from cinder.twin.parts import (
    LONGEST_STEP_S,
    Buffer,
    Control,
    Emitters,
    Faults,
    HotWater,
    House,
    Machine,
    Rooms,
    Weather,
)

OFF, HEATING, DEFROST, HOT_WATER = 0, 1, 2, 3
DAY_S = 86400.0
FROST_AT_C, FROST_WIDE_K, FROST_TO_C = 2.0, 5.0, 6.0
DEFROST_DRAWS = 0.5
"""What a machine draws while it defrosts, of what it draws at its greatest output (our choice)."""
STARTING_PART = 0.5
GIVES_UP_S = 3 * 3600.0
"""How long a machine tries to make hot water that never gets hot (our choice)."""


class State(NamedTuple):
    """Where a twin stands: rooms (2 R,) air then mass; emitters' water (E,), the machine's, the vessel's, deg C; and its clock:
    mode, seconds in it, seconds since off, frost grown (s), J of hot water still wanted, mean outdoor air of a day, heating called (0, 1)."""

    room_c: Array
    emitter_c: Array
    plain: Array


MODE, IN_MODE, OFF_FOR, FROST, WANTS_J, DAY_C, CALLED, SUPPLY, VESSEL, CLOGGED = range(10)


class Series(NamedTuple):
    """Means over every step: rooms' air (N, R); the line's water, the machine's supply, return, W/K moved, heat to the water, to
    the store, electricity, W (N,); and what happened: mode at the end, starts (N,)."""

    room_c: Array
    wanted_c: Array
    supply_c: Array
    return_c: Array
    flow_w_k: Array
    heat_w: Array
    store_w: Array
    electric_w: Array
    mode: Array
    starts: Array


SUMS = ("heat", "defrost", "store", "electric", "loss", "gains", "heaters", "held", "starts", "down", "backup")


def exact_step(rooms: Rooms, step_s: float) -> tuple[Array, Array]:
    """What a step makes of the nodes (2R, 2R), and of watts at them that stay the same through it.

    Source: matrix exponential of a linear system.
    """
    count = len(rooms.slope_w_k)
    conducts = np.zeros((2 * count, 2 * count))
    conducts[:count, :count] = rooms.trade_w_k
    at = np.arange(count)
    conducts[at, at] -= rooms.slope_w_k + rooms.couple_w_k
    conducts[at, at + count] += rooms.couple_w_k
    conducts[at + count, at] += rooms.couple_w_k
    conducts[at + count, at + count] -= rooms.couple_w_k
    holds = np.concatenate([rooms.air_j_k, rooms.mass_j_k])
    if (holds <= 0).any():
        raise PhysicsError("air_j_k", float(holds.min()), "more than 0")
    a = conducts / holds[:, None]
    # expm of [[a, 1/holds], [0, 0]] gives both at once, and needs no inverse
    both = np.zeros((4 * count, 4 * count))
    both[: 2 * count, : 2 * count], both[: 2 * count, 2 * count :] = a, np.diag(1.0 / holds)
    found = expm(both * step_s)
    return np.ascontiguousarray(found[: 2 * count, : 2 * count]), np.ascontiguousarray(found[: 2 * count, 2 * count :])


def start(house: House, *, room_c: Array | None = None, supply_c: float = 25.0, outdoor_c: float = 5.0) -> State:
    """A twin at rest: rooms at their targets unless said, all water at one temperature, nothing running."""
    at = np.array(house.rooms.target_c if room_c is None else room_c, dtype=float)
    plain = np.zeros(10)
    plain[[SUPPLY, VESSEL]], plain[DAY_C], plain[OFF_FOR], plain[CALLED] = supply_c, outdoor_c, DAY_S, 1.0
    return State(np.concatenate([at, at]), np.full(len(house.emitters.room), supply_c), plain)


def run(house: House, weather: Weather, state: State) -> tuple[Series, State, dict[str, float]]:
    """Through the weather from a state: the series, the state at its end, and sums over all of it, J.

    Sums: `heat` of the machine to the heating water, `defrost` taken out of it, `store`, `electric`, `loss` of the rooms (by their
    temperatures, not by the balance), `gains`, `heaters`, `held` what rooms and water hold more at the end, `starts`, `down` what emitters give
    the other way, `backup` of a second source (within `heat`).
    Shapes as in `parts`. Raises `PhysicsError` where they do not fit.
    """
    rooms, count, steps = house.rooms, len(house.rooms.slope_w_k), len(weather.outdoor_c)
    if weather.sun_w.shape != (steps, count) or weather.people_w.shape != (steps, count):
        raise PhysicsError("sun_w", weather.sun_w.shape, "one for every step and room")
    subs = max(1, math.ceil(weather.step_s / LONGEST_STEP_S - 1e-9))
    sub_s = weather.step_s / subs
    keeps, takes = (np.ascontiguousarray(one.T) for one in exact_step(rooms, sub_s))
    now = State(state.room_c.copy(), state.emitter_c.copy(), state.plain.copy())
    series = Series(np.zeros((steps, count)), *(np.zeros(steps) for _ in range(9)))
    sums = np.zeros(len(SUMS))
    _walk(house.rooms, house.emitters, house.machine, house.buffer, house.control, house.hot_water, house.faults, weather,
          keeps, takes, subs, sub_s, now, series, sums)  # fmt: skip
    return series, now, dict(zip(SUMS, sums.tolist(), strict=True))


@compiled
def looked_up(table: Array, first: float, step: float, at: float) -> float:
    """Straight between whole steps of a table; its ends beyond."""
    place = (at - first) / step
    if place <= 0.0:
        return float(table[0])
    last = len(table) - 1
    if place >= last:
        return float(table[last])
    k = int(place)
    return float(table[k] + (table[k + 1] - table[k]) * (place - k))


@compiled
def mapped(table: Array, machine: Machine, air_c: float, water_c: float) -> float:
    """A machine's map at a point, straight between its steps; its edges beyond."""
    a = min(max((air_c - machine.air_from_c) / machine.air_step_k, 0.0), table.shape[0] - 1.000001)
    w = min(max((water_c - machine.water_from_c) / machine.water_step_k, 0.0), table.shape[1] - 1.000001)
    i, j = int(a), int(w)
    u, v = a - i, w - j
    low = table[i, j] + (table[i, j + 1] - table[i, j]) * v
    high = table[i + 1, j] + (table[i + 1, j + 1] - table[i + 1, j]) * v
    return float(low + (high - low) * u)


@compiled
def output(
    rated: float, exponent: float, reference: float, supply: float, back: float, mean: float, room: float
) -> float:
    """Heat of an emitter, W: by the excess between supply and return over the room (the log mean as two thirds of the geometric and
    a third of the plain mean, within 0.2 % down to a return a third as warm), by its own water where the return is as cool as the room.
    """
    hot, cool = supply - room, back - room
    excess = (2.0 * math.sqrt(hot * cool) + 0.5 * (hot + cool)) / 3.0 if hot > 0.05 and cool > 0.05 else mean - room
    if excess <= 0.0:
        return 0.0
    return float(rated * math.exp(exponent * math.log(excess / reference)))


@compiled
def frosty(air_c: float) -> float:
    """How quickly frost grows, of its quickest."""
    if air_c > FROST_TO_C:
        return 0.0
    away = (air_c - FROST_AT_C) / FROST_WIDE_K
    return math.exp(-away * away)


@compiled
def within(hour: float, start_h: float, end_h: float) -> bool:
    """Whether an hour of the day lies in a span that may cross midnight."""
    if start_h == end_h:
        return False
    if start_h < end_h:
        return start_h <= hour < end_h
    return hour >= start_h or hour < end_h


@compiled
def relaxed(z: float) -> float:
    """How far something goes in a step, of what it would go at its first pace, where it comes to rest at rate z a step."""
    return (1.0 - math.exp(-z)) / z if z > 1e-9 else 1.0


@compiled
def calls(control: Control, plain: Array, hour: float, back_k: float, room_c: Array) -> bool:
    """Whether heat is called for: the season, the hours of a timer, a thermostat where one is in charge."""
    called = plain[DAY_C] < control.heating_limit_c and not within(hour, control.off_from_h, control.off_to_h)
    if control.thermostat >= 0:
        at, wanted = room_c[control.thermostat], control.thermostat_c - back_k
        if at > wanted + control.thermostat_k / 2:
            plain[CALLED] = 0.0
        elif at < wanted - control.thermostat_k / 2:
            plain[CALLED] = 1.0
        called = called and plain[CALLED] > 0.5
    return called


@compiled
def decided(machine: Machine, plain: Array, called: bool, line: float, greatest: float) -> int:
    """What the machine does next; in `plain` how long it has done so."""
    mode, supply = int(plain[MODE]), plain[SUPPLY]
    if mode == DEFROST:
        return mode
    if plain[WANTS_J] > 0.0 and greatest > 0.0:
        if mode == OFF and plain[OFF_FOR] >= machine.least_off_s:
            mode, plain[IN_MODE] = HOT_WATER, 0.0
        elif mode == HEATING:
            mode, plain[IN_MODE] = HOT_WATER, machine.start_s
    elif mode == HOT_WATER:
        mode = HEATING if called else OFF
        plain[IN_MODE], plain[OFF_FOR] = machine.start_s, 0.0
    if mode == HEATING:
        full = plain[IN_MODE] >= machine.least_on_s and (not called or supply > line + machine.band_k)
        if full or supply > machine.limit_c:
            mode, plain[OFF_FOR] = OFF, 0.0
    if (
        mode == OFF and called and plain[WANTS_J] <= 0.0 and (greatest > 0.0 or machine.backup_w > 0.0)
        and plain[OFF_FOR] >= machine.least_off_s and supply < line - machine.band_k / 2 + 1e-9
    ):  # fmt: skip
        mode, plain[IN_MODE] = HEATING, 0.0
    return mode


@compiled
def thawing(machine: Machine, plain: Array, mode: int, air_c: float, step_s: float) -> tuple[int, float]:
    """Frost grown and thawed: what the machine does then, and how much more than its map it gives between two thawings (the map
    has the mean of both)."""
    gain = 1.0
    if machine.frost_every_s <= 0.0:
        return mode, gain
    grows = frosty(air_c)
    if mode in (HEATING, HOT_WATER):
        plain[FROST] += step_s * grows
        if grows > 0.0:
            gain = 1.0 + grows * machine.frost_for_s / machine.frost_every_s * (1.0 + machine.frost_takes)
        if plain[FROST] >= machine.frost_every_s:
            mode, plain[IN_MODE], plain[FROST] = DEFROST, 0.0, 0.0
    elif mode == DEFROST and plain[IN_MODE] >= machine.frost_for_s:
        mode, plain[IN_MODE] = HEATING, machine.least_on_s
    return mode, gain


@compiled
def opened(emitters: Emitters, rooms: Rooms, control: Control, back_k: float, room_c: Array, openings: Array) -> float:
    """How far every emitter's valve is open (E,), and how much of all openings is, by the water they are set for."""
    held, whole = 0.0, 0.0
    for e in range(len(openings)):
        opening = 1.0
        if emitters.closes[e]:
            r = emitters.room[e]
            wanted = rooms.target_c[r] - back_k + control.valve_k / 2
            opening = min(max((wanted - room_c[r]) / control.valve_k, 0.0), 1.0)
        openings[e] = opening
        held += emitters.flow_w_k[e] * opening
        whole += emitters.flow_w_k[e]
    return held / whole if whole > 0.0 else 1.0


@compiled
def looked_between(at: Array, table: Array, value: float) -> float:
    """Straight between the places of a table; its ends beyond."""
    if value <= at[0]:
        return float(table[0])
    for k in range(1, len(at)):
        if value <= at[k]:
            part = (value - at[k - 1]) / (at[k] - at[k - 1])
            return float(table[k - 1] + (table[k] - table[k - 1]) * part)
    return float(table[-1])


@compiled
def emitter_step(
    emitters: Emitters, e: int, mean: float, feed: float, room: float, flow: float, step_s: float
) -> tuple[float, float, float, float]:
    """One emitter through a step: its water at the end, deg C; what it gave the room, what the circuit brought, W (so that nothing is
    lost between the nodes); and how much that follows the water it is fed, W/K."""
    holds, exponent, both = emitters.water_j_k[e], emitters.exponent[e], 1.0 + emitters.down[e]
    out = max(2.0 * mean - feed, room) if flow > 0.0 else mean
    q = output(emitters.rated_w[e], exponent, emitters.reference_k, feed if flow > 0.0 else mean, out, mean, room)
    steeper = exponent * q / max(mean - room, 0.5)
    pull = flow * (2.0 if out > room else 0.0) + steeper * both
    settles = relaxed(pull * step_s / holds)
    after = mean + (flow * (feed - out) - q * both) / holds * step_s * settles
    follows = 2.0 * flow * settles + steeper * both * (1.0 - settles)
    stores = holds * (after - mean) / step_s
    if flow <= 0.0:  # standing water gives only what it holds
        return after, -stores / both, 0.0, follows
    given = 0.5 * (q + max(q + steeper * (after - mean), 0.0))
    return after, given, given * both + stores, follows


@compiled
def gives(
    machine: Machine, plain: Array, mode: int, air_c: float, greatest: float, gain: float, to_store: bool, load: float, wanted_c: float,
    step_s: float,
) -> tuple[float, float, float, float, bool]:  # fmt: skip
    """The machine through a step, W: what goes into its water, of it into the store, electricity, what a second source adds; and whether
    the water comes to the line by itself."""
    supply = plain[SUPPLY]
    cop = max(mapped(machine.cop, machine, air_c, supply), 1.0)
    if mode == DEFROST:
        return -machine.frost_takes * greatest, 0.0, DEFROST_DRAWS * greatest / cop, 0.0, False
    if mode == OFF:
        return 0.0, 0.0, 0.0, 0.0, False
    stored, helped, led, started = 0.0, 0.0, False, plain[IN_MODE] >= machine.start_s
    asked = load + machine.water_j_k * (wanted_c - supply) * (1.0 - math.exp(-step_s / machine.answer_s)) / step_s
    if mode == HOT_WATER and to_store:
        into = greatest * gain
        stored = min(max(into - asked, 0.0), plain[WANTS_J] / step_s)
        if asked > 0.0:
            into = min(into, asked + stored)
    else:
        least = min(mapped(machine.least_w, machine, air_c, supply), greatest) * gain
        into = min(max(asked, least), greatest * gain)
        helped = min(max(asked - into, 0.0), machine.backup_w) if started else 0.0
        led = into + helped == asked and started
    electric = into / gain / cop + (helped if machine.backup_electric else 0.0)
    if not started:
        into *= STARTING_PART
        stored = min(stored, into)
    if mode == HOT_WATER:
        plain[WANTS_J] = max(plain[WANTS_J] - stored * step_s, 0.0)
        if plain[WANTS_J] < 1.0 or plain[IN_MODE] > GIVES_UP_S:  # a sensor that never gets warm is given up on
            plain[WANTS_J] = 0.0
    return into + helped, stored, electric, helped, led


@compiled
def rooms_step(keeps: Array, takes: Array, before: Array, watts: Array, x: Array) -> None:
    """All rooms exactly through a step, column by column, so that those of a column are worked out side by side."""
    for r in range(len(x)):
        x[r] = 0.0
    for other in range(len(x)):
        was, brings = before[other], watts[other]
        for r in range(len(x)):
            x[r] += keeps[other, r] * was + takes[other, r] * brings


@compiled
def _walk(
    rooms: Rooms,
    emitters: Emitters,
    machine: Machine,
    buffer: Buffer,
    control: Control,
    hot_water: HotWater,
    faults: Faults,
    weather: Weather,
    keeps: Array,
    takes: Array,
    subs: int,
    sub_s: float,
    state: State,
    series: Series,
    sums: Array,
) -> None:
    count, many = len(rooms.slope_w_k), len(emitters.room)
    x, water, plain = state.room_c, state.emitter_c, state.plain
    watts, flows, before, base = np.zeros(2 * count), np.zeros(many), np.zeros(2 * count), np.zeros(count)
    vessel, throttles = buffer.water_j_k > 0.0, emitters.closes.any()
    parted, mixed, came_back = buffer.machine_w_k > 0.0, 0.0, 0.0
    goes_in = rooms.trade_w_k.sum(axis=0)  # what a kelvin of each room brings the others
    day_keeps = math.exp(-sub_s / DAY_S)
    for n in range(len(weather.outdoor_c)):
        air = weather.outdoor_c[n]
        sensed = air + control.sensor_k + control.sensor_per_sun * weather.ghi_w_m2[n]
        place = min(max(air - rooms.base_from_c, 0.0), rooms.base_w.shape[0] - 1.000001)
        row, part = int(place), place - int(place)
        for r in range(count):
            base[r] = rooms.base_w[row, r] + (rooms.base_w[row + 1, r] - rooms.base_w[row, r]) * part
        for sub in range(subs):
            hour = (weather.hour + (n * weather.step_s + sub * sub_s) / 3600.0) % 24.0
            plain[DAY_C] = sensed + (plain[DAY_C] - sensed) * day_keeps
            plain[CLOGGED] = min(plain[CLOGGED] + faults.clog_per_day * sub_s / DAY_S, 0.95)
            moved = faults.flow * (1.0 - plain[CLOGGED])
            back_k = control.setback_k if within(hour, control.setback_from_h, control.setback_to_h) else 0.0
            line = looked_up(control.line_c, control.line_from_c, 1.0, sensed) - back_k
            called = calls(control, plain, hour, back_k, x)
            for c in range(len(hot_water.at_h)):
                if (hour - hot_water.at_h[c]) % 24.0 * 3600.0 < sub_s - 1e-6:
                    plain[WANTS_J] += hot_water.heat_j[c]
            supply = plain[SUPPLY]
            greatest = mapped(machine.greatest_w, machine, air, supply)
            mode = decided(machine, plain, called, line, greatest)
            if plain[MODE] == OFF and mode != OFF:
                sums[8] += 1
                series.starts[n] += 1
            # where the water goes: the diverter may send each the other's way
            makes_hot = mode == HOT_WATER
            to_store = makes_hot
            if faults.reversed_valve and (mode == HEATING or makes_hot):
                to_store = not to_store
            goes_round = (called or makes_hot) and not to_store
            mode, gain = thawing(machine, plain, mode, air, sub_s)
            # emitters: their valves, their water, what they give
            heat_out, mc, returned, follows = 0.0, 0.0, 0.0, 0.0
            for r in range(2 * count):
                watts[r] = 0.0
            # what the emitters move more than the machine comes out of the vessel, or is their own return again
            other = plain[VESSEL] if vessel else came_back
            feed = supply + ((1.0 - buffer.stirred) * mixed + buffer.stirred) * (other - supply) if parted else supply
            gain_w = 1.0
            if throttles:
                still = opened(emitters, rooms, control, back_k, x, flows)
                gain_w = looked_between(emitters.open_share, emitters.open_gives, still)
            else:
                flows[:] = 1.0
            for e in range(many):
                r = emitters.room[e]
                flows[e] = emitters.flow_w_k[e] * flows[e] * gain_w * moved if goes_round else 0.0
                if emitters.water_j_k[e] <= 0.0 or emitters.rated_w[e] <= 0.0:
                    flows[e] = 0.0
                    continue
                water[e], given, carried, slope = emitter_step(emitters, e, water[e], feed, x[r], flows[e], sub_s)
                watts[r] += given * (1.0 - emitters.to_mass[e])
                watts[count + r] += given * emitters.to_mass[e]
                sums[9] += given * emitters.down[e] * sub_s
                follows += slope
                heat_out += carried
                mc += flows[e]
                returned += flows[e] * feed - carried
            # the machine and its water
            load = heat_out
            passes = buffer.machine_w_k * moved if parted and goes_round else mc
            if parted:
                came_back = returned / mc if mc > 0.0 else supply
                more, less = max(passes - mc, 0.0), max(mc - passes, 0.0)
                mixed = less / mc if mc > 0.0 else 0.0
                follows *= (1.0 - buffer.stirred) * (1.0 - mixed)
            if vessel:
                part, rest, warm = buffer.stirred, 1.0 - buffer.stirred, plain[VESSEL]
                gains = part * (passes * (supply - warm) - mc * (warm - came_back))
                gains += rest * (more * (supply - warm) - less * (warm - came_back))
                pulls = part * (passes + mc) + rest * (more + less)
                gains *= relaxed(pulls * sub_s / buffer.water_j_k)
                plain[VESSEL] += sub_s * gains / buffer.water_j_k
                load = heat_out + gains
                follows += part * passes + rest * more
            wanted_c = hot_water.charge_c if makes_hot else line
            into, stored, electric, helped, led = gives(
                machine, plain, mode, air, greatest, gain, to_store, load, wanted_c, sub_s
            )
            # what the circuit takes follows the water it is fed: within a step as well, or water and emitters would swing against
            # each other; what that makes more or less of the load is held by what is fed (a machine within its band makes up for it)
            gap = into - load - stored
            z = 0.0 if led else follows * sub_s / machine.water_j_k
            plain[SUPPLY] = supply + gap * sub_s / machine.water_j_k * relaxed(z)
            extra = gap - machine.water_j_k * (plain[SUPPLY] - supply) / sub_s
            if vessel and goes_round:
                plain[VESSEL] += extra * sub_s / buffer.water_j_k
            elif mc > 0.0:
                for e in range(many):
                    if flows[e] > 0.0:
                        water[e] += extra * flows[e] / mc * sub_s / emitters.water_j_k[e]
            else:
                plain[SUPPLY] += extra * sub_s / machine.water_j_k
            electric += machine.standby_w + (machine.pump_w if goes_round or to_store else 0.0)
            # the rooms: what everything gives them
            taken = 0.0
            for r in range(count):
                heater = 0.0
                if rooms.heater_w[r] > 0.0:
                    heater = min(max((rooms.target_c[r] - back_k - x[r]) / 0.5 + 0.5, 0.0), 1.0) * rooms.heater_w[r]
                free = weather.people_w[n, r]
                watts[r] += 0.5 * free + heater - base[r]
                watts[count + r] += 0.5 * free + weather.sun_w[n, r]
                electric += heater
                sums[5] += (free + weather.sun_w[n, r]) * sub_s
                sums[6] += heater * sub_s
                taken += base[r]
            for r in range(2 * count):
                before[r] = x[r]
            rooms_step(keeps, takes, before, watts, x)
            for r in range(count):
                mid = 0.5 * (before[r] + x[r])
                taken += (rooms.slope_w_k[r] - goes_in[r]) * mid
                series.room_c[n, r] += mid / subs
                sums[7] += rooms.air_j_k[r] * (x[r] - before[r])
                sums[7] += rooms.mass_j_k[r] * (x[count + r] - before[count + r])
            if mode == DEFROST:
                sums[1] -= into * sub_s
            else:
                sums[0] += max(into - stored, 0.0) * sub_s
            sums[2] += stored * sub_s
            sums[3] += electric * sub_s
            sums[4] += taken * sub_s
            sums[10] += helped * sub_s
            plain[MODE] = mode
            plain[IN_MODE] += sub_s
            plain[OFF_FOR] = plain[OFF_FOR] + sub_s if mode == OFF else 0.0
            series.wanted_c[n] += line / subs
            series.supply_c[n] += 0.5 * (supply + plain[SUPPLY]) / subs
            back = returned / mc if mc > 0.0 else supply
            if parted and passes > 0.0:
                back = supply - load / passes
            series.return_c[n] += back / subs
            series.flow_w_k[n] += passes / subs
            series.heat_w[n] += (into - stored) / subs
            series.store_w[n] += stored / subs
            series.electric_w[n] += electric / subs
        series.mode[n] = plain[MODE]
