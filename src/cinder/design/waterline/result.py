"""The waterline as the Design shows it."""

from __future__ import annotations

from cinder.design.base import Result
from cinder.design.emitters.result import ManifoldResult


class Waterline(Result):
    chosen_flow_c: float | None
    chosen_why: str
    held: bool
    """Nobody chose it, and the house needs more: it stands at the limit of sense."""
    needed_flow_c: float | None
    next_flow_c: float | None
    holding: list[str]
    short: list[str]
    spread_k: float
    manifolds: list[ManifoldResult]
