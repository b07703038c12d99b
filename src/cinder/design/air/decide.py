"""Air that has to be heated, counted four ways side by side; one of them is chosen."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from cinder.design.air.result import AirKey, AirMethod
from cinder.design.air.tightness import Tightness, by_age
from cinder.design.house.rooms import RoomView
from cinder.design.house.view import HouseView
from cinder.design.kept import Needs, to_the_letter
from cinder.physics.losses.air import (
    air_heat_coefficient,
    effective_flow_m3h,
    leakage_air_change,
    room_infiltration_m3h,
)
from cinder.physics.quantity import Array

METHODS: tuple[AirKey, ...] = ("tightness", "age", "room", "table")
LABELS = {
    "tightness": "Tightness as known, n50/20",
    "age": "Tightness by age, n50/20",
    "room": "Room formula of EN 12831:2003",
    "table": "Table by room use and age",
}
HYGIENIC_AIR_PER_H = 0.5
HIGH_BUILDING_M = 10.0
HIGH_FACTOR = 1.2
BLOWS_FROM_ONE_SIDE = 0.5


@dataclass
class AirArrays:
    """Flows per room, m3/h (R,): what leaks by the chosen way for the emitter and for the house, and the rest.

    `scale` is a doubt's factor on the leak and may carry a leading sample axis.
    """

    method: str
    leak_emitter: Array
    leak_house: Array
    supply: Array
    drawn: Array
    least: Array
    openings: Array
    recovery: float
    heat_wh_m3k: float
    """What a m3 of it carries for every K."""
    scale: float | Array = 1.0

    @cached_property
    def per_k(self) -> tuple[Array, Array]:
        """What that air takes, W/K, of each room as its emitter and as the house meets it."""
        emitter, mean = (
            air_heat_coefficient(flow_m3h=self.flow_m3h(house=house), air_heat_wh_m3k=self.heat_wh_m3k)
            for house in (False, True)
        )
        return np.asarray(emitter), np.asarray(mean)

    def flow_m3h(self, *, house: bool) -> Array:
        """Flow of outside air to be heated in full."""
        leak = (self.leak_house if house else self.leak_emitter) * self.scale
        if not self.supply.any() and not self.drawn.any():
            return np.asarray(np.maximum(leak, self.least) + self.openings)
        return self.openings + effective_flow_m3h(
            leak_m3h=leak, supply_m3h=self.supply, recovery=self.recovery, drawn_m3h=self.drawn, least_m3h=self.least
        )


def _leaks(house: HouseView, tightness: Tightness, method: str, volume: Array, share: Array) -> tuple[Array, Array]:
    """Leak of each room by a method: what its emitter meets on the windward side, and its part of the house."""
    if method == "table":
        flow = np.array([r.table_air_per_h for r in house.rooms]) * volume
        return flow, flow
    n50 = by_age(house).n50_per_h if method == "age" else tightness.n50_per_h
    if method == "room":
        e = np.array([_shield(house, room) for room in house.rooms])
        high = max((_top_m(r) for r in house.rooms), default=0.0)
        eps = HIGH_FACTOR if high > HIGH_BUILDING_M else 1.0
        room_flow = np.asarray(room_infiltration_m3h(volume_m3=volume, n50_per_h=n50, shield=e, height=eps))
        return room_flow, room_flow * BLOWS_FROM_ONE_SIDE
    mean = float(leakage_air_change(n50_per_h=n50, shelter=house.shelter))
    total = mean * float(volume.sum()) * share
    return total * house.practice.windward_factor, total


def _top_m(room: RoomView) -> float:
    """How high a room reaches that has its place; 0 where nobody knows."""
    return room.shape.top_m if room.shape and room.shape.placed and room.room.height_m else 0.0


def _shield(house: HouseView, room: RoomView) -> float:
    """Coefficient e of EN 12831:2003 by shelter and by how many faces of the room have openings to the outside."""
    row = house.tables.shield_e[house.sheltered]
    return row[min(room.exposed_faces, 2)]


def _fans(house: HouseView, volume: Array) -> tuple[Array, Array, float]:
    """Supply and drawn air per room, m3/h, and the recovery; a house flow is shared by volume."""
    fans = house.job.survey.ventilation
    kind, flow, recovery = fans.kind, fans.flow_m3h, fans.recovery or 0.0
    for _, measure in house.measures("ventilation"):
        kind, recovery = "balanced", measure.recovery or 0.0
        flow = measure.flow_m3h if measure.flow_m3h is not None else flow
    rooms = house.rooms
    nothing = np.zeros(len(rooms))
    if kind == "natural":
        return nothing, nothing, 0.0
    supply = np.array([r.room.air.supply_m3h or 0.0 for r in rooms])
    extract = np.array([r.room.air.extract_m3h or 0.0 for r in rooms])
    lives = np.array([r.habitable for r in rooms], dtype=bool)
    if kind == "balanced":
        if not supply.any():
            wanted = flow if flow is not None else HYGIENIC_AIR_PER_H * float(volume[lives].sum())
            supply = _shared(wanted, volume * lives)
        return supply, nothing, recovery
    total = float(extract.sum()) or (flow or 0.0)
    return nothing, _shared(total, volume * lives if (volume * lives).any() else volume), 0.0


def _shared(total: float, by: Array) -> Array:
    return total * by / by.sum() if by.sum() > 0 else np.zeros(len(by))


def _share(exposed: Array) -> Array:
    """Each room's share of the exposed area."""
    return exposed / exposed.sum() if exposed.sum() > 0 else np.zeros(len(exposed))


