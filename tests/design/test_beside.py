"""A machine and what stands beside it: the season by bins, the year by hours and the running costs are three routes to the same
electricity and fuel; a figure that blends both has a name of its own."""

from typing import Any

import numpy as np
import pytest

from cinder.design import design
from cinder.design.apart import controllers, running
from cinder.design.apart.ways.options import USUAL_SEASON, options_of
from cinder.design.house.prices import price_minor_per_kwh
from cinder.design.machine.beside import bill_minor
from cinder.design.year import judge as year_of
from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.physics.machine.heat_pump import Operation
from cinder.physics.machine.season import Second, season_over_bins, share
from tests.conftest import counting_house

KINDS = ("heater", "boiler", "new boiler", "stove", "none")
WAYS = [("heater", "parallel"), ("none", "parallel")] + [
    (kind, mode) for kind in ("boiler", "new boiler", "stove") for mode in ("parallel", "alternate", "price", "carbon")
]


def hybrid(kind: str, mode: str = "parallel", *, people: int | None = None, **said: Any) -> dict[str, Any]:
    """The counting-house with something else beside its machine; without people it makes no hot water."""
    document = counting_house()
    scheme = document["schemes"][document["active_scheme"]]
    scheme["candidates"][scheme["chosen"]]["backup"] = {"kind": kind, "mode": mode} | said
    document["survey"]["household"]["people"] = people
    return document


def routes(document: dict[str, Any]):
    job = parse(document)
    result = design(job)
    weather = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
    runs = running.judge(job, result, weather)
    return job, result, year_of(job, result, weather), next(row for row in runs.rows if row.chosen), runs


def some_hours(count: int = 400):
    rng = np.random.default_rng(11)
    load = rng.uniform(0.0, 9000.0, count)
    greatest = rng.uniform(2000.0, 8000.0, count) * (rng.random(count) > 0.1)
    at = Operation(
        greatest, greatest * rng.uniform(0.0, 0.6, count), rng.uniform(1.5, 5.0, count), greatest > 0, greatest < 0
    )
    return load, at, rng.uniform(1.5, 5.0, count)


@pytest.mark.parametrize("mode", ["parallel", "alternate", "cheaper"])
def test_a_season_of_hours_is_the_hours_shared_out_and_both_are_the_plain_sums(mode):
    """Written out in numpy: who gives what of every hour. Part load by EN 14825 (from memory)."""
    load, at, worth = some_hours()
    ratio = np.minimum(load, at.greatest_w) / np.maximum(at.least_w, 1e-9)
    cop = at.cop * np.where((ratio < 1) & (at.greatest_w > 0), ratio / (0.9 * ratio + 0.1), 1.0)
    runs = {"parallel": load > -1, "alternate": at.greatest_w >= load, "cheaper": cop >= worth}[mode] & (
        at.greatest_w > 0
    )
    given = np.where(runs, np.minimum(load, at.greatest_w), 0.0)
    electric = np.where(given > 0, given / cop, 0.0)
    shared = share(load_w=load, operation=at, degradation=0.9, mode=mode, worth_cop=worth)
    assert np.allclose(shared.machine_w, given)
    assert np.allclose(shared.electric_w, electric)
    assert np.allclose(shared.beside_w, load - given)
    for heater in (True, False):
        season = season_over_bins(
            hours=np.ones(len(load)), load_w=load, operation=at, degradation=0.9, always_on_w=80.0, second=Second(mode, worth, heater)
        )  # fmt: skip
        assert np.allclose(season.machine_kwh * 1000, given)
        assert np.allclose(season.backup_kwh * 1000, load - given)
        goes = load > 0 if heater else given > 0
        drawn = electric + 80.0 * goes + (load - given) * heater
        assert np.allclose(season.electricity_kwh * 1000, drawn)
        made = load.sum() if heater else given.sum()
        assert season.performance == pytest.approx(made / drawn.sum())


@pytest.mark.parametrize(("kind", "mode"), WAYS)
def test_the_year_and_the_running_costs_are_one_year(kind, mode):
    """Electricity but for what the machine draws while it stands by; fuel and missing heat to the watt-hour."""
    job, _result, year, row, _ = routes(hybrid(kind, mode))
    entry = next(e.data for e in job.library.machines.values() if e.data.label == row.label)
    standing = row.electricity_kwh - year.electricity_kwh
    assert 0 <= standing <= entry.standby_w * 8.760 + 1e-6
    assert year.fuel_kwh == pytest.approx(row.fuel_kwh, rel=1e-9)
    assert year.short_kwh == pytest.approx(row.short_kwh, rel=1e-9)
    assert bool(year.fuel_kwh) == bool(year.fuel) == (kind in ("boiler", "new boiler", "stove"))
    assert sum(m.fuel_kwh for m in year.months) == pytest.approx(year.fuel_kwh)
    assert year.performance == pytest.approx((year.heat_kwh - year.short_kwh) / (year.electricity_kwh + year.fuel_kwh))
    terms = {term.label.split(",")[0]: term.minor for term in row.terms}
    price = terms["electricity bought"] / row.electricity_kwh  # the mean price of its hours, what stands by among them
    burnt = sum(minor for label, minor in terms.items() if label == year.fuel)
    assert year.bill_minor == pytest.approx(year.electricity_kwh * price + burnt, rel=0.01)


