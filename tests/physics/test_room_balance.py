"""Rooms that settle together: every answer is held against the balance itself, each emitter worked out apart by scipy."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from cinder.errors import PhysicsError
from cinder.physics.rooms.room_balance import Balance, Emitters, Rooms


def gives(emitters, r, e, over_room):
    """What one emitter gives with the water flow it was set for, W: EN 442 and the water's own cooling, by bisection."""
    flow = emitters.design_w[r, e] / emitters.spread_k[r, e] if emitters.design_w[r, e] > 0 else 0.0
    if over_room <= 0 or flow <= 0 or emitters.rated_w[r, e] <= 0:
        return 0.0

    def lacks(back):
        plain, log = (over_room + back) / 2, (over_room - back) / np.log(over_room / back) if back > 0 else 0.0
        excess = plain if emitters.arithmetic[r, e] else log
        return emitters.rated_w[r, e] * (excess / emitters.reference_k) ** emitters.exponent[r, e] - flow * (
            over_room - back
        )

    coldest = -over_room * (1 - 1e-9) if emitters.arithmetic[r, e] else over_room * 1e-12
    if lacks(coldest) >= 0:  # so large that the water leaves it as cool as the room
        return flow * (over_room - coldest)
    back = brentq(lacks, coldest, over_room * (1 - 1e-13), xtol=1e-13)
    return flow * (over_room - back)


def one(**changes):
    """A room of 40 W/K that loses 1 000 W at 20 deg C, with a panel that just meets it at 75/65."""
    rooms = Rooms(
        target_c=np.array([20.0]), own_w=np.array([[1000.0]]), own_per_k=np.array([40.0]), trade_w_k=np.zeros((1, 1)),
        heater_w=np.zeros((1, 1)), known=np.array([True]),
    )  # fmt: skip
    panel = Emitters(
        rated_w=np.array([[1000.0]]), exponent=np.array([[1.3]]), spread_k=np.array([[10.0]]),
        design_w=np.array([[1000.0]]), arithmetic=np.array([[False]]), closes=np.array([[False]]), reference_k=49.83,
    )  # fmt: skip
    ours = {name: value for name, value in changes.items() if name in rooms._fields}
    theirs = {name: value for name, value in changes.items() if name in panel._fields}
    return Balance(rooms._replace(**ours), panel._replace(**theirs))


def test_without_an_emitter_a_room_settles_where_its_loss_ends():
    got = one(rated_w=np.array([[0.0]])).settle(flow_c=np.array([45.0]))
    assert got.room_c[0, 0] == pytest.approx(20 - 1000 / 40)


def test_water_colder_than_the_room_takes_nothing_from_it():
    assert one().settle(flow_c=np.array([-30.0])).room_c[0, 0] == pytest.approx(-5.0)


@pytest.mark.parametrize("arithmetic", [False, True])
def test_a_single_room_against_a_plain_energy_balance(arithmetic):
    """Output and loss at the temperature reached agree to a thousandth of a watt."""
    balance = one(
        own_w=np.array([[1200.0]]), own_per_k=np.array([45.0]), rated_w=np.array([[1500.0]]), spread_k=np.array([[5.0]]),
        design_w=np.array([[1200.0]]), arithmetic=np.array([[arithmetic]]),
    )  # fmt: skip
    got = float(balance.settle(flow_c=np.array([42.0])).room_c[0, 0])
    loss = 1200.0 - 45.0 * (20.0 - got)
    back = 42.0 - 5.0 * loss / 1200.0
    log = (42.0 - back) / np.log((42.0 - got) / (back - got))
    excess = (42.0 + back) / 2 - got if arithmetic else log
    assert 1500.0 * (excess / 49.83) ** 1.3 == pytest.approx(loss, abs=1e-3)


def test_the_least_flow_is_the_one_at_which_the_room_is_as_warm_as_asked():
    found = one().settle(flow_c=np.array([40.0]), asked=np.array([True]))
    assert found.flow_c[0] == pytest.approx(75.0, abs=0.01)  # EN 442: 75/65/20 is where it is rated
    assert found.room_c[0, 0] == pytest.approx(20.0)
    assert found.binding[0] == 0


def test_no_water_where_no_room_asks_for_any():
    found = one(own_w=np.array([[-100.0]])).settle(flow_c=np.array([40.0]), asked=np.array([True]))
    assert np.isnan(found.flow_c[0])
    assert found.binding[0] == -1
    assert found.room_c[0, 0] == pytest.approx(20 + 100 / 40)


