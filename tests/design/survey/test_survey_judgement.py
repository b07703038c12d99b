"""What a survey says before it is complete: signs of a wall, the first guess, the gaps."""

import pytest

from cinder.design.apart import doubts
from cinder.design.apart.doubts import gaps as survey_gaps
from cinder.design.survey import first_guess, signs
from cinder.library import load
from cinder.model import HousePart, empty_job, parse
from tests.conftest import tansy_cut


def part(**seen):
    return HousePart(label="House", age="before-1920", signs=seen)


def test_signs_are_weighed_by_bayes_by_hand():
    """Bond with headers, 228 mm, before 1920: prior x likelihoods for each hypothesis, worked out from the table."""
    table = load().signs
    weight = {k: h.prior["before-1920"] * h.bond["headers"] * h.thickness[1] for k, h in table.items()}
    expected = weight["brick-one"] / sum(weight.values())
    told = signs.verdict("main", part(bond="headers", thickness=228.0))
    assert told.guesses[0].id == "brick-one"
    assert told.guesses[0].probability == pytest.approx(expected, rel=1e-9)
    assert sum(g.probability for g in told.guesses) == pytest.approx(1.0, abs=0.02)
    assert told.at_odds == []


def test_a_lone_thickness_is_no_proof():
    """A reading of 225 to 230 mm alone is argued both ways (common practice): bond and thickness say more than one."""
    lone = signs.verdict("main", HousePart(label="House", age="1920-1960", signs={"thickness": 228.0}))
    both = signs.verdict(
        "main", HousePart(label="House", age="1920-1960", signs={"thickness": 228.0, "bond": "headers"})
    )
    assert lone.guesses[0].probability < 0.9
    assert both.guesses[0].probability > lone.guesses[0].probability


def test_contradiction_is_a_doubt_with_what_would_settle_it():
    odd = signs.verdict("main", part(bond="headers", thickness=228.0, told="filled"))
    assert odd.guesses[0].id == "brick-one"
    assert odd.at_odds == ["the occupant's word"]
    assert "borescope" in odd.settles
    assert "says otherwise" in odd.sentence


@pytest.mark.parametrize(("seen", "expected"), [
    ({"bond": "stretchers", "thickness": 275.0}, ("cavity-unfilled", "cavity-filled")),
    ({"bond": "stone", "thickness": 500.0}, ("stone",)),
    ({"bond": "boards", "thickness": 150.0}, ("frame",)),
    ({"bond": "stretchers", "thickness": 275.0, "plugs": True}, ("cavity-filled",)),
])  # fmt: skip
def test_what_signs_usually_mean(seen, expected):
    assert signs.verdict("main", part(**seen)).guesses[0].id in expected


def test_no_sign_no_verdict():
    assert signs.verdict("main", part()).guesses == []
    strange = signs.verdict("main", part(bond="glass", thickness=True))
    assert strange.guesses == []


def called(**answers):
    job = empty_job(job_id="x", title="X", library=load())
    job["site"]["answers"] = answers
    return parse(job)


def test_the_first_guess_is_a_range_by_hand():
    # before 1920, some insulation: 55 to 85 W/m2; 100 m2 told, +-10 %; no climate, so for -3 outside
    guess = first_guess.judge(called(floor_area_m2=100.0, age="before-1920", insulation="part"))
    assert (guess.low_w, guess.high_w) == (pytest.approx(90 * 55), pytest.approx(110 * 85))


def test_every_answer_narrows_it_and_reasons_carry_its_width():
    wide = first_guess.judge(called(floor_area_m2=100.0))
    aged = first_guess.judge(called(floor_area_m2=100.0, age="2002-2012"))
    known = first_guess.judge(called(floor_area_m2=100.0, age="2002-2012", insulation="good"))
    widths = [g.high_w - g.low_w for g in (wide, aged, known)]
    assert widths[0] > widths[1] > widths[2]
    assert sum(r.costs_w for r in aged.reasons) == pytest.approx(widths[1], rel=0.02)
    assert "age" in wide.reasons[0].what or "insulated" in wide.reasons[0].what


def test_the_bill_has_an_opinion_by_hand():
    job = tansy_cut()
    job["site"]["answers"] = {"bill_kwh": 20000.0, "fuel": "gas", "how_now": "all", "floor_area_m2": 120.0}
    parsed = parse(job)
    guess = first_guess.judge(parsed)
    climate = parsed.library.climates["mild-maritime"].data
    degree_hours = sum(h * max(15.5 - t, 0) for t, h in zip(climate.bin_outdoor_c, climate.bin_hours, strict=True))
    heat = 20000 * 0.75 - 3 * 700  # kWh: a boiler at 75 %, three people's hot water
    assert guess.bill_low_w == pytest.approx(heat * 1000 / degree_hours * 23 * 0.95)


def test_questions_follow_the_answers():
    ids = [a.id for a in first_guess.asked(called(fuel="oil", wet_system=True, walls="cavity"))]
    assert {"tank", "thin_pipes", "cavity_filled"} <= set(ids)
    assert "back_boiler" not in ids
    solid = {a.id: a for a in first_guess.asked(called(fuel="solid", back_boiler=True, wet_system=False))}
    assert "thin_pipes" not in solid
    assert solid["back_boiler"].brings == ["Torch and mirror for the pipes behind the stove"]
    assert any("pipe route" in what for what in solid["wet_system"].brings)


def test_gaps_come_nearest_first_from_where_one_stands():
    job = parse(tansy_cut())
    left = survey_gaps.leaving(job, standing="bath", doubts=doubts.judge(job))
    first = next(gap for gap in left.gaps)
    assert first.room == "bath"
    distances = [gap.distance_m for gap in left.gaps]
    assert distances == sorted(distances)
    upstairs = [g.distance_m for g in left.gaps if g.room == "landing"]
    downstairs = [g.distance_m for g in left.gaps if g.room == "hall"]
    assert max(upstairs) < min(downstairs)  # the stairs count


def test_what_could_not_be_seen_is_no_gap_but_is_listed():
    document = tansy_cut()
    document["survey"]["rooms"]["kitchen"].pop("height_m")
    job = parse(document)
    left = survey_gaps.leaving(job)
    assert any(g.where.endswith("kitchen/height_m") for g in left.gaps)
    assert not left.good_enough
    document["survey"]["rooms"]["kitchen"]["unseen"] = {"height_m": "ceiling taken down"}
    left = survey_gaps.leaving(parse(document))
    assert not any(g.where.endswith("kitchen/height_m") for g in left.gaps)
    assert any("ceiling taken down" in g.what for g in left.unseen)


def test_good_enough_says_the_range_and_a_wide_one_says_where_to_look():
    job = parse(tansy_cut())
    found = doubts.judge(job)
    good = survey_gaps.leaving(job, doubts=found)
    assert good.good_enough
    assert "Good enough to size from" in good.sentence
    wide = found.model_copy(update={"house": found.house.model_copy(update={"p90_w": 2 * found.house.p10_w})})
    assert "Go back" in survey_gaps.leaving(job, doubts=wide).sentence
