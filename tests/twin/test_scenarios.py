"""Ways of running a house, held to what must be so whatever the house."""

import contextvars
import csv
import io
import itertools

import numpy as np
import pytest

from cinder import patience
from cinder.errors import LeftAlone, NotFound, Refused
from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.physics.flow import separation
from cinder.physics.flow.fluid import PLAIN
from cinder.twin import loop, scenarios
from cinder.twin.of_job import HEAVINESS_J_M2K, twin_of
from cinder.twin.trace import COLUMNS, trace_csv
from tests.conftest import counting_house, oat_store, tansy_cut

YEAR = shipped_year(load().climates["mild-maritime"].year_sha256)


@pytest.fixture(scope="module")
def found():
    return scenarios.judge(parse(tansy_cut()), YEAR)


def by(found, key):
    return next(row for row in found.rows if row.key == key)


def test_every_way_is_beside_the_way_it_is_set(found):
    now = found.rows[0]
    assert (now.key, now.more_kwh, now.more_minor) == ("now", 0.0, 0.0)
    for row in found.rows:
        assert row.more_kwh == pytest.approx(row.electricity_kwh - now.electricity_kwh)
        assert row.cost_minor == pytest.approx(row.electricity_kwh * 27.0)  # all electric, by the job's price


def test_warmer_water_costs_and_cooler_saves(found):
    assert by(found, "warmer").electricity_kwh > by(found, "now").electricity_kwh > by(found, "cooler").electricity_kwh
    assert by(found, "fixed").performance < by(found, "now").performance
    assert by(found, "warmer").warm_h > by(found, "now").warm_h
    assert by(found, "cooler").short_h > by(found, "now").short_h


def test_nights_off_leave_rooms_shorter_than_a_setback_does(found):
    assert by(found, "off").short_h > by(found, "setback").short_h > by(found, "now").short_h
    assert by(found, "off").electricity_kwh < by(found, "setback").electricity_kwh < by(found, "now").electricity_kwh


def test_a_valve_in_every_room_takes_the_warmth_off_and_starts_more_often(found):
    assert by(found, "valves").warm_h < 0.2 * by(found, "now").warm_h
    assert by(found, "valves").starts > by(found, "now").starts


def test_hot_water_is_what_the_design_says_a_year(found):
    """Two routes: a charge twice a day through the year, and the daily need times 365."""
    daily = twin_of(parse(tansy_cut())).design.hot_water.daily_kwh
    assert by(found, "now").hot_water_kwh == pytest.approx(daily * 365, rel=0.01)


def test_a_hybrids_boiler_carries_what_the_machine_cannot():
    job = parse(counting_house())
    found = scenarios.judge(job, YEAR)
    row = found.rows[0]
    assert 0 < row.backup_kwh < row.heat_kwh
    assert 0.6 <= row.backup_kwh / row.fuel_kwh <= 0.75  # an old gas boiler (common practice)
    assert row.bought_kwh == row.electricity_kwh + row.fuel_kwh
    assert "and burns" in found.sentence
    assert any("makes the hot water: what it burns for that is not counted" in one for one in found.assumed)
    document = counting_house()
    scheme = document["schemes"][document["active_scheme"]]
    scheme["candidates"][scheme["chosen"]]["backup"] = {"kind": "stove"}
    cold = scenarios.judge(parse(document), YEAR, only=("now",))
    assert any("stove stays cold" in one for one in cold.assumed)
    assert cold.rows[0].fuel_kwh == 0
    # what the other ways save is said in money, in which a kilowatt-hour of either has its price
    assert any(f"{abs(one.more_minor) / 100:.0f} {job.currency}" in one.says for one in found.rows[1:])
    assert not any("kWh" in one.says for one in found.rows)
    assert row.short_h < 100
    mean = (7 * 16.0 + 17 * 26.0) / 24  # two prices a day; gas at 6.4
    assert row.cost_minor == pytest.approx(row.electricity_kwh * mean + row.fuel_kwh * 6.4)


def test_a_hybrids_cold_week_burns_and_its_mild_one_does_not():
    """The heat that the boiler gives in a week is what its fuel makes; no more than the heat of the week."""
    job = parse(counting_house())
    cold, mild = (scenarios.week_of(job, YEAR, week=which).week for which in ("cold", "mild"))
    assert 0 < cold.fuel_kwh * 0.675 < cold.heat_kwh
    assert f"and {cold.fuel_kwh:.0f} kWh of fuel" in cold.sentence
    assert mild.fuel_kwh < 0.05 * cold.fuel_kwh


@pytest.mark.parametrize("week", ["cold", "mild", "sunny"])
def test_a_week_sums_to_what_it_says(week):
    shown = scenarios.week_of(parse(tansy_cut()), YEAR, week=week).week
    assert len(shown.outdoor_c) == 7 * 96
    assert sum(shown.heat_w) / 4000 == pytest.approx(shown.heat_kwh, rel=1e-3)
    assert sum(shown.electric_w) / 4000 == pytest.approx(shown.electricity_kwh, rel=1e-3)
    first = (shown.first_day - 1) * 24
    assert np.mean(shown.outdoor_c) == pytest.approx(YEAR.outdoor_c[first : first + 168].mean(), abs=0.1)


def test_the_coldest_week_is_the_coldest():
    days = YEAR.outdoor_c.reshape(365, 24).mean(axis=1)
    means = [days[n : n + 7].mean() for n in range(359)]
    assert scenarios.first_hour_of("cold", YEAR) == int(np.argmin(means)) * 24


