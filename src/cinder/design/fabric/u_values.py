"""U-values of the constructions a job carries."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from cinder.errors import PhysicsError
from cinder.library import ConstructionEntry, LayerEntry
from cinder.physics.losses import fabric

RSI = {"wall": 0.13, "door": 0.13, "roof": 0.10, "floor": 0.17, "ground": 0.17, "window": 0.13}
RSE_OUTSIDE = 0.04
FLOW: dict[str, Literal["across", "up", "down"]] = {
    "wall": "across", "door": "across", "window": "across", "roof": "up", "floor": "down", "ground": "down",
}  # fmt: skip
SLIGHTLY_OPEN = 0.5
"""A slightly ventilated air layer counts half (ISO 6946:2007, 5.3.3, from memory)."""


def air_resistance(entry: LayerEntry, element: str) -> float:
    """Resistance of an air layer where heat flows as it does through this element, m2K/W; as at most 300 mm, which is
    where the method ends (a finding says so)."""
    r = fabric.air_layer_resistance(
        thickness_m=min(entry.thickness_m or 0.0, fabric.GREATEST_GAP_M),
        flow=FLOW[element],
        emissivity=entry.emissivity or fabric.BLACK_EMISSIVITY,
    )
    return r * SLIGHTLY_OPEN if entry.air == "slight" else r


def layer(entry: LayerEntry, element: str = "wall") -> fabric.Layer:
    """A library layer as the physics sees it; a bridge through air is as long as the air is thick."""
    if entry.r_m2kw is not None:
        return fabric.resistance_layer(r_m2kw=entry.r_m2kw)
    if entry.thickness_m is None:
        raise PhysicsError("layer", entry.label, "needs a thickness and a conductivity")
    share, bridge = entry.bridge_share or 0.0, entry.bridge_lambda_w_mk
    if entry.air is not None:
        r = air_resistance(entry, element)
        if share and bridge is not None:
            return fabric.Layer(((1.0 - share, r), (share, entry.thickness_m / bridge)))
        return fabric.resistance_layer(r_m2kw=r)
    if entry.lambda_w_mk is None:
        raise PhysicsError("layer", entry.label, "needs a thickness and a conductivity")
    if share and bridge is not None:
        return fabric.bridged_layer(
            thickness_m=entry.thickness_m, lambda_w_mk=entry.lambda_w_mk, bridge_lambda_w_mk=bridge, share=share
        )
    return fabric.homogeneous_layer(thickness_m=entry.thickness_m, lambda_w_mk=entry.lambda_w_mk)


def counted(entry: ConstructionEntry) -> list[LayerEntry]:
    """The layers that count: everything inside of the first layer that is open to the outside."""
    for n, one in enumerate(entry.layers):
        if one.air == "open":
            return entry.layers[:n]
    return list(entry.layers)


def is_open(entry: ConstructionEntry) -> bool:
    return any(one.air == "open" for one in entry.layers)


def metal_bridged(entry: ConstructionEntry) -> bool:
    """Whether a metal bridge crosses an insulating layer: the combined method does not hold for it."""
    return any(one.bridge_share and (one.bridge_lambda_w_mk or 0) > fabric.METAL_LAMBDA for one in entry.layers)


def thickness_m(entry: ConstructionEntry) -> float:
    """Sum of the layers' thicknesses; a layer of stated resistance counts 50 mm, a wall by its U alone 300 mm."""
    return sum(one.thickness_m or 0.05 for one in entry.layers) or 0.30


@dataclass(slots=True)
class Transmittances:
    """U by construction and by what lies beyond, worked out once per design."""

    entries: dict[str, ConstructionEntry]
    _known: dict[tuple[str, bool], fabric.Transmittance | float] = field(default_factory=dict)
    _u: dict[tuple[str, bool], float] = field(default_factory=dict)

    def detail(self, construction: str, *, indoors: bool = False) -> fabric.Transmittance | float:
        """The worked transmittance (or a window's plain U). `indoors`: both surfaces lie inside."""
        key = (construction, indoors)
        if key not in self._known:
            entry = self.entries[construction]
            if entry.glazing is not None:
                glazing = entry.glazing
                self._known[key] = fabric.window_transmittance(
                    glass_u_w_m2k=glazing.glass_u_w_m2k,
                    frame_u_w_m2k=glazing.frame_u_w_m2k,
                    frame_share=glazing.frame_share,
                    edge_psi_w_mk=glazing.edge_psi_w_mk,
                    edge_m_per_m2=glazing.edge_m_per_m2,
                )
            elif entry.stated_u_w_m2k is not None:
                self._known[key] = entry.stated_u_w_m2k
            else:
                rsi = RSI[entry.element]
                self._known[key] = fabric.transmittance(
                    [layer(one, entry.element) for one in counted(entry)],
                    rsi=rsi,
                    rse=rsi if indoors or is_open(entry) else RSE_OUTSIDE,
                )
        return self._known[key]

    def u(self, construction: str, *, indoors: bool = False) -> float:
        key = (construction, indoors)
        known = self._u.get(key)
        if known is None:
            worked = self.detail(construction, indoors=indoors)
            known = self._u[key] = worked if isinstance(worked, float) else worked.u_w_m2k
        return known

    def resistance(self, construction: str) -> float:
        """Resistance of the layers alone, m2K/W (of a floor what ISO 13370 calls Rf); from a declared U-value what its surfaces leave."""
        worked = self.detail(construction)
        if isinstance(worked, float):
            return max(1 / worked - RSI[self.entries[construction].element] - RSE_OUTSIDE, 0.0)
        return worked.r_total - worked.rsi - worked.rse
