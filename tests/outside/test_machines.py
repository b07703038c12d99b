"""Maps, seasons and shares of machines against a refrigerant's own properties, the standard's hours and plain arithmetic."""

import numpy as np
import pytest
from CoolProp.CoolProp import PropsSI

from cinder.design import design
from cinder.design.apart import running
from cinder.design.machine.load import Standing, performance_map
from cinder.design.machine.load import tested_map as map_of
from cinder.library import MachineEntry, load, shipped_year
from cinder.model import parse
from cinder.physics.machine import heat_pump, reference_season
from cinder.physics.machine.season import break_even_cop, season_over_bins, share
from tests.conftest import tansy_cut

MACHINES = load().machines
ISENTROPIC, AUXILIARIES = 0.70, 0.05
SUPERHEAT_K, SUBCOOLING_K = 5.0, 3.0


def cycle_cop(fluid: str, air_c: float, water_c: float) -> float:
    """A plain vapour-compression cycle: 8 K and 3 K approaches, a good compressor, 5 % auxiliaries, no frost."""
    cold, hot = air_c - 8 + 273.15, water_c + 3 + 273.15
    low, high = PropsSI("P", "T", cold, "Q", 1, fluid), PropsSI("P", "T", hot, "Q", 0, fluid)
    sucked = PropsSI("H", "T", cold + SUPERHEAT_K, "P", low, fluid)
    entropy = PropsSI("S", "T", cold + SUPERHEAT_K, "P", low, fluid)
    pressed = sucked + (PropsSI("H", "P", high, "S", entropy, fluid) - sucked) / ISENTROPIC
    liquid = PropsSI("H", "T", hot - SUBCOOLING_K, "P", high, fluid)
    return (pressed - liquid) / (pressed - sucked) / (1 + AUXILIARIES)


def test_the_cycle_is_the_one_of_the_trades_figures():
    """COP about 3.4-3.5 at A-7/W35 and A2/W45, 4.7-4.8 at A7/W35, 3.0-3.1 at A7/W55 (common practice)."""
    for fluid in ("R290", "R32"):
        found = [cycle_cop(fluid, *at) for at in ((-7, 35), (2, 45), (7, 35), (7, 55))]
        assert found == pytest.approx([3.45, 3.4, 4.75, 3.05], abs=0.08)


@pytest.mark.parametrize("key", MACHINES)
def test_shipped_maps_lie_under_a_good_cycle_and_fall_as_it_does(key):
    entry = MACHINES[key]
    table = map_of(entry)
    ideal = np.array([[cycle_cop(entry.refrigerant, air, water) for water in entry.water_c] for air in entry.outdoor_c])
    part = table.cop / ideal
    assert part.max() < 1.06
    assert part.min() > 0.8
    assert (np.diff(table.cop, axis=1) < 0).all()
    assert (np.diff(table.cop, axis=0) > 0).all()
    fraction = heat_pump.carnot_fraction(table)
    assert fraction.min() > 0.33
    assert fraction.max() < 0.5  # 0.38 to 0.50 at the test points (common practice), hot water below it


def test_extrapolation_follows_the_cycle_into_hotter_water():
    """Outside its points the map goes with the Carnot fraction of lift and approaches; the cycle falls a little faster, since its
    own losses grow too: 3 % within 4 K."""
    entry = MACHINES["sedge-9"]
    table = map_of(entry)
    inside, outside = (float(heat_pump.operate(table, outdoor_c=2.0, water_c=w).cop) for w in (65.0, 69.0))
    fall = cycle_cop("R290", 2.0, 69.0) / cycle_cop("R290", 2.0, 65.0)
    assert outside / inside == pytest.approx(fall, rel=0.03)


