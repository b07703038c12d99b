"""Everything in one file and back: consistent while people work, all of it or nothing, into a newer PostgreSQL too."""

import hashlib
import shutil
import subprocess
import sys
import tempfile
import threading
import zipfile
from pathlib import Path

import orjson
import psycopg
import pytest

from cinder.design import design
from cinder.errors import BackupRefused, ClusterError
from cinder.library import load
from cinder.service.remembered import Remembered
from cinder.store import backup
from cinder.store.cluster import PROGRAMS, Cluster
from cinder.store.company import YEAR, CompanyShelf
from cinder.store.database import engine, migrate
from cinder.store.figures import recheck
from cinder.store.log import ChangeLog
from cinder.store.papers import PaperShelf
from cinder.store.photos import PhotoShelf
from cinder.store.record import Change, Who
from tests.conftest import house, new_cluster, new_database, oat_store, tansy_cut

WHO = Who("reedmace", "wren")


@pytest.fixture(scope="module")
def tools():
    return Cluster(PROGRAMS).tools


@pytest.fixture(scope="module")
def filled(database):
    """A database of its own with something in every table."""
    url = new_database(database, "backup_from")
    to = engine(url)
    migrate(to)
    log = ChangeLog(to)
    log.ensure_person(WHO, company="Reedmace Heating", person="Wren")
    desk = Remembered(log, CompanyShelf(to))
    for document in (tansy_cut(), oat_store(), house("sixty-rooms")):
        applied = log.create(WHO, document)
        for n in range(3):
            edit = Change(
                f"edit-{n}", applied.version, [{"op": "replace", "path": "/title", "value": f"Title {n}"}], "Renamed"
            )
            applied = log.apply(WHO, document["id"], edit)
        desk.note(WHO, applied, desk.design(WHO, applied.job, applied.version), None)
    PhotoShelf(to).put(WHO, "a" * 64, width_px=2, height_px=1, full=b"\x00\xff full", view=b"view", thumb=b"thumb")
    shelf = CompanyShelf(to)
    shelf.keep_blob(WHO, "b" * 64, b"hours,\xc3\xa9\n" * 8760, YEAR)
    shelf.put(
        WHO, "measures", "fill-cavity", load().measures["fill-cavity"].model_dump(mode="json") | {"m2_minor": 1234.0}
    )
    papers = PaperShelf(to)
    papers.ask(WHO, "tansy-cut", 4, paper_id="paper-1", kind="heat-loss")
    papers.finish(WHO, "paper-1", b"%PDF-1.7 \x00", 1.5)
    yield url, log
    to.dispose()


def everything(url):
    """Every row of every table of ours."""
    with psycopg.connect(url) as connection:
        return {name: sorted(map(repr, connection.execute(f"SELECT * FROM {name}"))) for name in backup.TABLES}


def test_every_row_comes_back_and_every_figure_is_equal(filled, database, tools, tmp_path):
    url, log = filled
    said = backup.write(url, tmp_path / "all.zip", programs=tools)
    assert said.rows["jobs"] == 3
    assert said.rows["changes"] == 12
    empty = new_database(database, "backup_to")
    backup.restore(empty, tmp_path / "all.zip", programs=tools)
    assert everything(empty) == everything(url)
    found = recheck(empty, said)
    assert len(found.equal) == 3
    assert (found.moved, found.failed, found.unsaid) == ([], [], [])
    to = engine(empty)
    back = ChangeLog(to)
    for name in ("tansy-cut", "oat-store", "sixty-rooms"):
        before, after = log.current(WHO, name), back.current(WHO, name)
        assert design(after.job).model_dump() == design(before.job).model_dump()
        assert back.document_at(WHO, name, 2) == log.document_at(WHO, name, 2)
    assert back.undo(WHO, "tansy-cut", "undo-after").version == 5  # and work goes on
    to.dispose()


