"""Every kind of emitter: what it is rated at, what limits it, what it does to the house around it."""

import copy

import numpy as np
import pytest
from scipy.optimize import brentq

from cinder.design.apart import doubts
from cinder.library import load
from cinder.model import freeze, parse
from tests.conftest import house, judged, tansy_cut


def with_spec(key, spec, document=None):
    out = document or house("three-rooms")
    if "type" in spec and spec["type"] not in out["library"]["emitter_types"]:
        out["library"]["emitter_types"][spec["type"]] = freeze(load().emitter_types[spec["type"]])
    out["survey"]["emitters"][key]["spec"] = spec
    return out


def room(result, key):
    return next(r for r in result.rooms if r.id == key)


def said(result, words):
    return [f for f in result.findings if words in f.what]


PANEL = {"kind": "panel", "type": "t22", "length_m": 2.0, "height_m": 0.6}


@pytest.mark.parametrize(("height", "odd"), [(0.15, True), (0.2, False), (1.0, False), (1.8, True), (5.0, True)])
def test_a_panel_outside_the_heights_of_the_rule_says_where_it_ends(height, odd):
    """Outputs by face are known from 0.2 to 1.0 m (common practice)."""
    result = judged(with_spec("r-bed", PANEL | {"height_m": height}))
    assert bool(said(result, "outputs by face hold from 0.2 to 1 m")) == odd
    stated = judged(with_spec("r-bed", PANEL | {"height_m": height, "output_w": 900.0}))
    assert not said(stated, "outputs by face")


@pytest.mark.parametrize(
    ("more", "left"),
    [
        ({"obstructions": ["shelf"]}, 0.95),
        ({"obstructions": ["cover"]}, 0.75),
        ({"obstructions": ["curtain", "furniture"]}, 0.90 * 0.875),
        ({"connection": "same-end"}, 0.925),
        ({"connection": "same-end", "length_m": 1.2}, 1.0),
        ({"connection": "opposite-ends"}, 1.0),
    ],
)
def test_what_stands_before_a_radiator_takes_its_share(more, left):
    """Common practice: shelf -5 %, cover -20 to -30, curtain -10, sofa -10 to -15; same end -5 to -10 on very long ones."""
    found = room(judged(with_spec("r-bed", {**PANEL, **more})), "bed").emitters[0]
    plain = 1750 * more.get("length_m", 2.0)
    assert found.rated_w == pytest.approx(plain * left)
    assert found.factor == pytest.approx(left)


def test_skirting_is_rated_by_its_length_alone():
    spec = {"kind": "panel", "type": "skirting-twin", "length_m": 3.0}
    found = room(judged(with_spec("r-bed", spec)), "bed").emitters[0]
    assert found.rated_w == pytest.approx(3 * 420)
    assert found.exponent == 1.35


SPEEDS = [
    {"label": "quiet", "output_w": 700.0, "electric_w": 6.0},
    {"label": "full", "output_w": 2100.0, "electric_w": 26.0},
]


def test_a_fan_unit_counts_at_the_speed_that_is_accepted():
    quiet = judged(with_spec("r-bed", {"kind": "fan", "speeds": SPEEDS, "exponent": 1.05}))
    fast = judged(with_spec("r-bed", {"kind": "fan", "speeds": SPEEDS, "exponent": 1.05, "speed": 1}))
    assert room(quiet, "bed").emitters[0].rated_w == 700.0
    assert room(fast, "bed").emitters[0].rated_w == 2100.0
    assert room(fast, "bed").needed_flow_c < room(quiet, "bed").needed_flow_c
    # 26 W as long as heating goes, in the electricity of the season
    assert fast.season.fans_kwh == pytest.approx(0.026 * fast.season.heating_hours)
    beyond = judged(with_spec("r-bed", {"kind": "fan", "speeds": SPEEDS, "speed": 5}))
    assert said(beyond, "has only 2 speeds")
    assert room(beyond, "bed").emitters[0].rated_w == 2100.0


