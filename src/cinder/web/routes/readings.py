"""Readings: files of them, the plant that is watched, and what they say about the line."""

from __future__ import annotations

import datetime as dt
import secrets
import tempfile
from dataclasses import asdict
from pathlib import Path
from typing import IO, Annotated, Any
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np
import orjson
from fastapi import FastAPI, Query, Request
from starlette.responses import Response

from cinder.devices.registers import BY_KEY
from cinder.errors import NotFound, Refused
from cinder.exchange import readings
from cinder.exchange.apart import Limits, apart_within
from cinder.service.people import DEMO
from cinder.service.plants import listed
from cinder.service.services import Services
from cinder.store.plants import Watched
from cinder.store.queue import somebody_works
from cinder.store.readings import Source
from cinder.store.record import Applied, Who
from cinder.twin.faults import FAULTS
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.bodies import HandReadingsIn, OrderIn, PlantIn
from cinder.web.respond import json_response, stamped

SERIES = ("outdoor_c", "supply_c", "return_c", "wanted_c", "flow_lph", "electric_w", "heat_w")
SHOWN = 120
CHANNELS = {
    "time": "Time", "outdoor_c": "Outdoor air", "supply_c": "Flow", "return_c": "Return", "wanted_c": "Flow asked for", "flow_lph": "Water, L/h",
    "electric_w": "Electricity, W", "heat_w": "Heat, W", "electric_kwh": "Electricity meter, kWh", "heat_kwh": "Heat meter, kWh",
    "heater_w": "Heater beside the machine, W", "heater_kwh": "Heater's meter, kWh", "store_c": "Store", "room:all": "Rooms, mean",
    "sun_w_m2": "Sun on the level, W/m²", "mode": "Mode (0 off, 1 heating, 2 defrost, 3 hot water)",
}  # fmt: skip
LONG = Limits(seconds=90, megabytes=400)
"""A year by minutes may be read."""
HAND = "by-hand"
HAND_CHANNELS = ["electric_kwh", "heat_kwh", "heater_kwh", "room:all"]
Map = Annotated[str, Query(max_length=20_000, description="JSON: channel by column")]


