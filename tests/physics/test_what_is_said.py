"""What a refusal says, to the letter: it goes to the screen as it stands, with the quantity, its value and the bound."""

import numpy as np
import pytest

from cinder.errors import PhysicsError
from cinder.physics.climate import demand, sun, weather
from cinder.physics.flow import network, pump
from cinder.physics.losses import air, fabric, unheated
from cinder.physics.rooms import floor, radiator, room_balance

SCREED = {"spacing_m": 0.15, "cover_m": 0.045, "cover_lambda_w_mk": 1.0, "covering_r_m2kw": 0.0, "pipe_m": 0.017}
GLASS = {"area_m2": 2.0, "frame_share": 0.25, "g_value": 0.6, "shading": 0.5, "irradiance_w_m2": np.array([500.0])}
AIR = {"leak_m3h": 20.0, "supply_m3h": 40.0, "drawn_m3h": 0.0, "least_m3h": 50.0}
DOWN = {"flux_w_m2": 50.0, "above_r_m2kw": 0.15, "below_r_m2kw": 1.5, "room_c": 21.0, "below_c": 9.0}
WINDOW = {"glass_u_w_m2k": 1.1, "frame_u_w_m2k": 1.4, "frame_share": 0.3, "edge_psi_w_mk": 0.06, "edge_m_per_m2": 2.5}
PIPES = {"wanted_w": np.array([500.0]), "rated_w": np.array([[1000.0]]), "exponent": np.array([[0.0]])}
DAY = {"outdoor_c": np.zeros(48), "loss_w": np.zeros(48), "gains_w": np.zeros(48), "heating_limit_c": None}
LINE = {"curve_flow_lph": np.array([0.0, 500.0, 500.0]), "curve_head_kpa": np.array([60.0, 40.0, 30.0])}
SPACE = {"from_rooms_w_k": np.array([0.0]), "to_outside_w_k": 0.0, "to_ground_w_k": 0.0}

