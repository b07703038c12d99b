"""One house told in other words has the same figures: other names, a plan that is turned, what the scheme does done already, the other
half of the earth."""

import copy
import dataclasses
import json
import math
import re

import numpy as np
import pytest

from cinder.design import design, year
from cinder.library import HourlyYear, load, shipped_year
from cinder.model import parse
from cinder.model.pointers import HOMES, POINTERS
from tests.conftest import counting_house, house, tansy_cut

HOUSES = {
    "tansy-cut": tansy_cut, "counting-house": counting_house, "two-storeys-open": lambda: house("two-storeys-open"),
}  # fmt: skip
KINDS = [kind for kind in HOMES if kind != "construction"]  # what a library holds is known by its name


def figures(document):
    return design(parse(document)).model_dump(mode="json")


def at(document, path):
    """Everything a path with `*` leads to, but for its last part."""
    found = [document]
    for part in path.strip("/").split("/")[:-1]:
        found = [v for one in found for v in (one.values() if part == "*" else [one.get(part)]) if isinstance(v, dict)]
    return found


def renamed(document, kind):
    """Everything of a kind under an id that sorts the other way round, wherever it is named; and the ids, by the old ones."""
    document, names = copy.deepcopy(document), {}

    def by_new_names(mapping):
        entries = [(names.get(key, key), value) for key, value in mapping.items()]
        mapping.clear()
        mapping.update(entries)

    for home in HOMES[kind]:
        for mapping in at(document, home):
            for key in mapping:
                names.setdefault(key, f"{kind[:3].strip()}{900 - len(names)}x{key}")
            by_new_names(mapping)
    for pointer in (one for one in POINTERS if one.to == kind):
        path = pointer.path.removesuffix("/[]")
        field = path.rsplit("/", 1)[1]
        for mapping in at(document, path):
            if field == "=":
                by_new_names(mapping)
            elif path != pointer.path:
                mapping[field] = [names.get(key, key) for key in mapping.get(field, [])]
            elif mapping.get(field) is not None:
                mapping[field] = names.get(mapping[field], mapping[field])
    return document, names


def turned(document, degrees, x_m, y_m):
    """The plan turned against the clock and moved, with everything on the site and its north."""
    document = copy.deepcopy(document)
    cos, sin = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))

    def turn(node):
        if isinstance(node, dict) and "x_m" in node:
            x, y = node["x_m"], node["y_m"]
            node["x_m"], node["y_m"] = cos * x - sin * y + x_m, sin * x + cos * y + y_m
            node |= {key: (node[key] - degrees) % 360 for key in ("facing_deg", "rotation_deg") if key in node}
        for one in node.values() if isinstance(node, dict) else node if isinstance(node, list) else ():
            turn(one)

    turn(document.get("site", {}))
    for room in document["survey"]["rooms"].values():
        turn(room.get("position", {}))
    if document.get("site", {}).get("north_deg") is not None:
        document["site"]["north_deg"] = (document["site"]["north_deg"] + degrees) % 360
    return document


def leaves(node, path=""):
    if isinstance(node, dict):
        for key, value in node.items():
            yield from leaves(value, f"{path}/{key}")
    elif isinstance(node, list):
        for value in node:
            yield from leaves(value, f"{path}/[]")
    else:
        yield path, node


def moved(before, after, rel=1e-6):
    """Paths whose figures or words are others, whatever their order in a list."""

    def by_path(result):
        out = {}
        for path, value in leaves(result):
            out.setdefault(path, []).append(value)
        return {path: sorted(values, key=lambda v: (type(v).__name__, v)) for path, values in out.items()}

    def same(one, other):
        if isinstance(one, float) and isinstance(other, float):
            return math.isclose(one, other, rel_tol=rel, abs_tol=1e-6)
        return one == other

    one, other = by_path(before), by_path(after)
    return sorted(
        path
        for path in one.keys() | other.keys()
        if len(one.get(path, [])) != len(other.get(path, [])) or not all(map(same, one[path], other[path]))
    )


