"""What may be done in a room, combined and chosen: rules, pins, concessions, heaters, packages."""

import copy
from itertools import product

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from cinder.design import design
from cinder.design.apart import ways
from cinder.design.apart.measures.decide import frozen
from cinder.design.apart.ways.choose import _choices
from cinder.design.apart.ways.combine import ENOUGH_W, combine
from cinder.design.apart.ways.front import _point
from cinder.design.apart.ways.products import product_spec
from cinder.design.apart.ways.way import Way
from cinder.library import CatalogueEntry, ProductEntry, load
from cinder.model import parse
from cinder.store.patch import apply
from tests.conftest import house, tansy_cut

PRICES, TABLE = load().emitter_prices, load().measures
KEY = "lukewarm"


def chosen_from(document, lists=()):
    return ways.options_of(parse(document), PRICES, TABLE, lists)


def offered(document, room, lists=()):
    return ways.of_room(chosen_from(document, lists), room).options


def point(found, flow):
    return _point(found, float(flow))


def with_scheme(**more):
    document = tansy_cut()
    document["schemes"][KEY] |= more
    return document


# -- combining ----------------------------------------------------------------------------------------------------------------

watts = st.lists(st.integers(0, 900), min_size=3, max_size=3)


@st.composite
def rooms(draw):
    """A room of up to three slots; the last may hold a further emitter that shares a wall with the first."""
    out = []
    for s in range(draw(st.integers(1, 3))):
        rows = [(None, 0.0, np.array(draw(watts), float) if s == 0 else np.zeros(3))]
        for n in range(draw(st.integers(0, 3))):
            cost = float(draw(st.integers(1, 900)))
            built = draw(st.sampled_from([None, None, "wall"]))
            way = Way(
                f"{s}-{n}", "emitter:a" if s == 0 else f"slot{s}", "", cost, 1, 1, groups=(f"slot{s}",),
                length_m=draw(st.sampled_from([0.5, 1.0, 1.5])), construction=built,
                beside="a" if s == 1 else None,
            )  # fmt: skip
            rows.append((way, cost, np.array(draw(watts), float)))
        out.append(rows)
    return out


@settings(max_examples=120)
@given(rooms())
def test_no_combination_that_could_be_chosen_is_lost(slots):
    """For every temperature, every need, and with or without leave to change the wall: as cheap as all of them tried out."""
    found = combine(slots, walls={"a": 2.0}, must=set(), lengths={"emitter:a": 1.0})
    for picks in product(*slots):
        beside = next((w for w, _, _ in picks if w is not None and w.beside), None)
        first = picks[0][0].length_m if picks[0][0] is not None else 1.0
        if beside is not None and first + 0.1 + beside.length_m > 2.0 + 1e-9:
            continue
        cost, given_w = sum(p[1] for p in picks), sum(p[2] for p in picks)
        changes = {w.construction for w, _, _ in picks if w is not None and w.construction}
        for flow in range(3):
            good = [
                c for c in range(len(found.cost))
                if found.cost[c] <= cost + 1e-9 and found.gives_w[c, flow] >= given_w[flow] - ENOUGH_W * len(slots)
                and set(found.changes[c]) <= changes
            ]  # fmt: skip
            assert good, (cost, given_w, changes)


# -- rules --------------------------------------------------------------------------------------------------------------------


def test_taller_only_where_the_wall_is_taller():
    document = tansy_cut()
    tall = [o.what for o in offered(document, "kitchen") if "taller" in o.what]
    assert any("1600 × 700" in what for what in tall)
    assert not any("× 900" in what for what in tall)  # 0.75 m of wall
    del document["survey"]["emitters"]["r-kitchen"]["free_wall"]["height_m"]
    assert not [o for o in offered(document, "kitchen") if "taller" in o.what]


