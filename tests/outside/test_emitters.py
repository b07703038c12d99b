"""Emitters against what stands outside: EN 442 and the log mean by hand, the balance of rooms that trade heat by scipy,
the limit curve of a floor, the quick rule against the full calculation."""

import copy

import numpy as np
import pytest
from scipy.optimize import fsolve

from cinder.design.emitters.quick_rule import w_per_m2
from cinder.physics.rooms import floor, radiator
from tests.conftest import house, judged


@pytest.mark.parametrize(("excess", "factor"), [(30, 0.515), (20, 0.304), (15, 0.209), (10, 0.123)])
def test_factors_of_en_442(excess, factor):
    """EN 442-2, n = 1.3 (from memory): (dT/50)^1.3, to three digits."""
    assert radiator.output(rated_w=1.0, exponent=1.3, excess_k=excess, reference_k=50.0) == pytest.approx(
        factor, abs=5e-4
    )


def test_a_log_mean_by_hand():
    """37/32 over 20: 5 / ln(17/12) = 14.356 K, where the arithmetic mean has 14.5: the hand rule's jump of 1.3 %."""
    found = radiator.log_excess(flow_c=37.0, return_c=32.0, room_c=20.0)
    assert found == pytest.approx(5 / np.log(17 / 12))
    assert found == pytest.approx(14.356, abs=1e-3)
    assert (14.5 / found) ** 1.3 - 1 == pytest.approx(0.013, abs=1e-3)


def test_rooms_that_fall_short_draw_on_their_neighbours():
    """Three rooms at water too cool for one of them, against scipy's root of all balances at once.

    Each room: what its emitter gives at the temperature it reaches = what it then loses, and what those beside it draw
    for being short. Loads, slopes and ratings are read off the Design; the trade is U A of the inner walls by hand."""
    document = house("three-rooms")
    document["survey"]["emitters"]["r-bed"]["spec"]["length_m"] = 0.9
    flow = 44.0
    document["schemes"]["main"]["flow_c"] = flow
    result = judged(document)
    rooms = {r.id: r for r in result.rooms}
    names = ["living", "bed", "bath"]
    inner = 1.7786  # U of the stud wall, worked out in tests/outside/test_three_rooms.py
    trade = {("living", "bed"): 12.5 * inner, ("bed", "living"): 12.5 * inner,
             ("bed", "bath"): 7.5 * inner, ("bath", "bed"): 7.5 * inner}  # fmt: skip

    def balance(reached):
        at = dict(zip(names, reached, strict=True))
        out = []
        for name in names:
            room, emitter = rooms[name], rooms[name].emitters[0]
            extra = sum(w * max(rooms[b].target_c - at[b], 0.0) for (a, b), w in trade.items() if a == name)
            loss = room.room_emitter_load_w + extra - room.loss_per_k * (room.target_c - at[name])
            spread = 5.0 * loss / room.room_emitter_load_w
            hot, cold = flow - at[name], flow - spread - at[name]
            mean = (hot - cold) / np.log(hot / cold)
            out.append(emitter.rated_w * (mean / 49.83) ** emitter.exponent - loss)
        return out

    expected = fsolve(balance, [r.target_c for r in rooms.values()], xtol=1e-12)
    assert rooms["bed"].reached_c < 17.0
    assert [rooms[name].reached_c for name in names] == pytest.approx(expected, abs=2e-3)
    apart = copy.deepcopy(document)
    for face in apart["survey"]["rooms"].values():
        for one in face["faces"].values():
            for span in one["spans"].values():
                if span["beyond"]["kind"] == "room":
                    span["beyond"] = {"kind": "heated"}
    lone = {r.id: r for r in judged(apart).rooms}["bed"]
    assert lone.reached_c != pytest.approx(rooms["bed"].reached_c, abs=0.05)


@pytest.mark.parametrize(("excess", "flux"), [(5.0, 52.4), (9.0, 100.0), (10.0, 112.3)])
def test_base_curve_of_a_floor(excess, flux):
    """EN 1264-2 (from memory): q = 8.92 x^1.1; about 100 W/m2 at 9 K, the textbook figure."""
    assert floor.greatest_flux_w_m2(surface_limit_c=20 + excess, room_c=20.0, uneven=1.0) == pytest.approx(
        flux, abs=0.1
    )
    assert floor.mean_surface_excess_k(flux) == pytest.approx(excess, abs=0.01)


def test_an_uneven_floor_may_give_less():
    even = floor.greatest_flux_w_m2(surface_limit_c=29.0, room_c=20.0, uneven=1.0)
    found = floor.conducted(spacing_m=0.3, cover_m=0.045, cover_lambda_w_mk=1.2, covering_r_m2kw=0.0, pipe_m=0.016)
    uneven = floor.greatest_flux_w_m2(surface_limit_c=29.0, room_c=20.0, uneven=found.uneven)
    assert uneven / even == pytest.approx(found.uneven**-1.1)
    # its wave keeps its mean, and falls from over the pipe to the middle
    wave = np.array(found.profile)
    assert np.all(np.diff(wave) < 0)
    assert np.trapezoid(wave, np.linspace(0, 1, len(wave))) == pytest.approx(1.0, abs=3e-3)
    assert wave[0] == pytest.approx(found.uneven)


@pytest.mark.parametrize(("mean", "expected"), [(50.0, 1500.0), (40.0, 890.0)])
def test_quick_rule_against_the_full_calculation(mean, expected):
    """Common practice: about 1 500 W/m2 of T22 face at 50 deg C mean water, 890 at 40. The full chain at spread 0.1 K, where
    mean and flow are one, needs that water for a panel of one square metre within 1 %."""
    assert w_per_m2("t22", mean_c=mean, room_c=20.0) == pytest.approx(expected, rel=0.02)
    document = house("one-room")
    key = next(iter(document["survey"]["emitters"]))
    room = document["survey"]["emitters"][key]["room"]
    document["survey"]["rooms"][room]["target_c"] = 20.0
    from cinder.library import load
    from cinder.model import freeze

    document["library"]["emitter_types"]["t22"] = freeze(load().emitter_types["t22"])
    load_w = next(r for r in judged(document).rooms if r.id == room).room_emitter_load_w
    face = load_w / expected
    document["survey"]["emitters"][key]["spec"] = {
        "kind": "panel", "type": "t22", "length_m": round(face / 0.6, 4), "height_m": 0.6, "spread_k": 0.1,
    }  # fmt: skip
    needed = next(r for r in judged(document).rooms if r.id == room).needed_flow_c
    assert needed - 20.0 == pytest.approx(mean - 20.0, rel=0.02)
