"""Schemes side by side say what each says alone."""

import copy

import pytest

from cinder.design import design
from cinder.design.apart import measures, running, ways
from cinder.design.apart.compare import side_by_side
from cinder.design.house.tariff import mean_minor_per_kwh
from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.store.patch import apply
from tests.conftest import judged, tansy_cut

TRIPLE = "new-windows:window-single-wood:window-triple"


def test_every_scheme_stands_as_it_would_alone():
    document = tansy_cut()
    rows = side_by_side(parse(document)).rows
    assert rows[0].label == "As found"
    assert [row.shown for row in rows] == [row.id == "lukewarm" for row in rows]
    for row in rows:
        alone = judged(document | {"active_scheme": row.id})
        assert [f.value for f in row.figures] == [f.value for f in alone.headline]
        assert row.electricity_kwh == alone.season.electricity_kwh


def test_two_variants_taken_from_the_front_beside_each_other():
    """42 and 45 deg C, each its own scheme: the cooler one costs more and draws less; costs are those that were promised."""
    document = tansy_cut()
    for one in (
        *document["schemes"]["lukewarm"]["measures"].values(),
        *document["schemes"]["lukewarm"]["emitters"].values(),
    ):
        one.pop("cost_minor", None)  # what stands in the sample already is no part of what was promised here
    document["schemes"]["cool"] = copy.deepcopy(document["schemes"]["lukewarm"]) | {"label": "Cooler"}
    prices, table = load().emitter_prices, load().measures
    promised = {}
    for key, flow in (("lukewarm", 45.0), ("cool", 42.0)):
        document["active_scheme"] = key
        job = parse(document)
        promised[key] = next(p for p in ways.front(job, prices, table).points if p.flow_c == flow).cost_minor
        document = apply(document, ways.operations(job, flow, prices, table))[0]
    rows = {row.id: row for row in side_by_side(parse(document)).rows}
    assert {key: rows[key].cost_minor for key in promised} == pytest.approx(promised)
    assert rows["cool"].cost_minor > rows["lukewarm"].cost_minor
    assert rows["cool"].electricity_kwh < rows["lukewarm"].electricity_kwh
    assert [next(f.value for f in rows[key].figures if f.key == "flow") for key in ("lukewarm", "cool")] == [45.0, 42.0]


def test_a_scheme_with_new_panes_pays_for_the_sun_they_keep_out():
    """Two schemes that differ in their panes alone, by bins with the sun taken off, and hour by hour: two routes to one difference."""
    document = tansy_cut()
    document["schemes"]["glazed"] = copy.deepcopy(document["schemes"]["lukewarm"]) | {"label": "Glazed"}
    glazed = parse(document | {"active_scheme": "glazed"})
    document = apply(document | {"active_scheme": "glazed"}, measures.operations(glazed, [TRIPLE], load().measures))[0]
    job = parse(document)
    year = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)

    def bought(key):
        one = parse(document | {"active_scheme": key})
        [row] = [row for row in running.judge(one, design(one), year).rows if row.chosen]
        return row.electricity_kwh

    side = side_by_side(job, year)
    rows = {row.id: row for row in side.rows}
    less = rows["lukewarm"].electricity_kwh - rows["glazed"].electricity_kwh
    assert less == pytest.approx(bought("lukewarm") - bought("glazed"), rel=0.03)
    assert "is heated for, by the hours of" in side.sun
    tried = measures.judge(job, weather=year)  # the demo's water follows its rooms in both
    assert tried.base_bill_minor == pytest.approx(rows["glazed"].bill_minor, rel=1e-9)
    now = next(
        p
        for p in ways.front(job, load().emitter_prices, load().measures, weather=year).points
        if not p.changes and p.possible
    )
    assert now.bill_minor == pytest.approx(rows["glazed"].bill_minor, rel=0.01)
    plain = {row.id: row for row in side_by_side(job).rows}
    assert plain["lukewarm"] == rows["lukewarm"]
    assert rows["glazed"].electricity_kwh - plain["glazed"].electricity_kwh > 50
    price = mean_minor_per_kwh(job)  # the demo's price of the day is that of the night
    more = rows["glazed"].electricity_kwh - plain["glazed"].electricity_kwh
    assert rows["glazed"].bill_minor - plain["glazed"].bill_minor == pytest.approx(more * price, rel=0.03)
    assert side_by_side(parse(tansy_cut()), year).sun == ""
