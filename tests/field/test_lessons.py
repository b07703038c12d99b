"""What a company learns from its own winters; pools themselves against `statsmodels` in `tests/outside/test_pooled.py`."""

from dataclasses import replace

import numpy as np
import pytest

from cinder.design.apart.doubts.decide import sampled_causes
from cinder.field.lessons import Winter, judge, kind_of
from cinder.field.winter.decide import ORDINARY_C
from cinder.model import parse
from tests.conftest import tansy_cut

PLAIN = Winter("a", "A", "before-1920", "boards", False, 0.9, 0.04, 0.95, 0.9)


@pytest.fixture(scope="module")
def job():
    found = parse(tansy_cut())
    return found, sampled_causes(found, ORDINARY_C)


def houses(ratios, **how):
    return [replace(PLAIN, job=f"j{n}", title=f"J{n}", loss=float(one), **how) for n, one in enumerate(ratios)]


def test_age_and_build_are_those_of_most_rooms(job):
    assert kind_of(job[0]) == ("before-1920", "boards")


def test_two_houses_teach_nothing_and_the_jobs_own_winter_is_no_lesson_for_it(job):
    assert "2 other houses with a winter" in judge(houses([0.8, 0.9]), *job).lacks
    own = replace(PLAIN, job="tansy-cut", loss=3.0)
    found = judge([own, *houses([0.9, 0.9, 0.9])], *job)
    assert found.losses[0].bias.mid == pytest.approx(0.9)
    assert len(found.houses) == 4


def test_two_winters_of_a_house_count_as_one(job):
    once = judge(houses([0.8, 0.9, 1.0]), *job)
    twice = judge([*houses([0.8, 0.9, 1.0]), *houses([0.8, 0.9, 1.0])], *job)
    assert twice.losses[0].houses == once.losses[0].houses == 3
    assert twice.losses[0].bias.mid == pytest.approx(once.losses[0].bias.mid)


def test_the_lesson_of_like_houses_moves_this_ones_doubts(job):
    """Boarded houses an eighth under their calculation, brick ones as calculated: the boarded one is told of the boarded."""
    boards = houses([0.84, 0.90, 0.93, 0.80, 0.91])
    brick = [replace(one, job=f"b{n}", build="brick", age="1950-1965", loss=1.0) for n, one in enumerate(boards)]
    found = judge([*boards, *brick], *job)
    assert found.own is not None
    assert found.own.kind == "build:boards"
    assert 0.87 < found.own.bias.mid < 0.92  # drawn a little to everyone's
    assert found.after_w is not None
    assert found.before_w is not None
    assert found.after_w.mid < found.before_w.mid
    assert found.after_w.high - found.after_w.low < found.before_w.high - found.before_w.low
    assert found.proposals
    assert all("less" in one.says or "settled" in one.says for one in found.proposals)
    assert "less" in found.sentence


def test_a_winter_without_a_signature_or_a_machine_still_tells_the_rest(job):
    some = [replace(one, machine=None) for one in houses([0.9, 0.95, 1.0])]
    found = judge([*some, replace(PLAIN, job="x", loss=None, machine=0.9)], *job)
    assert found.losses[0].houses == 3
    assert found.machines == []
    assert found.emitters[0].houses == 4
    assert np.isfinite(found.emitters[0].next_house.low)
