"""What a validation found wrong, place by place, in plain words."""

from __future__ import annotations

from typing import Any

from pydantic import ValidationError

from cinder.errors import Problem

SHORT = 60
NOUGHT = 1e-6
WORDS = {
    "greater_than": "must be more than {gt:g}",
    "greater_than_equal": "must be at least {ge:g}",
    "less_than": "must be less than {lt:g}",
    "less_than_equal": "must be at most {le:g}",
    "missing": "is missing",
    "extra_forbidden": "is nothing we know here",
    "finite_number": "must be a finite number",
    "float_type": "must be a number",
    "int_type": "must be a whole number",
    "string_type": "must be text",
    "bool_type": "must be yes or no",
}


def problems_of(error: ValidationError, most: int) -> tuple[Problem, ...]:
    """One problem per place, at most `most`; the place is a JSON pointer, a long value is left out."""
    out = []
    for item in error.errors(include_url=False)[:most]:
        path = "".join(f"/{str(step).replace('~', '~0').replace('/', '~1')}" for step in item["loc"])
        value = item.get("input")
        shown = value if isinstance(value, (int, float, str, bool)) and len(str(value)) < SHORT else None
        out.append(Problem(path or "/", _said(item), shown))
    return tuple(out)


def _said(item: Any) -> str:
    words = WORDS.get(item["type"])
    if words is None:
        return str(item["msg"]).removeprefix("Value error, ")
    given = item.get("ctx") or {}
    if 0 < given.get("ge", 0) <= NOUGHT:  # a figure that only must not be nothing
        return WORDS["greater_than"].format(gt=0)
    return words.format(**given)
