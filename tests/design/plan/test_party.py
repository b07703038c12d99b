"""Sharing out walls: rectangles cut from rectangles, and the nearest neighbour first from both sides."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cinder.design.kept import Kept
from cinder.design.plan.layout import layout
from cinder.design.plan.party import _minus
from cinder.model import Survey
from tests.design.plan.test_layout import areas, box, laid

edge = st.integers(0, 20).map(lambda n: n / 2)


@st.composite
def rects(draw):
    a, b = sorted((draw(edge), draw(edge)))
    low, high = sorted((draw(edge), draw(edge)))
    return (a, b + 0.5, low, high + 0.5)


def size(rect):
    return (rect[1] - rect[0]) * (rect[3] - rect[2])


def shared(one, other):
    wide = min(one[1], other[1]) - max(one[0], other[0])
    high = min(one[3], other[3]) - max(one[2], other[2])
    return max(wide, 0.0) * max(high, 0.0)


@given(rects(), rects())
def test_what_is_cut_out_and_what_is_left_are_the_whole(rect, cut):
    left = _minus(rect, cut)
    assert sum(map(size, left)) == pytest.approx(size(rect) - shared(rect, cut))
    assert all(shared(part, cut) == 0 for part in left)
    assert all(shared(a, b) == 0 for n, a in enumerate(left) for b in left[n + 1 :])


def test_a_narrow_room_between_two_others_hides_them_from_each_other():
    """A cupboard 0.3 m deep stands in part of the gap of 0.5 m: behind it the far rooms no longer touch."""
    rooms = {"a": box(0, 0, 4, 3), "b": box(4.5, 0, 8, 3), "cupboard": box(4.1, 0, 4.4, 1)}
    r = laid(rooms)
    assert areas(r, "a", "w2") == {"cupboard": 2.5, "b": 5.0}
    assert areas(r, "b", "w4") == {"cupboard": 2.5, "a": 5.0}


def test_walls_that_lean_more_than_five_degrees_are_no_party():
    from tests.design.plan.test_layout import room

    leaning = room([(4.1, 3), (7, 3), (7, 0), (4.6, 0)])  # its west wall leans by 9.5 degrees
    r = laid({"a": box(0, 0, 4, 3), "b": leaning})
    assert areas(r, "a", "w2") == {"outside": 7.5}


@pytest.mark.parametrize(("gap", "party"), [(0.05, True), (0.3, True), (0.59, True), (0.62, False)])
def test_a_wall_is_at_most_0_6_m_thick(gap, party):
    r = laid({"a": box(0, 0, 4, 3), "b": box(4 + gap, 0, 8, 3)})
    assert areas(r, "a", "w2") == ({"b": 7.5} if party else {"outside": 7.5})


def test_the_walk_may_go_either_way_round():
    """Walked anticlockwise, the walls still have their outsides outside."""
    runs = [{"id": f"w{n + 1}", "length_m": side, "turn_deg": -90.0} for n, side in enumerate((4.0, 3.0, 4.0, 3.0))]
    other = {"walk": runs, "height_m": 2.5, "position": {"x_m": 0.0, "y_m": 0.0}, "part": "main"}
    r = laid({"a": other, "b": box(4.1, 0, 8, 3)})
    assert areas(r, "a", "w2") == {"b": 7.5}
    assert areas(r, "a", "w1") == {"outside": 10.0}


def test_storeys_stack_when_nobody_measured_their_levels():
    rooms = {"low": box(0, 0, 4, 3, storey="g"), "high": box(0, 0, 4, 3, storey="u")}
    r = laid(rooms, storeys={"g": {}, "u": {"pos": 1.0}})
    assert areas(r, "low", "ceiling") == {"high": 12.0}


def test_what_is_remembered_is_not_given_for_another_house():
    kept = Kept()
    rooms = {"a": box(0, 0, 4, 3), "b": box(4.1, 0, 8, 3)}
    survey = Survey.model_validate({"parts": {"main": {}}, "rooms": rooms})
    first = layout(survey, kept)
    named = {key: one.model_copy(update={"label": "Hall"}) for key, one in survey.rooms.items()}
    assert layout(survey.model_copy(update={"rooms": named}), kept) is first
    away = survey.rooms["b"].model_copy(update={"position": survey.rooms["b"].position.model_copy(update={"x_m": 5.1})})
    moved = layout(survey.model_copy(update={"rooms": survey.rooms | {"b": away}}), kept)
    assert areas(moved, "a", "w2") == {"outside": 7.5}
    assert moved.shapes["a"] is first.shapes["a"]
