"""One thing that may be done in a room, what it costs, and what it gives at a flow temperature."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from cinder.design.emitters import heated
from cinder.design.emitters.decide import Rated, rate, reference_of
from cinder.design.findings import Findings
from cinder.design.house.overlay import EmitterView
from cinder.design.house.view import HouseView
from cinder.library import CatalogueEntry, ConstructionEntry, EmitterPriceEntry, MeasureEntry
from cinder.model import EmitterSpec, Measure
from cinder.model.scheme import EmitterAction
from cinder.physics.quantity import Array
from cinder.physics.rooms import radiator

Prices = dict[str, EmitterPriceEntry]
Table = dict[str, MeasureEntry]
Lists = tuple[CatalogueEntry, ...]
BEARS_K = 0.05
PREFERRED = 0.75
"""A wish counts as if it cost a quarter less (our choice)."""


@dataclass(frozen=True, slots=True)
class Way:
    """One thing that may be done in a room.

    `slot`: of those with one slot at most one is done. `groups`: the keys under which it is pinned or refused.
    `rated`: the emitter it puts there; `takes_w`: what it takes off the room's load, and `takes_w_k` how much less of that
    for every kelvin the room is kept cooler; `to_c`: the temperature accepted.
    """

    key: str
    slot: str
    what: str
    cost_minor: float
    disturbance: int
    looks: int
    groups: tuple[str, ...] = ()
    emitter: str | None = None
    action: EmitterAction | None = None
    rated: Rated | None = None
    length_m: float = 0.0
    beside: str | None = None
    takes_w: float = 0.0
    takes_w_k: float = 0.0
    floor_share: float = 0.0
    """Part of the loss through the room's own floor that it takes off."""
    yearly_minor: float = 0.0
    to_c: float | None = None
    note: str = ""
    construction: str | None = None
    """The construction as found that it changes in this room: not together with a measure for all of it."""
    constructions: dict[str, ConstructionEntry] = field(default_factory=dict)
    measures: dict[str, Measure] = field(default_factory=dict)

    @property
    def pins(self) -> tuple[str, ...]:
        return (*self.groups, f"way:{self.key}")


@dataclass(frozen=True, slots=True)
class Costs:
    """Prices of the company, and what a kilowatt hour is worth against the machine's."""

    prices: Prices
    table: Table
    lists: Lists
    kwh_per_w: float
    """Heat of a year per watt of design load."""
    extra_minor_per_kwh: float
    """What a kilowatt hour made by plain electricity costs more than one of the machine's."""
    minor_per_kwh: float
    heating_hours: float


def gives(rated: Rated, *, flows_c: Array, room_c: float, arithmetic: bool, reference_k: float) -> Array:
    """What an emitter gives (F,) at flow temperatures (F,) with its own spread, W; a surface gives no more than it may."""
    if rated.rated_w is None:
        return np.full(len(flows_c), rated.fixed_w)
    mean = np.full(len(flows_c), arithmetic and rated.surface is None)
    excess = radiator.mixed_excess(flow_c=flows_c, spread_k=rated.spread_k, room_c=room_c, arithmetic=mean)
    watts = np.asarray(
        radiator.output(rated_w=rated.rated_w, exponent=rated.exponent, excess_k=excess, reference_k=reference_k)
    )
    if rated.surface is not None:
        watts = np.minimum(watts, rated.surface.most_w_m2 * rated.surface.area_m2)
    return watts


def beyond_it(rated: Rated | None, *, flows_c: Array, room_c: float) -> NDArray[np.bool_]:
    """Flow temperatures (F,) that a surface yet to be laid does not bear straight through."""
    if rated is None or rated.surface is None:
        return np.zeros(len(flows_c), dtype=bool)
    most = heated.most_flow_c(rated.surface, room_c=room_c, spread_k=rated.spread_k)
    return np.asarray(flows_c > (np.inf if most is None else most + BEARS_K))


def rated_as(house: HouseView, room: str, key: str, label: str, spec: EmitterSpec) -> Rated:
    """An emitter of a room as it would be rated."""
    view = EmitterView(key, room, label, spec, "add", "")
    return rate(house, view, Findings(), reference_k=reference_of(house.practice))
