"""A year's money: two ways of saying one tariff, the house's own sun, grants, what stands there today, heat moved in the day."""

import copy

import numpy as np
import pandas as pd
import pvlib
import pytest

from cinder.design import design, year
from cinder.design.apart import running
from cinder.design.apart.running.shift import shifted
from cinder.design.kept import Kept
from cinder.design.machine.load import tested_map as map_of
from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.physics.machine import heat_pump
from tests.conftest import tansy_cut


@pytest.fixture(scope="module")
def base():
    """The demo with one price, its Design, its weather."""
    document = tansy_cut()
    document["tariff"] = {"standing_minor": {"electricity": 20000.0}}
    document["prices"] = {"electricity": 30.0, "pellets": 8.0}
    document.pop("grants", None)
    document["site"].pop("solar", None)
    job = parse(document)
    year = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
    return document, design(job), year


def judged(base, change=None):
    """Runs after a change of the document that leaves its Design as it is."""
    document, result, year = base
    changed = copy.deepcopy(document)
    if change is not None:
        change(changed)
    return running.judge(parse(changed), result, year)


def chosen(runs):
    return next(row for row in runs.rows if row.chosen)


def test_one_price_said_as_a_table_of_hours_costs_the_same(base):
    flat = judged(base)
    by_hours = judged(base, lambda d: d["tariff"].update(hours={"by_month": [[30.0] * 24] * 12}))
    for a, b in zip(flat.rows, by_hours.rows, strict=True):
        assert a.cost_minor.mid == pytest.approx(b.cost_minor.mid, rel=1e-12)
    # by hand: what is bought at one price, the standing charge, the service of the demo's machine
    row = chosen(flat)
    service = parse(base[0]).schemes["lukewarm"].candidates["sedge-9"].service_minor
    assert row.cost_minor.mid == pytest.approx(row.electricity_kwh * 30 + 20000 + service)
    assert sum(term.minor for term in row.terms) == pytest.approx(row.cost_minor.mid)


def test_a_night_price_said_both_ways(base):
    night = judged(base, lambda d: d["tariff"].update(night_minor=12.0, night_from_h=22, night_to_h=5))
    day = [12.0] * 5 + [30.0] * 17 + [12.0] * 2
    table = judged(base, lambda d: d["tariff"].update(hours={"by_month": [day] * 12}))
    assert chosen(night).cost_minor.mid == pytest.approx(chosen(table).cost_minor.mid, rel=1e-12)
    assert chosen(night).cost_minor.mid < chosen(judged(base)).cost_minor.mid


def test_a_month_has_its_own_prices(base):
    """January twice as dear: January's electricity is paid once more."""
    table = [[30.0] * 24 for _ in range(12)]
    table[0] = [60.0] * 24
    dear, flat = judged(base, lambda d: d["tariff"].update(hours={"by_month": table})), judged(base)
    more = chosen(dear).cost_minor.mid - chosen(flat).cost_minor.mid
    assert more == pytest.approx(chosen(flat).months[0].electricity_kwh * 30)


def by_library(base) -> float:
    """kWh a year of 1 kW by pvlib's PVWatts: the same sky on the plane, warmth of the cells, 14 % losses, inverter of 96 %."""
    document, _, year = base
    job = parse(document)
    climate = job.library.climates[job.climate.entry].data
    at = pd.date_range("2001-01-01 00:30", periods=8760, freq="h", tz="UTC") - pd.Timedelta(hours=climate.utc_offset_h)
    place = pvlib.solarposition.ephemeris(at, climate.latitude_deg, climate.longitude_deg)
    sky = pvlib.irradiance.get_total_irradiance(
        35, 180, place["zenith"], place["azimuth"], year.dni_w_m2, year.ghi_w_m2, year.dhi_w_m2,
        dni_extra=pvlib.irradiance.get_extra_radiation(at), albedo=0.2, model="haydavies",
    )["poa_global"].fillna(0)  # fmt: skip
    cell = pvlib.temperature.faiman(sky, pd.Series(year.outdoor_c, index=at), 2.0)
    dc = pvlib.pvsystem.pvwatts_dc(sky, cell, 1000.0, -0.0035) * (1 - pvlib.pvsystem.pvwatts_losses() / 100)
    return float(pvlib.inverter.pvwatts(dc, 1000.0 / 0.96).sum()) / 1000


def test_sun_that_could_be_sold_at_the_price_it_is_bought_for_saves_nothing(base):
    def sun(**more):
        return lambda d: d["site"].update(solar={"peak_kw": 4.0, **more})

    plain = judged(base)
    even = judged(base, sun(export_minor=30.0))
    assert chosen(even).cost_minor.mid == pytest.approx(chosen(plain).cost_minor.mid, rel=1e-12)
    given = judged(base, sun(export_minor=0.0))
    row = chosen(given)
    assert chosen(plain).cost_minor.mid - row.cost_minor.mid == pytest.approx(row.own_sun_kwh * 30)
    assert 0 < row.own_sun_kwh < given.sun.made_kwh - given.sun.household_kwh
    assert given.sun.made_kwh == pytest.approx(4.0 * by_library(base), rel=0.06)
    north = judged(base, sun(bearing_deg=0.0)).sun.made_kwh
    assert north < 0.75 * given.sun.made_kwh
    # shaded half, half is left
    assert judged(base, sun(shaded=0.5)).sun.made_kwh == pytest.approx(given.sun.made_kwh / 2)


