"""The job and its parts: what was surveyed, what is chosen, how it is known."""

from cinder.model.job import FORMAT, SCHEMA, Frozen, Job
from cinder.model.practice import Practice
from cinder.model.schema import empty_job, freeze, new_id, parse
from cinder.model.scheme import Scheme
from cinder.model.survey import Beyond, Emitter, EmitterSpec, Face, Opening, PipeRun, Room, Run, Survey

__all__ = [
    "FORMAT",
    "SCHEMA",
    "Beyond",
    "Emitter",
    "EmitterSpec",
    "Face",
    "Frozen",
    "Job",
    "Opening",
    "PipeRun",
    "Practice",
    "Room",
    "Run",
    "Scheme",
    "Survey",
    "empty_job",
    "freeze",
    "new_id",
    "parse",
]