def test_emitters_with_spreads_of_their_own_meet_the_load_together():
    """Against a root of the plain sum by scipy, each with its own return."""
    document = house("three-rooms")
    document["survey"]["emitters"]["r-bed"]["spec"] = {**PANEL, "length_m": 1.0, "spread_k": 4.0}
    document["survey"]["emitters"]["r-bed-2"] = {
        "room": "bed", "label": "Second", "pos": 9,
        "spec": {"kind": "stated", "output_w": 900.0, "exponent": 1.1, "spread_k": 12.0},
    }  # fmt: skip
    bed = room(judged(document), "bed")

    def log_mean(flow, spread):
        hot, cold = flow - 18.0, flow - spread - 18.0
        return (hot - cold) / np.log(hot / cold) if cold > 0 else 0.0

    def over(flow):
        one = 1750 * (log_mean(flow, 4.0) / 49.83) ** 1.3
        two = 900 * (log_mean(flow, 12.0) / 49.83) ** 1.1
        return one + two - bed.room_emitter_load_w

    assert bed.needed_flow_c == pytest.approx(brentq(over, 31, 200), abs=1e-6)
    assert sum(e.output_w for e in bed.emitters) == pytest.approx(bed.room_emitter_load_w)
    first, second = bed.emitters
    assert first.flow_lph / second.flow_lph == pytest.approx(first.output_w / 4 / (second.output_w / 12))


FLOOR = {"method": "entered", "area_m2": 14.0, "k_w_m2k": 4.0, "spacing_m": 0.15, "loops": 1, "supply_m": 2.0}


def heated(**more):
    return with_spec("r-bed", {"kind": "floor", "heated": {**FLOOR, **more}})


def test_a_heated_floor_is_not_counted_twice():
    """By hand: the bedroom's floor is 15 m2 of slab with U 1.045 (ISO 13370, tests/outside/test_three_rooms.py), 14 of them
    heated. Its duty leaves out 14/15 of 1.45 A U (18 - 10.2); what goes down is worked out at the plane of the pipes:
    R_o = 1/10.8 (no covering, no screed given), R_u = 1/U - 0.17, and is added to the house and to the loop."""
    plain, floor = judged(house("three-rooms")), judged(heated())
    before, after = room(plain, "bed"), room(floor, "bed")
    u = before.ground_w / (1.45 * 15 * (18 - 10.2))
    assert u == pytest.approx(1.045, abs=2e-3)
    out = 14 / 15 * before.ground_w
    assert after.room_emitter_load_w == pytest.approx(before.room_emitter_load_w - out, rel=1e-9)
    flux = after.room_emitter_load_w / 14
    down = 1.45 * 14 * (flux / 10.8 + 18 - 10.2) / (1 / u - 0.17)
    assert after.down_w == pytest.approx(down, rel=1e-6)
    assert floor.house.loss_w == pytest.approx(plain.house.loss_w - out + down, rel=1e-9)
    assert floor.house.down_w == pytest.approx(down, rel=1e-6)
    loop = after.emitters[0]
    assert loop.flow_lph / plain.rooms[1].emitters[0].flow_lph == pytest.approx(
        (after.room_emitter_load_w + down) / before.room_emitter_load_w, rel=1e-6
    )
    assert sum(leak.loss_w for leak in floor.house.leaks) == pytest.approx(floor.house.loss_w)


def test_insulation_laid_with_the_pipes_keeps_the_heat_up():
    bare, thick = room(judged(heated()), "bed"), room(judged(heated(below_r_m2kw=2.0)), "bed")
    assert thick.down_w < 0.5 * bare.down_w


def test_loops_say_how_long_they_are_and_what_would_mend_it():
    fine, long = judged(heated()), judged(heated(area_m2=15.0, spacing_m=0.017))
    hot = room(fine, "bed").emitters[0].heated
    assert hot.loop_m == pytest.approx(14 / 0.15 + 4)
    assert not said(fine, "m of pipe in a loop")
    found = said(long, "m of pipe in a loop")[0]
    assert "886 m" in found.what
    assert "loops instead of 1" in found.mend
    (far,) = said(judged(heated(supply_m=76.0)), "m of pipe in a loop")
    assert far.mend.startswith("152 m are the run there and back")  # no number of loops mends that