SAID = {
    "a place": (lambda: sun.sun_path(latitude_deg=91.0, longitude_deg=0.0, utc_offset_h=0.0),
                "latitude, longitude = (91.0, 0.0): no place on the earth"),
    "east of the east": (lambda: sun.sun_path(latitude_deg=50.0, longitude_deg=-180.5, utc_offset_h=0.0),
                         "latitude, longitude = (50.0, -180.5): no place on the earth"),
    "a share of glass": (lambda: sun.window_gain_w(**GLASS | {"g_value": 1.5}), "g_value = 1.5: must lie between 0 and 1"),
    "an air layer": (lambda: fabric.air_layer_resistance(thickness_m=0.31, flow="up", emissivity=0.9),
                     "thickness_m = 0.31: an air layer is at most 300 mm; a larger space is a room"),
    "nothing in the way": (lambda: fabric.temperatures_through(resistances=[0.0, 0.0], inside_c=20.0, outside_c=0.0),
                           "resistances = [0.0, 0.0]: their sum must be greater than zero"),
    "a layer that pumps heat": (lambda: fabric.temperatures_through(resistances=[0.1, -0.2], inside_c=20.0, outside_c=0.0),
                                "resistance = -0.2: must not be negative"),
    "a year too short": (lambda: weather.coldest(np.zeros(8759)),
                         "outdoor_c = (8759,): a year is 8 760 finite hours, without the leap day"),
    "a year with a gap": (lambda: weather.coldest(np.full(8760, np.nan)),
                          "outdoor_c = (8760,): a year is 8 760 finite hours, without the leap day"),
    "a space that nothing reaches": (lambda: unheated.weights(**SPACE),
                                     "conductance = 0.0: an unheated space needs at least one face that conducts"),
    "more than all back": (lambda: air.effective_flow_m3h(**AIR, recovery=1.01), "recovery = 1.01: must lie between 0 and 1"),
    "less than none back": (lambda: air.effective_flow_m3h(**AIR, recovery=-0.01), "recovery = -0.01: must lie between 0 and 1"),
    "a pump that stands": (lambda: pump.head_kpa(flow_lph=100.0, **LINE),
                           "curve_flow_lph = [0.0, 500.0, 500.0]: flows must rise from point to point"),
    "gains of another day": (lambda: demand.hourly_demand(**DAY | {"gains_w": np.zeros(47)}),
                             "gains_w = (47,): loss and gains must have the shape of the outdoor temperature, (48,)"),
    "losses of another day": (lambda: demand.hourly_demand(**DAY | {"loss_w": np.zeros(47)}),
                              "gains_w = (48,): loss and gains must have the shape of the outdoor temperature, (48,)"),
    "a pipe of wall": (lambda: floor.wet_screed(**SCREED, pipe_wall_m=0.0085),
                       "pipe_wall_m = 0.0085: the wall of a pipe is thinner than half of it"),
    "a pipe of skin": (lambda: floor.wet_screed(**SCREED, pipe_wall_m=0.0),
                       "pipe_wall_m = 0.0: the wall of a pipe is thinner than half of it"),
    "air for screed": (lambda: floor.wet_screed(**SCREED | {"cover_lambda_w_mk": 0.019}),
                       "lambda_w_mk = (0.019, 0.35): screed and pipe conduct 0.02 to 500 W/mK"),
    "silver for screed": (lambda: floor.wet_screed(**SCREED | {"cover_lambda_w_mk": 501.0}),
                          "lambda_w_mk = (501.0, 0.35): screed and pipe conduct 0.02 to 500 W/mK"),
    "pipes too near": (lambda: floor.wet_screed(**SCREED | {"spacing_m": 0.049}),
                       "spacing_m = 0.049: the method holds from 0.05 to 0.375 m"),
    "pipes too far": (lambda: floor.wet_screed(**SCREED | {"spacing_m": 0.376}),
                      "spacing_m = 0.376: the method holds from 0.05 to 0.375 m"),
    "a thick carpet": (lambda: floor.wet_screed(**SCREED | {"covering_r_m2kw": 0.151}),
                       "covering_r_m2kw = 0.151: the method holds from 0 to 0.15 m2K/W"),
    "a carpet that warms": (lambda: floor.wet_screed(**SCREED | {"covering_r_m2kw": -0.001}),
                            "covering_r_m2kw = -0.001: the method holds from 0 to 0.15 m2K/W"),
    "a thin pipe": (lambda: floor.wet_screed(**SCREED | {"pipe_m": 0.0099}), "pipe_m = 0.0099: an outer diameter of 10 to 30 mm"),
    "a thick pipe": (lambda: floor.wet_screed(**SCREED | {"pipe_m": 0.0301}), "pipe_m = 0.0301: an outer diameter of 10 to 30 mm"),
    "a bare pipe": (lambda: floor.wet_screed(**SCREED | {"cover_m": 0.0099}),
                    "cover_m = 0.0099: the material over the pipe is 10 to 250 mm thick"),
    "a buried pipe": (lambda: floor.wet_screed(**SCREED | {"cover_m": 0.251}),
                      "cover_m = 0.251: the material over the pipe is 10 to 250 mm thick"),
    "a line cooler than its mean": (lambda: floor.greatest_flux_w_m2(surface_limit_c=29.0, room_c=20.0, uneven=0.99),
                                    "uneven = 0.99: the hottest line is no cooler than the mean"),
    "a ring of pipes": (lambda: network.path_to_root({"a": "b", "b": "a"}, "a"), "parents = a: pipes run in a circle"),
    "ground that lets nothing by": (lambda: floor.downward_flux_w_m2(**DOWN | {"below_r_m2kw": 0.0}),
                                    "below_r_m2kw = 0.0: must be greater than zero"),
    "a floor that pumps": (lambda: floor.downward_flux_w_m2(**DOWN | {"above_r_m2kw": -0.1}),
                           "above_r_m2kw = -0.1: must not be negative"),
    "flux backwards": (lambda: floor.mean_surface_excess_k(-1.0), "flux_w_m2 = -1.0: must not be negative"),
    "glass": (lambda: fabric.window_transmittance(**WINDOW | {"glass_u_w_m2k": 0.0}),
              "glass_u_w_m2k = 0.0: must be greater than zero"),
    "frame": (lambda: fabric.window_transmittance(**WINDOW | {"frame_u_w_m2k": 0.0}),
              "frame_u_w_m2k = 0.0: must be greater than zero"),
    "inside surface": (lambda: fabric.transmittance([], rsi=-0.1, rse=0.04), "rsi = -0.1: must not be negative"),
    "outside surface": (lambda: fabric.transmittance([], rsi=0.1, rse=-0.04), "rse = -0.04: must not be negative"),
    "a mirror": (lambda: fabric.air_layer_resistance(thickness_m=0.02, flow="up", emissivity=0.0),
                 "emissivity = 0.0: must be greater than zero"),
    "an exponent": (lambda: radiator.excess_for_output(**PIPES), "exponent = [[0.]]: must be greater than zero"),
    "tightness": (lambda: air.leakage_air_change(n50_per_h=-1.0, shelter=1.0), "n50_per_h = -1.0: must not be negative"),
    "air that comes back": (lambda: air.air_heat_coefficient(flow_m3h=-1.0), "flow_m3h = -1.0: must not be negative"),
    "hours of a bin": (lambda: weather.degree_days_of_bins_kd(outdoor_c=np.zeros(1), hours=np.array([-1.0]), base_c=15.0),
                       "hours = [-1.]: must not be negative"),
    "warmth held back": (lambda: demand.held_back_w(np.zeros(3), hold_h=-1.0), "hold_h = -1.0: must not be negative"),
}  # fmt: skip


