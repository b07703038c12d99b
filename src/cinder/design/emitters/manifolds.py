"""What hangs at manifolds, and what becomes of it where one temperature serves the whole house."""

from __future__ import annotations

from cinder.design.emitters import heated
from cinder.design.emitters.decide import EmitterArrays
from cinder.design.emitters.result import ManifoldResult
from cinder.design.house.view import HouseView
from cinder.library import load

CLOSING_VALVES = {"actuator": "actuator"}
"""Valves of emitters that stand for something at their manifold."""
MIXING = ("blending-valve", "manifold-pump")


def bears_c(house: HouseView, emitters: EmitterArrays) -> dict[str, float]:
    """The warmest water each room's heated floor bears straight through, deg C."""
    out: dict[str, float] = {}
    for one in emitters.rated:
        if one.surface is None:
            continue
        room_c = house.targets.get(one.view.room, 20.0)
        most = heated.most_flow_c(one.surface, room_c=room_c, spread_k=one.spread_k)
        if most is not None:
            out[one.view.room] = min(most, out.get(one.view.room, most))
    return out


UNKNOWN = "Recorded as {!r}, which is not known here: look at what it does to the flow, and choose what comes nearest."


def at_manifolds(house: HouseView, bears: dict[str, float], flow_c: float | None) -> list[ManifoldResult]:
    """Everything recorded at manifolds with its fate; actuators named as an emitter's valve are among them.

    What blends stays as long as the water of the house is warmer than a floor behind it `bears` (by room, deg C).
    """
    parts = house.job.survey.manifolds
    closing = [view for view in house.emitters if view.spec.valve in CLOSING_VALVES]
    if not parts and not closing:
        return []
    names = {room.id: room.room.label or "a room" for room in house.rooms}
    out = []
    for key, part in sorted(parts.items(), key=lambda item: (item[1].pos, item[0])):
        kind = load().manifold_parts.get(part.kind)
        fate, why, how = (kind.fate, kind.why, kind.how) if kind else ("check", UNKNOWN.format(part.kind), "")
        behind = [bears[room] for room in part.rooms if room in bears] if part.kind in MIXING else []
        if behind and flow_c is not None and flow_c > min(behind) + 0.05:
            fate, how = "keep", f"It goes once the water is at {min(behind):.0f} °C or cooler."
            why = f"At {flow_c:.0f} °C straight through, the floor behind it would pass its surface limit."
        if part.keep:
            fate, why, how = "keep", part.keep, ""
        out.append(
            ManifoldResult(
                id=key, kind=part.kind, label=part.label or (kind.label if kind else part.kind), count=part.count, fate=fate,
                why=why, how=how,
                rooms=[names[room] for room in part.rooms if room in names], emitter=None,
            )
        )  # fmt: skip
    for view in closing:
        known = CLOSING_VALVES[view.spec.valve or ""]
        kind = load().manifold_parts[known]
        out.append(
            ManifoldResult(
                id=f"valve-{view.id}", kind=known, label=f"Actuator of {view.label or 'a loop'}", count=1, fate=kind.fate,
                why=kind.why, how=kind.how, rooms=[names[view.room]] if view.room in names else [], emitter=view.id,
            )
        )  # fmt: skip
    return out
