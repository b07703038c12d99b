"""What rooms lose, held against sums written out piece by piece, with draws, homes next door, and floors heated from below."""

import numpy as np
import pytest

from cinder.errors import PhysicsError
from cinder.physics.losses.room_losses import Below, Pieces, Rooms, lost

DESIGN_C = -5.0
KEPT_C = 20.0


def next_door(taken_c, outdoor_c):
    """A home next door: as taken on the design day and colder, straight to 20 at 20 outside, never colder than outdoors."""
    if outdoor_c <= DESIGN_C:
        return taken_c
    straight = taken_c + min((outdoor_c - DESIGN_C) / (KEPT_C - DESIGN_C), 1.0) * max(KEPT_C - taken_c, 0.0)
    return max(straight, outdoor_c)


def some_house(rng, rooms=5, draws=1):
    room = np.sort(rng.integers(0, rooms, 24))
    count = len(room)
    neighbour = rng.random(count) < 0.3
    weight = np.where(neighbour, 0.0, rng.choice([1.0, 0.6, 0.0], count))
    pieces = Pieces(
        room, neighbour, rng.uniform(0.5, 20.0, (draws, count)), rng.uniform(0.1, 3.0, (1, count)), rng.choice([0.0, 0.1], (draws, count)),
        rng.choice([0.0, 1.0, 1.45], count), rng.choice([0.0, 1.0], count), weight, rng.uniform(0, 15, count), rng.uniform(0, 15, count),
    )  # fmt: skip
    stand = Rooms(
        rng.choice([16.0, 20.0, 22.0], rooms), rng.uniform(0, 30, (draws, rooms)), rng.uniform(0, 30, (1, rooms)),
        rng.choice([1.0, 1.1], rooms), rng.choice([0.0, 150.0], rooms), rng.random(rooms) > 0.2,
    )  # fmt: skip
    heated = 4
    below = Below(
        rng.integers(0, rooms, heated), rng.random(heated) < 0.5, rng.uniform(2, 15, heated), rng.uniform(0.05, 0.2, heated),
        rng.uniform(1, 4, heated), np.ones(heated), rng.choice([0.0, 1.0], heated), rng.choice([0.0, 1.0], heated),
        rng.uniform(0, 15, heated), rng.uniform(0, 15, heated), rng.uniform(0, 0.05, heated),
    )  # fmt: skip
    return pieces, stand, below


def written_out(pieces, rooms, below, outdoor_c, draw):
    """Load and share of every room, W, and the slope of its load, W/K, one piece after the other."""

    def row(values):
        return values[draw if len(values) > 1 else 0]

    area, u, bridge, air, air_house = map(row, (pieces.area, pieces.u, pieces.bridge, rooms.air, rooms.air_house))
    loads, shares, slopes = [], [], []
    for r, target in enumerate(rooms.target_c):
        plain, house = air[r] * (target - outdoor_c), air_house[r] * (target - outdoor_c)
        slope = air[r]
        for f in np.flatnonzero(pieces.room == r):
            beyond, house_beyond = pieces.fixed_c[f], pieces.house_fixed_c[f]
            if pieces.neighbour[f]:
                beyond, house_beyond = next_door(beyond, outdoor_c), next_door(house_beyond, outdoor_c)
            outside = pieces.outside_weight[f] * outdoor_c
            conducts = area[f] * (u[f] + bridge[f])
            plain += pieces.factor[f] * conducts * (target - outside - beyond)
            house += pieces.house_factor[f] * conducts * (target - outside - house_beyond)
            slope += pieces.factor[f] * conducts
        load = plain * rooms.factor[r] + rooms.reheat_w[r]
        share = house * rooms.factor[r] + rooms.reheat_w[r]
        for h in np.flatnonzero(below.room == r):
            fixed, house_fixed = below.fixed_c[h], below.house_fixed_c[h]
            if below.neighbour[h]:
                fixed, house_fixed = next_door(fixed, outdoor_c), next_door(house_fixed, outdoor_c)
            plane = target + below.above_r[h] * max(load, 0.0) * below.duty_per_m2[h]
            outside = below.outside_weight[h] * outdoor_c
            gap = plane - outside - house_fixed
            share += max(below.house_factor[h] * below.area_m2[h] / below.below_r[h] * gap, 0.0)
        counts = rooms.counts[r]
        loads.append(load if counts else 0.0)
        shares.append(share if counts else 0.0)
        slopes.append(slope * rooms.factor[r] if counts else 0.0)
    return loads, shares, slopes


@pytest.mark.parametrize("seed", range(12))
def test_many_temperatures_against_sums_written_out(seed):
    house = some_house(np.random.default_rng(seed))
    outdoor = np.array([-12.0, DESIGN_C, -1.5, 6.0, 19.0, 24.0])
    found = lost(outdoor, design_c=DESIGN_C, pieces=house[0], rooms=house[1], below=house[2])
    for k, temperature in enumerate(outdoor):
        load, share, slope = written_out(*house, temperature, 0)
        assert found.load[k] == pytest.approx(load, rel=1e-12, abs=1e-9)
        assert found.share[k] == pytest.approx(share, rel=1e-12, abs=1e-9)
        assert found.per_k[0] == pytest.approx(slope, rel=1e-12)


@pytest.mark.parametrize("seed", range(6))
def test_every_draw_is_a_house_of_its_own(seed):
    draws = 7
    house = some_house(np.random.default_rng(100 + seed), draws=draws)
    outdoor = np.linspace(-10.0, 15.0, draws)
    found = lost(outdoor, design_c=DESIGN_C, pieces=house[0], rooms=house[1], below=house[2])
    for s in range(draws):
        load, share, slope = written_out(*house, outdoor[s], s)
        assert found.load[s] == pytest.approx(load, rel=1e-12, abs=1e-9)
        assert found.share[s] == pytest.approx(share, rel=1e-12, abs=1e-9)
        assert found.per_k[s] == pytest.approx(slope, rel=1e-12)


def test_what_it_is_made_of_sums_to_the_whole():
    pieces, rooms, below = some_house(np.random.default_rng(5))
    rooms, below = (
        rooms._replace(counts=rooms.counts | True),
        below._replace(house_factor=np.ones(4), house_fixed_c=below.fixed_c),
    )
    found = lost(np.array([-3.0, 8.0]), design_c=DESIGN_C, pieces=pieces, rooms=rooms, below=below)
    assert found.fabric + found.bridges + found.air + found.extra == pytest.approx(found.load)
    assert found.down_house == pytest.approx(found.down)  # all of it leaves the house here
    assert found.down.max() > 0.0


def test_without_a_design_day_homes_next_door_stay_as_they_are_taken():
    pieces, rooms, below = some_house(np.random.default_rng(8))
    found = lost(np.array([0.0, 10.0]), design_c=None, pieces=pieces, rooms=rooms, below=below)
    alone = pieces._replace(neighbour=np.zeros_like(pieces.neighbour))
    still = lost(
        np.array([0.0, 10.0]),
        design_c=DESIGN_C,
        pieces=alone,
        rooms=rooms,
        below=below._replace(neighbour=below.neighbour & False),
    )
    assert np.array_equal(found.load, still.load)
    assert np.array_equal(found.share, still.share)


def test_draws_and_temperatures_that_do_not_fit_are_refused():
    pieces, rooms, below = some_house(np.random.default_rng(1), draws=3)
    with pytest.raises(PhysicsError, match="one for each of 3 draws"):
        lost(np.array([0.0, 1.0]), design_c=DESIGN_C, pieces=pieces, rooms=rooms, below=below)
