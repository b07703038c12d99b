"""The change log on a real PostgreSQL: once, whole, reversible, and nobody else's."""

import copy
import itertools

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from cinder.errors import (
    ChangeIdReused,
    Conflict,
    FutureVersion,
    InvalidChange,
    InvalidJob,
    NotFound,
    NothingToUndo,
    StaleVersion,
)
from cinder.model import SCHEMA
from cinder.store import past, patch
from cinder.store.record import Change
from cinder.store.tables import ChangeRow, JobRow
from tests.conftest import ANNA, BERT, STRANGER, house

NUMBER = itertools.count()
HEIGHT = "/survey/rooms/living/height_m"
TITLE = "/title"


@pytest.fixture
def job(log):
    document = house("three-rooms") | {"id": f"job-{next(NUMBER)}"}
    log.create(ANNA, document)
    return document["id"]


def replace(path, value, base, change_id=None, label="an edit"):
    return Change(change_id or f"change-{next(NUMBER)}", base, [{"op": "replace", "path": path, "value": value}], label)


def test_a_change_is_kept_and_answers_the_same_again(log, job):
    change = replace(HEIGHT, 2.6, 1)
    first = log.apply(ANNA, job, change)
    assert (first.version, first.replayed) == (2, False)
    log.apply(ANNA, job, replace(HEIGHT, 2.7, 2))
    again = log.apply(ANNA, job, change)
    assert (again.version, again.replayed) == (2, True)
    assert again.document == first.document
    assert log.current(ANNA, job).document["survey"]["rooms"]["living"]["height_m"] == 2.7


def test_the_same_id_with_another_body(log, job):
    log.apply(ANNA, job, replace(HEIGHT, 2.6, 1, "twice-used-id"))
    with pytest.raises(ChangeIdReused):
        log.apply(ANNA, job, replace(HEIGHT, 2.9, 1, "twice-used-id"))
    with pytest.raises(ChangeIdReused):
        log.apply(BERT, job, replace(HEIGHT, 2.6, 1, "twice-used-id"))


def test_a_version_from_the_future(log, job):
    with pytest.raises(FutureVersion):
        log.apply(ANNA, job, replace(HEIGHT, 2.6, 7))


def test_stale_but_elsewhere_is_rebased(log, job):
    log.apply(ANNA, job, replace(HEIGHT, 2.6, 1))
    rebased = log.apply(BERT, job, replace("/survey/rooms/bed/height_m", 2.4, 1))
    assert rebased.version == 3
    rooms = rebased.document["survey"]["rooms"]
    assert (rooms["living"]["height_m"], rooms["bed"]["height_m"]) == (2.6, 2.4)


@pytest.mark.parametrize("path", [HEIGHT, "/survey/rooms/living", "/survey/rooms/living/height_m"])
def test_stale_in_the_same_place_shows_both_values(log, job, path):
    log.apply(ANNA, job, replace(HEIGHT, 2.6, 1))
    mine = 2.9 if path == HEIGHT else house("three-rooms")["survey"]["rooms"]["living"]
    with pytest.raises(StaleVersion) as refused:
        log.apply(BERT, job, replace(path, mine, 1))
    assert refused.value.detail["by"] == "Anna"
    assert refused.value.detail["yours"] == mine
    assert refused.value.detail["theirs"] is not None
    assert log.current(ANNA, job).version == 2


def test_two_edits_of_one_walk_meet(log, job):
    """A walk is one value: two people measuring different walls of it do not merge silently."""
    walk = "/survey/rooms/living/walk"
    log.apply(ANNA, job, replace(f"{walk}/0/length_m", 5.1, 1))
    with pytest.raises(StaleVersion):
        log.apply(BERT, job, replace(f"{walk}/1/length_m", 4.1, 1))


def test_rebased_references_are_checked_again(log, job):
    """Anna removes a construction nobody uses; Bert, on the old version, wants to use it."""
    spare = {"op": "add", "path": "/survey/spaces/spare", "value": {"label": "Spare"}}
    log.apply(ANNA, job, Change("add-the-spare", 1, [spare]))
    log.apply(ANNA, job, Change("drop-the-spare", 2, [{"op": "remove", "path": "/survey/spaces/spare"}]))
    beyond = {"kind": "space", "space": "spare"}
    with pytest.raises(InvalidJob, match="not there"):
        log.apply(BERT, job, replace("/survey/rooms/bath/faces/w1/spans/all/beyond", beyond, 2))
    assert log.current(ANNA, job).version == 3


