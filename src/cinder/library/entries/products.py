"""Products of a list, and lists."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from cinder.library.entries.base import Entry, Key, NotNegative, Positive, Text


class SpeedEntry(Entry):
    label: Text
    output_w: Positive
    electric_w: NotNegative = 0.0
    sound_db: Annotated[float, Field(ge=0, le=120)] | None = None


class ProductEntry(Entry):
    """One size of a list: a panel, a fan unit with its speeds, or a heated board by spacing and covering.

    Outputs W at `at_k` excess. `price_minor` is material only.
    """

    id: Annotated[str, Field(min_length=1, max_length=64)]
    kind: Literal["panel", "fan", "skirting", "loop"]
    label: Text
    type: Key | None = None
    length_m: Positive | None = None
    height_m: Positive | None = None
    depth_m: Positive | None = None
    output_w: Positive | None = None
    at_k: Annotated[float, Field(ge=1, le=100)] = 50.0
    exponent: Annotated[float, Field(ge=0.8, le=2.0)] | None = None
    water_l: NotNegative | None = None
    weight_kg: NotNegative | None = None
    price_minor: NotNegative | None = None
    speeds: list[SpeedEntry] = []
    k_w_m2k: Positive | None = None
    spacing_m: Positive | None = None
    covering_r_m2kw: NotNegative | None = None


class CatalogueEntry(Entry):
    """A list of products: generic sizes of ours, or a maker's list a company brought in."""

    id: Key
    label: Text
    source: Text
    products: Annotated[list[ProductEntry], Field(min_length=1, max_length=4000)]
