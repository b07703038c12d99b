"""Materials, layers, constructions."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from cinder.library.entries.base import Element, Entry, Key, NotNegative, Positive, Share, Text

UValue = Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)]
"""No plane element conducts better than about 7 W/m2K, its two surfaces alone being 0.17 m2K/W."""
Thickness = Annotated[float, Field(gt=0, le=3, allow_inf_nan=False)]
Conductivity = Annotated[float, Field(gt=0, le=500, allow_inf_nan=False)]
FloorKind = Literal["slab", "suspended"]


class MaterialEntry(Entry):
    """A material by its design conductivity and vapour resistance factor."""

    id: Key
    label: Text
    lambda_w_mk: Conductivity
    mu: Positive
    source: Text


class LayerEntry(Entry):
    """One layer, inside first: a material by thickness and conductivity, an air layer by thickness, or a stated
    resistance; a material or air layer may be crossed by a bridge that takes a share of the area.

    `air`: still; slight (a few openings, counts half); open (ventilated to the outside: it and what lies outside of it
    count as nothing, with an inside surface in their place).
    """

    label: Text
    material: Key | None = None
    thickness_m: Thickness | None = None
    lambda_w_mk: Conductivity | None = None
    mu: Positive | None = None
    r_m2kw: Positive | None = None
    air: Literal["still", "slight", "open"] | None = None
    emissivity: Annotated[float, Field(gt=0, le=1)] | None = None
    bridge_label: Text | None = None
    bridge_lambda_w_mk: Conductivity | None = None
    bridge_share: Share | None = None

    @model_validator(mode="after")
    def _one_way(self) -> LayerEntry:
        ways = (
            self.thickness_m is not None and self.lambda_w_mk is not None,
            self.r_m2kw is not None,
            self.air is not None,
        )
        if sum(ways) != 1:
            raise ValueError("a layer has a thickness and a conductivity, or is air, or has a resistance")
        if self.air is not None and self.thickness_m is None:
            raise ValueError("an air layer needs its thickness")
        if (self.bridge_share is None) != (self.bridge_lambda_w_mk is None):
            raise ValueError("a bridged layer names the share and the conductivity of its bridge")
        if self.bridge_share is not None and self.r_m2kw is not None:
            raise ValueError("a layer of stated resistance cannot be bridged: give its thickness and conductivity")
        return self


class GlazingEntry(Entry):
    """A window by its parts."""

    glass_u_w_m2k: UValue
    frame_u_w_m2k: UValue
    frame_share: Share
    edge_psi_w_mk: NotNegative
    edge_m_per_m2: NotNegative
    g_value: Share


class ConstructionEntry(Entry):
    """A wall, roof, floor or door by its layers, a window by its parts; or by a declared U-value alone."""

    id: Key
    label: Text
    element: Element
    build: Text = ""
    age: Text = ""
    floor_kind: FloorKind | None = None
    layers: Annotated[list[LayerEntry], Field(max_length=20)] = []
    glazing: GlazingEntry | None = None
    stated_u_w_m2k: UValue | None = None
    source: Text

    @model_validator(mode="after")
    def _complete(self) -> ConstructionEntry:
        if (self.element == "window") != (self.glazing is not None):
            raise ValueError("a window is described by its glazing, everything else by layers")
        if self.element != "window" and not self.layers and self.stated_u_w_m2k is None:
            raise ValueError("needs at least one layer")
        if self.layers and self.stated_u_w_m2k is not None:
            raise ValueError("has layers or a declared U-value, not both")
        if self.layers and self.layers[0].air == "open":
            raise ValueError("the innermost layer cannot be ventilated to the outside")
        if (self.element == "ground") != (self.floor_kind is not None):
            raise ValueError("a ground floor is a slab or suspended")
        return self
