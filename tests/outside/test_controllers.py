"""Settings of the kinds of controller, against plain search, closed forms and numbers read off by hand."""

import copy
import itertools
import math

import numpy as np
import pytest
from scipy.optimize import brentq

from cinder.design import design
from cinder.design.apart import controllers
from cinder.design.curve import fit as fitting
from cinder.model import parse
from cinder.model.scheme import Control
from cinder.physics.machine import curve as law
from tests.conftest import counting_house, tansy_cut

OUT = np.arange(-5.0, 16.0)
NEED = 20.0 + 24.0 * ((20.0 - OUT) / 25.0) ** (1 / 1.3) + 2.5 * (20.0 - OUT) / 25.0
"""A radiator room: 20 deg C, 44 mean at -5, exponent 1.3, spread 5 K at constant flow: the closed form of EN 442-2."""


def control(**settings):
    return Control.model_validate(settings)


def asked(need=NEED, cold=None):
    top = need[0] if cold is None else cold
    return fitting.Asked(OUT[1:], need[1:], np.ones(len(OUT) - 1), float(OUT[0]), float(top), None)


def line(found, out=OUT):
    return law.flow_at(found.setting, outdoor_c=out)


def test_two_points_are_the_least_of_all_pairs_on_the_steps():
    """Brute force: the cold end at the need rounded up, every mild end on half kelvins from 20 to 60."""
    for step in (0.5, 1.0, 2.0):
        cold = math.ceil(NEED[0] / step) * step
        found = fitting.fit(control(step_k=step), asked(cold=cold))
        serving = [
            mild
            for mild in np.arange(20.0, 60.0, step)
            if np.all(np.interp(OUT, [-5.0, 15.0], [cold, mild]) >= NEED - 1e-9)
        ]
        assert (found.setting.cold_flow_c, found.setting.mild_flow_c) == (cold, min(serving))


@pytest.mark.parametrize("exponent", [1.0, 0.77])
def test_slope_and_level_are_the_best_of_every_pair(exponent):
    """Brute force with a formula of its own: water = 20 + level + slope * 30 * ((20 - out) / 30) ** exponent."""
    found = fitting.fit(control(kind="slope", slope={"exponent": exponent}), asked()).setting
    best = None
    for slope, level in itertools.product(np.arange(0, 41) / 10, range(-15, 21)):
        water = 20 + level + slope * 30 * ((20 - OUT) / 30) ** exponent
        if np.all(water >= NEED - 1e-6):
            above = np.sum((np.maximum(water, 20.0) - NEED)[1:])
            if best is None or above < best[0] - 1e-9:
                best = (above, slope, level)
    assert (found.slope, found.level_k) == pytest.approx(best[1:])


def test_a_bent_line_lies_nearer_to_a_radiator_than_a_straight_one():
    straight = fitting.fit(control(kind="slope"), asked())
    bent = fitting.fit(control(kind="slope", slope={"exponent": 1 / 1.3}), asked())
    assert np.max(line(bent) - NEED) < np.max(line(straight) - NEED)
    assert np.all(line(bent) >= NEED - 1e-6)


def test_the_wanted_room_moves_the_pivot_along_both_axes():
    """At 22 a straight line of slope 1 about 20 is two kelvins of pivot and two of air warmer: 4 K."""
    plain = law.SlopeLevel(1.0, 0.0, 20.0, 1.0, 22.0, False, 0.0, 90.0)
    moved = law.SlopeLevel(1.0, 0.0, 20.0, 1.0, 22.0, True, 0.0, 90.0)
    assert law.flow_at(moved, outdoor_c=0.0) - law.flow_at(plain, outdoor_c=0.0) == pytest.approx(4.0)


