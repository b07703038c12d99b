"""The house as found."""

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
    Positive,
    RoomCelsius,
    Share,
    Title,
)

BeyondKind = Literal["outside", "heated", "room", "space", "neighbour", "ground"]


class HousePart(Part):
    """A part of the house with its own age: its default constructions and how tight it is built."""

    label: Title = ""
    pos: Position = 0
    built: Annotated[int, Field(ge=1000, le=2200)] | None = None
    age: LibraryKey | None = None
    constructions: dict[Literal["wall", "inner_wall", "roof", "ground", "floor", "window", "door"], Id] = {}
    wall_thickness_m: Length | None = None
    known: Evidence = {}


class Storey(Part):
    label: Title = ""
    pos: Position = 0
    level_m: Coordinate | None = None
    height_m: Length | None = None


class Run(Part):
    """One run of the walk round a room: how far, then which way one turns (right is positive)."""

    id: Id
    length_m: Length | None = None
    turn_deg: Annotated[float, Field(ge=-180, le=180, allow_inf_nan=False)] = 90.0
    diagonal_m: Length | None = None


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
    known: Evidence = {}


class Face(Part):
    label: Title = ""
    construction: Id | None = None
    spans: Annotated[dict[Id, Span], Field(max_length=40)] = {}
    openings: Annotated[dict[Id, Opening], Field(max_length=40)] = {}
    known: Evidence = {}


class RoomAir(Part):
    """Openings that let air through, and an air change somebody measured or stated for this room."""

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
    faces: Annotated[dict[Id, Face], Field(max_length=80)] = {}
    air: RoomAir = RoomAir()
    note: Note = ""
    known: Evidence = {}
    unseen: Annotated[dict[str, Note], Field(max_length=100)] = {}


class Space(Part):
    """An unheated space: its kind from the tables, or its own factor b."""

    label: Title = ""
    pos: Position = 0
    kind: LibraryKey | None = None
    b: Share | None = None


class Neighbour(Part):
    label: Title = ""
    pos: Position = 0
    temperature_c: Annotated[float, Field(ge=-20, le=30, allow_inf_nan=False)] | None = None


class EmitterSpec(Part):
    """What the emitter is: a radiator by type and face, or a stated output at a stated excess."""

    kind: Literal["panel", "stated"] = "panel"
    type: Id | None = None
    length_m: Length | None = None
    height_m: Length | None = None
    output_w: Positive | None = None
    excess_k: Annotated[float, Field(ge=1, le=100, allow_inf_nan=False)] | None = None
    exponent: Annotated[float, Field(ge=0.8, le=2, allow_inf_nan=False)] | None = None
    water_l: NotNegative | None = None
    valve: LibraryKey | None = None


class FreeWall(Part):
    """The wall there is for a bigger emitter."""

    length_m: Length | None = None
    height_m: Length | None = None
    note: Note = ""


class Emitter(Part):
    label: Title = ""
    pos: Position = 0
    room: Id
    spec: EmitterSpec = EmitterSpec()
    free_wall: FreeWall | None = None
    known: Evidence = {}


class PipeRun(Part):
    """A stretch of pipe, there and back: `length_m` is one way. The root starts at the machine."""

    label: Title = ""
    pos: Position = 0
    parent: Id | None = None
    emitter: Id | None = None
    family: Id | None = None
    size: LibraryKey | None = None
    length_m: Length | None = None
    fittings: Annotated[dict[LibraryKey, Annotated[int, Field(ge=0, le=500)]], Field(max_length=20)] = {}
    reach: Literal["easy", "lift a board", "open a wall", "not at all"] | None = None
    known: Evidence = {}


class Store(Part):
    label: Title = ""
    pos: Position = 0
    volume_l: Positive | None = None
    coil_m2: Positive | None = None
    vented: bool | None = None


class Source(Part):
    label: Title = ""
    pos: Position = 0
    fuel: Title = ""
    output_w: Positive | None = None
    note: Note = ""


class Tightness(Part):
    n50_per_h: Annotated[float, Field(gt=0, le=60, allow_inf_nan=False)] | None = None
    shelter: LibraryKey | None = None
    known: Evidence = {}


class Household(Part):
    people: Annotated[int, Field(ge=0, le=200)] | None = None
    bedrooms: Annotated[int, Field(ge=0, le=100)] | None = None


class Survey(Part):
    parts: Annotated[dict[Id, HousePart], Field(max_length=30)] = {}
    storeys: Annotated[dict[Id, Storey], Field(max_length=30)] = {}
    rooms: Annotated[dict[Id, Room], Field(max_length=400)] = {}
    spaces: Annotated[dict[Id, Space], Field(max_length=60)] = {}
    neighbours: Annotated[dict[Id, Neighbour], Field(max_length=30)] = {}
    emitters: Annotated[dict[Id, Emitter], Field(max_length=1000)] = {}
    pipes: Annotated[dict[Id, PipeRun], Field(max_length=2000)] = {}
    stores: Annotated[dict[Id, Store], Field(max_length=20)] = {}
    sources: Annotated[dict[Id, Source], Field(max_length=20)] = {}
    tightness: Tightness = Tightness()
    household: Household = Household()
