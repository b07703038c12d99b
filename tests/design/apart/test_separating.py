"""One circuit or two, open water, zones, frost: through the whole chain, by hand and by the practice's figures."""

from __future__ import annotations

import pytest

from cinder.design import design
from cinder.design.apart import protecting, separating
from cinder.design.house import water
from cinder.errors import InvalidJob
from cinder.library import load
from cinder.model import parse
from cinder.physics.flow.fluid import PLAIN
from cinder.physics.flow.separation import carried_w_k
from tests.conftest import house, tansy_cut

PARTS = load().plant_parts


def scheme_of(document: dict) -> dict:
    return document["schemes"][document["active_scheme"]]


def ways(document: dict):
    job = parse(document)
    shown = design(job)
    return shown, separating.judge(job, shown, PARTS)


def guards(document: dict):
    job = parse(document)
    shown = design(job)
    return shown, protecting.judge(job, shown, PARTS)


def separated(**said) -> dict:
    document = tansy_cut()
    scheme_of(document)["separation"] = said
    return document


@pytest.fixture(scope="module")
def plain():
    return ways(tansy_cut())


class TestTheChain:
    def test_the_emitters_flow_is_the_pipes_flow(self):
        """Two routes: emitters' heat over their spreads before the pipes, and the sum of every circuit."""
        for document in (tansy_cut(), separated(kind="buffer 4")):
            shown = design(parse(document))
            assert shown.separation.emitters_lph == pytest.approx(shown.pipework.flow_lph, rel=1e-9)

    def test_equal_flows_behind_a_header_cost_the_second_pump_alone(self):
        direct = design(parse(tansy_cut()))
        header = design(parse(separated(kind="header", machine_lph=direct.separation.emitters_lph)))
        assert header.separation.lift_k == pytest.approx(0.0, abs=1e-9)
        drawn = header.season.electricity_kwh - direct.season.electricity_kwh
        assert drawn == pytest.approx(header.separation.pump_w * header.season.heating_hours / 1000, rel=1e-6)

    def test_less_flow_on_the_machines_side_makes_it_hotter_and_the_season_worse(self):
        seasons = [design(parse(separated(kind="buffer 4", machine_lph=lph))) for lph in (1750.0, 1000.0, 700.0)]
        assert [one.separation.lift_k for one in seasons] == sorted(one.separation.lift_k for one in seasons)
        assert seasons[0].season.performance > seasons[1].season.performance > seasons[2].season.performance

    def test_the_lift_shrinks_with_the_load(self):
        found = design(parse(separated(kind="buffer 4", machine_lph=700.0))).separation
        assert float(found.lift_at(found.outdoor_c)) == pytest.approx(found.lift_k)
        middle = (found.outdoor_c + found.rooms_c) / 2
        assert float(found.lift_at(middle)) == pytest.approx(found.lift_k / 2)
        assert float(found.lift_at(found.rooms_c + 3)) == 0.0

    def test_the_primaries_are_the_machines_own_side(self):
        shown = design(parse(separated(kind="header")))
        first = next(p for p in shown.pipework.pipes if p.parent is None)
        assert first.flow_lph == shown.pipework.primary.flow_lph == shown.separation.machine_lph
        assert all(first.id not in circuit.path for circuit in shown.pipework.circuits)
        by_id = {p.id: p for p in shown.pipework.pipes}
        index = shown.pipework.circuits[0]
        assert index.loss_kpa == pytest.approx(sum(by_id[key].total_kpa for key in index.path))
        assert shown.pipework.primary.loss_kpa == pytest.approx(first.friction_kpa + first.fittings_kpa)

    def test_open_water_counts_the_buffer_once(self):
        before, after = (design(parse(d)).volume for d in (tansy_cut(), separated(kind="buffer 4", buffer_l=70.0)))
        assert after.open_l == pytest.approx(before.open_l + 70.0)
        assert after.separator_l == 70.0

    def test_the_year_of_hours_pays_for_the_lift_too(self):
        from cinder.design import year
        from cinder.library import shipped_year

        found = []
        for document in (tansy_cut(), separated(kind="buffer 4", machine_lph=700.0)):
            job = parse(document)
            climate = job.library.climates[job.climate.entry].data
            found.append(year.judge(job, design(job), shipped_year(climate.year_sha256)).performance)
        assert found[1] < found[0] * 0.97

    def test_glycol_moves_flow_pressure_output_and_vessel(self):
        document = tansy_cut()
        scheme_of(document)["protection"] = {"kind": "glycol", "glycol_share": 0.25}
        before, after = design(parse(tansy_cut())), design(parse(document))
        mixed = water.mixed("propylene", 0.25)
        per_l = [carried_w_k(flow_lph=1.0, fluid=one) for one in (PLAIN, mixed)]
        assert after.pipework.flow_lph / before.pipework.flow_lph == pytest.approx(per_l[0] / per_l[1], rel=1e-9)
        assert after.pipework.index_kpa > before.pipework.index_kpa * 1.1
        output = [next(row for row in one.machine.rows if row.chosen).output_w for one in (before, after)]
        assert output[1] / output[0] == pytest.approx(0.95, abs=1e-9)  # 5 % at a quarter (common practice)
        assert after.vessel.least_l > before.vessel.least_l
        assert after.season.performance < before.season.performance


