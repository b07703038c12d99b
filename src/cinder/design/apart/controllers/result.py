"""The kinds of controller beside each other, as they are shown."""

from __future__ import annotations

from cinder.design.base import Result
from cinder.design.curve.result import Dialled


class KindRow(Result):
    """One kind, fitted to the rooms: what it is told, how short and how warm it leaves them, what a season takes.

    `bought_kwh`: electricity, and what burns beside the machine; `bill_minor` what that costs. `excess_kwh` a year beyond water exactly as
    warm as needed; `more_kwh`, `more_minor` beside the kind that serves every room and costs least.
    """

    kind: str
    label: str
    chosen: bool
    lacks: str
    dial: list[Dialled]
    line_c: list[float]
    short_k: float | None
    short_room: str
    short_at_c: float | None
    excess_k: float | None
    excess_at_c: float | None
    performance: float | None
    bought_kwh: float | None
    bill_minor: float | None
    excess_kwh: float | None
    more_kwh: float | None
    more_minor: float | None
    serves: bool
    verdict: str


class Shifted(Result):
    """The whole line warmer or cooler by so much."""

    k: float
    kwh: float | None
    minor: float | None
    share: float | None
    short_k: float | None
    short_room: str


class Band(Result):
    """The need at the P10 and the P90 of the house's loss, over the curve's own outdoor temperatures."""

    low_c: list[float | None]
    high_c: list[float | None]


class CircuitCost(Result):
    """A blended circuit against one temperature for all: a year, kWh of electricity and fuel. `pump_kwh` of its own pump; `warm_kwh` what its
    rooms would take more by the house's own line, floating above what they ask for; `net_minor` what it costs, below nought saves."""

    id: str
    label: str
    pump_kwh: float
    warm_kwh: float
    net_kwh: float
    net_minor: float
    says: str


class ControllersFound(Result):
    sentence: str
    lacks: str
    rows: list[KindRow]
    shifts: list[Shifted]
    band: Band | None
    circuits: list[CircuitCost]
    boiler: list[Dialled]
    """What a hybrid's own controller asks for beside the line."""
    boiler_why: str
    warm_rooms: list[str]
    """Rooms the line makes warmer than the customer's word puts up with, on some day it heats."""
    verdict: str