def install(app: FastAPI, on: Services) -> None:
    @app.get("/api/jobs/{job_id}/correction", responses={200: {"model": answers.CorrectionOut}})
    async def correction(who: Asker, job_id: str) -> Response:
        """What was seen of the running house, and the one step to take."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, correction=on.remembered.correction(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/fire-up", responses={200: {"model": answers.FireUpOut}})
    async def fire_up(who: Asker, job_id: str) -> Response:
        """The commissioning day as it stands: steps, bands, the balance, beside what the plant said last."""
        return await on.slowly(
            who, job_id,
            lambda at: stamped(at.version, fire_up=on.remembered.fire_up(who, at.job, at.version, _live(on, who, job_id))),
        )  # fmt: skip

    @app.get("/api/jobs/{job_id}/wiring", responses={200: {"model": answers.WiringOut}})
    async def wiring(who: Asker, job_id: str) -> Response:
        """Every sensor, pump, valve and signal of the plant, and where it is wired."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, wiring=on.remembered.wiring(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/readings", responses={200: {"model": answers.SourcesOut}})
    def sources(who: Asker, job_id: str) -> Response:
        """Where readings of a job come from."""
        on.log.current(who, job_id)
        return json_response({"sources": [_source(one) for one in on.readings.sources(who, job_id)]})

    @app.post("/api/jobs/{job_id}/readings/look", responses={200: {"model": answers.ReadingsLook}})
    async def look(who: Asker, job_id: str, request: Request) -> Response:
        """What the columns of a file seem to be, or were said to be the last time; nothing is kept."""
        applied = on.log.current(who, job_id)
        with await _on_disk(request) as file:
            found = await on.lanes.files.run(
                lambda: apart_within(LONG, readings.look, Path(file.name), rooms=_rooms(applied))
            )
        names = {**CHANNELS, **{f"room:{key}": label for label, key in _rooms(applied).items()}}
        known = {key: one for key, one in on.maps.known(who, found.heads).items() if not one or one in names}
        columns = [
            {"name": one.name, "channel": known.get(one.name, one.channel), "sample": one.sample}
            for one in found.columns
        ]
        notes = ["Its columns are taken as somebody said the last time."] if known else []
        return json_response({"columns": columns, "channels": names, "notes": [*notes, *found.notes]})

    @app.post("/api/jobs/{job_id}/readings", responses={200: {"model": answers.ReadingsTaken}})
    async def take(who: Asker, job_id: str, request: Request, label: str = "", mapped: Map = "") -> Response:
        """Keep the readings of a file beside the job."""
        applied = on.log.current(who, job_id)
        zone, rooms, said = applied.job.time_zone, _rooms(applied), _mapping(mapped)

        def work(file: IO[bytes], folder: Path) -> dict[str, Any]:
            found = apart_within(LONG, readings.read_into, Path(file.name), folder, zone=zone, rooms=rooms, mapped=said)
            at = np.load(folder / readings.AT, mmap_mode="r")
            figures = np.load(folder / readings.FIGURES, mmap_mode="r")
            source = secrets.token_hex(8)
            on.readings.open(who, job_id, source, kind="file", label=label[:200] or "A file", channels=found.channels)
            try:
                added = on.readings.bring(who, job_id, source, at, figures)
            except BaseException:
                on.readings.forget(who, job_id, source)
                raise
            on.readings.tell(who, job_id, source, found.notes)
            if said:
                on.maps.keep(who, found.heads, said)
            return {"source": source, "added": added, "notes": found.notes}

        with await _on_disk(request) as file, tempfile.TemporaryDirectory() as folder:
            return json_response(await on.lanes.files.run(lambda: work(file, Path(folder))))

    @app.post("/api/jobs/{job_id}/readings/hand", responses={200: {"model": answers.ReadingsTaken}})
    def by_hand(who: Asker, job_id: str, sent: HandReadingsIn) -> Response:
        """Meters read by hand: what they stood at on a day. A day that was read before is read anew."""
        applied = on.log.current(who, job_id)
        moment = _midday(sent.day, applied.job.time_zone)
        figures = [sent.electric_kwh, sent.heat_kwh, sent.heater_kwh, sent.inside_c]
        if all(one is None for one in figures):
            raise Refused("Nothing was read: type what a meter stands at.")
        on.readings.open(who, job_id, HAND, kind="hand", label="Meters, read by hand", channels=HAND_CHANNELS)
        _rises(on, who, job_id, moment, sent)
        on.readings.replace(who, job_id, HAND, moment, figures)
        return json_response({"source": HAND, "added": 1, "notes": []})

    @app.get("/api/jobs/{job_id}/readings/hand", responses={200: {"model": answers.HandRowsOut}})
    def read_by_hand(who: Asker, job_id: str) -> Response:
        """What was read by hand, the newest first."""
        on.log.current(who, job_id)
        rows = on.readings.last(who, job_id, HAND, count=500)
        return json_response({"rows": [{"at": at, "figures": figures} for at, figures in reversed(rows)]})

    @app.delete("/api/jobs/{job_id}/readings/hand/{day}", status_code=204)
    def not_by_hand(who: Asker, job_id: str, day: str) -> Response:
        """A day's reading by hand taken back."""
        applied = on.log.current(who, job_id)
        on.readings.replace(who, job_id, HAND, _midday(day, applied.job.time_zone), None)
        return Response(status_code=204)

    @app.get("/api/jobs/{job_id}/readings/{source}/drawn", responses={200: {"model": answers.DrawnOut}})
    async def drawn(
        who: Asker, job_id: str, source: str, channels: Annotated[str, Query(max_length=2000)], first: dt.datetime | None = None,
        last: dt.datetime | None = None, points: Annotated[int, Query(ge=2, le=2000)] = 600,
    ) -> Response:  # fmt: skip
        """Channels (by name, parted by commas) as they are drawn: so many means with their least and greatest, however many readings."""
        on.log.current(who, job_id)

        def work() -> Response:
            found, span = on.readings.source(who, job_id, source), on.readings.span(who, job_id, source)
            if found is None or span is None:
                raise NotFound("There are no such readings of this job.")
            made = on.readings.drawn(
                who,
                job_id,
                found,
                channels.split(","),
                first=_zoned(first) or span[0],
                last=_zoned(last) or span[1],
                points=points,
            )
            return json_response(
                {"at": made.at, "width_s": made.width_s, "channels": {k: asdict(v) for k, v in made.channels.items()}}
            )

        return await on.lanes.slow.run(work)

    @app.delete("/api/jobs/{job_id}/readings/{source}", status_code=204)
    def forget(who: Asker, job_id: str, source: str) -> Response:
        """A source and all it brought, gone."""
        watched = on.plants.watched(who, job_id)
        if watched is not None and watched.wanted and watched.source_id == source:
            raise Refused("This plant is being watched: stop that first.")
        on.readings.forget(who, job_id, source)
        return Response(status_code=204)

    @app.get("/api/jobs/{job_id}/watched", responses={200: {"model": answers.WatchedOut}})
    def watched(who: Asker, job_id: str) -> Response:
        """The plant as it is watched, with its last reading."""
        on.log.current(who, job_id)
        return json_response(_plant(on, who, job_id))

    @app.post("/api/jobs/{job_id}/watched", responses={200: {"model": answers.WatchedOut}})
    def watch(who: Asker, job_id: str, body: PlantIn) -> Response:
        """Watch a plant from now on: one the operator has listed, or a stand-in for the sample company."""
        on.log.current(who, job_id)
        stand_in = body.stand_in
        if stand_in is None and body.address not in listed():
            named = ", ".join(listed()) or "none"
            raise Refused(
                f"{body.address or 'No address'} is not among the gateways the operator has listed ({named})."
            )
        if stand_in is not None:
            if who.company_id != DEMO.company_id:
                raise Refused("Simulated plants are for the sample company.")
            for key in stand_in.faults:
                if key not in FAULTS:
                    raise NotFound(f"No fault is called {key!r}; there are {', '.join(FAULTS)}.")
            for one in on.readings.sources(who, job_id):
                if one.kind == "stand-in":  # a new one begins a house of its own
                    on.readings.forget(who, job_id, one.id)
        on.plants.watch(
            who, job_id, secrets.token_hex(8), address=body.address, every_s=body.every_s,
            stand_in=stand_in.model_dump() if stand_in else None,
        )  # fmt: skip
        return json_response(_plant(on, who, job_id))

    @app.delete("/api/jobs/{job_id}/watched", responses={200: {"model": answers.WatchedOut}})
    def stop(who: Asker, job_id: str) -> Response:
        """Nobody watches it any more; what was read stays."""
        on.log.current(who, job_id)
        on.plants.stop(who, job_id)
        return json_response(_plant(on, who, job_id))

    @app.post("/api/jobs/{job_id}/watched/orders", responses={200: {"model": answers.WatchedOut}})
    def order(who: Asker, job_id: str, body: OrderIn) -> Response:
        """A setting to be written to the plant."""
        on.log.current(who, job_id)
        register = BY_KEY.get(body.key)
        if register is None or not register.writable:
            raise Refused(f"{body.key} is no setting of a plant.")
        if not register.believable(body.value):
            raise Refused(
                f"{register.label}: {body.value:g} {register.unit} lies beyond {register.low:g} to {register.high:g}; nothing was written."
            )
        said = {"id": secrets.token_hex(6), "key": body.key, "value": body.value}
        if not on.plants.order(who, job_id, said):
            raise Refused("No plant is being watched, or too many settings wait for it.")
        return json_response(_plant(on, who, job_id))


