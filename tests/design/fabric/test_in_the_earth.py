"""Rooms that stand in the earth, floors of several builds, windows above the ground: by hand from ISO 13370 (from memory)."""

import math
from itertools import pairwise

import pytest

from cinder.exchange.jobs import brief
from tests.conftest import judged
from tests.design.fabric.test_below_and_beside import frozen, what

T_YEAR, T_OUT = 10.2, -5.0
LAMBDA = 2.0
R_WALL = 0.013 / 0.57 + 0.22 / 0.77
D_W = LAMBDA * (0.13 + R_WALL + 0.04)
W = 0.233
HEAD = """
id = "deep"
title = "Deep"
climate = "mild-maritime"
design_c = -5.0
[practice]
hygienic_minimum = "off"
[tightness]
n50_per_h = 10.0
[parts.main]
constructions = { wall = "wall-brick-one", inner_wall = "wall-inner-stud", roof = "roof-flat-120", ground = "ground-slab-bare", floor = "floor-upper", window = "window-double-old" }
"""  # noqa: E501


def room(key, level, size, at=(0.0, 0.0), more=""):
    return f"""
[storeys.{key}]
level_m = {level}
[rooms.{key}]
use = "living"
storey = "{key}"
size = {list(size)}
at = {list(at)}
{more}
"""


def designed(*rooms):
    return judged(brief.document((HEAD + "".join(rooms)).encode()))


def wall_u(from_m, to_m, dt):
    """Mean U of a band of wall in the earth: what a wall down to its foot loses more than one down to its head."""
    least = min(dt, D_W)

    def flow(z):
        return 2 * LAMBDA / math.pi * (1 + 0.5 * least / (least + z)) * math.log(z / D_W + 1)

    return (flow(to_m) - flow(from_m)) / (to_m - from_m)


def floor_u(area, edge, dt, deep):
    b, low = area / (edge / 2), dt + deep / 2
    return 2 * LAMBDA / (math.pi * b + low) * math.log(math.pi * b / low + 1) if low < b else LAMBDA / (0.457 * b + low)


DT_BARE = W + LAMBDA * (0.17 + 0.05 / 1.15 + 0.04)


def test_walls_of_a_cellar_under_a_cellar_by_hand():
    """6 x 5 m, floors at -2.4 and -4.8 m: the upper walls lose by the first 2.4 m of earth, the lower ones by what is
    deeper. By the plain U in earth the upper ones would lose two and a half times as much."""
    result = designed(room("low", -4.8, (6.0, 5.0, 2.4)), room("high", -2.4, (6.0, 5.0, 2.4)))
    rooms = {r.id: r for r in result.rooms}
    low = next(f for f in rooms["low"].faces if f.kind == "wall")
    high = next(f for f in rooms["high"].faces if f.kind == "wall")
    assert low.u_w_m2k == pytest.approx(wall_u(2.4, 4.8, DT_BARE), rel=1e-6)
    assert high.u_w_m2k == pytest.approx(wall_u(0.0, 2.4, DT_BARE), rel=1e-6)
    assert high.u_w_m2k < 0.45 * (1 / (0.13 + R_WALL + 0.04))
    floor = next(f for f in rooms["low"].faces if f.kind == "floor")
    assert floor.u_w_m2k == pytest.approx(floor_u(30.0, 22.0, DT_BARE, 4.8), rel=1e-6)
    # both storeys together lose through their walls what one wall of 4.8 m would
    both = 22.0 * 2.4 * (low.u_w_m2k + high.u_w_m2k)
    assert both == pytest.approx(22.0 * 4.8 * wall_u(0.0, 4.8, DT_BARE), rel=1e-6)


def test_a_house_sinks_into_the_ground_without_a_step():
    """Every millimetre deeper changes the loss by a little (a strip of 28 m turns from wind to earth: over 1 kW a metre),
    never by a jump: at 0, at -1 m, anywhere between. Plans lie on a grid of 1 mm."""
    levels = [0.5, 0.01, 0.001, 0.0, -0.001, -0.002, -0.01, -0.3, -0.499, -0.5, -0.501, -0.99, -1.0, -1.01, -1.9]
    losses = [designed(room("hut", level, (8.0, 6.0, 2.5))).house.loss_w for level in levels]
    for (a, b), (one, two) in zip(pairwise(levels), pairwise(losses), strict=True):
        assert abs(one - two) <= 1600.0 * (abs(a - b) + 0.001), (a, b, one, two)
    assert losses[-1] < losses[0]


def test_a_window_in_a_half_buried_wall_looks_out_of_the_ground():
    """1.3 x 2.0 m in a wall whose lower 1.5 m stand in the earth: U 2.828 and a bridge of 0.10, 26 K: 198 W; and the wall
    above the ground loses its area."""
    window = "windows = [{ wall = 1, size = [2.0, 1.3] }]"
    with_it, without = (designed(room("den", -1.5, (5.0, 4.0, 2.6), more=more)).rooms[0] for more in (window, ""))
    (opening,) = with_it.faces[0].openings
    u = 0.72 * 3.1 + 0.28 * 1.8 + 2.3 * 0.04
    assert opening.u_w_m2k == pytest.approx(u)
    assert opening.loss_w == pytest.approx(2.6 * (u + 0.10) * 26.0)
    now, then = ({p.beyond: p for p in r.faces[0].pieces} for r in (with_it, without))
    assert now["outside"].net_m2 == pytest.approx(5.0 * 1.1 - 2.6)
    assert now["ground"].net_m2 == then["ground"].net_m2 == pytest.approx(5.0 * 1.5)


