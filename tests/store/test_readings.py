"""Readings beside their jobs, and the lease on a plant."""

import datetime as dt

import numpy as np
import pytest
from sqlalchemy import text

from cinder.errors import NotFound
from cinder.store.plants import PlantShelf
from cinder.store.readings import ReadingShelf
from cinder.store.record import Who
from tests.conftest import tansy_cut

ME = Who("readers", "r1")
START = dt.datetime(2026, 1, 10, 6, tzinfo=dt.UTC)


@pytest.fixture
def job(log):
    log.ensure_person(ME, company="Readers", person="R")
    document = tansy_cut() | {"id": f"read-{dt.datetime.now().timestamp():.6f}".replace(".", "-")}
    log.create(ME, document)
    return document["id"]


@pytest.fixture
def shelf(log):
    return ReadingShelf(log.engine)


def test_means_by_the_hour_are_those_of_numpy(shelf, job):
    rng = np.random.default_rng(4)
    values = rng.normal(30, 5, (300, 2))
    values[rng.random((300, 2)) < 0.1] = np.nan
    shelf.open(ME, job, "a", kind="file", label="A", channels=["supply_c", "room:parlour"])
    moments = [START + dt.timedelta(minutes=n) for n in range(300)]
    rows = [(at, [None if np.isnan(v) else float(v) for v in row]) for at, row in zip(moments, values, strict=True)]
    assert shelf.add(ME, job, "a", rows) == 300
    found = shelf.hourly(ME, job, shelf.source(ME, job, "a"))
    assert found.at.tolist() == [dt.datetime(2026, 1, 10, 7 + n) for n in range(5)]
    assert found.figures == pytest.approx(np.nanmean(values.reshape(5, 60, 2), axis=1))
    assert found.channel("room:parlour") == pytest.approx(found.figures[:, 1])
    assert np.isnan(found.channel("no such")).all()


def test_a_moment_is_kept_once_and_whatever_order_it_comes_in(shelf, job):
    shelf.open(ME, job, "a", kind="file", label="A", channels=["x"])
    assert shelf.add(ME, job, "a", [(START + dt.timedelta(minutes=1), [2.0]), (START, [1])]) == 2
    assert shelf.add(ME, job, "a", [(START, [9.0]), (START + dt.timedelta(minutes=2), [None])]) == 1
    assert [row for _, row in shelf.last(ME, job, "a", count=5)] == [[1.0], [2.0], [None]]
    source = shelf.sources(ME, job)[0]
    assert (source.first, source.count) == (START, 3)


def test_others_readings_are_not_ours_and_what_is_let_go_of_is_gone(shelf, job):
    shelf.open(ME, job, "a", kind="file", label="A", channels=["x"])
    shelf.add(ME, job, "a", [(START, [1.0])])
    shelf.tell(ME, job, "a", ["odd", "odd", "odder"])
    assert shelf.sources(ME, job)[0].told == ("odd", "odder")
    assert shelf.sources(Who("others", "o"), job) == []
    with pytest.raises(NotFound):
        shelf.forget(Who("others", "o"), job, "a")
    shelf.forget(ME, job, "a")
    assert shelf.stamp(ME, job) == ()


def test_one_worker_holds_a_plant_until_it_gives_no_sign_of_life(log, job):
    shelf = PlantShelf(log.engine)
    shelf.watch(ME, job, "s1", address="127.0.0.1:1", every_s=1.0, stand_in=None)
    held = [one for one in iter(lambda: shelf.lease("w1"), None) if one.job_id == job]
    assert len(held) == 1
    assert shelf.lease("w2") is None
    assert shelf.renew("w1", held[0]) == []
    assert shelf.renew("w2", held[0]) is None
    with log.engine.begin() as c:
        c.execute(
            text("UPDATE watched_plants SET lease_until = now() - interval '1 second' WHERE job_id = :job"),
            {"job": job},
        )
    assert shelf.lease("w2").job_id == job
    shelf.say("w1", held[0], state="live", said="not mine any more")
    assert shelf.watched(ME, job).state == "waiting"
    assert shelf.order(ME, job, {"id": "o1", "key": "cold_flow_c", "value": 44.0})
    assert shelf.renew("w2", held[0]) == [{"id": "o1", "key": "cold_flow_c", "value": 44.0}]
    shelf.say("w2", held[0], state="live", said="Read.", done=["o1"], last_at=START)
    now = shelf.watched(ME, job)
    assert (now.state, now.orders, now.last_at) == ("live", (), START)
    assert 0 <= now.heard_s < 60
    shelf.stop(ME, job)
    assert shelf.renew("w2", held[0]) is None
    assert not shelf.order(ME, job, {"id": "o2", "key": "cold_flow_c", "value": 44.0})
