"""`cinder gateway`: a plant of a job, served until somebody stops it."""

from __future__ import annotations

import asyncio
from collections.abc import Callable, Sequence
from typing import Any

from cinder.design.judgement import design as judged
from cinder.devices.gateway import Gateway
from cinder.devices.plant import Plant
from cinder.errors import Refused
from cinder.library import load, shipped_year
from cinder.model import Job, parse
from cinder.twin.of_job import lacks, twin_of

LOWEST_CLIMATE = "mild-maritime"


def plant_of(job: Job, *, first_day: int, faults: Sequence[str] = ()) -> Plant:
    """A plant of a job. Raises `Refused` with what it lacks."""
    if missing := lacks(job, judged(job)):
        raise Refused(missing)
    twin = twin_of(job)
    climate = twin.view.climate
    year = shipped_year(climate.year_sha256) if climate and climate.year_sha256 else None
    if year is None:
        year = shipped_year(load().climates[LOWEST_CLIMATE].year_sha256 or "")
    if year is None:
        raise Refused("No hourly year is shipped for this climate.")
    return Plant(twin, year, first_hour=(first_day - 1) * 24, faults=faults)


def run_gateway(
    document: dict[str, Any], *, port: int, speed: float, first_day: int, faults: Sequence[str], minutes: float, say: Callable[[str], None]
) -> None:  # fmt: skip
    """Serve a job's plant on loopback; ends after `minutes` of ours, or at an interrupt."""
    gateway = Gateway(plant_of(parse(document), first_day=first_day, faults=faults), port=port, speed=speed)

    async def serve() -> None:
        task = asyncio.create_task(gateway.serve())
        await asyncio.sleep(0.05)
        if not task.done():
            say(f"A simulated plant answers on 127.0.0.1:{port}, {speed:g} times as quick as time. Ctrl+C stops it.")
        if minutes > 0:
            await asyncio.sleep(minutes * 60)
            await gateway.stop()
        await task

    try:
        asyncio.run(serve())
    except OSError as why:
        raise Refused(
            f"127.0.0.1:{port} cannot be listened on: {why.strerror or why}. Give another with --port."
        ) from why
    except (KeyboardInterrupt, asyncio.CancelledError):
        say("Stopped.")
