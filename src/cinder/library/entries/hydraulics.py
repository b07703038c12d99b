"""Pipes, and hot water drawn from them."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated

from pydantic import Field, model_validator

from cinder.library.entries.base import Celsius, Entry, Key, NotNegative, Positive, Text


class PipeSizeEntry(Entry):
    label: Text
    bore_m: Annotated[float, Field(gt=0.002, le=0.2)]


class PipeFamilyEntry(Entry):
    id: Key
    label: Text
    roughness_m: Annotated[float, Field(ge=0, le=0.001)]
    sizes: dict[Key, PipeSizeEntry]
    source: Text


class PumpEntry(Entry):
    """A second pump by its class: its curve at full speed, and what it draws at two thirds of its greatest flow."""

    id: Key
    label: Text
    flow_lph: Annotated[list[NotNegative], Field(min_length=2)]
    head_kpa: Annotated[list[NotNegative], Field(min_length=2)]
    rated_w: Positive

    @model_validator(mode="after")
    def _falls(self) -> PumpEntry:
        if len(self.flow_lph) != len(self.head_kpa):
            raise ValueError("a pump curve needs a head for every flow")
        if any(b <= a for a, b in pairwise(self.flow_lph)) or any(b > a for a, b in pairwise(self.head_kpa)):
            raise ValueError("a pump curve must fall as its flow rises")
        return self


class GlycolEntry(Entry):
    """Glycol in water: over its share by volume and the temperature, the first row plain water."""

    id: Key
    label: Text
    share: Annotated[list[NotNegative], Field(min_length=2)]
    freezes_c: list[Celsius]
    temperature_c: Annotated[list[Celsius], Field(min_length=2)]
    density_kg_m3: list[list[Positive]]
    specific_heat_j_kgk: list[list[Positive]]
    viscosity_mpa_s: list[list[Positive]]
    source: Text

    @model_validator(mode="after")
    def _grid(self) -> GlycolEntry:
        for rows in (self.density_kg_m3, self.specific_heat_j_kgk, self.viscosity_mpa_s):
            if len(rows) != len(self.share) or any(len(row) != len(self.temperature_c) for row in rows):
                raise ValueError("every property needs a row for each share, a column for each temperature")
        if len(self.freezes_c) != len(self.share):
            raise ValueError("every share needs its freezing point")
        return self


class TapEntry(Entry):
    """One draw of a tapping pattern: minute of the day, kWh above the cold main, L/min, the deg C from which heat counts and, where
    it is asked for, the deg C to be reached."""

    minute: Annotated[int, Field(ge=0, le=1439)]
    kwh: Positive
    flow_l_min: Positive
    counts_from_c: Celsius
    reaches_c: Celsius | None
    what: Text


class TappingEntry(Entry):
    id: Key
    label: Text
    draws: Annotated[list[TapEntry], Field(min_length=1)]

    @property
    def kwh(self) -> float:
        """Heat of the day, kWh."""
        return sum(draw.kwh for draw in self.draws)
