"""Needed flow, reached temperature, and who holds the water up."""

import copy

import numpy as np
import pytest

from tests.conftest import house, judged, tansy_cut


def flow(document, value):
    out = copy.deepcopy(document)
    out["schemes"][out["active_scheme"]]["flow_c"] = value
    return out


def rooms(result):
    return {room.id: room for room in result.rooms}


def test_at_the_water_it_needs_a_room_reaches_what_it_wants():
    """The room that needs the warmest water reaches its target at just that water: no neighbour is short then."""
    for document in (tansy_cut(), house("three-rooms")):
        result = judged(document)
        worst = max(result.rooms, key=lambda r: r.needed_flow_c or 0.0)
        at = rooms(judged(flow(document, worst.needed_flow_c)))
        assert at[worst.id].reached_c == pytest.approx(worst.target_c, abs=1e-6)
        assert all(room.reached_c >= room.target_c - 1e-6 for room in at.values())


def test_warmer_water_makes_warmer_rooms_until_they_are_as_warm_as_asked():
    """Rooms that have enough are held at their target, so that none is counted on to warm its neighbours."""
    document = tansy_cut()
    target = np.array([r.target_c for r in judged(document).rooms])
    reached = np.array([[r.reached_c for r in judged(flow(document, t)).rooms] for t in (30.0, 38.0, 46.0, 54.0)])
    short = reached[:-1] < target - 1e-9
    assert np.all(np.diff(reached, axis=0)[short] > 0)
    assert np.all(reached <= target + 1e-9)
    assert reached[-1] == pytest.approx(target)


def test_short_rooms_are_named_and_say_how_warm_they_get():
    result = judged(flow(tansy_cut(), 42.0))
    assert set(result.waterline.short) == {room.id for room in result.rooms if room.needed_flow_c > 42.05}
    for finding in result.findings:
        if finding.screen == "waterline" and finding.severity == "short":
            assert "°C at 42.0 °C water" in finding.what


def test_the_line_is_the_least_whole_degree_unless_chosen():
    result = judged(tansy_cut())
    line = result.waterline
    assert line.chosen_flow_c == np.ceil(line.needed_flow_c)
    assert line.holding == ["parlour"]
    assert line.next_flow_c == pytest.approx(sorted(r.needed_flow_c for r in result.rooms)[-2])
    assert judged(flow(tansy_cut(), 51.5)).waterline.chosen_flow_c == 51.5


def test_a_bigger_emitter_needs_cooler_water_and_meets_the_same_load():
    document = house("three-rooms")
    small = rooms(judged(document))["bed"]
    document["survey"]["emitters"]["r-bed"]["spec"]["length_m"] = 3.0
    large = rooms(judged(document))["bed"]
    assert large.needed_flow_c < small.needed_flow_c
    assert large.room_emitter_load_w == small.room_emitter_load_w
    # 1.5 times the face: the excess falls by 1.5^(1/1.3)
    assert large.rated_w == pytest.approx(1.5 * small.rated_w)


def test_a_wider_spread_needs_a_warmer_flow():
    document = house("three-rooms")
    needs = []
    for spread in (3.0, 5.0, 8.0, 12.0):
        document["schemes"]["main"]["spread_k"] = spread
        needs.append(rooms(judged(document))["bed"].needed_flow_c)
    assert needs == sorted(needs)


def test_floor_loop_as_a_stated_emitter():
    """1 150 W at 15 K with n 1.1 gives 1 150 (10/15)^1.1 = 736 W at 10 K."""
    document = tansy_cut()
    document["survey"]["emitters"]["loop-garden"]["spec"] = {
        "kind": "stated", "output_w": 1150.0, "excess_k": 15.0, "exponent": 1.1, "valve": "manifold-open",
    }  # fmt: skip
    emitter = rooms(judged(document))["garden"].emitters[0]
    assert emitter.rated_w == pytest.approx(1150 * (49.83 / 15) ** 1.1)
    assert emitter.rated_w * (10 / 49.83) ** 1.1 == pytest.approx(736.2, abs=0.5)
