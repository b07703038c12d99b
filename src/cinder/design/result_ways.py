"""Results of the cheapest way to a flow temperature."""

from __future__ import annotations

from cinder.design.result_base import Result


class Change(Result):
    """One thing that would be done; `refuse` is what to write into the scheme to rule it out."""

    room: str
    room_label: str
    what: str
    cost_minor: float
    disturbance: int
    refuse: str


class Lacking(Result):
    """A room that no known change serves at a temperature."""

    room: str
    label: str
    short_w: float


class FrontPoint(Result):
    """The cheapest set at one flow temperature, and the season it gives; `proved` that none is cheaper."""

    flow_c: float
    possible: bool
    proved: bool
    gap: float
    cost_minor: float | None
    season: float | None
    electricity_kwh: float | None
    bill_minor: float | None
    total_minor: float | None
    needed_flow_c: float | None
    changes: list[Change]
    lacking: list[Lacking]


class Front(Result):
    """Cost of changes against season, for every whole flow temperature."""

    points: list[FrontPoint]
    refused: list[str]
    years: int
    sentence: str
