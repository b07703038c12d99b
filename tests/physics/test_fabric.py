"""U-values against hand calculations by ISO 6946:2017 (from memory)."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cinder.errors import PhysicsError
from cinder.physics.losses.fabric import (
    bridged_layer,
    homogeneous_layer,
    resistance_layer,
    transmittance,
    window_transmittance,
)


def test_filled_cavity_wall_by_hand():
    # 13 mm plaster 0.57, 105 mm brick 0.56, 50 mm beads 0.038, 105 mm brick 0.77:
    # 0.13 + 0.0228 + 0.1875 + 1.3158 + 0.1364 + 0.04 = 1.8325 -> U 0.546
    layers = [
        homogeneous_layer(thickness_m=d, lambda_w_mk=k)
        for d, k in ((0.013, 0.57), (0.105, 0.56), (0.05, 0.038), (0.105, 0.77))
    ]
    worked = transmittance(layers, rsi=0.13, rse=0.04)
    assert worked.r_total == pytest.approx(1.8325, abs=2e-4)
    assert worked.u_w_m2k == pytest.approx(0.5457, abs=2e-4)


def test_unfilled_cavity_with_air_space_by_hand():
    # 0.13 + 0.0228 + 0.1875 + 0.18 + 0.1364 + 0.04 = 0.6967 -> U 1.435
    layers = [
        homogeneous_layer(thickness_m=0.013, lambda_w_mk=0.57),
        homogeneous_layer(thickness_m=0.105, lambda_w_mk=0.56),
        resistance_layer(r_m2kw=0.18),
        homogeneous_layer(thickness_m=0.105, lambda_w_mk=0.77),
    ]
    assert transmittance(layers, rsi=0.13, rse=0.04).u_w_m2k == pytest.approx(1.4353, abs=3e-4)


def test_bridged_loft_by_both_limits_by_hand():
    # 12.5 mm board 0.21 (0.0595), 100 mm wool 0.040 (2.5) with 9 % joists 0.13 (0.7692), Rsi 0.10, Rse 0.04.
    # Upper: wool path 0.1 + 0.0595 + 2.5 + 0.04 = 2.6995, joist path 0.9687: 1/(0.91/2.6995 + 0.09/0.9687) = 2.3256
    # Lower: 0.1 + 0.0595 + 1/(0.91/2.5 + 0.09/0.7692) + 0.04 = 0.1995 + 2.0790 = 2.2785
    # Mean 2.3021 -> U 0.4344
    layers = [
        homogeneous_layer(thickness_m=0.0125, lambda_w_mk=0.21),
        bridged_layer(thickness_m=0.1, lambda_w_mk=0.04, bridge_lambda_w_mk=0.13, share=0.09),
    ]
    worked = transmittance(layers, rsi=0.10, rse=0.04)
    assert worked.r_upper == pytest.approx(2.3256, abs=5e-4)
    assert worked.r_lower == pytest.approx(2.2785, abs=5e-4)
    assert worked.u_w_m2k == pytest.approx(0.4344, abs=2e-4)


def test_triple_window_by_hand():
    # 0.7 x 0.6 + 0.3 x 1.0 + 2.3 x 0.04 = 0.812 (ISO 10077-1, from memory)
    u = window_transmittance(
        glass_u_w_m2k=0.6, frame_u_w_m2k=1.0, frame_share=0.3, edge_psi_w_mk=0.04, edge_m_per_m2=2.3
    )
    assert u == pytest.approx(0.812)


@given(
    st.lists(
        st.tuples(st.floats(0.005, 0.5), st.floats(0.02, 3.0), st.floats(0.02, 3.0), st.floats(0, 0.6)),
        min_size=1,
        max_size=4,
    )
)
def test_limits_keep_their_order(layers):
    """Parallel paths never conduct more than isothermal planes: R_upper >= R_lower."""
    made = [bridged_layer(thickness_m=d, lambda_w_mk=a, bridge_lambda_w_mk=b, share=f) for d, a, b, f in layers]
    worked = transmittance(made, rsi=0.13, rse=0.04)
    assert worked.r_upper >= worked.r_lower * (1 - 1e-12)
    assert 0 < worked.u_w_m2k < 1 / 0.17


@pytest.mark.parametrize("bad", [0.0, -0.1, float("nan"), float("inf")])
def test_impossible_thickness_is_named(bad):
    with pytest.raises(PhysicsError, match="thickness_m"):
        homogeneous_layer(thickness_m=bad, lambda_w_mk=0.5)
