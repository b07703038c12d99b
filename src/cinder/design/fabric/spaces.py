"""Unheated spaces: their factor from the tables, or their temperature from their own heat balance."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.design.fabric.result import SpaceResult
from cinder.design.fabric.u_values import Transmittances
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.errors import PhysicsError
from cinder.model import Space
from cinder.physics.losses import ground
from cinder.physics.losses.unheated import weights
from cinder.physics.quantity import Array

DEFAULT_SPACE_B = 0.8
EDGE_OF_SQUARE = 3.0
"""Exposed edge of a space's own floor, as a multiple of the root of its area: three sides of a square."""


@dataclass(slots=True)
class SpaceBalance:
    """What an unheated space hands on: weights of the rooms (R,), of the outside and of the ground."""

    key: str
    rooms: Array
    outside: float
    ground: float
    in_w_k: float
    out_w_k: float

    def fixed_c(self, target_c: Array, ground_c: float) -> float:
        """The part of its temperature that does not hang on the outside, deg C."""
        return float(self.rooms @ target_c) + self.ground * ground_c


def factor(house: HouseView, space: Space) -> float:
    """The factor b of a space that is not solved."""
    kind = house.tables.space_kinds.get(space.kind or "")
    return space.b if space.b is not None else (kind.b if kind else DEFAULT_SPACE_B)


def is_solved(space: Space) -> bool:
    """A stated b stands; otherwise a space with faces of its own is solved."""
    return space.b is None and bool(space.faces or space.cellar)


def outward_w_k(house: HouseView, u: Transmittances, space: Space) -> tuple[float, float]:
    """Conductances of a space to the outside (with its air) and to the ground, W/K."""
    out = under = 0.0
    lam = house.practice.ground_detail.lambda_w_mk
    for face in space.faces.values():
        if face.beyond == "outside":
            out += face.area_m2 * u.u(face.construction)
        elif face.area_m2 > 0:
            slab = ground.slab_on_ground(
                area_m2=face.area_m2, exposed_perimeter_m=EDGE_OF_SQUARE * face.area_m2**0.5, wall_thickness_m=0.2,
                floor_r_m2kw=u.resistance(face.construction), lambda_ground_w_mk=lam,
            )  # fmt: skip
            under += face.area_m2 * slab.u_w_m2k
    if space.cellar is not None:
        cellar = space.cellar
        deep = ground.heated_basement(
            area_m2=cellar.area_m2, exposed_perimeter_m=cellar.exposed_perimeter_m, wall_thickness_m=0.3,
            floor_r_m2kw=u.resistance(cellar.floor), wall_r_m2kw=u.resistance(cellar.wall),
            depth_m=cellar.depth_m, lambda_ground_w_mk=lam,
        )  # fmt: skip
        under += cellar.area_m2 * deep.floor_u_w_m2k
        under += cellar.depth_m * cellar.exposed_perimeter_m * deep.wall_u_w_m2k
    rate = house.tables.space_air_per_h.get(space.air or "ordinary", 1.0)
    return out + house.air_heat_wh_m3k * rate * (space.volume_m3 or 0.0), under


def balance(
    house: HouseView, u: Transmittances, key: str, from_rooms_w_k: Array, findings: Findings
) -> SpaceBalance | None:
    """The balance of a space, or None where it is not solved."""
    space = house.job.survey.spaces[key]
    if not is_solved(space):
        return None
    name = space.label or "An unheated space"
    out, under = outward_w_k(house, u, space)
    if out + under <= 0:
        findings.add(
            "doubt", "site", f"/survey/spaces/{key}/faces", f"{name} has no face that conducts to the outside.",
            why="It would be as warm as the rooms; its factor from the table is used.", mend="Enter its outer faces.",
        )  # fmt: skip
        return None
    try:
        rooms, outside, soil = weights(from_rooms_w_k=from_rooms_w_k, to_outside_w_k=out, to_ground_w_k=under)
    except PhysicsError:
        return None
    return SpaceBalance(key, rooms, outside, soil, float(np.sum(from_rooms_w_k)), out + under)


def result(house: HouseView, key: str, solved: SpaceBalance | None, target_c: Array) -> SpaceResult:
    """A space as the Design shows it."""
    space = house.job.survey.spaces[key]
    outside = house.outdoor_c
    annual = house.climate.annual_mean_c if house.climate else outside
    temperature = None
    if solved is None:
        b = factor(house, space)
        how = "stated" if space.b is not None else "table"
        if outside is not None and len(target_c):
            temperature = float(target_c.mean()) - b * (float(target_c.mean()) - outside)
    else:
        b, how = solved.outside + solved.ground, "solved"
        if outside is not None:
            temperature = solved.fixed_c(target_c, annual or outside) + solved.outside * outside
    return SpaceResult(
        id=key,
        label=space.label or "Unheated space",
        how="solved" if how == "solved" else ("stated" if how == "stated" else "table"),
        b=b,
        temperature_c=temperature,
        in_w_k=solved.in_w_k if solved else None,
        out_w_k=solved.out_w_k if solved else None,
    )
