"""A store by the day and by the charge, against exact solutions and by hand."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from cinder.errors import PhysicsError
from cinder.physics.store.charging import (
    Machine,
    charge,
    coil_share,
    flow_w_k,
    limit_c,
    minutes,
    passed_w_k,
    plate_share,
)
from cinder.physics.store.cylinder import WATER_WH_L_K
from cinder.physics.store.store_day import MINUTES, NEVER, Draws, Rule, Vessel, settle_layers, simulate

WATER = np.linspace(20.0, 62.0, 22)


def machine(greatest: float = 7000.0, least: float = 2500.0, flow: float = 1600.0, warmest: float = 62.0) -> Machine:
    water = np.linspace(20.0, warmest, 22)
    return Machine(water, np.full(22, greatest), np.full(22, least), np.linspace(4.5, 2.2, 22), flow)


def draws(*each: tuple[int, float, float, float, float]) -> Draws:
    minute, litres, flow, tap, useful = (
        (np.array(column, float) for column in zip(*each, strict=True)) if each else [np.zeros(0)] * 5
    )
    return Draws(minute.astype(np.intp), litres, flow, tap, useful)


def vessel(litres: float = 200.0, loss: float = 0.0, layers: int = 20, around: float = 20.0) -> Vessel:
    return Vessel(litres, loss, around, 0, layers - 1, layers // 2, layers // 4)


def rule(hot: float = 48.0, **more: object) -> Rule:
    base = Rule(
        hot, 6.0, np.ones(MINUTES, dtype=bool), 1170.0, False, 0.0, 0.0, False, NEVER, 60.0, 60, False,
    )  # fmt: skip
    return base._replace(**more)


# ---- a charge, stirred


def test_constant_output_heats_in_a_straight_line():
    # by hand: 200 L x 1.163 x 38 K = 8 839 Wh, at 7 000 W 75.8 min; the coil passes it all
    assert minutes(machine(), per_k=2000.0, volume_l=200, cold_c=10, hot_c=48) == pytest.approx(75.76, abs=0.05)


def test_where_the_coil_is_the_limit_the_store_follows_an_exponential():
    # exact: until the limit straight, then (warmest - T) falls as e^(-per_k t / C)
    on, per_k, capacity = machine(), 400.0, 200 * WATER_WH_L_K
    bends, stalls = limit_c(on, per_k=per_k)
    assert (bends, stalls) == (62 - 7000 / 400, 62 - 2500 / 400)
    straight = capacity * (bends - 10) / 7000
    bent = capacity / per_k * math.log((62 - bends) / (62 - 55))
    assert minutes(on, per_k=per_k, volume_l=200, cold_c=10, hot_c=55) == pytest.approx(
        (straight + bent) * 60, rel=1e-3
    )
    assert minutes(on, per_k=per_k, volume_l=200, cold_c=10, hot_c=62.5) == math.inf


def test_a_falling_output_against_a_general_solver():
    water = np.linspace(20, 62, 22)
    on = Machine(water, np.linspace(9000.0, 5200.0, 22), np.full(22, 2500.0), np.full(22, 3.0), 1600.0)
    per_k = passed_w_k(share=coil_share(ua_w_k=900.0, flow_w_k=1600.0), flow_w_k=1600.0)
    found = minutes(on, per_k=per_k, volume_l=250, cold_c=10, hot_c=52)

    def warms(_: float, store: np.ndarray) -> np.ndarray:
        return charge(on, per_k=per_k, store_c=store).heat_w / (250 * WATER_WH_L_K)

    reached = solve_ivp(warms, (0, found / 60), [10.0], rtol=1e-8, atol=1e-8).y[0, -1]
    assert reached == pytest.approx(52.0, abs=0.02)


@pytest.mark.parametrize(("kw", "least", "most"), [(7.0, 44, 76), (12.0, 43, 46)])
def test_two_hundred_litres_by_seven_to_twelve_kilowatts(kw: float, least: float, most: float):
    # common practice: 200 L from 10 to 48 deg C takes some 45 to 75 minutes by 12 to 7 kW
    took = minutes(
        machine(kw * 1000, flow=flow_w_k(flow_lph=172 * kw)), per_k=2500.0, volume_l=200, cold_c=10, hot_c=48
    )
    assert least <= took <= most


def test_a_small_coil_takes_the_machine_to_its_warmest_water():
    # 0.7 m2 at 450 W/m2K: 315 W/K over 1 600 W/K passes 1 600 (1 - e^-0.197) = 286 W/K; 7 kW would want 24.5 K over the store
    per_k = passed_w_k(share=coil_share(ua_w_k=315.0, flow_w_k=1600.0), flow_w_k=1600.0)
    found = charge(machine(), per_k=per_k, store_c=np.array([30.0, 37.0, 40.0, 48.0, 56.0]))
    assert per_k == pytest.approx(285.9, abs=0.3)
    assert found.leaving_c[0] == pytest.approx(30 + 7000 / 285.9, abs=0.05)
    assert found.limited.tolist() == [False, False, True, True, True]
    assert found.stalls.tolist() == [False, False, False, False, True]  # 62 - 2500/285.9 = 53.3


def test_cooler_than_it_was_tested_a_machine_gives_what_it_gives_there():
    found = charge(machine(), per_k=830.0, store_c=np.array([8.0]))
    assert found.heat_w[0] == pytest.approx(7000.0)
    assert found.leaving_c[0] == pytest.approx(8 + 7000 / 830)


def test_a_plate_exchanger():
    # textbook: equal flows N/(1 + N); a store side many times as large behaves as a coil
    assert plate_share(ua_w_k=3000.0, flow_w_k=1500.0, store_flow_w_k=1500.0) == pytest.approx(2 / 3)
    assert plate_share(ua_w_k=1000.0, flow_w_k=1000.0, store_flow_w_k=1e9) == pytest.approx(
        coil_share(ua_w_k=1000.0, flow_w_k=1000.0), rel=1e-6
    )


# ---- a day in layers


def by_night(first: int = 0, last: int = 400) -> np.ndarray:
    return (np.arange(MINUTES) >= first) & (np.arange(MINUTES) < last)


def test_without_mixing_the_store_gives_its_heat_to_the_last_layer():
    # plug flow: of 200 L at 50 and more the first 190 come as they are (a layer may be on its way), then it is cold
    whole = vessel()._replace(sensor=0)
    how = rule(50.0, allowed=by_night(), band_k=1.0)
    day = simulate(machine(), draws=draws((600, 190, 10, 60, 49.9)), vessel=whole, rule=how, layers=20, cold_c=10)
    assert day.short_l[0] == 0.0
    assert day.least_tap_c[0] >= 50.0
    assert day.layers_c[630].max() < 52.0
    assert day.layers_c[630, :18].max() == pytest.approx(10.0)
    more = simulate(machine(), draws=draws((600, 230, 10, 60, 49.9)), vessel=whole, rule=how, layers=20, cold_c=10)
    assert more.short_l[0] == pytest.approx(30.0)
    assert more.least_tap_c[0] == pytest.approx(10.0)


def test_mixing_at_the_tap_by_hand():
    # 60 L at 40 of T and 10: 60 x 30 / (T - 10) L from the store, 60 x 1.163 x 30 = 2 093 Wh of heat
    whole, how = vessel()._replace(sensor=0), rule(50.0, allowed=by_night(), band_k=1.0)
    day = simulate(machine(), draws=draws((600, 60, 10, 40, 40)), vessel=whole, rule=how, layers=20, cold_c=10)
    assert day.hot_l[0] == pytest.approx(60 * 30 / (day.layers_c[599, -1] - 10), rel=5e-3)
    assert day.drawn_w.sum() / 60 == pytest.approx(60 * WATER_WH_L_K * 30, rel=5e-3)


def test_what_is_warmer_below_is_stirred_as_far_as_it_must():
    # by hand: 40, 60 over 50: the first two mix to 50 with what lies over them; heat stays
    layers = np.array([60.0, 40.0, 50.0, 30.0, 70.0])
    settle_layers(layers)
    assert layers.tolist() == [45.0, 45.0, 45.0, 45.0, 70.0]
    layers = np.array([10.0, 55.0, 45.0, 52.0])
    settle_layers(layers)
    assert layers.tolist() == [10.0, 50.0, 50.0, 52.0]


def test_a_store_left_alone_cools_by_an_exponential():
    # exact: T - 20 = 30 e^(-UA t / C); a store of one temperature stays of one
    off = rule(50.0, allowed=by_night(0, 0))
    cooled = simulate(machine(), draws=draws(), vessel=vessel(loss=1.5), rule=off, layers=20, cold_c=10)
    ratio = (cooled.ended_c - 20) / (cooled.began_c - 20)
    assert ratio == pytest.approx(math.exp(-1.5 * 24 / (200 * WATER_WH_L_K)), rel=1e-3)


@pytest.mark.parametrize("plate", [False, True])
@pytest.mark.parametrize("litres", [90.0, 200.0, 300.0])
def test_the_energy_of_a_day_closes(plate: bool, litres: float):
    busy = draws(
        (425, 60, 6, 40, 40),
        (485, 110, 10, 40, 40),
        (720, 8, 4, 40, 25),
        (1245, 18, 4, 55, 40),
        (1260, 110, 10, 40, 40),
    )
    how = rule(50.0, plate=plate, store_w_k=900.0, ua_w_k=2500.0, immersion_w=3000.0, hygiene_from=60)
    day = simulate(machine(), draws=busy, vessel=vessel(litres, loss=1.6), rule=how, layers=20, cold_c=10)
    turned = (day.machine_w + day.immersion_w).mean()
    assert turned > 300
    assert abs(day.left_w) < 1e-3 * turned
    assert np.all(np.diff(day.layers_c, axis=1) > -1e-9)  # never warmer below than above


def test_a_charge_in_the_day_takes_as_long_as_the_stirred_store_says():
    # two routes: a coil through the whole height, the store cold at first, against the integral
    how = rule(48.0, allowed=by_night(60, 400), band_k=1.0)
    day = simulate(machine(), draws=draws((600, 400, 10, 60, 10)), vessel=vessel(), rule=how, layers=20, cold_c=10)
    per_k = passed_w_k(share=coil_share(ua_w_k=1170.0, flow_w_k=1600.0), flow_w_k=1600.0)
    alone = minutes(machine(), per_k=per_k, volume_l=200, cold_c=10, hot_c=48)
    assert np.count_nonzero(day.machine_w) == pytest.approx(alone, rel=0.04)


def test_a_plate_exchanger_has_hot_water_above_before_all_of_it_is_warm():
    last = {}
    for plate in (False, True):
        how = rule(48.0, plate=plate, store_w_k=185.0, ua_w_k=4000.0, allowed=by_night(60, MINUTES))
        day = simulate(machine(), draws=draws((0, 300, 20, 60, 10)), vessel=vessel(), rule=how, layers=20, cold_c=10)
        last[plate] = int(np.argmax(day.layers_c[60:, -1] > 40.0))
    # 185 W/K carry 7 kW over 38 K: one pass from 10 to 48; the coil must first warm all of it
    assert last[True] < 10 < last[False] - 20


def test_hygiene_holds_what_lies_above_the_immersion():
    how = rule(48.0, immersion_w=3000.0, hygiene_from=120, hygiene_hold=60)
    day = simulate(
        machine(), draws=draws((1200, 40, 8, 40, 40)), vessel=vessel(loss=1.5), rule=how, layers=20, cold_c=10
    )
    above = day.layers_c[:, 5:].min(axis=1)  # the immersion sits in layer 5
    assert np.count_nonzero(above >= 59.9) >= 60
    # by hand: 200 L x 15/20 above it from some 48 to 60 is 150 x 1.163 x 12 = 2.1 kWh, and an hour's losses
    assert 1.8 < day.immersion_w.sum() / 60000 < 3.0


def test_bad_stores_are_refused_by_name():
    with pytest.raises(PhysicsError, match="layers"):
        simulate(machine(), draws=draws(), vessel=vessel(), rule=rule(), layers=5, cold_c=10)
    with pytest.raises(PhysicsError, match="coil"):
        simulate(machine(), draws=draws(), vessel=vessel()._replace(coil_to=40), rule=rule(), layers=20, cold_c=10)
    with pytest.raises(PhysicsError, match="minute"):
        simulate(machine(), draws=draws((1500, 1, 1, 40, 40)), vessel=vessel(), rule=rule(), layers=20, cold_c=10)
    with pytest.raises(PhysicsError, match="flow_l_min"):
        simulate(machine(), draws=draws((100, 1, 0, 40, 40)), vessel=vessel(), rule=rule(), layers=20, cold_c=10)
    with pytest.raises(PhysicsError, match="water_c"):
        charge(Machine(np.array([50.0, 40.0]), *[np.ones(2)] * 3, 100.0), per_k=100.0, store_c=np.array([20.0]))


def test_a_draw_that_runs_on_past_midnight_goes_on_in_the_morning():
    # 120 L at 2 L/min from 23:30: 60 L before midnight, 60 L after it; all of it is drawn, as heat too
    how = rule(60.0, band_k=3.0)
    day = simulate(machine(), draws=draws((1410, 120, 2, 40, 40)), vessel=vessel(), rule=how, layers=20, cold_c=10)
    assert day.drawn_w.sum() / 60 == pytest.approx(120 * WATER_WH_L_K * 30, rel=0.02)
    assert day.drawn_w[:30].sum() == pytest.approx(day.drawn_w[1410:].sum(), rel=0.2)
