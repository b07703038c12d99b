"""Floors on and below the ground and walls in the earth: B' of the whole floor, each build with its own resistance."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from typing import NamedTuple

from cinder.design.fabric.u_values import Transmittances, thickness_m
from cinder.design.house.rooms import RoomView
from cinder.design.house.view import HouseView
from cinder.design.kept import Afresh, Kept, entries
from cinder.design.plan.layout import Stretch
from cinder.errors import PhysicsError
from cinder.model.parts import part_key
from cinder.physics.losses import ground

DEFAULT_WALL_THICKNESS_M = 0.30
GRID_M = 0.001
Key = tuple[str | None, str, float]
Worked = ground.GroundFloor | ground.SuspendedFloor | ground.Basement


@dataclass(frozen=True, slots=True)
class GroundSlab:
    """A build of floor on the ground: `area_m2` and `exposed_perimeter_m` of its own, B' that of the whole floor the
    house stands on (`whole_m2`, `whole_perimeter_m`)."""

    area_m2: float
    exposed_perimeter_m: float
    whole_m2: float
    whole_perimeter_m: float
    worked: Worked
    edge_u_w_m2k: float = 0.0
    """What a strip of insulation along the edge takes off (negative)."""
    edge_m: float | None = None
    """How far the strip reaches in as it counts; None without one."""
    depth_m: float = 0.0

    @property
    def u_w_m2k(self) -> float:
        if isinstance(self.worked, ground.Basement):
            return self.worked.floor_u_w_m2k
        return max(self.worked.u_w_m2k + self.edge_u_w_m2k, 0.0)


@dataclass(frozen=True, slots=True)
class Fabric:
    """What a house is built of: U by construction, and its floors on and in the ground by part, floor construction and
    depth below the ground (m; 0 at ground level)."""

    u: Transmittances
    floors: dict[Key, GroundSlab]


class _Footprint(NamedTuple):
    """A room's floor on the ground: part of the house, floor construction, depth; its area and edge; its wall in the earth."""

    part: str | None
    construction: str
    depth_m: float
    area_m2: float
    edge_m: float
    deep_wall: str | None


def depth_of(room: RoomView) -> float:
    """How deep a room's floor lies below the ground (level 0), m, to the millimetre; 0 above it."""
    if room.shape is None or not room.shape.placed or room.shape.bottom_m > -GRID_M:
        return 0.0
    return round(-room.shape.bottom_m, 3)


def of_house(house: HouseView, kept: Kept | None = None) -> Fabric:
    """U-values, and a slab for every part of the house, floor build and depth, on one B' of them all."""
    kept = kept or Afresh()
    u = kept.of("u", (house.constructions,), lambda: Transmittances(house.constructions))
    prints = tuple(kept.of(("footprint", room.id), (room,), partial(_footprint, room)) for room in house.rooms)
    needs = (u, prints, house.practice, entries(house.job.survey.parts))
    return kept.of("fabric", needs, lambda: Fabric(u, _slabs(house, u, prints)))


def _footprint(room: RoomView) -> _Footprint | None:
    floor = next((f for f in room.faces if f.kind == "floor"), None)
    on_ground = [p for p in floor.pieces if p.stretch.beyond.kind == "ground" and p.construction] if floor else []
    if not on_ground:
        return None
    return _Footprint(
        room.part, on_ground[0].construction or "", depth_of(room), sum(p.stretch.area_m2 for p in on_ground),
        room.exposed_perimeter_m, _wall_in_ground(room),
    )  # fmt: skip


def _slabs(house: HouseView, u: Transmittances, prints: tuple[_Footprint | None, ...]) -> dict[Key, GroundSlab]:
    together: dict[Key, _Footprint] = {}
    for one in prints:
        if one is None:
            continue
        key = (one.part, one.construction, one.depth_m)
        before = together.get(key)
        together[key] = one if before is None else before._replace(
            area_m2=before.area_m2 + one.area_m2, edge_m=before.edge_m + one.edge_m,
            deep_wall=before.deep_wall or one.deep_wall,
        )  # fmt: skip
    whole = (sum(p.area_m2 for p in together.values()), sum(p.edge_m for p in together.values()))
    slabs = {key: _slab(house, u, key, one, *whole) for key, one in together.items()}
    return {key: slab for key, slab in slabs.items() if slab is not None}


def _wall_in_ground(room: RoomView) -> str | None:
    for face in room.faces:
        for piece in face.pieces:
            if face.kind == "wall" and piece.stretch.beyond.kind == "ground" and piece.construction:
                return piece.construction
    return None


def _thickness_m(house: HouseView, named: str | None) -> float:
    """Thickness of the outside walls of a part of the house."""
    part = house.job.survey.parts.get(named or "")
    if part is not None and part.wall_thickness_m is not None:
        return part.wall_thickness_m
    wall = part.constructions.get("wall") if part else None
    return thickness_m(house.constructions[wall]) if wall else DEFAULT_WALL_THICKNESS_M


