"""Heated floors and walls of a house: their characteristic by school, what limits their surface, their loops."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from cinder.design.emitters.result import HeatedPreview, SpacingResult
from cinder.design.findings import Findings
from cinder.design.house.overlay import EmitterView
from cinder.design.house.view import HouseView
from cinder.errors import PhysicsError
from cinder.model import Heated
from cinder.physics.flow import pipe
from cinder.physics.flow.fluid import PLAIN, Fluid
from cinder.physics.rooms import floor, radiator

Method = Literal["standard", "conduction", "entered"]
LIMIT_STAY_C = 29.0
LIMIT_EDGE_C = 35.0
LIMIT_BATH_K = 9.0
LIMIT_WALL_C = 40.0
"""Warmest surfaces where people stay, along the edge, in bathrooms over the room, of walls. Common practice."""
LONGEST_M = {0.0175: 100.0, 0.025: 120.0}
"""Longest loop by outer diameter up to, m. Common practice."""
LONGEST_WIDE_M = 150.0
MOST_KPA = 25.0
PREVIEW_SPACINGS = (0.1, 0.15, 0.2, 0.25, 0.3)
PLASTIC_ROUGHNESS_M = 7e-6
ENTERED_UNEVEN = 1.1
"""Hottest over mean surface of boards and plates whose maker says nothing (our choice)."""
SURFACE_R = {"floor": 0.17, "wall": 0.13}
LEAST_BELOW_R = 0.1
ZONES = {"stay": "where people stay", "edge": "edge strip", "bath": "bathroom"}


@dataclass(frozen=True, slots=True)
class HeatedSurface:
    """A heated floor or wall as the chain sees it. `other_k_w_m2k`: by the school that is not followed, if there is one.

    `method` by which it was worked out, `outside` what of it lies outside the standard's range, so that conduction serves.
    """

    k_w_m2k: float
    other_k_w_m2k: float | None
    uneven: float
    method: Method
    outside: str
    area_m2: float
    limit_c: float
    limit_why: str
    most_w_m2: float
    above_r_m2kw: float
    below_r_m2kw: float
    loop_m: float | None
    loops: int
    alpha_w_m2k: float


@lru_cache(maxsize=512)
def _conducted(
    spacing_m: float, cover_m: float, lam: float, r: float, pipe_m: float, pipe_lam: float, wall_m: float, alpha: float
) -> floor.Characteristic:
    return floor.conducted(
        spacing_m=spacing_m, cover_m=cover_m, cover_lambda_w_mk=lam, covering_r_m2kw=r, pipe_m=pipe_m,
        pipe_lambda_w_mk=pipe_lam, pipe_wall_m=wall_m, alpha_w_m2k=alpha,
    )  # fmt: skip


def lacking(spec: Heated) -> list[str]:
    """What must still be known, in words."""
    wanted = [("its heated area", spec.area_m2)]
    if spec.method == "wet":
        wanted += [("its pipe spacing", spec.spacing_m), ("the screed over its pipes", spec.cover_m)]
    else:
        wanted.append(("its maker's characteristic", spec.k_w_m2k))
    return [word for word, value in wanted if value is None]


def limit(spec: Heated, *, wall: bool, room_c: float) -> tuple[float, str]:
    """The warmest the surface may get, deg C, and why. Source: EN 1264-2 (from memory), common practice."""
    zone = {"stay": LIMIT_STAY_C, "edge": LIMIT_EDGE_C, "bath": room_c + LIMIT_BATH_K}[spec.zone]
    if wall:
        most, why = LIMIT_WALL_C, "a wall people touch"
    else:
        most, why = zone, ZONES[spec.zone]
    if spec.covering_limit_c is not None and spec.covering_limit_c < most:
        return spec.covering_limit_c, "its covering bears no more"
    return most, why


@dataclass(frozen=True, slots=True)
class Characteristic:
    """K by the school followed, by the other one (None where there is none), how uneven the surface is, and by what."""

    k_w_m2k: float
    other_k_w_m2k: float | None
    uneven: float
    method: Method
    outside: str = ""


def characteristic(spec: Heated, *, wall: bool, school: str) -> Characteristic:
    """K of a heated floor or wall. Where a screed lies outside the standard's range conduction serves, by either school.

    Raises `PhysicsError` where the layers lie outside both methods.
    """
    if spec.method == "entered":
        return Characteristic(spec.k_w_m2k or 0.0, None, ENTERED_UNEVEN, "entered")
    alpha = floor.ALPHA_WALL if wall else floor.ALPHA_FLOOR
    spacing, cover = spec.spacing_m or 0.0, spec.cover_m or 0.0
    found = _conducted(
        spacing, cover, spec.cover_lambda_w_mk, spec.covering_r_m2kw, spec.pipe_m, spec.pipe_lambda_w_mk,
        spec.pipe_wall_m, alpha,
    )  # fmt: skip
    if wall:  # the standard's tables are for floors
        return Characteristic(found.k_w_m2k, None, found.uneven, "conduction")
    outside = floor.outside_standard(spacing_m=spacing, cover_m=cover, cover_lambda_w_mk=spec.cover_lambda_w_mk)
    if outside:
        return Characteristic(found.k_w_m2k, None, found.uneven, "conduction", outside)
    standard = floor.wet_screed(
        spacing_m=spacing, cover_m=cover, cover_lambda_w_mk=spec.cover_lambda_w_mk, covering_r_m2kw=spec.covering_r_m2kw,
        pipe_m=spec.pipe_m, pipe_lambda_w_mk=spec.pipe_lambda_w_mk, pipe_wall_m=spec.pipe_wall_m,
    )  # fmt: skip
    if school == "standard":
        return Characteristic(standard, found.k_w_m2k, found.uneven, "standard")
    return Characteristic(found.k_w_m2k, standard, found.uneven, "conduction")


def surface(spec: Heated, *, wall: bool, room_c: float, school: str) -> HeatedSurface:
    """Everything about a heated surface that does not hang on the house around it.

    Raises `PhysicsError` where the layers lie outside the methods.
    """
    known = characteristic(spec, wall=wall, school=school)
    alpha = floor.ALPHA_WALL if wall else floor.ALPHA_FLOOR
    most_c, why = limit(spec, wall=wall, room_c=room_c)
    most = (
        alpha * max(most_c - room_c, 0.0) / known.uneven
        if wall
        else floor.greatest_flux_w_m2(surface_limit_c=most_c, room_c=room_c, uneven=known.uneven)
    )
    above = 1 / alpha + spec.covering_r_m2kw + (spec.cover_m or 0.0) / spec.cover_lambda_w_mk
    area = spec.area_m2 or 0.0
    loop = area / spec.spacing_m / spec.loops + 2 * spec.supply_m if spec.spacing_m else None
    return HeatedSurface(
        known.k_w_m2k, known.other_k_w_m2k, known.uneven, known.method, known.outside, area, most_c, why, most, above,
        spec.below_r_m2kw, loop, spec.loops, alpha,
    )  # fmt: skip


def of_emitter(house: HouseView, view: EmitterView, room_c: float, findings: Findings) -> HeatedSurface | None:
    """The surface of a floor or wall emitter, or None with a finding that says what it lacks."""
    spec, name = view.spec.heated or Heated(), view.label or "The heated floor"
    lacks = lacking(spec)
    if lacks:
        findings.add(
            "stops", "emitters", view.path, f"{name} lacks {', '.join(lacks)}.",
            why="What it gives cannot be worked out.",
            mend="A thermal camera or a wetted floor shows the spacing; the builder knows the screed.",
        )  # fmt: skip
        return None
    try:
        found = surface(spec, wall=view.spec.kind == "wall", room_c=room_c, school=house.practice.heated_floor)
    except PhysicsError as error:
        findings.add(
            "stops", "emitters", view.path, f"{name} lies outside the method: {error.message}.",
            why="No figure is better than a wrong one.", mend="Correct it, or enter its maker's characteristic.",
        )  # fmt: skip
        return None
    _judge(house, view, spec, found, findings)
    return found


def longest_m(pipe_m: float) -> float:
    """The longest loop that is usual for a pipe, m. Source: common practice.

    >>> longest_m(0.016)
    100.0
    """
    return next((most for outer, most in LONGEST_M.items() if pipe_m <= outer), LONGEST_WIDE_M)


def _judge(house: HouseView, view: EmitterView, spec: Heated, found: HeatedSurface, findings: Findings) -> None:
    name = view.label or "The heated floor"
    if found.outside and house.practice.heated_floor == "standard":
        findings.add(
            "doubt", "emitters", view.path, f"{name} lies outside the range of EN 1264: {found.outside}.",
            why=f"By conduction in the plate it gives {found.k_w_m2k:.1f} W/m²K; that is used.",
            mend="Measure the screed again, or enter its maker's characteristic.",
        )  # fmt: skip
    longest = longest_m(spec.pipe_m)
    if found.loop_m is not None and found.loop_m > longest + 0.5:
        left = longest - 2 * spec.supply_m
        loops = math.ceil((found.loop_m - 2 * spec.supply_m) * spec.loops / left) if left > 0 else 0
        far = f"{2 * spec.supply_m:.0f} m are the run there and back: a manifold nearer by, or check that run."
        findings.add(
            "short", "emitters", view.path,
            f"{name}: {found.loop_m:.0f} m of pipe in a loop; {longest:.0f} m is the most that is usual.",
            why="Its flow would take more head than a pump has, and its far end would stay cool.",
            mend=f"{max(loops, 2)} loops instead of {spec.loops}, or check area and spacing." if left > longest / 4 else far,
        )  # fmt: skip
    room = next((r for r in house.rooms if r.id == view.room), None)
    if (
        view.spec.kind == "floor"
        and room is not None
        and room.plan is not None
        and found.area_m2 > room.plan.area_m2 * 1.02
    ):
        findings.add(
            "doubt", "emitters", view.path,
            f"{name} heats {found.area_m2:.1f} m² of a room of {room.plan.area_m2:.1f} m².",
            why="It would be larger than its floor.", mend="Measure the heated area: less what stands on it for good.",
        )  # fmt: skip


def most_flow_c(found: HeatedSurface, *, room_c: float, spread_k: float) -> float | None:
    """The warmest water a surface bears straight through, deg C, with the room at its temperature; None for no limit at all."""
    if found.k_w_m2k <= 0 or found.most_w_m2 <= 0:
        return None
    excess = found.most_w_m2 / found.k_w_m2k
    return float(radiator.flow_for_log_excess(excess_k=excess, spread_k=spread_k, room_c=room_c))


def surface_excess_k(found: HeatedSurface, flux_w_m2: float, *, wall: bool) -> tuple[float, float]:
    """Mean and hottest surface over the room, K."""
    mean = flux_w_m2 / found.alpha_w_m2k if wall else float(floor.mean_surface_excess_k(max(flux_w_m2, 0.0)))
    return mean, mean * found.uneven


def preview(
    spec: Heated,
    *,
    wall: bool,
    room_c: float,
    flow_c: float,
    spread_k: float,
    school: str,
    need_w: float | None = None,
    fluid: Fluid = PLAIN,
) -> HeatedPreview:
    """What a floor or wall would give at a flow temperature, at its own and at other pipe spacings.

    Surfaces are those of water straight through; loops carry no more than `need_w`, where it is known.

    Raises `PhysicsError` where the layers lie outside the methods, or the water is no warmer than the room.
    """
    if flow_c - spread_k <= room_c:
        raise PhysicsError(
            "flow_c",
            flow_c,
            f"with a spread of {spread_k:g} K its return would be no warmer than the room, {room_c:g} deg C",
        )
    excess = float(radiator.log_excess(flow_c=flow_c, return_c=flow_c - spread_k, room_c=room_c))
    spacings = (
        sorted({*PREVIEW_SPACINGS, *([spec.spacing_m] if spec.spacing_m else [])})
        if spec.method == "wet"
        else [spec.spacing_m]
    )
    rows = [
        _preview_row(
            spec.model_copy(update={"spacing_m": at}),
            at == spec.spacing_m,
            wall,
            room_c,
            excess,
            spread_k,
            school,
            need_w,
            fluid,
        )
        for at in spacings
    ]
    return HeatedPreview(excess_k=excess, room_c=room_c, flow_c=flow_c, spread_k=spread_k, rows=rows)


def _preview_row(
    spec: Heated,
    chosen: bool,
    wall: bool,
    room_c: float,
    excess_k: float,
    spread_k: float,
    school: str,
    need_w: float | None,
    fluid: Fluid,
) -> SpacingResult:
    found = surface(spec, wall=wall, room_c=room_c, school=school)
    q = found.k_w_m2k * excess_k
    mean, most = surface_excess_k(found, q, wall=wall)
    profile: list[float] = []
    if spec.method == "wet":
        alpha = floor.ALPHA_WALL if wall else floor.ALPHA_FLOOR
        wave = _conducted(
            spec.spacing_m or 0.0, spec.cover_m or 0.0, spec.cover_lambda_w_mk, spec.covering_r_m2kw, spec.pipe_m,
            spec.pipe_lambda_w_mk, spec.pipe_wall_m, alpha,
        )  # fmt: skip
        profile = [room_c + mean * one for one in wave.profile]
    heat = q * found.area_m2
    carried = min(heat, need_w) if need_w is not None else heat
    per_loop = (
        float(fluid.flow_for_heat_lph(heat_w=carried, spread_k=spread_k, temperature_c=40.0)) / found.loops
        if carried > 0
        else None
    )
    return SpacingResult(
        spacing_m=spec.spacing_m, chosen=chosen, k_w_m2k=found.k_w_m2k, other_k_w_m2k=found.other_k_w_m2k,
        method=found.method, outside=found.outside, flux_w_m2=q,
        output_w=heat, surface_mean_c=room_c + mean, surface_most_c=room_c + most, limit_c=found.limit_c,
        limit_why=found.limit_why, within=q <= found.most_w_m2 * 1.005, loop_m=found.loop_m,
        longest_m=longest_m(spec.pipe_m), loops=found.loops, loop_lph=per_loop,
        loop_kpa=loop_kpa(found.loop_m, per_loop, spec.pipe_m - 2 * spec.pipe_wall_m, fluid) if per_loop else None, profile_c=profile,
    )  # fmt: skip


def loop_kpa(loop_m: float | None, per_loop_lph: float, bore_m: float, fluid: Fluid) -> float | None:
    """What a loop takes of the head, kPa: friction in a smooth pipe, its bends among it; None without a length."""
    if loop_m is None or bore_m <= 0:
        return None
    per_m = pipe.friction_pa_per_m(
        flow_lph=per_loop_lph, bore_m=bore_m, roughness_m=PLASTIC_ROUGHNESS_M,
        density_kg_m3=fluid.density_kg_m3(temperature_c=40.0), viscosity_pa_s=fluid.viscosity_pa_s(temperature_c=40.0),
    )  # fmt: skip
    return float(per_m) * loop_m / 1000
