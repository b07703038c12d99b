"""Watching plants: the worker holds a lease on each, asks its gateway, keeps what it believes, writes the settings that are ordered.

A stand-in is a simulated plant served on the same protocol by this worker, on loopback; everything behind the wire is the same.
"""

from __future__ import annotations

import asyncio
import contextlib
import datetime as dt
import logging
import os
import secrets
import socket
import threading
import time
from collections.abc import Sequence
from typing import Any

from sqlalchemy import Engine
from sqlalchemy.exc import InterfaceError, OperationalError

from cinder.devices.client import GatewayClient, GatewayLost, Reading
from cinder.devices.gateway import Gateway
from cinder.devices.plant import Plant
from cinder.devices.registers import READINGS, SETTINGS
from cinder.errors import CinderError, Refused
from cinder.field.channels import channels_of, figures_of
from cinder.field.correction import zone_of
from cinder.model import Job
from cinder.service.faults import fault_number
from cinder.service.remembered import Remembered
from cinder.store.log import ChangeLog
from cinder.store.plants import PlantShelf, Watched
from cinder.store.readings import ReadingShelf
from cinder.store.record import Who
from cinder.twin.of_job import lacks, twin_of

LISTED = "CINDER_GATEWAYS"
"""Environment variable with the gateways an operator allows, host:port, separated by commas."""
AWAY = (OperationalError, InterfaceError)
"""What is raised while the database is away."""
LOOK_S = 0.7
TIMEOUT_S = 2.0
LONGEST_WAIT_S = 8.0
SLOW_S = 1.5
KEYS = (*(one.key for one in READINGS), *(one.key for one in SETTINGS))
logger = logging.getLogger("cinder.plants")


def listed() -> tuple[str, ...]:
    """The gateways an operator allows."""
    return tuple(one.strip() for one in os.environ.get(LISTED, "").split(",") if one.strip())


class StandIn:
    """A simulated plant served on a free port of loopback by a thread of its own."""

    def __init__(self, plant: Plant, *, speed: float) -> None:
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = int(free.getsockname()[1])
        self.plant = plant
        self._gateway = Gateway(plant, port=self.port, speed=speed)
        self._loop = asyncio.new_event_loop()
        self._thread = threading.Thread(target=self._serve, name="stand-in", daemon=True)
        self._thread.start()

    @property
    def address(self) -> str:
        return f"127.0.0.1:{self.port}"

    def _serve(self) -> None:
        asyncio.set_event_loop(self._loop)
        with contextlib.suppress(asyncio.CancelledError):
            self._loop.run_until_complete(self._gateway.serve())

    def stop(self) -> None:
        done = asyncio.run_coroutine_threadsafe(self._gateway.stop(), self._loop)
        with contextlib.suppress(Exception):
            done.result(timeout=2.0)
        self._thread.join(timeout=2.0)


