"""The ways of a room by rule: in place of what hangs there, beside it, in the floor, on its own walls, and what has to be allowed."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from cinder.design.apart import measures
from cinder.design.apart.ways.products import MM, NEW_HEIGHT_M, SAME_M, Place, cost_of, fan_units, mark, panels
from cinder.design.apart.ways.way import Costs, Way, rated_as
from cinder.design.emitters import heated
from cinder.design.emitters.decide import Rated
from cinder.design.house.overlay import EmitterView
from cinder.design.house.rooms import RoomView
from cinder.design.house.view import HouseView
from cinder.design.losses.evaluate import LossArrays
from cinder.errors import PhysicsError
from cinder.library import ConstructionEntry, MeasureEntry, load
from cinder.model import EmitterSpec, Heated, Measure
from cinder.model.scheme import EmitterAction
from cinder.physics.rooms import radiator

REPLACEABLE = ("t10", "t11", "t20", "t21", "t22", "t33", "column-2", "column-4", "panel-single", "panel-double")
NEW_LENGTH_M = 1.2
"""A room without any emitter is offered panels up to this length until a free wall is recorded (our choice)."""
GAP_M = 0.1
COOL_K = 15.0
"""Excess at which emitters are compared before they are offered (our choice)."""
LEAST_FLOOR_M2 = 0.5
MOST_LOOPS = 60
MOST_HEATER_W = 100_000.0
HEATED_SHARE = 0.85
"""Part of a floor that is usually free to be heated (our choice)."""
CONCESSION_MINOR_PER_K = 1.0
"""So that a room is not left cooler where nothing is gained by it."""


def of_room(house: HouseView, arrays: LossArrays, room: RoomView, costs: Costs, *, load_w: float) -> list[Way]:
    """Every way of a room that nobody refused, in the order of its slots."""
    scheme = house.scheme
    refused = set(scheme.refused) if scheme else set()
    mine = [one for one in house.emitters if one.room == room.id]
    found = [
        *(way for one in mine for way in _in_place_of(house, one, room, costs)),
        *_further(house, room, mine, costs),
        *_floors(house, arrays, room, mine, costs),
        *_faces(house, arrays, room, costs),
        *_own_heater(house, room, costs, load_w),
        *_concessions(house, arrays, room),
    ]
    return [way for way in found if not refused.intersection(way.pins)]


def _cool_w(one: Rated) -> float:
    """What an emitter gives at cool water, W: its exponent tells there."""
    return float(radiator.output(rated_w=one.rated_w or 0.0, exponent=one.exponent, excess_k=COOL_K))


def _free_wall(house: HouseView, one: EmitterView) -> tuple[float | None, float | None]:
    """Free length and height of the wall an emitter hangs on, less what an earlier set hung beside it."""
    survey = house.job.survey.emitters.get(one.id)
    wall = survey.free_wall if survey is not None else None
    free = wall.length_m if wall is not None else None
    further = next((e.spec.length_m for e in house.emitters if e.id == f"new-{one.room}"), None)
    if free is not None and further is not None:
        free -= further + GAP_M
    return free, wall.height_m if wall is not None else None


def _in_place_of(house: HouseView, one: EmitterView, room: RoomView, costs: Costs) -> list[Way]:
    """Deeper on the same pipe centres; longer or taller within the free wall; a fan unit; closer pipes."""
    spec = one.spec
    if spec.kind in ("floor", "wall"):
        return _closer(house, one, room, costs)
    if spec.kind == "panel" and spec.type not in REPLACEABLE:
        return []
    if spec.kind not in ("panel", "stated", "fan") or spec.length_m is None or spec.height_m is None:
        return []
    free, tall = _free_wall(house, one)
    spot = Place(max(free or 0.0, spec.length_m), spec.height_m, max(tall or 0.0, spec.height_m))
    now = rated_as(house, one.room, one.id, one.label, spec)
    out = []
    seen: set[tuple[str, float, float, str]] = set()
    name = one.label or "Radiator"
    offers = [*panels(costs, spot, spec if spec.kind == "panel" else None), *fan_units(costs, spot, spec)]
    for label, made, price, labour in offers:
        if made.length_m is None or made.height_m is None:
            continue
        size = (made.type or made.product, made.length_m, made.height_m, made.product)
        if size in seen or (labour == "longer" and made.kind == "panel" and made.length_m < spec.length_m - SAME_M):
            continue
        seen.add(size)
        worth = rated_as(house, one.room, one.id, one.label, made)
        if _cool_w(worth) <= _cool_w(now) * 1.02:
            continue
        fan = made.kind == "fan"
        cost = cost_of(made, price, labour, costs)
        where = "on the same pipes" if labour == "same" else _grown(spec, made)
        groups = (f"emitter:{one.id}", *([f"fan:{room.id}"] if fan else []))
        added = one.action == "add"
        out.append(
            Way(
                key=f"{one.id}:{made.type or 'p'}:{mark(made)}:{made.length_m:g}x{made.height_m:g}",
                slot=f"emitter:{one.id}", what=f"{name}: {label}{', quiet speed' if fan else ''}, {where}",
                cost_minor=cost, disturbance=1 if labour == "same" else 2, looks=_looks(spec, made), groups=groups,
                emitter=one.id, rated=worth, length_m=made.length_m, yearly_minor=_fan_yearly(worth, costs),
                action=EmitterAction(action="add" if added else "replace", spec=made, label=one.label,
                                     room=one.room if added else None, cost_minor=cost),
            )
        )  # fmt: skip
    return out


def _grown(now: EmitterSpec, made: EmitterSpec) -> str:
    if made.kind == "fan":
        return "with a socket"
    longer = (made.length_m or 0) > (now.length_m or 0) + SAME_M
    taller = (made.height_m or 0) > (now.height_m or 0) + SAME_M
    return "longer and taller" if longer and taller else "taller" if taller else "longer" if longer else "new tails"


def _looks(now: EmitterSpec, made: EmitterSpec) -> int:
    """0 as before, 1 deeper, 2 larger or of another kind."""
    if made.kind != now.kind or (made.length_m or 0) > (now.length_m or 0) + SAME_M:
        return 2
    return 2 if (made.height_m or 0) > (now.height_m or 0) + SAME_M else 1


def _fan_yearly(worth: Rated, costs: Costs) -> float:
    return worth.electric_w * costs.heating_hours / 1000 * costs.minor_per_kwh


def _further(house: HouseView, room: RoomView, mine: list[EmitterView], costs: Costs) -> list[Way]:
    """A further emitter where the free wall has room for it; or a first one."""
    if any(one.id == f"new-{room.id}" for one in mine):
        return []  # there is one already in this scheme: it may grow, no second is offered
    free, height, beside = 0.0, NEW_HEIGHT_M, None
    for one in mine:
        wall, _ = _free_wall(house, one)
        if wall is not None and one.spec.length_m and wall - one.spec.length_m - GAP_M > free:
            free, height, beside = wall - one.spec.length_m - GAP_M, one.spec.height_m or NEW_HEIGHT_M, one.id
    if not mine:
        free = NEW_LENGTH_M
    spot = Place(free, height, height)
    out = []
    for label, made, price, labour in [*panels(costs, spot, None), *fan_units(costs, spot, None)]:
        fan = made.kind == "fan"
        cost = cost_of(made, price, labour, costs)
        word = "a further " if mine else "a "
        worth = rated_as(house, room.id, f"new-{room.id}", "", made)
        out.append(
            Way(
                key=f"new-{room.id}:{made.type or 'p'}:{mark(made)}:{made.length_m:g}x{made.height_m:g}",
                slot=f"new:{room.id}", what=f"{word}{'fan unit' if fan else 'radiator'}, {label}", cost_minor=cost,
                disturbance=3, looks=2, groups=(f"new:{room.id}", *([f"fan:{room.id}"] if fan else [])),
                emitter=f"new-{room.id}", rated=worth, length_m=made.length_m or 0.0, beside=beside,
                yearly_minor=_fan_yearly(worth, costs),
                action=EmitterAction(action="add", room=room.id, label="Further radiator" if mine else "Radiator",
                                     cost_minor=cost, spec=made),
            )
        )  # fmt: skip
    return out


def _new_floor(room: RoomView, spacing_m: float, area_m2: float) -> tuple[EmitterSpec, str] | None:
    """Pipes in a low screed over the floor there is, with tiles in a bathroom and laminate elsewhere.

    None where the area is too small to be worth it, or asks for more loops than a manifold has.
    """
    build = next(b for b in load().heated_builds.values() if b.new)
    bath = room.room.use == "bath"
    covering = load().coverings["tiles" if bath else "laminate"]
    loops = max(1, int(np.ceil(area_m2 / spacing_m / (heated.longest_m(build.pipe_m) - 10.0))))
    if area_m2 < LEAST_FLOOR_M2 or loops > MOST_LOOPS:
        return None
    laid = Heated(
        method="wet", build=build.label, area_m2=round(area_m2, 2), spacing_m=spacing_m, cover_m=build.cover_m,
        cover_lambda_w_mk=build.cover_lambda_w_mk, covering=covering.id, covering_r_m2kw=covering.r_m2kw,
        covering_limit_c=covering.limit_c, pipe_m=build.pipe_m, pipe_wall_m=build.pipe_wall_m,
        below_r_m2kw=build.below_r_m2kw, zone="bath" if bath else "stay", loops=loops, supply_m=5.0,
    )  # fmt: skip
    return EmitterSpec(kind="floor", heated=laid, valve="manifold-open"), covering.label.lower()


def floor_loss_w(house: HouseView, arrays: LossArrays, room: RoomView) -> tuple[float, float]:
    """What a room loses through its floor, W, and W/K: a heated floor takes its part of that off the room's duty."""
    index = arrays.room_index[room.id]
    lost = per_k = 0.0
    conducts, beyond = arrays.piece_w_k, arrays.piece_beyond_c(house.outdoor_c or 0.0)
    for n, piece in enumerate(arrays.pieces):
        if piece.room == index and piece.face == "floor" and piece.junction is None:
            lost += float(conducts[n] * (room.target_c - beyond[n]))
            per_k += float(conducts[n])
    return (lost, per_k) if lost > 0 else (0.0, 0.0)


