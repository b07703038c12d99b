"""Cellars, edge strips, unheated spaces, bridges line by line and contradictory beyonds, through the whole chain, by hand."""

import copy
import math

import pytest

from cinder.design import working
from cinder.errors import InvalidJob
from cinder.model import freeze, parse
from tests.conftest import house, judged, tansy_cut
from tests.outside.test_three_rooms import DT, U_SLAB, U_WALL, B

T_YEAR = 10.2


def frozen(document, *keys):
    from cinder.library import load

    for key in keys:
        document["library"]["constructions"].setdefault(key, freeze(load().constructions[key]))
    return document


def what(result, severity=None):
    return [f.what for f in result.findings if severity in (None, f.severity)]


def test_an_edge_strip_takes_its_part_off_the_slab():
    """0.6 m standing, 60 mm at 0.034: D = 1.2; d' = (0.06/0.034 - 0.06/2) 2 = 3.469."""
    document = house("three-rooms")
    document["survey"]["parts"]["main"]["edge"] = {
        "kind": "vertical",
        "width_m": 0.6,
        "thickness_m": 0.06,
        "lambda_w_mk": 0.034,
    }
    slab = judged(document).house.slabs[0]
    extra = (0.06 / 0.034 - 0.06 / 2.0) * 2.0
    takes = -2 * 2.0 / math.pi * (math.log(1.2 / DT + 1) - math.log(1.2 / (DT + extra) + 1)) / B
    assert slab.edge_u_w_m2k == pytest.approx(takes, rel=1e-4)
    assert slab.u_w_m2k == pytest.approx(U_SLAB + takes, rel=1e-4)
    shown = working(parse(document), judged(document), "slab:0")
    assert any("edge" in step.label for step in shown.steps)


def test_a_room_in_the_ground_is_a_basement():
    from cinder.exchange.jobs import brief

    text = """
id = "cellar"
title = "Cellar"
climate = "mild-maritime"
design_c = -5.0
[practice]
hygienic_minimum = "off"
[tightness]
n50_per_h = 10.0
[storeys.low]
level_m = -2.0
[parts.main]
constructions = { wall = "wall-brick-one", roof = "roof-flat-120", ground = "ground-slab-bare", window = "window-double-old" }
[rooms.den]
use = "living"
storey = "low"
size = [4.0, 5.0, 2.2]
at = [0.0, 5.0]
walls = ["ground", "ground", "ground", "outside"]
"""
    result = judged(brief.document(text.encode()))
    slab = result.house.slabs[0]
    b = 20 / 9
    assert slab.depth_m == 2.0
    assert slab.exposed_perimeter_m == pytest.approx(18.0)
    low = DT + 1.0
    floor = 4.0 / (math.pi * b + low) * math.log(math.pi * b / low + 1) if low < b else 2.0 / (0.457 * b + low)
    assert slab.u_w_m2k == pytest.approx(floor, rel=1e-3)
    dw = 2.0 * (0.13 + 0.013 / 0.57 + 0.22 / 0.77 + 0.04)
    least = min(DT, dw)
    # earth that is said to stand against the whole wall reaches to its top: 2.2 m above the floor
    wall = 4.0 / (2.2 * math.pi) * (1 + 0.5 * least / (least + 2.2)) * math.log(2.2 / dw + 1)
    den = result.rooms[0]
    deep = [f for f in den.faces if f.kind == "wall" and f.beyond == "ground"]
    assert len(deep) == 3
    assert deep[0].u_w_m2k == pytest.approx(wall, rel=1e-3)
    # EN 12831-1 simplified: 1.45 A U (21 - annual mean), over walls 4 + 5 + 4 m and the floor
    assert den.ground_w == pytest.approx(1.45 * (20 * floor + 13 * 2.2 * wall) * (21 - T_YEAR), rel=1e-3)
    assert "deep" in working(parse(brief.document(text.encode())), result, "slab:0").model_dump_json()


def loft(document, **space):
    document = frozen(document, "roof-cover-underlay", "wall-brick-one", "ground-slab-bare")
    document["survey"]["spaces"]["loft"] = {"label": "Loft", "kind": "loft-underlay"} | space
    for room in document["survey"]["rooms"].values():
        room["faces"]["ceiling"]["spans"] = {"all": {"beyond": {"kind": "space", "space": "loft"}}}
    return document


