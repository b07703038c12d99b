"""The quick rule for walking round with a customer: face area x W per square metre at the wanted mean water."""

from __future__ import annotations

from cinder.design.base import Result
from cinder.errors import PhysicsError
from cinder.library import load
from cinder.physics.rooms import radiator

TYPES = ("t11", "t21", "t22", "t33")
HEIGHT_M = 0.6


class QuickRating(Result):
    """One type of panel: what a square metre of its face gives, and what the load would take."""

    type: str
    label: str
    w_per_m2: float
    area_m2: float
    length_m: float


class QuickRule(Result):
    mean_c: float
    room_c: float
    load_w: float
    height_m: float
    rows: list[QuickRating]


def w_per_m2(key: str, *, mean_c: float, room_c: float) -> float:
    """Output per face area of a panel of 600 mm height, W/m2, at an arithmetic mean water temperature.

    Raises `PhysicsError` where the water is no warmer than the room. Source: common practice, from memory, about +-15 %.
    """
    if mean_c <= room_c:
        raise PhysicsError("mean_c", mean_c, f"water no warmer than the room, {room_c:g} deg C, gives nothing")
    entry = load().emitter_types[key]
    per_face = entry.w_per_m_at_600 / HEIGHT_M
    excess = mean_c - room_c
    reference = radiator.ARITHMETIC_REFERENCE_K
    return float(radiator.output(rated_w=per_face, exponent=entry.exponent, excess_k=excess, reference_k=reference))


def quick_rule(*, mean_c: float, room_c: float, load_w: float, height_m: float) -> QuickRule:
    """Needed face = load / W per m2; length = face / height."""
    rows = []
    for key in TYPES:
        per = w_per_m2(key, mean_c=mean_c, room_c=room_c)
        label = load().emitter_types[key].label.split(",")[0].replace("Panel ", "")
        rows.append(
            QuickRating(type=key, label=label, w_per_m2=per, area_m2=load_w / per, length_m=load_w / per / height_m)
        )
    return QuickRule(mean_c=mean_c, room_c=room_c, load_w=load_w, height_m=height_m, rows=rows)
