"""What the weather curve comes to, in a sentence."""

from __future__ import annotations

from cinder.design.curve.result import Curve
from cinder.design.losses.result import RoomResult


def curve(result: Curve, listed: list[RoomResult]) -> str:
    if result.cold_flow_c is None or result.excess_k is None:
        return "No curve yet: it needs rooms with a loss and emitters."
    labels = {r.id: r.label for r in listed}
    text = result.kind_label
    if result.lacks:
        text = "Two points, until the controller's own line is known"
    elif result.kind == "numbered":
        text = f"Line {result.dial[0].value:g}"
    if (result.short_room_k or 0) > 0.35 and result.short_room:
        text += f": **{labels[result.short_room]}** is {result.short_room_k:.1f} K short at {result.short_at_c:.0f} °C outside"
    else:
        text += ": warm enough in every room the line can serve"
    text += f", at most **{max(result.excess_k, 0):.1f} K** more than needed at {result.excess_at_c:.0f} °C outside."
    return text.replace("-", "−")


def twin(result: Curve, machine: bool) -> str:
    """What is said of the house in time before it has been run."""
    if result.cold_flow_c is None or not machine:
        return "Nothing to run yet: it needs rooms, emitters, a climate and a chosen machine."
    return "The house run through a year of its climate, minute by minute, in the ways people argue about."


def correction(result: Curve, machine: bool) -> str:
    """What is said at the correction desk before anybody looked."""
    if result.cold_flow_c is None or not machine:
        return "Nothing to correct yet: it needs rooms, emitters, a climate and a chosen machine."
    return "What was seen of the running house, weighed, and the one step to take."


def fire_up(result: Curve, machine: bool) -> str:
    """What is said of the day before it has begun."""
    if result.cold_flow_c is None or not machine:
        return "Nothing to fire up yet: it needs rooms, emitters, a climate and a chosen machine."
    return "The day in order, what is expected beside what is measured."