class TestTheDecision:
    def test_one_circuit_does_it_where_pump_and_water_suffice(self, plain):
        shown, found = plain
        assert found.best == "direct"
        assert not found.variants[0].lacks
        assert found.variants[0].season == pytest.approx(shown.season.performance)
        assert next(v for v in found.variants if v.chosen).key == "direct"

    def test_every_way_is_what_the_chain_says_of_it(self, plain):
        """What a row promises is what choosing it gives."""
        _, found = plain
        for row in found.variants:
            if row.key in ("direct", "volumiser"):
                continue
            said = {"kind": row.key, "pump": row.pump} | ({} if row.key == "header" else {"buffer_l": row.buffer_l})
            shown = design(parse(separated(**said)))
            assert row.season == pytest.approx(shown.season.performance, rel=1e-9)
            assert row.head_used == pytest.approx(shown.pipework.head_used, rel=1e-9)
            assert row.open_l == pytest.approx(shown.volume.open_l, rel=1e-9)
            assert row.machine_flow_c - row.machine_return_c == pytest.approx(
                (row.flow_c - row.return_c) * row.emitters_lph / row.machine_lph
            )

    @pytest.mark.parametrize(
        "said",
        [
            {"kind": "buffer 3"}, {"kind": "buffer 4", "buffer_l": 33.0, "machine_lph": 800.0}, {"kind": "header", "pump": "class-8m"},
            {"volumiser_l": 25.0}, {},
        ],
    )  # fmt: skip
    def test_the_row_that_is_chosen_is_the_house_as_it_stands(self, said):
        shown, found = ways(separated(**said))
        row = next(one for one in found.variants if one.chosen)
        assert row.season == pytest.approx(shown.season.performance, rel=1e-12)
        assert row.open_l == pytest.approx(shown.volume.open_l, rel=1e-12)
        assert row.head_used == pytest.approx(shown.pipework.head_used, rel=1e-12)
        assert row.lift_k == shown.separation.lift_k

    def test_too_little_water_asks_for_a_volumiser_that_is_enough(self):
        document = tansy_cut()
        for one in document["survey"]["emitters"].values():
            one["spec"]["valve"] = "thermostatic" if one["spec"].get("kind") not in ("floor", "wall") else "actuator"
        for action in scheme_of(document)["emitters"].values():
            if action.get("spec"):
                action["spec"]["valve"] = "thermostatic"
        shown, found = ways(document)
        assert shown.volume.open_l < shown.volume.need_l
        row = next(v for v in found.variants if v.key == "volumiser")
        assert row.open_l >= row.need_l
        assert found.best == "volumiser"
        assert any("open water too little" in one for one in found.variants[0].lacks)

    def test_a_pump_that_is_too_weak_asks_for_two_circuits(self):
        document = tansy_cut()
        key = scheme_of(document)["candidates"][scheme_of(document)["chosen"]]["machine"]
        machine = document["library"]["machines"][key]["data"]
        machine["pump_head_kpa"] = [one * 0.35 for one in machine["pump_head_kpa"]]
        shown, found = ways(document)
        assert shown.pipework.head_used > 1
        assert found.best in ("header", "buffer 2", "buffer 3", "buffer 4")
        assert any("kPa short" in one for one in found.variants[0].lacks)

    def test_without_a_scheme_it_says_what_to_do(self):
        _, found = ways(tansy_cut() | {"active_scheme": None})
        assert found.lacks
        assert not found.variants

    def test_open_emitters_and_pipes_make_up_the_open_water(self, plain):
        shown, found = plain
        own = sum(one.litres for one in found.opens if one.open)
        shared = sum(p.water_l for p in shown.pipework.pipes if not p.emitter)
        assert own + shared + shown.volume.machine_l == pytest.approx(shown.volume.open_l)

    def test_about_110_litres_of_open_water_are_enough_for_five_kilowatts(self):
        """Common practice: 110 L for 4.9 kW, some 22 L/kW. What a defrost of ours takes is of that order."""
        shown = design(parse(tansy_cut()))
        per_kw = shown.volume.defrost_l / (next(r for r in shown.machine.rows if r.chosen).output_w / 1000)
        assert 14 <= per_kw <= 24
        assert shown.volume.rule_l / shown.volume.defrost_l == pytest.approx(1.15, abs=0.25)