async def _on_disk(request: Request) -> IO[bytes]:
    """The body in a file of its own, as it comes in; gone when it is closed."""
    file = tempfile.NamedTemporaryFile(prefix="cinder-readings-")  # noqa: SIM115 - the caller closes it
    try:
        async for piece in request.stream():
            file.write(piece)
        file.flush()
    except BaseException:
        file.close()
        raise
    return file


def _zoned(at: dt.datetime | None) -> dt.datetime | None:
    return at.replace(tzinfo=dt.UTC) if at is not None and at.tzinfo is None else at


def _midday(day: str, zone: str) -> dt.datetime:
    try:
        return dt.datetime.combine(dt.date.fromisoformat(day), dt.time(12), tzinfo=ZoneInfo(zone))
    except (ValueError, ZoneInfoNotFoundError):
        raise Refused(f"{day!r} is no day.") from None


def _rises(on: Services, who: Who, job_id: str, moment: dt.datetime, sent: HandReadingsIn) -> None:
    """A meter does not run backwards from one reading to the next."""
    rows = [(at, figures) for at, figures in on.readings.last(who, job_id, HAND, count=2000) if at != moment]
    for n, (name, label) in enumerate(
        (("electric_kwh", "Electricity"), ("heat_kwh", "Heat"), ("heater_kwh", "Heater"))
    ):
        now = getattr(sent, name)
        if now is None or sent.new_meter:
            continue
        before = [(at, f[n]) for at, f in rows if at < moment and f[n] is not None]
        after = [(at, f[n]) for at, f in rows if at > moment and f[n] is not None]
        if before and before[-1][1] > now:
            raise Refused(
                f"{label}: on {before[-1][0]:%d.%m.%Y} the meter stood at {before[-1][1]:g}; it cannot stand at {now:g} later. A new meter?"
            )
        if after and after[0][1] < now:
            raise Refused(
                f"{label}: on {after[0][0]:%d.%m.%Y} the meter stood at {after[0][1]:g}; it cannot have stood at {now:g} before."
            )