@pytest.mark.parametrize("key", MACHINES)
def test_interpolation_is_exact_at_the_points_and_has_no_extremum_between(key):
    table = map_of(MACHINES[key])
    air, water = np.meshgrid(table.outdoor_c, table.water_c, indexing="ij")
    limit = np.interp(air, table.limit_outdoor_c, table.limit_water_c)
    at = heat_pump.operate(table, outdoor_c=air, water_c=water)
    runs = water <= limit
    assert np.allclose(at.greatest_w[runs], table.greatest_w[runs])
    assert np.allclose(at.cop, table.cop)
    some = np.random.default_rng(4).uniform(size=(400, 2))
    i, j = (some * (np.array(table.cop.shape) - 1)).astype(int).T
    share_x, share_y = (some * (np.array(table.cop.shape) - 1)).T - (i, j)
    x = table.outdoor_c[i] + share_x * np.diff(table.outdoor_c)[i]
    y = table.water_c[j] + share_y * np.diff(table.water_c)[j]
    between = heat_pump.operate(table, outdoor_c=x, water_c=y).cop
    corners = np.stack([table.cop[i + a, j + b] for a in (0, 1) for b in (0, 1)])
    assert (between >= corners.min(axis=0) - 1e-9).all()
    assert (between <= corners.max(axis=0) + 1e-9).all()


def test_full_load_hours_of_the_reference_season():
    """EN 14825 (from memory): 4910 hours from -10 to 15 deg C; the part loads of its bins make 2066 hours at full load."""
    hours = reference_season.HOURS
    assert hours.sum() == 4910
    ratio = reference_season.part_load_ratio(reference_season.OUTDOOR_C)
    assert (hours * ratio).sum() == pytest.approx(reference_season.FULL_LOAD_H, rel=0.001)


def test_a_reference_season_worked_by_hand():
    """A machine of constant COP 4 that turns down without end and carries every bin: SCOP_on is 4; what stands counts against it."""
    air, water = np.array([-20.0, 20.0]), np.array([20.0, 60.0])
    grid = np.ones((2, 2))
    machine = heat_pump.PerformanceMap(
        air,
        water,
        grid * 9000,
        grid * 0.0,
        grid * 4.0,
        8.0,
        3.0,
        -25.0,
        np.array([-25.0, 30.0]),
        np.array([70.0, 70.0]),
    )
    found = reference_season.reference_season(machine, bivalent_c=-10.0)
    assert found.scop_on == pytest.approx(4.0)
    assert found.design_w == pytest.approx(9000)
    standing = reference_season.reference_season(machine, bivalent_c=-10.0, standing_w=10.0)
    heat = 9000 * 2066
    assert standing.scop == pytest.approx(heat / (heat / 4.0 + 10.0 * (179 + 3672)))
    late = reference_season.reference_season(machine, bivalent_c=2.0)  # the heater gives the rest of the colder bins
    load = late.design_w * (reference_season.OUTDOOR_C - 16) / -26
    machine_wh = (reference_season.HOURS * np.minimum(load, 9000)).sum()
    rest_wh = (reference_season.HOURS * np.maximum(load - 9000, 0)).sum()
    assert late.scop_on == pytest.approx((machine_wh + rest_wh) / (machine_wh / 4.0 + rest_wh))


def test_good_machines_have_the_seasons_people_see():
    """3.8 to 4.1 for a good machine designed at 45 to 40 deg C (common practice), by the house's own curve; here by the bench's
    two seasons, between which that lies."""
    for entry in MACHINES.values():
        low = reference_season.reference_season(map_of(entry), water=35, standing_w=entry.standby_w).scop
        medium = reference_season.reference_season(map_of(entry), water=55, standing_w=entry.standby_w).scop
        assert 3.0 < medium < 3.8 < low < 4.6


def test_break_even_by_hand():
    """Electricity three times the price of fuel at 90 %: 2.7 (a ratio)."""
    assert break_even_cop(electricity_per_kwh=21.0, fuel_per_kwh=7.0, efficiency=0.9) == pytest.approx(2.7)


