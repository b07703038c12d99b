"""The project's own PostgreSQL: made once, started again, put aside, and nobody else's touched."""

import os
import shutil
import stat

import psycopg
import pytest

from cinder.store import cluster as module
from cinder.store.cluster import Cluster, folder_for, passable
from cinder.store.database import engine, migrate
from tests.conftest import new_cluster


@pytest.fixture(scope="module")
def made():
    cluster, folder = new_cluster()
    cluster.start()
    yield cluster
    cluster.stop()
    shutil.rmtree(folder, ignore_errors=True)


def test_started_twice_is_the_same(made):
    assert made.start() == made.start()
    assert made.running()


def test_keeps_its_rows_and_its_port_over_a_restart(made):
    url = made.start()
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute("CREATE TABLE IF NOT EXISTS kept (n int)")
        connection.execute("INSERT INTO kept VALUES (1908)")
    made.stop()
    assert not made.running()
    assert made.start() == url
    with psycopg.connect(url) as connection:
        assert connection.execute("SELECT n FROM kept").fetchone() == (1908,)


def test_listens_on_loopback_alone_and_asks_for_the_password(made):
    url = made.start()
    with psycopg.connect(url) as connection:
        assert connection.execute("SHOW listen_addresses").fetchone() == ("127.0.0.1",)
        assert connection.execute("SHOW password_encryption").fetchone() == ("scram-sha-256",)
    password = url.split(":")[2].split("@")[0]
    assert len(password) >= 24
    with pytest.raises(psycopg.OperationalError, match="password"):
        psycopg.connect(url.replace(password, "guessed"))


def test_folders_are_private(made):
    for name in ("", "socket", "data"):
        assert stat.S_IMODE((made.folder / name).stat().st_mode) == 0o700
    assert stat.S_IMODE((made.folder / "password").stat().st_mode) == 0o600


def test_inherited_settings_of_another_cluster_are_ignored(made, monkeypatch):
    monkeypatch.setenv("PGDATA", "/nowhere")
    monkeypatch.setenv("PGPORT", "1")
    again = Cluster(made.folder)
    assert "PGDATA" not in again.env
    assert again.running()


def test_another_program_on_its_port_makes_it_take_another(monkeypatch, made):
    made.stop()
    old = (made.folder / "port").read_text()
    monkeypatch.setattr(module, "_port_is_free", lambda port: False)
    url = made.start()
    assert (made.folder / "port").read_text() != old
    assert f":{(made.folder / 'port').read_text()}/" in url


def test_put_aside_keeps_the_old_and_makes_a_new(tmp_path_factory):
    cluster, folder = new_cluster()
    cluster.start()
    cluster.aside()
    assert not cluster.folder.exists()
    old = next(path for path in folder.iterdir() if path.name.startswith("pg."))
    assert (old / "data" / "PG_VERSION").exists()
    cluster.start()
    assert cluster.running()
    cluster.stop()
    shutil.rmtree(folder, ignore_errors=True)


def test_a_project_where_postgres_may_not_go(tmp_path, monkeypatch):
    inner = tmp_path / "closed" / "project"
    inner.mkdir(parents=True)
    (tmp_path / "closed").chmod(0o700)
    assert not passable(inner)
    monkeypatch.setattr(os, "geteuid", lambda: 0)
    assert folder_for(inner).is_relative_to("/var/lib/mellow-cinder")
    monkeypatch.setattr(os, "geteuid", lambda: 1000)
    assert folder_for(inner) == inner / ".pg"


def test_migrations_run_once_however_often_asked(made):
    there = engine(made.start())
    for _ in range(3):
        migrate(there)
    with there.connect() as connection:
        assert connection.exec_driver_sql("SELECT version_num FROM alembic_version").fetchall() == [("0007",)]
        tables = {
            row[0] for row in connection.exec_driver_sql("SELECT tablename FROM pg_tables WHERE schemaname = 'public'")
        }
    assert {"companies", "people", "jobs", "changes"} <= tables
    there.dispose()


def test_migrations_make_what_the_tables_say(made):
    """The migrated database and the models agree: nothing to add, nothing to drop."""
    from alembic.autogenerate import compare_metadata
    from alembic.migration import MigrationContext

    from cinder.store.tables import Base

    there = engine(made.start())
    migrate(there)
    ours = {"include_name": lambda name, kind, _: kind != "table" or not name.startswith("procrastinate")}
    with there.connect() as connection:
        differences = compare_metadata(MigrationContext.configure(connection, opts=ours), Base.metadata)
    assert [d for d in differences if "kept" not in str(d)] == []
    there.dispose()
