"""Switching a school moves only the figures that docs/methods.md names for it."""

import re
from pathlib import Path

import pytest

from cinder.design import design, year
from cinder.design.findings import Findings
from cinder.design.house.view import view
from cinder.design.losses.assemble import of_house
from cinder.design.year.decide import year_loss
from cinder.library import load, shipped_year
from cinder.model import parse
from tests.conftest import tansy_cut

METHODS = (Path(__file__).parents[2] / "docs" / "methods.md").read_text()
SWITCHES = {
    "Air": {"air": "table"},
    "Windward room": {"windward_factor": 2.0},
    "Least air": {"hygienic_minimum": "off"},
    "Thin air": {"thin_air": "sea_level"},
    "Ground": {"ground": "full_difference"},
    "Neighbour's home": {"neighbour": "cold"},
    "Room temperatures": {"room_temperature": "one", "one_temperature_c": 20.0},
    "Thermal bridges": {"bridges": "list"},
    "Excess temperature": {"excess": "arithmetic"},
    "Emitter spread": {"spread_k": 8.0},
    "Heated floors": {"heated_floor": "conduction"},
    "Gains of the season": {"gains_w_per_m2": 4.0},
    "Cold end of the curve": {"cold_end": "waterline"},
    "Gains of the curve": {"curve_gains_w_per_m2": 5.0},
    "Gains of the year": {"year_gains": "none"},
    "Additions": {"exposed_share": 0.05},
    "Noise": {"noise": "alone"},
}


def documented():
    """School -> figures it moves by itself, from the table under its heading."""
    table = METHODS.split("## What each school moves")[1].split("\n## ")[0]
    rows = re.findall(r"^\| ([^|]+) \| ([^|]+) \|$", table, re.MULTILINE)[1:]
    return {name.strip(): {figure.strip() for figure in figures.split(";")} for name, figures in rows}


def figures(practice):
    """Every figure a school could move by itself, each from its own part of the Design."""
    document = tansy_cut()
    document["survey"]["neighbours"] = {"next": {"label": "Next door", "temperature_c": 10.0}}
    document["survey"]["rooms"]["kitchen"]["faces"].setdefault("w2", {}).setdefault("spans", {})["all"] = {
        "beyond": {"kind": "neighbour", "neighbour": "next"}
    }
    document["survey"]["emitters"]["r-hall"]["spec"] = {"kind": "stated", "output_w": 700.0, "excess_k": 30.0}
    document["site"]["altitude_m"] = 1500.0  # else the air is as dense by either school
    document["practice"] = document.get("practice", {}) | practice
    job = parse(document)
    result = design(job)
    rooms = {room.id: room for room in result.rooms}
    weather = shipped_year(load().climates["mild-maritime"].year_sha256)
    through = year.judge(job, result, weather)
    party = next(p for f in rooms["kitchen"].faces for p in f.pieces if p.beyond == "neighbour")
    outer = [p for room in result.rooms for f in room.faces for p in f.pieces if p.beyond == "outside"]
    house, house_view = result.house, view(job, Findings())
    arrays = of_house(house_view, Findings())
    emitters = [e for room in result.rooms for e in room.emitters]
    rated = [e.rated_w for e in emitters if e.heated is None]
    floors = [e.heated.k_w_m2k for e in emitters if e.heated is not None]
    lost = sum(
        v or 0 for v in (house.fabric_w, house.ground_w, house.bridges_w, house.air_w, house.extras_w, house.down_w)
    )
    assert lost == pytest.approx(house.loss_w)
    return {
        "room temperatures": [room.target_c for room in result.rooms],
        "U-values": [p.u_w_m2k for p in outer],
        "ground": [p.loss_w for room in result.rooms for f in room.faces for p in f.pieces if p.beyond == "ground"],
        "bridges": house.bridges_w,
        "neighbour at the emitter": party.loss_w,
        "neighbour in the house": house.fabric_w,
        "house air": house.air_w,
        "emitter air": [room.air_w for room in result.rooms],
        "additions": house.extras_w,
        "emitter ratings": rated,
        "floor characteristics": floors,
        "emitter flows": [
            sum(e.flow_lph or 0 for e in room.emitters) / (room.room_emitter_load_w + room.down_w)
            for room in result.rooms
        ],
        "excess temperature": [
            (room.needed_flow_c - room.target_c) / room.room_emitter_load_w ** (1 / 1.3) if room.needed_flow_c else None
            for room in result.rooms
        ],
        "season gains": year_loss(house_view, arrays).loss_w(result.machine.outdoor_c[0])
        - result.machine.season_load_w[0],
        "curve need": result.curve.cold_need_c,
        "curve's cold end": result.curve.cold_flow_c,
        "noise limit": [heard.limit_db for place in result.places.places for heard in place.heard],
        "year gains": [through.people_kwh, sum(glass.sun_kwh for glass in through.glass)],
    }


@pytest.fixture(scope="module")
def plain():
    return figures({})


def same(a, b):
    return a == pytest.approx(b, rel=1e-9, abs=1e-9)


# figures that follow from others, and which: moved along, they are no sign of the school itself
WARMTH = {"room temperatures"}
LOADS = {"ground", "bridges", "emitter air", "additions", "neighbour at the emitter"}
RATINGS = {"emitter ratings", "emitter flows", "excess temperature", "floor characteristics"}
FOLLOWS = {
    "ground": WARMTH, "bridges": WARMTH, "house air": WARMTH, "emitter air": WARMTH, "neighbour at the emitter": WARMTH,
    "neighbour in the house": WARMTH, "additions": {"house air"},
    "excess temperature": WARMTH | LOADS | {"emitter flows", "floor characteristics"},
    "curve need": WARMTH | LOADS | RATINGS, "curve's cold end": WARMTH | LOADS | RATINGS | {"curve need"},
}  # fmt: skip


def test_every_school_of_the_practice_is_documented():
    assert set(documented()) == set(SWITCHES)


@pytest.mark.parametrize("school", SWITCHES)
def test_a_school_moves_only_what_its_documentation_names(school, plain):
    named = documented()[school]
    assert named <= set(plain), "the documentation names a figure nobody looks at"
    now = figures(SWITCHES[school])
    moved = {name for name in plain if not same(now[name], plain[name])}
    assert named <= moved, f"named but still: {named - moved}"
    stray = {name for name in moved - named if not FOLLOWS.get(name, set()) & moved}
    assert stray == set()
