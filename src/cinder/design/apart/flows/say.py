"""What the flows come to, in words."""

from __future__ import annotations

from cinder.design.apart.flows.result import FlowsFound
from cinder.library import MachineEntry

NOTICED_K = 0.5
STARVED = 0.85


def sentence(found: FlowsFound, limit: float) -> str:
    """The network in a sentence: who is short with nothing balanced, and how sure the pump's room is (`limit`: the part of its head it may
    use all its life)."""
    starved = [one for one in found.rows if one.unbalanced_lph < STARVED * one.design_lph]
    if starved:
        worst = min(starved, key=lambda one: one.unbalanced_lph / one.design_lph)
        share = worst.unbalanced_lph / worst.design_lph
        text = f"With nothing balanced **{worst.label}** gets {share:.0%} of its flow"
        if len(starved) > 1:
            text += f", {len(starved)} of {len(found.rows)} circuits less than {STARVED:.0%}"
    else:
        text = "With nothing balanced every circuit gets most of its flow"
    if found.used_p10 is not None and found.used_p10 > 1 and found.p10_kpa is not None and found.p90_kpa is not None:
        has = f"the pump has **{found.head_kpa:.0f} kPa** there"
        return f"{text}; the house wants **{found.p10_kpa:.0f} to {found.p90_kpa:.0f} kPa** by what is known of its pipes, {has}: too little."
    if found.used_p90 is not None and found.used_p10 is not None:
        room = (
            "room to spare"
            if found.used_p90 < limit
            else "no room to spare"
            if found.used_p90 <= 1
            else "more than it has"
        )
        return f"{text}; the pump uses **{found.used_p10:.0%} to {found.used_p90:.0%}** of its head by what is known of the pipes: {room}."
    return f"{text}; nobody says what pressure the machine's pump has left."


def notes(found: FlowsFound, left_out: int, machine: MachineEntry | None) -> list[str]:
    out = []
    if left_out:
        many = "circuits lack" if left_out > 1 else "circuit lacks"
        out.append(f"{left_out} {many} a pipe of known size and length and stand out of this.")
    if found.flow_lph is not None and found.unbalanced_total_lph is not None:
        if found.unbalanced_total_lph < 0.98 * found.flow_lph:
            out.append(
                f"At full speed the pump brings {found.unbalanced_total_lph:.0f} of the {found.flow_lph:.0f} L/h wanted, nothing balanced."
            )
        elif found.driven:
            out.append(
                "The pump follows the spread: together the circuits get the flow wanted, shared out by what each takes."
            )
    cold = [one for one in found.rooms if one.balanced_c is not None and one.unbalanced_c is not None]
    worst = max(cold, key=lambda one: (one.balanced_c or 0.0) - (one.unbalanced_c or 0.0), default=None)
    if worst is not None and worst.balanced_c is not None and worst.unbalanced_c is not None:
        less = worst.balanced_c - worst.unbalanced_c
        if less > NOTICED_K:
            out.append(
                f"On the design day {worst.label} settles at {worst.unbalanced_c:.1f} °C with nothing balanced, at "
                f"{worst.balanced_c:.1f} °C balanced."
            )
    if (
        machine is not None
        and machine.least_flow_lph is not None
        and found.flow_lph is not None
        and found.flow_lph < machine.least_flow_lph
    ):
        out.append(
            f"The machine must have {machine.least_flow_lph:.0f} L/h; the emitters ask for {found.flow_lph:.0f} L/h."
        )
    return out
