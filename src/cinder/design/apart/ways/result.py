"""Results of the cheapest way to a flow temperature."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result

Kind = Literal["way", "measure", "concession"]


class Change(Result):
    """One thing that would be done; `refuse` is what to write into the scheme to rule it out, `way` what to pin it by.

    A concession, a room that stays cooler than asked for, costs nothing and is no saving.
    """

    room: str
    room_label: str
    what: str
    kind: Kind
    cost_minor: float
    yearly_minor: float
    disturbance: int
    looks: int
    refuse: str
    way: str


class Lacking(Result):
    """A room that no known change serves at a temperature, and what would make it possible."""

    room: str
    label: str
    short_w: float
    mend: str


class RoomOption(Result):
    """One thing that may be done in a room by itself, or on the house, and the water the room would then need."""

    key: str
    slot: str
    groups: list[str]
    what: str
    kind: Kind
    cost_minor: float
    yearly_minor: float
    disturbance: int
    looks: int
    needed_flow_c: float | None
    gives_w: float | None
    pin: Literal["must", "prefer"] | None
    note: str


class RoomOptions(Result):
    room: str
    label: str
    load_w: float
    target_c: float
    needed_flow_c: float | None
    flow_c: float | None
    options: list[RoomOption]
    refused: list[str]
    electric_allowed: bool
    least_c: float | None


class TakenOut(Result):
    """A room served by a small heater or fan unit of its own: what the rest of the house could then live on."""

    room: str
    label: str
    load_w: float
    needed_flow_c: float
    flow_without_c: float | None
    heater_w: float
    heater_kwh: float | None
    bought_more_kwh: float | None
    """Electricity, and what burns beside the machine, more in a year."""
    bill_more_minor: float | None
    season: float | None
    fan: str | None
    fan_cost_minor: float | None
    fan_flow_c: float | None


class Holding(Result):
    """The rooms that hold the water up, warmest first, and the effect of taking each out."""

    flow_c: float | None
    season: float | None
    rooms: list[TakenOut]
    sentence: str


class FrontPoint(Result):
    """The cheapest set at one flow temperature, and the season it gives; `proved` that none is cheaper.

    `running_minor`: what plug-in heat and fans draw in a year, counted in choosing. `cycling_share`: part of the
    heating hours in which the house needs less than the machine gives at its least. `beaten_by`: the warmer water, deg C,
    that costs no more and gives the better season.
    """

    flow_c: float
    possible: bool
    weighed: bool = True
    """Whether anything was tried at this temperature at all: the coolest are left out where the warmer ones took too long."""
    proved: bool
    gap: float
    cost_minor: float | None
    running_minor: float
    season: float | None
    bought_kwh: float | None
    """Electricity, and what burns beside the machine, of a year."""
    bill_minor: float | None
    total_minor: float | None
    needed_flow_c: float | None
    cycling_share: float | None = None
    beaten_by: float | None = None
    changes: list[Change]
    lacking: list[Lacking]


class Front(Result):
    """Cost of changes against season, for every whole flow temperature. `unmet`: wishes nothing on offer fulfils."""

    points: list[FrontPoint]
    refused: list[str]
    wishes: dict[str, str]
    allowed: list[str]
    concessions: dict[str, float]
    unmet: list[str]
    years: int
    sun: str
    """How the sun that new panes keep out was counted."""
    sentence: str
