"""What the rooms lose: the arrays of a house, evaluated at any outdoor temperature."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from cinder.design.air.decide import AirArrays
from cinder.design.air.tightness import Tightness
from cinder.design.fabric.below_ground import Fabric
from cinder.design.fabric.spaces import SpaceBalance
from cinder.design.house.view import HouseView
from cinder.design.losses import downwards
from cinder.design.losses.downwards import Downwards
from cinder.design.losses.order import Order, Places
from cinder.design.losses.piece import GROUND_FACTOR, GROUND_WATER_FACTOR, Piece
from cinder.physics.losses import room_losses
from cinder.physics.losses.unheated import neighbour_c
from cinder.physics.quantity import Array
from cinder.physics.rooms.radiator import Mask


@dataclass
class LossArrays:
    """Everything `evaluate` needs. Shapes: rooms (R,), pieces (F,), room by room.

    `pieces` says what each is; how it is reckoned stands in the columns, which know of solved spaces and heated floors.

    Temperatures in deg C, areas m2, U W/m2K, air flows m3/h. Room-by-room values may carry leading
    sample axes, so one house and many draws of it run the same code.
    """

    room_index: dict[str, int]
    pieces: list[Piece]
    target_c: Array
    volume_m3: Array
    area_m2: Array
    order: Order
    piece_area: Array
    piece_u: Array
    piece_bridge: Array
    piece_factor: Array
    piece_house_factor: Array
    piece_outside_weight: Array
    piece_fixed_c: Array
    piece_house_fixed_c: Array
    air: AirArrays
    exposed_m2: Array
    room_factor: Array
    reheat_w: Array
    spaces: dict[str, SpaceBalance]
    trade_w_k: Array
    """What room i loses to room j per kelvin between them (R, R), through walls, floors and solved spaces: the same from
    both sides, but for heated floors, whose loops give what their rooms do not. The diagonal is empty."""
    kept_w_k: Array
    """What comes back to a room from spaces it warms itself (R,), W/K."""
    design_c: float | None
    downwards: Downwards | None
    complete: np.ndarray[tuple[int], np.dtype[np.bool_]]
    fabric: Fabric
    tightness: Tightness

    @property
    def piece_room(self) -> Places:
        """The room each piece is of (F,)."""
        return self.order.room

    @property
    def piece_neighbour(self) -> Mask:
        """Pieces towards the homes of neighbours (F,)."""
        return self.order.neighbour

    @property
    def piece_ground(self) -> Mask:
        """Pieces into the ground (F,)."""
        return self.order.ground

    @property
    def piece_w_k(self) -> Array:
        """What every piece conducts towards what lies beyond it, W/K, as its room's emitter meets it."""
        return self.piece_factor * self.piece_area * (self.piece_u + self.piece_bridge)

    @property
    def piece_bridge_share(self) -> Array:
        """The part of it that goes through thermal bridges."""
        whole = self.piece_u + self.piece_bridge
        return np.asarray(np.divide(self.piece_bridge, whole, out=np.zeros_like(whole), where=whole != 0))

    def piece_beyond_c(self, outdoor_c: float) -> Array:
        """What lies beyond every piece, on the design day's reading, deg C."""
        return self.piece_outside_weight * outdoor_c + self.piece_fixed_c

    def piece_house_w(self, piece_w: Array) -> Array:
        """What of the watts of every piece leaves the house; nothing where its room is not complete."""
        counts = self.complete[self.piece_room] & (self.piece_factor != 0)
        factor = np.where(counts, self.piece_factor, 1.0)
        return np.asarray(np.where(counts, piece_w * self.piece_house_factor / factor, 0.0))

    def lost(self, outdoor_c: Array) -> room_losses.Lost:
        """What the rooms lose at outdoor temperatures, one after another."""
        air, air_house = self.air.per_k
        return room_losses.lost(
            outdoor_c, design_c=self.design_c,
            pieces=room_losses.Pieces(
                self.order.room, self.order.neighbour, _rows(self.piece_area), _rows(self.piece_u), _rows(self.piece_bridge),
                self.piece_factor, self.piece_house_factor, self.piece_outside_weight, self.piece_fixed_c, self.piece_house_fixed_c,
            ),
            rooms=room_losses.Rooms(
                self.target_c, _rows(air), _rows(air_house), self.room_factor, self.reheat_w, self.complete
            ),
            below=self.downwards.stretches if self.downwards is not None else downwards.NOTHING,
        )  # fmt: skip

    def but(self, **figures: Array | Downwards | None) -> LossArrays:
        """The same house with other figures, by the names of its fields."""
        other = object.__new__(LossArrays)
        other.__dict__.update(self.__dict__, **figures)
        return other


def _rows(values: Array) -> Array:
    """Figures with a draw in every row, or with one row for all."""
    return np.ascontiguousarray(values[None] if values.ndim == 1 else values)


@dataclass(slots=True)
class Loads:
    """What of the losses counts, by room (…, R): the load of its emitters and its share of the house's loss, W, and the slope of
    the load over its own temperature, W/K (R,)."""

    emitter_load_w: Array
    share_of_house_w: Array
    loss_per_k: Array

    @property
    def house_w(self) -> Array:
        return np.asarray(self.share_of_house_w.sum(axis=-1))

    def first(self, count: int) -> Loads:
        """At the first of many outdoor temperatures."""
        return Loads(self.emitter_load_w[:count], self.share_of_house_w[:count], self.loss_per_k)


