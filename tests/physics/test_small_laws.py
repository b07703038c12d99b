"""Small laws by hand: water vapour, a neighbour's home over the weather, sun through a window, bands of a wall in the earth."""

import math

import numpy as np
import pytest

from cinder.errors import PhysicsError
from cinder.physics.climate import demand, sun, weather
from cinder.physics.losses import air, fabric, ground, unheated, vapour
from cinder.physics.losses.ground import Basement
from cinder.physics.machine import heat_pump
from cinder.physics.rooms import floor
from cinder.physics.store import cylinder


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


@pytest.mark.parametrize(
    ("leak", "supply", "recovery", "drawn", "least", "flow"),
    # by hand: leak + drawn + supply (1 - eta) + what the fresh air lacks to the least
    [
        (20.0, 40.0, 0.75, 0.0, 50.0, 30.0), (20.0, 0.0, 0.0, 0.0, 50.0, 50.0), (20.0, 0.0, 0.9, 10.0, 50.0, 50.0),
        (10.0, 20.0, 0.8, 5.0, 60.0, 44.0), (0.0, 60.0, 1.0, 0.0, 60.0, 0.0), (0.0, 60.0, 0.0, 0.0, 30.0, 60.0),
    ],
)  # fmt: skip
def test_air_that_is_warmed_in_full(leak, supply, recovery, drawn, least, flow):
    """Energy balance of the exchanger: what it gives back need not be warmed, what lacks to the least air must."""
    found = air.effective_flow_m3h(
        leak_m3h=leak, supply_m3h=supply, recovery=recovery, drawn_m3h=drawn, least_m3h=least
    )
    assert float(found) == pytest.approx(flow)


def test_temperatures_through_nothing_but_the_last_layer():
    """All of the drop lies where all of the resistance lies."""
    found = fabric.temperatures_through(resistances=[0.0, 0.0, 0.5], inside_c=21.0, outside_c=-4.0)
    assert found.tolist() == [21.0, 21.0, 21.0, -4.0]
    found = fabric.temperatures_through(resistances=[0.25, 0.0, 0.25], inside_c=20.0, outside_c=0.0)
    assert found.tolist() == [20.0, 10.0, 10.0, 0.0]


def test_a_neighbour_between_and_beyond_the_days_it_is_known_for():
    """Straight from the design day to 20 at 20 outside; milder than that it is as warm as outdoors; one as warm stays."""
    given = {"on_design_day_c": np.array([10.0, 20.0, 22.0]), "design_outdoor_c": -5.0}
    assert unheated.neighbour_c(**given, outdoor_c=-5.0).tolist() == [10.0, 20.0, 22.0]
    assert unheated.neighbour_c(**given, outdoor_c=-15.0).tolist() == [10.0, 20.0, 22.0]
    assert unheated.neighbour_c(**given, outdoor_c=7.5).tolist() == [15.0, 20.0, 22.0]
    assert unheated.neighbour_c(**given, outdoor_c=20.0).tolist() == [20.0, 20.0, 22.0]
    assert unheated.neighbour_c(**given, outdoor_c=26.0).tolist() == [26.0, 26.0, 26.0]
    assert unheated.neighbour_c(**given, outdoor_c=np.array([0, 5])).tolist() == [
        [12.0, 20.0, 22.0],
        [14.0, 20.0, 22.0],
    ]
    warm = {"on_design_day_c": np.array([10.0]), "design_outdoor_c": 20.0}  # no winter at all
    assert unheated.neighbour_c(**warm, outdoor_c=20.0).tolist() == [10.0]
    assert unheated.neighbour_c(**warm, outdoor_c=25.0).tolist() == [25.0]
    short = {"on_design_day_c": np.array([10.0]), "design_outdoor_c": 19.5}
    assert unheated.neighbour_c(**short, outdoor_c=19.75).tolist() == [19.75]


