"""A house of one room, as small as a twin can be: for compiling, and for checks by hand."""

from __future__ import annotations

import numpy as np

from cinder.twin.parts import SOUND, Buffer, Control, Emitters, HotWater, House, Machine, Rooms, Weather

GRID_FROM_C = -20.0
GRID = np.arange(GRID_FROM_C, 31.0)


def one_room(
    *, loss_w_k: float = 100.0, rated_w: float = 6000.0, steps: int = 10, step_s: float = 60.0, outdoor_c: float = 0.0
) -> tuple[House, Weather]:
    """A room of 100 W/K with one radiator behind a machine of 2 to 6 kW, and weather that stays the same."""
    rooms = Rooms(
        base_from_c=GRID_FROM_C, base_w=-loss_w_k * GRID[:, None], slope_w_k=np.array([loss_w_k]), trade_w_k=np.zeros((1, 1)),
        air_j_k=np.array([4.0e5]), mass_j_k=np.array([8.0e6]), couple_w_k=np.array([600.0]), target_c=np.array([20.0]),
        heater_w=np.zeros(1),
    )  # fmt: skip
    emitters = Emitters(
        room=np.zeros(1, dtype=np.intp), rated_w=np.array([rated_w]), exponent=np.array([1.3]), flow_w_k=np.array([400.0]),
        water_j_k=np.array([6.0e4]), closes=np.zeros(1, dtype=bool), to_mass=np.array([0.3]), down=np.zeros(1),
        reference_k=49.83, open_share=np.array([0.0, 1.0]), open_gives=np.array([1.0, 1.0]),
    )  # fmt: skip
    flat = np.ones((2, 2))
    machine = Machine(
        air_from_c=-20.0, air_step_k=50.0, water_from_c=20.0, water_step_k=60.0, greatest_w=6000.0 * flat, least_w=2000.0 * flat,
        cop=np.array([[3.0, 2.0], [6.0, 4.0]]), water_j_k=1.5e5, pump_w=30.0, standby_w=10.0, answer_s=300.0, band_k=5.0, least_on_s=300.0,
        least_off_s=300.0, start_s=120.0, frost_every_s=0.0, frost_for_s=300.0, frost_takes=0.6, limit_c=70.0, backup_w=0.0,
        backup_electric=False,
    )  # fmt: skip
    control = Control(
        line_from_c=GRID_FROM_C, line_c=20.0 + (20.0 - np.minimum(GRID, 20.0)) * 1.0, heating_limit_c=16.0, setback_k=0.0,
        setback_from_h=22.0, setback_to_h=6.0, thermostat=-1, thermostat_c=20.0, thermostat_k=0.5, sensor_k=0.0,
        sensor_per_sun=0.0, valve_k=1.0, off_from_h=0.0, off_to_h=0.0,
    )  # fmt: skip
    nothing = HotWater(np.zeros(0), np.zeros(0), 50.0)
    still = np.zeros((steps, 1))
    weather = Weather(step_s, np.full(steps, outdoor_c), np.zeros(steps), still, still, 0.0)
    return House(rooms, emitters, machine, Buffer(0.0, 0.0), control, nothing, SOUND), weather