def test_what_is_left_of_the_sun_heats_the_store_and_its_heat_is_counted_once(base):
    given = judged(base, lambda d: d["site"].update(solar={"peak_kw": 6.0, "diverter": True}))
    row, plain = chosen(given), chosen(judged(base))
    assert row.hot_water_kwh == pytest.approx(plain.hot_water_kwh)
    assert row.machine_kwh < plain.machine_kwh
    assert row.machine_kwh + row.beside_kwh == pytest.approx(plain.machine_kwh + plain.beside_kwh)
    assert row.cost_minor.mid < chosen(judged(base, lambda d: d["site"].update(solar={"peak_kw": 6.0}))).cost_minor.mid


def test_what_stands_there_today(base):
    def present(**how):
        return lambda d: d["site"].update(present=how)

    nothing = judged(base, present(how="nothing"))
    assert nothing.present.cost_minor.mid == 0
    assert chosen(nothing).saves_minor.mid == pytest.approx(-chosen(nothing).cost_minor.mid)
    direct = judged(base, present(fuel="electricity", efficiency=1.0))
    assert direct.present.cost_minor.mid == pytest.approx(direct.present.fuel_kwh * 30 + 20000)
    row = chosen(direct)
    assert direct.present.fuel_kwh == pytest.approx(row.heat_kwh + row.hot_water_kwh)

    # storage heaters: everything in the seven hours of the night price, by hand
    def night(d):
        d["tariff"] |= {"night_minor": 12.0, "night_from_h": 0, "night_to_h": 7}
        d["site"]["present"] = {"how": "storage", "efficiency": 1.0}

    storage = judged(base, night)
    assert storage.present.label == "storage heaters"
    assert storage.present.cost_minor.mid == pytest.approx(storage.present.fuel_kwh * 12 + 20000)


def test_grants_are_given_by_their_rules(base):
    def with_grants(d):
        d["grants"] = {
            "flat": {"label": "Flat", "pos": 1, "amount_minor": 500000.0, "whole_heat": True, "replaces": ["pellets"]},
            "part": {"label": "Part", "pos": 2, "share": 0.5, "most_minor": 300000.0},
            "cold": {"label": "Cold water", "pos": 3, "amount_minor": 1.0, "most_flow_c": 35.0},
            "good": {"label": "Good machine", "pos": 4, "amount_minor": 1.0, "least_scop_35": 9.0},
            "oil": {"label": "From oil", "pos": 5, "amount_minor": 1.0, "replaces": ["oil"]},
        }

    row, plain = chosen(judged(base, with_grants)), chosen(judged(base))
    by_label = {one.label: one for one in row.granted}
    assert [by_label[k].amount_minor for k in ("Flat", "Part", "Cold water", "Good machine", "From oil")] == [
        500000.0, 300000.0, 0.0, 0.0, 0.0,
    ]  # fmt: skip
    assert "water of at most 35" in by_label["Cold water"].why
    assert "test-bench season of 9" in by_label["Good machine"].why
    assert "in place of oil" in by_label["From oil"].why
    assert plain.once_minor - row.once_minor == pytest.approx(800000.0)

    def beside_a_boiler(d):
        with_grants(d)
        d["schemes"]["lukewarm"]["candidates"]["sedge-9"]["backup"] = {"kind": "boiler"}

    flat = next(one for one in chosen(judged(base, beside_a_boiler)).granted if one.label == "Flat")
    assert (flat.amount_minor, flat.why) == (0.0, "only without a boiler or stove beside it")


def test_what_is_paid_once_holds_the_place(base):
    document, result, _ = base
    place = next(one for one in result.places.places if one.chosen)
    candidate = parse(document).schemes["lukewarm"].candidates["sedge-9"]
    assert place.cost_minor > 0
    assert chosen(judged(base)).once_minor == pytest.approx(candidate.cost_minor + place.cost_minor)


def test_a_boiler_joins_late_by_at_most_twenty_minutes_of_every_spell(base):
    def small(d):
        d["schemes"]["lukewarm"]["chosen"] = "sedge-6"
        d["schemes"]["lukewarm"]["candidates"]["sedge-6"]["backup"] = {"kind": "boiler", "mode": "parallel"}

    row = next(r for r in judged(base, small).rows if r.id == "sedge-6")
    assert 0 < row.joins <= row.beside_hours
    assert 0 < row.late_kwh <= row.beside_kwh / 3
    assert f"joined {row.joins} times a year" in row.sentence


