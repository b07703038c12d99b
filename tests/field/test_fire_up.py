"""The commissioning day: its bands against the machine's own map and plain arithmetic, its balance against a network that is known."""

import numpy as np
import pytest

from cinder.design.machine.load import performance_map
from cinder.devices.run import plant_of
from cinder.errors import InvalidJob
from cinder.field import wiring
from cinder.field.expected import expected_of
from cinder.field.fire_up import day
from cinder.field.fire_up.balance import Tails, balance, planned, shares
from cinder.field.fire_up.bands import House, asked, direct_flow_lph
from cinder.field.spreads import expected_k
from cinder.library import load
from cinder.model import parse
from cinder.physics.machine import heat_pump
from tests.conftest import counting_house, oat_store, tansy_cut

RUN = {
    "heat/outdoor_c": 3.0,
    "heat/flow_c": 41.0,
    "heat/return_c": 36.0,
    "heat/flow_lph": 1300.0,
    "heat/electric_w": 1900.0,
}


def done(document, **steps):
    document["fire_up"] = {"steps": {key.replace("_", "-"): value for key, value in steps.items()}}
    return parse(document)


def test_heat_and_cop_of_a_run_are_those_of_water_and_of_the_map(houses):
    """1300 L/h cooled by 5 K: 1.3 m3/h x 992.9 kg/m3 x 4.178 kJ/kgK x 5 K / 3.6 = 7.49 kW (water at 38.5 deg C, IAPWS tables, from memory)."""
    house = House(houses[0][0], 3.0)
    found = dict(asked("heating-run", house, RUN))
    assert found["heat/heat_w"].value == pytest.approx(1.3 * 992.9 * 4.178 * 5 / 3.6, rel=0.004)
    assert found["heat/cop"].value == pytest.approx(found["heat/heat_w"].value / 1900.0)
    entry = house.expected.house.view.machine
    cop = float(heat_pump.operate(performance_map(entry), outdoor_c=3.0, water_c=41.0).cop)
    assert found["heat/cop"].expected == pytest.approx(cop)


def test_a_figure_off_its_band_asks_for_a_reason(houses):
    job = done(tansy_cut(), heating_run={"state": "done", "values": RUN | {"heat/flow_lph": 700.0}})
    step = next(one for one in day.judge(job, None).steps if one.key == "heating-run")
    assert step.needs_reason
    assert next(one for one in step.asks if one.key == "heat/flow_lph").verdict == "off"
    job = done(
        tansy_cut(),
        heating_run={"state": "done", "reason": "air, vented after", "values": RUN | {"heat/flow_lph": 700.0}},
    )
    assert not next(one for one in day.judge(job, None).steps if one.key == "heating-run").needs_reason


def test_on_a_hot_day_what_waits_for_cold_is_told_apart():
    found = day.judge(parse(tansy_cut()), None, live={"outdoor_c": 21.0})
    assert found.hot
    waiting = {one.key for one in found.steps if one.waits}
    assert waiting == {key for key, one in load().fire_up.items() if one.cold}
    cold = day.judge(parse(tansy_cut()), None, live={"outdoor_c": 2.0})
    assert not cold.hot
    assert not any(one.waits for one in cold.steps)


def test_steps_are_those_of_the_plant():
    tansy = {one.key for one in day.judge(parse(tansy_cut()), None).steps}
    counting = {one.key for one in day.judge(parse(counting_house()), None).steps}
    assert {"diverter", "hot-water-run", "hygiene"} <= tansy
    assert not {"diverter", "hot-water-run"} & counting  # its boiler keeps the hot water
    without = day.judge(parse(oat_store()), None)
    assert "no machine" in without.lacks
    assert len(without.steps) > 20


def test_direct_running_is_where_the_pumps_curve_meets_the_circuit(houses):
    """Bisection on the same two curves."""
    house = House(houses[0][0], 3.0)
    entry, pipes = house.expected.house.view.machine, house.expected.house.design.pipework
    low, high = 1.0, entry.pump_flow_lph[-1]
    for _ in range(60):
        mid = 0.5 * (low + high)
        head = np.interp(mid, entry.pump_flow_lph, entry.pump_head_kpa)
        low, high = (mid, high) if head > pipes.index_kpa * (mid / pipes.flow_lph) ** 2 else (low, mid)
    assert direct_flow_lph(house) == pytest.approx(min(low, entry.pump_flow_lph[-1]), rel=0.01)


def measured(house, share, *, flow=42.0):
    """Both tails of every emitter with its water so many times what is designed."""
    emitters = house.house.house.emitters
    out = {}
    for e, key in enumerate(house.house.emitters):
        room = float(house.balance.rooms.target_c[emitters.room[e]])
        if emitters.flow_w_k[e] <= 0:
            continue
        spread = float(
            expected_k(house, e, np.array([flow]), np.array([room]), flow_w_k=float(emitters.flow_w_k[e] * share[e]))[0]
        )
        out[key] = Tails(flow, flow - spread, room, 1.0)
    return out


def test_water_is_read_off_tails_whatever_was_put_into_them(houses):
    for house, _ in houses:
        live = np.asarray(house.house.house.emitters.flow_w_k) > 0
        share = np.random.default_rng(3).uniform(0.4, 2.2, len(live))
        found = shares(house, measured(house, share))
        assert found[live] == pytest.approx(share[live], rel=0.03)