def _floors(house: HouseView, arrays: LossArrays, room: RoomView, mine: list[EmitterView], costs: Costs) -> list[Way]:
    """A heated floor where there is none."""
    if room.plan is None or "floor" not in costs.prices or any(one.spec.kind == "floor" for one in mine):
        return []
    out = []
    lost, per_k = floor_loss_w(house, arrays, room)
    for spacing in next(b for b in load().heated_builds.values() if b.new).spacings_m:
        area = room.plan.area_m2 * HEATED_SHARE
        made = _new_floor(room, spacing, area)
        if made is None:
            continue
        way = _floor_way(house, room, f"floor-{room.id}", f"floor:{room.id}", *made, costs, added=True)
        if way is not None:
            out.append(
                replace(way, takes_w=HEATED_SHARE * lost, takes_w_k=HEATED_SHARE * per_k, floor_share=HEATED_SHARE)
            )
    return out


def _closer(house: HouseView, one: EmitterView, room: RoomView, costs: Costs) -> list[Way]:
    """A new floor with closer pipes in place of an old one."""
    laid = one.spec.heated
    if (
        one.spec.kind != "floor"
        or laid is None
        or laid.area_m2 is None
        or laid.spacing_m is None
        or "floor" not in costs.prices
    ):
        return []
    now = rated_as(house, one.room, one.id, one.label, one.spec)
    area = min(laid.area_m2, room.plan.area_m2) if room.plan is not None else laid.area_m2
    out = []
    for spacing in next(b for b in load().heated_builds.values() if b.new).spacings_m:
        made = _new_floor(room, spacing, area)
        if made is None:
            continue
        way = _floor_way(house, room, one.id, f"emitter:{one.id}", *made, costs, added=one.action == "add")
        if way is not None and way.rated is not None and (way.rated.rated_w or 0) > (now.rated_w or 0) * 1.02:
            out.append(way)
    return out


