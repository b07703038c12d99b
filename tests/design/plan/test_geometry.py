"""Floors from walks, with areas worked out by hand."""

import math

import pytest

from cinder.design.plan.geometry import closing, corners, plan
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


def test_a_diagonal_shapes_a_room_that_is_not_square():
    """Sides 4, 3, 4, 3 with a diagonal of 5.3 instead of 5: a parallelogram; angle by the cosine rule, area by hand."""
    runs = [Run(id=f"w{n}", length_m=length) for n, length in enumerate((4.0, 3.0, 4.0, 3.0))]
    runs[1] = Run(id="w1", length_m=3.0, diagonal_m=5.3)
    floor = plan(runs)
    cosine = (4**2 + 3**2 - 5.3**2) / (2 * 4 * 3)
    assert floor.area_m2 == pytest.approx(4 * 3 * math.sqrt(1 - cosine**2))
    assert floor.closing_error_m == pytest.approx(0.0, abs=1e-9)


def test_a_quadrilateral_from_four_sides_and_a_diagonal():
    """Corners (0,0) (5,0) (4.4,-3.6) (0.3,-3.2), walked clockwise: sides and diagonal from the corners."""
    points = [(0.0, 0.0), (5.0, 0.0), (4.4, -3.6), (0.3, -3.2)]
    lengths = [math.dist(points[n], points[(n + 1) % 4]) for n in range(4)]
    runs = [Run(id=f"w{n}", length_m=length) for n, length in enumerate(lengths)]
    runs[1] = Run(id="w1", length_m=lengths[1], diagonal_m=math.dist(points[0], points[2]))
    got = corners(runs)
    for found, wanted in zip(got, [*points, points[0]], strict=True):
        assert found == pytest.approx(wanted, abs=1e-9)


def test_a_diagonal_that_cannot_be_leaves_the_corner_square():
    runs = [Run(id=f"w{n}", length_m=length) for n, length in enumerate((4.0, 3.0, 4.0, 3.0))]
    runs[1] = Run(id="w1", length_m=3.0, diagonal_m=9.0)
    assert corners(runs)[2] == pytest.approx((4.0, -3.0))


def test_the_run_most_likely_wrong_is_named_and_nothing_is_spread():
    # the third wall was heard as 4.63 for 3.63: a metre too long
    judged = closing(walk((3.63, 90.0), (2.9, 90.0), (4.63, 90.0), (2.9, 90.0)))
    assert not judged.good
    assert judged.error_m == pytest.approx(1.0)
    assert set(judged.suspects) == {"w0", "w2"}
    assert abs(judged.correction_m) == pytest.approx(1.0)
    good = closing(walk((3.63, 90.0), (2.9, 90.0), (3.64, 90.0), (2.9, 90.0)))
    assert good.good
    assert good.share == pytest.approx(0.01 / 13.07)


def test_digits_changed_round_are_suspected_before_the_longer_wall():
    # 3.26 written as 3.62: the parallel walls are 5.00 (whole) and 1.74 + 3.26
    judged = closing(walk((5.0, 90.0), (4.0, 90.0), (1.74, 90.0), (1.0, -90.0), (3.62, 90.0), (3.0, 90.0)))
    assert judged.suspects[0] == "w4"
    assert judged.correction_m == pytest.approx(-0.36)


def test_an_odd_walk_names_only_the_wall_that_could_be_wrong():
    # a triangle: each wall has a direction of its own
    triangle = walk((3.0, 90.0), (4.0, 180 - math.degrees(math.atan2(3, 4))), (5.5, 0.0))
    assert closing(triangle).suspects == ("w2",)
