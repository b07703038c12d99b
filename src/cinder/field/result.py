"""What the correction desk shows."""

from __future__ import annotations

from cinder.design.base import Result


class Point(Result):
    """A look at the house as a point on the curve: water as it was asked for (or, where nobody read that, as it was) and as it
    should have been at that outdoor air, deg C.

    `source` by hand, or readings; `left_out` why rooms in it do not count.
    """

    id: str
    at: str
    source: str
    outdoor_c: float
    flow_c: float
    should_c: float
    left_out: str


class RoomSeen(Result):
    """A room as the looks have it (middle of them): beside its target, and beside what is expected of it at the water as measured, K."""

    id: str
    label: str
    target_c: float
    looks: int
    seen_c: float | None
    off_target_k: float | None
    off_expected_k: float | None
    spread_ratio: float | None
    swing_k: float | None


class Chance(Result):
    key: str
    label: str
    chance: float


class CurveStep(Result):
    """The one step to take now: water at the two ends before and after, deg C, in steps of the controller."""

    cold_out_c: float
    mild_out_c: float
    cold_before_c: float
    mild_before_c: float
    cold_after_c: float
    mild_after_c: float
    says: str


class CorrectionFound(Result):
    """`verdict` its key; `certain` whether one cause stands out; `step` None where the line is not the thing to touch.

    `cold_k`, `mild_k` by how much the water is to change at the two ends in the end, with how sure that is (one spread).
    """

    lacks: str
    sentence: str
    verdict: str
    label: str
    certain: bool
    chance: float
    chances: list[Chance]
    reasons: list[str]
    test: str
    step: CurveStep | None
    cold_k: float | None
    mild_k: float | None
    cold_sd_k: float | None
    mild_sd_k: float | None
    wait_days: int
    wait: str
    constant_h: float | None
    looks: int
    points: list[Point]
    rooms: list[RoomSeen]
    beside: list[str]
    school: str
    begin: CurveStep | None
    """The first setting of the school that starts low, while nothing has been corrected yet."""
