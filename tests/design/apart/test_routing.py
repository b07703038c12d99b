"""Pipes laid over the plan: against a tree drawn by hand, against an exact small case, through given risers, and taken up."""

from __future__ import annotations

import copy
import itertools
import math

import numpy as np
import pytest
from shapely.geometry import Polygon, box

from cinder.design import design
from cinder.design.apart import routing, separating
from cinder.design.apart.routing.decide import wide_enough, with_runs
from cinder.design.apart.routing.field import CELL_M, OPEN_FLOOR, field, tree
from cinder.design.findings import Findings
from cinder.design.house.routes import along_m
from cinder.design.house.view import view
from cinder.errors import InvalidJob
from cinder.library import load
from cinder.model import parse
from cinder.model.survey import PipePoint
from cinder.physics.flow import pipe, water
from tests.conftest import counting_house, house, tansy_cut

UP = 2.85
BY_HAND = {
    "from the store into the hall": [(5.6, 4.6, 0), (6.5, 4.6, 0)],
    "scullery": [(6.5, 4.6, 0), (6.82, 4.6, 0), (6.82, 5.2, 0)],
    "hall radiator": [(6.5, 4.6, 0), (6.5, 3.3, 0)],
    "kitchen, along its back wall": [(6.5, 3.6, 0), (10.78, 3.6, 0), (10.78, 2.65, 0)],
    "parlour's back wall": [(5.6, 4.6, 0), (4.75, 4.6, 0), (4.75, 4.0, 0), (2.3, 4.0, 0)],
    "garden room, along its wall": [(4.4, 4.0, 0), (4.4, 8.28, 0), (2.1, 8.28, 0)],
    "parlour bay, along the walls": [(4.5, 4.0, 0), (4.5, 0.1, 0), (2.3, 0.1, 0), (2.3, -0.57, 0)],
    "riser in the hall's corner": [(6.5, 4.6, 0), (6.5, 5.3, 0), (6.5, 5.3, UP)],
    "bathroom, both": [(6.5, 5.3, UP), (6.5, 4.32, UP), (5.65, 4.32, UP)],
    "landing": [(5.65, 4.32, UP), (5.65, 3.98, UP)],
    "bedroom 3": [(6.5, 5.3, UP), (6.8, 5.3, UP), (6.8, 7.0, UP), (8.75, 7.0, UP)],
    "front main over the landing": [(6.5, 4.32, UP), (6.5, 0.1, UP)],
    "bedroom 2": [(6.5, 0.1, UP), (8.8, 0.1, UP)],
    "bedroom 1": [(6.5, 0.1, UP), (2.3, 0.1, UP)],
}
"""A tree for the lock-keeper's house drawn by hand on its plan, to where its emitters are."""


def found_of(document: dict):
    job = parse(document)
    return job, routing.judge(job, design(job))


@pytest.fixture(scope="module")
def lock():
    return found_of(tansy_cut())


def test_the_total_lies_within_a_quarter_of_a_tree_drawn_by_hand(lock):
    _, found = lock
    by_hand = sum(math.dist(a, b) for way in BY_HAND.values() for a, b in itertools.pairwise(way))
    print(f"by rule {found.total_m:.1f} m, by hand {by_hand:.1f} m")
    assert abs(found.total_m / by_hand - 1) <= 0.25


def test_every_emitter_is_served_and_every_run_leads_on(lock):
    _, found = lock
    ids = {one.id for one in found.runs}
    assert {one.emitter for one in found.runs if one.emitter} == {spot.emitter for spot in found.spots}
    assert not found.left_out
    for one in found.runs:
        assert one.parent is None or one.parent in ids
        if one.parent is not None:
            up = next(other for other in found.runs if other.id == one.parent)
            assert one.way_m[0] == pytest.approx(up.way_m[-1])
        if one.emitter is None:
            assert any(other.parent == one.id for other in found.runs), f"{one.label} leads to nowhere"


def test_lengths_are_those_of_the_ways_and_flows_add_up(lock):
    job, found = lock
    for one in found.runs:
        drawn = along_m([PipePoint(x_m=x, y_m=y, z_m=z) for x, y, z in one.way_m])
        assert one.length_m == pytest.approx(max(drawn, 0.3 if one.emitter else CELL_M), abs=0.02)
        below = sum(other.flow_lph for other in found.runs if other.parent == one.id)
        if one.emitter is None:
            assert one.flow_lph == pytest.approx(below)
    shown = design(job)
    assert sum(one.flow_lph for one in found.runs if one.parent is None) == pytest.approx(shown.pipework.flow_lph)


