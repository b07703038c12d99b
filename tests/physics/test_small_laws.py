"""Small laws by hand: water vapour, a neighbour's home over the weather, sun through a window, bands of a wall in the earth."""

import math

import numpy as np
import pytest

from cinder.physics import cylinder, ground, sun, unheated, vapour


@pytest.mark.parametrize(
    ("t", "pa"),
    # ISO 13788:2012, annex E, from memory; checked against the boiling curve of any steam table within 0.2 %
    [(-20.0, 103), (-10.0, 260), (-5.0, 401), (0.0, 611), (5.0, 872), (10.0, 1228), (20.0, 2337), (30.0, 4241)],
)
def test_saturation_of_water_vapour(t, pa):
    assert float(vapour.saturation_pressure_pa(temperature_c=t)) == pytest.approx(pa, rel=3e-3)


@pytest.mark.parametrize(
    ("t", "rh", "dew"), [(20.0, 0.5, 9.3), (20.0, 1.0, 20.0), (25.0, 0.6, 16.7), (0.0, 0.5, -8.2), (-5.0, 0.8, -7.5)]
)
def test_dew_point(t, rh, dew):
    """Common tables of building physics; below freezing over ice."""
    found = vapour.dew_point_c(temperature_c=t, relative_humidity=rh)
    assert found == pytest.approx(dew, abs=0.15)
    wet = float(vapour.saturation_pressure_pa(temperature_c=found))
    assert wet == pytest.approx(rh * float(vapour.saturation_pressure_pa(temperature_c=t)), rel=2e-3)


def test_vapour_goes_straight_over_the_thickness_it_is_worth():
    """By hand: 20 deg C at 50 % inside is 1168.5 Pa, -5 deg C at 80 % outside 321 Pa; a third and two thirds of the way."""
    found = vapour.diffusion(
        sd_m=np.array([1.0, 1.0, 1.0]),
        temperature_c=np.array([18.0, 15.0, 2.0, -5.0]),
        inside_humidity=0.5,
        outside_humidity=0.8,
    )
    assert found.pressure_pa == pytest.approx([1168.5, 886.0, 603.5, 321.0], abs=1.5)
    assert found.wet == ()
    assert found.saturation_pa == pytest.approx([2063, 1704, 705, 401], rel=3e-3)
    colder = vapour.diffusion(
        sd_m=np.array([0.1, 1.0, 1.9]),
        temperature_c=np.array([18.0, 3.0, -1.0, -5.0]),
        inside_humidity=0.5,
        outside_humidity=0.8,
    )
    assert colder.wet == (1, 2)  # 1140 over 758 Pa, 858 over 562 Pa
    open_all_the_way = vapour.diffusion(
        sd_m=np.zeros(2), temperature_c=np.array([18.0, 0.0, -5.0]), inside_humidity=0.5, outside_humidity=0.8
    )
    assert open_all_the_way.pressure_pa == pytest.approx([1168.5] * 3, abs=1.5)


@pytest.mark.parametrize(
    ("on_design_day", "outdoor", "expected"),
    [
        (10.0, -3.0, 10.0),  # the design day itself
        (10.0, -10.0, 10.0),  # colder: as taken for it
        (10.0, 8.5, 15.0),  # half way to 20 outside: half way to 20 inside
        (10.0, 20.0, 20.0),
        (10.0, 25.0, 25.0),  # never colder than outdoors
        (22.0, 8.5, 22.0),  # one that is warmer stays as warm
        (22.0, 25.0, 25.0),
    ],
)
def test_a_neighbours_home_over_the_weather(on_design_day, outdoor, expected):
    found = unheated.neighbour_c(on_design_day_c=np.array([on_design_day]), design_outdoor_c=-3.0, outdoor_c=outdoor)
    assert found.tolist() == pytest.approx([expected])


