"""Four ways on: each is a scheme that, begun in the job, says the same; and what cannot be had says why."""

import copy

import pytest

from cinder.design import design
from cinder.design.apart import alternatives, running
from cinder.library import load, shipped_year
from cinder.model import parse
from tests.conftest import tansy_cut

LIBRARY = load()
YEAR = shipped_year(LIBRARY.climates["mild-maritime"].year_sha256)
RANGE = (0.92, 1.07)


def judged(document, shelf=None):
    return alternatives.judge(
        parse(document), panels=LIBRARY.emitter_prices, table=LIBRARY.measures, lists=(),
        shelf=LIBRARY.machines if shelf is None else shelf, weather=YEAR, loss_range=RANGE,
    )  # fmt: skip


@pytest.fixture(scope="module")
def four():
    return judged(tansy_cut())


def begun(document, way):
    """The job with a way begun as its scheme, by the operations the screen would send."""
    after = copy.deepcopy(document)
    for one in way.operations:
        *parents, last = one["path"].strip("/").split("/")
        here = after
        for step in parents:
            here = here.setdefault(step, {})
        here[last] = copy.deepcopy(one["value"])
    after["active_scheme"] = "new"
    return after


@pytest.mark.parametrize("key", ["hybrid", "full", "hot", "fabric"])
def test_a_way_begun_as_a_scheme_says_the_same(four, key):
    way = next(one for one in four.rows if one.key == key)
    job = parse(begun(tansy_cut(), way))
    result = design(job)
    assert result.house.loss_w == pytest.approx(way.loss_w)
    assert result.waterline.chosen_flow_c == pytest.approx(way.flow_c)
    assert [room.label for room in result.rooms if room.status == "short"] == way.short
    if key == "fabric":
        present, _ = running.present_of(job, result, YEAR, loss_range=RANGE)
        assert present.cost_minor.mid == pytest.approx(way.cost_minor.mid)
        return
    row = running.judge(job, result, YEAR, loss_range=RANGE).rows[0]
    assert row.cost_minor == way.cost_minor
    assert row.heat_share == pytest.approx(way.heat_share)
    scheme = job.schemes["new"]
    done = [*scheme.measures.values(), *scheme.emitters.values()]
    assert way.once_minor == pytest.approx(row.once_minor + sum(one.cost_minor or 0 for one in done))


def test_what_the_ways_are(four):
    by_key = {one.key: one for one in four.rows}
    assert by_key["fabric"].loss_w < by_key["hybrid"].loss_w
    assert by_key["full"].flow_c <= 55 < by_key["hot"].flow_c
    assert by_key["full"].cover >= 1
    assert by_key["hot"].cover >= 1
    assert by_key["hybrid"].changes == by_key["hot"].changes == 0
    assert (
        0.2 < by_key["hybrid"].heat_share < 0.95
    )  # of the heat 0.2-0.5 as an alternative, 0.7-0.9 in parallel (common practice)
    stays = round((1 - by_key["hybrid"].heat_share) * 100)
    assert f"{stays} % of the heat stays with the boiler" in by_key["hybrid"].decides
    # a machine nobody priced: the work, and its kilowatts at the point its size is told at, whatever the climate (by hand)
    cold = tansy_cut() | {"grants": {}}
    cold["climate"]["design_c"] = -30.0
    hybrid = next(one for one in judged(cold).rows if one.key == "hybrid")
    entry = next(one for one in LIBRARY.machines.values() if one.label == hybrid.machine)
    rated = entry.greatest_w[entry.outdoor_c.index(2.0)][entry.water_c.index(35.0)]
    place = next(p for p in design(parse(cold)).places.places if p.chosen).cost_minor
    assert hybrid.once_minor == pytest.approx(550000 + 60000 * rated / 1000 + place)
    best = min(four.rows, key=lambda one: one.fifteen_minor.mid)
    assert four.sentence.startswith(f"**{best.title}**")
    assert by_key["full"].machine in four.later


def test_what_cannot_be_had_says_why():
    document = tansy_cut()
    small = {key: entry for key, entry in LIBRARY.machines.items() if key == "rush-3"}
    by_key = {one.key: one for one in judged(document, shelf=small).rows}
    assert "carries" in by_key["full"].lacks
    assert "No machine on the shelf makes 65" in by_key["hot"].lacks
    document["active_scheme"] = None
    assert "no scheme" in judged(document).lacks
    bare = tansy_cut()
    bare["site"]["answers"].pop("fuel")
    bare["site"]["bills"] = {}
    fabric = next(one for one in judged(bare).rows if one.key == "fabric")
    assert "what heats the house today" in fabric.lacks


def test_what_the_customer_ruled_out_stays_out():
    document = tansy_cut()
    scheme = document["schemes"][document["active_scheme"]]
    scheme["refused"] = [f"emitter:{key}" for key in document["survey"]["emitters"]]
    full = next(one for one in judged(document).rows if one.key == "full")
    kept = [
        key
        for one in full.operations
        if one["path"] == "/schemes/new"
        for key, action in one["value"].get("emitters", {}).items()
        if action["action"] == "replace"
    ]
    assert kept == []


@pytest.mark.parametrize(("altitude_m", "glycol"), [(0.0, 0.0), (600.0, 0.4), (2000.0, 0.25)])
def test_what_is_to_carry_the_whole_house_does_so_where_it_stands(altitude_m, glycol):
    """Two routes: how a machine is picked off the shelf, and the chain of the job it is begun in."""
    document = tansy_cut()
    document["site"]["altitude_m"] = altitude_m
    scheme = document["schemes"][document["active_scheme"]]
    scheme["protection"] = {"kind": "glycol", "glycol_share": glycol} if glycol else {}
    found = judged(document)
    for key in ("full", "hot"):
        way = next(one for one in found.rows if one.key == key)
        if way.lacks:
            continue
        machine = design(parse(begun(document, way))).machine.rows[0]
        assert machine.cover_without_hot_water >= 0.999, (key, machine.label)