def test_taking_it_up_gives_what_was_promised(lock):
    job, found = lock
    shown = design(with_runs(job, view(job, Findings()), found.runs, found.keeps))
    assert shown.pipework.index_kpa == pytest.approx(found.index_kpa, rel=1e-9)
    assert len(shown.pipework.circuits) == len(found.spots)
    assert sum(p.length_m for p in shown.pipework.pipes if p.id != found.keeps) == pytest.approx(
        found.total_m, abs=0.05
    )
    assert not [f for f in shown.findings if "no pipe leads" in f.what]


def test_sizes_keep_to_the_guides(lock):
    """100-350 Pa/m, up to 1 m/s in 15-28 mm (guides of the practice)."""
    _, found = lock
    family = load().pipe_families["copper"]
    for one in found.runs:
        bore = family.sizes[one.size].bore_m
        per_m = float(
            pipe.friction_pa_per_m(
                flow_lph=one.flow_lph, bore_m=bore, roughness_m=family.roughness_m,
                density_kg_m3=water.density_kg_m3(temperature_c=45.0), viscosity_pa_s=water.viscosity_pa_s(temperature_c=45.0),
            )
        )  # fmt: skip
        assert per_m <= 350
        assert float(pipe.velocity_m_s(flow_lph=one.flow_lph, bore_m=bore)) <= 1.0
    assert wide_enough(50_000.0, family, 990.0, 6e-4) == "35"  # none does: the widest there is


def test_given_risers_are_the_only_ones():
    document = tansy_cut()
    document["survey"]["risers"] = {"r": {"label": "Behind the stairs", "x_m": 4.85, "y_m": 2.0}}
    _, found = found_of(document)
    rises = [(a, b) for one in found.runs for a, b in itertools.pairwise(one.way_m) if abs(a[2] - b[2]) > 0.5]
    assert rises
    for a, _ in rises:
        assert math.dist(a[:2], (4.85, 2.0)) <= CELL_M


def test_no_riser_stands_where_people_live_or_sleep(lock):
    _, found = lock
    living = [
        Polygon(room.outline_m)
        for storey in found.storeys
        for room in storey.rooms
        if room.room in ("parlour", "kitchen", "garden", "bed1", "bed2", "bed3")
    ]
    for one in found.runs:
        for a, b in itertools.pairwise(one.way_m):
            if abs(a[2] - b[2]) > 0.5:
                assert not any(
                    room.buffer(-0.05).contains(Polygon(box(*a[:2], *a[:2]).buffer(0.01).exterior)) for room in living
                )


