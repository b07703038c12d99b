"""What the rooms lose: the arrays of a house, evaluated at any outdoor temperature."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

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
from cinder.physics.quantity import Array
from cinder.physics.radiator import Mask
from cinder.physics.unheated import neighbour_c


@dataclass(frozen=True, slots=True)
class RoomSums:
    """What of the rooms' losses does not hang on the outdoor temperature.

    Of fabric, bridges and the house's share in turn: W through the pieces were it 0 deg C outside (3, …, R), and what a
    kelvin less adds, W/K; the conductance of air as the emitter and as the house meets it, and of everything, W/K (…, R);
    what pieces towards neighbours conduct (3, …, N), and which room each is of (N, R).
    """

    still_w: Array
    per_k: Array
    air_per_k: Array
    air_house_per_k: Array
    loss_per_k: Array
    to_neighbours: Array
    neighbours_of: Array
    counts: Array


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

    @cached_property
    def sums(self) -> RoomSums:
        """The rooms' own sums, for any outdoor temperature."""
        conductance, bridge = self.piece_area * self.piece_u, self.piece_area * self.piece_bridge
        factor, neighbour = self.piece_factor, self.piece_neighbour
        kinds = (factor * conductance, factor * bridge, self.piece_house_factor * (conductance + bridge))
        every = np.array(kinds) if len({k.shape for k in kinds}) == 1 else np.stack(np.broadcast_arrays(*kinds))
        target = self.target_c[self.piece_room]
        inside = np.array((target - self.piece_fixed_c, target - self.piece_house_fixed_c))[[0, 0, 1]]
        still = every * inside.reshape(3, *(1,) * (every.ndim - 2), -1)
        still_w, per_k = self.by_room(np.array((still, every * self.piece_outside_weight)))
        air, air_house = self.air.per_k
        rooms = np.arange(len(self.room_index)) if neighbour.any() else np.zeros(0)
        return RoomSums(
            still_w, per_k, air, air_house,
            self.by_room(every[0] + every[1]) + air, every[..., neighbour],
            np.equal.outer(self.piece_room[neighbour], rooms).astype(float), np.where(self.complete, 1.0, 0.0),
        )  # fmt: skip

    def but(self, **figures: Array | Downwards | None) -> LossArrays:
        """The same house with other figures, by the names of its fields."""
        other = object.__new__(LossArrays)
        other.__dict__.update(self.__dict__, **figures)
        other.__dict__.pop("sums", None)
        return other

    def by_room(self, values: Array) -> Array:
        """Values of the pieces (…, F) added up by room (…, R)."""
        out = np.zeros((*values.shape[:-1], len(self.room_index)))
        if len(self.piece_room):
            starts = self.order.starts
            out[..., self.piece_room[starts]] = np.add.reduceat(values, starts, axis=-1)
        return out


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
        at = below.piece
        below = replace(
            below, factor=below.factor * ratio[at], house_factor=below.house_factor * ratio[at], outside_weight=weight[at],
            fixed_c=fixed[at], house_fixed_c=house_fixed[at],
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


def _beyond_c(arrays: LossArrays, fixed_c: Array, neighbour: Mask, outdoor_c: Array) -> Array:
    """The part of what lies beyond that does not hang straight on the outdoor temperature, deg C: (F,) or (K, F)."""
    if not neighbour.any() or arrays.design_c is None or np.all(outdoor_c <= arrays.design_c):
        return fixed_c
    moving = neighbour_c(on_design_day_c=fixed_c, design_outdoor_c=arrays.design_c, outdoor_c=outdoor_c)
    return np.asarray(np.where(neighbour, moving, fixed_c))


def _through(arrays: LossArrays, outside: Array) -> Array:
    """Watts of the rooms through their pieces, of fabric, bridges and the house's share in turn (3, …, R): straight over the
    outdoor temperature, but for the homes of neighbours, which follow it on their own."""
    sums, neighbour = arrays.sums, arrays.piece_neighbour
    still, per_k = (sums.still_w[:, None], sums.per_k[:, None]) if outside.ndim else (sums.still_w, sums.per_k)
    out = still - per_k * (outside[:, None] if outside.ndim else outside)
    if neighbour.any():
        beyond = (arrays.piece_fixed_c[neighbour], arrays.piece_house_fixed_c[neighbour])
        for watts, conducts, fixed in zip(out, sums.to_neighbours, (beyond[0], *beyond), strict=True):
            watts -= (conducts * (_beyond_c(arrays, fixed, neighbour[neighbour], outside) - fixed)) @ sums.neighbours_of
    return np.asarray(out)


@dataclass(slots=True)
class _Parts:
    """What `loads` and `evaluate` are both made of, W (…, R), rooms that are not complete still among them."""

    fabric: Array
    bridges: Array
    air: Array
    air_house: Array
    extra: Array
    load: Array
    share: Array
    down: Array
    down_house: Array


def _parts(arrays: LossArrays, outside: Array) -> _Parts:
    column = outside[..., None] if outside.ndim else outside
    sums = arrays.sums
    fabric_w, bridges_w, house_w = _through(arrays, outside)
    per_flow = arrays.target_c - column
    air_w = sums.air_per_k * per_flow
    air_house_w = sums.air_house_per_k * per_flow
    plain = fabric_w + bridges_w + air_w
    added, blank = arrays.room_factor - 1.0, sums.counts
    extra_w = added * plain + arrays.reheat_w
    extra_house_w = added * (house_w + air_house_w) + arrays.reheat_w
    load = (plain + extra_w) * blank
    down = down_house = np.zeros_like(load)
    if arrays.downwards is not None:
        below = arrays.downwards
        down, down_house = downwards.watts(
            below, target_c=arrays.target_c, outdoor=column, duty_w=load,
            fixed_c=_beyond_c(arrays, below.fixed_c, below.neighbour, outside),
            house_fixed_c=_beyond_c(arrays, below.house_fixed_c, below.neighbour, outside),
        )  # fmt: skip
        down, down_house = down * blank, down_house * blank
    share = (house_w + air_house_w + extra_house_w) * blank + down_house
    return _Parts(fabric_w, bridges_w, air_w, air_house_w, extra_w, load, share, down, down_house)


def _per_k(arrays: LossArrays) -> Array:
    return np.asarray(arrays.sums.loss_per_k * arrays.room_factor * arrays.sums.counts)


def loads(arrays: LossArrays, outdoor_c: float | Array) -> Loads:
    """What counts of the losses at an outdoor temperature or at many: as `evaluate`, without what it is made of."""
    parts = _parts(arrays, np.asarray(outdoor_c, float))
    return Loads(parts.load, parts.share, _per_k(arrays))


def evaluate(arrays: LossArrays, outdoor_c: float | Array) -> Losses:
    """Losses at an outdoor temperature; an array of K temperatures gives a leading axis K."""
    outside = np.asarray(outdoor_c, float)
    parts, blank = _parts(arrays, outside), arrays.sums.counts
    piece_w = np.zeros(0)
    if not outside.ndim:
        there = arrays.piece_outside_weight * outside + _beyond_c(
            arrays, arrays.piece_fixed_c, arrays.piece_neighbour, outside
        )
        piece_w = arrays.piece_w_k * (arrays.target_c[arrays.piece_room] - there)
    return Losses(
        piece_w=piece_w,
        emitter_load_w=parts.load,
        share_of_house_w=parts.share,
        fabric_w=np.asarray(parts.fabric * blank),
        bridges_w=np.asarray(parts.bridges * blank),
        air_emitter_w=np.asarray(parts.air * blank),
        air_house_w=np.asarray(parts.air_house * blank),
        extras_w=np.asarray(parts.extra * blank),
        loss_per_k=_per_k(arrays),
        down_w=parts.down,
        down_house_w=parts.down_house,
    )
