"""The plant as a picture: twelve unlike plants, each part once, none the machine already holds, no loose end, nothing over anything."""

from __future__ import annotations

import copy
from collections import Counter
from itertools import combinations

import pytest

from cinder.design import design
from cinder.design.apart import plant
from cinder.design.apart.plant.chosen import PAIRS, inventory
from cinder.design.findings import Findings
from cinder.design.house.view import view
from cinder.exchange.report.plant_svg import drawn
from cinder.library import load
from cinder.model import freeze, parse
from tests.conftest import counting_house, tansy_cut

LETTER, LINE = 7.0, 16.0
HOLDS = {
    "diverter": lambda held: held.diverter, "freeze-valves": lambda held: held.freeze_valve,
    "heater": lambda held: held.heater_kw > 0, "relief": lambda held: held.relief_bar > 0,
}  # fmt: skip


def scheme_of(document: dict) -> dict:
    return document["schemes"][document["active_scheme"]]


def with_machine(document: dict, **changed) -> dict:
    """The chosen machine in another make-up."""
    scheme = scheme_of(document)
    key = scheme["candidates"][scheme["chosen"]]["machine"]
    entry = copy.deepcopy(document["library"]["machines"][key]["data"])
    entry["contains"] = entry.get("contains", {}) | changed.pop("contains", {})
    one = load().machines[key].model_validate(entry | changed)
    document["library"]["machines"][key] = freeze(one)
    return document


def make(name: str) -> dict:
    d = counting_house() if name == "boiler makes the water" else tansy_cut()
    s = scheme_of(d)
    zone = {"z": {"label": "Upstairs", "rooms": ["bed1", "bed2"], "mixed": True}}
    if name == "freeze valves":
        s["protection"] = {"kind": "valves"}
    elif name == "volumiser":
        s["separation"] = {"volumiser_l": 40.0}
    elif name == "header, 8 m pump":
        s["separation"] = {"kind": "header", "pump": "class-8m"}
    elif name == "buffer on four, a bypass":
        s["separation"] = {"kind": "buffer 4", "buffer_l": 100.0, "bypass": True}
    elif name == "buffer on three, a mixed circuit":
        s |= {"separation": {"kind": "buffer 3"}, "zones": zone}
    elif name == "buffer on two, plate exchanger":
        s |= {"separation": {"kind": "buffer 2"}, "hot_water": s["hot_water"] | {"exchanger": "plate"}}
    elif name == "split":
        return with_machine(d, kind="split")
    elif name == "a machine that holds much":
        s["protection"] = {"kind": "valves"}
        return with_machine(
            d, contains={"diverter": True, "heater_kw": 6.0, "vessel_l": 30.0, "freeze_valve": True, "relief_bar": 3.0}
        )
    elif name == "a machine that holds nothing":
        return with_machine(
            d, contains={"diverter": False, "heater_kw": 0.0, "vessel_l": 0.0, "freeze_valve": False, "relief_bar": 0.0}
        )
    elif name == "no hot water, two mixed circuits":
        s["hot_water"] = {}
        s["zones"] = {**zone, "y": {"label": "Garden room", "rooms": ["garden"], "mixed": True}}
    elif name == "an old store with collectors":
        d["survey"]["stores"] = {"old": {"label": "Old store", "volume_l": 180.0, "also": ["collectors", "stove"]}}
        s["hot_water"] = {"keeps": "old"}
    return d


PLANTS = (
    "plain", "freeze valves", "volumiser", "header, 8 m pump", "buffer on four, a bypass", "buffer on three, a mixed circuit",
    "buffer on two, plate exchanger", "split", "a machine that holds much", "a machine that holds nothing",
    "no hot water, two mixed circuits", "an old store with collectors", "boiler makes the water",
)  # fmt: skip


@pytest.fixture(scope="module", params=PLANTS)
def made(request):
    job = parse(make(request.param))
    shown = design(job)
    house = view(job, Findings())
    return inventory(house, shown, load().plant_parts), plant.judge(job, shown, load().plant_parts), house.machine


def box(part) -> tuple[float, float, float, float]:
    return part.x - part.width / 2, part.y - part.height / 2, part.x + part.width / 2, part.y + part.height / 2


def words(part) -> tuple[float, float, float, float]:
    wide = max((len(line) for line in part.lines), default=0) * LETTER
    left = part.text_x - {"start": 0.0, "middle": wide / 2, "end": wide}[part.anchor]
    return left, part.text_y - 12, left + wide, part.text_y - 12 + len(part.lines) * LINE


def meet(a, b, gap=0.0) -> bool:
    return a[0] < b[2] - gap and b[0] < a[2] - gap and a[1] < b[3] - gap and b[1] < a[3] - gap


UNDRAWN = ("controller",)


