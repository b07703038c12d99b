"""The store's day: patterns by their published totals, other stores by hand, and what is said of it."""

from __future__ import annotations

import pytest

from cinder.design import design
from cinder.design.apart import running, water_day
from cinder.design.apart.running.solar import spare_day_w
from cinder.design.apart.water_day.draws import tapping_of
from cinder.design.findings import Findings
from cinder.design.house.view import view
from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.physics.store.cylinder import WATER_WH_L_K
from tests.conftest import house, tansy_cut


def days(document: dict):
    job = parse(document)
    return water_day.judge(job, design(job))


def lived_in(people: int, **store: object) -> dict:
    document = tansy_cut()
    document["schemes"][document["active_scheme"]]["hot_water"] = {
        "volume_l": 200.0,
        "coil_m2": 2.6,
        "store_c": 48.0,
    } | store
    document["survey"]["household"] = {"people": people, "bedrooms": 3}
    return document


@pytest.mark.parametrize(("key", "kwh"), [("s", 2.1), ("m", 5.845), ("l", 11.655), ("xl", 19.07)])
def test_standard_days_have_their_published_totals(key: str, kwh: float):
    # Regulation (EU) 814/2013, annex III (from memory): totals of the load profiles
    assert load().tapping[key].kwh == pytest.approx(kwh, abs=1e-9)


@pytest.mark.parametrize(("people", "key"), [(1, "s"), (3, "m"), (5, "l"), (9, "xl"), (30, "xl")])
def test_the_day_holds_what_the_people_draw(people: int, key: str):
    # by hand: 45 L each from 10 to 40 deg C are 1.57 kWh; 1.57, 4.71, 7.85, 14.13, 47.1 kWh
    kwh = people * 45 * WATER_WH_L_K * 30 / 1000
    found = tapping_of(parse(lived_in(people)), 10.0, kwh)
    assert found.key == key
    assert ("largest" in found.why) is (people == 30)


def test_own_draws_in_their_order_and_by_hand():
    document = lived_in(2)
    document["survey"]["household"]["draws"] = {
        "bath": {"what": "bath", "minute": 1200, "tap_l": 120.0, "flow_l_min": 12.0},
        "early": {"what": "shower", "minute": 390, "tap_l": 60.0, "flow_l_min": 8.0, "tap_c": 38.0},
    }  # fmt: skip
    found = days(document)
    assert (found.pattern, [one.what for one in found.days[0].draws]) == ("own", ["shower", "bath"])
    # 60 L over 28 K and 120 L over 30 K
    assert found.pattern_kwh == pytest.approx((60 * 28 + 120 * 30) * WATER_WH_L_K / 1000)
    assert found.days[0].tapped_kwh == pytest.approx(found.pattern_kwh, rel=0.01)


def test_five_people_are_served_by_a_store_that_holds_their_day():
    document = lived_in(5, volume_l=250.0)
    found = days(document)
    assert found.pattern == "l"
    assert found.days[0].short_draws == 0
    assert "serve every draw" in found.sentence
    assert found.least_volume_l <= 250.0


def test_a_small_store_heated_by_night_alone_runs_out_in_the_evening():
    # the day's 11.66 kWh in the L pattern; 120 L from 10 to 48 hold 5.3 kWh, charged once
    document = lived_in(5, volume_l=120.0, windows=[{"from_minute": 60, "to_minute": 360}])
    found = days(document)
    day = found.days[0]
    short = [one for one in day.draws if one.short_min > 0]
    assert short
    assert min(one.minute for one in short) > 8 * 60
    assert max(one.minute for one in short) >= 21 * 60
    assert day.machine_kwh == pytest.approx(120 * WATER_WH_L_K * 38 / 1000, rel=0.15)
    assert found.least_volume_l is None or found.least_volume_l > 120.0
    assert "falls to" in found.sentence


def test_sizes_serve_more_the_larger_they_are_when_charged_once():
    found = days(lived_in(5, windows=[{"from_minute": 60, "to_minute": 360}]))
    minutes = [one.short_min for one in found.sizes]
    assert minutes == sorted(minutes, reverse=True)
    assert minutes[0] > minutes[-1]
    assert sum(one.chosen for one in found.sizes) == 1


