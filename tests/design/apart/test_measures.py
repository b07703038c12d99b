"""Measures tried through the whole chain, combined, adopted as one change."""

import copy

import pytest

from cinder.design import design
from cinder.design.apart import measures, running
from cinder.design.findings import Findings
from cinder.design.house.view import view
from cinder.design.losses.assemble import of_house
from cinder.errors import NotFound
from cinder.exchange.jobs import brief
from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.store.patch import apply
from tests.conftest import house, judged, tansy_cut

TABLE = load().measures


def named(job, text):
    return next(one for one in measures.judge(job).tried if text in one.option.key)


@pytest.fixture(scope="module")
def tried():
    job = parse(tansy_cut())
    return job, measures.judge(job)


def test_every_option_lowers_the_loss_and_the_bill(tried):
    _, found = tried
    assert len(found.tried) > 15
    for one in found.tried:
        assert one.effect.loss_w > 0
        assert one.effect.bill_minor > 0
        assert one.option.cost_minor > 0
        assert one.effect.payback_years == pytest.approx(one.option.cost_minor / one.effect.bill_minor)


def test_thicker_insulation_saves_more_and_costs_more(tried):
    _, found = tried
    row = [one for one in found.tried if one.option.key.startswith("outside-insulation:wall-brick-one-half")]
    assert [one.option.detail for one in row] == ["60 mm", "100 mm", "150 mm", "200 mm"]
    for field in ("loss_w", "cost_minor"):
        values = [getattr(one.effect, field) for one in row]
        assert values == sorted(values)


def test_kilowatts_by_hand():
    """Three rooms of solid brick, 65.2 m2 of outside wall; 100 mm at 0.032 and 8 mm at 0.87 outside of R 0.4785."""
    document = house("three-rooms")
    document["schemes"] = {"s": {"label": "S"}}
    document["active_scheme"] = "s"
    one = named(parse(document), "outside-insulation:wall-brick-one:100")
    r = 0.13 + 0.013 / 0.57 + 0.22 / 0.77 + 0.04
    better = 1 / r - 1 / (r + 0.1 / 0.032 + 0.008 / 0.87)
    watts = better * (29.5 * 26 + 18.2 * 23 + 17.5 * 27)
    assert one.option.area_m2 == pytest.approx(65.2)
    assert one.option.u_after_w_m2k == pytest.approx(1 / (r + 0.1 / 0.032 + 0.008 / 0.87), abs=1e-4)
    assert one.effect.loss_w == pytest.approx(watts, rel=1e-3)
    row = TABLE["outside-insulation"]
    cost = row.fixed_minor + 65.2 * (row.m2_minor + row.m2_minor_per_m * 0.1)
    assert one.option.cost_minor == pytest.approx(cost, abs=51)  # to the pound


def built(job):
    """Every stretch of every face and every opening with its construction and area."""
    arrays = of_house(view(job, Findings()), Findings())
    return {
        (p.room, p.face, p.stretch, p.opening): (p.construction, p.area_m2) for p in arrays.pieces if p.junction is None
    }


def terrace():
    """Two storeys beside a neighbour and a garage, the bedroom 2.8 m2 out over an open porch."""
    document = brief.document(
        b"""
id = "terrace"
title = "Terrace"
climate = "mild-maritime"
[storeys.g]
level_m = 0.0
[storeys.u]
level_m = 2.7
pos = 1
[neighbours.next]
label = "Next door"
[spaces.garage]
label = "Garage"
kind = "garage"
[parts.main]
age = "1920-1960"
constructions = { wall = "wall-cavity-unfilled", inner_wall = "wall-inner-stud", roof = "roof-loft-bare", ground = "ground-timber-bare", floor = "floor-upper", window = "window-single-wood", door = "door-wood" }
loft = "loft"
[spaces.loft]
label = "Loft"
kind = "loft-underlay"
[rooms.living]
use = "living"
storey = "g"
size = [5.0, 4.0, 2.4]
at = [0.0, 0.0]
windows = [{ wall = 1, size = [2.0, 1.4] }]
beyond = { w4 = "neighbour:next", w2 = "space:garage" }
emitters = [{ id = "r1", type = "t22", size = [1.6, 0.6] }]
[rooms.bed]
use = "bedroom"
storey = "u"
size = [5.7, 4.0, 2.4]
at = [0.0, 0.0]
windows = [{ wall = 1, size = [1.6, 1.2] }]
beyond = { w4 = "neighbour:next" }
emitters = [{ id = "r2", type = "t21", size = [1.2, 0.6] }]
[schemes.s]
label = "S"
"""  # noqa: E501
    )
    document["active_scheme"] = "s"
    return document


