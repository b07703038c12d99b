"""Schemes side by side say what each says alone."""

import copy

import pytest

from cinder.design.apart import ways
from cinder.design.apart.compare import side_by_side
from cinder.library import load
from cinder.model import parse
from cinder.store.patch import apply
from tests.conftest import judged, tansy_cut


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