def test_a_boilers_small_coil_stalls_and_says_so():
    # 0.5 m2 x 450 over 1 750 L/h: 2 035 (1 - e^-0.11) = 213 W/K; least 2.46-2.85 kW wants some 12 K over the store
    document = lived_in(5, coil_m2=0.5, store_c=62.0)
    job = parse(document)
    shown = design(job)
    assert shown.hot_water.stall_c == pytest.approx(70.0 - 2740 / 213, abs=0.8)
    assert any("least output" in finding.what for finding in shown.findings)
    assert water_day.judge(job, shown).days[0].on_and_off_min > 0


def test_hotter_stores_cost_more_and_hold_more():
    found = days(lived_in(4))
    costs = [one.cost_minor for one in found.temperatures]
    assert costs == sorted(costs)
    assert [one.tap_l for one in found.temperatures] == sorted(one.tap_l for one in found.temperatures)
    # by hand: 200 L at 48 over 10 are 200 x 38 / 30 L at 40
    chosen = next(one for one in found.temperatures if one.chosen)
    assert chosen.tap_l == pytest.approx(200 * 38 / 30)


def test_every_fortnight_costs_less_than_half_of_every_week():
    found = {one.key: one for one in days(lived_in(4)).hygiene}
    assert found["fortnightly"].electricity_kwh == pytest.approx(found["weekly"].electricity_kwh * 24 / 52)
    assert found["fresh_water"].electricity_kwh == 0
    assert found["weekly"].chosen
    assert found["weekly"].reached
    # an immersion from 48 to 60 above a fifth of 200 L: some 160 x 1.163 x 12 = 2.2 kWh, part of it heat of the next draws
    assert 1.0 < found["weekly"].more_kwh < 3.0
    assert found["machine"].more_kwh < found["weekly"].more_kwh


def test_the_year_by_the_day_in_layers_against_the_stirred_store():
    """Two routes to the COP of the charges: topping up a stirred store, and a day in layers, which charges from cooler water."""
    found = days(lived_in(4))
    mean = next(day for day in found.days if day.key == "mean")
    stirred = next(one for one in found.temperatures if one.chosen)
    assert stirred.cop < mean.cop < stirred.cop * 1.35


def test_a_store_in_the_cold_loses_more_in_the_day_in_layers_too():
    """Two routes: the label's kWh over 45 K by hand, and what a day in layers loses and the machine makes more (its charges fall
    a little otherwise)."""
    warm, cold = (
        next(day for day in days(lived_in(4, standing_kwh_per_day=2.0, air_around_c=at)).days if day.key == "mean")
        for at in (20.0, 2.0)
    )
    assert cold.lost_kwh - warm.lost_kwh == pytest.approx(2.0 * 18 / 45, rel=0.05)
    assert cold.machine_kwh - warm.machine_kwh == pytest.approx(2.0 * 18 / 45, abs=0.2)


def test_the_mixing_valve_by_hand():
    # (40 - 0.05 x 10) / 0.95 = 41.6
    document = lived_in(3)
    assert days(document).least_store_c == pytest.approx(39.5 / 0.95)
    document["practice"] = document.get("practice", {}) | {"mixer": "plain"}
    plain = days(document)
    assert plain.least_store_c == pytest.approx(40.0)
    assert any("scalding" in note for note in plain.notes)


def test_what_lacks_is_said_and_nothing_breaks():
    bare = house("three-rooms")
    assert "Say who lives here" in days(bare).sentence
    bare["survey"]["household"] = {"people": 2}
    without = days(bare)
    assert "Enter a store's litres" in without.sentence
    assert without.days == []
    document = lived_in(2)
    document["schemes"][document["active_scheme"]]["chosen"] = None
    no_machine = days(document)
    assert not no_machine.days[0].runs
    assert no_machine.days[0].immersion_kwh > 0
    assert "immersion alone" in no_machine.notes[0]


def test_a_boiler_that_makes_the_hot_water_is_named():
    document = lived_in(4)
    scheme = document["schemes"][document["active_scheme"]]
    scheme["candidates"][scheme["chosen"]]["backup"] = {"kind": "boiler", "hot_water": True}
    assert "makes the hot water" in days(document).notes[0]
    scheme["candidates"][scheme["chosen"]]["backup"] = {"kind": "boiler"}
    assert "makes the hot water" not in days(document).notes[0]


