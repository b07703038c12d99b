"""What a twin is made of: arrays and plain numbers, each with its unit. No document reaches here.

All are named tuples, as the compiled loop reads them. Shapes: rooms (R,), emitters (E,), steps of the weather (N,).
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from cinder.physics.quantity import Array

Ints = NDArray[np.intp]
Bools = NDArray[np.bool_]


class Rooms(NamedTuple):
    """Air and what is in it on one node, walls and floors on another that trades with it alone.

    A room loses `base + slope T - trade T of the others`, W: `base_w` (K, R) over whole degrees of outdoor air from `base_from_c` on, as
    the balance of the design has it; so a house at rest stands where the design says. `air_j_k`, `mass_j_k` what the nodes hold, J/K;
    `couple_w_k` between them. `heater_w` what a heater of its own may add.
    """

    base_from_c: float
    base_w: Array
    slope_w_k: Array
    trade_w_k: Array
    air_j_k: Array
    mass_j_k: Array
    couple_w_k: Array
    target_c: Array
    heater_w: Array


class Emitters(NamedTuple):
    """`rated_w` at `reference_k` of excess; `flow_w_k` what its water carries a kelvin with everything open; `water_j_k` what it holds;
    `closes` where a valve throttles it by the room; `to_mass` the part of its heat that warms surfaces; `down` what goes the other way,
    of what the room gets. `open_share`, `open_gives` (K,): the water an open emitter has over its own, by how much of all openings is
    still open."""

    room: Ints
    rated_w: Array
    exponent: Array
    flow_w_k: Array
    water_j_k: Array
    closes: Bools
    to_mass: Array
    down: Array
    reference_k: float
    open_share: Array
    open_gives: Array


class Machine(NamedTuple):
    """Its map at even steps of air and water, W; what it does beside running.

    `water_j_k` its water with the pipes' and what lies in the circuit; `pump_w` while water moves, `standby_w` always. `answer_s` how
    quickly it brings its water to the line. On and off: `band_k` about the line, least times, and `start_s` in which a start gives half.
    `backup_w` what a second source adds where the machine gives all it can, electric or not. Defrost: after `frost_every_s` of
    running in the frostiest air, for `frost_for_s` it takes `frost_takes` of its output out of the water.
    """

    air_from_c: float
    air_step_k: float
    water_from_c: float
    water_step_k: float
    greatest_w: Array
    least_w: Array
    cop: Array
    water_j_k: float
    pump_w: float
    standby_w: float
    answer_s: float
    band_k: float
    least_on_s: float
    least_off_s: float
    start_s: float
    frost_every_s: float
    frost_for_s: float
    frost_takes: float
    limit_c: float
    backup_w: float
    backup_electric: bool


LONGEST_STEP_S = 150.0
"""The longest step in which machine and water are walked."""


class Buffer(NamedTuple):
    """What stands between machine and emitters: a vessel by what it holds, J/K, and what the machine's side carries, W/K. `stirred`: the
    part of both waters that mixes through it; the rest runs by, and what one side moves more goes through the vessel. A flow without a
    vessel is a header: it holds less than passes in a step (`LONGEST_STEP_S`), and what is moved more comes straight back. Neither: one
    circuit."""

    water_j_k: float
    machine_w_k: float
    stirred: float = 0.0


class Control(NamedTuple):
    """The line over whole degrees of outdoor air from `line_from_c` on; heating is off while the mean of a day lies above
    `heating_limit_c`.

    `setback_k` is taken off the water between two hours of the day, and off the rooms' valves. `thermostat`: the room that is in charge
    (-1: the line alone), on below `thermostat_c` less half of `thermostat_k`. `sensor_k`, `sensor_per_sun`: what the outdoor sensor reads
    beside the truth, K, and K per W/m2. `band_k` of the valves in rooms.
    """

    line_from_c: float
    line_c: Array
    heating_limit_c: float
    setback_k: float
    setback_from_h: float
    setback_to_h: float
    thermostat: int
    thermostat_c: float
    thermostat_k: float
    sensor_k: float
    sensor_per_sun: float
    valve_k: float
    off_from_h: float
    off_to_h: float


class HotWater(NamedTuple):
    """Charges of the store: hours of the day they begin (C,), J each, and the water they are made with, deg C."""

    at_h: Array
    heat_j: Array
    charge_c: float


class Weather(NamedTuple):
    """Every step `step_s`: outdoor air (N,), sun on the level, W/m2 (N,); sun through windows (N, R) and people with what they use (N, R),
    W. `hour` of the day at the first step. `clog_per_day` what a strainer loses of its flow."""

    step_s: float
    outdoor_c: Array
    ghi_w_m2: Array
    sun_w: Array
    people_w: Array
    hour: float

    def first(self, steps: int) -> Weather:
        """Its first steps."""
        return self._replace(
            outdoor_c=self.outdoor_c[:steps], ghi_w_m2=self.ghi_w_m2[:steps], sun_w=self.sun_w[:steps], people_w=self.people_w[:steps]
        )  # fmt: skip


class Faults(NamedTuple):
    """What may be wrong with the water's way: `flow` of all that moves (1: as designed), `clog_per_day` taken off it every day,
    `reversed_valve` the diverter sends each water the other's way."""

    flow: float
    clog_per_day: float
    reversed_valve: bool


SOUND = Faults(1.0, 0.0, False)


class House(NamedTuple):
    """A twin: everything but the weather."""

    rooms: Rooms
    emitters: Emitters
    machine: Machine
    buffer: Buffer
    control: Control
    hot_water: HotWater
    faults: Faults