class TestTheTree:
    """The heuristic against what can be reckoned by hand."""

    def plain(self, wide=6.0, deep=4.0):
        made = field([(0.0, [box(0, 0, wide, deep)], [True])], [])
        assert made is not None
        return made

    def length(self, on, parent) -> float:
        return sum(math.dist(on.at_m[cell], on.at_m[up]) for cell, up in parent.items())

    def test_one_end_is_reached_by_the_shortest_way_of_right_angles(self):
        on = self.plain()
        a, b = on.nearest(0.1, 0.1, 0), on.nearest(5.9, 3.9, 0)
        parent, lost = tree(on, a, [b])
        by_hand = abs(on.at_m[a, 0] - on.at_m[b, 0]) + abs(on.at_m[a, 1] - on.at_m[b, 1])
        assert not lost
        assert self.length(on, parent) == pytest.approx(by_hand)

    def test_a_shared_trunk_is_laid_once(self):
        """Three ends on one line: the line itself, not three lines."""
        on = self.plain()
        root = on.nearest(0.1, 0.1, 0)
        ends = [on.nearest(x, 0.1, 0) for x in (2.0, 4.0, 5.9)]
        parent, _ = tree(on, root, ends)
        assert self.length(on, parent) == pytest.approx(on.at_m[ends[-1], 0] - on.at_m[root, 0])

    def test_never_more_than_twice_the_least(self):
        """Ends on the corners of a rectangle: the least tree joins them over a main in the middle."""
        on = self.plain(6.0, 4.0)
        corners = [on.nearest(x, y, 0) for x, y in ((0.1, 0.1), (5.9, 0.1), (0.1, 3.9), (5.9, 3.9))]
        parent, _ = tree(on, corners[0], corners[1:])
        at = on.at_m[corners]
        wide, deep = np.ptp(at[:, 0]), np.ptp(at[:, 1])
        least = wide + 2 * deep if wide < deep else deep * 2 + wide
        assert least <= self.length(on, parent) + 1e-9 <= 2 * least

    def test_along_a_wall_rather_than_over_the_floor_where_both_are_as_long(self):
        on = self.plain(8.0, 8.0)
        a, b = on.nearest(0.1, 0.1, 0), on.nearest(7.9, 7.9, 0)
        parent, _ = tree(on, a, [b])
        at = np.array([on.at_m[cell] for cell in parent])
        edge = np.minimum.reduce([at[:, 0], at[:, 1], 8 - at[:, 0], 8 - at[:, 1]])
        assert (edge <= 0.35).all()
        assert OPEN_FLOOR > 1

    def test_an_end_nothing_leads_to_is_named(self):
        on = field([(0.0, [box(0, 0, 3, 3)], [True]), (2.8, [box(20, 0, 23, 3)], [True])], [])
        assert on is not None
        far = on.nearest(21.0, 1.0, 1)
        parent, lost = tree(on, on.nearest(1.0, 1.0, 0), [far])
        assert lost == [far]
        assert not parent


def test_another_house_and_one_without_a_plan():
    _, found = found_of(counting_house())
    assert not found.left_out
    assert found.runs
    _, plain = found_of(house("three-rooms"))
    assert plain.lacks or plain.runs


def test_a_run_whose_length_nobody_says_is_as_long_as_it_is_drawn():
    document = tansy_cut()
    one = document["survey"]["pipes"]["p-garden"]
    one.pop("length_m", None)
    one["way"] = [
        {"x_m": 0.0, "y_m": 0.0, "z_m": 0.0},
        {"x_m": 3.0, "y_m": 4.0, "z_m": 0.0},
        {"x_m": 3.0, "y_m": 4.0, "z_m": 2.5},
    ]
    shown = design(parse(document))
    assert next(p for p in shown.pipework.pipes if p.id == "p-garden").length_m == pytest.approx(7.5)


class TestOutdoors:
    """What pipes lose outdoors, by hand and against the whole chain."""

    def lying(self, lies: str, **more) -> dict:
        document = tansy_cut()
        document["survey"]["pipes"]["primary"] |= {"lies": lies} | more
        return document

    def test_a_metre_outdoors_by_hand(self):
        """28 mm over 25 mm of 0.035 W/mK, 15 W/m2K outside: radial conduction."""
        shown = design(parse(self.lying("outdoors")))
        row = shown.outdoor_pipes.rows[0]
        outer = 0.0262 + 0.002
        over = outer + 0.05
        one = 1 / (math.log(over / outer) / (2 * math.pi * 0.035) + 1 / (math.pi * over * 15))
        assert row.w_mk == pytest.approx(2 * one)
        warm = shown.waterline.chosen_flow_c - 2.5
        assert row.loss_w == pytest.approx(2 * one * row.length_m * (warm - shown.house.outdoor_c))

    def test_the_machine_makes_it_and_the_season_pays(self):
        before, after = design(parse(tansy_cut())), design(parse(self.lying("outdoors", insulation_m=0.005)))
        chosen = [next(r for r in one.machine.rows if r.chosen) for one in (before, after)]
        assert chosen[1].needed_w - chosen[0].needed_w == pytest.approx(after.outdoor_pipes.loss_w)
        assert chosen[1].cover < chosen[0].cover
        assert after.season.performance < before.season.performance
        assert after.house.loss_w == before.house.loss_w  # the house itself loses no more

    def test_in_the_ground_it_loses_less_than_in_the_wind_and_more_with_less_over_it(self):
        buried = design(parse(self.lying("buried", insulation_m=0.03))).outdoor_pipes.loss_w
        wind = design(parse(self.lying("outdoors", insulation_m=0.03))).outdoor_pipes.loss_w
        bare = design(parse(self.lying("buried", insulation_m=0.01))).outdoor_pipes.loss_w
        assert buried < wind
        assert buried < bare


