"""Everything a database holds in one file, and back again.

A backup is a zip of two members: `manifest.json` (what it is, how many rows of what, every job's version and figures) and
`database.pgdump` (PostgreSQL's own custom format, readable with `pg_restore`). Both are of one snapshot, so a backup taken
while people work is consistent: what was answered before it began is in it, what came later is not.
"""

from __future__ import annotations

import hashlib
import os
import subprocess
import tempfile
import zipfile
from dataclasses import dataclass
from datetime import UTC, datetime
from importlib.resources import files
from pathlib import Path
from typing import Any

import orjson
import psycopg
from alembic.config import Config
from alembic.script import ScriptDirectory
from psycopg import sql
from sqlalchemy import make_url

from cinder import ENGINE_VERSION
from cinder.errors import BackupRefused
from cinder.library import EDITION
from cinder.store.database import engine, migrate
from cinder.store.tables import Base

FORMAT = "mellow-cinder-backup"
FORMAT_VERSION = 1
MANIFEST, DUMP = "manifest.json", "database.pgdump"
CHUNK = 1 << 20
MAX_MANIFEST = 64 * 1024 * 1024
TABLES = tuple(str(table.name) for table in Base.metadata.sorted_tables)
FIGURES = ("loss_w", "flow_c", "cover", "season")


@dataclass(frozen=True)
class CopiedJob:
    """A job in a backup: where it is, its version, the figures of its line in the job list."""

    company: str
    id: str
    title: str
    version: int
    engine: str | None
    figures: dict[str, float | None]


@dataclass(frozen=True)
class Manifest:
    """What a backup holds."""

    engine: str
    edition: str
    revision: str
    server: str
    written_at: str
    rows: dict[str, int]
    sha256: str
    jobs: list[CopiedJob]

    def said(self) -> str:
        """What is in it, in a line for people."""
        kept = [("jobs", "jobs"), ("changes", "changes"), ("photos", "pictures"), ("papers", "papers"),
                ("company_entries", "company entries"), ("blobs", "weather years")]  # fmt: skip
        return ", ".join(f"{self.rows.get(table, 0)} {word}" for table, word in kept)


def write(address: str, target: Path, *, programs: Path) -> Manifest:
    """Write everything the database holds to `target`, which must not be there yet. The service may go on meanwhile.

    `programs`: folder of PostgreSQL's programs, no older than the server. Nothing stands under the name until it is whole.
    Raises `BackupRefused`.
    """
    if target.exists():
        raise BackupRefused(f"{target} is there already; choose another name.", kept="It was left as it is.")
    if not target.parent.is_dir():
        raise BackupRefused(f"There is no folder {target.parent}.")
    part = target.with_name(f".{target.name}.{os.getpid()}.part")
    try:
        with psycopg.connect(address) as connection:
            connection.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY")
            snapshot = str(_one(connection, "SELECT pg_export_snapshot()"))
            found = _found(connection)
            with zipfile.ZipFile(part, "w", zipfile.ZIP_STORED) as packed:
                digest = _dump(address, programs, snapshot, packed)
                made = {**found, "sha256": digest, "format": FORMAT, "format_version": FORMAT_VERSION}
                packed.writestr(MANIFEST, orjson.dumps(made, option=orjson.OPT_INDENT_2))
        part.chmod(0o600)  # every job and every address is in it
        part.replace(target)
    except psycopg.Error as error:
        raise BackupRefused(f"The database could not be read: {_first(error)}") from None
    finally:
        part.unlink(missing_ok=True)
    return read(target)


def read(source: Path) -> Manifest:
    """What a backup holds, without unpacking it. Raises `BackupRefused` for what is none of ours."""
    try:
        with zipfile.ZipFile(source) as packed:
            if {MANIFEST, DUMP} - set(packed.namelist()) or packed.getinfo(MANIFEST).file_size > MAX_MANIFEST:
                raise BackupRefused(f"{source} is no backup of ours.")
            said = orjson.loads(packed.read(MANIFEST))
        if said["format"] != FORMAT:
            raise BackupRefused(f"{source} is no backup of ours.")
        if said["format_version"] > FORMAT_VERSION:
            raise BackupRefused(
                f"{source} was written by a later Mellow Cinder ({said['engine']}). Update this one first."
            )
        return Manifest(
            engine=said["engine"], edition=said["edition"], revision=said["revision"], server=said["server"],
            written_at=said["written_at"], rows=dict(said["rows"]), sha256=said["sha256"],
            jobs=[CopiedJob(**line) for line in said["jobs"]],
        )  # fmt: skip
    except FileNotFoundError:
        raise BackupRefused(f"There is no file {source}.") from None
    except (zipfile.BadZipFile, OSError, EOFError, ValueError, KeyError, TypeError) as error:
        raise BackupRefused(f"{source} cannot be read as a backup: {str(error)[:120]}.") from None


