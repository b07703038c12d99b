"""What rooms lose through their pieces, their air and what is heated the other way, at one outdoor temperature after another."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from cinder.errors import PhysicsError
from cinder.physics.compiled import compiled
from cinder.physics.losses.unheated import home_next_door_c
from cinder.physics.quantity import Array
from cinder.physics.rooms.radiator import Mask


class Pieces(NamedTuple):
    """Pieces (F,), those of `neighbour` towards homes next door: k A (U + dU) (room - (w outside + x0)), as the room's emitter meets it and
    with a factor of its own and another x0 as the house does. `area`, `u` and `bridge` may have a draw in every row (S, F), else one
    row (1, F)."""

    room: np.ndarray[tuple[int], np.dtype[np.intp]]
    neighbour: Mask
    area: Array
    u: Array
    bridge: Array
    factor: Array
    house_factor: Array
    outside_weight: Array
    fixed_c: Array
    house_fixed_c: Array


class Rooms(NamedTuple):
    """Rooms (R,): `air` W/K as the emitter and as the house meets it, (S, R) or (1, R); `factor` on everything and `reheat_w` beside it;
    only what `counts` is a load."""

    target_c: Array
    air: Array
    air_house: Array
    factor: Array
    reheat_w: Array
    counts: Mask


class Below(NamedTuple):
    """Heated stretches (H,), the other side of which is warmer than the room: what goes away from it is (R_o q + room - beyond) / R_u, q
    being `duty_per_m2` of what the room's emitters give."""

    room: np.ndarray[tuple[int], np.dtype[np.intp]]
    neighbour: Mask
    area_m2: Array
    above_r: Array
    below_r: Array
    factor: Array
    house_factor: Array
    outside_weight: Array
    fixed_c: Array
    house_fixed_c: Array
    duty_per_m2: Array


class Lost(NamedTuple):
    """By room (L, R), W: the load of its emitters, its share of the house's loss, and what they are made of; `per_k` (S, R) or (1, R) the
    slope of the load over the room's own temperature, W/K."""

    load: Array
    share: Array
    fabric: Array
    bridges: Array
    air: Array
    air_house: Array
    extra: Array
    down: Array
    down_house: Array
    per_k: Array


def lost(outdoor_c: Array, *, design_c: float | None, pieces: Pieces, rooms: Rooms, below: Below) -> Lost:
    """What rooms lose at outdoor temperatures (L,): one for every row of draws, or many with one row.

    Homes next door are as they are taken for the design day `design_c`, milder on milder days; without one they stay. Raises
    `PhysicsError` where temperatures and draws do not fit. Source: sums of U A over EN 12831-1; EN 1264-4 for heated floors (from memory).

    >>> none = np.zeros(0)
    >>> wall = Pieces(np.array([0]), np.array([False]), np.array([[10.0]]), np.array([[0.5]]), np.zeros((1, 1)), np.ones(1),
    ...     np.ones(1), np.ones(1), np.zeros(1), np.zeros(1))
    >>> room = Rooms(np.array([20.0]), np.array([[3.0]]), np.array([[2.0]]), np.ones(1), np.zeros(1), np.array([True]))
    >>> nothing = Below(np.zeros(0, dtype=np.intp), none > 0, *[none] * 9)
    >>> found = lost(np.array([-5.0, 0.0]), design_c=-5.0, pieces=wall, rooms=room, below=nothing)
    >>> found.load.ravel().tolist(), found.share.ravel().tolist(), found.per_k.tolist()
    ([200.0, 160.0], [175.0, 140.0], [[8.0]])
    """
    draws = max(len(pieces.area), len(pieces.u), len(pieces.bridge), len(rooms.air), len(rooms.air_house))
    if draws > 1 and len(outdoor_c) != draws:
        raise PhysicsError("outdoor_c", len(outdoor_c), f"one for each of {draws} draws")
    out = np.empty((9, len(outdoor_c), len(rooms.target_c)))
    per_k = np.empty((draws, len(rooms.target_c)))
    _lost(outdoor_c, np.nan if design_c is None else design_c, pieces, rooms, below, draws, out, per_k)
    return Lost._make((*out, per_k))


@compiled
def _row(draws: int, rows: int) -> int:
    """The row of a column that has one for all, or one for every draw."""
    return min(draws, rows - 1)