class TestASecondBuilding:
    """A workshop some metres off on the same plant: a run in the ground, its loss, its own zone."""

    @pytest.fixture(scope="class")
    def both(self):
        document = tansy_cut()
        survey = document["survey"]
        shed = copy.deepcopy(survey["rooms"]["scullery"])
        shed |= {"label": "Workshop", "position": {"x_m": 20.0, "y_m": 6.5, "rotation_deg": 0.0}}
        shed["faces"] = {key: {k: v for k, v in face.items() if k != "spans"} for key, face in shed["faces"].items()}
        survey["rooms"]["shed"] = shed
        survey["emitters"]["r-shed"] = copy.deepcopy(survey["emitters"]["r-scullery"]) | {
            "room": "shed",
            "label": "Bench",
        }
        document["schemes"]["lukewarm"]["zones"] = {"w": {"label": "Workshop", "rooms": ["shed"]}}
        return found_of(document)

    def test_one_run_goes_through_the_ground_by_the_shortest_way(self, both):
        _, found = both
        assert not found.left_out
        dug = [one for one in found.runs if one.lies == "buried"]
        assert len(dug) == 1
        plans = {
            room.room: Polygon(room.outline_m)
            for storey in found.storeys
            for room in storey.rooms
            if storey.level_m < 1
        }
        gap = min(plans["shed"].distance(room) for key, room in plans.items() if key != "shed")
        assert dug[0].length_m == pytest.approx(gap, abs=4 * CELL_M)

    def test_it_loses_on_its_way_and_the_machine_makes_it(self, both):
        job, found = both
        shown = design(with_runs(job, view(job, Findings()), found.runs, found.keeps))
        rows = shown.outdoor_pipes.rows
        assert [row.lies for row in rows] == ["buried"]
        assert rows[0].loss_w > 20
        chosen = next(row for row in shown.machine.rows if row.chosen)
        plain = design(job)
        without = next(row for row in plain.machine.rows if row.chosen)
        assert chosen.needed_w == pytest.approx(without.needed_w + shown.outdoor_pipes.loss_w)

    def test_its_zone_stands_by_itself(self, both):
        job, _ = both
        zone = next(z for z in separating.judge(job, design(job), load().plant_parts).zones.rows if z.key == "w")
        assert zone.rooms == ["Workshop"]
        assert zone.design_w > 0


@pytest.mark.parametrize(
    ("way", "said"),
    [([(0.0, 0.0), (9000.0, 0.0)], "9000 m long as it is drawn"), ([(0.0, 0.0), (1.0, 0.0)], "leads to nowhere")],
)
def test_odd_runs_are_named_at_their_place_and_the_rest_still_computes(way, said):
    document = tansy_cut()
    document["survey"]["pipes"]["odd"] = {
        "label": "Odd one",
        "parent": "ground",
        "family": "copper",
        "size": "15",
        "way": [{"x_m": x, "y_m": y} for x, y in way],
    }
    before, shown = design(parse(tansy_cut())), design(parse(document))
    found = [f for f in shown.findings if "Odd one" in f.what and said in f.what]
    assert found
    assert found[0].where == "/survey/pipes/odd"
    assert shown.pipework.index_kpa == pytest.approx(before.pipework.index_kpa)


def test_a_pipe_without_a_bore_is_refused_at_its_place():
    document = tansy_cut()
    document["library"]["pipe_families"]["copper"]["data"]["sizes"]["15"]["bore_m"] = 0.0
    with pytest.raises(InvalidJob) as caught:
        parse(document)
    assert any(p.path.endswith("/sizes/15/bore_m") for p in caught.value.problems)


def test_a_run_longer_than_any_house_is_refused_and_pipes_in_a_circle_too():
    document = tansy_cut()
    document["survey"]["pipes"]["p-hall"]["length_m"] = 9000.0
    with pytest.raises(InvalidJob) as caught:
        parse(document)
    assert any(p.path == "/survey/pipes/p-hall/length_m" for p in caught.value.problems)
    document = tansy_cut()
    document["survey"]["pipes"]["primary"]["parent"] = "ground"
    with pytest.raises(InvalidJob) as caught:
        parse(document)
    assert any("circle" in p.message for p in caught.value.problems)