BAD_OPERATIONS = [
    ([], "at least one"),
    ([{"op": "move", "from": "/a", "path": "/b"}], "other than the four"),
    ([{"op": "copy", "from": "/a", "path": "/b"}], "other than the four"),
    ([{"op": "add", "path": "/title2"}], "needs a value"),
    ([{"op": "remove", "path": "/site", "value": 1}], "takes no value"),
    ([{"op": "replace", "path": "", "value": {}}], "cannot be edited"),
    ([{"op": "replace", "path": "/id", "value": "other"}], "cannot be edited"),
    ([{"op": "replace", "path": "/schema", "value": 2}], "cannot be edited"),
    ([{"op": "replace", "path": "/survey/rooms/cellar/height_m", "value": 2.0}], "leads nowhere"),
    ([{"op": "remove", "path": "/survey/rooms/cellar"}], "leads nowhere"),
    ([{"op": "add", "path": "/survey/rooms/living", "value": {}}], "already there"),
    ([{"op": "replace", "path": "no-slash", "value": 1}], "leads nowhere"),
    ([{"op": "replace", "path": "/survey/rooms/living/walk/9", "value": {}}], "leads nowhere"),
    ([{"op": "test", "path": "/title", "value": "x"}] * 501, "at most 500"),
]


@pytest.mark.parametrize(("operations", "message"), BAD_OPERATIONS)
def test_bad_operations_leave_everything_as_it_was(log, job, operations, message):
    before = log.current(ANNA, job)
    with pytest.raises(InvalidChange, match=message):
        log.apply(ANNA, job, Change(f"bad-{next(NUMBER)}", 1, operations))
    after = log.current(ANNA, job)
    assert (after.version, after.document) == (before.version, before.document)


def test_half_a_change_is_never_written(log, job):
    """The second operation is impossible, so the first is not kept either."""
    operations = [
        {"op": "replace", "path": TITLE, "value": "New name"},
        {"op": "replace", "path": HEIGHT, "value": -1.0},
    ]
    with pytest.raises(InvalidJob):
        log.apply(ANNA, job, Change("half-a-change", 1, operations))
    assert log.current(ANNA, job).document["title"] == "Three rooms"


def test_a_failed_test_operation_is_a_conflict(log, job):
    operations = [{"op": "test", "path": TITLE, "value": "Other"}, {"op": "replace", "path": TITLE, "value": "X"}]
    with pytest.raises(Conflict, match="no longer"):
        log.apply(ANNA, job, Change("test-fails-here", 1, operations))


def test_undo_and_redo_walk_the_stack(log, job):
    start = log.current(ANNA, job).document
    log.apply(ANNA, job, replace(HEIGHT, 2.6, 1, label="first"))
    log.apply(ANNA, job, replace(TITLE, "Renamed", 2, label="second"))
    both = log.current(ANNA, job).document
    assert log.undoable(ANNA, job) == ("second", None)
    log.undo(ANNA, job, "undo-the-second")
    assert log.undoable(ANNA, job) == ("first", "second")
    assert log.undo(ANNA, job, "undo-the-first").document == start
    with pytest.raises(NothingToUndo):
        log.undo(ANNA, job, "undo-too-many")
    log.redo(ANNA, job, "redo-the-first")
    assert log.redo(ANNA, job, "redo-the-second").document == both
    log.undo(ANNA, job, "undo-once-more")
    log.apply(ANNA, job, replace(HEIGHT, 3.0, 7, label="third"))
    with pytest.raises(NothingToUndo):
        log.redo(ANNA, job, "redo-after-edit")


def test_undo_sent_twice_takes_back_once(log, job):
    log.apply(ANNA, job, replace(HEIGHT, 2.6, 1))
    log.apply(ANNA, job, replace(TITLE, "Renamed", 2))
    first = log.undo(ANNA, job, "the-same-undo")
    again = log.undo(ANNA, job, "the-same-undo")
    assert again.replayed
    assert again.version == first.version
    assert again.document["survey"]["rooms"]["living"]["height_m"] == 2.6


def test_undo_takes_mine_and_not_yours(log, job):
    log.apply(ANNA, job, replace(HEIGHT, 2.6, 1))
    log.apply(BERT, job, replace(TITLE, "Bert's name", 2))
    undone = log.undo(ANNA, job, "annas-own-undo")
    assert undone.document["title"] == "Bert's name"
    assert undone.document["survey"]["rooms"]["living"]["height_m"] == 2.5


