"""Results of the four ways side by side."""

from __future__ import annotations

from typing import Any, Literal

from cinder.design.apart.running.result import Span
from cinder.design.base import Result

Key = Literal["fabric", "hybrid", "full", "hot"]


class Alternative(Result):
    """One way on: what is done, what it comes to, which decisions it leaves open and which it takes.

    `lacks`: why it cannot be had here, and then nothing is reckoned. `once_minor` holds what is done to the house, the machine and
    its work. `operations` begin a scheme of it in the job.
    """

    key: Key
    title: str
    what: str
    lacks: str
    machine: str
    backup: str
    flow_c: float | None
    loss_w: float | None
    cover: float | None
    heat_share: float | None
    """Of the year's heat the machine makes."""
    cost_minor: Span | None
    saves_minor: Span | None
    carbon_kg: float | None
    once_minor: float | None
    fifteen_minor: Span | None
    changes: int
    rooms: list[str]
    """Rooms that are worked in."""
    disturbance: int
    short: list[str]
    """Rooms that do not reach what is asked for."""
    keeps_open: list[str]
    decides: list[str]
    operations: list[dict[str, Any]]


class Alternatives(Result):
    lacks: str
    rows: list[Alternative]
    later: str
    """What a later whole conversion of the hybrid still needs."""
    sentence: str
    priced: str
