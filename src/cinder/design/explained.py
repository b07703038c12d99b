"""What the working of a figure is made of."""

from __future__ import annotations

from pydantic import BaseModel

from cinder.design.base import Screen
from cinder.design.cautions import Caution
from cinder.model.imperial import number


class Step(BaseModel):
    """One line: what it is, the formula, the formula with numbers, the result."""

    label: str
    formula: str
    numbers: str
    result: str


class Input(BaseModel):
    label: str
    value: str
    how: str


class Working(BaseModel):
    key: str
    title: str
    value: str
    steps: list[Step]
    inputs: list[Input]
    source: str
    school: str
    cautions: list[Caution]
    screen: Screen


def num(value: float | None, digits: int = 1) -> str:
    """A number for people, with a true minus; a dash where there is none.

    >>> num(-3.04, 1)
    '−3.0'
    """
    return "–" if value is None else number(value, digits)


def names_of(labels: list[str]) -> str:
    bold = [f"**{label}**" for label in labels]
    if len(bold) > 3:
        return f"{', '.join(bold[:2])} and {len(bold) - 2} others"
    return " and ".join([", ".join(bold[:-1]), bold[-1]] if len(bold) > 1 else bold)