def test_a_family_by_hand():
    """Line 10 of a made-up manual: 50 at -10, 20 at +20: one kelvin a kelvin about 20/20; so line 5 gives 35 at -10. With line 20
    read off as 60 at -10 and 24 at +20 lines lie straight between: line 15 gives 55 and 22."""
    one = law.family_of((10.0, -10.0, 50.0, 20.0, 20.0))
    assert law.numbered(one, 5.0, outdoor_c=-10.0) == pytest.approx(35.0)
    two = law.family_of((10.0, -10.0, 50.0, 20.0, 20.0), (20.0, -10.0, 60.0, 20.0, 24.0))
    assert law.numbered(two, 15.0, outdoor_c=np.array([-10.0, 20.0])) == pytest.approx([55.0, 22.0])
    for number, flow in ((10.0, 50.0), (20.0, 60.0)):
        assert law.numbered(two, number, outdoor_c=-10.0) == pytest.approx(flow)


def test_the_pivot_of_one_known_line_is_where_water_is_as_warm_as_air():
    known = (0.8, -12.0, 47.0, 10.0, 29.0)
    family = law.family_of(known)
    pivot = brentq(lambda t: 47.0 + (29.0 - 47.0) / 22.0 * (t + 12.0) - t, 0, 60)
    assert law.numbered(family, 3.0, outdoor_c=pivot) == pytest.approx(pivot)
    assert law.numbered(family, 0.8, outdoor_c=10.0) == pytest.approx(29.0)


@pytest.mark.parametrize(
    ("known", "other"),
    [((1.0, -5.0, 40.0, -5.0, 30.0), None), ((0.0, -5.0, 40.0, 10.0, 30.0), None), ((1.0, -5.0, 30.0, 10.0, 40.0), None),
     ((1.0, -5.0, 40.0, 10.0, 30.0), (1.0, -5.0, 45.0, 10.0, 33.0))],
)  # fmt: skip
def test_lines_that_make_no_family_are_refused(known, other):
    with pytest.raises(ValueError, match="line"):
        law.family_of(known, other)


def test_a_numbered_controller_without_its_manual_says_what_it_lacks():
    found = fitting.fit(control(kind="numbered"), asked())
    assert "two points" in found.lacks.lower()
    assert found.where == "numbered/known"
    assert isinstance(found.setting, law.TwoPoint)


KNOWN = {"cold_out_c": -10.0, "cold_flow_c": 50.0, "mild_out_c": 20.0, "mild_flow_c": 20.0}


def test_the_nearest_number_serves_and_the_next_one_down_does_not():
    found = fitting.fit(
        control(kind="numbered", numbered={"known": KNOWN | {"number": 10.0}, "least": 1, "greatest": 40, "step": 1, "shifts": False}),
        asked(),
    ).setting  # fmt: skip
    by_hand = lambda n: 20 + n / 10 * (20 - OUT)  # noqa: E731
    assert np.all(by_hand(found.number) >= NEED - 1e-6)
    assert np.any(by_hand(found.number - 1) < NEED - 1e-6)


def test_a_button_cannot_do_more_than_it_does():
    low = control(
        kind="offset",
        offset={"built_in": {"cold_out_c": -5.0, "cold_flow_c": 30.0, "mild_out_c": 15.0, "mild_flow_c": 22.0}},
    )
    found = fitting.fit(low, asked()).setting
    assert found.offset_k == 5.0  # the most there is, and still short
    assert law.flow_at(found, outdoor_c=-5.0) == 35.0 < NEED[0]


def test_one_temperature_is_the_need_of_the_coldest_day_rounded_up():
    assert fitting.fit(control(kind="fixed"), asked()).setting.flow_c == math.ceil(NEED[0])


def test_one_temperature_changed_by_hand_serves_both_seasons():
    found = fitting.fit(control(kind="fixed", fixed={"change_out_c": 5.0}), asked()).setting
    assert found.flow_c == math.ceil(NEED[0])
    assert found.mild_flow_c == math.ceil(NEED[OUT >= 5.0][0])