@dataclass(slots=True)
class Losses:
    """Watts at one outdoor temperature, or at many (leading axis): rooms (…, R), pieces (…, F) at one only."""

    piece_w: Array
    emitter_load_w: Array
    share_of_house_w: Array
    fabric_w: Array
    bridges_w: Array
    air_emitter_w: Array
    air_house_w: Array
    extras_w: Array
    loss_per_k: Array
    down_w: Array
    """From heated floors and walls away from their room; what of it leaves the house is in the house's share."""
    down_house_w: Array

    @property
    def house_w(self) -> Array:
        return np.asarray(self.share_of_house_w.sum(axis=-1))


def through_the_year(house: HouseView, arrays: LossArrays) -> LossArrays:
    """The same house without what belongs to the design day alone: the 1.45 of the ground (which then has the climate's
    mean temperature, by every school) and the additions of the practice. What ground water takes it takes all year."""
    ground = arrays.piece_ground
    nothing, once = np.zeros_like(arrays.reheat_w), np.ones_like(arrays.room_factor)
    if house.climate is None:
        return arrays.but(reheat_w=nothing, room_factor=once)
    annual = house.climate.annual_mean_c
    by_day = GROUND_FACTOR if house.practice.ground == "annual_mean" else 1.0
    wet = house.practice.ground_detail.water_near and house.practice.ground != "annual_mean"
    ratio = np.where(ground, (GROUND_WATER_FACTOR if wet else 1.0) / by_day, 1.0)
    weight = np.where(ground, 0.0, arrays.piece_outside_weight)
    fixed = np.where(ground, annual, arrays.piece_fixed_c)
    house_fixed = np.where(ground, annual, arrays.piece_house_fixed_c)
    for key, space in arrays.spaces.items():
        mine = arrays.order.spaces.get(key, [])
        weight[mine] = space.outside
        fixed[mine] = house_fixed[mine] = space.fixed_c(arrays.target_c, annual)
    below = arrays.downwards
    if below is not None:
        at, of = below.piece, below.stretches
        below = Downwards(
            of._replace(
                factor=of.factor * ratio[at], house_factor=of.house_factor * ratio[at], outside_weight=weight[at], fixed_c=fixed[at],
                house_fixed_c=house_fixed[at],
            ), at,
        )  # fmt: skip
    return arrays.but(
        reheat_w=nothing, room_factor=once, piece_factor=arrays.piece_factor * ratio,
        piece_house_factor=arrays.piece_house_factor * ratio,
        piece_outside_weight=weight, piece_fixed_c=fixed, piece_house_fixed_c=house_fixed, downwards=below,
    )  # fmt: skip


def on_design_day(house: HouseView, arrays: LossArrays) -> Losses:
    """The losses emitters are sized for; without a design temperature no room has any."""
    losses = evaluate(arrays, house.outdoor_c if house.outdoor_c is not None else 0.0)
    if house.outdoor_c is not None:
        return losses
    none = np.zeros_like(losses.emitter_load_w)
    return replace(losses, emitter_load_w=none, share_of_house_w=none)


def _worked(arrays: LossArrays, outdoor_c: float | Array) -> room_losses.Lost:
    """What is lost at an outdoor temperature (R,) or at many (K, R); with draws at one (S, R)."""
    outside = np.asarray(outdoor_c, dtype=float)
    if outside.ndim:
        lost = arrays.lost(outside)
        return lost._replace(per_k=lost.per_k[0])
    drawn = max(len(_rows(of)) for of in (arrays.piece_area, arrays.piece_u, arrays.piece_bridge, *arrays.air.per_k))
    lost = arrays.lost(np.full(drawn, float(outside)))
    return lost if drawn > 1 else room_losses.Lost(*(of[0] for of in lost))


def loads(arrays: LossArrays, outdoor_c: float | Array) -> Loads:
    """What counts of the losses at an outdoor temperature or at many: as `evaluate`, without what it is made of."""
    lost = _worked(arrays, outdoor_c)
    return Loads(lost.load, lost.share, lost.per_k)


def evaluate(arrays: LossArrays, outdoor_c: float | Array) -> Losses:
    """Losses at an outdoor temperature; an array of K temperatures gives a leading axis K."""
    lost = _worked(arrays, outdoor_c)
    piece_w = np.zeros(0)
    if np.ndim(outdoor_c) == 0:
        fixed = arrays.piece_fixed_c
        if arrays.design_c is not None and outdoor_c > arrays.design_c and arrays.piece_neighbour.any():
            moved = neighbour_c(on_design_day_c=fixed, design_outdoor_c=arrays.design_c, outdoor_c=outdoor_c)
            fixed = np.where(arrays.piece_neighbour, moved, fixed)
        there = arrays.piece_outside_weight * outdoor_c + fixed
        piece_w = arrays.piece_w_k * (arrays.target_c[arrays.piece_room] - there)
    return Losses(
        piece_w=piece_w,
        emitter_load_w=lost.load,
        share_of_house_w=lost.share,
        fabric_w=lost.fabric,
        bridges_w=lost.bridges,
        air_emitter_w=lost.air,
        air_house_w=lost.air_house,
        extras_w=lost.extra,
        loss_per_k=lost.per_k,
        down_w=lost.down,
        down_house_w=lost.down_house,
    )
