"""Results of the losses: a face with its stretches and openings, a room, the house."""

from __future__ import annotations

from typing import Literal

from cinder.design.air.result import AirMethod
from cinder.design.base import Result
from cinder.design.emitters.result import EmitterResult
from cinder.design.fabric.result import SlabResult, SpaceResult
from cinder.design.plan.layout import FaceKind

Status = Literal["meets", "short", "no emitter", "no loss", "own heater", "incomplete"]


class OpeningResult(Result):
    id: str
    label: str
    kind: str
    found: str | None
    construction: str | None
    construction_label: str
    u_w_m2k: float | None
    bridge_u_w_m2k: float
    area_m2: float | None
    difference_k: float | None
    factor: float | None
    loss_w: float | None
    bridge_w: float | None
    measure: str | None


class FacePiece(Result):
    """A stretch of a face: what lies beyond it, how that is known, and what goes through it.

    Walls: `from_m`..`to_m` along the run, `low_m`..`high_m` above the floor. `hole`: open, as a stairwell is.
    `factor` stands beside the temperature difference: b of a space by table, 1.45 towards the ground. `loss_w` = net area
    x (U + bridges) x factor x difference, of which `bridge_w` by the bridges.
    """

    beyond: str
    beyond_label: str
    beyond_room: str | None
    how: Literal["stated", "derived", "assumed"]
    area_m2: float
    net_m2: float
    from_m: float | None
    to_m: float | None
    low_m: float | None
    high_m: float | None
    hole: bool
    construction_label: str
    u_w_m2k: float | None
    bridge_u_w_m2k: float
    difference_k: float | None
    factor: float | None
    loss_w: float | None
    bridge_w: float | None


class JunctionResult(Result):
    """A junction of a face with the outside or an unheated space, when bridges are counted one by one."""

    key: str
    label: str
    length_m: float
    psi_w_mk: float
    loss_w: float | None


class FaceResult(Result):
    key: str
    label: str
    kind: FaceKind
    beyond: str
    beyond_label: str
    stated: bool
    found: str | None
    construction: str | None
    construction_label: str
    u_w_m2k: float | None
    gross_m2: float | None
    net_m2: float | None
    difference_k: float | None
    loss_w: float | None
    measure: str | None
    openings: list[OpeningResult]
    pieces: list[FacePiece]
    bridges: list[JunctionResult]


class RoomResult(Result):
    """One room of the chain. Two loads, two names: what its emitter meets, and its part of the house."""

    id: str
    label: str
    use: str
    target_c: float
    target_why: str
    area_m2: float | None
    height_m: float | None
    volume_m3: float | None
    closing_error_m: float | None
    closing_share: float | None
    closing_suspects: list[str]
    closing_correction_m: float | None
    outline_m: list[list[float]]
    placed: bool
    bottom_m: float | None
    top_m: float | None
    perimeter_m: float | None
    exposed_perimeter_m: float | None
    fabric_w: float | None
    ground_w: float | None
    bridges_w: float | None
    air_w: float | None
    trade_w: float | None
    extras_w: float | None
    down_w: float | None
    room_emitter_load_w: float | None
    room_share_of_house_w: float | None
    air_tightness_w: float | None
    air_table_w: float | None
    air_per_h: float | None
    exposed_faces: int
    usual_low_w_per_m2: float | None
    usual_high_w_per_m2: float | None
    odd: Literal["", "more than usual", "less than usual"]
    loss_per_k: float | None
    w_per_m2: float | None
    rated_w: float | None
    needed_flow_c: float | None
    reached_c: float | None
    status: Status
    faces: list[FaceResult]
    emitters: list[EmitterResult]


class Leak(Result):
    """A way out for heat: everything built alike, or air, or bridges; the greatest first."""

    key: str
    label: str
    kind: str
    construction: str | None
    area_m2: float | None
    u_w_m2k: float | None
    loss_w: float
    share: float
    rooms: int
    worst: str


class HouseResult(Result):
    outdoor_c: float | None
    climate_label: str
    area_m2: float
    volume_m3: float
    loss_w: float | None
    fabric_w: float | None
    ground_w: float | None
    bridges_w: float | None
    air_w: float | None
    extras_w: float | None
    down_w: float | None
    loss_air_tightness_w: float | None
    loss_air_table_w: float | None
    h_w_k: float | None
    w_per_m2: float | None
    n50_per_h: float | None
    n50_why: str
    emitter_loads_w: float | None
    complete: bool
    slabs: list[SlabResult]
    spaces: list[SpaceResult]
    air: list[AirMethod]
    leaks: list[Leak]
    envelope_m2: float