def steady(prices: np.ndarray, room_c: float = 20.0):
    """A day after day of 1 kW with water of 40 deg C and a machine of much more."""
    hours = np.ones(8760)
    table = map_of(load().machines["sedge-9"])
    at = heat_pump.operate(table, outdoor_c=5 * hours, water_c=40 * hours)
    return shifted(
        load_w=1000 * hours, operation=at, table=table, outdoor_c=5 * hours, water_c=40 * hours, room_c=room_c, area_m2=100.0,
        prices=prices, degradation=0.9,
    )  # fmt: skip


def test_heat_moved_within_its_day_by_hand():
    """Of 18 dear hours at 1 kW 15 % is 2.7 kWh, 450 W more in each of six: the lift of 20 K grows by 1.45 ** (1 / 1.3)."""
    cheap = np.tile(np.where(np.arange(24) < 6, 10.0, 40.0), 365)
    one = steady(cheap)[0]
    assert one.moved_kwh == pytest.approx(2.7 * 365)
    assert one.warmer_k == pytest.approx(20 * (1.45 ** (1 / 1.3) - 1))
    assert one.electricity_more_kwh > 0
    assert one.saves_minor > 0
    assert one.swing_k == pytest.approx(2700 / (60 * 100))
    assert steady(np.full(8760, 30.0)) == []
    # a difference of a tenth does not pay for water some 7 K warmer
    assert all(s.saves_minor < 0 for s in steady(np.tile(np.where(np.arange(24) < 6, 27.0, 30.0), 365)))


def test_collectors_make_some_of_the_hot_water_and_never_more(base):
    plain = chosen(judged(base))
    some = chosen(judged(base, lambda d: d["site"].update(collectors={"area_m2": 4.0})))
    all_of_it = chosen(judged(base, lambda d: d["site"].update(collectors={"area_m2": 1000.0, "efficiency": 0.9})))
    # by hand: 4 m2 at 40 % of the sun on the plane by the library, in summer more than is used
    assert 0 < some.beside_kwh - plain.beside_kwh < 4.0 * 0.4 * by_library(base) / 0.8
    assert some.electricity_kwh < plain.electricity_kwh
    assert some.machine_kwh + some.beside_kwh == pytest.approx(plain.machine_kwh + plain.beside_kwh)
    assert all_of_it.beside_kwh - plain.beside_kwh <= plain.hot_water_kwh + 1e-6
    assert all_of_it.beside_kwh - plain.beside_kwh > 0.99 * plain.hot_water_kwh


def test_the_range_of_the_loss_goes_into_every_figure_of_the_year(base):
    document, result, year = base
    one = chosen(running.judge(parse(document), result, year, loss_range=(0.85, 1.15)))
    for middle, ends in (
        (one.performance, one.performance_range), (one.heat_share, one.heat_share_range), (one.cycling_hours, one.cycling_range),
    ):  # fmt: skip
        assert ends[0] <= middle <= ends[1]
    assert one.cycling_range[1] - one.cycling_range[0] > 0.05
    # the two ends are the years of a house that loses so much less or more: reckoned alone
    assert chosen(judged(base)).performance_range == [pytest.approx(one.performance)] * 2


def test_what_is_kept_of_the_house_changes_no_figure(base):
    """The same edits one after the other, with what was made before and without."""
    document, _, year = base
    kept = Kept()
    for sedge, windows, name in ((1.0, 1.4, "a"), (1.0, 2.4, "b"), (0.5, 2.4, "c"), (1.0, 1.4, "d")):
        changed = copy.deepcopy(document)
        changed["title"] = name
        changed["survey"]["rooms"]["bed2"]["faces"]["w3"]["openings"]["window1"]["width_m"] = windows
        changed["site"]["solar"] = {"peak_kw": sedge}
        job = parse(changed)
        result = design(job)
        assert running.judge(job, result, year, kept=kept) == running.judge(job, result, year)


@pytest.mark.parametrize("glycol", [0.0, 0.3])
def test_hours_and_the_year_agree_on_a_machine_in_thin_air_with_glycol(base, glycol):
    """Three routes to one performance: the year's page, the machines through the year, and the season by bins beside them."""
    document = copy.deepcopy(tansy_cut())
    document["site"]["altitude_m"] = 1500.0
    scheme = document["schemes"][document["active_scheme"]]
    scheme["protection"] = {"kind": "glycol", "glycol_share": glycol} if glycol else {}
    job = parse(document)
    found, weather = design(job), shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
    by_year = year.judge(job, found, weather).performance
    by_hours = chosen(running.judge(job, found, weather)).performance
    assert by_year == pytest.approx(by_hours, rel=1e-3)
    assert found.season.performance == pytest.approx(by_hours, rel=0.02)
    low = parse(tansy_cut())
    assert by_year < year.judge(low, design(low), weather).performance * (0.985 if glycol else 0.99)