def _floor_way(
    house: HouseView,
    room: RoomView,
    key: str,
    slot: str,
    spec: EmitterSpec,
    covering: str,
    costs: Costs,
    *,
    added: bool,
) -> Way | None:
    laid = spec.heated
    try:
        worth = rated_as(house, room.id, key, "", spec)
    except PhysicsError:
        return None
    if laid is None or laid.area_m2 is None or laid.spacing_m is None or worth.rated_w is None:
        return None
    row = costs.prices["floor"]
    cost = float(round(row.m_minor * laid.area_m2 + row.new_minor, -2))
    return Way(
        key=f"{key}:{laid.spacing_m * MM:.0f}", slot=slot,
        what=f"a new heated floor, {laid.area_m2:.1f} m², pipes {laid.spacing_m * MM:.0f} mm apart under {covering}",
        cost_minor=cost, disturbance=3, looks=1, groups=(f"floor:{room.id}", *([slot] if slot.startswith("emitter") else [])),
        emitter=key, rated=worth, note=next(b.note for b in load().heated_builds.values() if b.new),
        action=EmitterAction(action="add" if added else "replace", room=room.id if added else None, label="Heated floor",
                             cost_minor=cost, spec=spec),
    )  # fmt: skip


def _faces(house: HouseView, arrays: LossArrays, room: RoomView, costs: Costs) -> list[Way]:
    """The outside walls of this room insulated inside, by what they are built of."""
    index = arrays.room_index[room.id]
    used = measures.uses(house, arrays)
    areas: dict[tuple[str, str], dict[str, float]] = {}
    taken: dict[tuple[str, str], tuple[float, float]] = {}
    faces: dict[tuple[str, str], set[str]] = {}
    beyond, weights = arrays.piece_beyond_c(house.outdoor_c or 0.0), arrays.piece_factor * arrays.piece_area
    for n, piece in enumerate(arrays.pieces):
        if piece.room != index or piece.opening is not None or piece.junction is not None or piece.construction is None:
            continue
        face = next(f for f in room.faces if f.key == piece.face)
        if face.kind != "wall" or arrays.piece_house_factor[n] == 0 or piece.group != "fabric" or face.found is None:
            continue
        kind = face.pieces[piece.stretch].stretch.beyond.kind
        build = face.found, piece.construction
        mine = areas.setdefault(build, {})
        mine[kind] = mine.get(kind, 0.0) + piece.area_m2
        watts, per_k = taken.get(build, (0.0, 0.0))
        weight = float(weights[n])
        taken[build] = watts + weight * (room.target_c - float(beyond[n])), per_k + weight
        faces.setdefault(build, set()).add(face.key)
    out = []
    for entry in costs.table.values():
        if entry.element != "wall" or entry.where != "inside":
            continue
        for build, mine in areas.items():
            whole = next((u for u in used if (u.root, u.now.id) == build and set(mine) <= set(u.areas)), None)
            if whole is None or entry.id in whole.by_measures or sum(mine.values()) < measures.LEAST_AREA_M2:
                continue
            use = measures.Use(whole.root, whole.now, mine, whole.by_measures, whole.name)
            for thickness in entry.thickness_m:
                for becomes in measures.becomes(house, use, entry, thickness):
                    way = _face_way(house, room, entry, use, becomes, thickness, taken[build], faces[build])
                    if way is not None:
                        out.append(way)
    return out


