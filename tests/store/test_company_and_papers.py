"""What a company keeps for itself, and papers on their way: each company its own, nothing lost, nothing twice."""

import itertools
import uuid

import pytest

from cinder.errors import InvalidChange, NotFound
from cinder.library import load
from cinder.store.company import YEAR, CompanyShelf
from cinder.store.papers import PaperShelf
from cinder.store.queue import Orders, queue_app, somebody_works
from tests.conftest import ANNA, BERT, STRANGER, tansy_cut

NUMBER = itertools.count()
WALL = load().constructions["wall-brick-one"].model_dump(mode="json")


@pytest.fixture
def shelf(log):
    return CompanyShelf(log.engine)


def test_an_own_construction_comes_back_with_its_edition_and_only_to_its_company(shelf):
    edition, entry = shelf.put(ANNA, "constructions", "own-wall", WALL | {"label": "Ours"})
    assert (edition, entry.label, entry.id) == (1, "Ours", "own-wall")
    assert shelf.put(BERT, "constructions", "own-wall", WALL | {"label": "Ours, better"})[0] == 2
    assert shelf.entries(ANNA, "constructions")["own-wall"][1].label == "Ours, better"
    assert "own-wall" not in shelf.entries(STRANGER, "constructions")
    with pytest.raises(NotFound):
        shelf.drop(STRANGER, "constructions", "own-wall")
    shelf.drop(ANNA, "constructions", "own-wall")
    assert "own-wall" not in shelf.entries(ANNA, "constructions")


@pytest.mark.parametrize(("change", "place", "words"), [
    ({"layers": [{"label": "x", "thickness_m": 0.0, "lambda_w_mk": 1.0}]}, "/layers/0/thickness_m", "more than 0"),
    ({"layers": [{"label": "x", "thickness_m": 0.1, "lambda_w_mk": 0.0}]}, "/layers/0/lambda_w_mk", "more than"),
    ({"layers": [], "stated_u_w_m2k": 40.0}, "/stated_u_w_m2k", "at most 10"),
    ({"layers": []}, "/", "layer"),
    ({"element": "tower"}, "/element", ""),
])  # fmt: skip
def test_an_impossible_entry_is_refused_at_its_place_and_the_old_one_stands(shelf, change, place, words):
    key = f"own-{next(NUMBER)}"
    shelf.put(ANNA, "constructions", key, WALL)
    with pytest.raises(InvalidChange) as refused:
        shelf.put(ANNA, "constructions", key, WALL | change)
    assert place in [problem.path for problem in refused.value.problems]
    assert words in refused.value.problems[0].message
    assert shelf.entries(ANNA, "constructions")[key][0] == 1


def test_a_name_of_the_library_is_not_taken(shelf):
    with pytest.raises(InvalidChange, match="library's own name"):
        shelf.put(ANNA, "constructions", "wall-brick-one", WALL)
    with pytest.raises(NotFound):
        shelf.entries(ANNA, "spoons")


def test_prices_stand_in_place_of_the_shipped_ones_for_this_company_alone(shelf):
    row = load().measures["fill-cavity"].model_dump(mode="json") | {"m2_minor": 9900.0}
    shelf.put(ANNA, "measures", "fill-cavity", row)
    assert shelf.measures(BERT, load().measures)["fill-cavity"].m2_minor == 9900.0
    assert shelf.measures(STRANGER, load().measures)["fill-cavity"].m2_minor == load().measures["fill-cavity"].m2_minor
    shelf.drop(ANNA, "measures", "fill-cavity")


def test_a_year_is_kept_under_its_fingerprint(shelf):
    climate = load().climates["alpine-valley"]
    shipped = shelf.year(ANNA, climate.year_sha256)
    assert shipped is not None
    key = "ab" * 32
    shelf.keep_blob(ANNA, key, shipped.write(), YEAR)
    shelf.keep_blob(ANNA, key, b"something else", YEAR)  # the same fingerprint is the same thing
    assert (shelf.year(ANNA, key).outdoor_c == shipped.outdoor_c).all()
    assert shelf.year(STRANGER, key) is None
    assert shelf.year(ANNA, None) is None


@pytest.fixture
def papers(log):
    document = tansy_cut() | {"id": f"paper-job-{next(NUMBER)}"}
    log.create(ANNA, document)
    return PaperShelf(log.engine), document["id"]


def test_a_paper_asked_for_twice_is_one(papers):
    shelf, job = papers
    key = uuid.uuid4().hex
    first, new = shelf.ask(ANNA, job, 1, paper_id=key, kind="heat-loss")
    again, newer = shelf.ask(ANNA, job, 2, paper_id=key, kind="heat-loss")
    assert (new, newer) == (True, False)
    assert (first.id, again.version) == (key, 1)
    assert [paper.id for paper in shelf.of_job(ANNA, job)] == [key]
    assert shelf.of_job(STRANGER, job) == []


def test_a_paper_goes_from_waiting_to_ready(papers):
    shelf, job = papers
    key = uuid.uuid4().hex
    shelf.ask(ANNA, job, 1, paper_id=key, kind="heat-loss")
    with pytest.raises(NotFound, match="not ready"):
        shelf.file(ANNA, key)
    assert key in [paper for _, paper in shelf.unfinished()]
    shelf.tell(ANNA, key, progress=40, step="laying out")
    assert (shelf.paper(ANNA, key).state, shelf.paper(ANNA, key).progress) == ("working", 40)
    shelf.finish(ANNA, key, b"%PDF-x", 1.5)
    assert shelf.file(ANNA, key) == b"%PDF-x"
    assert shelf.paper(ANNA, key).state == "ready"
    assert key not in [paper for _, paper in shelf.unfinished()]
    with pytest.raises(NotFound):
        shelf.file(STRANGER, key)


def test_orders_wait_in_the_database_once_each(database, papers):
    shelf, job = papers
    key = uuid.uuid4().hex
    shelf.ask(ANNA, job, 1, paper_id=key, kind="heat-loss")
    orders = Orders(database)
    for _ in range(3):
        orders.write_paper(ANNA.company_id, ANNA.person_id, key)
    orders.close()
    app = queue_app(database)
    with app.open():
        found = [task for task in app.job_manager.list_jobs() if task.task_kwargs.get("paper_id") == key]
        assert [task.status for task in found].count("todo") <= 1  # another test's worker may have taken one up already
        assert 1 <= len(found) <= 2
        for task in found:
            app.job_manager.cancel_job_by_id(task.id)


def test_nobody_works_where_nobody_was_started(database, log):
    """Only a sign of life within the last half minute counts."""
    with log.engine.begin() as connection:
        connection.exec_driver_sql("UPDATE procrastinate_workers SET last_heartbeat = now() - interval '5 minutes'")
    assert not somebody_works(log.engine)