def test_heat_down_from_a_floor_is_never_heat_up():
    given = {"above_r_m2kw": 0.1, "below_r_m2kw": 2.0, "room_c": 20.0}
    assert floor.downward_flux_w_m2(**given, flux_w_m2=0.0, below_c=30.0) == 0.0
    assert floor.downward_flux_w_m2(**given, flux_w_m2=40.0, below_c=10.0) == 7.0  # (0.1 x 40 + 20 - 10) / 2
    assert floor.downward_flux_w_m2(**given, flux_w_m2=10.0, below_c=20.5) == pytest.approx(0.25)


def test_the_plain_carnot_of_a_test_point():
    """By hand: water at 35 over air at 7 is 308.15 / 28; a machine with COP 4.4 has 0.3998 of it."""
    one = heat_pump.PerformanceMap(
        outdoor_c=np.array([7.0]), water_c=np.array([35.0]), greatest_w=np.array([[6000.0]]), least_w=np.array([[2000.0]]),
        cop=np.array([[4.4]]), evaporator_approach_k=5.0, condenser_approach_k=4.0, lowest_outdoor_c=-20.0,
        limit_outdoor_c=np.array([-20.0, 20.0]), limit_water_c=np.array([60.0, 60.0]),
    )  # fmt: skip
    assert float(heat_pump.carnot_fraction(one)[0, 0]) == pytest.approx(4.4 / (308.15 / 28.0), rel=1e-9)


def test_air_at_its_dew_point_and_just_over_freezing():
    assert vapour.dew_point_c(temperature_c=0.0, relative_humidity=1.0) == pytest.approx(0.0, abs=0.01)
    assert vapour.dew_point_c(temperature_c=0.5, relative_humidity=1.0) == pytest.approx(0.5, abs=1e-9)
    assert float(vapour.saturation_pressure_pa(temperature_c=0.0)) == 610.5  # ISO 13788:2012, annex E, from memory
    assert float(vapour.saturation_pressure_pa(temperature_c=0.5)) == pytest.approx(633.0, abs=1.0)


def test_gains_that_are_held_back_fade_by_one_part_in_e_an_hour():
    """By hand: a single hour of 100 W with a memory of one hour comes back as 63.2, 23.3, 8.6 W; what was before goes on."""
    pulse = np.zeros(48)
    pulse[0] = 100.0
    back = demand.held_back_w(pulse, hold_h=1.0)
    assert back[:3] == pytest.approx([63.212, 23.254, 8.555], abs=1e-3)
    assert back.sum() == pytest.approx(100.0, abs=1e-9)
    assert demand.held_back_w(np.full(48, 7.0), hold_h=5.0) == pytest.approx(7.0)  # steady gains come back steady
    ended = np.zeros(48)
    ended[-24:] = 24.0
    assert demand.held_back_w(ended, hold_h=2.0)[0] == pytest.approx(
        24.0 * math.exp(-0.5)
    )  # the year joins at its ends
    longer = np.zeros(48)
    longer[-25] = 240.0  # a day before the end counts no more
    assert demand.held_back_w(longer, hold_h=2.0)[0] == 0.0
    assert demand.held_back_w(np.zeros(0), hold_h=2.0).tolist() == []


def test_hours_in_which_the_house_is_heated():
    """A day at 10 outside after one at 0: heating goes on until the mean of 24 hours is over the limit, never below nothing."""
    outdoor = np.concatenate([np.zeros(24), np.full(24, 10.0)])
    loss, gains = np.full(48, 1000.0), np.full(48, 400.0)
    gains[30] = 1500.0
    found = demand.hourly_demand(outdoor_c=outdoor, loss_w=loss, gains_w=gains, heating_limit_c=5.0)
    # the day before the first is the last: 23 hours at 10 and one at 0 stand before it
    assert found.on[:24].tolist() == [n >= 11 for n in range(24)]
    assert found.on[24:].tolist() == [n < 12 for n in range(24)]  # twelve hours at 10 and twelve at 0: just 5
    assert found.heat_w[11] == 600.0
    assert found.heat_w[30] == 0.0
    assert found.heat_w[10] == found.heat_w[40] == 0.0
    free = demand.hourly_demand(outdoor_c=outdoor, loss_w=-loss, gains_w=gains, heating_limit_c=None)
    assert free.on.all()
    assert not free.loss_w.any()
    assert not free.heat_w.any()


