"""The tables a job carries as one."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from cinder.library.entries.base import Entry, Finite, Key, NotNegative, Pair, Text
from cinder.library.entries.emitters import EmitterFactorEntry, ValveEntry
from cinder.library.entries.prices import FuelEntry
from cinder.library.entries.survey import AgeEntry, RoomUseEntry, SpaceKindEntry


class JunctionEntry(Entry):
    """A line where parts of the shell meet: psi in W/mK, inside dimensions, by how well it is built."""

    label: Text
    poor: Finite
    usual: Finite
    good: Finite


class TablesEntry(Entry):
    """The small tables of the trade a job follows."""

    id: Key
    label: Text
    room_uses: dict[Key, RoomUseEntry]
    ages: dict[Key, AgeEntry]
    space_kinds: dict[Key, SpaceKindEntry]
    valves: dict[Key, ValveEntry]
    fittings_k: dict[Key, NotNegative]
    shelter: dict[Key, NotNegative]
    chimney_m3h: NotNegative
    flue_m3h: NotNegative
    fan_m3h: NotNegative
    cylinder_l_by_bedrooms: Annotated[list[Pair], Field(min_length=1)]
    hot_water_l_per_person_day: NotNegative
    open_water_l_per_kw: NotNegative
    coil_m2_per_kw: Pair
    source: Text
    vent_m3h: NotNegative = 10.0
    shield_e: dict[Key, Annotated[list[NotNegative], Field(min_length=3, max_length=3)]] = {}
    junctions: dict[Key, JunctionEntry] = {}
    fuels: dict[Key, FuelEntry] = {}
    space_air_per_h: dict[Key, NotNegative] = {}
    emitter_factors: dict[Key, EmitterFactorEntry] = {}
