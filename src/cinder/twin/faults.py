"""What may be wrong with a house or its plant: each a physical change of the twin, hardly seen at first."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from cinder.errors import NotFound
from cinder.twin.parts import Faults, House

DEFAULT_COLD_C, DEFAULT_SLOPE, DEFAULT_LEAST_C = 55.0, 0.83, 25.0
"""A line as a controller may come with it: 55 deg C at -10 (our choice)."""


@dataclass(frozen=True, slots=True)
class Fault:
    """`room` the room (or the emitter's) it sits in is chosen by the caller; `clue` where it shows first."""

    key: str
    label: str
    clue: str
    done: Callable[[House, int], House]


def _water(
    house: House, *, flow: float | None = None, clog_per_day: float | None = None, reversed_valve: bool = False
) -> House:
    """Something about the water's way; what is not said stays."""
    was = house.faults
    return house._replace(
        faults=Faults(
            was.flow if flow is None else flow, was.clog_per_day if clog_per_day is None else clog_per_day,
            was.reversed_valve or reversed_valve,
        )
    )  # fmt: skip


def _shut(house: House, at: int) -> House:
    """One lockshield all but shut: of the emitter with the `at`-th greatest flow."""
    flow = house.emitters.flow_w_k.copy()
    flow[np.argsort(-flow)[at % len(flow)]] *= 0.04
    return house._replace(emitters=house.emitters._replace(flow_w_k=flow))


def _airlocked(house: House, at: int) -> House:
    """Air in an emitter: part of it stays cold and part of its flow is missing."""
    order = np.argsort(-house.emitters.rated_w)
    flow, rated = house.emitters.flow_w_k.copy(), house.emitters.rated_w.copy()
    one = order[at % len(order)]
    flow[one] *= 0.35
    rated[one] *= 0.6
    return house._replace(emitters=house.emitters._replace(flow_w_k=flow, rated_w=rated))


def _worse_wall(house: House, at: int) -> House:
    """A room loses 40 % more to everything but other rooms than was told."""
    rooms = house.rooms
    across = rooms.trade_w_k.sum(axis=1)
    own = rooms.slope_w_k - across
    one = int(np.argsort(-own)[at % len(own)])
    base, slope = rooms.base_w.copy(), rooms.slope_w_k.copy()
    base[:, one] *= 1.4
    slope[one] = own[one] * 1.4 + across[one]
    return house._replace(rooms=rooms._replace(base_w=base, slope_w_k=slope))


def _default_curve(house: House, _: int) -> House:
    control = house.control
    out = control.line_from_c + np.arange(len(control.line_c))
    line = np.clip(DEFAULT_COLD_C - DEFAULT_SLOPE * (out + 10.0), DEFAULT_LEAST_C, DEFAULT_COLD_C)
    return house._replace(control=control._replace(line_c=line))


def _sunny_sensor(house: House, _: int) -> House:
    return house._replace(control=house.control._replace(sensor_per_sun=0.02))


def _strong_glycol(house: House, _: int) -> House:
    """Half glycol: it carries less and is pumped worse, and machine and COP suffer."""
    machine = house.machine
    weaker = machine._replace(
        greatest_w=machine.greatest_w * 0.94, least_w=machine.least_w * 0.94, cop=machine.cop * 0.95
    )
    return _water(house._replace(machine=weaker), flow=house.faults.flow * 0.78)


def _two_timers(house: House, _: int) -> House:
    """One timer sets the water back at night, another switches heating off through the day."""
    return house._replace(
        control=house.control._replace(
            setback_k=6.0, setback_from_h=21.0, setback_to_h=6.0, off_from_h=9.0, off_to_h=15.0
        )
    )


FAULTS = {
    one.key: one
    for one in (
        Fault("diverter", "The diverter is wired the wrong way round", "radiators warm while hot water is made, the store stays cool",
              lambda house, _: _water(house, reversed_valve=True)),
        Fault("strainer", "The strainer clogs", "flow falls day by day, the spread grows",
              lambda house, _: _water(house, clog_per_day=0.03)),
        Fault("air", "Air in an emitter", "its top stays cool, it gurgles", _airlocked),
        Fault("lockshield", "A lockshield is all but shut", "one return is as cool as its room", _shut),
        Fault("wall", "A wall is worse than was told", "one room stays cool in cold weather, its spread as wide as wanted", _worse_wall),
        Fault("default-curve", "The curve stands as it was delivered", "water warmer than the card says at the same outdoor temperature",
              _default_curve),
        Fault("sunny-sensor", "The outdoor sensor hangs in the sun", "water goes cool on bright days", _sunny_sensor),
        Fault("low-pump", "The pump is set too low", "the spread is wide at every emitter, far rooms coolest",
              lambda house, _: _water(house, flow=house.faults.flow * 0.55)),
        Fault("glycol", "There is too much glycol", "less flow and output than the map says, more electricity", _strong_glycol),
        Fault("two-timers", "Two timers fight each other", "cold evenings although the line is right", _two_timers),
    )
}  # fmt: skip


def with_faults(house: House, keys: Sequence[str], *, at: int = 0) -> House:
    """The house with some of them; `at` which room or emitter, by size, where one is hit.

    Raises `NotFound` for an unknown one.
    """
    for key in keys:
        if key not in FAULTS:
            raise NotFound(f"no fault is called {key!r}; there are {', '.join(FAULTS)}")
        house = FAULTS[key].done(house, at)
    return house