@pytest.mark.parametrize(("metres", "density"), [(0.0, 1.0), (1500.0, 1.0581 / 1.2250)])
def test_a_loft_finds_its_own_temperature(metres, density):
    """Rooms give 41 m2 x (U_ceiling + 0.10); 50 m2 of tiles, 12 m2 of gable and 40 m3 at one change an hour take, of air as
    dense as that of the standard atmosphere (from memory)."""
    plain = judged(loft(house("three-rooms")))
    ceiling = next(f for f in plain.rooms[0].faces if f.kind == "ceiling")
    document = loft(
        house("three-rooms"), volume_m3=40.0, air="ordinary",
        faces={"tiles": {"area_m2": 50.0, "construction": "roof-cover-underlay"}, "gable": {"area_m2": 12.0, "construction": "wall-brick-one"}},
    )  # fmt: skip
    document["site"] = document.get("site", {}) | {"altitude_m": metres}
    result = judged(document)
    space = next(s for s in result.house.spaces if s.id == "loft")
    u_tiles = next(c for k, c in parse(document).library.constructions.items() if k == "roof-cover-underlay").data
    from cinder.design.fabric.u_values import Transmittances

    out = 50 * Transmittances({"x": u_tiles}).u("x") + 12 * U_WALL + 0.34 * density * 40.0
    rooms = {
        "living": 20 * (ceiling.u_w_m2k + 0.1),
        "bed": 15 * (ceiling.u_w_m2k + 0.1),
        "bath": 6 * (ceiling.u_w_m2k + 0.1),
    }
    warm = {"living": 21.0, "bed": 18.0, "bath": 22.0}
    temperature = (sum(rooms[k] * warm[k] for k in rooms) + out * -5.0) / (sum(rooms.values()) + out)
    assert space.how == "solved"
    assert space.temperature_c == pytest.approx(temperature, abs=0.02)
    assert space.b == pytest.approx(out / (sum(rooms.values()) + out), rel=1e-3)
    lost = next(f for f in result.rooms[0].faces if f.kind == "ceiling").loss_w
    assert lost == pytest.approx(20 * (ceiling.u_w_m2k + 0.1) * (21.0 - temperature), rel=1e-3)
    assert "θ_u" in working(parse(document), result, "space:loft").model_dump_json()


def test_a_stated_factor_wins_and_a_kind_serves_when_nothing_is_known():
    assert judged(loft(house("three-rooms"))).house.spaces[0].b == 0.9
    stated = judged(
        loft(house("three-rooms"), b=0.5, faces={"t": {"area_m2": 50.0, "construction": "roof-cover-underlay"}})
    )
    assert (stated.house.spaces[0].how, stated.house.spaces[0].b) == ("stated", 0.5)


def test_a_space_that_conducts_nowhere_is_named():
    result = judged(loft(house("three-rooms"), faces={"t": {"area_m2": 0.0, "construction": "roof-cover-underlay"}}))
    assert any("no face that conducts to the outside" in text for text in what(result))
    assert result.house.spaces[0].how == "table"


def test_a_cellar_under_the_house_is_colder_than_its_floor_and_warmer_than_outside():
    document = loft(house("three-rooms"))
    document["survey"]["spaces"]["under"] = {
        "label": "Cellar", "volume_m3": 80.0, "air": "tight",
        "cellar": {"area_m2": 41.0, "exposed_perimeter_m": 28.0, "depth_m": 2.0, "wall": "wall-brick-one", "floor": "ground-slab-bare"},
    }  # fmt: skip
    for room in document["survey"]["rooms"].values():
        room["faces"]["floor"] = {
            "construction": "floor-upper-concrete",
            "spans": {"all": {"beyond": {"kind": "space", "space": "under"}}},
        }
    result = judged(frozen(document, "floor-upper-concrete"))
    cellar = next(s for s in result.house.spaces if s.id == "under")
    assert cellar.how == "solved"
    assert -5 < cellar.temperature_c < 18
    assert cellar.temperature_c > 3  # the ground holds it up


