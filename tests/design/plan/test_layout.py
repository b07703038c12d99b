"""What lies beyond every face, from where rooms stand. Areas worked out by hand."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from cinder.design.plan.layout import layout
from cinder.design.plan.shape import shape
from cinder.model import Room, Survey


def room(corners, *, height=2.5, at=(0.0, 0.0), storey=None, **more):
    """A room from its corners (clockwise, y up), as a walk with the turns it takes."""
    runs = []
    count = len(corners)
    x0, y0 = corners[0]
    for n in range(count):
        (ax, ay), (bx, by), (cx, cy) = (corners[(n + k) % count] for k in range(3))
        before, after = math.atan2(by - ay, bx - ax), math.atan2(cy - by, cx - bx)
        turn = -math.degrees(math.remainder(after - before, 2 * math.pi))
        runs.append({"id": f"w{n + 1}", "length_m": math.dist((ax, ay), (bx, by)), "turn_deg": turn})
    (ax, ay), (bx, by) = corners[:2]
    rotation = -math.degrees(math.atan2(by - ay, bx - ax))
    place = {"x_m": x0 + at[0], "y_m": y0 + at[1], "rotation_deg": rotation}
    return {
        "walk": runs,
        "height_m": height,
        "position": place,
        "part": "main",
        **({"storey": storey} if storey else {}),
        **more,
    }


def box(x0, y0, x1, y1, **more):
    return room([(x0, y1), (x1, y1), (x1, y0), (x0, y0)], **more)


def laid(rooms, **more):
    survey = {"parts": {"main": {}}, "rooms": rooms, **more}
    return layout(Survey.model_validate(survey))


def areas(result, key, face):
    """Area by what lies beyond: kind, or the room's id."""
    out = {}
    for piece in result.faces[key][face]:
        name = piece.beyond.room or piece.beyond.kind
        out[name] = round(out.get(name, 0.0) + piece.area_m2, 4)
    return out


SPLIT = {
    "a": box(0, 0, 4, 3, storey="g"),
    "b": room([(4.1, 3), (7.1, 3), (8.1, 0), (4.1, 0)], storey="g"),
    "c": box(0, -3.3, 5, -0.3, height=2.6, storey="g", floor_level_m=-0.4),
    "d": box(0, 0, 4, 3, height=2.4, storey="u"),
    "e": box(4.1, 0, 6.1, 3, height=2.4, storey="u"),
}
STOREYS = {"g": {"level_m": 0.0}, "u": {"level_m": 2.7, "pos": 1.0}}


def test_a_split_level_house_that_is_not_square_by_hand():
    """A 4 x 3; B a trapezoid 3 and 4 wide beside it; C 0.4 m lower behind both, 0.3 m of wall between;
    D over A, E over 2 m of B."""
    r = laid(SPLIT, storeys=STOREYS)
    assert areas(r, "a", "w1") == {"outside": 10.0}  # north 4 x 2.5
    assert areas(r, "a", "w2") == {"b": 7.5}  # east 3 x 2.5
    assert areas(r, "a", "w3") == {"c": 8.8, "outside": 1.2}  # C reaches to 2.2 m of A's 2.5
    assert areas(r, "a", "w4") == {"outside": 7.5}
    assert areas(r, "a", "floor") == {"ground": 12.0}
    assert areas(r, "a", "ceiling") == {"d": 12.0}
    assert areas(r, "b", "w2") == {"outside": round(math.sqrt(10) * 2.5, 4)}  # the slanted wall
    assert areas(r, "b", "w3") == {"c": 1.98, "outside": 8.02}  # 0.9 x 2.2; 3.1 x 2.5 + 0.9 x 0.3
    assert areas(r, "b", "floor") == {"ground": 10.5}  # (3 + 4) / 2 x 3
    assert areas(r, "b", "ceiling") == {"e": 6.0, "outside": 4.5}  # partly ceiling, partly roof
    # C's wall to the house: A 4 x 2.2, B 0.9 x 2.2, the end of the wall between them 0.1 x 2.6,
    # and 0.4 m of earth under both floors, 4.9 x 0.4
    assert areas(r, "c", "w1") == {"a": 8.8, "b": 1.98, "heated": 0.26, "ground": 1.96}
    assert areas(r, "c", "ceiling") == {"outside": 15.0}
    assert areas(r, "d", "floor") == {"a": 12.0}
    assert areas(r, "d", "w2") == {"e": 7.2}
    assert areas(r, "e", "floor") == {"b": 6.0}


