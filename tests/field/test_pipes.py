"""Hidden pipes of a job by its tests: what is read becomes flows, the fit becomes words and edits, what cannot be is named.

The water of these tests comes from the house's own network with a pipe changed behind the survey's back; that the fit itself finds pipes of a
model it does not share stands in `tests/outside/test_pipe_fit.py`. Heat over spread by hand (EN 442-2, from memory).
"""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest

from cinder.errors import InvalidJob
from cinder.field.pipes import decide, judge
from cinder.model import parse
from cinder.physics.flow import hydraulic_tree
from tests.conftest import tansy_cut


def network(document: dict):
    """The house as found, its emitters' ids in the order of its ends, and its pipes' ids."""
    found = parse(document).model_copy(update={"active_scheme": None})
    known = decide.walk(decide.chain.CHAIN, {"job": found}, decide.Findings(), decide.Afresh())
    tree = decide.tree_of(known["house"])
    ends = decide._ends(known["house"], tree, known["emitters"], known["design"])
    made, _, _ = decide._guessed(known["house"], tree, ends)
    return made, [one.emitter for one in ends], tree.keys


def with_tests(document: dict, true, emitters: list[str]) -> dict:
    """Three steps of the pump with everything open, then each emitter alone, read exactly."""
    tests = {}
    for n, head in enumerate((10.0, 22.0, 40.0)):
        flow = hydraulic_tree.solve(
            true, lambda _, head=head: head * 1000, begin_lph=np.full(len(emitters), 100.0)
        ).end_lph
        tests[f"s{n}"] = {
            "pos": n, "head_kpa": head, "head_by": "gauges", "flow_lph": float(flow.sum()),
            "gauges": dict(zip(emitters, flow.tolist(), strict=True)),
        }  # fmt: skip
    for n, key in enumerate(emitters):
        alone = replace(true, on_path=true.on_path[:, n : n + 1], end_pa=true.end_pa[n : n + 1])
        flow = hydraulic_tree.solve(alone, lambda _: 22e3, begin_lph=np.array([100.0])).end_lph
        tests[f"o{n}"] = {"pos": 10 + n, "head_kpa": 22.0, "head_by": "gauges", "flow_lph": float(flow[0]), "only": key}
    document["survey"]["pipe_tests"] = tests
    return document


@pytest.fixture(scope="module")
def house():
    """The lock-keeper's house with the pipe of one emitter a size thinner than written down, and nobody having seen it."""
    document = tansy_cut()
    made, emitters, keys = network(document)
    pipes = document["survey"]["pipes"]
    leaf = next(key for key in keys if pipes[key].get("emitter") in emitters and pipes[key].get("size") == "15")
    n = keys.index(leaf)
    pipes[leaf]["known"] = {"size": {"how": "assumed"}, "length_m": {"how": "told"}}
    family = document["library"]["pipe_families"][pipes[leaf]["family"]]["data"]["sizes"]
    bore = made.bore_m.copy()
    bore[n] = family["10"]["bore_m"]
    return with_tests(document, replace(made, bore_m=bore), emitters), leaf


def test_a_pipe_thinner_than_written_down_is_found_and_said(house):
    document, leaf = house
    found = judge(parse(document))
    assert found.lacks == ""
    one = next(p for p in found.pipes if p.id == leaf)
    assert one.size == "10"
    assert not one.agrees
    assert one.told > 0.8
    assert one.sizes[0].chance > 0.6
    assert sum(s.chance for s in one.sizes) <= 1 + 1e-9
    assert one.write_length_m == pytest.approx(document["survey"]["pipes"][leaf]["length_m"], rel=0.25)
    assert one.takes_kpa.low < one.takes_kpa.mid < one.takes_kpa.high
    # what is written down takes what was found: the length goes with the size
    assert "10" in one.says
    assert found.sentence


def test_an_emitter_s_return_says_its_flow_as_by_hand(house):
    """Heat by EN 442 over the spread: 1 000 W at 50 K arithmetic with n = 1.3, 45 to 39 °C in 20 °C: (22/50)^1.3 = 0.344 of it."""
    document, _ = house
    job = parse(document).model_copy(update={"active_scheme": None})
    known = decide.walk(decide.chain.CHAIN, {"job": job}, decide.Findings(), decide.Afresh())
    ends = decide._ends(known["house"], decide.tree_of(known["house"]), known["emitters"], known["design"])
    n = next(n for n, one in enumerate(ends) if one.rated_w > 0)
    ends[n] = replace(ends[n], rated_w=1000.0, exponent=1.3, arithmetic=True)
    reference = known["emitters"].reference_k
    test = (
        parse(document)
        .survey.pipe_tests["s0"]
        .model_copy(
            update={"gauges": {}, "supply_c": 45.0, "returns": {ends[n].emitter: 39.0}, "rooms": {ends[n].room: 20.0}}
        )
    )
    said: list[str] = []
    lph, spread = decide._by_ends(test, ends, np.ones(len(ends), dtype=bool), known["emitters"], known["house"], said)
    heat = 1000.0 * (22.0 / reference) ** 1.3
    assert lph[n] == pytest.approx(heat / (4180.0 / 3600.0 * 6.0), rel=0.02)
    assert spread[n] == pytest.approx(math.hypot(0.12, 0.7 / 6.0))
    assert said == []
    assert np.isnan(np.delete(lph, n)).all()


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"head_kpa": None}, "head is missing"),
        ({"flow_lph": None, "gauges": {}}, "No flow"),
        ({"flow_lph": 0.0}, "nought"),
    ],
)  # fmt: skip
def test_a_test_that_cannot_be_used_says_why_and_the_others_count(house, change, says):
    document, _ = house
    tests = document["survey"]["pipe_tests"]
    changed = document | {"survey": document["survey"] | {"pipe_tests": tests | {"s0": tests["s0"] | change}}}
    found = judge(parse(changed))
    assert says in " ".join(next(one for one in found.readings if one.id == "s0").odd)
    assert found.pipes


def test_returns_that_tell_nothing_are_said(house):
    document, _ = house
    _, emitters, _ = network(document)
    test = {
        "pos": 0,
        "head_kpa": 20.0,
        "flow_lph": 700.0,
        "supply_c": 45.0,
        "returns": {emitters[0]: 44.5, emitters[1]: 12.0},
    }
    changed = document | {"survey": document["survey"] | {"pipe_tests": {"t": test}}}
    odd = " ".join(judge(parse(changed)).readings[0].odd)
    assert "too little" in odd
    assert "colder than the room" in odd


def test_without_tests_or_with_nothing_hidden_it_is_said():
    document = tansy_cut()
    document["survey"]["pipe_tests"] = {}
    assert "Open every valve" in judge(parse(document)).lacks
    document["survey"]["pipe_tests"] = {"t": {"head_kpa": 20.0, "flow_lph": 700.0}}
    for run in document["survey"]["pipes"].values():
        run["known"] = {"size": {"how": "read"}, "length_m": {"how": "measured"}}
    assert "nothing hidden" in judge(parse(document)).lacks
    document["survey"]["pipes"] = {}
    document["schemes"] = {}
    document |= {"active_scheme": None, "handover": {}}
    assert "draw the runs" in judge(parse(document)).lacks


def test_a_test_of_an_emitter_that_is_not_there_is_refused():
    document = tansy_cut()
    document["survey"]["pipe_tests"] = {"t": {"only": "nobody", "head_kpa": 20.0}}
    with pytest.raises(InvalidJob) as refused:
        parse(document)
    assert refused.value.problems[0].path == "/survey/pipe_tests/t/only"
