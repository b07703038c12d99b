"""U-values of the constructions a job carries."""

from __future__ import annotations

from dataclasses import dataclass, field

from cinder.errors import PhysicsError
from cinder.library import ConstructionEntry, LayerEntry
from cinder.physics import fabric

RSI = {"wall": 0.13, "door": 0.13, "roof": 0.10, "floor": 0.17, "ground": 0.17}
RSE_OUTSIDE = 0.04


def layer(entry: LayerEntry) -> fabric.Layer:
    """A library layer as the physics sees it."""
    if entry.r_m2kw is not None:
        return fabric.resistance_layer(r_m2kw=entry.r_m2kw)
    if entry.thickness_m is None or entry.lambda_w_mk is None:
        raise PhysicsError("layer", entry.label, "needs a thickness and a conductivity")
    if entry.bridge_share and entry.bridge_lambda_w_mk is not None:
        return fabric.bridged_layer(
            thickness_m=entry.thickness_m,
            lambda_w_mk=entry.lambda_w_mk,
            bridge_lambda_w_mk=entry.bridge_lambda_w_mk,
            share=entry.bridge_share,
        )
    return fabric.homogeneous_layer(thickness_m=entry.thickness_m, lambda_w_mk=entry.lambda_w_mk)


def thickness_m(entry: ConstructionEntry) -> float:
    """Sum of the layers' thicknesses; a layer of stated resistance counts 50 mm."""
    return sum(one.thickness_m or 0.05 for one in entry.layers)


@dataclass
class Transmittances:
    """U by construction and by what lies beyond, worked out once per design."""

    entries: dict[str, ConstructionEntry]
    _known: dict[tuple[str, bool], fabric.Transmittance | float] = field(default_factory=dict)

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
            else:
                rsi = RSI[entry.element]
                self._known[key] = fabric.transmittance(
                    [layer(one) for one in entry.layers], rsi=rsi, rse=rsi if indoors else RSE_OUTSIDE
                )
        return self._known[key]

    def u(self, construction: str, *, indoors: bool = False) -> float:
        worked = self.detail(construction, indoors=indoors)
        return worked if isinstance(worked, float) else worked.u_w_m2k

    def floor_resistance(self, construction: str) -> float:
        """Resistance of the layers alone, m2K/W (what ISO 13370 calls Rf)."""
        worked = self.detail(construction)
        return 0.0 if isinstance(worked, float) else sum(worked.r_layers)
