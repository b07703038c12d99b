"""A house that stands high: its air carries less, its emitters give less, as the school of thin air has it."""

import pytest

from cinder.design import design, year
from cinder.design.explained import num
from cinder.design.kept import Kept
from cinder.design.working import working
from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.twin.of_job import twin_of
from tests.conftest import house, oat_store, tansy_cut

AT_1500 = 1.0581 / 1.2250  # U.S. Standard Atmosphere 1976 (from memory)


def standing(document, metres, **practice):
    document["site"] = document.get("site", {}) | {"altitude_m": metres}
    document["practice"] = document.get("practice", {}) | practice
    return parse(document)


@pytest.mark.parametrize("made", [tansy_cut, oat_store, lambda: house("three-rooms")])
def test_only_what_air_carries_is_less_and_by_its_density(made):
    low, high = design(standing(made(), 100.0)), design(standing(made(), 1500.0))
    assert high.house.air_w == pytest.approx(low.house.air_w * AT_1500, rel=2e-3)
    for a, b in zip(low.rooms, high.rooms, strict=True):
        if a.air_w is None:
            continue
        assert (b.fabric_w, b.bridges_w) == pytest.approx((a.fabric_w, a.bridges_w), abs=1.0)
        assert b.air_per_h == pytest.approx(a.air_per_h)  # as much air, but less heat in it
    for way, other in zip(low.house.air, high.house.air, strict=True):
        assert other.air_w == pytest.approx(way.air_w * AT_1500, rel=2e-3)
        assert other.flow_m3h == pytest.approx(way.flow_m3h)


def test_a_radiator_gives_less_and_says_why_and_a_floor_as_much():
    """Three quarters of a panel's heat is convected, and falls with the 0.6th power of the density (test_altitude.py)."""
    low, high = design(standing(tansy_cut(), 100.0)), design(standing(tansy_cut(), 1500.0))
    before = {one.id: one for room in low.rooms for one in room.emitters}
    panels = [one for room in high.rooms for one in room.emitters if one.rated_w and "thin air" in one.factor_words]
    assert len(panels) > 5
    for one in panels:
        assert one.rated_w == pytest.approx(before[one.id].rated_w * (0.25 + 0.75 * AT_1500**0.6), rel=1e-3)
        assert "thin air at 1500 m" in one.factor_words
    document = tansy_cut()
    key, emitter = next((k, e) for k, e in document["survey"]["emitters"].items() if e["room"] == "parlour")
    emitter["spec"] = {"kind": "electric", "output_w": 900.0}
    own = next(e for r in design(standing(document, 1500.0)).rooms for e in r.emitters if e.id == key)
    assert own.factor == 1.0


def test_as_at_sea_level_where_that_school_is_followed():
    low, high = (design(standing(tansy_cut(), metres, thin_air="sea_level")) for metres in (100.0, 1500.0))
    assert high.house.loss_w == low.house.loss_w
    assert [room.needed_flow_c for room in high.rooms] == [room.needed_flow_c for room in low.rooms]
    assert high.schools["Thin air"] == "not counted, 0.34 Wh/m³K as at sea level"
    assert "Thin air" not in low.schools


def test_the_altitude_of_the_station_stands_in_for_an_unknown_site():
    document = tansy_cut()
    document["library"]["climates"][document["climate"]["entry"]]["data"]["altitude_m"] = 1500.0
    document["site"].pop("altitude_m", None)
    known = design(standing(tansy_cut(), 1500.0))
    assert design(parse(document)).house.loss_w == pytest.approx(known.house.loss_w)


def test_the_working_multiplies_by_what_the_air_carries():
    job = standing(tansy_cut(), 1500.0)
    made = design(job)
    room = made.rooms[0]
    shown = working(job, made, f"room:{room.id}")
    step = next(one for one in shown.steps if one.label.startswith("Air"))
    carried = 0.34 * AT_1500
    assert step.formula.startswith("Φ_V = ρ c q")
    assert step.numbers.startswith(f"{carried:.3f} Wh/m³K × ")
    flow = room.air_per_h * room.volume_m3
    assert carried * flow * (room.target_c - made.house.outdoor_c) == pytest.approx(room.air_w, rel=2e-3)
    assert f"× {num(flow)} m³/h" in step.numbers


def test_a_kept_chain_hears_of_another_altitude():
    kept = Kept()
    for metres in (100.0, 1500.0, 310.0, None, 2300.0):
        job = standing(oat_store(), metres)
        assert design(job, kept).model_dump() == design(job).model_dump()


def test_season_year_and_twin_stand_in_the_same_air():
    """The house up there against the one down here, by bins, hour by hour and in time: each takes the same off."""
    weather = shipped_year(load().climates["mild-maritime"].year_sha256)

    def by_every_route(metres):
        job = standing(tansy_cut(), metres)
        made = design(job)
        rooms, emitters = twin_of(job).house.rooms, twin_of(job).house.emitters
        assert float(emitters.rated_w.sum()) == pytest.approx(
            sum(e.rated_w or 0 for r in made.rooms for e in r.emitters)
        )
        lost = float(rooms.slope_w_k.sum() - rooms.trade_w_k.sum())
        return made.house.h_w_k, lost, made.season.heat_kwh, year.judge(job, made, weather).loss_kwh

    low, high = by_every_route(100.0), by_every_route(1500.0)
    design_w_k, twin_w_k, bins_kwh, hours_kwh = (b / a for a, b in zip(low, high, strict=True))
    assert design_w_k < 0.98
    assert twin_w_k == pytest.approx(design_w_k, abs=0.001)
    assert hours_kwh == pytest.approx(design_w_k, abs=0.002)
    assert design_w_k - 0.03 < bins_kwh < design_w_k  # gains stay: what must be heated falls by more than what is lost