@pytest.mark.parametrize("name", HOUSES)
def test_names_and_their_order_mean_nothing(name):
    told, back = HOUSES[name](), {}
    for kind in KINDS:
        told, names = renamed(told, kind)
        back |= {new: old for old, new in names.items()}
    text = re.sub("|".join(map(re.escape, back)), lambda found: back[found[0]], json.dumps(figures(told)))
    assert moved(figures(HOUSES[name]()), json.loads(text)) == []


@pytest.mark.parametrize("degrees", [90.0, 37.0, 201.5])
@pytest.mark.parametrize("name", ["tansy-cut", "counting-house"])
def test_a_plan_turned_with_its_north_is_the_same_house(name, degrees):
    """Sound, distances, walls near a unit, the sun and what lies beyond every stretch of wall go with it."""
    document = HOUSES[name]()
    drawn = re.compile(r"/(outline|outline_m|points|x_m|y_m|facing_deg)(/|$)")
    others = moved(figures(document), figures(turned(document, degrees, 3.0, -5.0)))
    assert [path for path in others if not drawn.search(path)] == []


def test_what_a_scheme_does_is_what_a_survey_of_it_done_says():
    """Emitters and insulation of a scheme, once surveyed as they then stand: only who put them there is told otherwise."""
    document = tansy_cut()
    scheme, done = document["schemes"]["lukewarm"], copy.deepcopy(document)
    for key, action in scheme["emitters"].items():
        was = done["survey"]["emitters"].get(key, {})
        done["survey"]["emitters"][key] = was | {
            "spec": action["spec"],
            "label": action["label"],
            "pos": was.get("pos", 9.0),
        }
        done["survey"]["emitters"][key].setdefault("room", action.get("room"))
    for measure in scheme["measures"].values():
        if measure["kind"] == "face":
            face = done["survey"]["rooms"][measure["room"]]["faces"][measure["face"]]
            face["construction"] = measure["construction"]
    kept = {key: one for key, one in scheme["measures"].items() if one["kind"] != "face"}
    assert (len(kept), len(scheme["emitters"])) == (1, 2)
    done["schemes"]["lukewarm"] |= {"emitters": {}, "measures": kept}
    assert moved(figures(document), figures(done)) == [
        "/rooms/[]/emitters/[]/action", "/rooms/[]/faces/[]/found", "/rooms/[]/faces/[]/measure",
    ]  # fmt: skip


@pytest.mark.parametrize("name", ["tansy-cut", "counting-house"])
def test_the_same_house_as_far_south_with_its_panes_to_the_north(name):
    """Half a year later and seen in a mirror the sun is the same but for the ellipse of the earth's path (3.3 % in distance, and with it
    the sun's height on a day) and morning for evening: common astronomy."""
    weather = shipped_year(load().climates["mild-maritime"].year_sha256)
    north = HOUSES[name]()
    south = copy.deepcopy(north)
    climate = south["library"]["climates"][south["climate"]["entry"]]["data"]
    climate["latitude_deg"] = -climate["latitude_deg"]
    south["site"]["north_deg"] = south["site"]["north_deg"] + 180
    half = 365 * 24 // 2 // 24 * 24
    later = HourlyYear(**{one.name: np.roll(getattr(weather, one.name), half) for one in dataclasses.fields(weather)})
    one, other = (
        year.judge(job, design(job), hours) for job, hours in ((parse(north), weather), (parse(south), later))
    )
    assert one.sun_kwh > 0.1 * one.heat_kwh
    assert other.sun_kwh == pytest.approx(one.sun_kwh, rel=0.03)
    assert other.heat_kwh == pytest.approx(one.heat_kwh, rel=0.01)
    assert other.loss_kwh == pytest.approx(one.loss_kwh, rel=1e-6)
    assert other.degree_days_kd == pytest.approx(one.degree_days_kd, rel=0.01)