def small(part: float) -> tuple:
    """A machine that gives this part of the design day's load, through a mild year: load, shared in parallel and in turn."""
    outdoor = shipped_year(load().climates["mild-maritime"].year_sha256).outdoor_c
    table = map_of(MACHINES["sedge-6"])
    at = heat_pump.operate(table, outdoor_c=outdoor, water_c=np.interp(outdoor, [-3.0, 15.0], [55.0, 30.0]))
    cold = float(heat_pump.operate(table, outdoor_c=-3.0, water_c=55.0).greatest_w)
    load_w = np.maximum(cold / part * (15.5 - outdoor) / 18.5, 0.0)
    return load_w, *(share(load_w=load_w, operation=at, degradation=0.9, mode=m) for m in ("parallel", "alternate"))


def test_a_small_machine_in_a_leaky_house():
    """A small one (a third of the load) carries 50 to 60 % of the hours alone (common practice); of the heat, at 40 % of the load,
    0.7 to 0.9 beside a boiler and 0.2 to 0.5 in its place (common practice)."""
    load_w, beside, _ = small(1 / 3)
    assert 0.5 < beside.alone.sum() / (load_w > 0).sum() < 0.6
    load_w, beside, instead = small(0.4)
    assert 0.7 < beside.machine_w.sum() / load_w.sum() < 0.9
    assert 0.2 < instead.machine_w.sum() / load_w.sum() < 0.5
    for one in (beside, instead):
        assert np.allclose(one.load_w, load_w)


def test_whichever_is_cheaper_is_never_dearer():
    """Hour by hour the cheaper source: no other way to share the same heat costs less than both of them do."""
    outdoor = np.linspace(-10.0, 14.0, 200)
    at = heat_pump.operate(map_of(MACHINES["teasel-4"]), outdoor_c=outdoor, water_c=50.0 - outdoor)
    load_w = np.maximum(7000 * (16 - outdoor) / 26, 0.0)
    electricity, gas, efficiency = 27.0, 9.0, 0.9
    worth = break_even_cop(electricity_per_kwh=electricity, fuel_per_kwh=gas, efficiency=efficiency)

    def money(one) -> float:
        return float((one.electric_w * electricity + one.beside_w / efficiency * gas).sum())

    cheapest = money(share(load_w=load_w, operation=at, degradation=0.9, mode="cheaper", worth_cop=worth))
    for mode in ("parallel", "alternate"):
        assert cheapest <= money(share(load_w=load_w, operation=at, degradation=0.9, mode=mode)) + 1e-6
    assert cheapest <= float((load_w / efficiency * gas).sum()) + 1e-6


def test_thin_air_and_glycol_and_frost_only_take():
    entry = MACHINES["osier-12"]
    plain = performance_map(entry)
    for standing in (Standing(glycol_share=0.25), Standing(altitude_m=1500.0), Standing(quiet=True)):
        other = performance_map(entry, standing)
        for air in (-15.0, -7.0, 2.0, 7.0):
            before, after = (heat_pump.operate(m, outdoor_c=air, water_c=45.0) for m in (plain, other))
            assert float(after.greatest_w) < float(before.greatest_w)
            assert float(after.cop) <= float(before.cop) + 1e-12
    glycol = performance_map(entry, Standing(glycol_share=0.25))
    assert np.allclose(glycol.greatest_w, plain.greatest_w * 0.95)  # 25 % takes about 5 % (common practice)
    bare = heat_pump.corrected(plain, frost_included=False)
    lost = 1 - bare.greatest_w[:, 0] / plain.greatest_w[:, 0]
    assert lost.argmax() == list(entry.outdoor_c).index(2.0)
    assert lost[0] < 0.001


# ---- the job's own season, hour by hour


def tansy() -> tuple:
    document = tansy_cut()
    document["survey"]["household"]["people"] = None  # no hot water, so that two routes meet
    job = parse(document)
    climate = job.library.climates[job.climate.entry].data
    return job, design(job), shipped_year(climate.year_sha256)


