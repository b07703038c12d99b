"""The job and its parts: what was surveyed, what is chosen, how it is known."""

from cinder.model.base import Known
from cinder.model.job import FORMAT, Bill, ClimateChoice, Frozen, Job, Living
from cinder.model.practice import Practice
from cinder.model.room import Beyond, Face, Opening, Room, Run, Slope, Span, Void
from cinder.model.schema import empty_job, freeze, new_id, parse
from cinder.model.scheme import Measure, Scheme
from cinder.model.survey import (
    Cellar,
    EdgeInsulation,
    Emitter,
    EmitterSpec,
    FanSpeed,
    Heated,
    Household,
    HousePart,
    ManifoldPart,
    Photo,
    PipeRun,
    Seen,
    Space,
    SpaceFace,
    Storey,
    Survey,
    Ventilation,
)
from cinder.model.upgrade import SCHEMA, upgraded, upgraded_operations

__all__ = [
    "FORMAT",
    "SCHEMA",
    "Beyond",
    "Bill",
    "Cellar",
    "ClimateChoice",
    "EdgeInsulation",
    "Emitter",
    "EmitterSpec",
    "Face",
    "FanSpeed",
    "Frozen",
    "Heated",
    "HousePart",
    "Household",
    "Job",
    "Known",
    "Living",
    "ManifoldPart",
    "Measure",
    "Opening",
    "Photo",
    "PipeRun",
    "Practice",
    "Room",
    "Run",
    "Scheme",
    "Seen",
    "Slope",
    "Space",
    "SpaceFace",
    "Span",
    "Storey",
    "Survey",
    "Ventilation",
    "Void",
    "empty_job",
    "freeze",
    "new_id",
    "parse",
    "upgraded",
    "upgraded_operations",
]
