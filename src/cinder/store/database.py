"""The connection to PostgreSQL, and bringing its tables up to date."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from importlib.resources import files

import orjson
from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, make_url
from sqlalchemy.orm import Session, sessionmaker

MIGRATION_LOCK = 19080311
BEGIN_LOCK = 19080312


def engine(address: str) -> Engine:
    """An engine for a `postgresql://` address, JSON by orjson.

    Connections are not tried before use: when the database has been away, the first request is answered 503, the pool
    starts afresh, and the client sends its change again with the same id.
    """
    url = make_url(address).set(drivername="postgresql+psycopg")
    return create_engine(
        url,
        pool_size=10,
        max_overflow=10,
        json_serializer=lambda value: orjson.dumps(value).decode(),
        json_deserializer=orjson.loads,
    )


@contextmanager
def within(maker: sessionmaker[Session], session: Session | None) -> Iterator[Session]:
    """The session given, whose owner commits it; else one of its own, committed at the end."""
    if session is not None:
        yield session
        return
    with maker.begin() as own:
        yield own


@contextmanager
def alone(on: Engine) -> Iterator[None]:
    """Only one process at a time does what stands inside; the others wait."""
    with on.connect() as connection, connection.begin():
        connection.exec_driver_sql(f"SELECT pg_advisory_xact_lock({BEGIN_LOCK})")
        yield


def migrate(to: Engine) -> None:
    """Run the numbered migrations; several processes may ask at once, one does it."""
    config = Config()
    config.set_main_option("script_location", str(files("cinder.store").joinpath("migrations")))
    with to.begin() as connection:
        connection.exec_driver_sql(f"SELECT pg_advisory_xact_lock({MIGRATION_LOCK})")
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
