"""Machine, season, hot water and curve of a job."""

import copy
import math

import numpy as np
import pytest

from cinder.library import load
from cinder.model import freeze
from tests.conftest import house, judged, tansy_cut


def scheme(document, **changes):
    out = copy.deepcopy(document)
    out["schemes"][out["active_scheme"]] |= changes
    return out


def test_season_against_a_plain_loop():
    """EN 14825 method (from memory) bin by bin in plain Python, on the machine's own table."""
    document = tansy_cut()
    result = judged(document)
    machine, climate = load().machines["sedge-9"], load().climates["mild-maritime"]
    curve = result.curve

    def table(values, air, water):
        def along(axis, at):
            at = min(max(at, axis[0]), axis[-1])
            k = max(i for i in range(len(axis) - 1) if axis[i] <= at or i == 0)
            return k, (at - axis[k]) / (axis[k + 1] - axis[k])

        i, u = along(machine.outdoor_c, air)
        j, v = along(machine.water_c, water)
        low = values[i][j] * (1 - v) + values[i][j + 1] * v
        high = values[i + 1][j] * (1 - v) + values[i + 1][j + 1] * v
        return low * (1 - u) + high * u

    def carnot(air, water):
        return (water + 3 + 273.15) / max(water + 3 - air + 8, 8.0)

    # what the machine must give in each bin is taken as it stands; that it is right is held in tests/outside
    loss = dict(zip(result.machine.outdoor_c, result.machine.season_load_w, strict=True))
    heat = used = 0.0
    for t, hours in zip(climate.bin_outdoor_c, climate.bin_hours, strict=True):
        if t >= 16 or t not in loss:
            continue
        need = loss[t]
        if need <= 0:
            continue
        water = curve.cold_flow_c + (curve.mild_flow_c - curve.cold_flow_c) / (15 - -3) * (t - -3)
        water = min(max(water, 20.0), curve.greatest_flow_c)
        air, near = min(max(t, -15.0), 12.0), min(max(water, 35.0), 65.0)
        cop = table(machine.cop, air, near)
        if (air, near) != (t, water):
            cop = min(cop * carnot(t, water) / carnot(air, near), max(map(max, machine.cop)))
        most, least = table(machine.greatest_w, air, near), table(machine.least_w, air, near)
        given = min(need, most)
        ratio = min(given / least, 1.0)
        if ratio < 1:
            cop *= ratio / (0.9 * ratio + 0.1)
        heat += need * hours / 1000
        used += (given / cop + need - given + machine.always_on_w) * hours / 1000
    assert result.season.heat_kwh == pytest.approx(heat, rel=1e-6)
    assert result.season.electricity_kwh == pytest.approx(used, rel=1e-6)
    assert result.season.performance == pytest.approx(heat / used, rel=1e-6)


def test_a_plausible_year():
    """Three to four bedrooms, mild and maritime: some 9 000-20 000 kWh for 7 kW; season 3 to 4.2 (common practice)."""
    season = judged(tansy_cut()).season
    assert 9_000 < season.heat_kwh < 22_000
    assert 3.0 < season.performance < 4.2


def test_candidates_are_judged_alike_and_only_one_is_chosen():
    result = judged(tansy_cut())
    assert [row.chosen for row in result.machine.rows].count(True) == 1
    large, small = result.machine.rows[0], next(row for row in result.machine.rows if row.machine == "sedge-6")
    assert small.output_w < large.output_w
    assert small.cycles_above_c > large.cycles_above_c
    assert small.bivalent_c > large.bivalent_c
    assert small.backup_share > large.backup_share


def test_bivalent_point_is_where_load_and_output_cross():
    result = judged(tansy_cut())
    row = next(row for row in result.machine.rows if row.machine == "sedge-6")
    load_at = np.interp(row.bivalent_c, result.machine.outdoor_c, result.machine.load_w)
    most = np.interp(row.bivalent_c, result.machine.outdoor_c, row.greatest_curve_w)
    assert load_at == pytest.approx(most, abs=0.2)  # the curve is given to 0.1 W


def test_outside_the_envelope_is_said_and_nothing_is_given():
    result = judged(scheme(house("three-rooms"), flow_c=75.0))
    row = result.machine.rows[0]
    assert (row.inside, row.output_w, row.cover) == (False, 0.0, 0.0)
    assert any("does not run at this design day" in finding.what for finding in result.findings)
    assert "outside its envelope" in result.sentences["machine"]


def test_too_large_is_a_fault_too():
    document = house("three-rooms")
    document["library"]["machines"]["bulrush-16"] = freeze(load().machines["bulrush-16"])
    document["schemes"]["main"] |= {"candidates": {"big": {"machine": "bulrush-16"}}, "chosen": "big", "flow_c": 55.0}
    result = judged(document)
    assert result.machine.rows[0].cover > 1.2
    assert any("more than the usual 120 %" in finding.what for finding in result.findings)


