"""Results of one circuit or two: the ways to lay it out, what water stays open, and the zones."""

from __future__ import annotations

from cinder.design.base import Result


class Variant(Result):
    """One way to lay the water out, through the whole chain. `lacks`: what it does not do, in words; empty where it does all of it.
    Temperatures on the design day: the machine's flow and return, and the emitters'."""

    key: str
    label: str
    chosen: bool
    volumiser_l: float
    buffer_l: float
    pump: str
    pump_label: str
    open_l: float | None
    need_l: float | None
    index_kpa: float | None
    head_kpa: float | None
    head_used: float | None
    primary_used: float | None
    machine_lph: float | None
    emitters_lph: float | None
    lift_k: float
    layered_k: float
    stirred_k: float
    machine_flow_c: float | None
    machine_return_c: float | None
    flow_c: float | None
    return_c: float | None
    season: float | None
    season_change: float | None
    pump_kwh: float | None
    cost_minor: float
    lacks: list[str]
    gives: str
    takes: str


class Need(Result):
    """Water wanted, by one reason."""

    key: str
    label: str
    litres: float | None
    why: str


class OpenEmitter(Result):
    """An emitter and the pipe that leads to it alone: their water, and whether it always goes round."""

    emitter: str
    room: str
    label: str
    litres: float
    open: bool
    valve_label: str
    advice: str


class ZoneRow(Result):
    """Rooms that open and close together. `run_minutes` and `starts_per_h`: the machine at its least output when this zone alone
    calls in mild air."""

    key: str
    label: str
    rooms: list[str]
    mixed: bool
    design_w: float
    mild_w: float
    litres: float
    needed_c: float | None
    holds: bool
    run_minutes: float | None
    starts_per_h: float | None


class ZonesFound(Result):
    """All zones; `least_w` of the machine in air of `mild_c`. Without the hottest zone the water could be `without_c`."""

    rows: list[ZoneRow]
    mild_c: float
    least_w: float | None
    without_c: float | None
    without_label: str
    without_season: float | None
    season: float | None
    words: list[str]


class SeparatingFound(Result):
    """`best`: the key of the variant the figures speak for, with its reasons and what would change it."""

    sentence: str
    lacks: str
    variants: list[Variant]
    best: str
    reasons: list[str]
    changes: list[str]
    needs: list[Need]
    opens: list[OpenEmitter]
    zones: ZonesFound
    notes: list[str]