def test_undo_of_what_somebody_touched_since_names_them(log, job):
    log.apply(ANNA, job, replace(HEIGHT, 2.6, 1))
    log.apply(BERT, job, replace(HEIGHT, 2.8, 2))
    with pytest.raises(StaleVersion, match="Bert"):
        log.undo(ANNA, job, "undo-under-bert")


def test_what_if_leaves_version_and_log_untouched(log, job):
    before, entries = log.current(ANNA, job), log.history(ANNA, job)
    version, now, then = log.what_if(ANNA, job, [{"op": "replace", "path": HEIGHT, "value": 3.3}])
    assert (version, now["survey"]["rooms"]["living"]["height_m"], then.survey.rooms["living"].height_m) == (
        1,
        2.5,
        3.3,
    )
    assert log.current(ANNA, job).document == before.document
    assert log.history(ANNA, job) == entries


def test_another_company_sees_nothing(log, job):
    for call in (log.current, log.history):
        with pytest.raises(NotFound):
            call(STRANGER, job)
    assert log.undoable(STRANGER, job) == (None, None)
    assert all(row.company_id == "company-b" for row in log.jobs(STRANGER))


def test_history_names_person_and_label(log, job):
    log.apply(BERT, job, replace(HEIGHT, 2.6, 1, label="higher"))
    newest, oldest = log.history(ANNA, job)
    assert (newest.person, newest.label, newest.kind) == ("Bert", "higher", "edit")
    assert oldest.kind == "create"


# ---- random changes and their undos

ROOM_IDS = ("living", "bed", "bath")


@st.composite
def gesture(draw):
    room = draw(st.sampled_from(ROOM_IDS))
    kind = draw(st.sampled_from(["height", "label", "space", "known", "walk", "note"]))
    if kind == "height":
        return [{"op": "replace", "path": f"/survey/rooms/{room}/height_m", "value": draw(st.floats(1.5, 6.0))}]
    if kind == "label":
        return [
            {
                "op": "replace",
                "path": f"/survey/rooms/{room}/label",
                "value": draw(st.text(st.characters(exclude_categories=("Cs", "Cc")), max_size=20)),
            }
        ]
    if kind == "space":
        key = draw(st.uuids()).hex
        return [{"op": "add", "path": f"/survey/spaces/{key}", "value": {"label": "x", "b": draw(st.floats(0, 1))}}]
    if kind == "known":
        how = draw(st.sampled_from(["told", "measured"]))
        return [
            {"op": "replace", "path": f"/survey/rooms/{room}/known", "value": {"height_m": {"how": how}}},
            {"op": "replace", "path": f"/survey/rooms/{room}/height_m", "value": draw(st.floats(2, 3))},
        ]
    if kind == "walk":
        return [
            {
                "op": "replace",
                "path": f"/survey/rooms/{room}/walk/{draw(st.integers(0, 3))}/length_m",
                "value": draw(st.floats(0.5, 9)),
            }
        ]
    return [
        {"op": "add", "path": f"/survey/rooms/{room}/unseen/x", "value": "behind the wardrobe"},
        {"op": "remove", "path": f"/survey/rooms/{room}/unseen/x"},
    ]


