"""What every entry of the library shares."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

Finite = Annotated[float, Field(allow_inf_nan=False)]
Positive = Annotated[float, Field(ge=1e-9, le=1e7, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, le=1e7, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Celsius = Annotated[float, Field(ge=-60, le=130, allow_inf_nan=False)]
Pair = Annotated[list[NotNegative], Field(min_length=2, max_length=2)]
Text = Annotated[str, Field(max_length=300)]
Key = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9_.-]{0,63}$")]
Element = Literal["wall", "roof", "ground", "floor", "window", "door"]


class Entry(BaseModel):
    model_config = ConfigDict(strict=True, extra="forbid", frozen=True)
