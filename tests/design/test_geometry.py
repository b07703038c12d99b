"""Floors from walks, with areas worked out by hand."""

import math

import pytest

from cinder.design.geometry import corners, plan
from cinder.model import Run


def walk(*steps):
    return [Run(id=f"w{n}", length_m=length, turn_deg=turn) for n, (length, turn) in enumerate(steps)]


def test_rectangle():
    floor = plan(walk((4.0, 90.0), (3.0, 90.0), (4.0, 90.0), (3.0, 90.0)))
    assert floor.area_m2 == pytest.approx(12.0)
    assert floor.perimeter_m == 14.0
    assert floor.closing_error_m == pytest.approx(0.0, abs=1e-12)


def test_the_other_way_round_is_the_same_room():
    clockwise = plan(walk((4.0, 90.0), (3.0, 90.0), (4.0, 90.0), (3.0, 90.0)))
    other = plan(walk((4.0, -90.0), (3.0, -90.0), (4.0, -90.0), (3.0, -90.0)))
    assert other.area_m2 == pytest.approx(clockwise.area_m2)


def test_an_l_by_hand():
    # 5 x 4 less a corner of 2 x 1.5: 20 - 3 = 17 m2, edge 18 m
    floor = plan(walk((5.0, 90.0), (4.0, 90.0), (3.0, 90.0), (1.5, -90.0), (2.0, 90.0), (2.5, 90.0)))
    assert floor.area_m2 == pytest.approx(17.0)
    assert floor.perimeter_m == pytest.approx(18.0)
    assert floor.closing_error_m == pytest.approx(0.0, abs=1e-9)


def test_a_bay_by_hand():
    # 4 x 3 with a bay of a half hexagon of side 1 on one long wall: 12 + 3/4 sqrt(3) = 13.299 m2
    floor = plan(
        walk((1.0, -60.0), (1.0, 60.0), (1.0, 60.0), (1.0, -60.0), (1.0, 90.0), (3.0, 90.0), (4.0, 90.0), (3.0, 90.0))
    )
    assert floor.area_m2 == pytest.approx(12.0 + 0.75 * math.sqrt(3), abs=1e-9)
    assert floor.closing_error_m == pytest.approx(0.0, abs=1e-9)


def test_a_wall_measured_50_mm_too_long_leaves_a_gap_of_50_mm():
    floor = plan(walk((4.05, 90.0), (3.0, 90.0), (4.0, 90.0), (3.0, 90.0)))
    assert floor.closing_error_m == pytest.approx(0.05)
    # the gap lies along the first wall, so the floor is that of the 4.00 m wall; nothing is spread
    assert floor.area_m2 == pytest.approx(12.0)


@pytest.mark.parametrize("lengths", [[], [4.0], [4.0, 3.0], [4.0, None, 4.0, 3.0]])
def test_an_open_or_unmeasured_walk_has_no_floor(lengths):
    assert plan([Run(id=f"w{n}", length_m=length) for n, length in enumerate(lengths)]) is None


def test_corners_begin_where_one_stands():
    points = corners(walk((4.0, 90.0), (3.0, 90.0)))
    assert points[0] == (0.0, 0.0)
    assert points[1] == (4.0, 0.0)
    assert points[2] == pytest.approx((4.0, -3.0))
