"""Cautions by the step they belong to."""

from __future__ import annotations

from functools import lru_cache

from cinder.design.base import Result
from cinder.library import load


@lru_cache(maxsize=1)
def by_step() -> dict[str, list[Caution]]:
    """Cautions for each screen, in the order of the table."""
    out: dict[str, list[Caution]] = {}
    for entry in load().cautions.values():
        for step in entry.steps:
            out.setdefault(step, []).append(caution(entry.id))
    return out


def caution(key: str) -> Caution:
    """One caution by its name in the table."""
    e = load().cautions[key]
    return Caution(id=e.id, hazard=e.hazard, line=e.line, what=e.what, who=e.who, rule=e.rule)


class Caution(Result):
    id: str
    hazard: str
    line: str
    """What can happen and who may do it, in one line."""
    what: str
    who: str
    rule: str