@settings(max_examples=12, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(gestures=st.lists(gesture(), min_size=1, max_size=12), undo_at=st.sets(st.integers(0, 11)))
def test_random_changes_and_their_undos(log, gestures, undo_at):
    """Undone one by one, the document is exactly what it was; the log replayed gives the current document."""
    document = house("three-rooms") | {"id": f"random-{next(NUMBER)}"}
    for room in document["survey"]["rooms"].values():
        room.setdefault("known", {})
        room.setdefault("unseen", {})
    log.create(ANNA, document)
    job, standing = document["id"], 0
    for n, operations in enumerate(gestures):
        log.apply(ANNA, job, Change(f"r-{next(NUMBER)}", log.current(ANNA, job).version, operations))
        standing += 1
        if n in undo_at:
            log.undo(ANNA, job, f"ru-{next(NUMBER)}")
            standing -= 1
    current = log.current(ANNA, job)
    assert log.document_at(ANNA, job, current.version) == current.document
    for _ in range(standing):
        log.undo(ANNA, job, f"rv-{next(NUMBER)}")
    assert log.current(ANNA, job).document == document


@given(gestures=st.lists(gesture(), min_size=1, max_size=8))
def test_inverse_of_each_patch(gestures):
    document = house("three-rooms")
    for room in document["survey"]["rooms"].values():
        room.setdefault("known", {})
        room.setdefault("unseen", {})
    before = copy.deepcopy(document)
    here, back = document, []
    for operations in gestures:
        here, inverse = patch.apply(here, operations)
        back = inverse + back
    assert document == before
    if back:
        assert patch.apply(here, back)[0] == before


@pytest.mark.parametrize(
    ("a", "b", "meet"),
    [
        ("/a/b", "/a/b", True),
        ("/a", "/a/b", True),
        ("/a/b/c", "/a/b", True),
        ("/a/bc", "/a/b", False),
        ("/a", "/b", False),
    ],
)
def test_paths_meet_by_whole_steps(a, b, meet):
    assert patch.meets(a, b) is meet


def older(log, name):
    """A job as an engine of schema 1 left it, with an edit of its own time."""
    document = house("three-rooms") | {"id": name}
    log.create(ANNA, document)
    log.apply(ANNA, name, replace(HEIGHT, 2.61, 1, f"before-{name}"))
    with log.session.begin() as session:
        row = session.get_one(JobRow, (ANNA.company_id, name))
        candidates = row.document["schemes"]["main"]["candidates"]
        assert candidates
        key = next(iter(candidates))
        with_field = copy.deepcopy(row.document) | {"schema": 1}
        with_field["schemes"]["main"]["candidates"][key]["backup_w"] = 3000.0
        row.document, row.schema_version = with_field, 1
        first = session.get_one(ChangeRow, (ANNA.company_id, name, 1))
        old = copy.deepcopy(first.snapshot) | {"schema": 1}
        old["schemes"]["main"]["candidates"][key]["backup_w"] = 3000.0
        first.snapshot, first.schema_version = old, 1
    return f"/schemes/main/candidates/{key}"


def test_a_job_of_an_older_schema_is_brought_up_when_it_is_next_written(log):
    candidate = older(log, "older-one")
    seen = log.current(ANNA, "older-one")
    assert (seen.version, seen.document["schema"]) == (2, SCHEMA)  # shown as it will be, and not written
    assert [entry.kind for entry in log.history(ANNA, "older-one")] == ["edit", "create"]
    after = log.apply(ANNA, "older-one", replace(HEIGHT, 2.62, 2))
    assert (after.version, after.document["schema"]) == (4, SCHEMA)
    assert [entry.kind for entry in log.history(ANNA, "older-one")] == ["edit", "migration", "edit", "create"]
    assert "backup_w" not in patch.value_at(after.document, candidate)
    assert patch.value_at(log.document_at(ANNA, "older-one", 1), f"{candidate}/backup_w") == 3000.0  # as it was then
    assert log.document_at(ANNA, "older-one", 4) == after.document
    log.undo(ANNA, "older-one", "undo-after-the-road")
    with pytest.raises(NothingToUndo):  # undo stops at the road, for everybody
        log.undo(ANNA, "older-one", "undo-before-the-road")
    with pytest.raises(NothingToUndo):
        log.undo(BERT, "older-one", "undo-of-bert")


def test_a_change_that_waited_since_an_older_schema_is_brought_up_too(log):
    candidate = older(log, "older-two")
    waited = Change("waited-since", 2, [
        {"op": "add", "path": f"{candidate}/backup_w", "value": 6000},
        {"op": "replace", "path": HEIGHT, "value": 2.7},
    ], "waited", schema=1)  # fmt: skip
    after = log.apply(ANNA, "older-two", waited)
    assert after.document["survey"]["rooms"]["living"]["height_m"] == 2.7
    assert "backup_w" not in patch.value_at(after.document, candidate)
    again = log.apply(ANNA, "older-two", waited)  # sent once more: the same answer
    assert (again.version, again.replayed) == (after.version, True)
    alone = Change(
        "of-what-is-gone", after.version, [{"op": "add", "path": f"{candidate}/backup_w", "value": 1}], schema=1
    )
    assert log.apply(ANNA, "older-two", alone).document == after.document


def test_an_old_version_is_read_from_the_snapshot_before_it(log, job, monkeypatch):
    monkeypatch.setattr("cinder.store.log.SNAPSHOT_EVERY", 5)
    documents = {}
    for n in range(2, 24):
        documents[n] = log.apply(ANNA, job, replace(TITLE, f"Title {n}", n - 1)).document
    read = []
    with log.session() as session:
        monkeypatch.setattr(patch, "apply", lambda d, o, real=patch.apply: (read.append(o), real(d, o))[1])
        for n, document in documents.items():
            read.clear()
            assert past.document_at(session, ANNA, job, n) == document
            assert len(read) < 5