@pytest.mark.parametrize("kind", ["two_point", "slope", "numbered", "offset", "fixed"])
def test_what_a_person_dials_in_stands(kind):
    settings = {
        "two_point": {"cold_flow_c": 51.0, "mild_flow_c": 33.0},
        "slope": {"slope": {"slope": 1.2, "level_k": 3.0}},
        "numbered": {"numbered": {"known": KNOWN | {"number": 1.0}, "number": 1.3, "level_k": -2.0}},
        "offset": {"offset": {"built_in": KNOWN, "offset_k": -3.0}},
        "fixed": {"fixed": {"flow_c": 44.0}},
    }[kind]
    # the desk asks for the cold end a person has set where there is one
    found = fitting.fit(control(kind=kind, **settings), asked(cold=settings.get("cold_flow_c")))
    by_hand = {
        "two_point": 51 - 18 * 0.5,
        "slope": 20 + 3 + 1.2 * 15,
        "numbered": 20 + 1.3 * 15 - 2,
        "offset": 35 - 3,
        "fixed": 44,
    }[kind]
    assert law.unlimited(found.setting, outdoor_c=5.0) == pytest.approx(by_hand)
    assert fitting.by_hand(control(kind=kind, **settings))
    assert not fitting.by_hand(fitting.freed(control(kind=kind, **settings)))


@pytest.fixture(scope="module")
def whole():
    document = tansy_cut()
    told = document["schemes"][document["active_scheme"]].setdefault("control", {})
    told["numbered"] = {"known": KNOWN | {"number": 1.0, "cold_flow_c": 55.0}}
    told["offset"] = {"built_in": KNOWN}
    job = parse(document)
    return document, job, design(job)


def test_every_kind_walks_the_whole_chain(whole):
    """Each row of the comparison is what the house says with that kind chosen; kinds with more freedom draw no more."""
    document, job, now = whole
    found = controllers.judge(job, now)
    assert [row.kind for row in found.rows] == list(fitting.KINDS)
    for row in found.rows:
        other = copy.deepcopy(document)
        other["schemes"][other["active_scheme"]]["control"]["kind"] = row.kind
        result = design(parse(other))
        assert (result.curve.kind, result.curve.lacks) == (row.kind, row.lacks)
        assert result.season.electricity_kwh == pytest.approx(row.bought_kwh, rel=1e-12)
        assert result.curve.line_c == row.line_c
    drawn = {row.kind: row.bought_kwh for row in found.rows}
    assert drawn["fixed"] > drawn["slope"]
    serving = [row for row in found.rows if row.serves]
    assert min(row.more_kwh for row in serving) == 0.0


def test_going_up_costs_more_than_going_down_saves(whole):
    """*Common practice*: the machine gets better as it gets cooler."""
    _, job, now = whole
    moved = {one.k: one.kwh for one in controllers.judge(job, now).shifts}
    assert moved[-5.0] < 0 < moved[5.0]
    assert moved[5.0] > -moved[-5.0]


def test_the_band_is_the_need_of_a_house_that_loses_so_much_more(whole):
    """Two routes: the outdoor temperature moved, against every piece of the house and its air scaled by a tenth."""
    _, job, now = whole
    found = controllers.judge(job, now, loss_range=(0.9, 1.1)).band
    need = np.array([np.nan if v is None else v for v in now.curve.needed_c])
    high = np.array([np.nan if v is None else v for v in found.high_c])
    on = np.isfinite(need) & (np.array(now.curve.outdoor_c) > -3) & (np.array(now.curve.outdoor_c) < 10)
    # a radiator gives a tenth more where its excess is 1.1 ** (1 / 1.3) = 1.076 as large: the rooms' mean is near 20
    by_law = 20.0 + (need - 20.0) * 1.1 ** (1 / 1.25)
    assert np.abs(high - by_law)[on].max() < 0.8
    assert np.all(np.diff([found.low_c[8], need[8], found.high_c[8]]) > 0)