# Psi of the tables at usual quality, W/mK: corner 0.10, foot on the ground 0.30, head at the roof (ceiling outside), window
def test_bridges_line_by_line_take_their_lengths_from_the_plan():
    document = house("three-rooms")
    document["practice"]["bridges"] = "list"
    result = judged(document)
    living = result.rooms[0]
    lines = {}
    for face in living.faces:
        for line in face.bridges:
            lines.setdefault(line.key, []).append(line)
    # living: walls 5, 4, 4 m outside, 5 m to the bedroom; outer corners at both ends of wall 1, none where the inner wall meets
    assert sum(line.length_m for line in lines["corner-out"]) == pytest.approx(2 * 2.5)
    assert sum(line.length_m for line in lines["ground-edge"]) == pytest.approx(13.0)
    assert sum(line.length_m for line in lines["roof-edge"]) == pytest.approx(13.0)
    # the window, 2.0 x 1.5 m; an inner wall counts half on either side, at both its ends
    assert [lines[key][0].length_m for key in ("sill", "lintel", "jamb")] == [2.0, 2.0, 3.0]
    assert sum(line.length_m for line in lines["inner-wall"]) == pytest.approx(2 * 2.5 / 2)
    watts = sum(line.psi_w_mk * line.length_m for group in lines.values() for line in group) * 26.0
    assert living.bridges_w == pytest.approx(watts)
    assert any("Ψ" in step.formula for step in working(parse(document), result, "room:living").steps)


def test_an_own_psi_stands_in_place_of_the_tables():
    document = house("three-rooms")
    document["practice"] |= {"bridges": "list", "psi_w_mk": {"ground-edge": 0.0}}
    assert not any(line.key == "ground-edge" for face in judged(document).rooms[0].faces for line in face.bridges)


def test_better_building_bridges_less():
    losses = []
    for quality in ("poor", "usual", "good"):
        document = house("three-rooms")
        document["practice"] |= {"bridges": "list", "bridge_quality": quality}
        losses.append(judged(document).house.bridges_w)
    assert losses == sorted(losses, reverse=True)


def test_a_room_that_names_another_which_does_not_name_it_back():
    document = house("three-rooms")
    document["survey"]["rooms"]["bed"]["faces"]["w1"]["spans"]["all"]["beyond"] = {"kind": "outside"}
    said = what(judged(document))
    assert any("does not say so back" in text for text in said)


def test_two_beyonds_on_one_stretch():
    document = house("three-rooms")
    document["survey"]["rooms"]["living"]["faces"]["w1"]["spans"]["more"] = {
        "from_m": 1.0,
        "to_m": 2.0,
        "beyond": {"kind": "ground"},
    }
    found = next(f for f in judged(document).findings if "two things" in f.what)
    assert found.where == "/survey/rooms/living/faces/w1/spans/more"


def test_a_construction_in_use_cannot_be_taken_out_and_the_places_are_named():
    document = house("three-rooms")
    del document["library"]["constructions"]["wall-brick-one"]
    with pytest.raises(InvalidJob) as refused:
        parse(document)
    assert any("constructions/wall" in problem.path for problem in refused.value.problems)


@pytest.mark.parametrize(("change", "place"), [
    ({"layers": [{"label": "x", "thickness_m": 0.0, "lambda_w_mk": 0.5}]}, "thickness_m"),
    ({"layers": [{"label": "x", "thickness_m": 0.1, "lambda_w_mk": 0.0}]}, "lambda_w_mk"),
    ({"layers": [], "stated_u_w_m2k": 40.0}, "stated_u_w_m2k"),
    ({"layers": [{"label": "x", "thickness_m": 0.1, "lambda_w_mk": 0.5, "bridge_share": 0.2}]}, "layers/0"),
    ({"layers": []}, "data"),
])  # fmt: skip
def test_impossible_layers_are_refused_at_their_place(change, place):
    document = house("three-rooms")
    before = copy.deepcopy(document)
    document["library"]["constructions"]["wall-brick-one"]["data"] |= change
    with pytest.raises(InvalidJob) as refused:
        parse(document)
    assert any(place in problem.path for problem in refused.value.problems)
    assert before["library"]["constructions"]["wall-brick-one"]["data"]["layers"]


