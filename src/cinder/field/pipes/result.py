"""What tests with the pump say about pipes."""

from __future__ import annotations

from cinder.design.apart.running.result import Span
from cinder.design.base import Result


class SizeChance(Result):
    """A size of the pipe's family and how likely it is the one."""

    size: str
    label: str
    chance: float


class PipeFitted(Result):
    """A pipe: bore, mm, length one way, m, and what it takes at 100 L/h, kPa, each P10, most likely, P90.

    `told`: the part of the doubt about what it takes that the tests took away; `size`, `length_m`: what would be written down, None where
    no size is likely enough. `agrees`: the survey's own size is the likeliest."""

    id: str
    label: str
    surveyed: str
    bore_mm: Span
    length_m: Span
    takes_kpa: Span
    told: float
    family: str | None
    sizes: list[SizeChance]
    size: str | None
    write_length_m: float | None
    agrees: bool
    says: str


class ReadingJudged(Result):
    """One state of the pump: what was read, what the pipes found would give, L/h, and what is odd about it."""

    id: str
    label: str
    read_lph: float | None
    fits_lph: float | None
    odd: list[str]


class PipesTested(Result):
    """`next_emitter`: opened alone it would tell most; `narrows` the part of the doubt left that it would take away."""

    lacks: str
    sentence: str
    pipes: list[PipeFitted]
    readings: list[ReadingJudged]
    next_emitter: str | None
    next_says: str
    notes: list[str]
