"""What a working is made of, and the desk it is written at."""

from __future__ import annotations

from pydantic import BaseModel

from cinder.design.cautions import by_step
from cinder.design.result import Caution, Design, Face, RoomResult
from cinder.design.result_base import Screen
from cinder.model import Job

GROUPED_FROM = 10_000


class Step(BaseModel):
    """One line: what it is, the formula, the formula with numbers, the result."""

    label: str
    formula: str
    numbers: str
    result: str


class Input(BaseModel):
    label: str
    value: str
    how: str


class Working(BaseModel):
    key: str
    title: str
    value: str
    steps: list[Step]
    inputs: list[Input]
    source: str
    school: str
    cautions: list[Caution]
    screen: Screen


def num(value: float | None, digits: int = 1) -> str:
    """A number for people, with a true minus; a dash where there is none.

    >>> num(-3.04, 1)
    '−3.0'
    """
    if value is None:
        return "–"
    text = f"{value:,.{digits}f}" if abs(value) >= GROUPED_FROM else f"{value:.{digits}f}"
    return text.replace("-", "−").replace(",", "\u2009")


class Desk:
    """The job and its design, with look-ups the workings share."""

    def __init__(self, job: Job, design: Design) -> None:
        self.job = job
        self.design = design
        self.rooms = {room.id: room for room in design.rooms}

    def room(self, key: str) -> RoomResult:
        return self.rooms[key]

    def face(self, room: str, key: str) -> Face:
        return next(iter([face for face in self.rooms[room].faces if face.key == key]), None) or self._none()

    def _none(self) -> Face:
        raise KeyError

    def how(self, room: str, field: str) -> str:
        known = self.job.survey.rooms[room].known.get(field)
        return known.how if known else "assumed"

    def cautions(self, *steps: str) -> list[Caution]:
        found = {c.id: c for step in steps for c in by_step().get(step, [])}
        return list(found.values())
