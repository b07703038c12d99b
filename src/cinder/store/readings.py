"""Readings beside their jobs: sources, moments with a figure for every channel, means by the hour worked out in the database."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import numpy as np
import orjson
from numpy.typing import NDArray
from sqlalchemy import Engine, delete, select, text
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, sessionmaker

from cinder.errors import NotFound
from cinder.store.record import Who
from cinder.store.statements import CHANNEL
from cinder.store.tables import ColumnMapRow, ReadingRow, ReadingSourceRow

MOST_TOLD = 40
HOT_WATER, DEFROST = 3.0, 2.0
"""Of the mode a plant says."""
PIECE = 20_000
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
    derived: tuple[str, ...] = ()
    """What its mode says, behind its channels: shares of the hour in hot water and in defrost, heat and electricity of hot water, W,
    starts, what is drawn while it stands."""

    def channel(self, name: str) -> NDArray[np.float64]:
        """One channel, or what the mode says (N,); NaN all through where the source has none of that name."""
        names = (*self.source.channels, *self.derived)
        return self.figures[:, names.index(name)] if name in names else np.full(len(self.at), np.nan)


@dataclass(frozen=True)
class Band:
    """A channel in buckets: mean, least, greatest; None where there is none."""

    mean: list[float | None]
    least: list[float | None]
    greatest: list[float | None]


@dataclass(frozen=True)
class Drawn:
    """Channels as they are drawn: the beginning of each bucket, how wide it is, s."""

    at: list[datetime]
    width_s: int
    channels: dict[str, Band]


HOUR_S = 3600
HOUR = "date_bin('1 hour', at, TIMESTAMPTZ '2000-01-01Z') + interval '1 hour'"
OF_SOURCE = "company_id = :company AND job_id = :job AND source_id = :source"


def _asked(who: Who, job_id: str, source_id: str) -> dict[str, Any]:
    return {"company": who.company_id, "job": job_id, "source": source_id}


def _rows(channels: Sequence[str]) -> str:
    """The readings of a source, each with the mode of the one before where there is a mode."""
    place = channels.index("mode") + 1 if "mode" in channels else None
    before = f", lag(figures[{place}]) OVER (ORDER BY at) AS before" if place else ""
    return f"SELECT at, figures{before} FROM readings WHERE {OF_SOURCE}"


def _columns(channels: Sequence[str]) -> tuple[list[str], tuple[str, ...]]:
    """What is worked out for every hour: the mean of every channel, and what the mode says, by name."""
    place = {name: n for n, name in enumerate(channels, start=1)}
    columns = [f"avg(figures[{n}])" for n in place.values()]
    mode = place.get("mode")
    if mode is None:
        return columns, ()
    wanted = {
        "hot_water_share": f"avg((figures[{mode}] = {HOT_WATER})::int)", "defrost_share": f"avg((figures[{mode}] = {DEFROST})::int)",
        "on_share": f"avg((figures[{mode}] > 0)::int)", "starts": f"sum((figures[{mode}] > 0 AND before = 0)::int)",
    }  # fmt: skip
    for name, key in (("hot_water_heat_w", "heat_w"), ("hot_water_electric_w", "electric_w")):
        if key in place:
            wanted[name] = f"avg(CASE WHEN figures[{mode}] = {HOT_WATER} THEN figures[{place[key]}] ELSE 0 END)"
    if "electric_w" in place:
        wanted["standby_w"] = f"avg(figures[{place['electric_w']}]) FILTER (WHERE figures[{mode}] = 0 AND before = 0)"
    return [*columns, *wanted.values()], tuple(wanted)


def _lines(prefix: bytes, at_s: NDArray[np.float64], figures: NDArray[np.float64]) -> bytes:
    """Rows as COPY reads them. Figures that are NaN come out as null of JSON, which is the database's NULL in an array."""
    rows = orjson.dumps(np.ascontiguousarray(figures), option=orjson.OPT_SERIALIZE_NUMPY)[2:-2].split(b"],[")
    moments = np.datetime_as_string(at_s.astype("int64").astype("datetime64[s]")).tolist()
    return b"".join(
        prefix + moment.encode() + b"Z\t{" + row + b"}\n" for moment, row in zip(moments, rows, strict=True)
    )