def test_the_slab_as_a_whole_by_hand():
    from cinder.design import design
    from cinder.model import parse
    from tests.conftest import house

    document = house("one-room")
    document["survey"] |= {"rooms": SPLIT, "storeys": STOREYS, "emitters": {}, "pipes": {}}
    document["schemes"], document["active_scheme"] = {}, None
    result = design(parse(document))
    level, low = result.house.slabs  # C stands 0.4 m lower: a build of its own, on the B' of the whole floor
    # outside edge: A 4 + 3, B 3 + sqrt(10) + 3.1, C 3 + 5 + 3
    edge = 4 + 3 + 3 + math.sqrt(10) + 3.1 + 11
    assert (level.area_m2, low.area_m2) == (pytest.approx(12 + 10.5), pytest.approx(15.0))
    assert low.depth_m == pytest.approx(0.4)
    for slab in (level, low):
        assert slab.whole_m2 == pytest.approx(37.5)
        assert slab.whole_perimeter_m == pytest.approx(edge)
        assert slab.characteristic_m == pytest.approx(37.5 / (0.5 * edge))


def test_a_bedroom_partly_over_an_open_porch():
    r = laid({"hall": box(0, 0, 3, 4, storey="g"), "bed": box(0, 0, 3, 6, storey="u")}, storeys=STOREYS)
    assert areas(r, "bed", "floor") == {"hall": 12.0, "outside": 6.0}


def test_a_loft_lies_over_what_nothing_covers():
    r = laid({"hall": box(0, 0, 3, 4)}, parts={"main": {"loft": "loft"}}, spaces={"loft": {}})
    assert areas(r, "hall", "ceiling") == {"space": 12.0}


def test_a_cellar_stands_in_the_ground():
    r = laid({"cellar": box(0, 0, 3, 4, height=2.2, floor_level_m=-2.0), "over": box(0, 0, 3, 4, floor_level_m=0.4)})
    assert areas(r, "cellar", "w1") == {"ground": 6.0, "outside": 0.6}
    assert areas(r, "cellar", "ceiling") == {"over": 12.0}
    assert areas(r, "over", "floor") == {"cellar": 12.0}


def test_a_room_over_two_storeys_touches_both_and_the_floor_between_is_no_outside():
    rooms = {
        "tall": box(0, 0, 3, 4, height=5.1, storey="g"),
        "low": box(3.1, 0, 6, 4, storey="g"),
        "high": box(3.1, 0, 6, 4, height=2.4, storey="u"),
    }
    r = laid(rooms, storeys=STOREYS)
    # 4 m of wall: 2.5 against the lower room, 0.2 of floor, 2.4 against the upper
    assert areas(r, "tall", "w2") == {"low": 10.0, "heated": 0.8, "high": 9.6}


def test_what_somebody_says_goes_before_what_is_derived():
    stated = {"w2": {"spans": {"s": {"from_m": 0.0, "to_m": 1.0, "beyond": {"kind": "neighbour", "neighbour": "n"}}}}}
    rooms = {"a": box(0, 0, 4, 3, faces=stated), "b": box(4.1, 0, 8, 3)}
    r = laid(rooms, neighbours={"n": {}})
    assert areas(r, "a", "w2") == {"neighbour": 2.5, "b": 5.0}
    assert {p.how for p in r.faces["a"]["w2"]} == {"stated", "derived"}