def _face_way(
    house: HouseView,
    room: RoomView,
    entry: MeasureEntry,
    use: measures.Use,
    becomes: ConstructionEntry,
    thickness_m: float,
    per_u: tuple[float, float],
    faces: set[str],
) -> Way | None:
    before, after = measures.u_values(use, becomes)
    if after > before * (1 - entry.least_gain):
        return None
    cost = float(round(entry.fixed_minor / 2 + use.area_m2 * (entry.m2_minor + entry.m2_minor_per_m * thickness_m), -2))
    done = {
        f"{room.id}-{key}-{entry.id}"[-64:]: Measure(
            kind="face", room=room.id, face=key, construction=becomes.id, from_table=entry.id, disturbance=entry.disturbance,
            beyond=sorted(use.areas),  # type: ignore[arg-type]
            label=f"{entry.label}, {room.room.label}, {thickness_m * MM:.0f} mm"[:200], cost_minor=cost / len(faces),
        )
        for key in sorted(faces)
    }  # fmt: skip
    return Way(
        key=f"faces-{room.id}:{use.name}:{thickness_m * MM:.0f}", slot=f"faces:{room.id}",
        what=f"insulate its outside walls inside, {use.area_m2:.1f} m², {thickness_m * MM:.0f} mm", cost_minor=cost,
        disturbance=entry.disturbance, looks=1, groups=(f"faces:{room.id}",), takes_w=per_u[0] * (before - after),
        takes_w_k=per_u[1] * (before - after), note=entry.note,
        construction=use.name, constructions={becomes.id: becomes}, measures=done,
    )  # fmt: skip


