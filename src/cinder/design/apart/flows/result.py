"""Flows as they are shown."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result


class EmitterFlow(Result):
    """One circuit: the flow it is meant to have, and what it gets with nothing balanced and once the lockshields are set; what it
    must drop, and its lockshield for that (None: wide open)."""

    emitter: str
    label: str
    room: str
    design_lph: float
    unbalanced_lph: float
    balanced_lph: float
    drop_kpa: float
    kv_m3h: float | None
    turns: float | None


class RoomFlow(Result):
    """A room at the chosen water on the design day: what it wants and reaches, deg C, and how far its water is cooled, K, with nothing
    balanced and balanced."""

    room: str
    label: str
    target_c: float
    unbalanced_c: float | None
    balanced_c: float | None
    unbalanced_spread_k: float | None
    balanced_spread_k: float | None


class Point(Result):
    """A flow and a pressure, L/h and kPa."""

    flow_lph: float
    head_kpa: float


class PumpLine(Result):
    key: str
    label: str
    curve: list[Point]
    head_kpa: float | None
    """What it gives at the flow wanted."""


class Help(Result):
    """One thing that would leave the pump more room: pressure of the index circuit after it, kPa, and the part of the head that takes."""

    key: str
    kind: Literal["pipe", "spread", "pump", "separate"]
    label: str
    flow_lph: float
    index_kpa: float
    head_kpa: float | None
    used: float | None
    effort: str
    drawback: str
    pipe: str | None
    family: str | None
    size: str | None


class FlowsFound(Result):
    """`driven`: the pump follows the spread, so it gives the flow wanted as long as it can. `p10_kpa`, `p90_kpa` of the index circuit from the
    doubts in lengths and bores."""

    sentence: str
    lacks: str
    driven: bool
    flow_lph: float | None
    index_kpa: float | None
    p10_kpa: float | None
    p90_kpa: float | None
    head_kpa: float | None
    used_p10: float | None
    used_p90: float | None
    power_w: float | None
    unbalanced_total_lph: float | None
    rows: list[EmitterFlow]
    rooms: list[RoomFlow]
    system: list[Point]
    pumps: list[PumpLine]
    helps: list[Help]
    notes: list[str]
