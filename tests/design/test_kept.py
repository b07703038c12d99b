"""A kept chain gives what a fresh one gives, whatever was edited before: over long rows of edits, undos, schemes and schools."""

import copy
import random

import pytest

from cinder.design import design
from cinder.design.kept import Kept, same, to_the_letter
from cinder.design.machine import place
from cinder.design.plan import layout
from cinder.errors import CinderError
from cinder.model import parse
from tests.conftest import house, oat_store, tansy_cut
from tests.fuzz.mutate import spoilt

HOUSES = {"tansy-cut": tansy_cut, "oat-store": oat_store, "three-rooms": lambda: house("three-rooms"),
          "two-storeys-open": lambda: house("two-storeys-open"), "bungalow": lambda: house("bungalow")}  # fmt: skip
SCHOOLS = {
    "air": ("tightness", "age", "room", "table"), "ground": ("annual_mean", "full_difference"),
    "neighbour": ("cold_for_emitter", "adiabatic", "cold"), "bridges": ("default", "list"), "excess": ("logarithmic", "arithmetic"),
    "room_temperature": ("by_use", "one"), "heated_floor": ("standard", "conduction"), "cold_end": ("settled", "waterline"),
    "hygienic_minimum": ("habitable", "off"), "curve_gains_w_per_m2": (0.0, 2.0), "reheat_w_per_m2": (0.0, 10.0),
    "thin_air": ("counted", "sea_level"),
}  # fmt: skip
ROW = 45


def by_hand(document, rng):
    """One thing an engineer does, taken at random."""
    document = copy.deepcopy(document)
    rooms = document["survey"]["rooms"]
    room = rooms[rng.choice(list(rooms))]
    what = rng.randrange(10)
    if what == 0:
        room["height_m"] = round(rng.uniform(2.2, 3.1), 2)
    elif what == 1 and room.get("walk"):
        room["walk"][rng.randrange(len(room["walk"]))]["length_m"] = round(rng.uniform(1.5, 6.0), 2)
    elif what == 2:
        openings = [o for face in room.get("faces", {}).values() for o in face.get("openings", {}).values()]
        if openings:
            rng.choice(openings)["width_m"] = round(rng.uniform(0.4, 2.0), 2)
    elif what == 3:
        emitters = document["survey"]["emitters"]
        if emitters:
            emitters[rng.choice(list(emitters))]["spec"]["length_m"] = round(rng.uniform(0.4, 2.0), 1)
    elif what == 4:
        school = rng.choice(list(SCHOOLS))
        document.setdefault("practice", {})[school] = rng.choice(SCHOOLS[school])
    elif what == 5:
        document["active_scheme"] = rng.choice([None, *document.get("schemes", {})])
    elif what == 6:
        room["target_c"] = rng.choice([None, 18.0, 20.0, 22.0])
    elif what == 7:
        room["label"] = f"Room {rng.randrange(1000)}"
    elif what == 8:
        document.setdefault("site", {})["altitude_m"] = rng.choice([None, 40.0, 700.0, 1900.0])
    elif document.get("schemes"):
        scheme = rng.choice(list(document["schemes"].values()))
        scheme["flow_c"] = rng.choice([None, 38.0, 45.0, 52.0])
    return document


@pytest.mark.parametrize("name", HOUSES)
def test_over_long_rows_of_edits_it_is_what_a_fresh_chain_gives(name):
    rng = random.Random(name)
    document, kept, before, made = HOUSES[name](), Kept(), [], 0
    while made < ROW:
        how = rng.random()
        # a quarter are taken back, a quarter spoil something, the rest is what engineers do
        changed = (
            before.pop()
            if before and how < 0.25
            else spoilt(document, rng)[0]
            if how > 0.75
            else by_hand(document, rng)
        )
        try:
            job = parse(copy.deepcopy(changed))
        except CinderError:
            continue
        assert design(job, kept).model_dump() == design(job).model_dump()
        before = [*before[-5:], document]
        document, made = changed, made + 1


def test_what_an_edit_does_not_reach_is_the_same_object():
    document, kept = tansy_cut(), Kept()
    first = design(parse(document), kept)
    opening = document["survey"]["rooms"]["bath"]["faces"]
    face = next(face for face in opening.values() if face.get("openings"))
    next(iter(face["openings"].values()))["width_m"] = 0.77
    second = design(parse(document), kept)
    moved = {a.id for a, b in zip(first.rooms, second.rooms, strict=True) if a is not b}
    assert "bath" in moved
    assert len(moved) < len(first.rooms)
    assert second.house != first.house


def test_it_forgets_what_is_gone():
    document, kept = house("three-rooms"), Kept()
    design(parse(document), kept)
    whole = kept.held()
    for part in ("emitters", "pipes"):
        document["survey"][part] = {}
    document["schemes"], document["active_scheme"] = {}, None
    for _ in range(60):
        design(parse(document), kept)
    assert kept.held() < whole


def test_needs_are_the_same_to_the_letter():
    one = object()
    assert same((one, 1, "a", (2.0, None)), (one, 1, "a", (2.0, None)))
    assert not same((object(),), (object(),))
    assert not same((1,), (1.0,))
    assert not same((True,), (1,))
    assert not same((0.0,), (-0.0,))
    assert not same((1, 2), (1,))
    assert not same((float("nan"),), (float("nan"),))
    assert to_the_letter([0.0]) != to_the_letter([-0.0])
    assert to_the_letter([1]) != to_the_letter([1.0])


def test_a_room_made_higher_is_looked_at_again_by_what_it_meets_alone(monkeypatch):
    """Its own faces, those beside it and those above; not the outlines, which stay, nor the rooms at the other end."""
    looked, laid = [], []
    faces, cover = layout._faces, layout.cover
    monkeypatch.setattr(layout, "_faces", lambda room, *more: looked.append(room.label) or faces(room, *more))
    monkeypatch.setattr(layout, "cover", lambda *areas: laid.append(areas) or cover(*areas))
    document, kept = tansy_cut(), Kept()
    design(parse(document), kept)
    assert len(looked) == len(document["survey"]["rooms"])
    looked.clear(), laid.clear()
    higher = copy.deepcopy(document)
    higher["survey"]["rooms"]["scullery"]["height_m"] += 0.01
    design(parse(higher), kept)
    assert document["survey"]["rooms"]["scullery"]["label"] in looked
    assert len(looked) < len(document["survey"]["rooms"])
    assert not laid


def test_places_are_looked_at_again_where_the_house_stands_on_other_ground(monkeypatch):
    judged = []
    one = place._place
    monkeypatch.setattr(place, "_place", lambda house, *more: judged.append(1) or one(house, *more))
    document, kept = tansy_cut(), Kept()
    design(parse(document), kept)
    assert judged
    judged.clear()
    document["survey"]["rooms"]["scullery"]["height_m"] += 0.01
    design(parse(document), kept)
    assert not judged
    document["survey"]["rooms"]["scullery"]["walk"][0]["length_m"] += 0.2
    design(parse(document), kept)
    assert judged