def _live(on: Services, who: Who, job_id: str) -> dict[str, float]:
    """What the plant that is watched said last of the air outside and in the rooms, to a tenth."""
    watched = on.plants.watched(who, job_id)
    if watched is None or watched.state != "live":
        return {}
    source = on.readings.source(who, job_id, watched.source_id)
    last = on.readings.last(who, job_id, watched.source_id) if source else []
    if source is None or not last:
        return {}
    said = zip(source.channels, last[-1][1], strict=False)
    return {k: round(v, 1) for k, v in said if v is not None and (k == "outdoor_c" or k.startswith("room:"))}


def _rooms(applied: Applied) -> dict[str, str]:
    return {room.label or key: key for key, room in applied.job.survey.rooms.items()}


def _mapping(text: str) -> dict[str, str] | None:
    if not text:
        return None
    try:
        said = orjson.loads(text)
    except orjson.JSONDecodeError:
        raise Refused("The columns were not said as JSON.") from None
    if not isinstance(said, dict) or not all(isinstance(v, str) for v in said.values()):
        raise Refused("The columns are said as names with channels.")
    return {str(k): v for k, v in said.items()}


def _source(one: Source) -> dict[str, Any]:
    return {
        "id": one.id, "kind": one.kind, "label": one.label, "channels": list(one.channels), "told": list(one.told), "at": one.at,
        "first": one.first, "last": one.last, "count": one.count,
    }  # fmt: skip


def _plant(on: Services, who: Who, job_id: str) -> dict[str, Any]:
    watched: Watched | None = on.plants.watched(who, job_id)
    figures: dict[str, float | None] = {}
    series: dict[str, list[float | None]] = {}
    times: list[dt.datetime] = []
    if watched is not None:
        source = on.readings.source(who, job_id, watched.source_id)
        if source is not None:
            rows = on.readings.last(who, job_id, source.id, count=SHOWN)
            times = [at for at, _ in rows]
            if rows:
                figures = dict(zip(source.channels, rows[-1][1], strict=False))
            places = {name: source.channels.index(name) for name in SERIES if name in source.channels}
            series = {name: [row[n] for _, row in rows] for name, n in places.items()}
    return {
        "watched": watched is not None and watched.wanted, "simulated": watched is not None and watched.stand_in is not None,
        "address": watched.address if watched else "", "listed": list(listed()), "worker": somebody_works(on.engine),
        "state": watched.state if watched else "none", "said": watched.said if watched else "",
        "problems": list(watched.problems) if watched else [], "waiting_orders": len(watched.orders) if watched else 0,
        "at": watched.last_at if watched else None, "heard_s": watched.heard_s if watched else None, "figures": figures, "series": series,
        "times": times,
    }  # fmt: skip
