"""A construction cut through: U-value, temperatures on the design day, and a plain hint about moisture."""

from __future__ import annotations

import numpy as np

from cinder.design.fabric.result import Section, SectionLayer
from cinder.design.fabric.u_values import (
    RSE_OUTSIDE,
    RSI,
    Transmittances,
    air_resistance,
    counted,
    is_open,
    metal_bridged,
)
from cinder.library import ConstructionEntry, LayerEntry
from cinder.physics.losses import fabric
from cinder.physics.losses.vapour import dew_point_c, diffusion
from cinder.physics.quantity import Array

INSIDE_HUMIDITY = 0.5
OUTSIDE_HUMIDITY = 0.85
MOULD_HUMIDITY = 0.8
"""Mould may grow where the air at a surface stays above 80 % (ISO 13788, from memory)."""
AIR_SD_M = 0.01
NO_RESISTANCE_SD_M = 0.1
POOR_U = 3.0


def _kind(layer: LayerEntry) -> str:
    if layer.air == "open":
        return "open"
    if layer.air is not None:
        return "air"
    return "resistance" if layer.r_m2kw is not None else "material"


def _sd_m(layer: LayerEntry) -> float | None:
    """Air-equivalent thickness of a layer; None where its material is not known to diffusion."""
    if layer.air is not None:
        return AIR_SD_M
    if layer.thickness_m is None:
        return NO_RESISTANCE_SD_M
    return layer.mu * layer.thickness_m if layer.mu is not None else None


def section(entry: ConstructionEntry, *, inside_c: float, outside_c: float) -> Section:
    """The section of a construction between an inside and an outside temperature, deg C.

    Temperatures by the layers' resistances (isothermal planes); moisture by one cold day in equilibrium.
    Source: ISO 6946, ISO 13788 (from memory).
    """
    u = Transmittances({entry.id: entry})
    worked = u.detail(entry.id)
    rsi = RSI[entry.element]
    rse = rsi if is_open(entry) else RSE_OUTSIDE
    inner = counted(entry)
    if isinstance(worked, float):
        resistances = [max(1 / worked - rsi - rse, 0.0)] if entry.element != "window" else []
        total = 1 / worked
    else:
        resistances, total = list(worked.r_layers), worked.rsi + sum(worked.r_layers) + worked.rse
    # the combined U decides the surface temperature; the layers share the rest as their resistances stand
    surface = inside_c - u.u(entry.id) * rsi * (inside_c - outside_c)
    if resistances and sum(resistances) > 0:
        line = fabric.temperatures_through(resistances=[rsi, *resistances, rse], inside_c=inside_c, outside_c=outside_c)
        temperatures = line[1:-1]
    else:
        temperatures = np.array([surface, inside_c - u.u(entry.id) * (total - rse) * (inside_c - outside_c)])
    wet = _wet(inner, temperatures) if entry.layers else ()
    dew = dew_point_c(temperature_c=20.0, relative_humidity=INSIDE_HUMIDITY)
    mould = dew_point_c(temperature_c=20.0, relative_humidity=INSIDE_HUMIDITY / MOULD_HUMIDITY)
    layers = [_layer(layer, entry, n < len(inner)) for n, layer in enumerate(entry.layers)]
    warnings = _warnings(entry, worked)
    return Section(
        element=entry.element,
        label=entry.label,
        u_w_m2k=u.u(entry.id),
        r_total_m2kw=None if isinstance(worked, float) else worked.r_total,
        r_upper_m2kw=None if isinstance(worked, float) else worked.r_upper,
        r_lower_m2kw=None if isinstance(worked, float) else worked.r_lower,
        limits_ratio=1.0 if isinstance(worked, float) else worked.limits_ratio,
        rsi_m2kw=rsi,
        rse_m2kw=rse,
        inside_c=inside_c,
        outside_c=outside_c,
        humidity=INSIDE_HUMIDITY,
        surface_c=float(temperatures[0]),
        dew_point_c=dew,
        mould_c=mould,
        layers=layers,
        temperature_c=[float(t) for t in temperatures],
        wet=list(wet),
        warnings=warnings,
        sentence=_sentence(entry, u.u(entry.id), float(temperatures[0]), dew, mould, wet, inner),
    )


def _wet(layers: list[LayerEntry], temperatures: Array) -> tuple[int, ...]:
    sd = [_sd_m(layer) for layer in layers]
    if any(value is None for value in sd) or len(temperatures) != len(layers) + 1:
        return ()
    found = diffusion(
        sd_m=np.array(sd, dtype=float), temperature_c=temperatures, inside_humidity=INSIDE_HUMIDITY,
        outside_humidity=OUTSIDE_HUMIDITY,
    )  # fmt: skip
    return found.wet


def _layer(layer: LayerEntry, entry: ConstructionEntry, counts: bool) -> SectionLayer:
    if layer.air == "open":
        r = 0.0
    elif layer.air is not None:
        r = air_resistance(layer, entry.element)
    else:
        r = layer.r_m2kw or (layer.thickness_m or 0.0) / (layer.lambda_w_mk or 1.0)
    kind = _kind(layer)
    return SectionLayer(
        label=layer.label,
        kind="material"
        if kind == "material"
        else "air"
        if kind == "air"
        else "open"
        if kind == "open"
        else "resistance",
        thickness_m=layer.thickness_m,
        lambda_w_mk=layer.lambda_w_mk,
        r_m2kw=r,
        bridge_label=layer.bridge_label or "",
        bridge_share=layer.bridge_share or 0.0,
        sd_m=_sd_m(layer),
        counted=counts,
    )


def _warnings(entry: ConstructionEntry, worked: fabric.Transmittance | float) -> list[str]:
    out = []
    if metal_bridged(entry):
        out.append(
            "A metal bridge crosses a layer: the combined method of ISO 6946 is not valid for it. Take a declared "
            "U-value, or a two-dimensional calculation."
        )
    elif not isinstance(worked, float) and worked.limits_ratio > fabric.COMBINED_RATIO:
        out.append(
            f"Upper and lower limit differ by a factor of {worked.limits_ratio:.2f}; above {fabric.COMBINED_RATIO:g} the "
            "combined method does not hold. Take a declared U-value."
        )
    if entry.element == "ground":
        out.append("Against the ground the U-value of the whole floor counts (ISO 13370), not this section's alone.")
    if is_open(entry):
        out.append(
            "The ventilated layer and what lies outside of it count as nothing; an inside surface takes their place."
        )
    return out


def _sentence(
    entry: ConstructionEntry,
    u: float,
    surface_c: float,
    dew: float,
    mould: float,
    wet: tuple[int, ...],
    layers: list[LayerEntry],
) -> str:
    text = f"**{entry.label}** lets **{u:.2f} W/m²K** through; its inside surface is **{surface_c:.1f} °C** on the design day."
    if surface_c < dew:
        return text + f" That is below the dew point of {dew:.1f} °C (20 °C, 50 %): **water runs down it**."
    if surface_c < mould:
        text += f" Behind furniture it may mould: below {mould:.1f} °C the air at it is over 80 % damp."
    if wet:
        names = [f"{layers[n - 1].label} and {layers[n].label}" for n in wet if n < len(layers)]
        text += f" On such a day moisture may condense between **{' and between '.join(names[:2])}**: ask someone who knows."
    return text
