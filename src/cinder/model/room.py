"""A room: its walk, its faces and what lies beyond them, its slopes and voids."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from cinder.model.base import (
    Coordinate,
    Evidence,
    Id,
    Length,
    LibraryKey,
    Note,
    NotNegative,
    Part,
    Position,
    RoomCelsius,
    Share,
    Title,
)

BeyondKind = Literal["outside", "heated", "room", "space", "neighbour", "ground"]


class Run(Part):
    """One run of the walk round a room: how far, then which way one turns (right is positive)."""

    id: Id
    length_m: Length | None = None
    turn_deg: Annotated[float, Field(ge=-180, le=180, allow_inf_nan=False)] = 90.0
    diagonal_m: Length | None = None
    """Measured from the start corner of the walk to the end of this run: it takes the place of a right angle."""


class Beyond(Part):
    """What lies on the other side of a face, as stated by a person (an override of what is derived)."""

    kind: BeyondKind
    room: Id | None = None
    space: Id | None = None
    neighbour: Id | None = None

    @model_validator(mode="after")
    def _names_its_other_side(self) -> Beyond:
        for kind in ("room", "space", "neighbour"):
            if (getattr(self, kind) is not None) != (self.kind == kind):
                raise ValueError(f"names a {kind} exactly when its kind is {kind}")
        return self


class Span(Part):
    """A stretch of a face, from/to along it in metres; both absent means all of it."""

    from_m: NotNegative | None = None
    to_m: NotNegative | None = None
    beyond: Beyond | None = None


class Opening(Part):
    label: Title = ""
    pos: Position = 0
    kind: Literal["window", "door"] = "window"
    construction: Id | None = None
    width_m: Length | None = None
    height_m: Length | None = None
    offset_m: NotNegative | None = None
    sill_m: NotNegative | None = None
    """Its lower edge above the floor of the room."""
    sunlit: Share | None = None
    """Share of the sun that reaches the glass past trees, reveals and curtains."""
    known: Evidence = {}


class Face(Part):
    label: Title = ""
    construction: Id | None = None
    spans: Annotated[dict[Id, Span], Field(max_length=40)] = {}
    openings: Annotated[dict[Id, Opening], Field(max_length=40)] = {}
    known: Evidence = {}


class Slope(Part):
    """A sloping ceiling that rises from a wall: from `knee_m` above the floor, at `angle_deg` to the level."""

    label: Title = ""
    run: Id
    knee_m: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] | None = None
    angle_deg: Annotated[float, Field(ge=5, le=85, allow_inf_nan=False)] | None = None
    known: Evidence = {}


class Void(Part):
    """A hole in the floor or ceiling of a room (a stairwell, a gallery), as a rectangle in the room's own walk."""

    label: Title = ""
    face: Literal["floor", "ceiling"]
    x_m: Coordinate
    y_m: Coordinate
    width_m: Length
    length_m: Length


class RoomAir(Part):
    """Openings that let air through, what fans move, and an air change somebody measured or stated for this room."""

    per_h: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] | None = None
    supply_m3h: NotNegative | None = None
    extract_m3h: NotNegative | None = None
    vents: Annotated[int, Field(ge=0, le=20)] = 0
    known: Evidence = {}
    chimneys: Annotated[int, Field(ge=0, le=20)] = 0
    flues: Annotated[int, Field(ge=0, le=20)] = 0
    fans: Annotated[int, Field(ge=0, le=20)] = 0


class Place(Part):
    x_m: Coordinate
    y_m: Coordinate
    rotation_deg: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] = 0.0


class Room(Part):
    label: Title = ""
    pos: Position = 0
    storey: Id | None = None
    part: Id | None = None
    use: LibraryKey | None = None
    target_c: RoomCelsius | None = None
    height_m: Annotated[float, Field(gt=0, le=30, allow_inf_nan=False)] | None = None
    walk: Annotated[list[Run], Field(max_length=60)] = []
    position: Place | None = None
    floor_level_m: Coordinate | None = None
    """Where its floor lies, if not at the level of its storey (split levels)."""
    slopes: Annotated[dict[Id, Slope], Field(max_length=12)] = {}
    voids: Annotated[dict[Id, Void], Field(max_length=12)] = {}
    faces: Annotated[dict[Id, Face], Field(max_length=80)] = {}
    air: RoomAir = RoomAir()
    note: Note = ""
    known: Evidence = {}
    unseen: Annotated[dict[str, Note], Field(max_length=100)] = {}