def test_a_floor_may_not_pass_its_limit():
    """29 deg C where people stay, over 18: 11 K on the hottest line; boards count 1.1 as uneven: 10 K mean, 112 W/m2."""
    limit = room(judged(heated()), "bed").emitters[0].heated
    assert limit.limit_c == 29.0
    assert limit.most_w_m2 == pytest.approx(8.92 * 10**1.1)
    hard = judged(heated(area_m2=4.0))
    found = said(hard, "its surface would reach")[0]
    assert found.severity == "short"
    assert "29 °C is the limit" in found.what
    assert "A second emitter for the" in found.mend
    timber = room(judged(heated(covering_limit_c=27.0)), "bed").emitters[0].heated
    assert (timber.limit_c, timber.limit_why) == (27.0, "its covering bears no more")
    bath = room(judged(heated(zone="bath")), "bed").emitters[0].heated
    assert bath.limit_c == 27.0  # 18 + 9
    edge = room(judged(heated(zone="edge")), "bed").emitters[0].heated
    assert edge.limit_c == 35.0


def test_a_floor_says_what_it_lacks_and_what_lies_outside_the_method():
    lacks = judged(with_spec("r-bed", {"kind": "floor", "heated": {"method": "wet", "area_m2": 12.0}}))
    assert said(lacks, "lacks its pipe spacing, the screed over its pipes")
    far = judged(with_spec("r-bed", {"kind": "floor", "heated": {"area_m2": 12.0, "spacing_m": 0.6, "cover_m": 0.045}}))
    found = said(far, "lies outside the method")[0]
    assert "0.05 to 0.375 m" in found.what
    assert room(far, "bed").status == "no emitter"


def test_the_school_of_floors_is_followed_and_the_other_shown():
    spec = {"kind": "floor", "heated": {"area_m2": 12.0, "spacing_m": 0.2, "cover_m": 0.045, "cover_lambda_w_mk": 1.0}}
    document = with_spec("r-bed", spec)
    standard = room(judged(document), "bed").emitters[0].heated
    document["practice"] = {"heated_floor": "conduction"}
    conducted = room(judged(document), "bed").emitters[0].heated
    assert standard.k_w_m2k == pytest.approx(conducted.other_k_w_m2k)
    assert conducted.k_w_m2k == pytest.approx(standard.other_k_w_m2k)
    assert 0.85 < conducted.k_w_m2k / standard.k_w_m2k < 1.03


def test_a_heated_wall_leaves_its_own_loss_out_too():
    spec = {"kind": "wall", "heated": {"method": "entered", "area_m2": 5.0, "k_w_m2k": 5.0}}
    document = with_spec("r-bed", spec)
    inner = room(judged(document), "bed")
    document["survey"]["emitters"]["r-bed"]["face"] = "w2"
    outer = room(judged(document), "bed")
    assert outer.room_emitter_load_w < inner.room_emitter_load_w
    assert inner.down_w == 0.0 < outer.down_w
    assert outer.emitters[0].heated.limit_c == 40.0


def test_a_heater_of_its_own_takes_its_room_out_and_is_counted():
    document = house("three-rooms")
    plain = judged(document)
    bed = room(plain, "bed")
    document["schemes"]["main"]["emitters"] = {
        "e": {"action": "add", "room": "bed", "label": "Heater", "spec": {"kind": "electric", "output_w": 5000.0}}
    }
    own = judged(document)
    assert room(own, "bed").status == "own heater"
    assert room(own, "bed").needed_flow_c is None
    # on the design day the machine is spared just the bedroom's part; over the season about its share, a little less, since
    # a cool room stops asking first
    cold = own.machine.outdoor_c.index(-5.0)
    assert own.machine.load_w[cold] == pytest.approx(plain.house.loss_w - bed.room_share_of_house_w)
    share = bed.room_share_of_house_w / plain.house.loss_w * plain.season.heat_kwh
    assert 0.85 * share < own.season.own_heat_kwh < share
    assert own.season.heat_kwh == pytest.approx(plain.season.heat_kwh, rel=1e-6)
    assert own.season.electricity_kwh > plain.season.electricity_kwh
    assert own.season.performance == pytest.approx(own.season.heat_kwh / own.season.electricity_kwh)
    half = copy.deepcopy(document)
    half["schemes"]["main"]["emitters"]["e"]["spec"]["output_w"] = bed.room_emitter_load_w / 2
    assert room(judged(half), "bed").needed_flow_c < bed.needed_flow_c


