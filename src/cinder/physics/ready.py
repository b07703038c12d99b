"""Compile what is compiled in physics, so that nobody waits for it: each law once, on the smallest of houses."""

from __future__ import annotations

import numpy as np

from cinder.physics.flow import pipe
from cinder.physics.losses import room_losses, unheated
from cinder.physics.machine import heat_pump
from cinder.physics.machine.season import part_load_factor, season_over_bins, share
from cinder.physics.rooms import radiator, room_balance
from cinder.physics.running import running_mean
from cinder.physics.store import store_day


def ready() -> None:
    """Make every compiled loop; a moment where that was done before."""
    room_balance.ready()
    store_day.ready()
    _machine()
    _rooms()
    pipe.friction_pa_per_m(
        flow_lph=np.array([100.0]), bore_m=0.02, roughness_m=7e-6, density_kg_m3=990.0, viscosity_pa_s=6e-4
    )
    radiator.excess_for_output(wanted_w=np.ones(1), rated_w=np.ones((1, 1)), exponent=np.ones((1, 1)))
    radiator.flow_for_log_excess(excess_k=np.array([20.0]), spread_k=5.0, room_c=20.0)


def _machine() -> None:
    two = np.array([0.0, 1.0])
    table = heat_pump.PerformanceMap(
        outdoor_c=two, water_c=two, greatest_w=np.ones((2, 2)), least_w=np.ones((2, 2)), cop=np.ones((2, 2)),
        evaporator_approach_k=5.0, condenser_approach_k=3.0, lowest_outdoor_c=-20.0, limit_outdoor_c=two, limit_water_c=two,
    )  # fmt: skip
    at = heat_pump.operate(table, outdoor_c=two, water_c=two)
    season_over_bins(hours=two, load_w=two, operation=at, degradation=0.9)
    share(load_w=two, operation=at, degradation=0.9)
    part_load_factor(load_w=two, least_w=two, degradation=0.9)
    running_mean(two, keep=0.5, start=0.0)


def _rooms() -> None:
    unheated.neighbour_c(on_design_day_c=np.zeros(1), design_outdoor_c=-3.0, outdoor_c=5.0)
    one, rows, which, no = np.ones(1), np.ones((1, 1)), np.zeros(1, dtype=np.intp), np.zeros(1, dtype=bool)
    room_losses.lost(
        np.zeros(1), design_c=-3.0, pieces=room_losses.Pieces(which, no, rows, rows, rows, one, one, one, one, one),
        rooms=room_losses.Rooms(one, rows, rows, one, one, ~no), below=room_losses.Below(which, no, *[one] * 9),
    )  # fmt: skip