def test_shapes_that_do_not_fit_are_refused():
    with pytest.raises(PhysicsError):
        one(own_w=np.zeros((1, 2)))
    with pytest.raises(PhysicsError):
        one().settle(flow_c=np.array([40.0, 50.0]))


@st.composite
def houses(draw, most_rooms=7):
    """Houses of all kinds: valves, heaters of their own, floors and fan units, rooms without emitter, rooms not known."""
    rng = np.random.default_rng(draw(st.integers(0, 2**32)))
    r, e, k = int(rng.integers(1, most_rooms + 1)), int(rng.integers(1, 4)), int(rng.integers(1, 4))
    target = rng.choice([16.0, 18.0, 20.0, 21.0, 22.0, 24.0], r)
    own = rng.choice([0.5, 4.0, 12.0, 45.0, 300.0], r)
    trade = np.zeros((r, r))
    for i in range(r):
        for j in range(i):
            trade[i, j] = trade[j, i] = rng.choice([0.0, 0.0, 3.0, 25.0, 120.0])
    outdoor = rng.uniform(-15.0, 19.0, k)
    own_w = own * (target - outdoor[:, None]) + rng.choice([0.0, -80.0], r)
    load = np.maximum(own * (target + 8.0) + (trade * (target[:, None] - target)).sum(axis=1), 0.0)
    rated = rng.choice([0.0, 0.4, 1.0, 4.0, 12.0], (r, e)) * np.maximum(load, 60.0)[:, None]
    share = rated / np.where(rated.sum(axis=1) > 0, rated.sum(axis=1), 1.0)[:, None]
    emitters = Emitters(
        rated_w=rated, exponent=rng.choice([1.0, 1.05, 1.2, 1.3, 1.45], (r, e)), spread_k=rng.choice([3.0, 5.0, 8.0, 12.0], (r, e)),
        design_w=share * load[:, None], arithmetic=rng.random((r, e)) < rng.choice([0.0, 0.3]),
        closes=rng.random((r, e)) < rng.choice([0.0, 0.4, 1.0]), reference_k=49.83,
    )  # fmt: skip
    heater = rng.choice([0.0, 0.0, 200.0], r) * np.ones((k, 1)) if rng.random() < 0.3 else np.zeros((k, r))
    return Rooms(target, own_w, own, trade, heater, rng.random(r) > 0.1), emitters


def held_against(rooms, emitters, found, asked, slack=0.0):
    """Whether flow and temperatures are an answer: each room in balance, or held at its target by what can close; with
    `asked`, none of those short (by more than the slack), and the one that holds the flow just met by all it has."""
    apart = rooms.own_per_k + rooms.trade_w_k.sum(axis=1)
    for k in range(len(found.flow_c)):
        flow, room = found.flow_c[k], found.room_c[k]
        margins = []
        for r, target in enumerate(rooms.target_c):
            if not rooms.known[r] or apart[r] <= 0:
                assert room[r] == pytest.approx(target)
                continue
            loss = rooms.own_w[k, r] + rooms.own_per_k[r] * (room[r] - target) + rooms.trade_w_k[r] @ (room[r] - room)
            each = [
                0.0 if np.isnan(flow) else gives(emitters, r, e, flow - room[r])
                for e in range(emitters.rated_w.shape[1])
            ]
            stays = sum(w for w, closes in zip(each, emitters.closes[r], strict=True) if not closes)
            whole, near = sum(each) + rooms.heater_w[k, r], 0.02 + 2e-4 * apart[r]
            if abs(room[r] - target) < 1e-4:
                assert stays - near <= loss <= whole + near
            else:
                assert loss == pytest.approx(whole if room[r] < target else stays, abs=near + 1e-5 * abs(loss))
            if asked is not None and asked[r] and (emitters.rated_w[r] * emitters.design_w[r]).any():
                assert room[r] > target - slack - 1e-3
                if slack:
                    margins.append(room[r] - target + slack)
                else:
                    margins.append((whole - loss if room[r] < target + 1e-4 else np.inf) / (apart[r] + 1.0))
        if asked is not None and not np.isnan(flow):
            assert min(margins) < 0.01


@given(houses())
@settings(max_examples=60)
def test_every_room_is_in_balance_at_a_given_flow(house):
    rooms, emitters = house
    for flow in (22.0, 38.0, 70.0):
        found = Balance(rooms, emitters).settle(flow_c=np.full(len(rooms.own_w), flow))
        held_against(rooms, emitters, found, None)


