"""Every screen opens with one sentence that says the finding, worked out and never canned."""

import copy
import re

import pytest

from cinder.library import load
from cinder.model import empty_job
from tests.conftest import house, judged, oat_store, tansy_cut

SCREENS = {
    "call", "site", "climate", "walk-round", "plan", "rooms", "constructions", "losses", "air", "report", "waterline",
    "emitters", "machine", "hot-water", "pipework", "plant", "materials", "curve", "twin", "correction", "fire-up", "wiring", "practice",
}  # fmt: skip


def bold(text):
    return re.findall(r"\*\*(.+?)\*\*", text)


def with_scheme(**changes):
    document = tansy_cut()
    document["schemes"]["lukewarm"] |= changes
    return judged(document)


@pytest.mark.parametrize(
    "document", [tansy_cut(), house("one-room"), house("sixty-rooms"), empty_job(job_id="x", title="X", library=load())]
)
def test_a_sentence_for_every_screen(document):
    said = judged(document).sentences
    assert set(said) == SCREENS
    for text in said.values():
        assert text.endswith(".")
        assert text.count("**") % 2 == 0
        assert not re.search(r"\bNone\b|\bnan\b|-\d", text), text


def test_rooms_name_the_house_and_the_hungriest_room():
    result = judged(tansy_cut())
    biggest = max(result.rooms, key=lambda room: room.room_emitter_load_w)
    assert bold(result.sentences["rooms"]) == [f"{result.house.loss_w / 1000:.2f} kW", biggest.label]


def test_rooms_say_who_is_left_out():
    document = tansy_cut()
    for key in ("hall", "landing"):
        del document["survey"]["rooms"][key]["height_m"]
    assert "Not counted: **Hall** and **Landing**" in judged(document).sentences["rooms"]


def test_waterline_names_who_holds_it_up_and_what_the_rest_would_do():
    result = judged(tansy_cut())
    names = bold(result.sentences["waterline"])
    needs = sorted((room.needed_flow_c, room.label) for room in result.rooms)
    assert names[0] == needs[-1][1]
    assert names[1] == f"{needs[-1][0]:.1f} °C"
    assert names[2] == f"{needs[-2][0]:.1f} °C"


@pytest.mark.parametrize(
    ("flow", "words"), [(46.0, "1 room** stays short"), (42.0, "rooms** stay short"), (50.0, None)]
)
def test_waterline_counts_the_short(flow, words):
    said = with_scheme(flow_c=flow).sentences["waterline"]
    assert (words in said) if words else ("short" not in said)


def test_machine_says_what_it_does_or_that_there_is_none():
    row = next(row for row in judged(tansy_cut()).machine.rows if row.chosen)
    assert bold(judged(tansy_cut()).sentences["machine"])[:2] == [row.label, f"{row.cover * 100:.0f} %"]
    document = tansy_cut()
    del document["schemes"]["lukewarm"]["chosen"]
    assert "No machine is chosen" in judged(document).sentences["machine"]


def test_pipework_compares_index_and_pump():
    result = judged(tansy_cut())
    said = result.sentences["pipework"]
    assert f"{result.pipework.index_kpa:.1f} kPa" in said
    assert f"the pump has {result.pipework.head_kpa:.1f} kPa" in said
    document = tansy_cut()
    document["survey"]["pipes"] = {}
    document["schemes"]["lukewarm"]["pipes"] = {}
    assert "Enter the primaries" in judged(document).sentences["pipework"]


def test_curve_says_who_is_short_by_how_much():
    said = with_scheme(control={"cold_flow_c": 38.0, "mild_flow_c": 26.0})
    name = next(room.label for room in said.rooms if room.id == said.curve.short_room)
    assert f"**{name}** is {said.curve.short_room_k:.1f} K short" in said.sentences["curve"]


def test_sentences_move_with_the_edit():
    before = judged(tansy_cut()).sentences
    document = copy.deepcopy(tansy_cut())
    document["survey"]["rooms"]["parlour"]["height_m"] = 3.2
    after = judged(document).sentences
    assert {key for key in SCREENS if before[key] != after[key]} >= {
        "rooms",
        "waterline",
        "machine",
        "pipework",
        "curve",
    }


def test_findings_say_where_why_and_what_would_mend_them():
    document = tansy_cut()
    document["schemes"]["lukewarm"] |= {"flow_c": 40.0, "hot_water": {"volume_l": 120.0, "coil_m2": 0.5}}
    del document["survey"]["rooms"]["hall"]["height_m"]
    found = judged(document).findings
    assert len(found) > 8
    order = ["stops", "short", "doubt", "note"]
    assert [f.severity for f in found] == sorted((f.severity for f in found), key=order.index)
    for finding in found:
        assert finding.where.startswith("/")
        assert finding.why.endswith(".")
        assert finding.mend.endswith(".")
        assert "!" not in finding.what + finding.why + finding.mend


def test_water_no_machine_has_is_not_told_to_a_tenth():
    document = house("three-rooms")
    document["survey"]["emitters"]["r-bed"]["spec"] |= {"length_m": 0.02, "height_m": 0.2}
    said = judged(document).sentences["waterline"]
    assert "holds the water at **more than 95 °C**" in said


def test_air_names_the_way_it_was_really_counted():
    document = house("three-rooms")
    plain = judged(document)
    assert plain.sentences["air"].startswith("**Tightness as known, n50/20**")
    document["survey"]["rooms"]["living"]["air"] = {"per_h": 0.8}
    assert "1 of 3 rooms as stated" in judged(document).sentences["air"]
    assert "1 of 3 rooms as stated" in judged(document).schools["Air"]
    for room in document["survey"]["rooms"].values():
        room["air"] = {"per_h": 0.8}
    said = judged(document)
    assert said.sentences["air"].startswith("**Air as stated for every room**")
    assert "n50" not in said.sentences["air"] + said.schools["Air"]


FIGURE = re.compile(r"(?<![\w.,/])[−-]?\d[\d\u2009]*\.\d+(?:\*\*)?(.{0,30})")
UNIT = re.compile(
    r" ?(?:%|(?:°C|kW|W|K|kPa|L|m|m²|kWh|W/m²|W/m²K|W/K|L/h|times|per hour|thousand kelvin hours)\b|(?:to|–|×|→)|\u2009°C)"
)
NONE = ("over the heating season", " over the", "**")
"""A season performance has no unit."""


@pytest.mark.parametrize("name", ["tansy", "oat", "bungalow", "three-rooms", "two-storeys-open"])
def test_every_figure_of_a_text_has_its_unit(name):
    """A figure without one is told to a job in feet as it is, in ours, beside others in theirs."""
    document = {"tansy": tansy_cut, "oat": oat_store}.get(name, lambda: house(name))()
    result = judged(document)
    texts = [*result.sentences.values(), result.first_guess.bill_why]
    texts += [part for one in result.findings for part in (one.what, one.why, one.mend)]
    bare = [
        (text, after)
        for text in texts
        for after in FIGURE.findall(text)
        if not UNIT.match(after) and not after.startswith(NONE) and "n50 " not in text
    ]
    assert bare == []
