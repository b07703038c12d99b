"""The house a design works on: the job as its active scheme leaves it, with its rooms."""

from __future__ import annotations

from dataclasses import dataclass, fields
from functools import cached_property, partial

from cinder.design.findings import Findings
from cinder.design.house.overlay import Overlay, overlay
from cinder.design.house.rooms import RoomView, room_view
from cinder.design.kept import Afresh, Kept, entries
from cinder.model import Job


@dataclass(frozen=True)
class HouseView(Overlay):
    """Finished when it is made; nothing in it is changed afterwards."""

    rooms: list[RoomView]

    @cached_property
    def targets(self) -> dict[str, float]:
        """Design temperature by room."""
        return {room.id: room.target_c for room in self.rooms}


def view(job: Job, findings: Findings, kept: Kept | None = None) -> HouseView:
    """The house of a job, its rooms in the order people gave them."""
    kept = kept or Afresh()
    over = overlay(job, findings, kept)
    scheme, lay = over.scheme, over.layout
    measures = entries(scheme.measures) if scheme else ()
    shared = kept.steady(
        "shared by views", (over.practice, over.tables, over.constructions, entries(job.survey.parts), measures)
    )
    rooms = []
    for key, room in sorted(job.survey.rooms.items(), key=lambda item: (item[1].pos, item[0])):
        target = scheme.targets.get(key) if scheme else None
        needs = (room, target, lay.faces.get(key), lay.shapes.get(key), lay.plans.get(key), shared)
        rooms.append(kept.of(("view", key), needs, partial(room_view, over, key, room)))
    return HouseView(**{field.name: getattr(over, field.name) for field in fields(Overlay)}, rooms=rooms)