@given(houses())
@settings(max_examples=60)
def test_the_least_flow_leaves_nobody_short_and_somebody_just_met(house):
    rooms, emitters = house
    asked = np.ones(len(rooms.target_c), dtype=bool)
    found = Balance(rooms, emitters).settle(flow_c=np.full(len(rooms.own_w), 45.0), asked=asked)
    held_against(rooms, emitters, found, asked)


@given(houses())
@settings(max_examples=40)
def test_with_a_slack_somebody_is_just_that_much_short(house):
    """Valves still hold at the target, not at what is tolerated."""
    rooms, emitters = house
    asked = np.ones(len(rooms.target_c), dtype=bool)
    found = Balance(rooms, emitters).settle(flow_c=np.full(len(rooms.own_w), 45.0), asked=asked, slack_k=0.3)
    held_against(rooms, emitters, found, asked, slack=0.3)


@given(houses())
@settings(max_examples=30)
def test_exchange_between_rooms_cancels_over_the_house(house):
    """What all emitters give is what all rooms lose to the outside: nothing is made or lost between rooms."""
    rooms, emitters = house
    rooms = rooms._replace(known=np.ones_like(rooms.known), own_per_k=np.maximum(rooms.own_per_k, 0.5))
    found = Balance(rooms, emitters).settle(flow_c=np.full(len(rooms.own_w), 50.0))
    lost = rooms.own_w + rooms.own_per_k * (found.room_c - rooms.target_c)
    between = found.room_c * rooms.trade_w_k.sum(axis=1) - found.room_c @ rooms.trade_w_k.T
    assert between.sum(axis=1) == pytest.approx(np.zeros(len(lost)), abs=1e-6)
    assert np.isfinite(lost).all()


def test_the_slow_ways_find_the_same():
    """Rooms balanced in turn between their bounds; the flow by halving: other roads to the same answer."""
    rng = np.random.default_rng(7)
    trade = np.array([[0.0, 30.0, 0.0], [30.0, 0.0, 12.0], [0.0, 12.0, 0.0]])
    target, own = np.array([21.0, 18.0, 22.0]), np.array([45.0, 20.0, 15.0])
    rated = rng.uniform(2000.0, 6000.0, (3, 2))
    rooms = Rooms(
        target, own * (target - np.array([[-3.0], [9.0]])), own, trade, np.zeros((2, 3)), np.ones(3, dtype=bool)
    )
    emitters = Emitters(
        rated_w=rated, exponent=np.full((3, 2), 1.3), spread_k=np.full((3, 2), 5.0), design_w=rated / 5,
        arithmetic=np.zeros((3, 2), dtype=bool), closes=np.array([[False, False], [True, False], [True, True]]), reference_k=49.83,
    )  # fmt: skip
    balance = Balance(rooms, emitters)
    quick = balance.settle(flow_c=np.array([30.0, 45.0]))
    assert balance._each(np.array([30.0, 45.0])) == pytest.approx(quick.room_c, abs=1e-3)
    asked = np.ones(3, dtype=bool)
    least, slow = balance.settle(flow_c=np.array([40.0, 40.0]), asked=asked), balance._in_turn(np.zeros(2), asked)
    assert slow.flow_c == pytest.approx(least.flow_c, abs=1e-3)
    assert slow.room_c == pytest.approx(least.room_c, abs=1e-3)


def test_what_a_room_needs_by_itself():
    """At 75/65/20 the panel gives its rating; nothing for a room that asks for nothing."""
    flow = one().needs(np.array([[1000.0], [0.0]]))
    assert flow[0, 0] == pytest.approx(75.0, abs=0.01)
    assert np.isnan(flow[1, 0])


@given(houses(most_rooms=4))
@settings(max_examples=25)
def test_the_slow_ways_find_the_same_in_every_house(house):
    """Room by room between bounds, and the flow by halving, against Newton's method: temperatures, flow, who asks for it."""
    rooms, emitters = house
    # in turn, rooms that trade far more than they lose come to rest too slowly
    rooms = rooms._replace(own_per_k=np.maximum(rooms.own_per_k, rooms.trade_w_k.sum(axis=1) / 5))
    balance = Balance(rooms, emitters)
    flow = np.linspace(28.0, 52.0, len(rooms.own_w))
    quick, slow = balance.settle(flow_c=flow), balance._in_turn(flow, None)
    assert slow.room_c == pytest.approx(quick.room_c, abs=5e-3)
    assert slow.flow_c.tolist() == flow.tolist()
    assert slow.binding.tolist() == [-1] * len(flow)
    assert slow.per_k.shape == quick.per_k.shape
    assert not slow.per_k.any()