def _stated(house: HouseView, volume: Array, emitter: Array, mean: Array) -> tuple[Array, Array]:
    """The leaks, with a room's own air change in their place where somebody has stated one."""
    stated = [r.room.air.per_h for r in house.rooms]
    if all(s is None for s in stated):
        return emitter, mean
    known = np.array([s is not None for s in stated], dtype=bool)
    own = np.array([s or 0.0 for s in stated]) * volume
    return np.where(known, own, emitter), np.where(known, own, mean)


def stated_rooms(house: HouseView) -> tuple[int, int]:
    """How many rooms have an air change somebody stated for them, and how many there are to count air in."""
    counted = [room for room in house.rooms if room.volume_m3]
    return sum(room.room.air.per_h is not None for room in counted), len(counted)


def as_stated(stated: int, rooms: int, words: str) -> str:
    """The words for a way to count, with what is really stated room by room instead (as `stated_rooms` counts)."""
    if stated and stated == rooms:
        return "Air as stated for every room"
    return f"{words}; {stated} of {rooms} rooms as stated" if stated else words


def arrays(house: HouseView, tightness: Tightness, *, volume: Array, exposed: Array) -> AirArrays:
    """Air of the house by the practice's method. Shapes: `volume` m3 and `exposed` m2, both (R,)."""
    chosen = house.practice.air
    rooms, tables = house.rooms, house.tables
    share = _share(exposed)
    emitter, mean = _stated(house, volume, *_leaks(house, tightness, chosen, volume, share))
    supply, drawn, recovery = _fans(house, volume)
    hygienic = house.practice.hygienic_minimum == "habitable"
    least = np.array([HYGIENIC_AIR_PER_H if hygienic and r.habitable else 0.0 for r in rooms]) * volume
    openings = np.array(
        [
            r.room.air.chimneys * tables.chimney_m3h
            + r.room.air.flues * tables.flue_m3h
            + r.room.air.fans * tables.fan_m3h
            + r.room.air.vents * tables.vent_m3h
            for r in rooms
        ],
        dtype=float,
    )
    return AirArrays(chosen, emitter, mean, supply, drawn, least, openings, recovery, house.air_heat_wh_m3k)