def test_a_few_moves_bring_all_near_where_going_round_takes_many(houses):
    """Branches side by side under one head: each takes water as its opening is, the total stays. Going round, one lockshield after the other
    set right where it stands, moves every one and still leaves the first of them wrong."""
    house, _ = houses[0]
    weight = np.asarray(house.house.house.emitters.flow_w_k)
    rng = np.random.default_rng(11)
    for _ in range(20):
        opening = np.ones(len(weight))
        wrong = rng.choice(len(weight), size=3, replace=False)
        opening[wrong] = rng.choice([0.15, 0.3, 2.5], size=3)
        share = opening * weight.sum() / (opening * weight).sum()
        factor = planned(share, weight)
        after = opening * factor
        after = after * weight.sum() / (after * weight).sum()
        assert (factor != 1.0).sum() <= 3 + 1
        assert np.abs(after - 1.0).max() < 0.25


def test_moves_are_told_in_turns_by_the_jobs_own_table(houses):
    house, _ = houses[0]
    share = np.ones(len(house.house.emitters))
    share[0] = 2.5
    found = balance(house, measured(house, share), house.house.view.practice.lockshield)
    assert [one.emitter for one in found.moves] == [house.house.emitters[0]]
    assert "Close it from 1 to" in found.moves[0].says
    assert found.worst_after < 0.25 < found.worst_before


def test_probes_that_are_swapped_are_told(houses):
    house, _ = houses[0]
    key = house.house.emitters[0]
    found = balance(house, {key: Tails(30.0, 36.0, 20.0, None)}, [])
    assert "swapped" in next(one for one in found.emitters if one.id == key).said


def test_a_plants_wires_are_counted_and_a_small_controller_is_told():
    document = tansy_cut()
    document["fire_up"] = {
        "controller": {
            "outputs": 2,
            "inputs": 30,
            "terminals": {"outdoor-sensor": {"terminal": "X1.3", "checked": True}},
        }
    }
    found = wiring.judge(parse(document))
    keys = [one.key for one in found.points]
    assert len(keys) == len(set(keys))
    assert {"outdoor-sensor", "diverter", "store-sensor", "primary-pump"} <= set(keys)
    assert found.short_outputs == found.outputs - 2
    assert "extension" in found.sentence
    assert next(one for one in found.points if one.key == "outdoor-sensor").terminal == "X1.3"


def test_a_blended_circuit_has_its_own_valve_and_sensor():
    document = tansy_cut()
    room = next(iter(document["survey"]["rooms"]))
    document["schemes"]["lukewarm"]["zones"] = {"warm": {"label": "Parlour", "rooms": [room], "mixed": True}}
    found = wiring.judge(parse(document))
    mine = [one.label for one in found.points if one.circuit.startswith("Parlour, mixed")]
    assert "Blending valve, opens" in mine
    assert "Flow sensor behind the valve" in mine


@pytest.mark.parametrize(
    ("key", "value"),
    [("heat/outdoor_c", 60.0), ("heat/flow_c", 130.0), ("heat/flow_lph", -5.0), ("heat/electric_w", 9e5), ("vessel/precharge_bar", 40.0),
     ("tail/r-hall/return", 200.0), ("room/hall", 80.0), ("turns/r-hall", -1.0), ("dose/frost_c", 25.0)],
)  # fmt: skip
def test_what_no_instrument_shows_is_refused_and_named(key, value):
    with pytest.raises(InvalidJob) as refused:
        done(tansy_cut(), heating_run={"values": {key: value}})
    problem = refused.value.problems[0]
    assert problem.path.startswith("/fire_up/steps/heating-run/values")
    assert key in problem.message


def test_a_machine_that_makes_no_hot_water_says_that_its_steps_are_left_out():
    assert any("hot water" in note for note in day.judge(parse(counting_house()), None).notes)
    assert not any("hot water" in note for note in day.judge(parse(tansy_cut()), None).notes)


def test_water_that_is_short_everywhere_is_not_the_lockshields_fault(houses):
    """All at 55 %: nothing to turn, and the sentence does not say that all is well while every row says it is off."""
    house, _ = houses[0]
    found = balance(house, measured(house, np.full(len(house.house.emitters), 0.55)), [])
    assert found.moves == []
    assert "55%" in found.sentence
    assert "pump, strainer or air" in found.sentence
    assert any(one.verdict == "off" for one in found.emitters)
    right = balance(house, measured(house, np.ones(len(house.house.emitters))), [])
    assert "within a fifth" in right.sentence
    assert all(one.verdict != "off" for one in right.emitters)


def test_what_is_to_be_dialled_in_on_the_day_is_what_the_curve_card_has(houses):
    for house, _ in houses:
        found, curve = dict(asked("curve-set", House(house, None), {})), house.house.design.curve
        assert found["set/cold_flow_c"].expected == pytest.approx(curve.cold_flow_c)
        assert found["set/mild_flow_c"].expected == pytest.approx(curve.mild_flow_c)


def test_behind_a_separator_the_machines_water_is_hotter_than_what_is_dialled_in():
    """Two routes: the band of a heating run at the machine, and what a simulated plant does when the curve card's figures are dialled in."""
    document = tansy_cut()
    document["schemes"][document["active_scheme"]]["separation"] = {"kind": "header", "machine_lph": 600.0}
    job = parse(document)
    plant = plant_of(job, first_day=20)
    lift, curve = plant.twin.design.separation, plant.twin.design.curve
    house = House(expected_of(job, None), 3.0)
    band = dict(asked("heating-run", house, {"heat/outdoor_c": 3.0}))["heat/flow_c"]
    assert band.expected == pytest.approx(house.line_c(3.0) + float(lift.lift_at(3.0)))
    assert band.expected > house.line_c(3.0) + 3.0
    as_laid_out = plant.house.control.line_c.copy()
    plant.set("cold_flow_c", curve.cold_flow_c)
    assert plant.house.control.line_c == pytest.approx(as_laid_out, abs=0.6)
