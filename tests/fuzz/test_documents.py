"""Every document gives a Design with findings, or a refusal that names the place; never a fault."""

import math

import numpy as np
import pytest

from cinder.design import design, working, year
from cinder.design.apart import bills as bill_check
from cinder.design.apart import doubts, measures
from cinder.design.apart.compare import side_by_side
from cinder.design.apart.doubts import gaps as survey_gaps
from cinder.design.findings import OURS
from cinder.errors import CinderError, InvalidJob
from cinder.library import shipped_year
from cinder.model import parse
from tests.conftest import house, oat_store, tansy_cut
from tests.fuzz.mutate import leaves, seeds, spoilt

HOUSES = [tansy_cut(), house("three-rooms"), house("two-storeys-open"), house("bungalow"), oat_store()]


def sound(result, of):
    """No figure that is no number, no fault of ours among the findings, every finding with a place and words."""
    for path, value in leaves(result.model_dump()):
        assert not isinstance(value, float) or math.isfinite(value), (of, path, value)
    for finding in getattr(result, "findings", []):
        assert OURS.capitalize() not in finding.why, (of, finding)
        assert finding.where, (of, finding)
        assert finding.what, (of, finding)


def read(document, of):
    """The job, or None where the document is refused; the refusal names its places in words."""
    try:
        return parse(document)
    except CinderError as error:
        refused = error
    assert refused.message, of
    if isinstance(refused, InvalidJob):
        assert refused.problems, of
        assert all(problem.path and problem.message for problem in refused.problems), of
    return None


def refusal(job, result, key):
    """What a working is refused with, or None."""
    try:
        working(job, result, key)
    except CinderError as error:
        return error.message
    return None


@pytest.mark.filterwarnings("error::RuntimeWarning")
def test_a_spoilt_document_is_judged_or_refused_at_its_place():
    judged = 0
    with np.errstate(all="raise", under="ignore"):
        for rng in seeds():
            document, said = spoilt(rng.choice(HOUSES), rng)
            of = (rng.seed_of, said)
            if job := read(document, of):
                sound(design(job), of)
                judged += 1
    assert judged > 5


KEYS = ("house", "flow", "cover", "season", "head", "open", "reheat", "curve", "slab:0", "room:parlour", "room-reached:living")  # fmt: skip


@pytest.mark.filterwarnings("error::RuntimeWarning")
def test_the_slow_answers_of_a_spoilt_document():
    """Year, bills, doubts, measures, schemes, gaps and workings of what came through."""
    asked = 0
    with np.errstate(all="raise", under="ignore"):
        for rng in seeds():
            document, said = spoilt(rng.choice(HOUSES), rng, most=3)
            of = (rng.seed_of, said)
            if not (job := read(document, of)):
                continue
            result = design(job)
            climate = job.library.climates.get(job.climate.entry or "")
            weather = shipped_year(climate.data.year_sha256) if climate and climate.data.year_sha256 else None
            sound(year.judge(job, result, weather), of)
            sound(bill_check.judge(job, result, weather), of)
            sound(doubts.judge(job), of)
            sound(survey_gaps.leaving(job, standing=None, doubts=None), of)
            sound(side_by_side(job), of)
            if rng.random() < 0.2:
                sound(measures.judge(job), of)
            assert all(refusal(job, result, key) != "" for key in KEYS), of
            asked += 1
    assert asked > 0
