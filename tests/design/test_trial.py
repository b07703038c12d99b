"""The chain without what is only shown gives the figures of the whole chain."""

import copy

import numpy as np
import pytest

from cinder.design.apart import ways
from cinder.design.apart.ways.options import applied
from cinder.design.judgement import design, trial
from cinder.library import load
from cinder.model import parse
from tests.conftest import house, oat_store, tansy_cut

HOUSES = {
    "tansy-cut": tansy_cut, "oat-store": oat_store,
    **{name: lambda name=name: house(name) for name in ("one-room", "three-rooms", "bungalow", "two-storeys-open")},
}  # fmt: skip


def same(job):
    short, whole = trial(job), design(job)
    assert short.season == whole.season
    assert short.needed_flow_c == whole.waterline.needed_flow_c
    for n, room in enumerate(whole.rooms):
        needed = float(short.needed_c[n])
        assert room.needed_flow_c == (needed if np.isfinite(needed) else None)
        assert (room.status == "no emitter") == np.isposinf(needed)
        assert float(short.load_w[n]) == pytest.approx(room.room_emitter_load_w or 0.0)
        assert float(short.given_w[n]) == pytest.approx(sum(one.at_line_w or 0.0 for one in room.emitters))


@pytest.mark.parametrize("name", HOUSES)
def test_every_house(name):
    same(parse(HOUSES[name]()))


def test_without_a_machine_a_climate_an_emitter():
    document = tansy_cut()
    document["schemes"]["lukewarm"]["chosen"] = None
    same(parse(document))
    document = tansy_cut()
    document["climate"] = {}
    same(parse(document))
    document = copy.deepcopy(house("three-rooms"))
    document["survey"]["emitters"] = {}
    document["survey"]["pipes"] = {}
    same(parse(document))


@pytest.mark.parametrize("flow", [35.0, 42.0])
def test_sets_taken_into_the_scheme(flow):
    shelf = load()
    found = ways.options_of(parse(tansy_cut()), shelf.emitter_prices, shelf.measures)
    chosen = ways.at(found, flow)
    assert chosen.answer.possible
    same(applied(found, chosen, flow))