def test_a_heavy_house_swings_less():
    swings = []
    for heavy in HEAVINESS_J_M2K:
        document = tansy_cut()
        document["survey"]["heaviness"] = heavy
        shown = scenarios.week_of(parse(document), YEAR, week="cold", scenario="off").week
        parlour = next(room for room in shown.rooms if room.id == "parlour")
        swings.append(max(parlour.room_c) - min(parlour.room_c))
    assert swings == sorted(swings, reverse=True)


def test_what_cannot_be_run_is_named():
    without = tansy_cut()
    without["schemes"]["lukewarm"].pop("chosen")
    for document, said in ((without, "no machine"), (oat_store(), "scheme|machine|emitters")):
        found = scenarios.judge(parse(document), YEAR)
        assert found.rows == []
        assert any(word in found.lacks for word in said.split("|"))
    assert "hourly year" in scenarios.judge(parse(tansy_cut()), None).lacks
    with pytest.raises(NotFound, match="setback"):
        scenarios.week_of(parse(tansy_cut()), YEAR, week="cold", scenario="odd")
    with pytest.raises(Refused, match="no machine"):
        trace_csv(parse(without), days=1, first_day=1, step_min=15)


def test_the_trace_is_a_table_of_the_same_run():
    job = parse(tansy_cut())
    rows = list(csv.DictReader(io.StringIO(trace_csv(job, days=2, first_day=20, step_min=30))))
    assert len(rows) == 96
    assert tuple(rows[0])[: len(COLUMNS)] == COLUMNS
    assert float(rows[0]["hour_of_year"]) == 19 * 24
    # heat by flow and spread, in the middle of a run without hot water or thawing
    for row in rows[10:]:
        if row["mode"] == "heating" and float(row["store_w"]) == 0 and float(row["heat_w"]) > 2000:
            spread = float(row["supply_c"]) - float(row["return_c"])
            assert float(row["flow_lph"]) * 1.163 * spread == pytest.approx(float(row["heat_w"]), rel=0.35)


def test_limits_of_the_water_hold_in_the_run():
    twin = twin_of(parse(tansy_cut()))
    line = twin.house.control.line_c
    assert line.max() <= twin.design.curve.greatest_flow_c
    shown = scenarios.week_of(parse(tansy_cut()), YEAR, week="cold").week
    assert max(shown.wanted_c) <= twin.design.curve.greatest_flow_c + 1e-9
    heating = [s for s, mode in zip(shown.supply_c, shown.mode, strict=True) if mode == loop.HEATING]
    assert np.median(heating) < twin.design.curve.greatest_flow_c


@pytest.mark.parametrize("stirred", [0.1, 0.25, 0.9])
@pytest.mark.parametrize("flows", [0.2, 0.7, 1.0, 1.6])
def test_a_vessel_left_to_rest_lifts_the_water_as_the_design_has_it(stirred, flows):
    """Two routes: the vessel filled by steps until it rests, and the kelvin of `separation.lift_k` (heat over the flows)."""
    emitters_w_k, heat_w, supply, s = 1000.0, 5000.0, 45.0, separation.mixing_share(stirred=stirred, flows=flows)
    machine_w_k, vessel = flows * emitters_w_k, 30.0
    for _ in range(20_000):
        mixed = max(1 - flows, 0.0)
        feed = s * vessel + (1 - s) * (supply * (1 - mixed) + vessel * mixed)
        back = feed - heat_w / emitters_w_k
        gains = s * (machine_w_k * (supply - vessel) - emitters_w_k * (vessel - back))
        gains += (1 - s) * max(machine_w_k - emitters_w_k, 0.0) * (supply - vessel)
        gains -= (1 - s) * max(emitters_w_k - machine_w_k, 0.0) * (vessel - back)
        vessel += 1e-4 * gains
    lph = 1 / (PLAIN.w_k_per_lph(temperature_c=40.0))
    lift = separation.lift_k(
        heat_w=heat_w, machine_lph=machine_w_k * lph, emitters_lph=emitters_w_k * lph, stirred=stirred, fluid=PLAIN
    )
    assert supply - feed == pytest.approx(lift, rel=1e-3)


def test_a_vessel_put_in_costs_what_one_taken_out_saves():
    """Two routes to each year: the way tried in a house without, and the house laid out with it; and the other way round."""

    def run(**between):
        document = tansy_cut()
        document["schemes"][document["active_scheme"]]["separation"] = {"kind": "direct"} | between
        job = parse(document)
        year = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
        rows = scenarios.judge(job, year, only=("buffer",)).rows
        return {row.key: row for row in rows}

    without, having = run(), run(kind="buffer 4", buffer_l=100.0)
    assert without["buffer"].electricity_kwh == pytest.approx(having["now"].electricity_kwh, rel=0.005)
    assert having["buffer"].electricity_kwh == pytest.approx(without["now"].electricity_kwh, rel=0.005)
    assert without["buffer"].more_kwh > 200  # a second pump and warmer water all winter


def test_work_that_was_given_up_is_taken_up_where_it_ended(found, monkeypatch):
    """Who asked has gone after three ways; the next who asks waits for the others alone, and reads what a whole run says."""
    rows, runs, asked = {}, [], itertools.count()
    run = loop.run
    monkeypatch.setattr(loop, "run", lambda *a: runs.append(1) or run(*a))

    def remembered(key, make):
        if key not in rows:
            rows[key] = make()
        return rows[key]

    def ask():
        return scenarios.judge(parse(tansy_cut()), YEAR, remembered=remembered)

    left = contextvars.copy_context()
    left.run(patience.waited_for.set, lambda: next(asked) < 3)
    with pytest.raises(LeftAlone):
        left.run(ask)
    assert list(rows) == [row.key for row in found.rows[:3]]
    done = len(runs)
    assert ask() == found
    assert 0 < done < len(runs)
    assert len(runs) == len(found.rows) * done // 3
