"""Ground floors by ISO 13370:2017 (from memory), worked by hand."""

import math

import pytest

from cinder.errors import PhysicsError
from cinder.physics.losses.ground import characteristic_dimension, slab_on_ground, suspended_floor


def slab(**changes):
    values = {
        "area_m2": 100.0,
        "exposed_perimeter_m": 40.0,
        "wall_thickness_m": 0.3,
        "floor_r_m2kw": 0.0,
        "lambda_ground_w_mk": 2.0,
    }
    return slab_on_ground(**values | changes)


def test_bare_slab_by_hand():
    # B' = 100/20 = 5; d_t = 0.3 + 2 x 0.21 = 0.72; U = 4/(15.708 + 0.72) x ln(15.708/0.72 + 1) = 0.24349 x 3.1275
    assert slab().u_w_m2k == pytest.approx(0.7615, abs=2e-4)


def test_well_insulated_slab_by_hand():
    # R 3.0: d_t = 0.3 + 2 x 3.21 = 6.72 >= B' -> 2/(0.457 x 5 + 6.72) = 2/9.005 = 0.2221
    worked = slab(floor_r_m2kw=3.0)
    assert worked.well_insulated
    assert worked.u_w_m2k == pytest.approx(0.2221, abs=1e-4)


def test_the_two_forms_meet():
    """At d_t = B' the two formulas differ by little: the standard joins them there."""
    r = (5.0 - 0.3) / 2.0 - 0.21
    below, above = slab(floor_r_m2kw=r - 1e-6).u_w_m2k, slab(floor_r_m2kw=r + 1e-6).u_w_m2k
    assert below == pytest.approx(above, rel=0.015)


def test_suspended_floor_by_hand():
    # d_g = 0.25 + 0.42 = 0.67; U_g = 4/(15.708 + 0.67) x ln(24.445) = 0.7806;
    # U_x = 2 x 0.3 x 1.7/5 + 1450 x 0.0015 x 4 x 0.05/5 = 0.204 + 0.087; 1/U = 1/1.5 + 1/1.0716
    worked = suspended_floor(
        area_m2=50, exposed_perimeter_m=20, wall_thickness_m=0.25, floor_u_w_m2k=1.5, lambda_ground_w_mk=2.0,
        height_above_ground_m=0.3, wall_u_w_m2k=1.7, vent_area_m2_per_m=0.0015, wind_m_s=4.0, wind_shield=0.05,
    )  # fmt: skip
    assert worked.ground_u_w_m2k == pytest.approx(0.7806, abs=3e-4)
    assert worked.u_w_m2k == pytest.approx(0.6251, abs=2e-4)


def test_a_floor_without_edge_loses_nothing():
    assert math.isinf(characteristic_dimension(area_m2=10.0, exposed_perimeter_m=0.0))
    assert slab(exposed_perimeter_m=0.0).u_w_m2k == 0.0


def test_more_edge_or_less_insulation_loses_more():
    assert slab(exposed_perimeter_m=60.0).u_w_m2k > slab().u_w_m2k > slab(floor_r_m2kw=1.0).u_w_m2k


def test_no_area_is_refused():
    with pytest.raises(PhysicsError, match="area_m2"):
        slab(area_m2=0.0)
