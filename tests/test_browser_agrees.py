"""What the browser computes for interaction agrees with the core, on shared fixtures: typed lengths and figures,
texts in the other units, and corners."""

import json
from pathlib import Path

import pytest

from cinder.design.plan.geometry import corners
from cinder.exchange.report.day_svg import begins
from cinder.exchange.survey.lengths import metres
from cinder.model import Run
from tests.in_browser import run

FIXTURES = Path(__file__).parent / "fixtures"

SCRIPT = """
const plan = load('charts/plan.ts');
const value = (meant) => 'value' in meant ? meant.value : null;
console.log(JSON.stringify({
  lengths: given.lengths.map(([text]) => value(units.understand(text, 'length'))),
  texts: inFeet(true, () => given.texts.map(([text]) => units.told(text))),
  typed: given.typed.map(([text, unit, feet]) => inFeet(feet, () => value(units.understand(text, 'plain', unit)))),
  corners: given.walks.map((w) => plan.corners(
    w.walk.map(([length_m, turn_deg, diagonal_m], n) => ({ id: 'w' + n, length_m, turn_deg, diagonal_m })))),
}));
"""
LENGTHS = json.loads((FIXTURES / "lengths.json").read_text())
TEXTS = json.loads((FIXTURES / "imperial.json").read_text())
TYPED = [
    ["21", "°C", False, 21], ["70", "°C", True, 21.1111], ["21 C", "°C", True, 21], ["68 °F", "°C", False, 20],
    ["-4 F", "°C", True, -20], ["1000", "W", True, 293.071], ["1,000 Btu/h", "W", False, 293.071],
    ["2 kW", "W", True, 2000], ["100", "m²", True, 9.2903], ["9.3 m2", "m²", True, 9.3], ["5 gal/min", "L/h", True, 1135.62],
    ["10 ft", "kPa", True, 29.8907], ["15 psi", "bar", True, 1.03421], ["18", "K", True, 10], ["10 K", "K", True, 10],
    ["3.5", "kPa", False, 3.5], ["warm", "°C", True, None], ["5 kg", "°C", False, None],
]  # fmt: skip
"""What is typed, the unit it is kept in, whether the job is in feet, what is kept (worked by hand)."""
WALKS = json.loads((FIXTURES / "walks.json").read_text())


@pytest.fixture(scope="module")
def browser():
    return run(SCRIPT, {"lengths": LENGTHS, "texts": TEXTS, "typed": TYPED, "walks": WALKS})


@pytest.mark.parametrize("n", range(len(LENGTHS)), ids=lambda n: repr(LENGTHS[n][0]))
def test_typed_lengths(browser, n):
    text, expected = LENGTHS[n]
    for found in (browser["lengths"][n], metres(text)):
        assert found == (None if expected is None else pytest.approx(expected, abs=5e-5))


@pytest.mark.parametrize("n", range(len(TYPED)), ids=lambda n: f"{TYPED[n][0]} for {TYPED[n][1]}")
def test_typed_figures_in_either_unit(browser, n):
    expected = TYPED[n][3]
    assert browser["typed"][n] == (None if expected is None else pytest.approx(expected, rel=2e-5))


@pytest.mark.parametrize("n", range(len(TEXTS)))
def test_texts_in_the_other_units(browser, n):
    assert browser["texts"][n] == TEXTS[n][1]


@pytest.mark.parametrize("n", range(len(WALKS)), ids=lambda n: WALKS[n]["what"])
def test_corners_of_a_walk(browser, n):
    walk = [
        Run(id=f"w{k}", length_m=a, turn_deg=float(b), diagonal_m=c) for k, (a, b, c) in enumerate(WALKS[n]["walk"])
    ]
    for found in (browser["corners"][n], corners(walk)):
        assert len(found) == len(WALKS[n]["corners"])
        for one, wanted in zip(found, WALKS[n]["corners"], strict=True):
            assert one == pytest.approx(wanted, abs=1e-9)


SNAP = """
const plan = load('charts/plan.ts');
const box = ([x0, y0, x1, y1]) => [[x0, y1], [x1, y1], [x1, y0], [x0, y0], [x0, y1]];
console.log(JSON.stringify(given.map(([mine, others]) => {
  const shift = plan.snap(box(mine), others.map(box));
  return [...shift, plan.shared(box(mine).map(([x, y]) => [x + shift[0], y + shift[1]]), others.map(box)).length];
})));
"""


def test_a_slid_room_comes_to_rest_a_wall_away():
    """By hand: 0.1 m of wall between, corners flush where they nearly are, a second neighbour counts too."""
    house = [[0, 0, 4, 3]]
    cases = [
        ([4.23, 0.07, 7, 3.07], house),  # 0.13 too far, 0.07 too high: to 4.10, corners flush
        ([4.02, 1.0, 7, 3.6], house),  # 0.08 too near; corners half a metre off stay
        ([9.0, 0, 12, 3], house),  # nothing near: it stays
        ([4.2, 3.25, 8, 6], [[0, 3.1, 4, 6], [4.1, 0, 8, 3]]),  # beside one and above another
    ]
    done = run(SNAP, cases)
    expected = [(-0.13, -0.07, 1), (0.08, 0.0, 1), (0.0, 0.0, 0), (-0.1, -0.15, 2)]
    for found, wanted in zip(done, expected, strict=True):
        assert found == pytest.approx(wanted, abs=1e-9)


ONTO = """
const plan = load('charts/plan.ts');
const box = ([x0, y0, x1, y1]) => [[x0, y1], [x1, y1], [x1, y0], [x0, y0], [x0, y1]];
console.log(JSON.stringify(given.map(([mine, below]) => plan.onto(box(mine), below.map(box)))));
"""


def test_a_slid_room_settles_flush_on_the_storey_below():
    """By hand: each direction by itself, the nearest edge within 0.3 m."""
    below = [[0, 0, 4, 3], [4.1, 0, 8, 3]]
    cases = [
        ([0.2, -0.1, 3, 2.5], below),  # left edge 0.2 off, front edge 0.1 off
        ([0.5, 0.25, 3.95, 2.4], below),  # its right edge is 0.05 from 4, its front edge 0.25 from 0
        ([1.0, 1.0, 2.0, 2.0], below),  # nothing near
        ([0.2, -0.1, 3, 2.5], []),  # nothing below
    ]
    expected = [(-0.2, 0.1), (0.05, -0.25), (0, 0), (0, 0)]
    for found, wanted in zip(run(ONTO, cases), expected, strict=True):
        assert found == pytest.approx(wanted, abs=1e-9)


LAYERS = [[10.0, 10.0, 50.0, 50.0], [12.0, 18.0, 33.5, 47.0, 48.0], [45.0] * 6, [8.0] * 4, [10.0, 39.9, 40.0, 40.1]]


def test_how_high_warm_water_begins_in_a_store_on_screen_and_paper():
    """The screen's drawing and the paper's, on the same layers and temperatures; the first by hand: half-way up."""
    levels = [15.0, 20.0, 30.0, 40.0, 48.0, 65.0]
    script = "const strip = load('charts/dayStrip.ts'); console.log(JSON.stringify("
    script += "given.layers.map((one) => given.levels.map((c) => strip.begins(one, c)))));"
    found = run(script, {"layers": LAYERS, "levels": levels})
    assert found[0][2] == 0.5
    for layers, row in zip(LAYERS, found, strict=True):
        assert row == pytest.approx([begins(layers, c) for c in levels])
