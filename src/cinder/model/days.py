"""Days of the calendar as text."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from pydantic import AfterValidator, Field


def _day(text: str) -> str:
    try:
        dt.date.fromisoformat(text)
    except ValueError as why:
        raise ValueError(f"{text} is no day of the calendar") from why
    return text


Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$"), AfterValidator(_day)]
"""2026-11-30."""
