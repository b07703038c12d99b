"""The cheapest way to cooler water, through the whole chain."""

import copy
from importlib import import_module
from itertools import count, pairwise
from types import SimpleNamespace

import pytest

from cinder.design import design
from cinder.design.apart import measures, ways
from cinder.errors import NotFound
from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.store.patch import apply
from tests.conftest import house, judged, oat_store, tansy_cut

PRICES, TABLE = load().emitter_prices, load().measures


@pytest.fixture(scope="module")
def front():
    return ways.front(parse(tansy_cut()), PRICES, TABLE)


def point(front, flow):
    return next(p for p in front.points if p.flow_c == flow)


def adopted(document, flow):
    operations = ways.operations(parse(document), flow, PRICES, TABLE)
    return apply(copy.deepcopy(document), operations)[0]


def test_cooler_water_never_costs_less_to_reach_nor_draws_more(front):
    """What it draws, between two sets with the same measures on the house: another measure changes the load as well."""
    possible = [p for p in front.points if p.possible]
    assert len(possible) > 10
    costs = [p.cost_minor for p in possible]
    assert costs == sorted(costs, reverse=True)
    assert all(p.proved for p in possible)
    house = [{change.way for change in p.changes if change.kind == "measure"} for p in possible]
    alike = [
        (cool, warm) for (cool, mine), (warm, other) in pairwise(zip(possible, house, strict=True)) if mine == other
    ]
    assert len(alike) > 10
    assert all(cool.bought_kwh <= warm.bought_kwh + 0.5 for cool, warm in alike)


def test_where_more_is_spent_for_a_worse_season_it_says_so(front):
    """Insulation that leaves the machine little to do lets it run on and off: the front bends back, and the point names it."""
    known = [p for p in front.points if p.season is not None]
    for point_ in known:
        warmer = [p for p in known if p.flow_c > point_.flow_c and p.cost_minor <= point_.cost_minor]
        most = max((p.season for p in warmer), default=0.0)
        if most > point_.season + 0.005:
            assert next(p for p in known if p.flow_c == point_.beaten_by).season == most
        else:
            assert point_.beaten_by is None
    bent = [p for p in known if p.beaten_by is not None]
    assert bent, "the demo's coldest water bends back"
    better = point(front, bent[0].beaten_by)
    assert bent[0].cycling_share > better.cycling_share
    after = design(parse(adopted(tansy_cut(), 42.0)))
    assert point(front, 42.0).cycling_share == pytest.approx(after.season.cycling_hours / after.season.heating_hours)


def test_nothing_is_changed_where_the_house_lives_on_it_already(front):
    needed = judged(tansy_cut()).waterline.needed_flow_c
    free = min(p.flow_c for p in front.points if p.cost_minor == 0)
    assert free - 1 < needed <= free + 0.01


@pytest.mark.parametrize("flow", [44.0, 42.0])
def test_taken_into_the_scheme_every_room_is_served(front, flow):
    """What is taken does what was promised: the chain needs no warmer water, the cost is the sum of the list."""
    document = tansy_cut()
    after = adopted(document, flow)
    result = design(parse(after))
    assert result.waterline.chosen_flow_c == flow
    assert result.waterline.needed_flow_c <= flow + 0.06
    assert result.waterline.short == []
    found = point(front, flow)
    assert found.cost_minor == pytest.approx(sum(change.cost_minor for change in found.changes))
    assert found.season == pytest.approx(result.season.performance)
    assert found.needed_flow_c == pytest.approx(result.waterline.needed_flow_c)
    assert after["survey"] == document["survey"]


def test_a_refusal_is_respected_and_costs_more(front):
    cheap = point(front, 42.0)
    refused = next(change.refuse for change in cheap.changes if change.refuse.startswith("emitter:"))
    document = tansy_cut()
    document["schemes"]["lukewarm"]["refused"] = [refused]
    now = point(ways.front(parse(document), PRICES, TABLE), 42.0)
    assert refused not in [change.refuse for change in now.changes]
    assert not now.possible or now.cost_minor >= cheap.cost_minor


