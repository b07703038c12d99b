"""The quick on-site rule against the trade's figures and against the full calculation."""

import pytest

from cinder.design.emitters.quick_rule import quick_rule, w_per_m2
from cinder.errors import PhysicsError
from cinder.exchange.survey import quick_card
from tests.conftest import house, judged


# Common practice: W per m2 of face at 50 and at 40 deg C mean water in a room of 20 deg C.
@pytest.mark.parametrize(
    ("key", "at_50", "at_40"), [("t11", 830, 490), ("t21", 1200, 710), ("t22", 1500, 890), ("t33", 2100, 1240)]
)
def test_watts_per_face(key, at_50, at_40):
    assert w_per_m2(key, mean_c=50, room_c=20) == pytest.approx(at_50, rel=0.01)
    assert w_per_m2(key, mean_c=40, room_c=20) == pytest.approx(at_40, rel=0.012)


def test_five_to_eight_times_less_at_low_water_than_at_high():
    """Common practice: at 35-30 deg C water 5 to 8 times less than at 70."""
    high = w_per_m2("t22", mean_c=70, room_c=20)
    assert 4.5 < high / w_per_m2("t22", mean_c=35, room_c=20) < 5.5
    assert 7.5 < high / w_per_m2("t22", mean_c=30, room_c=20) < 8.5


def test_length_from_face_and_height():
    row = next(r for r in quick_rule(mean_c=50, room_c=20, load_w=1500, height_m=0.5).rows if r.type == "t22")
    assert row.area_m2 == pytest.approx(1.0, rel=0.01)
    assert row.length_m == pytest.approx(2.0, rel=0.01)


def test_against_the_full_calculation():
    """The living room's panel, 2.4 x 0.6 m of T33 (three rooms by hand): what it gives at the mean water the chain finds
    for its load, within 3 % (the rule takes the arithmetic mean)."""
    room = judged(house("three-rooms")).rooms[0]
    mean = room.needed_flow_c - 2.5
    assert w_per_m2("t33", mean_c=mean, room_c=21.0) * 2.4 * 0.6 == pytest.approx(room.room_emitter_load_w, rel=0.03)


def test_water_no_warmer_than_the_room_is_refused():
    with pytest.raises(PhysicsError, match="gives nothing"):
        w_per_m2("t22", mean_c=20, room_c=20)


def test_the_card_prints():
    page = quick_card.html(room_c=20.0)
    assert "1500" in page
    assert quick_card.write(room_c=20.0)[:5] == b"%PDF-"
