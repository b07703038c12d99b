"""Floors on and below the ground: one slab, void or basement per part of the house, floor build and depth."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from cinder.design.fabric import thickness_m
from cinder.physics import ground

if TYPE_CHECKING:
    from cinder.design.house import HouseView, RoomView

LEAST_DEPTH_M = 0.5
"""A floor deeper than this below the ground makes a basement (our choice)."""
DEFAULT_WALL_THICKNESS_M = 0.30
Key = tuple[str | None, str, float]


@dataclass(slots=True)
class GroundSlab:
    """One slab or void under a part of the house."""

    area_m2: float
    exposed_perimeter_m: float
    worked: ground.GroundFloor | ground.SuspendedFloor | ground.Basement
    edge_u_w_m2k: float = 0.0
    """What a strip of insulation along the edge takes off (negative)."""
    depth_m: float = 0.0

    @property
    def u_w_m2k(self) -> float:
        if isinstance(self.worked, ground.Basement):
            return self.worked.floor_u_w_m2k
        return max(self.worked.u_w_m2k + self.edge_u_w_m2k, 0.0)


@dataclass(slots=True)
class _Footprint:
    area_m2: float = 0.0
    edge_m: float = 0.0
    deep_wall: str | None = None


def depth_of(room: RoomView) -> float:
    """How deep a room's floor lies below the ground, m; 0 unless it is a basement."""
    if room.shape is None or not room.shape.placed or room.shape.bottom_m > -LEAST_DEPTH_M:
        return 0.0
    return round(-room.shape.bottom_m, 1)


def work_out(house: HouseView) -> None:
    """Fill `house.floors`. Rooms of one part on one floor build at one depth share a slab; B' is the slab's."""
    footprints: dict[Key, _Footprint] = {}
    for room in house.rooms:
        floor = next((f for f in room.faces if f.kind == "floor"), None)
        on_ground = [p for p in floor.pieces if p.stretch.beyond.kind == "ground" and p.construction] if floor else []
        if not on_ground:
            continue
        key = (room.room.part, on_ground[0].construction or "", depth_of(room))
        print_ = footprints.setdefault(key, _Footprint())
        print_.area_m2 += sum(p.stretch.area_m2 for p in on_ground)
        print_.edge_m += room.exposed_perimeter_m
        print_.deep_wall = print_.deep_wall or _wall_in_ground(room)
    for key, print_ in footprints.items():
        house.floors[key] = _slab(house, key, print_)


def _wall_in_ground(room: RoomView) -> str | None:
    for face in room.faces:
        for piece in face.pieces:
            if face.kind == "wall" and piece.stretch.beyond.kind == "ground" and piece.construction:
                return piece.construction
    return None


def _slab(house: HouseView, key: Key, print_: _Footprint) -> GroundSlab:
    part_key, construction, depth = key
    part = house.job.survey.parts.get(part_key or "")
    wall = part.constructions.get("wall") if part else None
    thickness = part.wall_thickness_m if part else None
    if thickness is None:
        thickness = thickness_m(house.u.entries[wall]) if wall else DEFAULT_WALL_THICKNESS_M
    detail = house.practice.ground_detail
    area, edge, lam = print_.area_m2, print_.edge_m, detail.lambda_w_mk
    entry = house.u.entries[construction]
    if depth > 0:
        wall_r = house.u.resistance(print_.deep_wall) if print_.deep_wall else 0.0
        deep = ground.heated_basement(
            area_m2=area, exposed_perimeter_m=edge, wall_thickness_m=thickness,
            floor_r_m2kw=house.u.floor_resistance(construction), wall_r_m2kw=wall_r, depth_m=depth,
            lambda_ground_w_mk=lam,
        )  # fmt: skip
        return GroundSlab(area, edge, deep, depth_m=depth)
    if entry.floor_kind == "suspended":
        over = ground.suspended_floor(
            area_m2=area, exposed_perimeter_m=edge, wall_thickness_m=thickness, lambda_ground_w_mk=lam,
            floor_u_w_m2k=house.u.u(construction, indoors=True), height_above_ground_m=detail.void_height_m,
            wall_u_w_m2k=detail.void_wall_u_w_m2k, vent_area_m2_per_m=detail.void_vent_m2_per_m,
            wind_m_s=detail.wind_m_s, wind_shield=detail.wind_shield,
        )  # fmt: skip
        return GroundSlab(area, edge, over)
    slab = ground.slab_on_ground(
        area_m2=area, exposed_perimeter_m=edge, wall_thickness_m=thickness, lambda_ground_w_mk=lam,
        floor_r_m2kw=house.u.floor_resistance(construction),
    )  # fmt: skip
    strip = 0.0
    if part is not None and part.edge is not None:
        strip = ground.edge_insulation(
            b_m=slab.b_m, dt_m=slab.dt_m, lambda_ground_w_mk=lam, kind=part.edge.kind, width_m=part.edge.width_m,
            thickness_m=part.edge.thickness_m, lambda_insulation_w_mk=part.edge.lambda_w_mk,
        )  # fmt: skip
    return GroundSlab(area, edge, slab, edge_u_w_m2k=strip)


def u_to_ground(house: HouseView, room: RoomView, kind: str, construction: str, plain_u: float) -> float:
    """U of a face towards the ground: of its slab, void or basement; where there is none, the plain U of the build."""
    depth = depth_of(room)
    if kind == "floor":
        floor = house.floors.get((room.room.part, construction, depth))
        return floor.u_w_m2k if floor and house.u.entries[construction].element == "ground" else plain_u
    deep = next((f for key, f in house.floors.items() if key[2] == depth and depth > 0), None)
    if deep is None or not isinstance(deep.worked, ground.Basement):
        return plain_u
    return ground.basement_wall(
        wall_r_m2kw=house.u.resistance(construction), dt_m=deep.worked.dt_m, depth_m=depth,
        lambda_ground_w_mk=house.practice.ground_detail.lambda_w_mk,
    )  # fmt: skip