def test_a_window_larger_than_the_wall_above_the_ground_takes_the_earths_share():
    """Above the ground stand 0.3 m of wall, 1.5 m2; the window has 2.0 m2: the rest of it has no earth before it either."""
    den = designed(room("den", -2.3, (5.0, 4.0, 2.6), more="windows = [{ wall = 1, size = [2.0, 1.0] }]")).rooms[0]
    pieces = {p.beyond: p for p in den.faces[0].pieces}
    assert pieces["outside"].net_m2 == 0.0
    assert pieces["ground"].net_m2 == pytest.approx(5.0 * 2.3 - 0.5)
    assert den.faces[0].openings[0].difference_k == pytest.approx(26.0)


def test_a_window_in_a_wall_that_is_buried_all_over_looks_into_a_shaft_and_says_so():
    result = designed(room("den", -3.0, (5.0, 4.0, 2.6), more="windows = [{ wall = 1, size = [1.0, 0.8] }]"))
    assert result.rooms[0].faces[0].openings[0].difference_k == pytest.approx(26.0)
    assert any("in the earth all over" in text for text in what(result))
    assert sum(p.net_m2 for p in result.rooms[0].faces[0].pieces) == pytest.approx(5.0 * 2.6 - 0.8)


def test_a_sill_says_in_which_band_a_window_is():
    """Two storeys' height of wall, a room beside the upper half: the sill tells whether the window is below or beside."""
    tall = room("tall", 0.0, (4.0, 4.0, 5.2))
    beside = room("side", 2.6, (4.0, 4.0, 2.6), at=(4.1, 0.0))
    document = brief.document((HEAD + tall + beside).encode())
    face = document["survey"]["rooms"]["tall"]["faces"].setdefault("w2", {})
    face["openings"] = {"o": {"kind": "window", "width_m": 1.0, "height_m": 1.0, "sill_m": 0.9}}
    low = next(r for r in judged(document).rooms if r.id == "tall")
    assert next(f for f in low.faces if f.key == "w2").openings[0].loss_w > 50
    face["openings"]["o"]["sill_m"] = 3.4
    result = judged(document)
    high = next(r for r in result.rooms if r.id == "tall")
    assert next(f for f in high.faces if f.key == "w2").openings[0].loss_w == pytest.approx(0.0, abs=1e-6)
    assert any("stands in a wall to a heated room" in text for text in what(result))


def ring(inner):
    """Nine squares of 4 m: the middle one has no outside edge of its own."""
    rooms = []
    for n in range(9):
        x, y = n % 3 * 4.1, n // 3 * 4.1
        key, ground = f"r{n}", inner if n == 4 else ""
        rooms.append(
            f'[rooms.{key}]\nuse = "living"\nstorey = "g"\nsize = [4.0, 4.0, 2.5]\nat = [{x:.1f}, {y:.1f}]\n{ground}\n'
        )
    return brief.document((HEAD + "[storeys.g]\nlevel_m = 0.0\n" + "".join(rooms)).encode())


@pytest.mark.parametrize("way", ["a build of its own", "a part of its own"])
def test_an_inner_floor_loses_by_the_whole_floor_and_its_own_resistance(way):
    """B' = 144 m2 / (half of 48 m) = 6 m for every build; the middle one is insulated, the rest is bare."""
    document = frozen(ring(""), "ground-slab-75")
    if way == "a build of its own":
        document["survey"]["rooms"]["r4"]["faces"].setdefault("floor", {})["construction"] = "ground-slab-75"
    else:
        document["survey"]["parts"]["new"] = {"pos": 1, "constructions": {**document["survey"]["parts"]["main"]["constructions"],
                                              "ground": "ground-slab-75"}}  # fmt: skip
        document["survey"]["rooms"]["r4"]["part"] = "new"
    result = judged(document)
    rooms = {r.id: r for r in result.rooms}
    layers = document["library"]["constructions"]["ground-slab-75"]["data"]["layers"]
    r_75 = sum(one["thickness_m"] / one["lambda_w_mk"] for one in layers)
    for key, r in (("r4", r_75), ("r0", 0.05 / 1.15)):
        floor = next(f for f in rooms[key].faces if f.kind == "floor")
        expected = floor_u(144.0, 48.0, W + LAMBDA * (0.17 + r + 0.04), 0.0)
        assert floor.u_w_m2k == pytest.approx(expected, rel=1e-4)
        assert floor.loss_w == pytest.approx(1.45 * 16.0 * expected * (21 - T_YEAR), rel=1e-4)
    assert [slab.characteristic_m for slab in result.house.slabs] == pytest.approx([6.0, 6.0])


def test_a_strip_along_the_edge_never_does_more_than_insulation_all_over():
    """A hut 2 m wide with strips of 5 m lying in from each edge: they meet in the middle."""
    document = brief.document((HEAD + room("hut", 0.0, (2.0, 8.0, 2.5))).encode())
    strip = {"kind": "horizontal", "width_m": 5.0, "thickness_m": 0.1, "lambda_w_mk": 0.036}
    document["survey"]["parts"]["main"]["edge"] = strip
    (slab,) = judged(document).house.slabs
    assert slab.edge_m == pytest.approx(0.5 * 16.0 / 10.0)  # half of B'
    all_over = floor_u(16.0, 20.0, W + LAMBDA * (0.17 + 0.05 / 1.15 + 0.1 / 0.036 + 0.04), 0.0)
    assert slab.u_w_m2k >= all_over - 1e-9
    document["survey"]["parts"]["main"]["edge"] = strip | {"width_m": 0.5}
    assert judged(document).house.slabs[0].edge_m == 0.5
