"""Results of the survey: signs of the walls, the first guess."""

from __future__ import annotations

from cinder.design.base import Result


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
