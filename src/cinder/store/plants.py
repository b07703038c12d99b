"""Which plants are watched: one a job, held by one worker at a time for as long as it gives signs of life."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

import orjson
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session, sessionmaker

from cinder.store.record import Who
from cinder.store.statements import CHANNEL
from cinder.store.tables import WatchedPlantRow

LEASE_S = 12.0
MOST_ORDERS = 20
NOTIFY = text("SELECT pg_notify(:channel, :news)")
LEASE = text(
    "UPDATE watched_plants SET lease_by = :worker, lease_until = now() + make_interval(secs => :seconds) "
    "WHERE (company_id, job_id) = (SELECT company_id, job_id FROM watched_plants WHERE wanted AND "
    "(lease_until IS NULL OR lease_until < now()) ORDER BY at LIMIT 1 FOR UPDATE SKIP LOCKED) RETURNING company_id, job_id"
)
RENEW = text(
    "UPDATE watched_plants SET lease_until = now() + make_interval(secs => :seconds) WHERE company_id = :company AND job_id = :job "
    "AND lease_by = :worker AND wanted RETURNING orders"
)


@dataclass(frozen=True)
class Watched:
    """A plant as it is watched. `state`: waiting (for a worker), live, lost, stopped."""

    company_id: str
    job_id: str
    source_id: str
    address: str
    stand_in: dict[str, Any] | None
    every_s: float
    wanted: bool
    state: str
    said: str
    problems: tuple[str, ...]
    orders: tuple[dict[str, Any], ...]
    last_at: datetime | None
    """The plant's own moment of its last reading."""
    heard_s: float | None
    """How long ago that came in."""


class PlantShelf:
    """Watched plants of companies in one database."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine
        self.session = sessionmaker(engine, expire_on_commit=False)

    def watch(
        self, who: Who, job_id: str, source_id: str, *, address: str, every_s: float, stand_in: dict[str, Any] | None
    ) -> None:
        """A job's plant is to be watched there from now on, whatever was watched before."""
        with self.session.begin() as session:
            row = session.get(WatchedPlantRow, (who.company_id, job_id), with_for_update=True)
            fresh: dict[str, Any] = {
                "source_id": source_id, "address": address, "stand_in": stand_in, "every_s": every_s, "wanted": True,
                "lease_by": None, "lease_until": None, "state": "waiting", "said": "Waiting for the worker.", "problems": [],
                "orders": [], "last_at": None, "heard_at": None,
            }  # fmt: skip
            if row is None:
                session.add(WatchedPlantRow(company_id=who.company_id, job_id=job_id, **fresh))
            else:
                for name, value in fresh.items():
                    setattr(row, name, value)
            self._news(session, who.company_id, job_id)

    def stop(self, who: Who, job_id: str) -> None:
        """Nobody watches it any more; what was read stays."""
        with self.session.begin() as session:
            row = session.get(WatchedPlantRow, (who.company_id, job_id), with_for_update=True)
            if row is not None:
                row.wanted, row.state, row.said = False, "stopped", "Stopped."
                self._news(session, who.company_id, job_id)

    def order(self, who: Who, job_id: str, order: dict[str, Any]) -> bool:
        """A setting to be written as soon as the plant answers; false where nothing is watched or too many wait."""
        with self.session.begin() as session:
            row = session.get(WatchedPlantRow, (who.company_id, job_id), with_for_update=True)
            if row is None or not row.wanted or len(row.orders) >= MOST_ORDERS:
                return False
            row.orders = [*row.orders, order]
            return True

    def watched(self, who: Who, job_id: str) -> Watched | None:
        with self.session() as session:
            row = session.get(WatchedPlantRow, (who.company_id, job_id))
            return _watched(row) if row is not None else None

    def lease(self, worker: str) -> Watched | None:
        """One that nobody holds, held by this worker from now on."""
        with self.session.begin() as session:
            found = session.execute(LEASE, {"worker": worker, "seconds": LEASE_S}).first()
            if found is None:
                return None
            row = session.get(WatchedPlantRow, (found[0], found[1]))
            return _watched(row) if row is not None else None

    def renew(self, worker: str, one: Watched) -> list[dict[str, Any]] | None:
        """Still held: the orders that wait. None where it is held by another or no longer wanted."""
        with self.session.begin() as session:
            row = session.execute(
                RENEW, {"worker": worker, "seconds": LEASE_S, "company": one.company_id, "job": one.job_id}
            ).first()
            return list(row[0]) if row is not None else None

    def say(
        self, worker: str, one: Watched, *, state: str, said: str, problems: Sequence[str] = (), done: Sequence[str] = (),
        last_at: datetime | None = None, address: str | None = None,
    ) -> None:  # fmt: skip
        """How it stands; `done`: ids of orders that are off the list. Pages hear of it where anything changed."""
        with self.session.begin() as session:
            row = session.get(WatchedPlantRow, (one.company_id, one.job_id), with_for_update=True)
            if row is None or row.lease_by != worker or not row.wanted:
                return
            changed = (row.state, row.said, list(row.problems)) != (state, said, list(problems)) or bool(done)
            row.state, row.said, row.problems = state, said, list(problems)
            row.orders = [order for order in row.orders if order["id"] not in done]
            if last_at is not None:
                row.last_at, row.heard_at = last_at, datetime.now(tz=UTC)
            row.address = address or row.address
            if changed:
                self._news(session, one.company_id, one.job_id)

    def release(self, worker: str, one: Watched) -> None:
        """Let go of, for another to take."""
        with self.session.begin() as session:
            row = session.get(WatchedPlantRow, (one.company_id, one.job_id), with_for_update=True)
            if row is not None and row.lease_by == worker:
                row.lease_by = row.lease_until = None

    def _news(self, session: Session, company_id: str, job_id: str) -> None:
        news = {"company": company_id, "job": job_id, "plant": True}
        session.execute(NOTIFY, {"channel": CHANNEL, "news": orjson.dumps(news).decode()})


def _watched(row: WatchedPlantRow) -> Watched:
    return Watched(
        row.company_id, row.job_id, row.source_id, row.address, row.stand_in, row.every_s, row.wanted, row.state, row.said,
        tuple(row.problems), tuple(row.orders), row.last_at,
        (datetime.now(tz=UTC) - row.heard_at).total_seconds() if row.heard_at else None,
    )  # fmt: skip
