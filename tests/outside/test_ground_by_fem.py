"""Floors by ISO 13370 (from memory) against a finite-element model of the ground that knows nothing of its formulas.

The model is a long strip (the standard's B' is then the strip's width): half of it, with 20 times the half width of
ground beside and below. Stated band: 6 %, for slabs, slabs with an edge strip and a basement as a whole (its floor and
walls apart differ more: the formula gives the floor what the model gives the walls).
"""

import math

import numpy as np
import pytest

from cinder.physics.losses import ground
from tests.outside.conduction import Field, graded, rectangle, where

LAMBDA, RSI_FLOOR, RSI_WALL, RSE = 2.0, 0.17, 0.13, 0.04
FAR = 20.0


def strip(width, *, wall=0.3, floor_r=0.0, edge=None):
    """U of half a slab of `width` by finite elements: floor inside, wall footprint closed, ground outside."""
    half = width / 2
    x = graded((0, half, 46, 0.93), (half, half + wall, 8, 1.0), (half + wall, half + wall + FAR * half, 60, 1.10))
    y = -graded((0, FAR * half, 84, 1.075))[::-1]
    mesh = rectangle(x, y)
    top = lambda low, high: where(mesh, lambda px, py: (py > -1e-9) & (px > low) & (px < high))  # noqa: E731
    boundaries = {"outside": (top(half + wall, np.inf), 1 / RSE, 0.0)}
    if edge is None:
        boundaries["floor"] = (top(0, half), 1 / (RSI_FLOOR + floor_r), 1.0)
        inside = ["floor"]
    else:
        reach, extra_r = edge
        boundaries["middle"] = (top(0, half - reach), 1 / (RSI_FLOOR + floor_r), 1.0)
        boundaries["edge"] = (top(half - reach, half), 1 / (RSI_FLOOR + floor_r + extra_r), 1.0)
        inside = ["middle", "edge"]
    field = Field(mesh, lambda px, py: np.full(px.shape, LAMBDA), boundaries)
    got = sum(field.heat_w_m(name) for name in inside)
    assert got == pytest.approx(-field.heat_w_m("outside"), rel=1e-6)  # what goes in comes out
    return got / half


@pytest.mark.parametrize("width", [4.0, 6.0, 10.0])
@pytest.mark.parametrize("floor_r", [0.0, 0.5, 2.5])
def test_slab_on_the_ground(width, floor_r):
    ours = ground.slab_on_ground(
        area_m2=width, exposed_perimeter_m=2.0, wall_thickness_m=0.3, floor_r_m2kw=floor_r, lambda_ground_w_mk=LAMBDA
    )
    assert ours.b_m == width
    assert ours.u_w_m2k == pytest.approx(strip(width, floor_r=floor_r), rel=0.06)


def test_a_strip_of_insulation_along_the_edge():
    """1 m of 80 mm at lambda 0.035, lying on the slab: both routes with the ground the board displaces left out."""
    bare = ground.slab_on_ground(
        area_m2=8.0, exposed_perimeter_m=2.0, wall_thickness_m=0.3, floor_r_m2kw=0.0, lambda_ground_w_mk=LAMBDA
    )
    takes = ground.edge_insulation(
        b_m=8.0, dt_m=bare.dt_m, lambda_ground_w_mk=LAMBDA, kind="horizontal", width_m=1.0, thickness_m=0.08,
        lambda_insulation_w_mk=0.035,
    )  # fmt: skip
    modelled = strip(8.0, edge=(1.0, 0.08 / 0.035 - 0.08 / LAMBDA))
    assert takes < -0.05
    assert bare.u_w_m2k + takes == pytest.approx(modelled, rel=0.06)


