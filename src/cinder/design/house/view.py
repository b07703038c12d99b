"""The house a design works on: the job as its active scheme leaves it, with its rooms."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from cinder.design.findings import Findings
from cinder.design.house.overlay import Overlay, overlay
from cinder.design.house.rooms import RoomView, room_view
from cinder.model import Job


@dataclass(frozen=True)
class HouseView(Overlay):
    """Finished when it is made; nothing in it is changed afterwards."""

    rooms: list[RoomView]

    @cached_property
    def targets(self) -> dict[str, float]:
        """Design temperature by room."""
        return {room.id: room.target_c for room in self.rooms}


def view(job: Job, findings: Findings) -> HouseView:
    """The house of a job, its rooms in the order people gave them."""
    over = overlay(job, findings)
    ordered = sorted(job.survey.rooms.items(), key=lambda item: (item[1].pos, item[0]))
    return HouseView(**vars(over), rooms=[room_view(over, key, room) for key, room in ordered])