def _slab(
    house: HouseView, u: Transmittances, key: Key, print_: _Footprint, whole_m2: float, whole_edge_m: float
) -> GroundSlab | None:
    """A build of floor on the ground; None where its layers make no floor the method knows (it keeps its plain U)."""
    part_name, construction, depth = key
    if whole_m2 <= 0:
        return None
    thickness = _thickness_m(house, part_name)
    detail = house.practice.ground_detail
    lam = detail.lambda_w_mk
    own = (print_.area_m2, print_.edge_m, whole_m2, whole_edge_m)
    if house.constructions[construction].floor_kind == "suspended":
        over = ground.suspended_floor(
            area_m2=whole_m2, exposed_perimeter_m=whole_edge_m, wall_thickness_m=thickness, lambda_ground_w_mk=lam,
            floor_u_w_m2k=u.u(construction, indoors=True), height_above_ground_m=detail.void_height_m,
            wall_u_w_m2k=detail.void_wall_u_w_m2k, vent_area_m2_per_m=detail.void_vent_m2_per_m,
            wind_m_s=detail.wind_m_s, wind_shield=detail.wind_shield,
        )  # fmt: skip
        return GroundSlab(*own, over, depth_m=depth)
    floor_r = u.resistance(construction)
    if depth > 0:
        wall_r = u.resistance(print_.deep_wall) if print_.deep_wall else 0.0
        deep = ground.heated_basement(
            area_m2=whole_m2, exposed_perimeter_m=whole_edge_m, wall_thickness_m=thickness, floor_r_m2kw=floor_r,
            wall_r_m2kw=wall_r, depth_m=depth, lambda_ground_w_mk=lam,
        )  # fmt: skip
        return GroundSlab(*own, deep, depth_m=depth)
    slab = ground.slab_on_ground(
        area_m2=whole_m2, exposed_perimeter_m=whole_edge_m, wall_thickness_m=thickness, lambda_ground_w_mk=lam,
        floor_r_m2kw=floor_r,
    )  # fmt: skip
    strip, reach = _edge(house, part_name, print_, slab, floor_r, thickness)
    return GroundSlab(*own, slab, edge_u_w_m2k=strip, edge_m=reach)


def _edge(
    house: HouseView,
    part_name: str | None,
    print_: _Footprint,
    slab: ground.GroundFloor,
    floor_r: float,
    thickness: float,
) -> tuple[float, float | None]:
    """What a strip of insulation takes off the floor it lies along, W/m2K (negative), and how far it counts.

    It works on the edge of its own part. A strip lying on the level reaches no further than the middle of the floor, and
    no strip does more than the same layer over all of it.
    """
    part = house.job.survey.parts.get(part_name or "")
    if part is None or part.edge is None or print_.edge_m <= 0:
        return 0.0, None
    edge, lam = part.edge, house.practice.ground_detail.lambda_w_mk
    own_b = ground.characteristic_dimension(area_m2=print_.area_m2, exposed_perimeter_m=print_.edge_m)
    reach = min(edge.width_m, own_b / 2) if edge.kind == "horizontal" else edge.width_m
    taken = ground.edge_insulation(
        b_m=own_b, dt_m=slab.dt_m, lambda_ground_w_mk=lam, kind=edge.kind, width_m=reach,
        thickness_m=edge.thickness_m, lambda_insulation_w_mk=edge.lambda_w_mk,
    )  # fmt: skip
    whole = ground.slab_on_ground(
        area_m2=max(slab.b_m, 1e-6), exposed_perimeter_m=2.0, wall_thickness_m=thickness, lambda_ground_w_mk=lam,
        floor_r_m2kw=floor_r + edge.thickness_m / edge.lambda_w_mk,
    )  # fmt: skip
    return max(taken, min(whole.u_w_m2k - slab.u_w_m2k, 0.0)), reach


def u_to_ground(
    house: HouseView, fabric: Fabric, room: RoomView, kind: str, construction: str, plain_u: float, stretch: Stretch
) -> float:
    """U of a face towards the ground: of the floor it belongs to, or of its band of the wall in the earth; a roof under
    earth, and a build the methods do not know, keep the plain U."""
    depth = depth_of(room)
    if kind == "floor":
        floor = fabric.floors.get((room.part, construction, depth))
        return floor.u_w_m2k if floor and house.constructions[construction].element == "ground" else plain_u
    if kind != "wall" or room.shape is None:
        return plain_u
    bottom = room.shape.bottom_m if room.shape.placed else 0.0
    low = bottom + (stretch.low_m or 0.0)
    high = bottom + (stretch.high_m if stretch.high_m is not None else room.shape.height_m or 0.0)
    surface = max(0.0, high)  # earth a person says stands against a wall above level 0 reaches up to its top
    if high - low <= GRID_M:
        return plain_u
    try:
        return ground.basement_wall_band(
            wall_r_m2kw=fabric.u.resistance(construction), dt_m=_floor_dt_m(house, fabric, room, depth),
            from_m=max(surface - high, 0.0), to_m=surface - low,
            lambda_ground_w_mk=house.practice.ground_detail.lambda_w_mk,
        )  # fmt: skip
    except PhysicsError:
        return plain_u


def _floor_dt_m(house: HouseView, fabric: Fabric, room: RoomView, depth: float) -> float:
    """Equivalent thickness of the floor at the foot of a wall in the earth: the room's own, else the deepest one's."""
    mine = [slab for key, slab in fabric.floors.items() if key[0] == room.part and key[2] >= depth]
    for slab in sorted(mine or fabric.floors.values(), key=lambda s: (s.depth_m != depth, -s.depth_m)):
        if not isinstance(slab.worked, ground.SuspendedFloor):
            return slab.worked.dt_m
    lam = house.practice.ground_detail.lambda_w_mk
    return _thickness_m(house, part_key(house.job.survey, room.part)) + lam * (ground.RSI_FLOOR + ground.RSE)
