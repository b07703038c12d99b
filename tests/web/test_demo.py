"""The sample jobs a fresh database starts with: invented houses with drawn pictures, one left half surveyed."""

import io

import pytest
from PIL import Image

from cinder.design import design
from cinder.design.apart.doubts import gaps as survey_gaps
from cinder.exchange.files import demo_pictures
from cinder.service.demo import DEMO_JOBS, seed
from cinder.store.database import engine
from cinder.store.photos import PhotoShelf
from tests.conftest import ANNA


@pytest.fixture
def shelf(database):
    return PhotoShelf(engine(database))


def test_sample_jobs_come_once_with_their_pictures(log, shelf):
    made = seed(log, shelf, ANNA)
    assert set(made) <= set(DEMO_JOBS)
    assert seed(log, shelf, ANNA) == []
    photos = log.current(ANNA, "tansy-cut").job.survey.photos
    assert len(photos) == 5
    for photo in photos.values():
        assert Image.open(io.BytesIO(shelf.get(ANNA, photo.sha256, "thumb"))).size == (320, 240)


def test_drawn_pictures_are_the_same_every_time():
    assert [p[0] for p in demo_pictures.drawn()] == [p[0] for p in demo_pictures.drawn()]


def test_the_lock_keepers_house_has_its_story(log, shelf):
    """Split level, a bay, a bedroom partly over an open porch, two contradictions, some told and some measured."""
    seed(log, shelf, ANNA)
    job = log.current(ANNA, "tansy-cut").job
    result = design(job)
    rooms = {room.id: room for room in result.rooms}
    assert all(room.placed for room in result.rooms)
    assert rooms["garden"].bottom_m == pytest.approx(-0.3)
    assert len(job.survey.rooms["parlour"].walk) == 12
    floor = next(f for f in rooms["bed3"].faces if f.key == "floor")
    assert {p.beyond for p in floor.pieces} == {"outside", "room"}
    assert sum(bool(wall.at_odds) for wall in result.walls) == 2
    hows = {known.how for room in job.survey.rooms.values() for known in room.known.values()}
    assert {"measured", "told", "inferred"} <= hows
    # swapping the boiler alone leaves two stubborn rooms and a pipe the pump cannot serve
    plain = design(job.model_copy(update={"active_scheme": "plain"}))
    assert set(plain.waterline.short) == {"parlour", "bed3"}
    assert plain.pipework.head_used > 1


def test_the_oat_store_is_half_surveyed_on_purpose(log, shelf):
    seed(log, shelf, ANNA)
    job = log.current(ANNA, "oat-store").job
    left = survey_gaps.leaving(job)
    assert not left.good_enough
    assert job.site.units == "feet"
    assert any("misses its start by 152 mm" in gap.what for gap in left.gaps)  # six inches
    assert any("locked" in gap.what for gap in left.unseen)
    assert job.site.answers["wet_system"] is False