def test_what_each_way_alone_would_need_is_what_the_chain_then_needs():
    document = tansy_cut()
    found = chosen_from(document)
    some = [o for o in ways.of_room(found, "kitchen").options if o.needed_flow_c is not None]
    assert len(some) > 5
    for option in (some[0], some[len(some) // 2], some[-1]):
        after = apply(copy.deepcopy(document), ways.operations_of_way(found, option.key))[0]
        assert after["schemes"][KEY].get("flow_c") == document["schemes"][KEY].get("flow_c")
        room = next(r for r in design(parse(after)).rooms if r.id == "kitchen")
        assert room.needed_flow_c == pytest.approx(option.needed_flow_c, abs=0.1)


def test_a_list_of_the_company_is_offered_where_it_fits():
    slim = ProductEntry(id="x", kind="panel", label="Slim 1500", length_m=1.5, height_m=0.6, output_w=4100.0, at_k=50.0,
                        exponent=1.32, water_l=6.0, price_minor=41000.0)  # fmt: skip
    long = slim.model_copy(update={"id": "y", "label": "Long one", "length_m": 2.6})
    fan = ProductEntry(id="z", kind="fan", label="Own fan", length_m=0.8, height_m=0.5, output_w=900.0, exponent=1.0,
                       speeds=[{"label": "q", "output_w": 2900.0, "electric_w": 9.0}], price_minor=50000.0)  # fmt: skip
    lists = (CatalogueEntry(id="own", label="Own", source="test", products=[slim, long, fan]),)
    found = offered(tansy_cut(), "kitchen", lists)
    mine = next(o for o in found if "Slim 1500" in o.what)
    assert mine.cost_minor == 41000 + PRICES["t22"].same_minor
    assert mine.disturbance == 1  # the size of what hangs there: the same pipes
    assert not any("Long one" in o.what for o in found)
    own = next(o for o in found if "Own fan" in o.what)
    assert own.cost_minor == 50000 + PRICES["fan"].longer_minor
    assert own.yearly_minor > 0
    spec = product_spec(fan)
    assert (spec.kind, spec.speeds[0].output_w) == ("fan", 2900.0)


def test_no_floor_is_offered_where_there_is_one_and_closer_pipes_instead():
    assert not any(o.slot == "floor:garden" for o in offered(tansy_cut(), "garden"))
    closer = [o for o in offered(tansy_cut(), "garden") if o.slot == "emitter:loop-garden"]
    assert closer
    assert all(o.disturbance == 3 for o in closer)
    assert any(o.slot == "floor:parlour" for o in offered(tansy_cut(), "parlour"))
    assert not any(o.slot == "floor:parlour" for o in offered(with_scheme(refused=["floor:parlour"]), "parlour"))


# -- what is only done where it is allowed ---------------------------------------------------------------------------------------


def test_a_cooler_room_only_where_it_is_allowed_and_never_as_a_saving():
    assert not any(o.kind == "concession" for o in offered(tansy_cut(), "parlour"))
    document = with_scheme(concessions={"parlour": 18.5})
    steps = [o for o in offered(document, "parlour") if o.kind == "concession"]
    assert sorted(o.what for o in steps) == [
        "accept 18.5 °C instead of 21", "accept 19 °C instead of 21", "accept 20 °C instead of 21",
    ]  # fmt: skip
    assert all(o.cost_minor == 0 for o in steps)
    plain, found = chosen_from(tansy_cut()), chosen_from(document)
    before, after = point(plain, 44), point(found, 44)
    conceded = [c for c in after.changes if c.kind == "concession"]
    assert conceded
    assert after.cost_minor < before.cost_minor
    # the season and the bill are those of rooms as warm as asked for
    assert after.bought_kwh >= before.bought_kwh * 0.999
    document = apply(document, ways.operations_of(found, 44.0))[0]
    assert document["schemes"][KEY]["targets"]["parlour"] < 21
    assert design(parse(document)).waterline.needed_flow_c <= 44.06


def test_neighbours_of_a_room_left_cooler_have_more_to_meet():
    document = with_scheme(concessions={"parlour": 17.0})
    found = chosen_from(document)
    place = {n: r for r, n in enumerate(found.served)}
    parlour = found.arrays.room_index["parlour"]
    choices = _choices(found, parlour, 14, place, {})
    cool = next(c for c in choices if c.adds_w)
    others = dict(cool.adds_w)
    trade = found.arrays.trade_w_k[:, parlour]
    kelvin = 21 - found.rooms[parlour].to_c[int(cool.key)]
    assert sum(others.values()) == pytest.approx(kelvin * sum(trade[n] for n in found.served if n != parlour))


def test_a_heater_of_its_own_only_where_it_is_allowed_and_what_it_draws_counts():
    assert not any(o.slot.startswith("electric") for o in offered(tansy_cut(), "landing"))
    document = with_scheme(allowed=["electric:parlour"])
    found = chosen_from(document)
    heater = next(o for o in ways.of_room(found, "parlour").options if o.slot == "electric:parlour")
    assert heater.yearly_minor > 0
    plain, now = point(chosen_from(tansy_cut()), 42), point(found, 42)
    # cheap to buy, dear to run: with fifteen years of it counted a radiator stays cheaper
    assert now.cost_minor == plain.cost_minor
    assert not [c for c in now.changes if c.way.startswith("way:electric")]
    # where nothing else serves the room it is taken, and its draw is shown
    alone = with_scheme(allowed=["electric:parlour"], refused=["emitter:r-parlour", "emitter:r-parlour-2", "new:parlour",
                        "floor:parlour", "faces:parlour"])  # fmt: skip
    taken = point(ways.options_of(parse(alone), PRICES, {}), 42)
    assert any(c.way.startswith("way:electric-parlour") for c in taken.changes)
    assert taken.running_minor > 0


# -- pins -------------------------------------------------------------------------------------------------------------------------


def test_what_must_be_is_in_every_set_and_what_is_preferred_wins_when_near():
    plain = point(chosen_from(tansy_cut()), 44)
    options = [o for o in offered(tansy_cut(), "parlour") if o.needed_flow_c and o.needed_flow_c <= 44.0]
    ranked = sorted(options, key=lambda o: o.cost_minor)
    assert plain.cost_minor <= ranked[0].cost_minor
    dear = ranked[-1]
    must = point(chosen_from(with_scheme(wishes={dear.key: "must"})), 44)
    assert dear.key in [c.way for c in must.changes]
    assert must.cost_minor > plain.cost_minor
    assert must.proved
    free = point(chosen_from(with_scheme(wishes={dear.key: "must"})), 60)
    assert dear.key in [c.way for c in free.changes]  # also where nothing would have to be changed
    near = [o for o in ranked if plain.cost_minor < o.cost_minor < plain.cost_minor / 0.75 - 100]
    assert near, "the demo has a second best within a quarter"
    preferred = point(chosen_from(with_scheme(wishes={near[0].key: "prefer"})), 44)
    assert near[0].key in [c.way for c in preferred.changes]
    assert preferred.cost_minor == pytest.approx(near[0].cost_minor)  # the price shown is the true one


def test_a_measure_that_must_be_is_taken_and_one_nobody_offers_is_named():
    measure = next(
        k for k in chosen_from(tansy_cut()).tried if k.startswith("loft") or "topping" in k or "secondary" in k
    )
    document = with_scheme(wishes={f"measure:{measure}": "must", "way:r-nowhere:t22": "must"})
    found = ways.front(parse(document), PRICES, TABLE)
    warm = next(p for p in found.points if p.flow_c == 60)
    assert f"measure:{measure}" in [c.way for c in warm.changes]
    assert found.unmet == ["way:r-nowhere:t22"]


# -- the house --------------------------------------------------------------------------------------------------------------------


def test_two_layers_on_one_construction_are_a_package_of_their_own():
    """Inside and outside on one wall take less together than one by one: U follows 1/(R + R1 + R2)."""
    found = chosen_from(tansy_cut())
    key, parts = next((k, p) for k, p in found.packages.items() if "inside-insulation" in k)
    by = {one.key: one for one in found.shared}
    assert set(by[key].every_group) == {found.tried[parts[0]].option.was}
    alone = {part: ways.load_off(found, [part]) for part in parts}
    together = ways.load_off(found, list(parts))
    assert by[key].takes_w == pytest.approx(np.maximum(together, 0)[found.served], abs=0.5)
    assert together.sum() < sum(one.sum() for one in alone.values()) - 50


def test_a_room_and_the_whole_house_do_not_insulate_one_wall_twice():
    found = chosen_from(tansy_cut())
    for flow in (33, 34, 35, 36, 38):
        chosen = ways.at(found, flow)
        roots = {way.construction for _, way in chosen.ways if way.construction}
        taken = {found.tried[key].option.was for key in chosen.shared}
        assert not roots & taken


def test_walls_of_one_build_that_have_become_two_are_each_offered_as_they_are_now():
    """One wall of a room is insulated already: the others are offered without it, and take off what they took with it less its."""

    def offer(document):
        found = chosen_from(document)
        ways_there = found.ways[found.arrays.room_index["parlour"]]
        return {way.key.split(":")[-1]: way for way in ways_there if way.key.startswith("faces-parlour:wall-frame")}

    document = tansy_cut()
    before = offer(document)["80"]
    (key, one), *_ = sorted(before.measures.items())
    document["schemes"][KEY].setdefault("measures", {})[key] = one.model_dump(mode="json")
    document["library"]["constructions"] |= {
        k: frozen(entry, "own").model_dump(mode="json") for k, entry in before.constructions.items()
    }
    after = offer(document)["80"]
    assert {m.face for m in after.measures.values()} == {m.face for m in before.measures.values()} - {one.face}
    less = design(parse(tansy_cut())).house.loss_w - design(parse(document)).house.loss_w
    assert before.takes_w - after.takes_w == pytest.approx(less, abs=1.0)
    assert after.takes_w < before.takes_w - 5


def test_the_chosen_set_is_the_cheapest_of_all_for_a_small_house():
    """Every combination of every way of three rooms tried out, without measures of the house."""
    document = house("three-rooms")
    document["schemes"]["main"]["refused"] = [f"floor:{k}" for k in ("living", "bed", "bath")] + [
        "faces:living",
        "faces:bed",
        "faces:bath",
    ]
    document["survey"]["emitters"]["r-bed"]["spec"]["length_m"] = 1.2
    document["survey"]["emitters"]["r-bed"]["free_wall"] = {"length_m": 2.2}
    found = ways.options_of(parse(document), PRICES, {})
    for flow in (44.0, 50.0, 55.0):
        k = int(flow) - 30
        best = 0.0
        for n in found.served:
            mine = found.rooms[n]
            costs = [c for c, g in zip(mine.cost, mine.gives_w[:, k], strict=True) if g >= found.load_w[n] - 0.5]
            best += min(costs, default=np.inf)
        answer = ways.at(found, flow)
        assert answer.answer.possible == np.isfinite(best)
        if answer.answer.possible:
            assert answer.cost_minor + 15 * answer.yearly_minor == pytest.approx(best)


def test_who_holds_it_up_and_what_taking_one_out_does():
    held = ways.holding(chosen_from(tansy_cut()))
    needs = sorted((r.needed_flow_c for r in design(parse(tansy_cut())).rooms if r.needed_flow_c), reverse=True)
    first = held.rooms[0]
    assert first.room == "parlour"
    assert first.needed_flow_c == pytest.approx(needs[0])
    assert first.flow_without_c == pytest.approx(needs[1])
    assert [r.flow_without_c for r in held.rooms[1:]] == pytest.approx([needs[0]] * (len(held.rooms) - 1))
    # a parlour heated by plain electricity costs more than cooler water for the rest saves
    assert first.bought_more_kwh > 0
    assert first.heater_kwh > first.bought_more_kwh
    assert first.season < held.season
    assert "Parlour" in held.sentence


def test_what_would_make_the_impossible_possible():
    document = house("three-rooms")
    document["survey"]["emitters"]["r-bed"]["spec"] |= {"length_m": 0.4, "height_m": 0.3}
    document["schemes"]["main"]["refused"] = ["floor:bed", "faces:bed"]
    found = ways.options_of(parse(document), PRICES, {})
    lacking = {one.room: one for one in point(found, 34).lacking}["bed"]
    assert "allow what was refused here" in lacking.mend
    assert "record the free wall at its emitter" in lacking.mend
    assert f"a heater of its own, {np.ceil(lacking.short_w / 50) * 50:.0f} W" in lacking.mend
    document["schemes"]["main"]["allowed"] = ["electric:bed"]
    now = {one.room: one for one in point(ways.options_of(parse(document), PRICES, {}), 34).lacking}
    assert "bed" not in now


def test_an_empty_set_of_options_is_no_failure():
    document = house("one-room")
    document["schemes"]["s"]["refused"] = ["floor:hut", "faces:hut", "new:hut", "emitter:r1"]
    found = ways.options_of(parse(document), PRICES, {})
    assert found.ways == [[]]
    needed = design(parse(document)).waterline.needed_flow_c
    assert not point(found, 30).possible
    assert point(found, 60).possible == (needed <= 60)
    assert "hut" in point(found, 30).lacking[0].room


def test_measures_of_the_house_stand_beside_a_rooms_own_ways():
    document = tansy_cut()
    found = chosen_from(document)
    listed = {o.key: o for o in ways.of_room(found, "parlour").options if o.kind == "measure"}
    assert any("the whole house: " in o.what for o in listed.values())
    assert any("draught" in o.what or "seal" in o.what for o in listed.values())
    key, one = min(listed.items(), key=lambda item: item[1].needed_flow_c or 99)
    after = apply(document, ways.operations_of_way(found, key))[0]
    room = next(r for r in design(parse(after)).rooms if r.id == "parlour")
    assert room.needed_flow_c == pytest.approx(one.needed_flow_c, abs=0.15)
    assert any("asbestos" in o.note for o in ways.of_room(found, "parlour").options if o.slot == "floor:parlour")


def test_a_floor_nobody_could_lay_is_simply_not_offered():
    document = house("three-rooms")
    document["survey"]["emitters"]["r-living"]["spec"] = {
        "kind": "floor", "heated": {"area_m2": 900.0, "spacing_m": 0.3, "cover_m": 0.045, "supply_m": 300.0},
    }  # fmt: skip
    found = ways.options_of(parse(document), PRICES, {})
    closer = [o for o in ways.of_room(found, "living").options if o.slot == "emitter:r-living"]
    assert all("20.0 m²" in o.what for o in closer)  # no larger than its floor
    document["survey"]["rooms"]["bath"]["walk"] = [
        {"id": f"w{n + 1}", "length_m": metres, "turn_deg": 90} for n, metres in enumerate((0.5, 0.6, 0.5, 0.6))
    ]
    assert not [
        o for o in ways.of_room(ways.options_of(parse(document), PRICES, {}), "bath").options if o.slot == "floor:bath"
    ]


def test_a_refusal_in_words_nobody_knows_is_kept_and_does_no_harm():
    document = with_scheme(refused=["strange"])
    assert ways.of_room(chosen_from(document), "kitchen").refused == []
    assert ways.holding(chosen_from(document)).rooms[0].room == "parlour"
