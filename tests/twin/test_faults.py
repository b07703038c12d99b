"""Every fault is a physical change that hardly shows at first and shows in the end."""

import numpy as np
import pytest

from cinder.errors import NotFound
from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.twin import loop
from cinder.twin.faults import FAULTS, with_faults
from cinder.twin.of_job import twin_of, weather_of
from tests.conftest import tansy_cut

YEAR = shipped_year(load().climates["mild-maritime"].year_sha256)


@pytest.fixture(scope="module")
def month():
    twin = twin_of(parse(tansy_cut()))
    weather = weather_of(twin, YEAR, first_hour=24 * 45, hours=24 * 30)
    return twin, weather, loop.run(twin.house, weather, loop.start(twin.house))


@pytest.mark.parametrize("key", FAULTS)
def test_a_fault_shows_in_the_plants_own_figures(month, key):
    twin, weather, (sound, _, sums) = month
    house = with_faults(twin.house, [key], at=1)
    ill, _, other = loop.run(house, weather, loop.start(house))
    moved = {
        "rooms": np.abs(ill.room_c - sound.room_c).mean(axis=0).max(),
        "spread": np.abs((ill.supply_c - ill.return_c) - (sound.supply_c - sound.return_c)).mean(),
        "electricity": abs(other["electric"] / sums["electric"] - 1) * 20,
    }
    assert max(moved.values()) > 0.4, moved
    # nobody is told: the twin has no flag a reader could look at
    assert set(ill._fields) == set(sound._fields)


def test_a_strainer_clogs_slowly(month):
    twin, weather, (sound, _, _) = month
    house = with_faults(twin.house, ["strainer"])
    ill, _, _ = loop.run(house, weather, loop.start(house))
    days = (sound.flow_w_k.reshape(30, -1).max(axis=1), ill.flow_w_k.reshape(30, -1).max(axis=1))
    assert days[1][0] > 0.96 * days[0][0]
    assert days[1][-1] < 0.35 * days[0][-1]


def test_a_reversed_diverter_leaves_the_store_cool(month):
    twin, weather, (_, _, sums) = month
    house = with_faults(twin.house, ["diverter"])
    _, _, other = loop.run(house, weather, loop.start(house))
    assert other["store"] < 0.1 * sums["store"]


def test_one_room_alone_suffers_from_a_shut_lockshield_and_a_bad_wall(month):
    twin, weather, (sound, _, _) = month
    for key in ("lockshield", "wall"):
        house = with_faults(twin.house, [key])
        ill, _, _ = loop.run(house, weather, loop.start(house))
        cooler = (sound.room_c - ill.room_c).mean(axis=0)
        order = np.sort(cooler)[::-1]
        assert order[0] > 0.8, key
        assert order[1] < 0.7 * order[0], key


def test_an_unknown_fault_is_named(month):
    with pytest.raises(NotFound, match="strainer"):
        with_faults(month[0].house, ["gremlins"])
