"""The range of the losses: one draw per cause, the same evaluation as the single design, every doubt by what it moves."""

import copy

import numpy as np
import pytest

from cinder.design import emitters as emitter_design
from cinder.design import losses
from cinder.design.apart import doubts
from cinder.design.findings import Findings
from cinder.design.house.view import view
from cinder.model import parse
from tests.conftest import house, judged, tansy_cut


def prepared(document):
    seen = view(parse(document), Findings())
    arrays = losses.of_house(seen, Findings())
    return seen, arrays, emitter_design.arrays(seen, Findings())


def test_without_any_factor_the_sample_is_the_single_design():
    seen, arrays, rated = prepared(tansy_cut())
    causes = doubts.gather(seen, arrays, rated)
    sampled, factor = doubts.drawn(arrays, causes, np.zeros((3, len(causes))))
    many = losses.evaluate(sampled, seen.outdoor_c)
    one = losses.evaluate(arrays, seen.outdoor_c)
    assert many.house_w == pytest.approx([float(one.house_w)] * 3)
    assert many.emitter_load_w[1] == pytest.approx(one.emitter_load_w)
    assert factor == pytest.approx(np.ones_like(factor))
    assert float(one.house_w) == pytest.approx(judged(tansy_cut()).house.loss_w)


def test_the_same_seed_gives_the_same_range_and_another_nearly_the_same():
    job = parse(tansy_cut())
    first, again, other = doubts.judge(job), doubts.judge(job), doubts.judge(job, seed=7)
    assert first == again
    assert other.house.p10_w != first.house.p10_w
    assert other.house.p10_w == pytest.approx(first.house.p10_w, rel=0.01)
    assert other.house.p90_w == pytest.approx(first.house.p90_w, rel=0.01)


def test_one_cause_alone_gives_its_own_quantiles():
    """Only the wall is in doubt (+-25 %): the house loss between P10 and P90 is that of walls at 0.75 and 1.25 of U."""
    seen, arrays, rated = prepared(house("one-room"))
    causes = doubts.gather(seen, arrays, rated)
    wall = next(c for c in causes if c.key.startswith("construction:wall"))
    wall.low = wall.high = 0.25
    logs = np.log([[0.75], [1.0], [1.25]])
    sampled, _ = doubts.drawn(arrays, [wall], logs)
    watts = losses.evaluate(sampled, seen.outdoor_c).house_w
    walls = sum(
        p.area_m2 * (arrays.target_c[p.room] - seen.outdoor_c) * p.u for n, p in enumerate(arrays.pieces) if n in wall.u
    )
    assert watts[2] - watts[0] == pytest.approx(0.5 * walls)
    mean, sigma = wall.mean_and_sigma()
    draws = np.exp(mean + sigma * np.random.default_rng(1).standard_normal(200_000))
    assert np.percentile(draws, [10, 90]) == pytest.approx([0.75, 1.25], rel=0.01)


def test_a_construction_on_many_faces_is_one_draw():
    """Doubling the faces of one construction doubles its swing: were each face drawn apart, it would grow by sqrt 2."""
    document = house("one-room")
    wide = copy.deepcopy(document)
    (room,) = wide["survey"]["rooms"].values()
    for run in room["walk"]:
        run["length_m"] *= 2

    def swing(d):
        return next(c.watts_w for c in doubts.judge(parse(d)).causes if c.key.startswith("construction:wall"))

    _, arrays, _ = prepared(document)
    _, big, _ = prepared(wide)
    walls = [sum(p.area_m2 for p in a.pieces if p.face.startswith("w") and not p.opening) for a in (arrays, big)]
    assert swing(wide) / swing(document) == pytest.approx(walls[1] / walls[0], rel=1e-6)


def test_laser_bias_scales_floors_by_its_square_and_walls_by_walk_and_height():
    seen, arrays, rated = prepared(tansy_cut())
    laser = next(c for c in doubts.gather(seen, arrays, rated) if c.key == "lengths:laser")
    kitchen = list(arrays.room_index).index("kitchen")
    for n, piece in enumerate(arrays.pieces):
        if piece.room == kitchen and piece.opening is None:
            assert laser.area[n] == 2.0  # floor: walk twice; wall: walk and height
    assert laser.volume[kitchen] == 3.0


def test_settling_a_doubt_narrows_the_range_and_takes_it_down_the_list():
    document = tansy_cut()
    before = doubts.judge(parse(document))
    worst = before.causes[0]
    for path in worst.paths:
        *way, last = path.strip("/").split("/")
        here = document
        for step in way:
            here = here.setdefault(step, {})
        here[last] = {"how": "measured"}
    after = doubts.judge(parse(document))
    assert after.house.p90_w - after.house.p10_w < 0.9 * (before.house.p90_w - before.house.p10_w)
    settled = next(c for c in after.causes if c.key == worst.key)
    assert settled.watts_w < 0.5 * worst.watts_w


def test_a_radiator_in_doubt_moves_the_water_and_not_the_loss():
    causes = doubts.judge(parse(tansy_cut())).causes
    column = next(c for c in causes if c.key.startswith("emitter:column"))
    assert column.watts_w == pytest.approx(0.0, abs=1e-6)
    assert column.flow_k > 0.5


def test_nothing_to_range_says_what_is_missing():
    document = house("three-rooms")
    document["climate"] = {}
    found = doubts.judge(parse(document))
    assert found.house is None
    assert "no climate" in found.sentence


def test_an_own_spread_goes_before_the_table():
    document = tansy_cut()
    document["survey"]["tightness"]["known"] = {"n50_per_h": {"how": "measured", "spread": 0.02}}
    tight = next(c for c in doubts.judge(parse(document)).causes if c.key == "tightness")
    assert (tight.low_share, tight.high_share) == (0.02, 0.02)


def test_what_a_scheme_proposes_is_not_measured():
    """A build that is to be put in a place somebody measured is known from the library, and nothing there can settle it."""
    document = tansy_cut()
    parlour = document["survey"]["rooms"]["parlour"]
    face = next(key for key, one in parlour["faces"].items() if one.get("openings"))
    opening = next(iter(parlour["faces"][face]["openings"]))
    was = document["survey"]["rooms"]["parlour"]["faces"][face]["openings"][opening]
    was.setdefault("known", {})["construction"] = {"how": "measured"}
    put = next(
        key
        for key in document["library"]["constructions"]
        if key.startswith("window") and key != was.get("construction")
    )
    used = [c for c in doubts.judge(parse(document)).causes if c.key == f"construction:{put}"]
    measure = {"kind": "opening", "room": "parlour", "face": face, "opening": opening, "construction": put}
    document["schemes"]["lukewarm"]["measures"]["proposed"] = measure
    (cause,) = [c for c in doubts.judge(parse(document)).causes if c.key == f"construction:{put}"]
    place = f"/survey/rooms/parlour/faces/{face}/openings/{opening}/known/construction"
    assert place not in cause.paths
    assert cause.how == ("read" if not used else min((used[0].how, "read"), key=doubts.decide.WEAKEST.index))
    floor = next(
        c for c in doubts.judge(parse(tansy_cut())).causes if c.label == "Upper floor over open air, 100 mm wool"
    )
    assert (floor.how, floor.paths, floor.mend) == ("read", [], "A proposal: see that it is built so.")