def test_a_backup_taken_while_people_work_is_of_one_moment(database, tools, tmp_path):
    """Edits go on and on; in the backup every job is at the version of its last change, and its document is what its
    changes make of it."""
    url = new_database(database, "backup_busy")
    to = engine(url)
    migrate(to)
    log = ChangeLog(to)
    log.ensure_person(WHO, company="Reedmace Heating", person="Wren")
    log.create(WHO, house("one-room"))
    ended = threading.Event()
    answered = []

    def work():
        n = 0
        while not ended.is_set():
            n += 1
            edit = Change(f"busy-{n}", n, [{"op": "replace", "path": "/title", "value": f"Title {n}"}], "Renamed")
            answered.append(log.apply(WHO, "one-room", edit).version)

    thread = threading.Thread(target=work)
    thread.start()
    try:
        while len(answered) < 5:
            ended.wait(0.01)
        before = answered[-1]
        said = backup.write(url, tmp_path / "busy.zip", programs=tools)
    finally:
        ended.set()
        thread.join()
    assert len(answered) > before  # work went on meanwhile
    empty = new_database(database, "backup_busy_to")
    backup.restore(empty, tmp_path / "busy.zip", programs=tools)
    back = ChangeLog(engine(empty))
    now = back.current(WHO, "one-room")
    assert now.version == said.jobs[0].version == said.rows["changes"] >= before
    assert back.document_at(WHO, "one-room", now.version) == now.document
    assert now.document["title"] == f"Title {now.version - 1}"
    back.engine.dispose()
    to.dispose()


def test_a_place_that_holds_jobs_is_not_written_over(filled, tools, tmp_path):
    url, _ = filled
    backup.write(url, tmp_path / "all.zip", programs=tools)
    before = everything(url)
    with pytest.raises(BackupRefused, match="3 jobs already"):
        backup.restore(url, tmp_path / "all.zip", programs=tools)
    with pytest.raises(BackupRefused, match="there already"):
        backup.write(url, tmp_path / "all.zip", programs=tools)
    assert everything(url) == before


def spoil(source, target, change):
    """The backup with its manifest, or its database, made another."""
    with zipfile.ZipFile(source) as packed:
        manifest, dump = orjson.loads(packed.read(backup.MANIFEST)), packed.read(backup.DUMP)
    manifest, dump = change(manifest, dump)
    with zipfile.ZipFile(target, "w") as packed:
        packed.writestr(backup.MANIFEST, orjson.dumps(manifest))
        packed.writestr(backup.DUMP, dump)


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda m, d: (m, d[: len(d) // 2]), "does not match its fingerprint"),
        (lambda m, d: (m | {"sha256": hashlib.sha256(d[:999]).hexdigest()}, d[:999]), "could not be brought in"),
        (lambda m, d: (m | {"revision": "9999", "engine": "7.0.0"}, d), "later Mellow Cinder"),
        (lambda m, d: (m | {"format_version": 99}, d), "later Mellow Cinder"),
        (lambda m, d: (m | {"format": "other"}, d), "no backup of ours"),
        (lambda m, d: ({"format": backup.FORMAT, "format_version": 1}, d), "cannot be read"),
    ],
)
def test_a_backup_that_is_not_whole_brings_in_nothing(filled, database, tools, tmp_path, change, said):
    backup.write(filled[0], tmp_path / "all.zip", programs=tools)
    spoil(tmp_path / "all.zip", tmp_path / "odd.zip", change)
    empty = new_database(database, "backup_odd")
    with pytest.raises(BackupRefused, match=said):
        backup.restore(empty, tmp_path / "odd.zip", programs=tools)
    assert backup.jobs_in(empty) == 0


def test_no_zip_at_all(database, tools, tmp_path):
    (tmp_path / "odd.zip").write_bytes(b"PK\x03\x04 not really")
    for name in ("odd.zip", "missing.zip"):
        with pytest.raises(BackupRefused):
            backup.read(tmp_path / name)