def test_no_panel_and_no_further_one_beside_it_outgrow_their_free_wall(front):
    """The walls as the demo records them; 0.1 m between two radiators."""
    free = {"r-parlour": 2.0, "r-kitchen": 1.7, "r-bed1": 2.4, "r-bed3": 1.62}
    rooms = {"r-parlour": "parlour", "r-kitchen": "kitchen", "r-bed1": "bed1", "r-bed3": "bed3"}
    now = {key: e["spec"]["length_m"] for key, e in tansy_cut()["survey"]["emitters"].items() if key in free}
    seen = 0
    for flow in (36.0, 38.0, 40.0, 42.0, 45.0):
        scheme = adopted(tansy_cut(), flow)["schemes"]["lukewarm"]["emitters"]
        for key, wall in free.items():
            length = scheme.get(key, {}).get("spec", {}).get("length_m", now[key])
            further = scheme.get(f"new-{rooms[key]}", {}).get("spec", {}).get("length_m")
            seen += further is not None
            assert length + (0.1 + further if further else 0.0) <= wall + 1e-9
    assert seen > 0


def test_a_room_without_a_radiator_is_offered_one():
    document = house("three-rooms")
    document["schemes"], document["active_scheme"] = {"s": {"label": "S"}}, "s"
    del document["survey"]["emitters"]["r-bed"]
    document["survey"]["pipes"] = {}
    document = parse(document).model_dump(mode="json", by_alias=True, exclude_none=True)
    found = ways.front(parse(document), PRICES, {})
    assert any("a radiator" in change.what and change.room == "bed" for change in point(found, 60.0).changes)
    after = design(parse(adopted(document, 60.0)))
    assert next(room for room in after.rooms if room.id == "bed").status == "meets"


def test_what_cannot_be_names_the_room_and_the_watts():
    document = house("three-rooms")
    document["schemes"], document["active_scheme"] = {"s": {"label": "S"}}, "s"
    document["survey"]["emitters"]["r-bed"]["spec"] |= {"length_m": 0.4, "height_m": 0.3}
    found = point(ways.front(parse(document), PRICES, {}), 31.0)
    assert not found.possible
    assert "bed" in [room.room for room in found.lacking]
    with pytest.raises(NotFound, match=r"short .*Bedroom by \d+ W"):
        ways.operations(parse(document), 31.0, PRICES, {})


def test_dearer_labour_moves_the_choice():
    document = tansy_cut()
    dear = {
        key: entry.model_copy(update={"same_minor": 900_000.0, "longer_minor": 900_000.0})
        for key, entry in PRICES.items()
    }
    before = point(ways.front(parse(document), PRICES, TABLE), 44.0)
    after = point(ways.front(parse(document), dear, TABLE), 44.0)
    assert after.cost_minor > before.cost_minor


def test_without_a_scheme_there_is_nothing_to_change():
    document = tansy_cut()
    document["active_scheme"] = None
    with pytest.raises(NotFound, match="no scheme"):
        ways.front(parse(document), PRICES, TABLE)


def with_wishes(document, **wishes):
    document = copy.deepcopy(document)
    if not document.get("active_scheme"):
        document["schemes"], document["active_scheme"] = {"s": {"label": "S"}}, "s"
    document["schemes"][document["active_scheme"]] |= wishes
    return document


