"""What did not change is read once, and never told apart from what was read anew."""

import copy
import random

import pytest

from cinder.errors import CinderError, InvalidJob
from cinder.model import Job, parse, sharing, upgraded
from cinder.model.references import problems
from cinder.model.sharing import Sharing
from tests.conftest import house, oat_store, tansy_cut
from tests.fuzz.mutate import spoilt

HOUSES = [tansy_cut(), oat_store(), house("three-rooms"), house("two-storeys-open")]


def afresh(document):
    """The job as it is read with nothing known; None where it is refused."""
    try:
        job = Job.model_validate(upgraded(document))
    except ValueError:
        return None
    return None if problems(job) else job


def test_what_did_not_change_is_the_same_object():
    document = tansy_cut()
    before = parse(copy.deepcopy(document))
    document["survey"]["rooms"]["hall"]["height_m"] = 2.7
    after = parse(document)
    for key, room in after.survey.rooms.items():
        assert (room is before.survey.rooms[key]) == (key != "hall")
    assert all(after.library.constructions[key] is one for key, one in before.library.constructions.items())
    assert after.survey.rooms["hall"].height_m == 2.7


def test_many_edits_one_after_the_other_are_what_they_are_read_alone():
    """Long rows of random edits, each on what the last left: sharing and reading afresh agree in every value, and in what is
    refused."""
    taken = 0
    for n in range(6):
        rng = random.Random(n)
        document = copy.deepcopy(rng.choice(HOUSES))
        for _ in range(40):
            changed, said = spoilt(document, rng)
            expected = afresh(changed)
            try:
                job = parse(changed)
            except CinderError:
                assert expected is None, (n, said)
                continue
            assert job == expected, (n, said)
            assert job.model_dump() == expected.model_dump()
            assert job.model_fields_set == expected.model_fields_set
            document, taken = changed, taken + 1
    assert taken > 40


@pytest.mark.parametrize(
    ("good", "bad"), [(None, float("nan")), (2, True), (2.5, "2.5"), (2.5, float("inf")), (0.0, False)]
)
def test_what_only_looks_the_same_is_not(good, bad):
    """JSON would write some of these alike, and Python holds some of them equal."""
    document = tansy_cut()
    document["survey"]["rooms"]["hall"]["target_c"] = 18 if good in (0.0, 2, 2.5) else good
    document["survey"]["rooms"]["hall"]["height_m"] = good or 2.0
    parse(document)
    document["survey"]["rooms"]["hall"]["height_m"] = bad
    with pytest.raises(InvalidJob) as refused:
        parse(document)
    assert refused.value.problems[0].path == "/survey/rooms/hall/height_m"


def test_the_document_given_stays_as_it_is():
    document = tansy_cut()
    before = copy.deepcopy(document)
    parse(document)
    parse(document)
    assert document == before


def test_it_forgets_what_was_not_used_lately(monkeypatch):
    monkeypatch.setattr(sharing, "MOST_ENTRIES", 10)
    kept = Sharing()
    for n in range(30):
        document = house("one-room")
        document["survey"]["rooms"][next(iter(document["survey"]["rooms"]))]["label"] = f"Room {n}"
        known, unknown = kept.with_known(upgraded(document))
        kept.keep(Job.model_validate(known), unknown)
        assert len(kept._kept) <= 10
    assert kept._bytes == sum(len(contents) for _, contents in kept._kept)