def test_the_season_against_plain_hours():
    """A plain loop in numpy, hour by hour, without this module's sharing; and the year's own electricity."""
    from cinder.design.year import judge as year_of

    job, result, weather = tansy()
    runs = running.judge(job, result, weather)
    chosen = next(row for row in runs.rows if row.chosen)
    year = year_of(job, result, weather)
    assert chosen.heat_kwh == pytest.approx(year.heat_kwh, rel=1e-9)
    entry: MachineEntry = job.library.machines[next(c.machine for c in job.schemes[job.active_scheme].candidates.values()
                                                   if job.library.machines[c.machine].data.label == chosen.label)].data  # fmt: skip
    assert sum(m.heat_kwh for m in chosen.months) == pytest.approx(chosen.heat_kwh, rel=1e-9)
    standby = entry.standby_w * (8760 - runs.heating_hours) / 1000
    assert chosen.electricity_kwh == pytest.approx(year.electricity_kwh + standby, rel=1e-6)


def test_bins_and_hours_agree_where_there_are_neither_gains_nor_hot_water():
    """Within 2 %: the bins hold the same hours, the curve and the map bend little inside a bin."""
    document = tansy_cut()
    document["survey"]["household"]["people"] = None
    document["practice"] = document.get("practice", {}) | {
        "year_gains": "none", "gains_w_per_m2": 0.0, "heating_limit_c": 15.0
    }  # fmt: skip
    job = parse(document)
    result = design(job)
    weather = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
    chosen = next(row for row in running.judge(job, result, weather).rows if row.chosen)
    entry = next(e.data for e in job.library.machines.values() if e.data.label == chosen.label)
    load_w = np.array(result.machine.season_load_w)
    at = heat_pump.operate(
        performance_map(entry), outdoor_c=np.array(result.curve.outdoor_c), water_c=np.array(result.curve.line_c)
    )
    bins = season_over_bins(
        hours=np.array(result.machine.hours), load_w=load_w, operation=at, degradation=job.practice.cycling_degradation,
        always_on_w=entry.always_on_w,
    )  # fmt: skip
    assert chosen.performance == pytest.approx(bins.performance, rel=0.02)


def test_what_heats_it_today_is_reckoned_as_the_bills_reckon_it():
    """Two places name the efficiency of the heater that is there: the comparison of costs and the check of the bills."""
    from cinder.design.apart import bills

    for old in (True, False):
        document = tansy_cut()
        for bill in document["site"]["bills"].values():
            bill |= {"old_boiler": old}
            bill.pop("efficiency", None)
        job = parse(document)
        result = design(job)
        weather = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
        present = running.judge(job, result, weather).present
        line = next(one for one in bills.judge(job, result, weather).lines if one.fuel == present.fuel)
        assert present.efficiency == pytest.approx(line.efficiency)
        assert present.label in line.efficiency_why


def test_hot_water_beyond_the_envelope_is_no_heat_of_the_machine():
    """A store hotter than the machine's water: a heater in it makes all of it, a kWh for a kWh."""
    document = tansy_cut()
    document["schemes"]["lukewarm"]["hot_water"]["store_c"] = 70.0
    job = parse(document)
    result = design(job)
    weather = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
    rows = {row.id: row for row in running.judge(job, result, weather).rows}
    withy = rows["withy-8"]  # 60 deg C at most
    assert withy.hot_water_kwh > 1000
    assert withy.machine_kwh + withy.beside_kwh == pytest.approx(withy.heat_kwh + withy.hot_water_kwh)
    assert withy.beside_kwh >= withy.hot_water_kwh - 1e-6
    assert withy.heat_share < 1 - 0.9 * withy.hot_water_kwh / (withy.heat_kwh + withy.hot_water_kwh)
