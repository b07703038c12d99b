"""EN 442 (from memory): factors, the log mean, and solving for flow."""

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from cinder.errors import PhysicsError
from cinder.physics.rooms import radiator


@pytest.mark.parametrize(("excess", "factor"), [(30, 0.515), (25, 0.406), (20, 0.304), (15, 0.209), (10, 0.123)])
def test_factors_at_n_1_3(excess, factor):
    """(dT/50)^1.3 as every table of radiators prints it (common practice)."""
    assert radiator.output(rated_w=1.0, exponent=1.3, excess_k=excess, reference_k=50.0) == pytest.approx(
        factor, abs=6e-4
    )


def test_log_mean_of_the_rating_point():
    # (75 - 65) / ln(55/45) = 49.83
    assert radiator.log_excess(flow_c=75.0, return_c=65.0, room_c=20.0) == pytest.approx(10 / math.log(55 / 45))


def test_equal_flow_and_return_is_the_plain_difference():
    assert radiator.log_excess(flow_c=40.0, return_c=40.0, room_c=20.0) == pytest.approx(20.0)


def test_return_below_the_room_gives_nothing():
    assert radiator.log_excess(flow_c=40.0, return_c=19.0, room_c=20.0) == 0.0


@given(st.floats(1, 80), st.floats(0.01, 30), st.floats(5, 30))
def test_flow_solved_gives_the_excess_back(excess, spread, room):
    assume(spread < 10 * excess)  # beyond, the return lies within rounding of the room
    flow = radiator.flow_for_log_excess(excess_k=excess, spread_k=spread, room_c=room)
    again = radiator.log_excess(flow_c=flow, return_c=flow - spread, room_c=room)
    assert again == pytest.approx(excess, rel=1e-6)


def test_two_emitters_together():
    """1 000 W with n 1.3 and 500 W with n 1.1 at 25 K of 50: 1000 x 0.40613 + 500 x 0.46652 = 639.4 W."""
    wanted = np.array([406.126 + 233.258])
    excess = radiator.excess_for_output(
        wanted_w=wanted, rated_w=np.array([[1000.0, 500.0]]), exponent=np.array([[1.3, 1.1]]), reference_k=50.0
    )
    assert excess[0] == pytest.approx(25.0, abs=1e-3)


def test_no_emitter_and_no_load():
    excess = radiator.excess_for_output(
        wanted_w=np.array([100.0, 0.0]), rated_w=np.array([[0.0], [500.0]]), exponent=np.full((2, 1), 1.3)
    )
    assert np.isinf(excess[0])
    assert excess[1] == 0.0


def test_scalar_equals_array():
    flows = np.array([35.0, 45.0, 55.0])
    many = radiator.log_excess(flow_c=flows, return_c=flows - 5, room_c=20.0)
    assert [radiator.log_excess(flow_c=f, return_c=f - 5, room_c=20.0) for f in flows] == pytest.approx(many.tolist())


def test_quick_rule_of_the_face():
    """A T22 gives about 1 500 W per m2 of face at 50 deg C mean water and 20 deg C room (common practice)."""
    rated = radiator.panel_rating(length_m=1.0, height_m=0.6, w_per_m_at_600=1750, height_exponent=0.8)
    given = radiator.output(rated_w=rated, exponent=1.3, excess_k=30.0, reference_k=50.0)
    assert given / 0.6 == pytest.approx(1500, rel=0.02)


def test_exponent_of_nothing_is_refused():
    with pytest.raises(PhysicsError, match="exponent"):
        radiator.excess_for_output(wanted_w=np.array([1.0]), rated_w=np.array([[1.0]]), exponent=np.array([[0.0]]))


def mixed(wanted, **changes):
    """Two rooms: a panel beside a floor (its excess by the log mean), and a panel counted by the plain mean."""
    plain = {
        "rated_w": np.array([[2000.0, 1500.0], [1200.0, 0.0]]), "exponent": np.array([[1.3, 1.0], [1.3, 1.3]]),
        "spread_k": np.array([[8.0, 4.0], [10.0, 10.0]]), "room_c": np.array([20.0, 18.0]), "reference_k": 50.0,
        "arithmetic": np.array([[False, False], [True, True]]),
    }  # fmt: skip
    return radiator.flow_for_mix(wanted_w=np.asarray(wanted, float), **plain | changes)


@pytest.mark.parametrize("wanted", [240.0, 900.0, 2400.0, 9000.0])
def test_the_water_of_a_mix_gives_what_is_wanted(wanted):
    """What every emitter gives at the flow found, by EN 442 written out here; together it is what was asked for."""
    flow = mixed([wanted, wanted])

    def log_mean(forth, back):
        return (forth - back) / math.log(forth / back)

    over = flow - np.array([20.0, 18.0])
    first = 0.0  # an emitter whose return would be colder than the room gives nothing
    for rated, n, spread in ((2000.0, 1.3, 8.0), (1500.0, 1.0, 4.0)):
        if over[0] > spread:
            first += rated * (log_mean(over[0], over[0] - spread) / 50.0) ** n
    assert first == pytest.approx(wanted, rel=1e-6)
    assert 1200.0 * ((over[1] - 5.0) / 50.0) ** 1.3 == pytest.approx(wanted, rel=1e-6)


def test_a_mix_that_is_asked_for_nothing_or_has_nothing():
    assert mixed([0.0, 0.0]).tolist() == [20.0, 18.0]
    assert mixed([-5.0, 0.0]).tolist() == [20.0, 18.0]
    none = mixed([300.0, 0.0], rated_w=np.zeros((2, 2)))
    assert none.tolist() == [math.inf, 18.0]
    half = mixed([300.0, 300.0], rated_w=np.array([[0.0, 0.0], [1200.0, 0.0]]))
    assert math.isinf(half[0])
    assert half[1] == pytest.approx(mixed([300.0, 300.0])[1])
    with pytest.raises(PhysicsError) as refused:
        mixed([300.0, 300.0], exponent=np.array([[1.3, 0.0], [1.3, 1.3]]))
    assert refused.value.problems[0].path == "exponent"


def test_the_plain_mean_is_never_below_nothing():
    assert radiator.arithmetic_excess(flow_c=30.0, return_c=20.0, room_c=26.0) == 0.0
    assert radiator.arithmetic_excess(
        flow_c=np.array([45.0, 20.0]), return_c=np.array([35.0, 18.0]), room_c=21.0
    ).tolist() == [19.0, 0.0]
    assert isinstance(radiator.arithmetic_excess(flow_c=45.0, return_c=35.0, room_c=21.0), float)