class TestZones:
    def test_a_small_zone_alone_cannot_carry_the_machine(self, plain):
        _, found = plain
        small = [z for z in found.zones.rows if z.key.startswith("room:")]
        assert small
        assert all(z.run_minutes < 10 for z in small)
        assert any("cannot carry" in one for one in found.zones.words)

    def test_runs_and_starts_are_what_an_hour_holds(self, plain):
        """By hand: heat stored in the band over what is left of the least output; the pause by what the zone draws."""
        _, found = plain
        for z in found.zones.rows:
            if z.run_minutes is None or not z.mild_w:
                continue
            stored = carried_w_k(flow_lph=3600.0, fluid=PLAIN) * z.litres * 5.0
            on, off = stored / (found.zones.least_w - z.mild_w), stored / z.mild_w
            assert z.run_minutes == pytest.approx(on / 60)
            assert z.starts_per_h == pytest.approx(3600 / (on + off))

    def test_named_zones_hold_their_rooms_and_a_blended_one_is_told_what_it_costs(self):
        document = tansy_cut()
        scheme_of(document)["zones"] = {"up": {"label": "Upstairs", "rooms": ["bed1", "bed2"], "mixed": True}}
        _, found = ways(document)
        up = next(z for z in found.zones.rows if z.key == "up")
        assert up.rooms == ["Bedroom 1", "Bedroom 2"]
        assert any("blended down" in one or "can go" in one for one in found.zones.words)

    @pytest.mark.parametrize(
        ("zones", "said"),
        [
            ({"a": {"rooms": ["attic-that-is-not"]}}, "room"),
            ({"a": {"rooms": ["bed1"]}, "b": {"rooms": ["bed1"]}}, "one zone only"),
        ],
    )
    def test_a_room_that_is_not_there_or_stands_twice_is_refused(self, zones, said):
        document = tansy_cut()
        scheme_of(document)["zones"] = zones
        with pytest.raises(InvalidJob) as caught:
            parse(document)
        assert any("/zones/" in p.path and said in p.message for p in caught.value.problems)


class TestFrost:
    def test_a_fill_of_glycol_costs_two_to_three_times_a_pair_of_valves(self):
        """Common practice; and again every five years."""
        _, found = guards(tansy_cut())
        by = {row.key: row for row in found.rows}
        assert 2.0 <= by["propylene"].once_minor / by["valves"].once_minor <= 3.0
        assert by["propylene"].again_years == 5
        assert by["propylene"].total_minor == pytest.approx(
            by["propylene"].once_minor + 2 * by["propylene"].again_minor + 15 * by["propylene"].energy_minor
        )

    def test_valves_where_somebody_refills_and_glycol_otherwise(self):
        document = tansy_cut()
        assert guards(document)[1].best == "propylene"
        scheme_of(document)["protection"] = {"refills": "The lock-keeper"}
        assert guards(document)[1].best == "valves"

    def test_the_mixture_reaches_down_to_the_frost(self):
        document = tansy_cut()
        scheme_of(document)["protection"] = {"frost_c": -18.0}
        _, found = guards(document)
        for row in found.rows:
            if row.kind == "glycol":
                assert row.freezes_c == pytest.approx(-18.0, abs=0.1)
                assert row.glycol_l == pytest.approx(row.share * found.system_l, rel=1e-6)

    def test_no_glycol_reaches_down_to_everything(self):
        document = tansy_cut()
        scheme_of(document)["protection"] = {"kind": "glycol", "frost_c": -60.0}
        _, found = guards(document)
        assert any("may come" in one for row in found.rows if row.kind == "glycol" for one in row.lacks)

    def test_ethylene_beside_drinking_water_is_named(self):
        _, found = guards(tansy_cut())
        assert any("drinking water" in one for row in found.rows if row.glycol == "ethylene" for one in row.lacks)

    def test_a_row_is_what_choosing_it_gives(self):
        _, found = guards(tansy_cut())
        row = next(one for one in found.rows if one.key == "ethylene")
        document = tansy_cut()
        scheme_of(document)["protection"] = {"kind": "glycol", "glycol": "ethylene"}
        shown = design(parse(document))
        assert row.flow_lph == pytest.approx(shown.pipework.flow_lph, rel=1e-9)
        assert row.index_kpa == pytest.approx(shown.pipework.index_kpa, rel=1e-9)
        assert row.season == pytest.approx(shown.season.performance, rel=1e-9)

    def test_glycol_at_95_percent_is_refused_by_its_name(self):
        document = tansy_cut()
        scheme_of(document)["protection"] = {"kind": "glycol", "glycol_share": 0.95}
        with pytest.raises(InvalidJob) as caught:
            parse(document)
        assert any(p.path.endswith("/protection/glycol_share") for p in caught.value.problems)

    def test_a_house_without_a_machine_has_nothing_to_protect_yet(self):
        _, found = guards(house("three-rooms") | {"active_scheme": None})
        assert found.lacks
        assert not found.rows
