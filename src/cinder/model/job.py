"""The job: one recorded document, complete in itself."""

from __future__ import annotations

from typing import Annotated, Generic, Literal, TypeVar

from pydantic import Field

from cinder.library import (
    ClimateEntry,
    ConstructionEntry,
    EmitterTypeEntry,
    Entry,
    MachineEntry,
    PipeFamilyEntry,
    TablesEntry,
)
from cinder.model.base import Coordinate, Evidence, Id, LibraryKey, Note, OutdoorCelsius, Part, Position, Title
from cinder.model.practice import Practice
from cinder.model.scheme import Scheme
from cinder.model.survey import Answer, Survey

FORMAT = "mellow-cinder-job"
SCHEMA = 1
E = TypeVar("E", bound=Entry)


class Frozen(Part, Generic[E]):
    """A copy of a library entry as it was when the job took it."""

    origin: Literal["library", "company", "job"] = "library"
    edition: Title
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    data: E


class LibraryCopies(Part):
    constructions: Annotated[dict[Id, Frozen[ConstructionEntry]], Field(max_length=300)] = {}
    emitter_types: Annotated[dict[Id, Frozen[EmitterTypeEntry]], Field(max_length=100)] = {}
    pipe_families: Annotated[dict[Id, Frozen[PipeFamilyEntry]], Field(max_length=50)] = {}
    machines: Annotated[dict[Id, Frozen[MachineEntry]], Field(max_length=50)] = {}
    climates: Annotated[dict[Id, Frozen[ClimateEntry]], Field(max_length=20)] = {}
    tables: Annotated[dict[Id, Frozen[TablesEntry]], Field(max_length=5)] = {}


class Site(Part):
    place: Title = ""
    altitude_m: Coordinate | None = None
    north_deg: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] | None = None
    """Compass bearing of the plan's upward direction."""
    answers: Annotated[dict[LibraryKey, Answer], Field(max_length=100)] = {}
    known: Evidence = {}
    units: Literal["metric", "feet"] = "metric"
    note: Note = ""


class ClimateChoice(Part):
    """A climate of the job's library, and a design temperature that overrides it."""

    entry: Id | None = None
    design_c: OutdoorCelsius | None = None


class Visit(Part):
    label: Title = ""
    pos: Position = 0
    at: Title = ""
    note: Note = ""


class Job(Part):
    format: Literal["mellow-cinder-job"]
    schema_version: Annotated[int, Field(alias="schema", ge=1, le=SCHEMA)]
    id: Id
    title: Title
    time_zone: Title = "UTC"
    currency: Annotated[str, Field(pattern=r"^[A-Z]{3}$")] = "GBP"
    site: Site = Site()
    climate: ClimateChoice = ClimateChoice()
    practice: Practice = Practice()
    library: LibraryCopies = LibraryCopies()
    survey: Survey = Survey()
    schemes: Annotated[dict[Id, Scheme], Field(max_length=30)] = {}
    active_scheme: Id | None = None
    visits: Annotated[dict[Id, Visit], Field(max_length=200)] = {}