def test_a_room_without_a_place_is_assumed_outside_and_says_so():
    plain = box(0, 0, 4, 3)
    del plain["position"]
    r = laid({"a": plain, "b": box(4.1, 0, 8, 3)})
    assert {p.how for face in r.faces["a"].values() for p in face} == {"assumed"}
    assert areas(r, "b", "w4") == {"outside": 7.5}


def test_rooms_that_stand_in_each_other_are_named():
    r = laid({"a": box(0, 0, 4, 3), "b": box(3, 0, 8, 3)})
    assert r.meetings == [("a", "b", pytest.approx(3.0))]


def test_a_room_in_the_roof_by_hand():
    """5 m wide between knee walls of 1.0 m, 4 m deep, 2.4 m high, both sides sloping at 45 degrees.

    Each slope covers 1.4 m of floor, so flat 2.2 x 4 = 8.8; sloping 1.4 x sqrt 2 x 4 each; gables
    5 x 2.4 less two triangles of 1.4 x 1.4 / 2; volume 5 x 4 x 2.4 less two prisms."""
    slopes = {
        "s1": {"run": "w2", "knee_m": 1.0, "angle_deg": 45.0},
        "s2": {"run": "w4", "knee_m": 1.0, "angle_deg": 45.0},
    }
    body = shape("r", Room.model_validate(box(0, 0, 5, 4, height=2.4, slopes=slopes)), level_m=2.7)
    assert body.flat.area == pytest.approx(8.8)
    assert body.slope_area_m2("s1") == pytest.approx(1.4 * math.sqrt(2) * 4)
    gable = 5 * 2.4 - 1.4**2
    wall = {w.id: body.wall_area_m2(w, 0, w.length_m, 0, 2.4) for w in body.walls}
    assert wall == pytest.approx({"w1": gable, "w3": gable, "w2": 4.0, "w4": 4.0})
    assert body.volume_m3 == pytest.approx(gable * 4)


def test_a_slope_on_a_wall_round_an_inner_corner_covers_what_lies_before_it():
    """An L of 5 x 4 m without its 2 x 2 corner in the north-east; a roof rises from the wall that runs south there, at 45
    degrees from 1 m. It covers the 3 m west of it up to the level ceiling of 2.4 m, 1.4 m deep over the whole 4 m; the leg
    east of it, behind the wall's line, keeps its level ceiling. Behind the line it used to fall below the floor."""
    corners = [(0, 4), (3, 4), (3, 2), (5, 2), (5, 0), (0, 0)]
    slopes = {"s": {"run": "w2", "knee_m": 1.0, "angle_deg": 45.0}}
    body = shape("r", Room.model_validate(room(corners, height=2.4, slopes=slopes)), level_m=0.0)
    assert body.slope_parts["s"].area == pytest.approx(1.4 * 4)
    assert body.flat.area == pytest.approx(16 - 5.6)
    assert body.volume_m3 == pytest.approx((16 - 5.6) * 2.4 + 5.6 * (1.0 + 2.4) / 2, rel=1e-6)
    assert body.ceiling_at((4.5, 1.0)) == 2.4
    assert body.ceiling_at((2.9, 3.0)) == pytest.approx(1.1)
    # the south wall: 1.6 m level, 1.4 m falling to 1 m, 2 m level again beyond the line
    south = body.walls[4]
    assert body.wall_area_m2(south, 0.0, 5.0, 0.0, 2.4) == pytest.approx(1.6 * 2.4 + 1.4 * 1.7 + 2.0 * 2.4, abs=1e-3)


def test_slopes_that_meet_below_the_flat_ceiling_share_the_ridge():
    slopes = {
        "s1": {"run": "w2", "knee_m": 1.0, "angle_deg": 30.0},
        "s2": {"run": "w4", "knee_m": 1.0, "angle_deg": 30.0},
    }
    body = shape("r", Room.model_validate(box(0, 0, 4, 3, height=3.0, slopes=slopes)), level_m=0.0)
    ridge = 1.0 + 2.0 * math.tan(math.radians(30))  # 2.155 m, below 3 m
    assert body.flat.area == pytest.approx(0.0, abs=1e-6)
    assert body.volume_m3 == pytest.approx((1.0 + ridge) / 2 * 4 * 3)