def test_by_command_from_one_data_folder_into_another(tmp_path):
    """As a person does it: a data folder of one's own, no service running, a backup, an empty folder, a restore."""
    old, folder = new_cluster()
    data, other = folder, folder / "other"
    to = engine(old.start())
    migrate(to)
    log = ChangeLog(to)
    log.ensure_person(WHO, company="Reedmace Heating", person="Wren")
    desk = Remembered(log, CompanyShelf(to))
    applied = log.create(WHO, tansy_cut())
    desk.note(WHO, applied, desk.design(WHO, applied.job, 1), None)
    to.dispose()
    old.stop()
    run = [sys.executable, "-m", "cinder.cli"]
    try:
        made = subprocess.run(
            [*run, "backup", str(tmp_path / "b.zip"), "--data", str(data)], capture_output=True, text=True
        )
        assert made.returncode == 0, made.stderr
        assert "1 jobs" in made.stdout
        assert not old.running()  # it was not running before
        other.mkdir(mode=0o755)
        taken = subprocess.run(
            [*run, "restore", str(tmp_path / "b.zip"), "--data", str(other)], capture_output=True, text=True
        )
        assert taken.returncode == 0, taken.stderr
        assert "1 with equal figures" in taken.stdout
        again = subprocess.run(
            [*run, "restore", str(tmp_path / "b.zip"), "--data", str(other)], capture_output=True, text=True
        )
        assert again.returncode == 2
        assert "already" in again.stderr
        assert "Traceback" not in again.stderr
        aside = subprocess.run(
            [*run, "restore", str(tmp_path / "b.zip"), "--data", str(other), "--aside"], capture_output=True, text=True
        )
        assert aside.returncode == 0, aside.stderr
        assert "is kept in" in aside.stdout
        assert len(list(other.glob("pg*"))) == 2
    finally:
        shutil.rmtree(folder, ignore_errors=True)


# -- PostgreSQL's own major version


@pytest.fixture
def two_versions(tmp_path_factory):
    """The installed PostgreSQL under its own number, and once more as if a later major version lay beside it."""
    root = tmp_path_factory.mktemp("programs")
    mine = Cluster(PROGRAMS)
    for version in (mine.newest, 99):
        (root / str(version)).mkdir()
        (root / str(version) / "bin").symlink_to(mine.tools)
    for path in (root, *(p for p in root.parents if p.is_relative_to(tempfile.gettempdir()))):
        if path != Path(tempfile.gettempdir()):
            path.chmod(0o755)
    return root, mine.newest


def test_data_are_served_by_the_version_that_wrote_them_and_moved_on_one_command(two_versions, filled, tools, tmp_path):
    root, old = two_versions
    _, folder = new_cluster()
    try:
        cluster = Cluster(folder / "pg", programs=root)
        assert cluster.bin == root / "99" / "bin"  # new data are made by the newest
        cluster = Cluster(folder / "pg")
        backup.write(filled[0], tmp_path / "all.zip", programs=tools)
        backup.restore(cluster.start(), tmp_path / "all.zip", programs=tools)
        before = everything(cluster.url())
        cluster.stop()
        both = Cluster(folder / "pg", programs=root)
        assert (both.version, both.newest) == (old, 99)
        assert both.bin == root / str(old) / "bin"
        said = both.upgrade()
        assert f"from PostgreSQL {old} to 99: 3 jobs" in said
        assert not both.running()
        moved = Cluster(folder / "pg")
        assert everything(moved.start()) == before
        moved.stop()
        assert len(list(folder.glob(f"pg.postgresql-{old}.*"))) == 1
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def test_a_version_that_is_gone_is_named_with_what_to_do(tmp_path):
    root = tmp_path / "programs"
    (root / "99" / "bin").mkdir(parents=True)
    (root / "99" / "bin" / "initdb").touch()
    folder = tmp_path / "pg"
    (folder / "data").mkdir(parents=True)
    (folder / "data" / "PG_VERSION").write_text("13\n")
    with pytest.raises(ClusterError, match=r"PostgreSQL 13.*installed: 99.*postgresql-13.*--upgrade") as caught:
        Cluster(folder, programs=root).start()
    assert "Nothing was touched" in caught.value.message
    assert sorted(path.name for path in folder.iterdir()) == ["data"]