@dataclass(slots=True)
class Compared:
    """By every method, of each room (R,): W as its emitter and as the house meets it, and the flow, m3/h; their sums (M,), and by room
    and name what its emitter meets."""

    emitter_w: dict[str, Array]
    house_w: dict[str, Array]
    flow_m3h: dict[str, Array]
    emitters_w: list[float]
    air_w: list[float]
    whole_m3h: list[float]
    volume_m3: float
    rooms_w: list[dict[str, float]]


def looks_at(house: HouseView) -> Needs:
    """What the ways to count air hang on, beside the sizes of rooms and the air that is chosen."""
    rooms = [(r.id, r.table_air_per_h, r.exposed_faces, r.room.air.per_h, _top_m(r)) for r in house.rooms]
    return (
        house.practice,
        house.air_density,
        house.tables,
        house.shelter,
        house.sheltered,
        by_age(house),
        to_the_letter(rooms),
    )


def compare(
    house: HouseView,
    tightness: Tightness,
    chosen: AirArrays,
    *,
    volume: Array,
    exposed: Array,
    difference_k: Array,
    complete: Array,
) -> Compared:
    """Every way to count, on the same rooms. Shapes (R,)."""
    share = _share(exposed)
    leaks = [
        (chosen.leak_emitter, chosen.leak_house) if method == chosen.method
        else _stated(house, volume, *_leaks(house, tightness, method, volume, share))
        for method in METHODS
    ]  # fmt: skip
    emitter, mean = (np.array([pair[side] for pair in leaks]) for side in (0, 1))
    every = replace(chosen, leak_emitter=emitter, leak_house=mean)
    flow = every.flow_m3h(house=True) * complete
    house_w, emitter_w = (
        np.asarray(air_heat_coefficient(flow_m3h=of, air_heat_wh_m3k=chosen.heat_wh_m3k) * difference_k)
        for of in (flow, every.flow_m3h(house=False) * complete)
    )
    ids = [room.id for room in house.rooms]
    return Compared(
        emitter_w=_by_method(emitter_w), house_w=_by_method(house_w), flow_m3h=_by_method(flow), emitters_w=emitter_w.sum(axis=1).tolist(),
        air_w=house_w.sum(axis=1).tolist(), whole_m3h=flow.sum(axis=1).tolist(), volume_m3=float(volume.sum()),
        rooms_w=[dict(zip(ids, row, strict=True)) for row in emitter_w.tolist()],
    )  # fmt: skip


def _by_method(rows: Array) -> dict[str, Array]:
    return dict(zip(METHODS, rows, strict=True))


def results(house: HouseView, compared: Compared, loss_without_air_w: float) -> list[AirMethod]:
    """The comparison as the Design shows it."""
    volume, said = compared.volume_m3, stated_rooms(house)
    return [
        AirMethod(
            key=method,
            label=as_stated(*said, LABELS[method]),
            chosen=method == house.practice.air,
            flow_m3h=flow,
            air_per_h=flow / volume if volume > 0 else None,
            air_w=air_w,
            emitters_w=emitters_w,
            loss_w=loss_without_air_w + air_w,
            rooms_w=rooms_w,
        )
        for method, flow, air_w, emitters_w, rooms_w in zip(
            METHODS, compared.whole_m3h, compared.air_w, compared.emitters_w, compared.rooms_w, strict=True
        )
    ]


def sampled(air: AirArrays, *, leak: Array, volume: Array, mean_volume: Array) -> AirArrays:
    """The air of each sample: the leak grows with the doubt of the tightness and with the volumes.

    Shapes: `leak` (S,), `volume` (S, R) factors, `mean_volume` (S,) of the house.
    """
    scale = (
        volume if air.method == "table" else leak[:, None] * (volume if air.method == "room" else mean_volume[:, None])
    )
    return replace(air, scale=scale, least=air.least * volume)
