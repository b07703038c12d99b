"""What is wrong with a walk is saved and becomes a finding with its place; only what depends on it stops."""

import copy

import pytest

from cinder.errors import InvalidJob
from cinder.model import parse
from tests.conftest import judged, tansy_cut


def said(document):
    return [(f.where, f.what + " " + f.why) for f in judged(document).findings]


def changed(change):
    document = copy.deepcopy(tansy_cut())
    change(document["survey"]["rooms"])
    return document


def test_crossing_walls():
    def cross(rooms):
        for n, turn in enumerate((90.0, 90.0, 135.0, 90.0)):
            rooms["kitchen"]["walk"][n]["turn_deg"] = turn
        rooms["kitchen"]["walk"][3]["length_m"] = 9.0
        rooms["kitchen"]["walk"].append({"id": "w5", "length_m": 9.0, "turn_deg": 90.0})

    found = said(changed(cross))
    assert any(where.endswith("kitchen/walk") and "cross each other" in text for where, text in found)


def test_a_walk_that_does_not_close_names_the_likely_wall():
    def longer(rooms):
        rooms["kitchen"]["walk"][1]["length_m"] += 1.0

    found = dict(said(changed(longer)))
    text = found["/survey/rooms/kitchen/walk"]
    assert "misses its start by 1000 mm" in text
    assert "Most likely wall" in text
    assert "1000 mm" in text.split("Most likely")[1]


def test_a_window_outside_its_wall():
    def aside(rooms):
        rooms["kitchen"]["faces"]["w3"]["openings"]["window1"]["offset_m"] = 3.5

    found = said(changed(aside))
    assert any("openings/window1" in where and "reaches past its wall" in text for where, text in found)


def test_rooms_that_overlap():
    def shove(rooms):
        rooms["kitchen"]["position"]["x_m"] -= 1.0

    found = said(changed(shove))
    assert any("Kitchen" in text and "stand in each other" in text for _, text in found)


def test_a_zero_run_is_refused_with_its_place():
    document = tansy_cut()
    document["survey"]["rooms"]["kitchen"]["walk"][0]["length_m"] = 0.0
    with pytest.raises(InvalidJob) as error:
        parse(document)
    assert error.value.problems[0].path == "/survey/rooms/kitchen/walk/0/length_m"


@pytest.mark.parametrize("change", [
    {"slopes": {"s": {"run": "w9"}}}, {"slopes": {"w1": {"run": "w1"}}},
])  # fmt: skip
def test_a_slope_from_no_wall_is_refused(change):
    document = tansy_cut()
    document["survey"]["rooms"]["bed2"] |= change
    with pytest.raises(InvalidJob):
        parse(document)


def test_a_room_whose_slopes_leave_it_nothing_still_designs():
    document = tansy_cut()
    document["survey"]["rooms"]["bed2"]["slopes"] = {
        "a": {"run": "w1", "knee_m": 0.0, "angle_deg": 20.0}, "b": {"run": "w3", "knee_m": 0.0, "angle_deg": 20.0},
    }  # fmt: skip
    room = next(r for r in judged(document).rooms if r.id == "bed2")
    # two slopes of 20 degrees from the floor over 3.8 m: a ridge 0.69 m high
    assert room.volume_m3 == pytest.approx(4.2 * 3.8 * 1.9 * 0.36397 / 2, rel=1e-3)
    assert room.room_emitter_load_w > 0


@pytest.mark.parametrize(
    ("height", "odd"), [(0.25, True), (1.49, True), (1.5, False), (2.4, False), (8.0, False), (25.0, True)]
)
def test_a_height_nobody_builds_is_kept_and_said(height, odd):
    """250 typed for 2.50 is read as millimetres: a room of 0.25 m, whose loss falls with it."""

    def tall(rooms):
        rooms["hall"]["height_m"] = height

    found = [what for where, what in said(changed(tall)) if where == "/survey/rooms/hall/height_m"]
    assert bool(found) == odd
    assert all(f"{height:.2f} m high" in what for what in found)