@pytest.mark.parametrize("document", [tansy_cut(), terrace()], ids=["tansy-cut", "terrace"])
def test_a_measure_changes_the_faces_it_is_priced_for_and_no_other(document):
    """One set of faces for price, effect, words and undoing: what changed its construction is as many m2 as the option
    says, and none of it is a floor between rooms, a party wall or the shell of an unheated space."""
    job = parse(document)
    free = measures.needed_water(job)
    before, spaces = built(free), design(free).house.spaces
    found = [one for one in measures.found_in(free, TABLE) if one.option.area_m2 is not None]
    assert len(found) > 10
    for one in found:
        after = built(measures.applied(free, one, measures.OWN))
        changed = [key for key in before if before[key][0] != after[key][0]]
        assert sum(before[key][1] for key in changed) == pytest.approx(one.option.area_m2), one.option.key
        kinds = {kind_of(free, key) for key in changed}
        assert kinds <= {"outside", "ground", "space"}, (one.option.key, kinds)
        assert kinds == set(one.measures[0].beyond)
        assert [space.out_w_k for space in design(measures.applied(free, one, measures.OWN)).house.spaces] == [
            space.out_w_k for space in spaces
        ]


def kind_of(job, key):
    room, face, stretch, _ = key
    view_of = view(job, Findings()).rooms[room]
    return next(f for f in view_of.faces if f.key == face).pieces[stretch].stretch.beyond.kind


def test_insulating_an_overhang_leaves_the_ceilings_alone():
    """2.8 m2 of bedroom floor over the open, built like the floors between storeys: 20 m2 of ceiling keep their U."""
    job = parse(terrace())
    (below,) = [one for one in measures.found_in(job, TABLE) if "floor-upper" in one.option.key][:1]
    assert below.option.area_m2 == pytest.approx(0.7 * 4.0)
    plain, done = design(job), design(measures.applied(job, below, measures.OWN))
    ceiling = [next(f for f in r.rooms[0].faces if f.kind == "ceiling").u_w_m2k for r in (plain, done)]
    assert ceiling[0] == ceiling[1]
    saved = (below.option.u_before_w_m2k - below.option.u_after_w_m2k) * 2.8 * (18.0 - -3.0)
    assert plain.house.loss_w - done.house.loss_w == pytest.approx(saved, rel=0.02)


def test_filling_the_cavity_leaves_the_party_wall_alone():
    job = parse(terrace())
    fill = next(one for one in measures.found_in(job, TABLE) if one.option.measure == "fill-cavity")
    rooms = design(job).rooms
    outside = sum(
        p.net_m2
        for r in rooms
        for f in r.faces
        if f.kind == "wall"
        for p in f.pieces
        if p.beyond in ("outside", "space")
    )
    assert fill.option.area_m2 == pytest.approx(outside)
    done = design(measures.applied(job, fill, measures.OWN))
    for r, d in zip(rooms, done.rooms, strict=True):
        party = [next(f for f in x.faces if f.beyond == "neighbour") for x in (r, d)]
        assert party[0].u_w_m2k == party[1].u_w_m2k
        assert "neighbour" in party[0].construction_label.lower()


def test_nothing_is_changed_by_trying(tried):
    job, _ = tried
    before = job.model_dump()
    measures.judge(job)
    assert job.model_dump() == before


