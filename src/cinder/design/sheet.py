"""The sheet a working is written on: the job, its Design, and look-ups the workings share."""

from __future__ import annotations

from functools import cached_property

from cinder.design.cautions import Caution, by_step
from cinder.design.findings import Findings
from cinder.design.house.view import view
from cinder.design.losses.result import FaceResult, RoomResult
from cinder.design.result import Design
from cinder.model import Job


class Sheet:
    """The job and its design, with look-ups the workings share."""

    def __init__(self, job: Job, design: Design) -> None:
        self.job = job
        self.design = design
        self.rooms = {room.id: room for room in design.rooms}

    @cached_property
    def air_heat(self) -> str:
        """What a m3 of the air around the house carries, Wh/m3K, as it stands in a formula."""
        return f"{view(self.job, Findings()).air_heat_wh_m3k:.3f}".rstrip("0")

    def room(self, key: str) -> RoomResult:
        return self.rooms[key]

    def face(self, room: str, key: str) -> FaceResult:
        return next(iter([face for face in self.rooms[room].faces if face.key == key]), None) or self._none()

    def _none(self) -> FaceResult:
        raise KeyError

    def how(self, room: str, field: str) -> str:
        known = self.job.survey.rooms[room].known.get(field)
        return known.how if known else "assumed"

    def cautions(self, *steps: str) -> list[Caution]:
        found = {c.id: c for step in steps for c in by_step().get(step, [])}
        return list(found.values())
