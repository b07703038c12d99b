"""What every part of a job shares: strict finite numbers, clean text, ids, evidence."""

from __future__ import annotations

import unicodedata
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

Id = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,64}$")]
LibraryKey = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9_.-]{0,63}$")]


def _clean(text: str) -> str:
    for char in text:
        if char != "\n" and unicodedata.category(char) in ("Cc", "Cs"):
            raise ValueError("text holds a control character or half a character pair")
    return text


Title = Annotated[str, Field(max_length=200), AfterValidator(_clean)]
Note = Annotated[str, Field(max_length=4000), AfterValidator(_clean)]
Length = Annotated[float, Field(gt=0, le=200, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
Minor = Annotated[float, Field(ge=0, le=1e11, allow_inf_nan=False)]
"""Money in minor units of the job's currency."""
Positive = Annotated[float, Field(ge=1e-6, le=1e6, allow_inf_nan=False)]
RoomCelsius = Annotated[float, Field(ge=5, le=35, allow_inf_nan=False)]
OutdoorCelsius = Annotated[float, Field(ge=-60, le=40, allow_inf_nan=False)]
WaterCelsius = Annotated[float, Field(ge=10, le=95, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Coordinate = Annotated[float, Field(ge=-1e4, le=1e4, allow_inf_nan=False)]
Position = Annotated[float, Field(ge=-1e9, le=1e9, allow_inf_nan=False)]
How = Literal["measured", "read", "told", "inferred", "assumed"]


class Part(BaseModel):
    """Base of every part of the document: nothing unknown gets in, nothing is silently converted."""

    model_config = ConfigDict(strict=True, extra="forbid", populate_by_name=True, frozen=True)


class Known(Part):
    """How a value is known. An absent entry means the value is assumed."""

    how: How
    via: Title | None = None
    by: Title | None = None
    at: Title | None = None
    note: Note | None = None
    photos: Annotated[list[Title], Field(max_length=50)] = []
    spread: Share | None = None


Evidence = Annotated[dict[str, Known], Field(max_length=100)]
