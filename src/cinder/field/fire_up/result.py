"""What the fire-up screen shows."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result
from cinder.design.cautions import Caution

Verdict = Literal["open", "meets", "off", "noted"]
State = Literal["open", "done", "not needed", "waits"]


class Ask(Result):
    """One thing to measure: its band (None: no limit there, or nobody can say yet), why, where the plant itself says it (`channel`).
    `derived`: worked out from the others, not typed."""

    key: str
    label: str
    unit: str
    digits: int
    low: float | None
    expected: float | None
    high: float | None
    why: str
    channel: str
    derived: bool
    value: float | None
    verdict: Verdict
    live_at: str


class StepFound(Result):
    """A step as it stands. `needs_reason`: done with something off its band and nobody has said why."""

    key: str
    group: str
    label: str
    how: str
    who: str
    visit: Literal["first", "second"]
    cautions: list[Caution]
    asks: list[Ask]
    state: State
    waits: str
    needs_reason: bool
    off: int


class EmitterProof(Result):
    """An emitter as it was measured beside what is expected at that water: spread, K, and water of its design flow."""

    id: str
    room: str
    label: str
    flow_c: float | None
    return_c: float | None
    spread_k: float | None
    expected_k: float | None
    share: float | None
    """Of its design flow."""
    turns: float | None
    verdict: Verdict
    said: str


class Move(Result):
    """One lockshield to turn: from so many turns to so many where they are known; its flow now and after, of design."""

    emitter: str
    label: str
    room: str
    says: str
    share_before: float
    share_after: float


class Balance(Result):
    emitters: list[EmitterProof]
    moves: list[Move]
    sentence: str
    worst_before: float | None
    worst_after: float | None
    """How far the worst emitter is from its design flow, as a share."""


class FireUpFound(Result):
    lacks: str
    sentence: str
    steps: list[StepFound]
    balance: Balance
    done: int
    open: int
    off: int
    hot: bool
    hot_says: str
    outdoor_c: float | None
    notes: list[str]
