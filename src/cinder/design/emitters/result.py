"""Results of the emitters, of heated surfaces, and of what hangs at manifolds."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result


class HeatedResult(Result):
    """A heated floor or wall at the chosen flow temperature: its surface against its limit, its loops.

    `k_w_m2k` by the school followed, `other_k_w_m2k` by the other one; `method` by which, `outside` what of it lies outside
    the standard's range, where conduction serves by either school.
    """

    k_w_m2k: float
    other_k_w_m2k: float | None
    method: Literal["standard", "conduction", "entered"]
    outside: str
    area_m2: float
    flux_w_m2: float | None
    most_w_m2: float
    surface_mean_c: float | None
    surface_most_c: float | None
    limit_c: float
    limit_why: str
    most_flow_c: float | None
    """The warmest water, straight through at its spread, that keeps its surface within the limit."""
    down_w: float | None
    loop_m: float | None
    loops: int
    loop_lph: float | None
    loop_kpa: float | None


class SpacingResult(Result):
    """A heated floor or wall at one pipe spacing; `profile_c` its surface from over a pipe to the middle between two."""

    spacing_m: float | None
    chosen: bool
    k_w_m2k: float
    other_k_w_m2k: float | None
    method: Literal["standard", "conduction", "entered"]
    outside: str
    flux_w_m2: float
    output_w: float
    surface_mean_c: float
    surface_most_c: float
    limit_c: float
    limit_why: str
    within: bool
    loop_m: float | None
    longest_m: float
    loops: int
    loop_lph: float | None
    loop_kpa: float | None
    profile_c: list[float]


class HeatedPreview(Result):
    excess_k: float
    room_c: float
    flow_c: float
    spread_k: float
    rows: list[SpacingResult]


class EmitterResult(Result):
    """`output_w` when the room's need is just met; `at_line_w` at the chosen water with the room at its target."""

    id: str
    room: str
    kind: str
    label: str
    description: str
    rated_w: float | None
    exponent: float | None
    water_l: float
    valve: str | None
    valve_label: str
    closes: bool
    action: str
    share: float | None
    output_w: float | None
    at_line_w: float | None
    flow_lph: float | None
    spread_k: float | None
    factor: float
    factor_words: str
    electric_w: float
    heated: HeatedResult | None


class ManifoldResult(Result):
    """A thing at a manifold: whether it goes, is left open, stays or is looked at, and why."""

    id: str
    kind: str
    label: str
    count: int
    fate: Literal["remove", "open", "keep", "check"]
    why: str
    how: str
    rooms: list[str]
    emitter: str | None
