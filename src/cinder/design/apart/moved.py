"""What an earlier version said of a job against what this one says, and which rules moved it."""

from __future__ import annotations

from typing import Any

from cinder import ENGINE_VERSION
from cinder.design.base import Result
from cinder.design.result import Design
from cinder.library import load

ENOUGH = 5e-4
"""Figures nearer than this share are the same to a reader."""
FIGURES = {"loss": ("loss_w", 1e-3), "flow": ("flow_c", 1.0), "cover": ("cover", 1.0), "season": ("season", 1.0)}
"""Where a figure of the chain stands in the line of the job list, and what turns it into the chain's unit."""
BEFORE_SINCE = "2026.2"
"""Lines of the job list that do not say which version wrote them were written with this library edition or an older one."""


class MovedFigure(Result):
    key: str
    label: str
    unit: str
    digits: int
    before: float
    after: float | None


class Moved(Result):
    """Figures that moved though nobody edited anything, and the rules that may have moved them."""

    engine: str
    figures: list[MovedFigure]
    why: list[str]


def since(summary: dict[str, Any] | None, result: Design) -> Moved | None:
    """The figures of a job's line as an earlier version wrote them against this Design; None where nothing moved, or the
    line is this version's own."""
    if not summary or summary.get("engine") == ENGINE_VERSION:
        return None
    moved = []
    for figure in result.headline:
        if figure.key not in FIGURES:
            continue
        name, unit = FIGURES[figure.key]
        old = summary.get(name)
        if not isinstance(old, int | float) or isinstance(old, bool):
            continue
        before = old * unit
        after = figure.value
        if after is None or abs(after - before) > ENOUGH * max(abs(before), 1e-9):
            moved.append(
                MovedFigure(
                    key=figure.key,
                    label=figure.label,
                    unit=figure.unit,
                    digits=figure.digits,
                    before=before,
                    after=after,
                )
            )
    if not moved:
        return None
    keys = {one.key for one in moved}
    edition = str(summary.get("edition") or BEFORE_SINCE)
    why = [row.what for row in load().moved.values() if row.since > edition and keys.intersection(row.figures)]
    return Moved(engine=str(summary.get("engine") or "an earlier version"), figures=moved, why=why)
