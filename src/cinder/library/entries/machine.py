"""Heat pumps."""

from __future__ import annotations

from itertools import pairwise

from pydantic import model_validator

from cinder.library.entries.base import Celsius, Entry, Key, NotNegative, Positive, Text


class MachineEntry(Entry):
    """An invented machine: test points on a grid, envelope, hydraulics."""

    id: Key
    label: Text
    refrigerant: Text
    refrigerant_kg: Positive
    flammable: bool
    outdoor_c: list[Celsius]
    water_c: list[Celsius]
    greatest_w: list[list[Positive]]
    least_w: list[list[Positive]]
    cop: list[list[Positive]]
    defrost_included: bool
    evaporator_approach_k: Positive
    condenser_approach_k: Positive
    lowest_outdoor_c: Celsius
    limit_outdoor_c: list[Celsius]
    limit_water_c: list[Celsius]
    least_flow_lph: Positive
    rated_flow_lph: Positive
    pump_flow_lph: list[NotNegative]
    pump_head_kpa: list[NotNegative]
    least_volume_l: Positive
    content_l: Positive
    max_current_a: Positive
    sound_power_day_db: Positive
    sound_power_night_db: Positive
    weight_kg: Positive
    always_on_w: NotNegative
    source: Text

    @model_validator(mode="after")
    def _grid(self) -> MachineEntry:
        rows, cols = len(self.outdoor_c), len(self.water_c)
        if rows < 2 or cols < 2:
            raise ValueError("a map needs at least two outdoor and two water temperatures")
        for name in ("greatest_w", "least_w", "cop"):
            table = getattr(self, name)
            if len(table) != rows or any(len(row) != cols for row in table):
                raise ValueError(f"{name} does not match the grid of test points")
        for name in ("outdoor_c", "water_c", "limit_outdoor_c", "pump_flow_lph"):
            values = getattr(self, name)
            if any(b <= a for a, b in pairwise(values)):
                raise ValueError(f"{name} must rise")
        if len(self.limit_outdoor_c) != len(self.limit_water_c) or not self.limit_outdoor_c:
            raise ValueError("the envelope needs as many water as outdoor temperatures")
        if len(self.pump_flow_lph) != len(self.pump_head_kpa) or len(self.pump_flow_lph) < 2:
            raise ValueError("the pump curve needs at least two points")
        for air, row in zip(self.outdoor_c, self.cop, strict=True):
            for water, cop in zip(self.water_c, row, strict=True):
                fraction = cop * max(water - air, 1.0) / (water + 273.15)
                if fraction > 0.6:
                    raise ValueError(f"COP {cop} at A{air:g}/W{water:g} is {fraction:.0%} of Carnot: not credible")
        return self
