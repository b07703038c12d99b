"""A machine looked at by itself, before any house: its map over the outdoor air, and what nobody says of it."""

from __future__ import annotations

import numpy as np

from cinder.design.base import Result
from cinder.design.machine.decide import rises_with_cold
from cinder.design.machine.load import tested_map
from cinder.library import MachineEntry
from cinder.physics.machine import heat_pump, reference_season
from cinder.physics.quantity import Array

LACKING = {
    "least_w": "how far it turns down: on and off in mild weather is not judged",
    "pump_flow_lph": "the pressure its pump has left: whether it reaches the far emitter is not judged",
    "least_flow_lph": "the least flow it must have",
    "least_volume_l": "the least water that must stay open",
    "sound_power_day_db": "its sound power: the noise at a neighbour's window is not judged",
    "max_current_a": "its greatest current",
}
"""Fields of a machine that may be missing, and what then cannot be judged."""


class WaterLine(Result):
    """One leaving water over the outdoor air; None outside the envelope."""

    water_c: float
    greatest_w: list[float | None]
    least_w: list[float | None]
    cop: list[float | None]
    extrapolated: list[bool]


class Look(Result):
    outdoor_c: list[float]
    lines: list[WaterLine]
    points: int
    worked_out: int
    carnot_low: float
    carnot_high: float
    scop_35: float | None
    scop_55: float | None
    lacks: list[str]
    odd: str


def look(entry: MachineEntry) -> Look:
    """The map at every tested water from its coldest air to 20 deg C."""
    table = tested_map(entry)
    outdoor = np.arange(np.floor(entry.lowest_outdoor_c), 20.5, 1.0)
    fraction = heat_pump.carnot_fraction(table)
    rising = rises_with_cold(entry)
    return Look(
        outdoor_c=outdoor.tolist(), lines=[_line(table, water, outdoor) for water in entry.water_c],
        points=len(entry.outdoor_c) * len(entry.water_c) - len(entry.worked_out), worked_out=len(entry.worked_out),
        carnot_low=float(fraction.min()), carnot_high=float(fraction.max()), scop_35=reference(entry, 35),
        scop_55=reference(entry, 55), lacks=[what for name, what in LACKING.items() if not getattr(entry, name)],
        odd=f"It gives more at A{rising[0]:g} than at A{rising[1]:g}: rare, unless it is held back." if rising else "",
    )  # fmt: skip


def _line(table: heat_pump.PerformanceMap, water: float, outdoor: Array) -> WaterLine:
    at = heat_pump.operate(table, outdoor_c=outdoor, water_c=water)

    def shown(values: Array, digits: int) -> list[float | None]:
        return [round(float(v), digits) if on else None for v, on in zip(values, at.inside, strict=True)]

    return WaterLine(
        water_c=water, greatest_w=shown(at.greatest_w, 1), least_w=shown(at.least_w, 1), cop=shown(at.cop, 3),
        extrapolated=[bool(one) for one in at.extrapolated],
    )  # fmt: skip


REFERENCE_BIVALENT_C = -7.0


def reference(entry: MachineEntry, water: int) -> float | None:
    """The test bench's season; None where its water is outside the envelope."""
    if water > max(entry.limit_water_c):
        return None
    season = reference_season.reference_season(
        tested_map(entry), water=water, bivalent_c=max(REFERENCE_BIVALENT_C, entry.lowest_outdoor_c),
        standing_w=entry.standby_w,
    )  # fmt: skip
    return season.scop
