"""The weather curve as the Design shows it."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result


class Curve(Result):
    """What water the house needs over the outdoor temperature with all its rooms settling together, and the line.

    `rooms` what each room asks for beside rooms as warm as the need makes them; `holds` the room that asks for most;
    `over_k` how much warmer than asked for each room gets by the line (`design_over_k` on the design day); `floats` rooms
    with a loss and nothing to meet it. `cold_need_c` the need on the design day, `cold_standard_c` the waterline's
    stricter one, `cold_why` what lies between, `cold_end` which of the two is dialled in.
    """

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