def restore(address: str, source: Path, *, programs: Path) -> Manifest:
    """Bring a backup into a database that holds no jobs yet, all of it or nothing; tables are brought up to date after.

    Raises `BackupRefused`: not ours, damaged, written by a later version, or the place is not empty.
    """
    said = read(source)
    if said.revision not in revisions():
        raise BackupRefused(
            f"{source} was written by a later Mellow Cinder ({said.engine}), with tables this one does not know. Update first."
        )
    there = jobs_in(address)
    if there:
        raise BackupRefused(
            f"This place holds {there} {'job' if there == 1 else 'jobs'} already; a backup goes into an empty one.",
            kept="Nothing was changed.",
        )
    with tempfile.TemporaryDirectory() as folder:
        dump = Path(folder) / DUMP
        _unpacked(source, dump, said.sha256)
        _run(
            address,
            [str(programs / "pg_restore"), "--single-transaction", "--clean", "--if-exists", "--no-owner",
             "--no-privileges", "--dbname", _name(address), str(dump)],
            what="The backup could not be brought in",
        )  # fmt: skip
    counted = rows_in(address)
    if counted != said.rows:
        odd = [name for name in said.rows if counted.get(name) != said.rows[name]]
        raise BackupRefused(
            f"What was brought in differs from what the backup says: {', '.join(odd)}.", kept="It is all there."
        )
    to = engine(address)
    migrate(to)
    to.dispose()
    return said


def jobs_in(address: str) -> int:
    """How many jobs a database holds; none where its tables are not there."""
    with psycopg.connect(address) as connection:
        if _one(connection, "SELECT to_regclass('public.jobs')") is None:
            return 0
        return int(_one(connection, "SELECT count(*) FROM jobs"))


def rows_in(address: str) -> dict[str, int]:
    """Rows of every table of ours."""
    with psycopg.connect(address) as connection:
        return _rows(connection)


def revisions() -> set[str]:
    """Every state of the tables this version knows."""
    config = Config()
    config.set_main_option("script_location", str(files("cinder.store").joinpath("migrations")))
    return {script.revision for script in ScriptDirectory.from_config(config).walk_revisions()}


# ---- the parts


def _found(connection: psycopg.Connection[Any]) -> dict[str, Any]:
    if _one(connection, "SELECT to_regclass('public.alembic_version')") is None:
        raise BackupRefused("This database holds nothing of Mellow Cinder yet.")
    lines = connection.execute("SELECT company_id, id, title, version, summary FROM jobs ORDER BY company_id, id")
    jobs = [
        {
            "company": company, "id": job, "title": title, "version": version, "engine": (summary or {}).get("engine"),
            "figures": {name: (summary or {}).get(name) for name in FIGURES},
        }
        for company, job, title, version, summary in lines
    ]  # fmt: skip
    return {
        "engine": ENGINE_VERSION, "edition": EDITION, "revision": _one(connection, "SELECT version_num FROM alembic_version"),
        "server": str(_one(connection, "SHOW server_version")), "written_at": datetime.now(UTC).isoformat(timespec="seconds"),
        "rows": _rows(connection), "jobs": jobs,
    }  # fmt: skip


def _rows(connection: psycopg.Connection[Any]) -> dict[str, int]:
    out = {}
    for name in TABLES:
        if _one(connection, "SELECT to_regclass(%s)", f"public.{name}") is not None:
            found = connection.execute(sql.SQL("SELECT count(*) FROM {}").format(sql.Identifier(name))).fetchone()
            out[name] = int(found[0]) if found else 0
    return out


def _one(connection: psycopg.Connection[Any], question: str, *values: Any) -> Any:
    row = connection.execute(question, values).fetchone()
    return row[0] if row else None


def _dump(address: str, programs: Path, snapshot: str, packed: zipfile.ZipFile) -> str:
    """The database at a snapshot into the zip; its SHA-256."""
    command = [
        str(programs / "pg_dump"), "--format=custom", "--no-owner", "--no-privileges", f"--snapshot={snapshot}",
        "--dbname", _name(address),
    ]  # fmt: skip
    digest = hashlib.sha256()
    with tempfile.TemporaryFile() as said:
        with (
            subprocess.Popen(command, stdout=subprocess.PIPE, stderr=said, env=_environment(address)) as process,
            packed.open(DUMP, "w", force_zip64=True) as out,
        ):
            while process.stdout is not None and (block := process.stdout.read(CHUNK)):
                digest.update(block)
                out.write(block)
        if process.returncode != 0:
            said.seek(0)
            raise BackupRefused(f"pg_dump ended early: {said.read(400).decode(errors='replace').strip()}")
    return digest.hexdigest()


def _unpacked(source: Path, target: Path, sha256: str) -> None:
    digest = hashlib.sha256()
    try:
        with zipfile.ZipFile(source) as packed, packed.open(DUMP) as stream, target.open("wb") as out:
            while block := stream.read(CHUNK):
                digest.update(block)
                out.write(block)
    except (zipfile.BadZipFile, OSError, EOFError) as error:
        raise BackupRefused(f"{source} is damaged: {str(error)[:120]}.") from None
    if digest.hexdigest() != sha256:
        raise BackupRefused(f"{source} is damaged: its database does not match its fingerprint.")


def _run(address: str, command: list[str], *, what: str) -> None:
    done = subprocess.run(command, capture_output=True, text=True, env=_environment(address), check=False)
    if done.returncode != 0:
        raise BackupRefused(f"{what}: {done.stderr.strip()[:400]}")


def _name(address: str) -> str:
    return make_url(address).database or ""


def _environment(address: str) -> dict[str, str]:
    """The address for PostgreSQL's programs, out of sight of the list of processes."""
    url = make_url(address)
    plain = {k: v for k, v in os.environ.items() if not k.startswith("PG")}
    said = {
        "PGHOST": url.host,
        "PGPORT": str(url.port or 5432),
        "PGUSER": url.username,
        "PGPASSWORD": str(url.password or ""),
    }
    return plain | {key: value for key, value in said.items() if value}


def _first(error: psycopg.Error) -> str:
    return str(error).strip().splitlines()[0] if str(error).strip() else type(error).__name__