@pytest.mark.parametrize(("kind", "mode"), [way for way in WAYS if way[1] in ("parallel", "alternate")])
def test_bins_and_hours_agree_on_fuel_and_electricity_where_there_are_no_gains(kind, mode):
    """Within 3 %, and within 2 % of the heat for what the other gives: hours of one bin differ a little. In turns the whole bin in which
    they change falls to one of them: a bin of a kelvin is 5 % of the heat here."""
    near, of_heat = (0.03, 0.02) if mode == "parallel" else (0.08, 0.05)
    document = hybrid(kind, mode)
    document["practice"] = document.get("practice", {}) | {
        "year_gains": "none", "gains_w_per_m2": 0.0, "heating_limit_c": 15.0
    }  # fmt: skip
    _, result, year, _, _ = routes(document)
    season = result.season
    assert season.heat_kwh == pytest.approx(year.heat_kwh, rel=0.02)
    assert season.electricity_kwh == pytest.approx(year.electricity_kwh, rel=near)
    assert season.fuel_kwh == pytest.approx(year.fuel_kwh, rel=near, abs=of_heat * season.heat_kwh)
    assert season.short_kwh == pytest.approx(year.short_kwh, abs=of_heat * season.heat_kwh)
    assert season.performance == pytest.approx(year.performance, rel=near)


@pytest.mark.parametrize("night", [None, 9.0])
def test_by_price_the_bins_know_the_nights_price(night):
    """Two prices a day: the machine runs where it is the cheaper one, at night more often; within 0.1 of the heat of the hours' share."""
    document = hybrid("new boiler", "price")
    document["tariff"] = {} if night is None else {"night_minor": night, "night_from_h": 0, "night_to_h": 7}
    _, result, year, row, _ = routes(document)
    by_bins = result.season.backup_kwh / result.season.heat_kwh
    assert by_bins == pytest.approx(1 - row.heat_share, abs=0.1)
    assert year.fuel_kwh == pytest.approx(row.fuel_kwh, rel=1e-9)


@pytest.mark.parametrize("kind", KINDS)
def test_a_blended_figure_has_a_name_of_its_own(kind):
    job, result, year, row, _ = routes(hybrid(kind))
    season, shown = result.season, next(f for f in result.headline if f.key == "season")
    burns = kind in ("boiler", "new boiler", "stove")
    assert shown.label == (
        "Season, heating" if not burns else "Season, with stove" if kind == "stove" else "Season, with boiler"
    )
    assert shown.mark == ("fuel counted in" if burns else "heat missing" if kind == "none" else "")
    assert shown.value == pytest.approx(
        (season.heat_kwh - season.short_kwh) / (season.electricity_kwh + season.fuel_kwh)
    )
    night = (7 * 16.0 + 17 * 26.0) / 24  # as the counting-house pays: less from midnight to seven
    by_hand = season.electricity_kwh * night + season.fuel_kwh * price_minor_per_kwh(job, season.fuel or "none")
    assert bill_minor(job, season) == pytest.approx(by_hand)
    assert bill_minor(job, season) == pytest.approx(year.bill_minor, rel=0.06)
    said = result.sentences["machine"]
    assert (f"at **{season.machine_performance:.2f}**" in said) is burns
    assert ("of the heat nobody gives" in said) is (kind == "none")
    assert ("burns" in year.sentence) is burns
    assert ("nobody gives" in year.sentence) is (kind == "none")
    assert row.performance == pytest.approx(season.machine_performance, rel=0.03)


def test_controllers_of_a_hybrid_are_told_in_money_and_a_machine_that_never_runs_breaks_no_way():
    job = parse(hybrid("boiler"))
    found = controllers.judge(job, design(job))
    assert "GBP** a year more" in found.sentence
    assert "kWh" not in found.sentence
    document = hybrid("none")
    for entry in document["library"]["machines"].values():
        entry["data"]["lowest_outdoor_c"] = 40.0
    job = parse(document)
    assert design(job).season.short_kwh == pytest.approx(design(job).season.heat_kwh)
    costs = options_of(job, load().emitter_prices, load().measures).costs
    assert costs.extra_minor_per_kwh == pytest.approx(costs.minor_per_kwh * (1 - 1 / USUAL_SEASON))


def test_hot_water_that_is_burnt_for_takes_nothing_of_the_machine():
    """Neither hours of its design day, nor output it must have, nor electricity."""
    mine, theirs = (design(parse(hybrid("boiler", people=5, hot_water=on))) for on in (False, True))
    ours, other = (next(row for row in one.machine.rows if row.chosen) for one in (mine, theirs))
    assert ours.hot_water_hours > 0
    assert other.hot_water_hours == 0
    assert other.cover == pytest.approx(other.cover_without_hot_water)
    assert other.cover > ours.cover
    assert ours.needed_w - other.needed_w == pytest.approx(mine.hot_water.daily_kwh * 1000 / 24)
    assert theirs.season.hot_water_electricity_kwh == 0
    assert mine.season.hot_water_fuel_kwh == 0
    for on in (False, True):
        months = routes(hybrid("boiler", people=5, hot_water=on))[3].months
        assert all(0 < m.machine_water_kwh <= m.hot_water_kwh for m in months) is not on
        assert all(m.machine_water_kwh == 0 for m in months) is on
    efficiency = theirs.season.backup_kwh / theirs.season.fuel_kwh
    assert theirs.season.hot_water_fuel_kwh * efficiency == pytest.approx(theirs.season.hot_water_kwh)
    whole = theirs.season
    assert whole.with_hot_water == pytest.approx(
        (whole.heat_kwh + whole.hot_water_kwh) / (whole.electricity_kwh + whole.fuel_kwh + whole.hot_water_fuel_kwh)
    )