def test_a_radiator_longer_than_its_wall_is_a_finding():
    document = with_spec("r-bed", {**PANEL, "length_m": 5.5})
    assert said(judged(document), "the longest wall of its room is 5.00 m")
    document = with_spec("r-bed", {**PANEL, "length_m": 3.4})
    document["survey"]["emitters"]["r-bed"]["face"] = "w2"
    found = said(judged(document), "its wall is 3.00 m")
    assert found
    assert "Measure both again" in found[0].mend


def test_a_spread_no_water_can_have_is_named():
    document = with_spec("r-bed", {**PANEL, "spread_k": 35.0})
    document["schemes"]["main"]["flow_c"] = 45.0
    found = said(judged(document), "a spread of 35 K at 45.0 °C water")[0]
    assert found.severity == "short"
    assert "A smaller spread" in found.mend
    document["schemes"]["main"]["flow_c"] = 16.0  # below the rooms: nothing is given, nothing breaks
    cold = judged(document)
    assert all(r.reached_c < r.target_c for r in cold.rooms)


def test_a_panel_nobody_looked_down_on_widens_the_doubt():
    small = {**PANEL, "length_m": 0.7}  # so that this room sets the water
    known = doubts.judge(parse(with_spec("r-bed", small)), samples=1000)
    unknown = doubts.judge(parse(with_spec("r-bed", {**small, "type": "panel-double"})), samples=1000)

    def swing(found, key):
        return next(c.flow_k for c in found.causes if c.key.startswith(f"emitter:{key}:"))

    cause = next(c for c in unknown.causes if c.key.startswith("emitter:panel-double"))
    assert (cause.low_share, cause.high_share) >= (0.25, 0.33)
    assert swing(unknown, "panel-double") > swing(known, "t22")


def test_the_blending_valve_stays_until_the_water_is_cool_enough():
    document = tansy_cut()
    fates = {}
    for flow in (48.0, 38.0):
        document["schemes"]["lukewarm"]["flow_c"] = flow
        result = judged(document)
        fates[flow] = {line.kind: line.fate for line in result.waterline.manifolds}
        bears = room(result, "garden").emitters[0].heated.most_flow_c
        assert (flow > bears) == (fates[flow]["blending-valve"] == "keep")
    assert fates[38.0]["blending-valve"] == fates[38.0]["manifold-pump"] == "remove"
    assert fates[38.0]["safety-thermostat"] == "keep"
    document["survey"]["manifolds"]["blend"]["keep"] = "The owner wants it"
    assert next(li for li in judged(document).waterline.manifolds if li.id == "blend").fate == "keep"
    document["survey"]["emitters"]["loop-garden"]["spec"]["valve"] = "actuator"
    assert any(li.emitter == "loop-garden" and li.fate == "remove" for li in judged(document).waterline.manifolds)


def test_words_no_table_knows_are_kept_counted_for_nothing_and_said():
    document = tansy_cut()
    spec = document["survey"]["emitters"]["r-kitchen"]["spec"]
    plain = room(judged(document), "kitchen").emitters[0].rated_w
    spec |= {"obstructions": ["aquarium"], "connection": "sideways", "valve": "paddle"}
    document["survey"]["manifolds"]["odd"] = {"kind": "flux-inverter", "rooms": ["garden"]}
    result = judged(document)
    found = {f.where.rsplit("/", 1)[1]: f for f in result.findings if "is not known here" in f.what}
    assert {key: f.severity for key, f in found.items()} == dict.fromkeys(
        ("obstructions", "connection", "valve", "kind"), "doubt"
    )
    assert "'aquarium'" in found["obstructions"].what
    assert found["obstructions"].mend
    assert room(result, "kitchen").emitters[0].rated_w == pytest.approx(plain)
    (odd,) = [line for line in result.waterline.manifolds if line.id == "odd"]
    assert (odd.fate, odd.label) == ("check", "flux-inverter")
    assert "'flux-inverter'" in odd.why
