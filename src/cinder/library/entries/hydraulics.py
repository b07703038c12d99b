"""Pipes."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from cinder.library.entries.base import Entry, Key, Text


class PipeSizeEntry(Entry):
    label: Text
    bore_m: Annotated[float, Field(gt=0.002, le=0.2)]


class PipeFamilyEntry(Entry):
    id: Key
    label: Text
    roughness_m: Annotated[float, Field(ge=0, le=0.001)]
    sizes: dict[Key, PipeSizeEntry]
    source: Text