def test_economy_first_lets_rooms_be_a_kelvin_short():
    document = tansy_cut()
    told = document["schemes"][document["active_scheme"]].setdefault("control", {})
    comfort = design(parse(document)).curve
    told["priority"] = "economy"
    economy = design(parse(document)).curve
    assert (comfort.tolerance_k, economy.tolerance_k) == (0.3, 1.0)
    assert comfort.short_room_k <= 0.3 + 1e-9 < economy.short_room_k <= 1.0 + 1e-9
    assert economy.mild_flow_c < comfort.mild_flow_c


def test_limits_that_cross_are_told_and_the_upper_one_goes():
    document = tansy_cut()
    document["schemes"][document["active_scheme"]]["control"] = {"least_flow_c": 50.0, "greatest_flow_c": 40.0}
    found = design(parse(document))
    assert any("limits cross" in one.what for one in found.findings)
    assert set(found.curve.line_c) == {40.0}


def test_a_hybrid_says_what_its_own_controller_is_told():
    document = counting_house()
    job = parse(document)
    found = controllers.judge(job, design(job))
    told = {row.key: row.value for row in found.boiler}
    # 26 p against 6.4 p at 67.5 %: cheaper above 26 / 6.4 * 0.675
    assert told["efficiency"] == 67.5
    assert told["checks"] == 20.0
    assert f"above {26 / 6.4 * 0.675:.2f}" in found.boiler_why
    document["schemes"][document["active_scheme"]].setdefault("control", {})["boiler"] = {
        "checks_minutes": 10.0,
        "prices_by": "Wren Tolley",
    }
    again = controllers.judge(parse(document), design(parse(document)))
    assert {row.key: row.value for row in again.boiler}["checks"] == 10.0
    assert "Wren Tolley" in again.boiler_why


def test_a_blended_circuit_has_the_line_its_own_rooms_need():
    document = tansy_cut()
    scheme = document["schemes"][document["active_scheme"]]
    scheme["zones"] = {"floor": {"label": "The floor", "rooms": ["garden"], "mixed": True}}
    found = design(parse(document)).curve
    (circuit,) = found.circuits
    needed = [v for v in circuit.needed_c if v is not None]
    assert needed == [v for v in found.rooms["garden"] if v is not None][: len(needed)]
    cold = found.outdoor_c.index(-3.0)
    assert circuit.line_c[cold] >= circuit.needed_c[cold] - 1e-6
    assert circuit.line_c[cold] < found.line_c[cold]
    assert circuit.over_k is not None
    assert circuit.over_k > 0


def test_a_blended_circuit_against_one_temperature_for_all_is_its_pump_less_what_floats():
    """Pump: 34 W through the heating hours; what floats, hour by hour of the climate's bins, by hand."""
    document = tansy_cut()
    zones = {"w": {"label": "Garden floor", "rooms": ["garden"], "mixed": True}}
    document["schemes"]["lukewarm"]["zones"] = zones
    job = parse(document)
    found = controllers.judge(job, design(job)).circuits[0]
    zones["w"]["mixed"] = False
    plain = design(parse(document))
    assert found.pump_kwh == pytest.approx(34.0 * plain.season.heating_hours / 1000, rel=0.01)
    room = next(one for one in plain.rooms if one.id == "garden")
    floats = 0.0
    for n, out in enumerate(plain.curve.outdoor_c):
        if out < plain.curve.heating_limit_c:
            floats += plain.curve.hours[n] * max(plain.curve.over_k["garden"][n] or 0.0, 0.0)
    by_hand = (
        floats * room.room_share_of_house_w / (room.target_c - plain.house.outdoor_c) / 1000 / plain.season.performance
    )
    assert found.warm_kwh == pytest.approx(by_hand)
    assert found.net_kwh == pytest.approx(found.pump_kwh - found.warm_kwh)