def test_every_part_is_drawn_once(made):
    listed, found, _ = made
    seen = Counter(part.kind for part in found.parts if part.kind)
    expected = {
        kind: 2 if kind in PAIRS else 1 if kind == "vents" else round(one.count)
        for kind, one in listed.parts.items()
        if kind not in UNDRAWN
    }
    assert seen == expected
    assert len({part.id for part in found.parts}) == len(found.parts)


def test_nothing_the_machine_holds_is_drawn_or_listed(made):
    listed, _, machine = made
    for kind, held in HOLDS.items():
        assert not (held(machine.contains) and kind in listed.parts), kind
    if machine.contains.vessel_l >= 30:
        assert "vessel" not in listed.parts


def test_no_pipe_has_a_loose_end(made):
    _, found, _ = made
    parts, joints = {part.id: part for part in found.parts}, {one.id: one for one in found.joints}
    for pipe in found.pipes:
        for name, (x, y) in ((pipe.begins, pipe.points[0]), (pipe.ends, pipe.points[-1])):
            if name in joints:
                assert (joints[name].x, joints[name].y) == pytest.approx((x, y)), (pipe.id, name)
                continue
            left, top, right, foot = box(parts[name])
            assert left - 0.01 <= x <= right + 0.01, (pipe.id, name)
            assert top - 0.01 <= y <= foot + 0.01, (pipe.id, name)
            assert min(abs(x - left), abs(x - right), abs(y - top), abs(y - foot)) < 3.1, (pipe.id, name)
    ends = Counter(name for pipe in found.pipes for name in (pipe.begins, pipe.ends))
    assert all(ends[name] >= 2 for name in joints), [name for name in joints if ends[name] < 2]
    alone = {"base", "outdoor-sensor"}
    assert all(ends[part.id] for part in found.parts if part.id not in alone)


def test_nothing_lies_over_anything(made):
    _, found, _ = made
    for a, b in combinations(found.parts, 2):
        assert not meet(box(a), box(b)), (a.id, b.id)
        assert not meet(words(a), words(b), 1.0), (a.id, b.id)
    for a in found.parts:
        for b in found.parts:
            if a is not b:
                assert not meet(words(a), box(b), 1.0), (a.id, b.id)
        left, top, right, foot = words(a)
        assert min(left, top) >= 0, a.id
        assert right <= found.width, a.id
        assert foot <= found.height, a.id


def stretches(pipe):
    return [
        (min(a[0], b[0]), min(a[1], b[1]), max(a[0], b[0]), max(a[1], b[1]))
        for a, b in zip(pipe.points, pipe.points[1:], strict=False)
    ]


def test_no_pipe_runs_through_a_part_its_words_or_another_pipe(made):
    _, found, _ = made
    for pipe in found.pipes:
        assert all(a[0] == b[0] or a[1] == b[1] for a, b in zip(pipe.points, pipe.points[1:], strict=False)), pipe.id
        for left, top, right, foot in stretches(pipe):
            thin = (left - 0.5, top - 0.5, right + 0.5, foot + 0.5)
            for part in found.parts:
                assert not meet(thin, words(part), 1.0), (pipe.id, part.id)
                if part.id not in (pipe.begins, pipe.ends):
                    assert not meet(thin, box(part), 1.0), (pipe.id, part.id)
    for a, b in combinations(found.pipes, 2):
        shared = {a.begins, a.ends} & {b.begins, b.ends}
        for one in stretches(a):
            for two in stretches(b):
                crosses = one[0] < two[2] and two[0] < one[2] and one[1] < two[3] and two[1] < one[3]
                assert shared or not crosses, (a.id, b.id)
                square = (one[0] == one[2]) != (two[0] == two[2])
                if square and not shared:
                    inside = one[0] <= two[2] and two[0] <= one[2] and one[1] <= two[3] and two[1] <= one[3]
                    assert not inside, (a.id, b.id)


def test_water_goes_round_in_every_state_it_is_said_to(made):
    """What moves in a state leaves no place it does not come to: at every joint and part as many pipes bring water as take it."""
    _, found, _ = made
    for state in found.states:
        if state.key == "off":
            continue
        enters, leaves = Counter(), Counter()
        for pipe in found.pipes:
            if state.key in pipe.states:
                leaves[pipe.begins] += 1
                enters[pipe.ends] += 1
        assert enters, state.key
        assert set(enters) == set(leaves), state.key


def test_a_drawing_can_be_read_as_svg(made):
    from xml.etree import ElementTree

    _, found, _ = made
    for state in found.states:
        tree = ElementTree.fromstring(drawn(found, state.key))
        said = " ".join(tree.itertext())
        assert all(line in said for part in found.parts for line in part.lines)


def test_without_a_machine_it_says_what_it_lacks():
    document = tansy_cut()
    scheme_of(document)["chosen"] = None
    job = parse(document)
    found = plant.judge(job, design(job), load().plant_parts)
    assert found.lacks
    assert not found.parts
