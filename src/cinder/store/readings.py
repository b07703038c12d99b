"""Readings beside their jobs: sources, moments with a figure for every channel, means by the hour worked out in the database."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import numpy as np
import orjson
from numpy.typing import NDArray
from sqlalchemy import Engine, delete, select, text
from sqlalchemy.orm import Session, sessionmaker

from cinder.errors import NotFound
from cinder.store.record import Who
from cinder.store.statements import CHANNEL
from cinder.store.tables import ReadingRow, ReadingSourceRow

MOST_TOLD = 40
HOURLY = text(
    "SELECT date_bin('1 hour', at, TIMESTAMPTZ '2000-01-01Z') + interval '1 hour' AS hour, n, avg(figure) "
    "FROM readings, unnest(figures) WITH ORDINALITY AS f(figure, n) "
    "WHERE company_id = :company AND job_id = :job AND source_id = :source GROUP BY 1, 2 ORDER BY 1, 2"
)
NOTIFY = text("SELECT pg_notify(:channel, :news)")


@dataclass(frozen=True)
class Source:
    """Where readings come from; `first` and `last` moment of them, how many, and what was odd."""

    id: str
    kind: str
    label: str
    channels: tuple[str, ...]
    told: tuple[str, ...]
    at: datetime
    first: datetime | None = None
    last: datetime | None = None
    count: int = 0


@dataclass(frozen=True)
class Hourly:
    """Means by the hour: `at` the end of each (N,), figures (N, channels), NaN where there is none."""

    source: Source
    at: NDArray[np.datetime64]
    figures: NDArray[np.float64]

    def channel(self, name: str) -> NDArray[np.float64]:
        """One channel (N,); NaN all through where the source has none of that name."""
        if name not in self.source.channels:
            return np.full(len(self.at), np.nan)
        return self.figures[:, self.source.channels.index(name)]


class ReadingShelf:
    """Readings of companies in one database."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine
        self.session = sessionmaker(engine, expire_on_commit=False)

    def open(self, who: Who, job_id: str, source_id: str, *, kind: str, label: str, channels: Sequence[str]) -> None:
        """A source begins; one that is there stays as it is."""
        with self.session.begin() as session:
            if session.get(ReadingSourceRow, (who.company_id, job_id, source_id)) is None:
                session.add(
                    ReadingSourceRow(
                        company_id=who.company_id, job_id=job_id, id=source_id, person_id=who.person_id, kind=kind,
                        label=label, channels=list(channels),
                    )
                )  # fmt: skip

    def add(
        self,
        who: Who,
        job_id: str,
        source_id: str,
        rows: Iterable[tuple[datetime, Sequence[float | None]]],
        *,
        tell: bool = False,
    ) -> int:
        """Moments of a source; one that is there already stays as it is. Gives how many were new; `tell`: open pages hear of it."""
        values: list[dict[str, Any]] = [
            {
                "company_id": who.company_id,
                "job_id": job_id,
                "source_id": source_id,
                "at": at,
                "figures": [None if one is None else float(one) for one in figures],
            }
            for at, figures in rows
        ]
        if not values:
            return 0
        from sqlalchemy.dialects.postgresql import insert

        new = 0
        with self.session.begin() as session:
            for first in range(0, len(values), 1000):
                done = session.execute(
                    insert(ReadingRow)
                    .values(values[first : first + 1000])
                    .on_conflict_do_nothing()
                    .returning(ReadingRow.at)
                )
                new += len(done.all())
            if tell:
                news = {"company": who.company_id, "job": job_id, "reading": values[-1]["at"].isoformat()}
                session.execute(NOTIFY, {"channel": CHANNEL, "news": orjson.dumps(news).decode()})
        return new

    def tell(self, who: Who, job_id: str, source_id: str, said: Sequence[str]) -> None:
        """What was odd about a source, once each, the newest kept."""
        if not said:
            return
        with self.session.begin() as session:
            row = self._row(session, who, job_id, source_id)
            more = [one for one in dict.fromkeys(said) if one not in row.told]
            if more:
                row.told = [*row.told, *more][-MOST_TOLD:]

    def sources(self, who: Who, job_id: str) -> list[Source]:
        """The sources of a job, newest first, with their spans."""
        wanted = text(
            "SELECT s.id, s.kind, s.label, s.channels, s.told, s.at, min(r.at), max(r.at), count(r.at) FROM reading_sources s "
            "LEFT JOIN readings r ON r.company_id = s.company_id AND r.job_id = s.job_id AND r.source_id = s.id "
            "WHERE s.company_id = :company AND s.job_id = :job GROUP BY s.company_id, s.job_id, s.id ORDER BY s.at DESC"
        )
        with self.engine.connect() as c:
            rows = c.execute(wanted, {"company": who.company_id, "job": job_id}).all()
        return [Source(r[0], r[1], r[2], tuple(r[3]), tuple(r[4]), r[5], r[6], r[7], r[8]) for r in rows]

    def source(self, who: Who, job_id: str, source_id: str) -> Source | None:
        """One of them, without its span."""
        with self.session() as session:
            row = session.get(ReadingSourceRow, (who.company_id, job_id, source_id))
            return Source(row.id, row.kind, row.label, tuple(row.channels), tuple(row.told), row.at) if row else None

    def hourly(self, who: Who, job_id: str, source: Source) -> Hourly:
        """A source by the hour."""
        with self.engine.connect() as c:
            rows = c.execute(HOURLY, {"company": who.company_id, "job": job_id, "source": source.id}).all()
        hours = sorted({row[0] for row in rows})
        place = {hour: n for n, hour in enumerate(hours)}
        figures = np.full((len(hours), len(source.channels)), np.nan)
        for hour, n, mean in rows:
            if mean is not None:
                figures[place[hour], n - 1] = mean
        at = np.array([hour.replace(tzinfo=None) for hour in hours], dtype="datetime64[s]")
        return Hourly(source, at, figures)

    def last(
        self, who: Who, job_id: str, source_id: str, *, count: int = 1
    ) -> list[tuple[datetime, list[float | None]]]:
        """The newest moments of a source, oldest of them first."""
        wanted = (
            select(ReadingRow)
            .where(
                ReadingRow.company_id == who.company_id, ReadingRow.job_id == job_id, ReadingRow.source_id == source_id
            )
            .order_by(ReadingRow.at.desc())
            .limit(count)
        )
        with self.session() as session:
            return [(row.at, list(row.figures)) for row in reversed(list(session.scalars(wanted)))]

    def forget(self, who: Who, job_id: str, source_id: str) -> None:
        """A source and all it brought."""
        with self.session.begin() as session:
            self._row(session, who, job_id, source_id)
            session.execute(
                delete(ReadingSourceRow).where(
                    ReadingSourceRow.company_id == who.company_id,
                    ReadingSourceRow.job_id == job_id,
                    ReadingSourceRow.id == source_id,
                )
            )

    def stamp(self, who: Who, job_id: str) -> tuple[Any, ...]:
        """By what it can be told whether any reading came since."""
        wanted = text(
            "SELECT source_id, max(at), count(*) FROM readings WHERE company_id = :company AND job_id = :job GROUP BY 1 ORDER BY 1"
        )
        with self.engine.connect() as c:
            return tuple(tuple(row) for row in c.execute(wanted, {"company": who.company_id, "job": job_id}))

    def _row(self, session: Session, who: Who, job_id: str, source_id: str) -> ReadingSourceRow:
        row = session.get(ReadingSourceRow, (who.company_id, job_id, source_id))
        if row is None:
            raise NotFound("There are no such readings of this job.")
        return row