@pytest.mark.parametrize(
    ("bedrooms", "low", "high"),
    [(1, 120, 150), (2, 150, 180), (3, 180, 210), (4, 210, 250), (5, 250, 300), (9, 250, 300)],
)
def test_cylinder_by_bedrooms(bedrooms, low, high):
    """1: 120-150 L, 2: 150-180, 3: 180-210, 4: 210-250, 5 and more: 250-300 (common practice)."""
    document = tansy_cut()
    document["survey"]["household"]["bedrooms"] = bedrooms
    store = judged(document).hot_water
    assert (store.rule_low_l, store.rule_high_l) == (low, high)


@pytest.mark.parametrize(
    ("litres", "verdict"), [(150.0, "small"), (180.0, "meets"), (210.0, "meets"), (300.0, "large")]
)
def test_verdict_on_a_store(litres, verdict):
    result = judged(scheme(tansy_cut(), hot_water={"volume_l": litres}))
    assert result.hot_water.verdict == verdict
    assert any("usual here" in f.what for f in result.findings) is (verdict == "small")


def test_hot_water_of_the_day_by_hand():
    """3 people x 45 L from 10 to 40 deg C: 135 x 1.163 x 30 = 4.71 kWh, and a standing loss on top: 1.4 kWh by the label, which
    counts 45 K, is 28/45 of it at 48 deg C in a room of 20."""
    store = judged(scheme(tansy_cut(), hot_water={"standing_kwh_per_day": 1.4})).hot_water
    assert store.daily_kwh == pytest.approx(135 * 1.163 * 30 / 1000 + 1.4 * 28 / 45)
    assert store.hours_per_day == pytest.approx(store.daily_kwh * 1000 / store.power_w)
    more = judged(
        scheme(tansy_cut(), hot_water={"standing_kwh_per_day": 1.4, "distribution_kwh_per_day": 0.5})
    ).hot_water
    assert more.daily_kwh == pytest.approx(store.daily_kwh + 0.5)
    # in a loft at 6 deg C it stands 42 K under the water in place of 28
    loft = judged(scheme(tansy_cut(), hot_water={"standing_kwh_per_day": 1.4, "air_around_c": 6.0})).hot_water
    assert loft.daily_kwh - store.daily_kwh == pytest.approx(1.4 * 14 / 45)


@pytest.mark.parametrize(("store", "coil"), [(45.0, 2.6), (48.0, 2.6), (55.0, 3.4), (48.0, 1.2)])
def test_the_water_that_charges_a_store_by_another_solver(store, coil):
    """The store stirred at each of nine temperatures of its band: flow (1 - e^(-UA/flow)) (T - store) = P(T), P off the map at the
    design temperature by scipy, solved by scipy's brentq; 450 W/m2K and 6 K of band (our choice)."""
    from scipy.interpolate import RegularGridInterpolator
    from scipy.optimize import brentq

    document = scheme(tansy_cut(), hot_water={"volume_l": 200.0, "store_c": store, "coil_m2": coil})
    found = judged(document)
    chosen = document["schemes"]["lukewarm"]["candidates"][document["schemes"]["lukewarm"]["chosen"]]["machine"]
    data = document["library"]["machines"][chosen]["data"]
    table = RegularGridInterpolator((data["outdoor_c"], data["water_c"]), np.array(data["greatest_w"]))
    flow = data["rated_flow_lph"] * 1.163
    per_k = flow * (1 - math.exp(-450.0 * coil / flow))

    def gives(water):
        inside = min(max(water, data["water_c"][0]), data["water_c"][-1])
        return float(table([[found.house.outdoor_c, inside]])[0])

    each = [brentq(lambda t, at=at: per_k * (t - at) - gives(t), at, 100.0) for at in np.linspace(store - 6, store, 9)]
    assert max(each) < found.hot_water.warmest_c  # the coil is nowhere the limit
    assert found.hot_water.charging_c == pytest.approx(np.mean(each), abs=0.05)
    assert found.hot_water.power_w == pytest.approx(np.mean([gives(t) for t in each]), rel=1e-3)


def test_a_boiler_cylinders_coil_is_small():
    result = judged(scheme(tansy_cut(), hot_water={"volume_l": 200.0, "coil_m2": 0.7}))
    assert any("coil of 0.7 m²" in finding.what for finding in result.findings)


def test_a_hotter_store_takes_longer_and_costs_more_of_the_day():
    cool, hot = (judged(scheme(tansy_cut(), hot_water={"volume_l": 200.0, "store_c": t})) for t in (45.0, 60.0))
    assert hot.hot_water.reheat_minutes > cool.hot_water.reheat_minutes
    assert hot.hot_water.cop < cool.hot_water.cop
    assert hot.machine.rows[0].cover <= cool.machine.rows[0].cover