def _own_heater(house: HouseView, room: RoomView, costs: Costs, load_w: float) -> list[Way]:
    """A heater of its own, only where somebody allowed it; what it draws counts."""
    scheme = house.scheme
    if (
        scheme is None
        or f"electric:{room.id}" not in scheme.allowed
        or not 0 < load_w < MOST_HEATER_W
        or "electric" not in costs.prices
    ):
        return []
    out = []
    for part in (0.25, 0.5, 1.0):
        watts = float(np.ceil(load_w * part / 50) * 50)
        spec = EmitterSpec(kind="electric", output_w=watts)
        heat = min(watts, load_w) * costs.kwh_per_w
        cost = costs.prices["electric"].new_minor
        out.append(
            Way(
                key=f"electric-{room.id}:{watts:.0f}", slot=f"electric:{room.id}", cost_minor=cost, disturbance=1, looks=1,
                what=f"a heater of its own, {watts:.0f} W", groups=(f"electric:{room.id}",), emitter=f"electric-{room.id}",
                rated=rated_as(house, room.id, f"electric-{room.id}", "", spec),
                yearly_minor=heat * costs.extra_minor_per_kwh,
                action=EmitterAction(action="add", room=room.id, label="Heater of its own", spec=spec, cost_minor=cost),
            )
        )  # fmt: skip
    return out


def _concessions(house: HouseView, arrays: LossArrays, room: RoomView) -> list[Way]:
    """A cooler room, only where somebody allowed it, kelvin by kelvin down to the least temperature given."""
    least = house.scheme.concessions.get(room.id) if house.scheme else None
    if least is None or least >= room.target_c - 0.05:
        return []
    steps = [room.target_c - k for k in range(1, int(room.target_c - least) + 1)]
    if not steps or steps[-1] > least + 0.05:
        steps.append(least)
    return [
        Way(
            key=f"accept-{room.id}:{to:g}", slot=f"accept:{room.id}", what=f"accept {to:g} °C instead of {room.target_c:g}",
            cost_minor=CONCESSION_MINOR_PER_K * (room.target_c - to), disturbance=0, looks=0,
            groups=(f"accept:{room.id}",), to_c=to,
        )
        for to in steps
    ]  # fmt: skip
