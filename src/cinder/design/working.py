"""Show the working of a figure: the formula with this job's numbers in it, inputs, source, school, cautions."""

from __future__ import annotations

from collections.abc import Callable

from cinder.design import working_builds, working_fabric, working_plant
from cinder.design.result import Design
from cinder.design.working_parts import Desk, Working
from cinder.errors import NotFound
from cinder.model import Job

MAKERS: dict[str, Callable[[Desk, list[str]], Working]] = {
    "house": working_fabric.house_loss,
    "room": working_fabric.room_loss,
    "face": working_fabric.face_loss,
    "opening": working_fabric.opening_loss,
    "construction": working_builds.construction,
    "slab": working_builds.slab,
    "space": working_builds.space,
    "room-flow": working_plant.room_flow,
    "room-reached": working_plant.room_reached,
    "flow": working_plant.house_flow,
    "cover": working_plant.cover,
    "season": working_plant.season,
    "head": working_plant.head,
    "pipe": working_plant.pipe,
    "open": working_plant.open_water,
    "reheat": working_plant.reheat,
    "curve": working_plant.curve_setting,
}


def working(job: Job, design: Design, key: str) -> Working:
    """The working behind `key` (a kind, then ids after colons: `room:parlour`, `face:parlour:w1`, `cover`).

    Raises `NotFound` for a key that names nothing in this job.
    """
    kind, *names = key.split(":")
    maker = MAKERS.get(kind)
    if maker is None:
        raise NotFound(f"There is no working called {kind!r}.")
    try:
        return maker(Desk(job, design), names)
    except (KeyError, IndexError):
        raise NotFound(f"There is nothing to work out under {key!r} in this job.") from None
