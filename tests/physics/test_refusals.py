"""What a law refuses, and by which name: at the edge it is taken, beyond it is not."""

import math
from contextlib import contextmanager

import numpy as np
import pytest

from cinder.errors import PhysicsError
from cinder.physics.climate import sun
from cinder.physics.flow import pipe, pump
from cinder.physics.losses import air, fabric, ground, unheated, vapour
from cinder.physics.rooms import radiator
from cinder.physics.store import cylinder

BASEMENT = ground.heated_basement(
    area_m2=60.0, exposed_perimeter_m=32.0, wall_thickness_m=0.3, floor_r_m2kw=0.0, wall_r_m2kw=0.3, depth_m=2.0,
    lambda_ground_w_mk=2.0,
)  # fmt: skip
EDGE = {"b_m": 6.0, "dt_m": 0.5, "lambda_ground_w_mk": 2.0, "kind": "vertical", "width_m": 0.6, "thickness_m": 0.05,
        "lambda_insulation_w_mk": 0.035}  # fmt: skip
DEEP = {"area_m2": 60.0, "exposed_perimeter_m": 32.0, "wall_thickness_m": 0.3, "floor_r_m2kw": 0.5, "wall_r_m2kw": 0.3,
        "depth_m": 2.0, "lambda_ground_w_mk": 2.0}  # fmt: skip
CELLAR = {"area_m2": 60.0, "exposed_perimeter_m": 32.0, "below": BASEMENT, "depth_m": 2.0, "floor_above_u_w_m2k": 1.0,
          "height_above_ground_m": 0.4, "wall_above_u_w_m2k": 1.6, "volume_m3": 144.0, "air_per_h": 0.3}  # fmt: skip
SLAB = {
    "area_m2": 60.0,
    "exposed_perimeter_m": 32.0,
    "wall_thickness_m": 0.3,
    "floor_r_m2kw": 0.5,
    "lambda_ground_w_mk": 2.0,
}
LAWS = {
    "slab": (ground.slab_on_ground, SLAB),
    "edge": (ground.edge_insulation, EDGE),
    "basement": (ground.heated_basement, DEEP),
    "basement wall": (ground.basement_wall, {"wall_r_m2kw": 0.3, "dt_m": 0.7, "depth_m": 2.0, "lambda_ground_w_mk": 2.0}),
    "cellar": (ground.unheated_basement, CELLAR),
    "dew point": (vapour.dew_point_c, {"temperature_c": 20.0, "relative_humidity": 0.5}),
    "store": (cylinder.stored_heat_kwh, {"volume_l": 200.0, "cold_c": 10.0, "hot_c": 48.0}),
    "reheat": (cylinder.reheat_minutes, {"volume_l": 200.0, "cold_c": 10.0, "hot_c": 48.0, "power_w": 5000.0}),
    "n50": (air.n50_from_q50, {"q50_m3h_m2": 5.0, "envelope_m2": 300.0, "volume_m3": 250.0}),
    "layer": (fabric.homogeneous_layer, {"thickness_m": 0.1, "lambda_w_mk": 0.04}),
    "resistance": (fabric.resistance_layer, {"r_m2kw": 0.5}),
    "bridged": (fabric.bridged_layer,
                {"thickness_m": 0.1, "lambda_w_mk": 0.04, "bridge_lambda_w_mk": 0.13, "share": 0.12}),
    "panel": (radiator.panel_rating,
              {"length_m": 1.0, "height_m": 0.6, "w_per_m_at_600": 1700.0, "height_exponent": 0.8}),
    "valve": (pipe.valve_pa, {"flow_lph": 300.0, "kv_m3h": 1.2}),
}  # fmt: skip
POSITIVE = {
    "slab": ("wall_thickness_m", "lambda_ground_w_mk", "area_m2"),
    "edge": ("dt_m", "width_m", "thickness_m", "lambda_insulation_w_mk"),
    "basement": ("depth_m", "wall_thickness_m", "lambda_ground_w_mk", "area_m2"),
    "basement wall": ("depth_m",), "cellar": ("area_m2", "floor_above_u_w_m2k"), "dew point": ("relative_humidity",),
    "store": ("volume_l",), "reheat": ("power_w", "volume_l"), "n50": ("volume_m3",), "layer": ("thickness_m", "lambda_w_mk"),
    "resistance": ("r_m2kw",), "bridged": ("thickness_m", "lambda_w_mk", "bridge_lambda_w_mk"), "panel": ("length_m", "height_m"),
    "valve": ("kv_m3h",),
}  # fmt: skip
NOT_NEGATIVE = {
    "slab": ("floor_r_m2kw", "exposed_perimeter_m"), "basement": ("floor_r_m2kw", "wall_r_m2kw"), "basement wall": ("wall_r_m2kw",),
    "cellar": ("air_per_h",), "n50": ("q50_m3h_m2", "envelope_m2"), "bridged": ("share",),
}  # fmt: skip