def test_nonsense_about_a_store_is_named_at_its_place():
    def said(**store: object) -> list[tuple[str, str]]:
        shown = design(parse(lived_in(4, **store)))
        return [(one.where, one.what) for one in shown.findings if one.screen == "hot-water"]

    base = "/schemes/lukewarm/hot_water"
    # 80 m2 of 32 mm tube hold 80 x 8 = 640 L
    assert (f"{base}/coil_m2", "A coil of 80.0 m² would take up some 640 L of a store of 200 L.") in said(coil_m2=80.0)
    assert any(
        where == f"{base}/coil_m2" and what.startswith("However cold the store is, its coil of 0.010 m²")
        for where, what in said(coil_m2=0.01)
    )
    assert any(where == f"{base}/store_c" and "wants 41.6 °C" in what for where, what in said(store_c=38.0))
    assert not any(where == f"{base}/store_c" for where, what in said(store_c=45.0))


@pytest.mark.parametrize("around_c", [20.0, 2.0])
def test_a_year_of_hot_water_by_bins_and_by_hours(around_c):
    """What hot water draws, said in three places: the season (charged at the year's mean air), the table of store temperatures, and
    the year of hours, where it is what a house without people draws less."""
    weather = shipped_year(load().climates["mild-maritime"].year_sha256)

    def a_year(document: dict):
        job = parse(document)
        shown = design(job)
        return shown, next(one for one in running.judge(job, shown, weather).rows if one.chosen)

    shown, row = a_year(lived_in(4, standing_kwh_per_day=2.0, air_around_c=around_c))
    nobody = lived_in(4, standing_kwh_per_day=2.0, air_around_c=around_c)
    nobody["survey"]["household"] = {"bedrooms": 3}
    _, without = a_year(nobody)
    by_bins = shown.season.hot_water_electricity_kwh
    assert row.hot_water_kwh == pytest.approx(shown.season.hot_water_kwh, rel=1e-6)
    chosen = next(
        one for one in days(lived_in(4, standing_kwh_per_day=2.0, air_around_c=around_c)).temperatures if one.chosen
    )
    assert chosen.electricity_kwh == pytest.approx(by_bins, rel=1e-6)
    assert row.electricity_kwh - without.electricity_kwh == pytest.approx(by_bins, rel=0.05)


class TestSpareSun:
    """What the house's own sun has to spare, through the immersion: a balance, a bound, and the year of hours beside it."""

    @pytest.fixture(scope="class")
    def sunny(self):
        document = tansy_cut()
        document["site"]["solar"] = {
            "peak_kw": 4.0,
            "bearing_deg": 180.0,
            "tilt_deg": 35.0,
            "diverter": True,
            "household_kwh": 2600.0,
        }
        job = parse(document)
        climate = job.library.climates[job.climate.entry].data
        weather = shipped_year(climate.year_sha256)
        spare = spare_day_w(view(job, Findings()), weather)
        shown = design(job)
        return job, shown, weather, spare, water_day.judge(job, shown, spare)

    def test_it_saves_bought_electricity_and_no_heat_is_made_of_nothing(self, sunny):
        _, _, _, spare, found = sunny
        by = {day.key: day for day in found.days}
        assert by["sun"].sun_kwh > 0
        assert by["sun"].electricity_kwh < by["mean"].electricity_kwh
        assert by["sun"].sun_kwh <= spare.sum() / 60000
        total = by["sun"].machine_kwh + by["sun"].immersion_kwh + by["sun"].sun_kwh
        if not by["sun"].takes_turns:
            assert total == pytest.approx(by["sun"].tapped_kwh + by["sun"].lost_kwh, rel=0.05)

    def test_the_store_is_heated_no_further_than_its_limit(self, sunny):
        by = {day.key: day for day in sunny[4].days}
        assert max(max(layers) for layers in by["sun"].layers_c) <= 61.0

    def test_the_year_of_hours_diverts_about_as_much(self, sunny):
        """The year gives the store at most what a day asks; the mean day may leave it warmer: within a factor of two."""
        job, shown, weather, _, found = sunny
        row = next(one for one in running.judge(job, shown, weather).rows if one.chosen)
        day = next(one for one in found.days if one.key == "sun").sun_kwh
        assert row.own_sun_kwh > 0
        assert 0.3 * row.own_sun_kwh / 365 < day < 2 * (shown.hot_water.daily_kwh + 3)

    def test_without_a_diverter_nothing_is_led_there(self):
        document = tansy_cut()
        document["site"]["solar"] = {"peak_kw": 4.0, "bearing_deg": 180.0, "tilt_deg": 35.0, "diverter": False}
        job = parse(document)
        weather = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
        assert spare_day_w(view(job, Findings()), weather) is None