@pytest.mark.parametrize(
    ("document", "flows"),
    [
        (house("bungalow"), (30, 33, 38, 45)),
        (house("two-storeys-open"), (31, 36, 44)),
        (with_wishes(house("three-rooms"), concessions={"bed": 16.0}, allowed=["electric:bath"]), (30, 35, 48, 55)),
        (with_wishes(oat_store(), concessions={"front-bedroom": 16.0}), (33, 36, 40, 54)),
    ],
    ids=["bungalow", "two storeys", "three rooms", "terrace"],
)
def test_proved_only_where_the_whole_chain_meets_the_temperature(document, flows):
    """The bungalow at 30 °C: five measures do less together than one by one, and the choice once stayed 0.3 K short. In the
    terrace a bedroom left cooler saves less once its walls are insulated."""
    found = ways.options_of(parse(document), PRICES, TABLE)
    seen = 0
    for flow in flows:
        chosen = ways.at(found, float(flow))
        if not chosen.answer.possible:
            continue
        seen += 1
        assert chosen.answer.proved, flow
        after = design(ways.applied(found, chosen, float(flow)))
        assert after.waterline.needed_flow_c <= flow + 0.05, flow
        laid = {way.emitter for _, way in chosen.ways if way.action and way.action.spec.kind == "floor"}
        for emitter in (one for room in after.rooms for one in room.emitters if one.id in laid):
            assert emitter.heated.flux_w_m2 <= emitter.heated.most_w_m2 * 1.001, (flow, emitter.id)
            assert emitter.heated.most_flow_c >= flow - 0.06, (flow, emitter.id)
    assert seen >= 2


def test_a_floor_is_not_offered_beyond_what_its_surface_bears():
    """Wished for above all, a new floor under laminate still goes with no water its surface does not bear."""
    document = with_wishes(house("three-rooms"), wishes={"floor:living": "must"})
    found = ways.options_of(parse(document), PRICES, TABLE)
    cool = ways.at(found, 34.0)
    assert "floor-living" in [way.emitter for _, way in cool.ways]
    hot = ways.at(found, 55.0)
    assert not hot.answer.possible
    named = {row.room: row for row in point(ways.front_of(found), 55.0).lacking}
    load = next(room.room_emitter_load_w for room in design(parse(document)).rooms if room.id == "living")
    assert named["living"].short_w <= load
    assert "floor" in named["living"].mend


def test_what_takes_too_long_is_left_out_and_said(monkeypatch):
    """The coolest water first; a point that was not weighed claims neither that it is impossible nor what it lacks."""
    fronts, choose = (import_module(f"cinder.design.apart.ways.{name}") for name in ("front", "choose"))
    ticks = count()
    clock = SimpleNamespace(monotonic=lambda: float(next(ticks)))
    for module in (fronts, choose):
        monkeypatch.setattr(module, "time", clock)
    monkeypatch.setattr(fronts, "LONGEST_S", 20.5)
    found = ways.front(parse(tansy_cut()), PRICES, TABLE)
    left = [p.flow_c for p in found.points if not p.weighed]
    assert left == [float(flow) for flow in range(30, 30 + len(left))]
    assert 5 < len(left) < 31
    assert all(not p.possible and not p.proved and not p.lacking for p in found.points if not p.weighed)
    assert f"{max(left):.0f} °C and cooler were not weighed" in found.sentence
    monkeypatch.setattr(fronts, "LONGEST_S", -1.0)
    assert ways.front(parse(tansy_cut()), PRICES, TABLE).sentence.startswith("Nothing could be weighed in time")


def test_a_set_with_new_panes_pays_for_the_sun_they_keep_out():
    """Pinned, the panes are in every set; what is bought more is what the two ways of the measures' page differ by."""
    key = "new-windows:window-single-wood:window-triple"
    document = with_wishes(tansy_cut(), wishes={f"measure:{key}": "must"})
    job = parse(document)
    year = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
    found, plain = (ways.options_of(job, PRICES, TABLE, weather=one) for one in (year, None))
    sunny, dull = (point(ways.front_of(one), 45.0) for one in (found, plain))
    assert f"measure:{key}" in [change.way for change in sunny.changes]
    assert [change.way for change in sunny.changes] == [change.way for change in dull.changes]
    with_sun, without = (measures.together(job, [key], table=TABLE, weather=one) for one in (year, None))
    assert sunny.bought_kwh - dull.bought_kwh == pytest.approx(without.bought_kwh - with_sun.bought_kwh, rel=0.1)
    assert sunny.total_minor - dull.total_minor == pytest.approx(ways.YEARS * (sunny.bill_minor - dull.bill_minor))
    assert sunny.bill_minor > dull.bill_minor + 500
