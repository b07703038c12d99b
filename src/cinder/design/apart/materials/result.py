"""The list of materials: what to buy, why, and what it costs."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result

Group = Literal["Machine and place", "Plant room", "Hot water", "Pipes", "Emitters", "Water", "House"]


class Material(Result):
    """One line. `part`: its row in the table of parts, whose price a company may replace; empty where the price comes from the scheme.
    `stays`: it is there already. `minor` each; None: nobody has said what it costs."""

    key: str
    group: Group
    label: str
    words: str
    count: float
    unit: str
    need: Literal["essential", "good", "by circumstance"]
    why: str
    part: str
    stays: bool
    minor: float | None
    total_minor: float | None
    price_from: str


class Sums(Result):
    essential_minor: float
    good_minor: float
    circumstance_minor: float
    total_minor: float
    unpriced: int


class MaterialsFound(Result):
    sentence: str
    lacks: str
    rows: list[Material]
    sums: Sums
    notes: list[str]
