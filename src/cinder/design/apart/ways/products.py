"""Panels and fan units that fit a place, from the generic sizes and the lists of the company, with their price."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from cinder.design.apart.ways.way import Costs
from cinder.library import ProductEntry, load
from cinder.model import EmitterSpec, FanSpeed, Heated

GENERIC = "generic"
MM = 1000
NEW_HEIGHT_M = 0.6
SAME_M = 0.011
PANELS = ("t11", "t21", "t22", "t33")


@dataclass(frozen=True, slots=True)
class Place:
    """What fits: up to this long, and between these heights."""

    length_m: float
    low_m: float
    high_m: float


def panels(costs: Costs, spot: Place, now: EmitterSpec | None) -> Iterator[tuple[str, EmitterSpec, float | None, str]]:
    """Panels that fit a place: what they are called, their spec, the price of a list, the labour.

    Generic panels come in their usual lengths at the height there is; in their usual heights where the wall is taller.
    """
    if now is not None and now.length_m and now.height_m:
        for key in PANELS:
            spec = _plain_panel(now, key, now.length_m, now.height_m)
            yield size_text(key, now.length_m, now.height_m), spec, None, "same"
    here = now.height_m if now is not None and now.height_m else spot.low_m
    for key, length, height in _generic_sizes():
        tall = height is None
        if length <= spot.length_m + 1e-9 and (tall or here + SAME_M < (height or 0.0) <= spot.high_m + 1e-9):
            metres = here if height is None else height
            if now is None or length > (now.length_m or 0.0) + SAME_M or height is not None:
                yield (
                    size_text(key, length, metres),
                    _plain_panel(now, key, length, metres),
                    None,
                    "longer" if now else "new",
                )
    for entry in costs.lists:
        if entry.id == GENERIC:
            continue
        for product in entry.products:
            if product.kind == "panel" and _fits_in(product, spot):
                yield product.label, product_spec(product, now), product.price_minor, _labour(now, product)


def size_text(key: str, length_m: float, height_m: float) -> str:
    return f"{key.upper()} {length_m * MM:.0f} × {height_m * MM:.0f}"


@lru_cache(maxsize=1)
def _generic_sizes() -> tuple[tuple[str, float, float | None], ...]:
    """Types, lengths and heights of the generic list; height None stands for the height there is."""
    listed = [p for p in load().catalogues[GENERIC].products if p.kind == "panel" and p.type in PANELS]
    lengths = sorted({p.length_m for p in listed if p.length_m is not None})
    sizes = [(p.type, p.length_m, p.height_m) for p in listed if p.type and p.length_m and p.height_m]
    return (*((key, length, None) for key in PANELS for length in lengths), *sizes)


def _fits_in(product: ProductEntry, spot: Place) -> bool:
    length, height = product.length_m, product.height_m
    return (
        length is not None and height is not None and length <= spot.length_m + 1e-9
        and spot.low_m - 1e-9 <= height <= spot.high_m + 1e-9
    )  # fmt: skip


def _labour(now: EmitterSpec | None, product: ProductEntry) -> str:
    if now is None:
        return "new"
    near = abs((product.length_m or 0.0) - (now.length_m or 0.0)) < SAME_M
    return "same" if near and abs((product.height_m or 0.0) - (now.height_m or 0.0)) < SAME_M else "longer"


def mark(made: EmitterSpec) -> str:
    """A product's name as a part of a key: no stroke, not too long."""
    return made.product.replace("/", "-").replace("~", "-")[:80]


def _kept(now: EmitterSpec | None) -> dict[str, object]:
    """What stays of an emitter that is replaced: its valve, spread, how it is piped and what stands before it."""
    if now is None:
        return {}
    return {
        "valve": now.valve,
        "spread_k": now.spread_k,
        "connection": now.connection,
        "obstructions": now.obstructions,
    }


def _plain_panel(now: EmitterSpec | None, key: str, length_m: float, height_m: float) -> EmitterSpec:
    made = EmitterSpec(kind="panel", type=key, length_m=length_m, height_m=height_m)
    return made.model_copy(update=_kept(now))


def product_spec(product: ProductEntry, now: EmitterSpec | None = None) -> EmitterSpec:
    """A product of a list as the spec of an emitter: its figures travel into the job.

    Raises nothing; a loop becomes a heated floor with its maker's characteristic and no area yet.
    """
    base: dict[str, object] = {
        "product": product.label[:200], "length_m": product.length_m, "height_m": product.height_m,
        "exponent": product.exponent, "water_l": product.water_l, "excess_k": product.at_k,
    }  # fmt: skip
    if product.kind == "fan":
        base |= {"kind": "fan", "speeds": [FanSpeed(label=s.label[:200], output_w=s.output_w, electric_w=s.electric_w,
                                                    sound_db=s.sound_db) for s in product.speeds]}  # fmt: skip
    elif product.kind == "loop":
        base = {"kind": "floor", "product": product.label[:200], "heated": Heated(
            method="entered", build=product.label[:200], k_w_m2k=product.k_w_m2k, spacing_m=product.spacing_m,
            covering_r_m2kw=product.covering_r_m2kw or 0.0)}  # fmt: skip
    else:
        base |= {"kind": "panel", "type": product.type, "output_w": product.output_w}
    return EmitterSpec.model_validate({**base, **_kept(now)}, strict=False)


def fan_units(
    costs: Costs, spot: Place, now: EmitterSpec | None
) -> Iterator[tuple[str, EmitterSpec, float | None, str]]:
    if "fan" not in costs.prices:
        return
    wide = Place(spot.length_m, 0.0, max(spot.high_m, NEW_HEIGHT_M))
    for entry in costs.lists:
        for product in entry.products:
            if product.kind == "fan" and _fits_in(product, wide):
                spec = product_spec(product, now)
                yield product.label, spec, product.price_minor or 0.0, "longer" if now is not None else "new"


def price_of(key: str, costs: Costs, length_m: float, height_m: float, labour: str) -> float:
    entry = costs.prices[key]
    return float(round(entry.m_minor * length_m * (height_m / 0.6) + getattr(entry, f"{labour}_minor"), -2))


def cost_of(made: EmitterSpec, price: float | None, labour: str, costs: Costs) -> float:
    length, height = made.length_m or 0.0, made.height_m or 0.0
    if made.kind == "fan":
        return float(round((price or 0.0) + getattr(costs.prices["fan"], f"{labour}_minor"), -2))
    if price is None:
        return price_of(made.type if made.type in costs.prices else "t22", costs, length, height, labour)
    row = costs.prices[made.type if made.type in PANELS else "t22"]
    return float(round(price + getattr(row, f"{labour}_minor"), -2))
