"""Heat pump map, season, pump, cylinder, network, curve."""

import numpy as np
import pytest

from cinder.design.machine.load import performance_map
from cinder.errors import PhysicsError
from cinder.library import load
from cinder.physics.flow import network, pump
from cinder.physics.machine import curve
from cinder.physics.machine.heat_pump import Operation, carnot_fraction, operate, water_for_cop
from cinder.physics.machine.season import season_over_bins
from cinder.physics.store import cylinder

MACHINES = list(load().machines.values())


@pytest.fixture(params=MACHINES, ids=lambda m: m.id)
def machine(request):
    return performance_map(request.param)


def test_map_gives_its_test_points_back(machine):
    at = operate(machine, outdoor_c=machine.outdoor_c[:, None], water_c=machine.water_c[None, :])
    inside = at.inside
    assert np.allclose(at.greatest_w[inside], machine.greatest_w[inside])
    assert np.allclose(at.cop[inside], machine.cop[inside])


def test_maps_are_credible(machine):
    """Carnot fraction of real machines: 0.36 to 0.50 at the test points, never above 0.6 (common practice)."""
    fraction = carnot_fraction(machine)
    assert fraction.min() > 0.33
    assert fraction.max() < 0.50


def test_halfway_between_four_points(machine):
    air = (machine.outdoor_c[1] + machine.outdoor_c[2]) / 2
    water = (machine.water_c[0] + machine.water_c[1]) / 2
    mean = machine.greatest_w[1:3, 0:2].mean()
    assert float(operate(machine, outdoor_c=air, water_c=water).greatest_w) == pytest.approx(mean)


def test_outside_the_envelope_there_is_no_output(machine):
    too_cold = operate(machine, outdoor_c=machine.lowest_outdoor_c - 1, water_c=35.0)
    too_hot = operate(machine, outdoor_c=2.0, water_c=machine.limit_water_c.max() + 1)
    assert float(too_cold.greatest_w) == float(too_hot.greatest_w) == 0.0


def test_extrapolated_is_marked_and_never_beats_the_best_test(machine):
    mild = operate(machine, outdoor_c=20.0, water_c=25.0)
    assert bool(mild.extrapolated)
    assert float(mild.cop) <= machine.cop.max()


def test_colder_air_never_gives_more(machine):
    air = np.arange(-20.0, -6.0)
    assert np.all(np.diff(operate(machine, outdoor_c=air, water_c=35.0).greatest_w) >= -1e-9)


def test_equal_cop_line_lies_where_the_map_says(machine):
    air = np.array([-5.0, 0.0, 5.0])
    line = water_for_cop(machine, outdoor_c=air, levels=(3.0,), waters_c=np.arange(25.0, 65.5, 0.5))[0]
    known = np.isfinite(line)
    assert known.any()
    assert np.allclose(operate(machine, outdoor_c=air[known], water_c=line[known]).cop, 3.0, atol=0.02)


def test_en_14825_average_season_has_4910_hours():
    """EN 14825 (from memory): the bins of the average climate sum to 4910 hours."""
    assert sum(load().climates["en-14825-average"].bin_hours) == 4910


def test_other_climates_have_a_whole_year():
    for climate in load().climates.values():
        if climate.synthetic:
            assert sum(climate.bin_hours) == 8760


def flat(cop, greatest, least=0.0, n=3):
    full = np.full(n, 1.0)
    return Operation(full * greatest, full * least, full * cop, full > 0, full < 0)


def test_season_of_a_constant_machine_is_its_cop():
    season = season_over_bins(
        hours=np.array([100.0, 200.0, 300.0]),
        load_w=np.array([3e3, 2e3, 1e3]),
        operation=flat(4.0, 9e3),
        degradation=0.9,
    )
    assert season.performance == pytest.approx(4.0)
    assert season.heat_total_kwh == pytest.approx(300 + 400 + 300)


def test_cycling_penalty_by_hand():
    """EN 14825: at half of least output, COP x 0.5/(0.9 x 0.5 + 0.1) = COP x 0.909."""
    season = season_over_bins(
        hours=np.ones(3), load_w=np.full(3, 1e3), operation=flat(4.0, 9e3, least=2e3), degradation=0.9
    )
    assert season.performance == pytest.approx(4.0 * 0.5 / 0.55)
    assert season.cycling_hours == 3


def test_backup_takes_the_rest():
    season = season_over_bins(hours=np.ones(3) * 10, load_w=np.full(3, 5e3), operation=flat(4.0, 4e3), degradation=0.9)
    assert season.backup_total_kwh == pytest.approx(30.0)
    assert season.electricity_total_kwh == pytest.approx(30.0 + 3 * 10.0)
    assert season.machine_kwh.sum() + season.backup_kwh.sum() == pytest.approx(season.heat_total_kwh)


def test_pump_curve():
    flow, head = np.array([0.0, 500.0, 1000.0]), np.array([60.0, 50.0, 10.0])
    assert pump.head_kpa(flow_lph=750.0, curve_flow_lph=flow, curve_head_kpa=head) == pytest.approx(30.0)
    assert pump.head_kpa(flow_lph=1001.0, curve_flow_lph=flow, curve_head_kpa=head) == 0.0
    with pytest.raises(PhysicsError):
        pump.head_kpa(flow_lph=1.0, curve_flow_lph=flow[::-1], curve_head_kpa=head)


@pytest.mark.parametrize(("kw", "minutes"), [(5, 105), (7, 75), (12, 44)])
def test_reheat_of_200_litres(kw, minutes):
    """200 L from 10 to 48 deg C: about 105 min at 5 kW, 75 at 7, 44 at 12 (common practice)."""
    assert cylinder.reheat_minutes(volume_l=200, cold_c=10, hot_c=48, power_w=kw * 1000) == pytest.approx(
        minutes, abs=1.5
    )


def test_network_in_a_circle_is_refused():
    with pytest.raises(PhysicsError, match="circle"):
        network.downstream_sum({"a": "b", "b": "a"}, {"a": 1.0})


def test_flows_add_up_at_every_branch():
    parents = {"root": None, "up": "root", "down": "root", "x": "up", "y": "up", "z": "down"}
    flows = network.downstream_sum(parents, {"x": 1.0, "y": 2.0, "z": 4.0})
    assert flows["up"] == flows["x"] + flows["y"]
    assert flows["root"] == 7.0


def test_two_point_line_and_limits():
    setting = curve.TwoPoint(-3.0, 42.0, 15.0, 27.0, 20.0, 44.0)
    assert curve.flow_at(setting, outdoor_c=np.array([-3.0, 15.0, 6.0])).tolist() == [42.0, 27.0, 34.5]
    assert float(curve.flow_at(setting, outdoor_c=-20.0)) == 44.0


def test_mild_end_is_the_least_step_that_holds():
    out = np.arange(-2.0, 16.0)
    need = 20 + 22 * ((20 - out) / 23) ** (1 / 1.3)
    mild = curve.least_mild_flow(
        cold_out_c=-3.0, cold_flow_c=42.0, mild_out_c=15.0, outdoor_c=out, allowed_c=need, step_k=1.0, greatest_c=42.0
    )

    def short(flow):
        setting = curve.TwoPoint(-3.0, 42.0, 15.0, flow, 0.0, 60.0)
        return float((need - curve.flow_at(setting, outdoor_c=out)).max())

    assert short(mild) <= 1e-9 < short(mild - 1.0)