def test_metal_and_unlikely_u_values_are_found_where_they_are_used():
    from cinder.library import ConstructionEntry, layer_of, load

    document = house("three-rooms")
    steel = ConstructionEntry(
        id="wall-brick-one", label="Steel studs", element="wall", source="test",
        layers=[layer_of(t, load().materials) for t in ("plasterboard 12.5", "mineral-wool 60 / steel 0.3%", "steel 1")],
    )  # fmt: skip
    document["library"]["constructions"]["wall-brick-one"] = freeze(steel)
    found = next(f for f in judged(document).findings if "metal crosses" in f.what)
    assert found.screen == "constructions"
    assert found.where == "/library/constructions/wall-brick-one"
    for u, odd in ((8.0, True), (0.03, True), (0.3, False)):
        stated = steel.model_copy(update={"label": "Declared", "layers": [], "stated_u_w_m2k": u})
        document["library"]["constructions"]["wall-brick-one"] = freeze(stated)
        said = what(judged(document))
        assert any("hard to believe" in text for text in said) == odd
        assert not any("metal crosses" in text for text in said)


def test_neighbours_by_school():
    """Cold for the emitter alone; adiabatic; cold for both."""
    loads = {}
    for school in ("cold_for_emitter", "adiabatic", "cold"):
        document = house("three-rooms")
        document["survey"]["neighbours"] = {"next": {"label": "Next door"}}
        document["survey"]["rooms"]["living"]["faces"]["w2"]["spans"] = {
            "all": {"beyond": {"kind": "neighbour", "neighbour": "next"}}
        }
        document["practice"]["neighbour"] = school
        result = judged(document)
        loads[school] = (result.rooms[0].room_emitter_load_w, result.house.loss_w)
    party = 4.0 * 2.5 * 1 / (0.13 + 2 * 0.013 / 0.57 + 0.22 / 0.56 + 0.13) * (21 - 10)
    assert loads["cold_for_emitter"][0] - loads["adiabatic"][0] == pytest.approx(party, rel=1e-3)
    assert loads["cold_for_emitter"][1] == pytest.approx(loads["adiabatic"][1])
    assert loads["cold"][1] - loads["adiabatic"][1] == pytest.approx(party, rel=1e-3)


def test_the_worst_leaks_are_ranked_and_sum_to_the_house():
    result = judged(tansy_cut())
    leaks = result.house.leaks
    assert [leak.loss_w for leak in leaks] == sorted((leak.loss_w for leak in leaks), reverse=True)
    assert sum(leak.loss_w for leak in leaks) == pytest.approx(result.house.loss_w)
    assert sum(leak.share for leak in leaks) == pytest.approx(1.0)


def test_additions_by_practice_are_off_by_default_and_by_hand():
    plain = judged(house("three-rooms"))
    assert plain.house.extras_w == pytest.approx(0.0, abs=1e-6)
    document = house("three-rooms")
    document["practice"] |= {"exposed_share": 0.05, "reheat_w_per_m2": 10.0}
    result = judged(document)
    assert result.house.loss_w == pytest.approx(plain.house.loss_w * 1.05 + 410.0)


def test_near_ground_water_the_ground_loses_15_percent_more_on_the_design_day():
    """EN 12831-1 (from memory): G_w 1.15 on what the floor loses, and on nothing else; the season's ground keeps its mean."""
    plain = house("three-rooms")
    wet = copy.deepcopy(plain)
    wet["practice"] = wet.get("practice", {}) | {"ground_detail": {"water_near": True}}
    dry_house, wet_house = judged(plain).house, judged(wet).house
    assert wet_house.ground_w == pytest.approx(1.15 * dry_house.ground_w, rel=1e-9)
    for name in ("fabric_w", "bridges_w", "air_w"):
        assert getattr(wet_house, name) == pytest.approx(getattr(dry_house, name))


def test_air_carries_a_third_of_a_watt_hour_a_cubic_metre_and_kelvin():
    """EN 12831-1 (from memory): 0.34 Wh/m3K; at 20 deg C and sea level rho c = 1.204 x 1006 / 3600 = 0.336."""
    result = judged(house("three-rooms"))
    for room in result.rooms:
        flow = room.air_per_h * room.volume_m3
        assert room.air_w == pytest.approx(0.34 * flow * (room.target_c - result.house.outdoor_c), rel=1e-9)
    assert pytest.approx(1.204 * 1006 / 3600, rel=0.02) == 0.34
