"""Which part of the house a room belongs to: one meaning, whatever order a document's keys stand in."""

from __future__ import annotations

from cinder.library import AgeEntry, TablesEntry
from cinder.model import HousePart, Survey


def in_order(survey: Survey) -> list[tuple[str, HousePart]]:
    """The parts of the house as a person ordered them; equal positions by key."""
    return sorted(survey.parts.items(), key=lambda item: (item[1].pos, item[0]))


def part_key(survey: Survey, named: str | None) -> str | None:
    """The part a room names; the first part where it names none or one that is not there; None without any part."""
    if named is not None and named in survey.parts:
        return named
    return next((key for key, _ in in_order(survey)), None)


def part_of(survey: Survey, named: str | None) -> HousePart | None:
    """The part of the house a room belongs to, by the part it names."""
    key = part_key(survey, named)
    return survey.parts[key] if key is not None else None


def age_of(survey: Survey, tables: TablesEntry, named: str | None) -> AgeEntry | None:
    """The age of a part as the tables know it; None where nobody has said it."""
    part = part_of(survey, named)
    return tables.ages.get(part.age) if part is not None and part.age else None


def first_age(survey: Survey) -> str | None:
    """The age of the first part that has one."""
    return next((part.age for _, part in in_order(survey) if part.age), None)
