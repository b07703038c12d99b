"""The season of a standard's test bench: a label figure, not that of a house."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.physics.machine.heat_pump import PerformanceMap, operate
from cinder.physics.machine.season import part_load_factor
from cinder.physics.quantity import Array

OUTDOOR_C = np.arange(-10.0, 16.0)
HOURS = np.array(
    [
        1,
        25,
        23,
        24,
        27,
        68,
        91,
        89,
        165,
        173,
        240,
        280,
        320,
        357,
        356,
        303,
        330,
        326,
        348,
        335,
        315,
        215,
        169,
        151,
        105,
        74,
    ],
    dtype=float,
)
"""Hours of the average heating season, -10 to 15 deg C. Source: EN 14825 (from memory)."""
BALANCE_C, DESIGN_C = 16.0, -10.0
FULL_LOAD_H = 2066.0
"""Hours at full load that make the season's heat. Source: EN 14825 (from memory)."""
THERMOSTAT_OFF_H, CRANKCASE_OFF_H = 179.0, 3672.0
"""Hours of the average season with the thermostat off, and switched off. Source: EN 14825 (from memory)."""
WATER_C = {
    35: ((-10.0, -7.0, 2.0, 7.0, 12.0), (35.0, 34.0, 30.0, 27.0, 24.0)),
    55: ((-10.0, -7.0, 2.0, 7.0, 12.0), (55.0, 52.0, 42.0, 36.0, 30.0)),
}
"""Leaving water over outdoor air where it is varied, low and medium temperature. Source: EN 14825 (from memory)."""


@dataclass(frozen=True, slots=True)
class ReferenceSeason:
    """`scop` with what is drawn while it stands, `scop_on` without; `design_w` the load at -10 deg C it was taken for,
    `bivalent_c` where the machine just carries it; per bin: load W, machine W, COP with cycling."""

    scop: float
    scop_on: float
    design_w: float
    bivalent_c: float
    load_w: Array
    machine_w: Array
    cop: Array


def part_load_ratio(outdoor_c: Array) -> Array:
    """(T - 16)/(-10 - 16) of the design load. Source: EN 14825 (from memory)."""
    return (np.asarray(outdoor_c, float) - BALANCE_C) / (DESIGN_C - BALANCE_C)


def design_load_w(machine: PerformanceMap, *, water: int, bivalent_c: float) -> float:
    """The load at -10 deg C of a house this machine just carries at `bivalent_c`, W."""
    at = operate(machine, outdoor_c=bivalent_c, water_c=float(np.interp(bivalent_c, *WATER_C[water])))
    return float(at.greatest_w) / float(part_load_ratio(np.array(bivalent_c)))


def reference_season(
    machine: PerformanceMap, *, water: int = 35, bivalent_c: float = -7.0, degradation: float = 0.9,
    standing_w: float = 0.0,
) -> ReferenceSeason:  # fmt: skip
    """SCOP in the average climate at low (35) or medium (55) temperature, with a resistance heater for what the machine
    leaves. The load is that which it just carries at `bivalent_c` (at most 2 deg C); `standing_w` is drawn while the
    thermostat is off and while it is switched off.

    Source: EN 14825 (from memory); the standard takes tested part loads, this takes the map between its points.
    """
    design_w = design_load_w(machine, water=water, bivalent_c=bivalent_c)
    load = design_w * part_load_ratio(OUTDOOR_C)
    at = operate(machine, outdoor_c=OUTDOOR_C, water_c=np.interp(OUTDOOR_C, *WATER_C[water]))
    given = np.minimum(load, at.greatest_w)
    cop = at.cop * part_load_factor(load_w=given, least_w=at.least_w, degradation=degradation)
    electric = given / np.where(cop > 0, cop, 1.0) + (load - given)
    scop_on = float((HOURS * load).sum() / (HOURS * electric).sum())
    heat_wh = design_w * FULL_LOAD_H
    drawn = heat_wh / scop_on + standing_w * (THERMOSTAT_OFF_H + CRANKCASE_OFF_H)
    return ReferenceSeason(heat_wh / drawn, scop_on, design_w, bivalent_c, load, given, cop)