def test_nobody_lives_here_yet():
    document = house("three-rooms")
    store = judged(document).hot_water
    assert store.daily_kwh is None
    beds = sum(room.get("use") == "bedroom" for room in document["survey"]["rooms"].values())
    assert store.bedrooms == (beds or None)  # nobody said: as many as the survey has
    assert "is usual for" in judged(document).sentences["hot-water"]
    for room in document["survey"]["rooms"].values():
        room.pop("use", None)
    assert "Say who lives here" in judged(document).sentences["hot-water"]
    assert any("Nobody is entered" in finding.what for finding in judged(document).findings)


def test_an_assumed_tightness_is_a_doubt_and_an_entered_one_is_not():
    document = house("bungalow")
    doubt = next(finding for finding in judged(document).findings if "tightness" in finding.what)
    assert (doubt.severity, doubt.screen) == ("doubt", "air")
    document["survey"]["tightness"] = {"n50_per_h": 6.0}
    assert not any("tightness" in finding.what for finding in judged(document).findings)


def test_the_curve_meets_what_the_settled_house_needs_and_leaves_nobody_short():
    """Least whole degrees at both ends; the waterline's stricter need is its limit, and by school its cold end."""
    result = judged(tansy_cut())
    curve = result.curve
    assert curve.cold_need_c < curve.cold_standard_c == result.waterline.needed_flow_c
    assert curve.cold_flow_c == np.ceil(curve.cold_need_c)
    assert curve.greatest_flow_c == result.waterline.chosen_flow_c == 48.0
    strict = tansy_cut()
    strict["practice"] = strict.get("practice", {}) | {"cold_end": "waterline"}
    assert judged(strict).curve.cold_flow_c == 48.0
    assert judged(strict).curve.needed_c == curve.needed_c
    assert curve.short_room_k <= 0.3 + 1e-9
    one_less = scheme(tansy_cut(), control={"mild_flow_c": curve.mild_flow_c - 1})
    assert judged(one_less).curve.short_room_k > 0.3


def test_the_needed_curve_is_the_envelope_of_the_rooms_and_bent():
    curve = judged(tansy_cut()).curve
    for n in range(len(curve.outdoor_c)):
        rooms = [series[n] for series in curve.rooms.values() if series[n] is not None]
        if rooms:
            assert curve.needed_c[n] == pytest.approx(max(rooms))
    parlour = np.array([v for v in curve.rooms["parlour"] if v is not None])
    assert np.all(np.diff(parlour) < 0)
    # an exponent above 1 bends the need: steeper towards mild weather
    assert np.all(np.diff(parlour, 2) < 1e-2)


def test_a_line_by_hand_is_judged_not_mended():
    document = scheme(tansy_cut(), control={"cold_flow_c": 40.0, "mild_flow_c": 25.0})
    result = judged(document)
    assert not result.curve.fitted
    assert result.curve.short_room_k > 1
    assert any("leaves a room" in finding.what for finding in result.findings)
    assert "K short" in result.sentences["curve"]


def test_upper_limit_holds():
    curve = judged(scheme(tansy_cut(), control={"greatest_flow_c": 46.0})).curve
    assert max(curve.line_c) == 46.0


def test_warmer_line_costs_electricity():
    fitted = judged(tansy_cut())
    warm = judged(scheme(tansy_cut(), control={"mild_flow_c": fitted.curve.mild_flow_c + 8}))
    assert warm.season.electricity_kwh > fitted.season.electricity_kwh
    assert warm.season.excess_kwh > fitted.season.excess_kwh
    assert warm.curve.excess_k > 7


def test_equal_cop_lines_belong_to_the_chosen_machine():
    lines = judged(tansy_cut()).curve.cop_lines
    assert {"3", "4"} <= set(lines)
    grid = judged(tansy_cut()).curve.outdoor_c
    n = grid.index(2.0)
    low, high = load().machines["sedge-9"].cop[2][0], load().machines["sedge-9"].cop[2][1]
    # COP 3.5 at A2 lies between W35 and W45, by straight interpolation
    assert lines["3.5"][n] == pytest.approx(35 + (low - 3.5) / (low - high) * 10, abs=0.05)


def test_no_heating_above_the_limit():
    result = judged(tansy_cut())
    for t, watts in zip(result.machine.outdoor_c, result.machine.season_load_w, strict=True):
        assert watts >= 0
        if t >= 16:
            assert watts == 0


def test_colder_design_day_asks_for_more_of_everything():
    mild, cold = tansy_cut(), tansy_cut()
    cold["climate"]["design_c"] = -9.0
    a, b = judged(mild), judged(cold)
    assert b.house.loss_w > a.house.loss_w
    assert b.waterline.needed_flow_c > a.waterline.needed_flow_c
    assert b.machine.rows[0].cover < a.machine.rows[0].cover
    # straight in the difference but for the ground: 7.1 kW x 30/24 within a few per cent
    assert b.house.loss_w == pytest.approx(a.house.loss_w * (19.5 + 9) / (19.5 + 3), rel=0.03)
    assert math.isfinite(b.season.performance)