@pytest.mark.parametrize("slack", [0.0, 0.4])
def test_who_asks_for_the_flow_is_found_by_halving_too(slack):
    """Two rooms apart: the second has a third of the emitter it would need at the first one's water."""
    rooms = Rooms(
        target_c=np.array([20.0, 20.0]), own_w=np.array([[800.0, 800.0], [400.0, 400.0]]), own_per_k=np.array([40.0, 40.0]),
        trade_w_k=np.zeros((2, 2)), heater_w=np.zeros((2, 2)), known=np.array([True, True]),
    )  # fmt: skip
    emitters = Emitters(
        rated_w=np.array([[3000.0], [1000.0]]), exponent=np.full((2, 1), 1.3), spread_k=np.full((2, 1), 5.0),
        design_w=np.full((2, 1), 800.0), arithmetic=np.zeros((2, 1), dtype=bool), closes=np.zeros((2, 1), dtype=bool),
        reference_k=49.83,
    )  # fmt: skip
    balance, asked = Balance(rooms, emitters), np.array([True, True])
    quick = balance.settle(flow_c=np.array([40.0, 40.0]), asked=asked, slack_k=slack)
    slow = balance._in_turn(np.zeros(2), asked, slack)
    assert quick.binding.tolist() == slow.binding.tolist() == [1, 1]
    assert slow.flow_c == pytest.approx(quick.flow_c, abs=1e-3)
    assert slow.room_c == pytest.approx(quick.room_c, abs=1e-3)
    assert slow.room_c[:, 1] == pytest.approx(20.0 - slack, abs=1e-3)
    first_alone = balance._in_turn(np.zeros(2), np.array([True, False]), slack)
    assert first_alone.binding.tolist() == [0, 0]
    assert (first_alone.flow_c < slow.flow_c - 5.0).all()
    assert first_alone.per_k.shape == (2, 2)


def test_other_temperatures_wanted_in_the_same_house():
    """A room of 40 W/K that loses 1 000 W at 20 loses 920 W at 18; what its emitter gives and how it lies stays as it is."""
    house = one()
    cooler = house.wanting(np.array([18.0]))
    assert cooler.rooms.own_w[0, 0] == 920.0
    assert cooler.rooms.target_c.tolist() == [18.0]
    assert cooler.given is house.given
    assert cooler.band is house.band
    found = cooler.settle(flow_c=np.array([40.0]), asked=np.array([True]))
    same = one(own_w=np.array([[920.0]]), target_c=np.array([18.0])).settle(
        flow_c=np.array([40.0]), asked=np.array([True])
    )
    assert found.flow_c == pytest.approx(same.flow_c, abs=1e-9)
    assert found.room_c[0, 0] == pytest.approx(18.0)


@settings(max_examples=150)
@given(houses(most_rooms=9))
def test_the_greatest_water_needed_is_the_greatest_of_what_each_room_needs(house):
    rooms, emitters = house
    balance = Balance(rooms, emitters)
    asked = np.arange(len(rooms.target_c)) % 3 != 1
    load = np.maximum(rooms.own_w, 0.0)
    each = np.where(asked, balance.needs(load), np.nan)
    highest = np.where(np.isfinite(each), each, -np.inf).max(axis=1)
    found = balance.most_needed(load, asked)
    assert np.array_equal(np.isfinite(found), np.isfinite(highest))
    assert found[np.isfinite(found)].tolist() == highest[np.isfinite(highest)].tolist()


@settings(max_examples=80)
@given(houses(), st.floats(24.0, 65.0))
def test_many_outdoor_temperatures_settle_as_each_alone(house, flow):
    """One begins where the one before came to rest; what it finds does not hang on that."""
    rooms, emitters = house
    steps = np.linspace(0.0, 12.0, 9)[:, None]
    mild = rooms._replace(
        own_w=rooms.own_w[:1] - rooms.own_per_k * steps, heater_w=np.repeat(rooms.heater_w[:1], 9, axis=0)
    )
    balance, asked = Balance(mild, emitters), np.ones(len(rooms.target_c), dtype=bool)
    for wanted in (None, asked):
        together = balance.settle(flow_c=np.full(9, flow), asked=wanted)
        for k in range(9):
            alone = balance.at(np.array([k])).settle(flow_c=np.array([flow]), asked=wanted)
            assert together.flow_c[k] == pytest.approx(alone.flow_c[0], abs=1e-5, nan_ok=True)
            assert together.room_c[k] == pytest.approx(alone.room_c[0], abs=1e-5)