@compiled
def _lost(
    outdoor_c: Array, design_c: float, pieces: Pieces, rooms: Rooms, below: Below, draws: int, out: Array, per_k: Array
) -> None:
    load, share, fabric, bridges, air, air_house = out[0], out[1], out[2], out[3], out[4], out[5]
    extra, down, down_house = out[6], out[7], out[8]
    count = len(rooms.target_c)
    still, slope = np.zeros((3, count)), np.zeros((3, count))
    for n in range(len(outdoor_c)):
        outside, s = outdoor_c[n], n if draws > 1 else 0
        area, u = pieces.area[_row(s, len(pieces.area))], pieces.u[_row(s, len(pieces.u))]
        bridge = pieces.bridge[_row(s, len(pieces.bridge))]
        by_air, by_house = rooms.air[_row(s, len(rooms.air))], rooms.air_house[_row(s, len(rooms.air_house))]
        if n == 0 or draws > 1:
            still[:], slope[:], per_k[s] = 0.0, 0.0, 0.0
            for f in range(len(pieces.room)):
                r = pieces.room[f]
                plain, through = pieces.factor[f] * area[f] * u[f], pieces.factor[f] * area[f] * bridge[f]
                house = pieces.house_factor[f] * area[f] * (u[f] + bridge[f])
                inside, weight = rooms.target_c[r] - pieces.fixed_c[f], pieces.outside_weight[f]
                still[0, r] += plain * inside
                still[1, r] += through * inside
                still[2, r] += house * (rooms.target_c[r] - pieces.house_fixed_c[f])
                slope[0, r] += plain * weight
                slope[1, r] += through * weight
                slope[2, r] += house * weight
                per_k[s, r] += plain + through
            for r in range(count):
                per_k[s, r] = (per_k[s, r] + by_air[r]) * rooms.factor[r] if rooms.counts[r] else 0.0
        for r in range(count):
            fabric[n, r] = still[0, r] - slope[0, r] * outside
            bridges[n, r] = still[1, r] - slope[1, r] * outside
            share[n, r] = still[2, r] - slope[2, r] * outside
        if outside > design_c:  # homes next door follow the weather on their own
            for f in range(len(pieces.room)):
                if pieces.neighbour[f]:
                    r = pieces.room[f]
                    warmer = home_next_door_c(pieces.fixed_c[f], design_c, outside) - pieces.fixed_c[f]
                    fabric[n, r] -= pieces.factor[f] * area[f] * u[f] * warmer
                    bridges[n, r] -= pieces.factor[f] * area[f] * bridge[f] * warmer
                    warmer = home_next_door_c(pieces.house_fixed_c[f], design_c, outside) - pieces.house_fixed_c[f]
                    share[n, r] -= pieces.house_factor[f] * area[f] * (u[f] + bridge[f]) * warmer
        for r in range(count):
            down[n, r] = down_house[n, r] = 0.0
            if not rooms.counts[r]:
                load[n, r] = share[n, r] = fabric[n, r] = bridges[n, r] = air[n, r] = air_house[n, r] = extra[n, r] = (
                    0.0
                )
                continue
            added, colder = rooms.factor[r] - 1.0, rooms.target_c[r] - outside
            air[n, r], air_house[n, r] = by_air[r] * colder, by_house[r] * colder
            plain, house = fabric[n, r] + bridges[n, r] + air[n, r], share[n, r] + air_house[n, r]
            extra[n, r] = added * plain + rooms.reheat_w[r]
            load[n, r] = plain + extra[n, r]
            share[n, r] = house + (added * house + rooms.reheat_w[r])
        for h in range(len(below.room)):
            r = below.room[h]
            if not rooms.counts[r]:
                continue
            fixed, house_fixed = below.fixed_c[h], below.house_fixed_c[h]
            if below.neighbour[h] and outside > design_c:
                fixed = home_next_door_c(fixed, design_c, outside)
                house_fixed = home_next_door_c(house_fixed, design_c, outside)
            plane = rooms.target_c[r] + below.above_r[h] * max(load[n, r], 0.0) * below.duty_per_m2[h]
            conducts, around = below.area_m2[h] / below.below_r[h], below.outside_weight[h] * outside
            down[n, r] += max(below.factor[h] * conducts * (plane - (around + fixed)), 0.0)
            leaves = max(below.house_factor[h] * conducts * (plane - (around + house_fixed)), 0.0)
            down_house[n, r] += leaves
            share[n, r] += leaves
