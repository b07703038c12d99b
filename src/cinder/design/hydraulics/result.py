"""Results of pipes, pump and open water."""

from __future__ import annotations

from cinder.design.base import Result


class Pipe(Result):
    id: str
    label: str
    parent: str | None
    emitter: str | None
    size_label: str
    bore_m: float | None
    length_m: float | None
    flow_lph: float | None
    velocity_m_s: float | None
    pa_per_m: float | None
    friction_kpa: float | None
    fittings_kpa: float | None
    valve_kpa: float | None
    total_kpa: float | None
    water_l: float
    on_index: bool
    fast: bool
    action: str
    depth: int


class Circuit(Result):
    emitter: str
    label: str
    loss_kpa: float
    to_drop_kpa: float
    path: list[str]


class Pipework(Result):
    flow_lph: float | None
    water_c: float | None
    pipes: list[Pipe]
    circuits: list[Circuit]
    index: str | None
    index_kpa: float | None
    head_kpa: float | None
    head_used: float | None
    limit: float
    least_flow_lph: float | None
    pump_flow_lph: list[float]
    pump_head_kpa: list[float]
    worst_pipe: str | None
    worst_saving_kpa: float | None
    worst_next_size: str | None


class Volume(Result):
    open_l: float | None
    closed_l: float
    pipes_l: float
    emitters_l: float
    machine_l: float
    volumiser_l: float
    need_l: float | None
    need_why: str
    rule_l: float | None