def test_a_year_in_days_months_and_bins():
    year = np.full(8760, 5.0)
    year[24:96] = [-6.0] * 24 + [-9.0] * 24 + [-12.0] * 24
    year[-24:] = -10.5
    year[:24] = -12.5
    found = weather.coldest(year)
    assert (found.day_c, found.three_days_c) == (
        -12.5,
        pytest.approx(-9.667, abs=1e-3),
    )  # the year's end and its beginning
    alone = np.full(8760, 5.0)
    alone[-24:], alone[:24] = -10.0, -7.0
    assert weather.coldest(alone).three_days_c == pytest.approx(-4.0)  # -10, -7 and 5
    slices = weather.month_hours()
    assert [one.start for one in slices] == [0, 744, 1416, 2160, 2880, 3624, 4344, 5088, 5832, 6552, 7296, 8016]
    assert slices[-1].stop == 8760
    halves = np.full(8760, 0.5)
    halves[:10], halves[10:30] = -0.5, -0.4
    values, hours = weather.bins(halves)
    assert values.tolist() == [0.0, 1.0]
    assert math.copysign(1.0, values[0]) == 1.0
    assert hours.tolist() == [30.0, 8730.0]
    assert weather.corrected_for_height_c(temperature_c=0.0, from_m=0.0, to_m=1.2345678) == -0.007407  # to a millionth
    with pytest.raises(PhysicsError):
        weather.coldest(np.zeros((1, 8760)))


def test_cellars_and_voids_at_their_ends():
    """ISO 13370:2017, 7.2 and 7.4 (from memory), with terms left out one by one."""
    below = ground.heated_basement(
        area_m2=50.0, exposed_perimeter_m=30.0, wall_thickness_m=0.3, floor_r_m2kw=0.5, wall_r_m2kw=0.6, depth_m=1.8,
        lambda_ground_w_mk=2.0,
    )  # fmt: skip
    assert below.dw_m == pytest.approx(2.0 * (0.13 + 0.6 + 0.04))  # equivalent thickness of the wall
    nothing = Basement(0.0, 0.0, below.b_m, below.dt_m, below.dw_m)
    given = {"area_m2": 50.0, "exposed_perimeter_m": 30.0, "below": nothing, "depth_m": 1.8, "floor_above_u_w_m2k": 0.8,
             "height_above_ground_m": 0.0, "wall_above_u_w_m2k": 1.5, "volume_m3": 100.0, "air_per_h": 0.0}  # fmt: skip
    assert ground.unheated_basement(**given) == 0.0
    aired = ground.unheated_basement(**given | {"air_per_h": 0.5})
    assert aired == pytest.approx(1 / (1 / 0.8 + 50.0 / (0.33 * 0.5 * 100.0)))
    slightly = ground.unheated_basement(**given | {"air_per_h": 0.02})  # 0.66 W/K in all
    assert slightly == pytest.approx(1 / (1 / 0.8 + 50.0 / 0.66))
    void = {"area_m2": 50.0, "exposed_perimeter_m": 20.0, "wall_thickness_m": 0.25, "floor_u_w_m2k": 1.5, "lambda_ground_w_mk": 2.0,
            "height_above_ground_m": 0.3, "wall_u_w_m2k": 1.7, "vent_area_m2_per_m": 0.0015, "wind_m_s": 4.0,
            "wind_shield": 0.05}  # fmt: skip
    found = ground.suspended_floor(**void)
    assert (found.b_m, found.floor_u_w_m2k) == (5.0, 1.5)
    assert found.void_u_w_m2k == pytest.approx(2 * 0.3 * 1.7 / 5.0 + 1450 * 0.0015 * 4.0 * 0.05 / 5.0, rel=1e-12)
    assert found.u_w_m2k == pytest.approx(1 / (1 / 1.5 + 1 / (found.ground_u_w_m2k + found.void_u_w_m2k)), rel=1e-12)