@contextmanager
def refused_as(name):
    """A refusal that calls the quantity by exactly this name."""
    with pytest.raises(PhysicsError) as refused:
        yield
    assert [problem.path for problem in refused.value.problems] == [name]


@pytest.mark.parametrize(("law", "name"), [(law, name) for law, names in POSITIVE.items() for name in names])
def test_what_must_be_more_than_nothing(law, name):
    function, given = LAWS[law]
    function(**given)
    for bad in (0.0, -1.0, math.nan, math.inf):
        with refused_as(name):
            function(**given | {name: bad})


@pytest.mark.parametrize(("law", "name"), [(law, name) for law, names in NOT_NEGATIVE.items() for name in names])
def test_what_may_be_nothing_but_not_less(law, name):
    function, given = LAWS[law]
    function(**given | {name: 0.0})
    with refused_as(name):
        function(**given | {name: -0.001})


@pytest.mark.parametrize("name", ["frame_share", "g_value", "shading"])
def test_shares_of_a_window_lie_between_nothing_and_all(name):
    given = {"area_m2": 2.0, "frame_share": 0.25, "g_value": 0.6, "shading": 0.5, "irradiance_w_m2": np.array([500.0])}
    for edge in (0.0, 1.0):
        sun.window_gain_w(**given | {name: edge})
    for bad in (-0.01, 1.01):
        with refused_as(name):
            sun.window_gain_w(**given | {name: bad})


def test_a_band_of_a_wall_begins_at_the_ground_or_below_and_ends_deeper():
    given = {"wall_r_m2kw": 0.3, "dt_m": 0.7, "lambda_ground_w_mk": 2.0}
    with refused_as("from_m"):
        ground.basement_wall_band(**given, from_m=-0.1, to_m=1.0)
    for to_m in (1.0, 0.5):
        with refused_as("to_m - from_m"):
            ground.basement_wall_band(**given, from_m=1.0, to_m=to_m)


def test_conductances_of_a_space_and_a_pump_that_goes_back():
    plain = {"from_rooms_w_k": np.array([10.0]), "to_outside_w_k": 5.0, "to_ground_w_k": 1.0}
    for name in ("to_outside_w_k", "to_ground_w_k"):
        with refused_as(name):
            unheated.weights(**plain | {name: -1.0})
    with refused_as("from_rooms_w_k"):
        unheated.weights(**plain | {"from_rooms_w_k": np.array([-1.0])})
    with refused_as("conductance"):
        unheated.weights(from_rooms_w_k=np.array([0.0]), to_outside_w_k=0.0, to_ground_w_k=0.0)
    with refused_as("curve_flow_lph"):
        pump.head_kpa(
            flow_lph=100.0, curve_flow_lph=np.array([0.0, 500.0, 400.0]), curve_head_kpa=np.array([60.0, 40.0, 30.0])
        )
