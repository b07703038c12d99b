"""The weather curve as the Design shows it."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result


class Dialled(Result):
    """One thing to dial in: what is told to the controller, or a limit beside it.

    `path` where in the job a person's own figure goes, empty where it only follows; `entered` whether one stands there;
    `quantity` whether a temperature, a difference or a plain number.
    """

    key: str
    label: str
    value: float | None
    quantity: Literal["°C", "K", "", "min"]
    digits: int
    path: str
    entered: bool
    note: str


class CircuitCurve(Result):
    """A second circuit behind a blending valve: the line of its own rooms.

    `over_k` how much too warm its rooms would be at most by the house's own line, `at_c` outside.
    """

    id: str
    label: str
    rooms: list[str]
    needed_c: list[float | None]
    line_c: list[float]
    dial: list[Dialled]
    over_k: float | None
    at_c: float | None


class Curve(Result):
    """What water the house needs over the outdoor temperature with all its rooms settling together, and the line.

    `rooms` what each room asks for beside rooms as warm as the need makes them; `holds` the room that asks for most;
    `over_k` how much warmer than asked for each room gets by the line (`design_over_k` on the design day); `floats` rooms
    with a loss and nothing to meet it. `cold_need_c` the need on the design day, `cold_standard_c` the waterline's
    stricter one, `cold_why` what lies between, `cold_end` which of the two is dialled in.

    `dial` what the controller is told, `limits` what stands beside it; `handles` which ends can be moved by themselves; `cold_*`
    and `mild_*` where the line passes, of whatever kind it is; `lacks` what a kind needs to be told first (until then the line is
    one of two points); `tolerance_k` and `warm_k` how short and how warm is put up with.
    """

    kind: Literal["two_point", "slope", "numbered", "offset", "fixed"]
    kind_label: str
    dial: list[Dialled]
    limits: list[Dialled]
    circuits: list[CircuitCurve]
    handles: list[Literal["cold", "mild"]]
    lacks: str
    priority: Literal["comfort", "economy"] | None
    tolerance_k: float
    warm_k: float
    outdoor_c: list[float]
    needed_c: list[float | None]
    rooms: dict[str, list[float | None]]
    line_c: list[float]
    hours: list[float]
    cop_lines: dict[str, list[float | None]]
    holds: list[str | None]
    over_k: dict[str, list[float | None]]
    floats: list[str]
    design_over_k: dict[str, float]
    cold_need_c: float | None
    cold_standard_c: float | None
    cold_why: list[str]
    cold_end: Literal["settled", "waterline"]
    holds_cold: str | None
    holds_mild: str | None
    cold_out_c: float | None
    cold_flow_c: float | None
    mild_out_c: float | None
    mild_flow_c: float | None
    least_flow_c: float | None
    greatest_flow_c: float | None
    heating_limit_c: float
    fitted: bool
    fitted_mild_flow_c: float | None
    short_k: float | None
    short_room_k: float | None
    short_at_c: float | None
    short_room: str | None
    excess_k: float | None
    excess_at_c: float | None
