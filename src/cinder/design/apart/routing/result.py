"""Results of pipes on the plan: the storeys they lie in, where they begin and end, and a tree laid by rule."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result


class RoomOutline(Result):
    room: str
    label: str
    outline_m: list[list[float]]


class StoreyPlan(Result):
    """A storey that has rooms on the plan; pipes of a height nearer to its level than to another's lie in it."""

    id: str
    label: str
    level_m: float
    rooms: list[RoomOutline]


class Spot(Result):
    """Where an emitter's pipes arrive; `why` says how that is known."""

    emitter: str
    room: str
    label: str
    at_m: list[float]
    why: str


class RiserSpot(Result):
    id: str
    label: str
    at_m: list[float]


class ProposedRun(Result):
    """A run there and back: its parent among the proposed ones, or the primaries where it has none."""

    id: str
    label: str
    parent: str | None
    emitter: str | None
    family: str
    size: str
    size_label: str
    length_m: float
    flow_lph: float | None
    fittings: dict[str, int]
    lies: Literal["buried"] | None
    way_m: list[list[float]]


class RoutesFound(Result):
    """`keeps`: the run of the job the proposal hangs on. Figures of the whole tree, were it taken up, by the chain."""

    sentence: str
    lacks: str
    storeys: list[StoreyPlan]
    spots: list[Spot]
    start_m: list[float]
    start_from: str
    risers: list[RiserSpot]
    keeps: str | None
    runs: list[ProposedRun]
    total_m: float
    now_m: float | None
    index_kpa: float | None
    head_used: float | None
    now_index_kpa: float | None
    left_out: list[str]
    notes: list[str]