def test_edge_insulation_by_hand():
    """ISO 13370 annex D, from memory: d' = (0.08/0.035 - 0.08/2) 2 = 4.491; D = 1; d_t = 0.72.
    dPsi = -2/pi (ln(1/0.72 + 1) - ln(1/5.211 + 1)) = -0.6366 (0.8708 - 0.1755) = -0.4427; 2 dPsi / 8 = -0.1107."""
    takes = ground.edge_insulation(
        b_m=8.0, dt_m=0.72, lambda_ground_w_mk=2.0, kind="horizontal", width_m=1.0, thickness_m=0.08,
        lambda_insulation_w_mk=0.035,
    )  # fmt: skip
    assert takes == pytest.approx(-0.1107, abs=3e-4)


def test_a_standing_strip_counts_twice_its_depth():
    same = {"b_m": 6.0, "dt_m": 0.72, "lambda_ground_w_mk": 2.0, "thickness_m": 0.06, "lambda_insulation_w_mk": 0.034}
    down = ground.edge_insulation(kind="vertical", width_m=0.5, **same)
    assert down == pytest.approx(ground.edge_insulation(kind="horizontal", width_m=1.0, **same))


def basement(width, depth, *, wall=0.3, floor_r=0.3, wall_r=0.5):
    """Heat through floor and walls of half a basement, W/m per K, by finite elements."""
    half = width / 2
    side = half + wall
    x = graded((0, half, 44, 0.93), (half, side, 6, 1.0), (side, side + FAR * half, 58, 1.10))
    y = np.unique(np.concatenate([-graded((depth, depth + FAR * half, 70, 1.08)), -graded((0, depth, 36, 1.04))]))
    mesh = rectangle(x, y, hole=lambda px, py: (px < side) & (py > -depth))
    flat = lambda low, high, level: where(  # noqa: E731
        mesh, lambda px, py: (abs(py - level) < 1e-9) & (px > low) & (px < high)
    )
    boundaries = {
        "outside": (flat(side, np.inf, 0.0), 1 / RSE, 0.0),
        "floor": (flat(0, half, -depth), 1 / (RSI_FLOOR + floor_r), 1.0),
        "wall": (where(mesh, lambda px, py: (abs(px - side) < 1e-9) & (py > -depth)), 1 / (RSI_WALL + wall_r), 1.0),
    }
    field = Field(mesh, lambda px, py: np.full(px.shape, LAMBDA), boundaries)
    return field.heat_w_m("floor"), field.heat_w_m("wall")


@pytest.mark.parametrize("depth", [1.0, 2.2])
def test_a_heated_basement_as_a_whole(depth):
    width = 8.0
    ours = ground.heated_basement(
        area_m2=width, exposed_perimeter_m=2.0, wall_thickness_m=0.3, floor_r_m2kw=0.3, wall_r_m2kw=0.5, depth_m=depth,
        lambda_ground_w_mk=LAMBDA,
    )  # fmt: skip
    floor, wall = basement(width, depth)
    whole = ours.floor_u_w_m2k * width / 2 + ours.wall_u_w_m2k * depth
    assert whole == pytest.approx(floor + wall, rel=0.06)


def test_a_heated_basement_by_hand():
    """ISO 13370 7.3, from memory. A 60, P 32: B' = 3.75; d_t = 0.3 + 2 (0.17 + 0 + 0.04) = 0.72; z = 2: d_t + z/2 = 1.72.
    Floor 4/(11.781 + 1.72) ln(11.781/1.72 + 1) = 0.29628 x 2.0601 = 0.6104. d_w = 2 (0.13 + 0.3 + 0.04) = 0.94;
    wall 4/(2 pi) (1 + 0.36/2.72) ln(2/0.94 + 1) = 0.6366 x 1.1324 x 1.1402 = 0.8219."""
    worked = ground.heated_basement(
        area_m2=60, exposed_perimeter_m=32, wall_thickness_m=0.3, floor_r_m2kw=0.0, wall_r_m2kw=0.3, depth_m=2.0,
        lambda_ground_w_mk=2.0,
    )  # fmt: skip
    assert worked.floor_u_w_m2k == pytest.approx(0.6104, abs=2e-4)
    assert worked.wall_u_w_m2k == pytest.approx(0.8219, abs=3e-4)