@pytest.mark.parametrize("what", SAID)
def test_a_refusal_to_the_letter(what):
    ask, words = SAID[what]
    with pytest.raises(PhysicsError) as refused:
        ask()
    assert refused.value.message == words
    name, rest = words.split(" = ", 1)
    (problem,) = refused.value.problems
    assert (problem.path, problem.message) == (name, rest.split(": ", 1)[1])
    assert str(problem.value) == rest.split(": ", 1)[0]


@pytest.mark.parametrize("name", ["volume_m3", "n50_per_h", "shield", "height"])
def test_nothing_leaks_less_than_nothing_into_a_room(name):
    given = {"volume_m3": 50.0, "n50_per_h": 6.0, "shield": 0.03, "height": 1.0}
    assert air.room_infiltration_m3h(**given | {name: 0.0}) == 0.0
    with pytest.raises(PhysicsError) as refused:
        air.room_infiltration_m3h(**given | {name: -1.0})
    assert refused.value.message == f"{name} = -1.0: must not be negative"


def test_edges_that_are_taken():
    """At the bound a law still holds: what lies just beyond is refused above."""
    for edge in (0.0, 1.0):
        assert air.effective_flow_m3h(**AIR, recovery=edge) > 0
    for name, edges in {
        "spacing_m": (0.05, 0.375), "covering_r_m2kw": (0.0, 0.15), "pipe_m": (0.010, 0.030), "cover_m": (0.010, 0.25),
        "cover_lambda_w_mk": (0.02, 500.0),
    }.items():  # fmt: skip
        for edge in edges:
            assert floor.wet_screed(**SCREED | {name: edge}) > 0
    assert floor.greatest_flux_w_m2(surface_limit_c=21.0, room_c=20.0, uneven=1.0) == pytest.approx(8.92)  # EN 1264-2
    for latitude, longitude in ((90.0, 180.0), (-90.0, -180.0)):
        assert sun.sun_path(latitude_deg=latitude, longitude_deg=longitude, utc_offset_h=0.0).zenith_deg.shape == (
            8760,
        )
    assert unheated.weights(from_rooms_w_k=np.array([0.25]), to_outside_w_k=0.25, to_ground_w_k=0.0)[1] == 0.5


def test_what_does_not_fit_a_house_is_refused_by_its_shape():
    rooms = room_balance.Rooms(
        target_c=np.array([20.0]), own_w=np.array([[1000.0]]), own_per_k=np.array([40.0]), trade_w_k=np.zeros((1, 1)),
        heater_w=np.zeros((1, 1)), known=np.array([True]),
    )  # fmt: skip
    one = np.ones((1, 1))
    panel = room_balance.Emitters(
        rated_w=1000 * one, exponent=1.3 * one, spread_k=10 * one, design_w=1000 * one, arithmetic=one < 0, closes=one < 0,
        reference_k=49.83,
    )  # fmt: skip
    with pytest.raises(PhysicsError) as refused:
        room_balance.Balance(rooms, panel).settle(flow_c=np.array([40.0, 50.0]))
    assert refused.value.message == "flow_c = (2,): one for every outdoor temperature"
    wide = room_balance.Rooms(
        target_c=np.array([20.0, 20.0]), own_w=rooms.own_w, own_per_k=rooms.own_per_k, trade_w_k=rooms.trade_w_k,
        heater_w=rooms.heater_w, known=rooms.known,
    )  # fmt: skip
    with pytest.raises(PhysicsError) as refused:
        room_balance.Balance(wide, panel)
    assert refused.value.message == "own_w = (1, 1): does not fit the other rooms or the emitters"
