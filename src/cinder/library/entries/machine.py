"""Heat pumps."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, model_validator

from cinder.library.entries.base import Celsius, Entry, Key, NotNegative, Positive, Text

MOST_CARNOT = 0.6
"""Part of the plain Carnot COP beyond which a map cannot be true (common practice)."""
LEAST_COP = 1.0
Axis = Annotated[list[Celsius], Field(min_length=1, max_length=40)]
Grid = Annotated[list[list[Positive]], Field(max_length=40)]


class ContainsEntry(Entry):
    """What a machine already holds, so that the plant does not buy it twice; absent: not in it, or not said."""

    diverter: bool = False
    diverter_rests: bool = False
    """Its diverter can stand between its ends."""
    buffer_l: NotNegative = 0.0
    vessel_l: NotNegative = 0.0
    relief_bar: NotNegative = 0.0
    heater_kw: NotNegative = 0.0
    pump: Literal["fixed", "steps", "by spread", "by signal"] | None = None
    """How its pump is driven; None: it has none, or nobody says."""
    freeze_valve: bool = False
    refrigerant_release: bool = False
    """A separator or release by the unit that lets refrigerant out of the heating water outdoors."""


class LinesEntry(Entry):
    """Refrigerant lines of a split machine."""

    gas_mm: Positive
    liquid_mm: Positive
    most_length_m: Positive
    most_lift_m: Positive
    charged_length_m: NotNegative
    """Length for which it is charged as it comes."""
    extra_g_per_m: NotNegative


class MachineEntry(Entry):
    """A machine: test points on a grid, envelope, hydraulics, sound, electrics. What nobody says is absent, and what hangs
    on it is then not judged."""

    id: Key
    label: Text
    kind: Literal["monobloc", "split"] = "monobloc"
    refrigerant: Text
    refrigerant_kg: Positive | None = None
    flammable: bool
    outdoor_c: Axis
    water_c: Axis
    greatest_w: Grid
    least_w: Grid | None = None
    cop: Grid
    worked_out: list[Annotated[list[int], Field(min_length=2, max_length=2)]] = []
    """Places of the grid (row, column) nobody tested: filled from their neighbours."""
    defrost_included: bool
    evaporator_approach_k: Positive = 8.0
    condenser_approach_k: Positive = 3.0
    lowest_outdoor_c: Celsius
    limit_outdoor_c: list[Celsius]
    limit_water_c: list[Celsius]
    least_flow_lph: Positive | None = None
    rated_flow_lph: Positive | None = None
    pump_flow_lph: list[NotNegative] = []
    pump_head_kpa: list[NotNegative] = []
    least_volume_l: Positive | None = None
    content_l: Positive | None = None
    max_current_a: Positive | None = None
    sound_power_day_db: Positive | None = None
    sound_power_night_db: Positive | None = None
    """In its quiet mode, in which it gives `quiet_output_share` of its greatest output."""
    quiet_output_share: Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)] = 1.0
    weight_kg: Positive | None = None
    always_on_w: NotNegative = 0.0
    """Drawn while it heats: pump, electronics."""
    standby_w: NotNegative = 0.0
    """Drawn while it does not."""
    contains: ContainsEntry = ContainsEntry()
    lines: LinesEntry | None = None
    price_minor: NotNegative | None = None
    source: Text

    @model_validator(mode="after")
    def _grid(self) -> MachineEntry:
        rows, cols = len(self.outdoor_c), len(self.water_c)
        if rows < 2 or cols < 2:
            raise ValueError("a map needs at least two outdoor and two water temperatures")
        for name in ("greatest_w", "least_w", "cop"):
            table = getattr(self, name)
            if table is not None and (len(table) != rows or any(len(row) != cols for row in table)):
                raise ValueError(f"{name} does not match the grid of test points")
        for name in ("outdoor_c", "water_c", "limit_outdoor_c", "pump_flow_lph"):
            values = getattr(self, name)
            if any(b <= a for a, b in pairwise(values)):
                raise ValueError(f"{name} must rise")
        if len(self.limit_outdoor_c) != len(self.limit_water_c) or not self.limit_outdoor_c:
            raise ValueError("the envelope needs as many water as outdoor temperatures")
        if len(self.pump_flow_lph) != len(self.pump_head_kpa) or len(self.pump_flow_lph) == 1:
            raise ValueError("the pump curve needs at least two points")
        for air, row in zip(self.outdoor_c, self.cop, strict=True):
            for water, cop in zip(self.water_c, row, strict=True):
                wrong = implausible(air, water, cop)
                if wrong:
                    raise ValueError(wrong)
        return self


def implausible(outdoor_c: float, water_c: float, cop: float) -> str | None:
    """Why a COP at a test point cannot be true; None where it can. Source: common practice."""
    at = f"COP {cop:g} at A{outdoor_c:g}/W{water_c:g}"
    if cop < LEAST_COP:
        return f"{at} is below 1: a plain heater gives more"
    fraction = cop * max(water_c - outdoor_c, 1.0) / (water_c + 273.15)
    if fraction > MOST_CARNOT:
        return f"{at} is {fraction:.0%} of Carnot: not credible"
    return None


MEASURES = ("behind", "front", "side", "opening", "window", "boundary", "tree", "patio", "underside")
"""What is measured about a unit: its free sides, the nearest opening, neighbour's window, edge of the plot, tree or patio, and
how high its underside stands."""


class PlaceRuleEntry(Entry):
    """What is to be kept free about a unit; the maker's manual wins."""

    id: Key
    label: Text
    of: Literal["behind", "front", "side", "opening", "window", "boundary", "tree", "patio", "underside"]
    least_m: NotNegative
    why: Text
    flammable_only: bool = False
    source: Text