def test_a_neighbours_home_over_many_temperatures_and_a_warm_design_day():
    found = unheated.neighbour_c(
        on_design_day_c=np.array([10.0, 5.0]), design_outdoor_c=-3.0, outdoor_c=np.array([-3.0, 8.5, 20.0])
    )
    assert found.shape == (3, 2)
    assert found.ravel() == pytest.approx([10.0, 5.0, 15.0, 12.5, 20.0, 20.0])
    warm = unheated.neighbour_c(
        on_design_day_c=np.array([10.0]), design_outdoor_c=20.0, outdoor_c=np.array([19.0, 24.0])
    )
    assert warm.ravel() == pytest.approx([10.0, 24.0])
    warmer = unheated.neighbour_c(on_design_day_c=np.array([18.0]), design_outdoor_c=22.0, outdoor_c=np.array([25.0]))
    assert warmer.ravel() == pytest.approx([25.0])


def test_an_unheated_space_between():
    """10 and 30 W/K from two rooms, 40 out, 20 into the ground: tenths of the whole."""
    rooms, outside, soil = unheated.weights(
        from_rooms_w_k=np.array([10.0, 30.0]), to_outside_w_k=40.0, to_ground_w_k=20.0
    )
    assert rooms.tolist() == [0.1, 0.3]
    assert (outside, soil) == (0.4, 0.2)


def test_sun_through_a_window():
    """2 m2, a quarter frame, g 0.6, half of it shaded, 0.9 for not square on: 0.405 m2 let in."""
    found = sun.window_gain_w(
        area_m2=2.0, frame_share=0.25, g_value=0.6, shading=0.5, irradiance_w_m2=np.array([0.0, 100.0, 500.0])
    )
    assert found.tolist() == pytest.approx([0.0, 40.5, 202.5])
    assert sun.window_gain_w(
        area_m2=1.0, frame_share=1.0, g_value=1.0, shading=1.0, irradiance_w_m2=np.array([500.0])
    ).tolist() == [0.0]  # fmt: skip


def test_bands_of_a_wall_in_the_earth_add_up_to_the_whole():
    given = {"wall_r_m2kw": 0.3, "dt_m": 0.7, "lambda_ground_w_mk": 2.0}
    whole = ground.basement_wall(**given, depth_m=2.4)
    upper, lower = (
        ground.basement_wall_band(**given, from_m=0.0, to_m=1.0),
        ground.basement_wall_band(**given, from_m=1.0, to_m=2.4),
    )
    assert upper == pytest.approx(ground.basement_wall(**given, depth_m=1.0))
    assert upper * 1.0 + lower * 1.4 == pytest.approx(whole * 2.4)
    assert lower < whole < upper  # the deeper, the warmer the earth beside it


def test_a_wall_in_the_earth_by_the_formula():
    """dw = 2 (0.13 + 0.3 + 0.04) = 0.94; U = 2 l / (pi z) (1 + 0.5 dt/(dt + z)) ln(z/dw + 1), ISO 13370 (from memory)."""
    expected = 4 / (math.pi * 2.0) * (1 + 0.35 / 2.7) * math.log(2.0 / 0.94 + 1)
    assert ground.basement_wall(wall_r_m2kw=0.3, dt_m=0.7, depth_m=2.0, lambda_ground_w_mk=2.0) == pytest.approx(
        expected
    )


def test_heat_and_time_of_a_store():
    """200 L by 38 K at 1.163 Wh/LK: 8.84 kWh, 106 minutes at 5 kW; nothing where it is hot already."""
    assert cylinder.stored_heat_kwh(volume_l=200.0, cold_c=10.0, hot_c=48.0) == pytest.approx(8.8388)
    assert cylinder.stored_heat_kwh(volume_l=200.0, cold_c=48.0, hot_c=48.0) == 0.0
    assert cylinder.reheat_minutes(volume_l=200.0, cold_c=10.0, hot_c=48.0, power_w=5000.0) == pytest.approx(
        106.07, abs=0.01
    )
