"""Houses nobody thought of: whatever is typed in, the chain keeps its laws."""

import copy
import json
import math

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from cinder.design import design, effect
from cinder.exchange.jobs.starter import start_job
from cinder.library import load
from cinder.model import freeze, parse

LIBRARY = load()
USES = sorted(LIBRARY.tables["standard"].room_uses)
AGES = sorted(LIBRARY.tables["standard"].ages)
TYPES = sorted(LIBRARY.emitter_types)
WINDOWS = [key for key, entry in LIBRARY.constructions.items() if entry.element == "window"]
maybe = st.one_of


@st.composite
def house(draw):
    """One to seven rooms of any size, some half known, beside each other or outside, with radiators and pipes."""
    document = start_job(
        job_id="random", title="Random", age=draw(st.sampled_from(AGES)), climate=draw(st.sampled_from(sorted(LIBRARY.climates))),
        library=LIBRARY,
    )  # fmt: skip
    survey, library = document["survey"], document["library"]
    library["emitter_types"] = {key: freeze(LIBRARY.emitter_types[key]) for key in TYPES}
    library["pipe_families"] = {"copper": freeze(LIBRARY.pipe_families["copper"])}
    library["machines"] = {"sedge-9": freeze(LIBRARY.machines["sedge-9"])}
    library["constructions"] |= {key: freeze(LIBRARY.constructions[key]) for key in WINDOWS}
    count = draw(st.integers(1, 7))
    names = [f"r{n}" for n in range(count)]
    length = st.floats(0.6, 12.0)
    if draw(st.booleans()):
        survey["pipes"]["main"] = {"family": "copper", "size": "28", "length_m": draw(length)}
    for name in names:
        others = [other for other in names if other != name]
        kinds = ["outside", "heated", "space"] + (["room"] if others else [])
        width, depth = draw(length), draw(length)

        def beyond(kinds=kinds, others=others):
            kind = draw(st.sampled_from(kinds))
            extra = (
                {"room": draw(st.sampled_from(others))}
                if kind == "room"
                else {"space": "loft"}
                if kind == "space"
                else {}
            )
            return {"spans": {"all": {"beyond": {"kind": kind, **extra}}}, "openings": {}}

        faces = {f"w{n}": beyond() for n in range(1, 5)}
        faces["floor"] = {
            "spans": {"all": {"beyond": {"kind": draw(st.sampled_from(["ground", "heated", "outside"]))}}}
        }
        faces["ceiling"] = beyond(["outside", "space", "heated"])
        if draw(st.booleans()):
            opening = {"width_m": draw(st.floats(0.3, 4.0)), "height_m": draw(st.floats(0.3, 2.5))}
            faces["w1"]["openings"]["o"] = opening | {"construction": draw(st.sampled_from(WINDOWS))}
        room = {"label": name, "use": draw(st.sampled_from(USES)), "faces": faces, "part": "main"}
        room["walk"] = [{"id": f"w{n + 1}", "length_m": run} for n, run in enumerate((width, depth, width, depth))]
        if draw(st.integers(0, 9)):
            room["height_m"] = draw(st.floats(1.8, 6.0))
        survey["rooms"][name] = room
        for n in range(draw(st.integers(0, 2))):
            spec = {
                "type": draw(st.sampled_from(TYPES)),
                "length_m": draw(st.floats(0.3, 3.0)),
                "height_m": draw(st.floats(0.2, 1.8)),
            }
            survey["emitters"][f"{name}e{n}"] = {"room": name, "spec": spec}
            if "main" in survey["pipes"]:
                run = {
                    "parent": "main",
                    "emitter": f"{name}e{n}",
                    "family": "copper",
                    "size": "15",
                    "length_m": draw(length),
                }
                survey["pipes"][f"p{name}e{n}"] = run
    document["schemes"]["proposal"] |= {"candidates": {"c": {"machine": "sedge-9"}}, "chosen": "c"}
    return document


def finite(value, path=""):
    if isinstance(value, float):
        assert math.isfinite(value), path
    elif isinstance(value, dict):
        for key, item in value.items():
            finite(item, f"{path}/{key}")
    elif isinstance(value, list):
        for n, item in enumerate(value):
            finite(item, f"{path}/{n}")


slow = settings(max_examples=60, suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large])


@slow
@given(house())
def test_every_figure_is_finite_and_the_house_is_the_sum_of_its_rooms(document):
    result = design(parse(document))
    finite(result.model_dump())
    json.dumps(result.model_dump(), allow_nan=False)
    shares = [room.room_share_of_house_w for room in result.rooms if room.room_share_of_house_w is not None]
    if shares:
        h = result.house
        assert math.isclose(h.loss_w, sum(shares), rel_tol=1e-9, abs_tol=1e-6)
        assert math.isclose(h.loss_w, h.fabric_w + h.ground_w + h.bridges_w + h.air_w, rel_tol=1e-6, abs_tol=1e-3)
    for room in result.rooms:
        if room.room_emitter_load_w is not None:
            parts = room.fabric_w + room.ground_w + room.bridges_w + room.air_w + room.trade_w
            assert math.isclose(room.room_emitter_load_w, parts, rel_tol=1e-6, abs_tol=1e-3)


@slow
@given(house())
def test_pure_the_same_job_gives_the_same_design(document):
    assert design(parse(copy.deepcopy(document))) == design(parse(document))


@slow
@given(house(), st.floats(0.5, 15.0))
def test_colder_outside_never_loses_less(document, colder):
    base = design(parse(document))
    document["climate"]["design_c"] = base.house.outdoor_c - colder
    other = design(parse(document))
    if base.house.loss_w is not None:
        assert other.house.loss_w >= base.house.loss_w - 1e-9


@slow
@given(house())
def test_triple_glazing_never_loses_more_than_single(document):
    before, after = copy.deepcopy(document), copy.deepcopy(document)
    for copy_, glazing in ((before, "window-single-wood"), (after, "window-triple")):
        for room in copy_["survey"]["rooms"].values():
            for face in room["faces"].values():
                for opening in face.get("openings", {}).values():
                    opening["construction"] = glazing
    a, b = design(parse(before)), design(parse(after))
    if a.house.loss_w is not None:
        assert b.house.loss_w <= a.house.loss_w + 1e-9
    moves = effect(a, b)
    back = effect(b, a)
    assert set(moves.headline) == set(back.headline)
    for key, move in moves.headline.items():
        assert (move.before, move.after) == (back.headline[key].after, back.headline[key].before)


@slow
@given(house())
def test_needed_water_meets_the_load(document):
    """The outputs at the water a room needs sum to its load, and every flow carries its share."""
    for room in design(parse(document)).rooms:
        if room.needed_flow_c is None or not room.room_emitter_load_w or room.room_emitter_load_w <= 0:
            continue
        outputs = [e.output_w for e in room.emitters if e.output_w is not None]
        assert math.isclose(sum(outputs), room.room_emitter_load_w, rel_tol=1e-6)
        assert math.isclose(sum(e.share for e in room.emitters if e.share is not None), 1.0, rel_tol=1e-9)
        assert room.needed_flow_c > room.target_c