def nodes(conductances, temperatures):
    """Steady temperatures of free nodes in a network: `conductances` {(a, b): W/K}, `temperatures` of held nodes."""
    names = sorted({n for pair in conductances for n in pair} - set(temperatures))
    matrix, load = np.zeros((len(names), len(names))), np.zeros(len(names))
    for (a, b), g in conductances.items():
        for one, other in ((a, b), (b, a)):
            if one in names:
                matrix[names.index(one), names.index(one)] += g
                if other in names:
                    matrix[names.index(one), names.index(other)] -= g
                else:
                    load[names.index(one)] += g * temperatures[other]
    return dict(zip(names, np.linalg.solve(matrix, load), strict=True))


def test_a_suspended_floor_as_a_network():
    """The void as a node between floor, ground (the finite-element slab), its walls and its air."""
    width, height, u_wall, vent, wind, shield = 8.0, 0.3, 1.7, 0.0015, 4.0, 0.05
    half = width / 2
    under = strip(width, floor_r=0.0)
    links = {
        ("room", "void"): 1.4 * half,
        ("void", "out"): under * half + u_wall * height + 1450 * vent * wind * shield,
    }  # one metre of edge for half the strip
    void = nodes(links, {"room": 1.0, "out": 0.0})["void"]
    ours = ground.suspended_floor(
        area_m2=width, exposed_perimeter_m=2.0, wall_thickness_m=0.3, floor_u_w_m2k=1.4, lambda_ground_w_mk=LAMBDA,
        height_above_ground_m=height, wall_u_w_m2k=u_wall, vent_area_m2_per_m=vent, wind_m_s=wind, wind_shield=shield,
    )  # fmt: skip
    assert ours.u_w_m2k == pytest.approx(1.4 * (1 - void), rel=0.06)


def test_an_unheated_basement_as_a_network():
    width, depth, above = 8.0, 2.0, 0.4
    half = width / 2
    floor, wall = basement(width, depth)
    air = 0.33 * 0.3 * half * 2.4
    links = {("room", "cellar"): 1.1 * half, ("cellar", "out"): floor + wall + above * 1.6 + air}
    cellar = nodes(links, {"room": 1.0, "out": 0.0})["cellar"]
    below = ground.heated_basement(
        area_m2=width, exposed_perimeter_m=2.0, wall_thickness_m=0.3, floor_r_m2kw=0.3, wall_r_m2kw=0.5, depth_m=depth,
        lambda_ground_w_mk=LAMBDA,
    )  # fmt: skip
    ours = ground.unheated_basement(
        area_m2=width, exposed_perimeter_m=2.0, below=below, depth_m=depth, floor_above_u_w_m2k=1.1,
        height_above_ground_m=above, wall_above_u_w_m2k=1.6, volume_m3=width * 2.4, air_per_h=0.3,
    )  # fmt: skip
    assert ours == pytest.approx(1.1 * (1 - cellar), rel=0.05)


def test_the_model_itself_is_right_on_a_wall():
    """Two layers, no corner: the finite elements give 1/(Rsi + sum R + Rse) to the last digit."""
    mesh = rectangle(graded((0, 0.1, 8, 1.0), (0.1, 0.3, 12, 1.0)), graded((0, 1, 3, 1.0)))
    field = Field(
        mesh, lambda px, py: np.where(px < 0.1, 0.04, 0.8),
        {"in": (where(mesh, lambda px, py: px < 1e-9), 1 / 0.13, 20.0), "out": (where(mesh, lambda px, py: px > 0.3 - 1e-9), 1 / 0.04, 0.0)},
    )  # fmt: skip
    assert field.heat_w_m("in") == pytest.approx(20 / (0.13 + 0.1 / 0.04 + 0.2 / 0.8 + 0.04), rel=1e-9)
    assert math.isclose(field.heat_w_m("in"), -field.heat_w_m("out"), rel_tol=1e-9)