@pytest.mark.parametrize(
    ("cover", "conductivity", "spacing", "words"),
    [
        (0.030, 0.9, 0.05, ""), (0.080, 2.0, 0.30, ""), (0.030, 1.2, 0.21, ""),
        (0.029, 1.2, 0.15, "29 mm over the pipes (30 to 80 mm)"), (0.081, 1.2, 0.15, "81 mm over the pipes (30 to 80 mm)"),
        (0.045, 0.89, 0.15, "a conductivity of 0.89 W/mK (0.9 to 2 W/mK)"),
        (0.045, 2.1, 0.15, "a conductivity of 2.1 W/mK (0.9 to 2 W/mK)"),
        (0.045, 1.2, 0.049, "a pitch of 49 mm (50 to 300 mm under this cover)"),
        (0.080, 1.2, 0.301, "a pitch of 301 mm (50 to 300 mm under this cover)"),
        (0.030, 1.2, 0.211, "a pitch of 211 mm (50 to 210 mm under this cover)"),
    ],
)  # fmt: skip
def test_what_of_a_screed_lies_outside_the_standard(cover, conductivity, spacing, words):
    assert floor.outside_standard(spacing_m=spacing, cover_m=cover, cover_lambda_w_mk=conductivity) == words


@pytest.mark.parametrize(("flux", "excess"), [(0.0, 0.0), (8.92, 1.0), (100.0, 9.0), (40.0, 3.91)])
def test_how_warm_a_floor_is_by_what_it_gives(flux, excess):
    """EN 1264-2 base curve (from memory): q = 8.92 x^1.1."""
    assert float(floor.mean_surface_excess_k(flux)) == pytest.approx(excess, abs=0.01)
    assert floor.greatest_flux_w_m2(surface_limit_c=20.0 + excess, room_c=20.0, uneven=1.0) == pytest.approx(
        flux, abs=0.15
    )
    assert floor.greatest_flux_w_m2(surface_limit_c=19.0, room_c=20.0, uneven=1.0) == 0.0


def test_a_store_is_not_heated_by_cooling_it():
    with pytest.raises(PhysicsError) as refused:
        cylinder.stored_heat_kwh(volume_l=200.0, cold_c=48.0, hot_c=10.0)
    assert refused.value.message == "hot_c - cold_c = -38.0: must not be negative"
    assert cylinder.stored_heat_kwh(volume_l=200.0, cold_c=20.0, hot_c=20.0) == 0.0


def test_an_air_layer_that_heat_goes_down_through():
    """ISO 6946:2017, annex D (from memory), by hand: 0.12 x 0.3^-0.44 = 0.2038 W/m2K, beside radiation at 10 deg C of 0.818
    of 5.149 W/m2K between ordinary faces; the thickest layer that is one is taken."""
    thick = fabric.air_layer_resistance(thickness_m=0.3, flow="down")
    assert 1 / thick == pytest.approx(0.2038 + 5.149 * 0.8182, abs=2e-3)
    foil = fabric.air_layer_resistance(thickness_m=0.1, flow="down", emissivity=0.05)
    assert 1 / foil == pytest.approx(0.12 * 0.1**-0.44 + 5.149 * 0.04972, abs=2e-3)
    with pytest.raises(PhysicsError) as refused:
        fabric.air_layer_resistance(thickness_m=0.0, flow="down")
    assert refused.value.problems[0].path == "thickness_m"
