"""Results of pipes, pump and open water."""

from __future__ import annotations

from typing import Literal

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


class Primary(Result):
    """The machine's own side of a separator: what it takes at the machine's flow, against the machine's pump."""

    flow_lph: float
    loss_kpa: float
    head_kpa: float | None
    used: float | None


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
    pump_label: str
    """The pump that drives the circuits: the machine's, or the second one behind a separator."""
    primary: Primary | None
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
    separator_l: float
    need_l: float | None
    need_why: str
    rule_l: float | None
    defrost_l: float | None
    """What a defrost takes its heat from."""
    cycling_l: float | None
    """What a run of the machine in mild weather fills."""
    cycling_at_c: float
    wants_l: float | None
    """How much more it would take to have what is needed."""


class VesselFound(Result):
    """The heating water's vessel: `least_l` for `system_l` of water that grows by `grows_l` up to `hottest_c`; `has_l` of the machine and
    beside it. `fill_bar` cold, `hot_bar` when it is hottest, with the vessel that is there, else with the least."""

    system_l: float
    hottest_c: float
    grows_l: float
    static_m: float
    static_where: str
    relief_bar: float
    relief_from: str
    greatest_bar: float
    precharge_bar: float
    precharge_usual_bar: float
    least_l: float | None
    reserve_l: float | None
    machine_l: float
    has_l: float
    fill_bar: float | None
    hot_bar: float | None
    verdict: Literal["meets", "small", "unknown"]