def test_a_stairwell_is_open():
    rooms = {
        "hall": box(
            0,
            0,
            2,
            4,
            storey="g",
            voids={"v": {"face": "ceiling", "x_m": 0.5, "y_m": -1.0, "width_m": 1.0, "length_m": 2.5}},
        ),
        "landing": box(
            0,
            0,
            2,
            4,
            storey="u",
            voids={"v": {"face": "floor", "x_m": 0.5, "y_m": -1.0, "width_m": 1.0, "length_m": 2.5}},
        ),
    }
    r = laid(rooms, storeys=STOREYS)
    assert areas(r, "hall", "ceiling") == {"heated": 2.5, "landing": 5.5}
    assert areas(r, "landing", "floor") == {"heated": 2.5, "hall": 5.5}


# ---- laws that any house keeps


@st.composite
def houses(draw):
    """Rooms in rows on one or two storeys with walls of 0.05 to 0.5 m between, some turned, some not square."""
    turn = draw(st.sampled_from([0.0, 0.0, 17.0, 45.0]))
    rooms = {}
    for storey in range(draw(st.integers(1, 2))):
        y = 0.0
        for row in range(draw(st.integers(1, 3))):
            x, depth = 0.0, draw(st.floats(1.5, 5.0))
            for column in range(draw(st.integers(1, 3))):
                width, lean = draw(st.floats(1.0, 6.0)), draw(st.sampled_from([0.0, 0.0, 0.4, -0.4]))
                corners = [(x, y), (x + width, y), (x + width + lean, y - depth), (x, y - depth)]
                rooms[f"r{storey}{row}{column}"] = (storey, corners, draw(st.floats(2.0, 3.0)))
                x += width + max(lean, 0.0) + draw(st.floats(0.05, 0.5))
            y -= depth + draw(st.floats(0.05, 0.5))
    c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    return {
        key: room([(px * c - py * s, px * s + py * c) for px, py in corners], height=height, storey=("g", "u")[storey])
        for key, (storey, corners, height) in rooms.items()
    }


def perimeter(room):
    return sum(run["length_m"] for run in room["walk"])


@settings(max_examples=60)
@given(houses())
def test_faces_add_up_are_never_negative_and_are_shared_once_from_each_side(rooms):
    r = laid(rooms, storeys=STOREYS)
    shared = {}
    for key, faces in r.faces.items():
        body = r.shapes[key]
        for face, pieces in faces.items():
            assert all(p.area_m2 >= 0 for p in pieces)
            total = sum(p.area_m2 for p in pieces)
            if face in ("floor", "ceiling"):
                assert total == pytest.approx(body.polygon.area, abs=1e-6)
            for p in pieces:
                if p.beyond.kind == "room":
                    kind = "level" if face in ("floor", "ceiling") else "wall"
                    pair = (key, p.beyond.room, kind)
                    shared[pair] = shared.get(pair, 0.0) + p.area_m2
        walls = sum(p.area_m2 for face, pieces in faces.items() if face.startswith("w") for p in pieces)
        assert walls == pytest.approx(perimeter(rooms[key]) * rooms[key]["height_m"], abs=1e-6)
    for (one, other, kind), area in shared.items():
        assert shared.get((other, one, kind), 0.0) == pytest.approx(area, rel=0.01, abs=0.02)


@settings(max_examples=30)
@given(houses(), st.floats(-3.0, 3.0), st.floats(-3.0, 3.0))
def test_moving_a_room_and_moving_it_back_changes_nothing(rooms, dx, dy):
    first = next(iter(rooms.values()))
    before = laid(rooms, storeys=STOREYS)
    place = first["position"]
    kept = dict(place)
    place["x_m"] += dx
    place["y_m"] += dy
    laid(rooms, storeys=STOREYS)
    first["position"] = kept
    after = laid(rooms, storeys=STOREYS)
    assert before.faces == after.faces