def _news(who: Who, job_id: str, at_s: float) -> str:
    return orjson.dumps({"company": who.company_id, "job": job_id, "reading": at_s}).decode()


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

    def bring(
        self, who: Who, job_id: str, source_id: str, at_s: NDArray[np.float64], figures: NDArray[np.float64]
    ) -> int:
        """All moments of a new source at once: `at_s` (N,) seconds since 1970, each once; figures (N, channels), NaN where there is none.

        Copied in in pieces, all or nothing.
        """
        asked = _asked(who, job_id, source_id)
        prefix = "\t".join((who.company_id, job_id, source_id)).encode() + b"\t"
        with self.engine.begin() as c:
            raw = c.connection.driver_connection
            assert raw is not None
            copy = "COPY readings (company_id, job_id, source_id, at, figures) FROM STDIN"
            with raw.cursor() as cursor, cursor.copy(copy) as out:
                for first in range(0, len(at_s), PIECE):
                    out.write(_lines(prefix, at_s[first : first + PIECE], figures[first : first + PIECE]))
            channels = c.execute(
                text("SELECT channels FROM reading_sources WHERE " + OF_SOURCE.replace("source_id", "id")), asked
            ).scalar_one()
            wanted, _ = _columns(channels)
            ends = {
                name: ", ".join(f"{name}(figures[{n}])" for n in range(1, len(channels) + 1)) for name in ("min", "max")
            }
            c.execute(
                text(
                    "INSERT INTO reading_hours (company_id, job_id, source_id, hour, mean, least, greatest) "
                    f"SELECT :company, :job, :source, {HOUR}, ARRAY[{', '.join(wanted)}]::float[], ARRAY[{ends['min']}]::float[], "
                    f"ARRAY[{ends['max']}]::float[] FROM ({_rows(channels)}) AS r GROUP BY {HOUR}"
                ),
                asked,
            )
            if len(at_s):
                c.execute(NOTIFY, {"channel": CHANNEL, "news": _news(who, job_id, float(at_s[-1]))})
        return len(at_s)

    def replace(
        self, who: Who, job_id: str, source_id: str, at: datetime, figures: Sequence[float | None] | None
    ) -> None:
        """One moment of a source as it is said now; None takes it back."""
        place = {"company_id": who.company_id, "job_id": job_id, "source_id": source_id, "at": at}
        with self.session.begin() as session:
            session.execute(delete(ReadingRow).filter_by(**place))
            if figures is not None:
                session.execute(insert(ReadingRow).values(place | {"figures": list(figures)}))

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
        """A source by the hour, in one pass of the database; beside its channels what the mode says where there is one. A file's hours were
        worked out when it was brought in."""
        wanted, derived = _columns(source.channels)
        kept = "SELECT extract(epoch FROM hour), mean FROM reading_hours WHERE " + OF_SOURCE + " ORDER BY 1"
        means = f"ARRAY[{', '.join(wanted)}]::float[]"
        fresh = f"SELECT extract(epoch FROM {HOUR}), {means} FROM ({_rows(source.channels)}) AS r GROUP BY {HOUR} ORDER BY 1"
        asked = _asked(who, job_id, source.id)
        with self.engine.connect() as c:
            rows = c.execute(text(kept), asked).all() or c.execute(text(fresh), asked).all()
        figures = np.array([[np.nan if one is None else float(one) for one in row[1]] for row in rows], dtype=float)
        at = np.array([int(row[0]) for row in rows], dtype="datetime64[s]")
        return Hourly(source, at, figures.reshape(len(rows), len(wanted)), derived)

    def drawn(
        self,
        who: Who,
        job_id: str,
        source: Source,
        channels: Sequence[str],
        *,
        first: datetime,
        last: datetime,
        points: int,
    ) -> Drawn:
        """Channels between two moments as at most `points` means with the least and the greatest figure in each, worked out in the
        database; where a bucket is an hour or more, from the hours of a file. Raises `NotFound` for a channel the source does not carry."""
        for name in channels:
            if name not in source.channels:
                raise NotFound(f"These readings carry no {name!r}.")
        width_s = max(math.ceil((last - first).total_seconds() / max(points, 1)), 1)
        places = [source.channels.index(name) + 1 for name in channels]
        asked = {"width": width_s, "first": first, "last": last} | _asked(who, job_id, source.id)
        bucket = "date_bin(make_interval(secs => :width), {at}, :first) AS bucket"
        raw = ", ".join(f"avg(figures[{n}]), min(figures[{n}]), max(figures[{n}])" for n in places)
        hours = ", ".join(f"avg(mean[{n}]), min(least[{n}]), max(greatest[{n}])" for n in places)
        statements = [
            f"SELECT {bucket.format(at='at')}, {raw} FROM readings WHERE {OF_SOURCE} AND at >= :first AND at <= :last GROUP BY 1 ORDER BY 1"
        ]
        if width_s >= HOUR_S:
            begun = "hour - interval '1 hour'"
            statements.insert(
                0,
                f"SELECT {bucket.format(at=begun)}, {hours} FROM reading_hours WHERE {OF_SOURCE} AND {begun} >= :first AND {begun} <= :last "
                "GROUP BY 1 ORDER BY 1",
            )
        rows: Sequence[Any] = ()
        with self.engine.connect() as c:
            for statement in statements:
                rows = rows or c.execute(text(statement), asked).all()
        each = {
            name: Band(
                [row[1 + 3 * n] for row in rows], [row[2 + 3 * n] for row in rows], [row[3 + 3 * n] for row in rows]
            )
            for n, name in enumerate(channels)
        }
        return Drawn([row[0] for row in rows], width_s, each)

    def span(self, who: Who, job_id: str, source_id: str) -> tuple[datetime, datetime] | None:
        """First and last moment of a source."""
        wanted = text(f"SELECT min(at), max(at) FROM readings WHERE {OF_SOURCE}")
        with self.engine.connect() as c:
            first, last = c.execute(wanted, _asked(who, job_id, source_id)).one()
        return (first, last) if first is not None else None

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


class ColumnMaps:
    """What columns of files were said to be, by their headings: the next such file is read so."""

    def __init__(self, engine: Engine) -> None:
        self.session = sessionmaker(engine, expire_on_commit=False)

    def known(self, who: Who, heads: str) -> dict[str, str]:
        with self.session() as session:
            row = session.get(ColumnMapRow, (who.company_id, heads))
            return {str(k): str(v) for k, v in row.mapped.items()} if row is not None else {}

    def keep(self, who: Who, heads: str, mapped: dict[str, str]) -> None:
        row = {"company_id": who.company_id, "heads_sha256": heads, "mapped": mapped}
        with self.session.begin() as session:
            session.execute(
                insert(ColumnMapRow)
                .values(row)
                .on_conflict_do_update(index_elements=["company_id", "heads_sha256"], set_={"mapped": mapped})
            )
