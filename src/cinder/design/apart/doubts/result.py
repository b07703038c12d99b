"""Results of the doubts, and of what the survey still lacks."""

from __future__ import annotations

from cinder.design.base import Result, Screen


class Gap(Result):
    """Something the survey still lacks: where, and how far from where one stands."""

    where: str
    room: str | None
    section: str
    what: str
    required: bool
    distance_m: float | None


class Leaving(Result):
    """Whether one can drive away: the gaps, nearest first, and the verdict."""

    gaps: list[Gap]
    unseen: list[Gap]
    required: int
    good_enough: bool
    sentence: str


class Range(Result):
    p10_w: float
    p50_w: float
    p90_w: float


class Cause(Result):
    """One doubt: how it is known, how far it may be off, and what it moves from its P10 to its P90."""

    key: str
    label: str
    how: str
    low_share: float
    high_share: float
    watts_w: float
    flow_k: float
    paths: list[str]
    mend: str
    screen: Screen


class Doubts(Result):
    """The sampled range of the losses, and every doubt by what it moves."""

    samples: int
    seed: int
    house: Range | None
    rooms: dict[str, Range]
    flow_p10_c: float | None
    flow_p90_c: float | None
    causes: list[Cause]
    single_w: float | None
    sentence: str
