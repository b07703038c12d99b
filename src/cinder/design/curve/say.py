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
    if result.cold_flow_c is None or result.mild_flow_c is None or not machine:
        return "Nothing to correct yet: it needs rooms, emitters, a climate and a chosen machine."
    return _plain(
        f"The line gives **{result.cold_flow_c:.0f} °C** at {result.cold_out_c:.0f} °C outside and {result.mild_flow_c:.0f} °C at "
        f"{result.mild_out_c:.0f} °C: what the house makes of it is seen here."
    )


def fire_up(result: Curve, machine: str) -> str:
    """What is said of the day before it has begun."""
    if result.cold_flow_c is None or not machine:
        return "Nothing to fire up yet: it needs rooms, emitters, a climate and a chosen machine."
    return _plain(f"The day of **{machine}** in its order, what is expected beside what is measured.")


def wiring(circuits: int, separated: bool, machine: str) -> str:
    """What is said of the controller's record before it is laid out."""
    if not machine:
        return "Nothing to wire yet: choose a machine first."
    own = f", {circuits} circuit{'s' if circuits != 1 else ''} of its own" if circuits else ""
    return f"What is wired where for **{machine}**{own}{' and a second pump' if separated else ''}."


def practice(rooms: int, emitters: int, machine: str) -> str:
    """What is said before an attempt."""
    if not machine:
        return "Nothing to practise on yet: the house needs a chosen machine."
    return f"This house of {rooms} rooms and **{emitters} emitters**, simulated, with something wrong in it: find it, and leave the rest alone."


def _plain(text: str) -> str:
    return text.replace(" -", " −")
