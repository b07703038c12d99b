"""Show the working of a figure: the formula with this job's numbers in it, inputs, source, school, cautions."""

from __future__ import annotations

from collections.abc import Callable

from cinder.design.curve import working as curve
from cinder.design.explained import Working
from cinder.design.fabric import working as fabric
from cinder.design.hot_water import working as hot_water
from cinder.design.hydraulics import working as hydraulics
from cinder.design.losses import working as losses
from cinder.design.losses import working_spaces
from cinder.design.machine import working as machine
from cinder.design.result import Design
from cinder.design.sheet import Sheet
from cinder.design.waterline import working as waterline
from cinder.errors import NotFound
from cinder.model import Job

WORKINGS: dict[str, Callable[[Sheet, list[str]], Working]] = {
    "house": losses.house_loss,
    "room": losses.room_loss,
    "face": losses.face_loss,
    "opening": losses.opening_loss,
    "construction": fabric.construction,
    "slab": fabric.slab,
    "space": working_spaces.space,
    "room-flow": waterline.room_flow,
    "room-reached": waterline.room_reached,
    "flow": waterline.house_flow,
    "cover": machine.cover,
    "season": machine.season,
    "head": hydraulics.head,
    "pipe": hydraulics.pipe,
    "open": hydraulics.open_water,
    "reheat": hot_water.reheat,
    "curve": curve.curve_setting,
}


def working(job: Job, design: Design, key: str) -> Working:
    """The working behind `key` (a kind, then ids after colons: `room:parlour`, `face:parlour:w1`, `cover`).

    Raises `NotFound` for a key that names nothing in this job.
    """
    kind, *names = key.split(":")
    write = WORKINGS.get(kind)
    if write is None:
        raise NotFound(f"There is no working called {kind!r}.")
    try:
        return write(Sheet(job, design), names)
    except (KeyError, IndexError):
        raise NotFound(f"There is nothing to work out under {key!r} in this job.") from None
