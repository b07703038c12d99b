"""Results of the survey: signs of the walls, the first guess, the gaps, the doubts."""

from __future__ import annotations

from cinder.design.result_base import Result, Screen


class Guess(Result):
    """A way a wall may be built, with its probability."""

    id: str
    label: str
    construction: str
    probability: float


class WallVerdict(Result):
    """What the signs of one part of the house say together, the likeliest first."""

    part: str
    label: str
    guesses: list[Guess]
    signs: int
    at_odds: list[str]
    sentence: str
    settles: str


class Asked(Result):
    """A question that is put, whether it is answered, and what the answer makes the visit bring."""

    id: str
    answered: bool
    brings: list[str]


class Reason(Result):
    """Why the first guess is wide, and the watts of range it costs."""

    what: str
    costs_w: float
    mend: str


class FirstGuess(Result):
    area_m2: float | None
    density_low_w_m2: float
    density_high_w_m2: float
    low_w: float | None
    high_w: float | None
    bill_low_w: float | None
    bill_high_w: float | None
    bill_why: str
    outdoor_c: float | None
    reasons: list[Reason]
    sentence: str


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