def test_together_is_less_than_the_sum_where_they_share_a_wall(tried):
    job, found = tried
    keys = ["inside-insulation:wall-frame-1900-wool50:60", "new-windows:window-single-wood:window-triple"]
    alone = sum(one.effect.loss_w for one in found.tried if one.option.key in keys)
    both = measures.together(job, keys, table=TABLE)
    assert 0.9 * alone < both.loss_w <= alone + 1e-6
    assert both.cost_minor == sum(one.option.cost_minor for one in found.tried if one.option.key in keys)


def test_one_wall_cannot_be_insulated_twice_the_same_way(tried):
    job, _ = tried
    with pytest.raises(NotFound, match="not beside the others"):
        measures.together(
            job,
            ["outside-insulation:wall-brick-one-half:100", "outside-insulation:wall-brick-one-half:60"],
            table=TABLE,
        )


def test_adopted_as_one_change_it_does_what_was_promised(tried):
    job, _ = tried
    keys = ["outside-insulation:wall-brick-one-half:100", "draught-proofing"]
    promised = measures.together(job, keys, table=TABLE)
    document = tansy_cut()
    after = apply(copy.deepcopy(document), measures.operations(job, keys, TABLE))[0]
    before, now = judged(document), design(parse(after))
    assert before.house.loss_w - now.house.loss_w == pytest.approx(promised.loss_w)
    # the survey is as it was; what changed is the scheme and the constructions it needs
    assert after["survey"] == document["survey"]
    assert len(after["schemes"]["lukewarm"]["measures"]) == len(document["schemes"]["lukewarm"]["measures"]) + 2
    left = {one.option.key for one in measures.judge(parse(after)).tried}
    assert "draught-proofing" not in left
    assert not any(key.startswith("outside-insulation:wall-brick-one-half") for key in left)


def test_the_company_sets_the_price(tried):
    job, _ = tried
    dear = {**TABLE, "draught-proofing": TABLE["draught-proofing"].model_copy(update={"fixed_minor": 123_400.0})}
    assert (
        next(
            one for one in measures.judge(job, table=dear).tried if one.option.key == "draught-proofing"
        ).option.cost_minor
        == 123_400.0
    )


def test_sealing_with_heat_recovery_changes_the_air_alone(tried):
    job, _ = tried
    one = next(one for one in measures.judge(job).tried if one.option.key == "tight-and-recover")
    after = measures.combined(job, ["tight-and-recover"], TABLE, "job")[0]
    now, then = design(job).house, design(after).house
    # besides air, only what the heated floor sends down: it gives less upwards in a tighter room
    fell = now.air_w - then.air_w + now.down_w - then.down_w
    assert now.loss_w - then.loss_w == pytest.approx(fell)
    assert one.effect.loss_w == pytest.approx(fell, rel=1e-6)


def test_a_cavity_is_filled_only_where_there_is_one(tried):
    _, found = tried
    assert not any(one.option.measure == "fill-cavity" for one in found.tried)
    document = house("three-rooms")
    document["schemes"], document["active_scheme"] = {"s": {"label": "S"}}, "s"
    from cinder.model import freeze

    document["library"]["constructions"]["wall-cavity-unfilled"] = freeze(load().constructions["wall-cavity-unfilled"])
    document["survey"]["parts"]["main"]["constructions"]["wall"] = "wall-cavity-unfilled"
    one = named(parse(document), "fill-cavity")
    assert 0.45 < one.option.u_after_w_m2k < 0.65  # filled cavity 0.5-0.6 (common practice)


def test_without_a_scheme_or_rooms_it_says_so():
    document = tansy_cut()
    document["active_scheme"] = None
    assert measures.judge(parse(document)).sentence == "There is no scheme to try measures in."
    with pytest.raises(NotFound):
        measures.operations(parse(document), ["draught-proofing"], TABLE)


def test_a_secondary_pane_is_offered_on_single_glazing_only():
    """It keeps the pane that is there: on double glazing it would swap in a single one (common practice)."""
    offered = [one.option for one in measures.judge(parse(tansy_cut())).tried if one.option.measure == "secondary-pane"]
    assert offered
    assert all("Single" in one.was_label for one in offered)
    assert all(one.u_after_w_m2k < one.u_before_w_m2k for one in offered)