class Clock:
    """Moments of a plant's clock: seconds since a midnight of the house, put on the day it is first looked at; begun anew after what was
    read last where the clock ran back."""

    def __init__(self, zone: dt.tzinfo, first_day: dt.date | None = None) -> None:
        self.zone = zone
        day = first_day or dt.datetime.now(tz=zone).date()
        self.midnight = dt.datetime.combine(day, dt.time(), tzinfo=zone).astimezone(dt.UTC)
        self.last_s = -1.0

    def moment(self, time_s: float) -> dt.datetime:
        if time_s < self.last_s:
            over = int(self.last_s // 86400) + 1
            self.midnight += dt.timedelta(days=over)
        self.last_s = time_s
        return self.midnight + dt.timedelta(seconds=round(time_s))


class PlantWatch:
    """Looks for plants that nobody holds, and watches each in a thread of its own until it is told to stop."""

    def __init__(self, database: Engine, log: ChangeLog, remembered: Remembered) -> None:
        self.log, self.remembered = log, remembered
        self.plants, self.readings = PlantShelf(database), ReadingShelf(database)
        self.name = f"{socket.gethostname()[:30]}-{os.getpid()}-{secrets.token_hex(3)}"
        self.stopping = threading.Event()
        self._threads: list[threading.Thread] = []

    def start(self) -> None:
        """Begin to look; once is enough."""
        if self._threads:
            return
        thread = threading.Thread(target=self._look, name="plants", daemon=True)
        thread.start()
        self._threads.append(thread)

    def stop(self) -> None:
        self.stopping.set()
        for thread in self._threads:
            thread.join(timeout=5.0)

    def _look(self) -> None:
        while not self.stopping.wait(LOOK_S):
            try:
                one = self.plants.lease(self.name)
            except AWAY:
                continue  # the database is away; it is looked for again
            except Exception as error:
                fault_number(error)  # stands in the log; whoever looks for plants must not end by it
                continue
            if one is None:
                continue
            thread = threading.Thread(target=self._watch, args=(one,), name=f"plant {one.job_id}", daemon=True)
            thread.start()
            self._threads = [*(t for t in self._threads if t.is_alive()), thread]

    def _watch(self, one: Watched) -> None:
        """One plant, from lease to release."""
        who = Who(one.company_id, "")
        stand_in: StandIn | None = None
        try:
            job = self.log.current(who, one.job_id).job
            address, allowed = one.address, listed()
            if one.stand_in is not None:
                stand_in = StandIn(self._plant(who, job, one.stand_in), speed=float(one.stand_in.get("speed", 60.0)))
                address, allowed = stand_in.address, (stand_in.address,)
                self.plants.say(self.name, one, state="waiting", said="The stand-in is starting.", address=address)
            self._read(one, job, address, allowed, _first_day(job, one))
        except CinderError as error:
            self.plants.say(self.name, one, state="refused", said=error.message)
            self._hold(one)
        except AWAY:
            pass  # the lease runs out, and whoever comes next takes it up
        except Exception as error:
            number = fault_number(error)
            self.plants.say(self.name, one, state="refused", said=f"A fault of ours, number {number} in the log.")
            self._hold(one)
        finally:
            if stand_in is not None:
                stand_in.stop()
            with contextlib.suppress(*AWAY):
                self.plants.release(self.name, one)

    def _hold(self, one: Watched) -> None:
        """What was refused stays refused until somebody says otherwise."""
        while not self.stopping.wait(2.0):
            now = self.plants.watched(Who(one.company_id, ""), one.job_id)
            if now is None or not now.wanted or now.source_id != one.source_id:
                return
            if self.plants.renew(self.name, one) is None:
                return

    def _plant(self, who: Who, job: Job, said: dict[str, Any]) -> Plant:
        design = self.remembered.tried(who, job)
        if missing := lacks(job, design):
            raise Refused(missing)
        weather, shift = self.remembered.weather(who, job)
        if weather is None:
            raise Refused("This climate carries no hourly year: bring a weather file, or choose a generic one.")
        first = (int(said.get("first_day", 20)) - 1) * 24
        return Plant(
            twin_of(job),
            weather,
            first_hour=first,
            shift_k=shift,
            faults=list(said.get("faults", [])),
            at=int(said.get("at", 0)),
        )

    def _read(self, one: Watched, job: Job, address: str, allowed: Sequence[str], first_day: dt.date | None) -> None:
        """Look after look, for as long as it is wanted and held."""
        who = Who(one.company_id, "")
        host, _, port = address.rpartition(":")
        if not port.isdigit():
            raise Refused(f"{address} is no address: a host and a port, like 192.0.2.10:502.")
        client = GatewayClient(host.strip("[]"), int(port), listed=allowed, timeout_s=TIMEOUT_S)
        clock = Clock(zone_of(job), first_day)
        if missing := lacks(job, self.remembered.tried(who, job)):
            raise Refused(missing)
        twin = twin_of(job)
        channels = channels_of(twin.rooms, twin.emitters, KEYS)
        self.readings.open(
            who,
            one.job_id,
            one.source_id,
            kind="stand-in" if one.stand_in is not None else "plant",
            label=_label(one, address),
            channels=channels,
        )
        wait = one.every_s
        try:
            while not self.stopping.is_set():
                orders = self.plants.renew(self.name, one)
                if orders is None:
                    return
                begun = time.monotonic()
                try:
                    problems, done = self._orders(client, orders)
                    reading = client.read()
                    self._keep(one, who, channels, clock, reading, problems, done)
                    wait = one.every_s
                except GatewayLost as lost:
                    self.plants.say(self.name, one, state="lost", said=lost.message)
                    client.close()
                    wait = min(max(wait * 1.5, 1.0), LONGEST_WAIT_S)
                self.stopping.wait(max(wait - (time.monotonic() - begun), 0.05))
        finally:
            client.close()

    def _orders(self, client: GatewayClient, orders: list[dict[str, Any]]) -> tuple[list[str], list[str]]:
        problems: list[str] = []
        done: list[str] = []
        for order in orders:
            try:
                client.write(str(order["key"]), float(order["value"]))
            except GatewayLost as lost:
                if "refused" not in lost.message:
                    raise
                problems.append(lost.message)
            except Refused as refused:
                problems.append(refused.message)
            done.append(str(order["id"]))
        return problems, done

    def _keep(
        self,
        one: Watched,
        who: Who,
        channels: Sequence[str],
        clock: Clock,
        reading: Reading,
        problems: list[str],
        done: list[str],
    ) -> None:
        problems = [*problems, *reading.problems]
        if reading.took_s > SLOW_S:
            problems.append(f"The gateway took {reading.took_s:.1f} s to answer.")
        at = clock.moment(reading.figures.get("time_s", 0.0))
        emitters = sum(1 for name in channels if name.startswith("tail:") and name.endswith(":return"))
        rooms = sum(1 for name in channels if name.startswith("room:"))
        if len(reading.rooms_c) != rooms or len(reading.tails_c) != emitters:
            problems.append(
                f"The gateway has {len(reading.rooms_c)} rooms and {len(reading.tails_c)} pairs of probes, the job {rooms} and {emitters}: "
                "they are taken in order."
            )
        figures = figures_of(channels, reading.figures, reading.rooms_c, reading.tails_c)
        new = self.readings.add(who, one.job_id, one.source_id, [(at, figures)], tell=True)
        if not new:
            problems.append("The same moment twice: kept once.")
        self.readings.tell(who, one.job_id, one.source_id, problems)
        said = f"Read in {reading.took_s * 1000:.0f} ms."
        self.plants.say(self.name, one, state="live", said=said, problems=problems, done=done, last_at=at)


def _first_day(job: Job, one: Watched) -> dt.date | None:
    """The day of this year a stand-in begins on: its weather is of that day."""
    if one.stand_in is None:
        return None
    today = dt.datetime.now(tz=zone_of(job)).date()
    return dt.date(today.year, 1, 1) + dt.timedelta(days=int(one.stand_in.get("first_day", 20)) - 1)


def _label(one: Watched, address: str) -> str:
    if one.stand_in is not None:
        return "Simulated plant"
    return f"Plant at {address}"
