"""A place of a job in the words of the house: "Tower room, wall 2, window, width in m" for its JSON pointer."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import replace
from typing import Any

from cinder.errors import Problem

UNITS = {
    "kwh_per_day": "kWh a day", "l_min": "L/min", "w_m2k": "W/m²K", "m2kw": "m²K/W", "w_mk": "W/mK",
    "bar": "bar", "kpa": "kPa", "m3h": "m³/h", "lph": "L/h", "kwh": "kWh", "deg": "°",
    "mm": "mm", "m2": "m²", "m3": "m³", "kw": "kW", "kg": "kg", "db": "dB",
    "c": "°C", "k": "K", "w": "W", "m": "m", "l": "L", "h": "h",
}  # fmt: skip
"""What a field's name ends with, and the unit it says; longer endings first."""
LONGEST = 60
"""Characters of a label that are said of it."""


def spoken(document: Any, path: str) -> str:
    """Where a path leads: the labels it passes, then the field. Empty where nothing of it has a name of its own.

    A part that is not there (a field that is missing, the kind of a union) is said as it is written.
    """
    steps = [step.replace("~1", "/").replace("~0", "~") for step in path.split("/")[1:]]
    words: list[str] = []
    node, table = document, ""
    for step in steps:
        inside = _inside(node, step)
        words += _word(step, inside, table if isinstance(node, dict) else "[]" if isinstance(node, list) else "")
        node, table = inside, step
    return ", ".join(words)


def _inside(node: Any, step: str) -> Any:
    if isinstance(node, dict):
        return node.get(step)
    return node[int(step)] if isinstance(node, list) and step.isdecimal() and int(step) < len(node) else None


def _word(step: str, inside: Any, table: str) -> list[str]:
    """What one step of a path is called; `table` is what it lies in, "[]" in a list."""
    if table == "[]":
        return [f"number {int(step) + 1}" if step.isdecimal() else step]
    if isinstance(inside, dict) and isinstance(label := inside.get("label"), str) and label:
        return [label[:LONGEST]]
    if table == "faces":
        return [f"wall {step[1:]}" if re.fullmatch(r"w\d+", step) else step]
    if isinstance(inside, dict) and table.endswith("s"):  # rooms, openings, emitters: their keys are ids
        kind = inside.get("kind")
        return [kind[:LONGEST]] if isinstance(kind, str) else []
    if step in ("survey", "schemes", "library") or _is_table(step, inside):
        return []
    return [_field(step)]


def _is_table(step: str, inside: Any) -> bool:
    """A map of parts, or of names, by their ids; collectors are one part."""
    return (
        isinstance(inside, dict) and step.endswith("s") and all(isinstance(one, dict | str) for one in inside.values())
    )


def _field(name: str) -> str:
    if name.endswith("_minor") or "_minor_per_" in name:  # money is told in whole units by whoever asks
        return name.replace("_minor", "").replace("_per_", " a ").replace("_", " ")
    for ending, unit in UNITS.items():
        if name.endswith(f"_{ending}"):
            return f"{name.removesuffix(f'_{ending}').replace('_', ' ')} in {unit}"
    return name.replace("_", " ")


def said(document: Any, problems: Iterable[Problem]) -> tuple[Problem, ...]:
    """The same problems, each with its place in words."""
    return tuple(replace(problem, where=spoken(document, problem.path)) for problem in problems)