@pytest.fixture(scope="module")
def by_hours(tried):
    """What an option saves by the season worked through hour by hour, sun in it: another route through another module, kWh."""
    job, _ = tried
    year = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
    free = measures.needed_water(job)

    def bought(one):
        [row] = [row for row in running.judge(one, design(one), year).rows if row.chosen]
        return row.electricity_kwh + row.fuel_kwh

    whole = bought(free)
    known = {found.option.key: found for found in measures.found_in(free, TABLE)}
    return year, lambda key: whole - bought(measures.applied(free, known[key], "own"))


@pytest.mark.parametrize(
    ("key", "within"),
    [
        ("new-windows:window-single-wood:window-double-argon", 0.03),
        ("new-windows:window-single-wood:window-triple", 0.03),
        ("new-windows:window-double-old:window-triple", 0.05),
        ("secondary-pane:window-single-wood:window-secondary-lowe", 0.03),
        ("outside-insulation:wall-brick-one-half:100", 0.03),
        ("tight-and-recover", 0.03),
    ],
)
def test_what_a_measure_saves_by_bins_is_what_it_saves_by_the_hours(tried, by_hours, key, within):
    job, _ = tried
    year, saved = by_hours
    found = measures.judge(job, weather=year)
    one = next(one for one in found.tried if one.option.key == key)
    assert one.effect.bought_kwh == pytest.approx(saved(key), rel=within)
    assert (one.effect.sun_kwh > 50) == ("window" in key)
    assert one.effect.sun_kwh == 0 or "is heated for, by the hours of" in found.sun


def test_together_panes_keep_the_sun_out_once(tried, by_hours):
    job, _ = tried
    year, _ = by_hours
    keys = ["new-windows:window-single-wood:window-triple", "new-windows:window-double-old:window-triple"]
    each = [one.effect.sun_kwh for one in measures.judge(job, weather=year).tried if one.option.key in keys]
    both = measures.together(job, keys, table=TABLE, weather=year)
    assert sum(each) * 0.8 < both.sun_kwh < sum(each) * 1.2
    assert both.bought_kwh < measures.together(job, keys, table=TABLE).bought_kwh


def test_where_the_sun_is_not_counted_it_is_said(tried):
    job, without = tried
    assert {one.effect.sun_kwh for one in without.tried} == {0.0}
    assert "carries no hourly year: they save less than is said here" in without.sun
    document = tansy_cut()
    document["practice"] = document.get("practice", {}) | {"year_gains": "people"}
    year = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
    found = measures.judge(parse(document), weather=year)
    assert {one.effect.sun_kwh for one in found.tried} == {0.0}
    assert found.sun == "By this job's practice the sun gives nothing."


def test_faces_of_one_build_that_have_become_two_are_two_options():
    """A hall that stands out over the roofs around it has plain floor beside what a part's default made of the same build."""
    document = tansy_cut()
    document["survey"]["rooms"]["hall"]["height_m"] = 4.4
    job = parse(document)
    found = measures.judge(job).tried
    keys = [one.option.key for one in found]
    assert len(keys) == len(set(keys))
    groups = {(one.option.measure, one.option.was): one.option.was_label for one in found}
    floors = [one for one in found if one.option.key.startswith("floor-over-air") and one.option.detail == "80 mm"]
    assert len({one.option.was_label for one in floors}) == len(floors) == 2
    assert all(groups[one.option.measure, one.option.was] == one.option.was_label for one in found)
    for one in floors:  # each is what is taken up under its key
        both = measures.together(job, [one.option.key], table=TABLE)
        assert both.loss_w == pytest.approx(one.effect.loss_w)
    assert measures.together(job, [one.option.key for one in floors], table=TABLE).loss_w == pytest.approx(
        sum(one.effect.loss_w for one in floors), rel=0.02
    )
