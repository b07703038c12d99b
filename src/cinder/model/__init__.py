"""The job and its parts: what was surveyed, what is chosen, how it is known."""

from cinder.model.base import Known
from cinder.model.job import FORMAT, SCHEMA, ClimateChoice, Frozen, Job
from cinder.model.practice import Practice
from cinder.model.room import Beyond, Face, Opening, Room, Run, Slope, Span, Void
from cinder.model.schema import empty_job, freeze, new_id, parse
from cinder.model.scheme import Scheme
from cinder.model.survey import Emitter, EmitterSpec, Household, HousePart, Photo, PipeRun, Seen, Storey, Survey

__all__ = [
    "FORMAT",
    "SCHEMA",
    "Beyond",
    "ClimateChoice",
    "Emitter",
    "EmitterSpec",
    "Face",
    "Frozen",
    "HousePart",
    "Household",
    "Job",
    "Known",
    "Opening",
    "Photo",
    "PipeRun",
    "Practice",
    "Room",
    "Run",
    "Scheme",
    "Seen",
    "Slope",
    "Span",
    "Storey",
    "Survey",
    "Void",
    "empty_job",
    "freeze",
    "new_id",
    "parse",
]
