"""What the emitters and the waterline come to, in a sentence."""

from __future__ import annotations

from cinder.design.explained import names_of
from cinder.design.losses.result import RoomResult
from cinder.design.waterline.result import Waterline

WARMEST_C = 95.0
"""Beyond this a figure of water says nothing but that there is none so warm."""


def waterline(line: Waterline, listed: list[RoomResult]) -> str:
    labels = {r.id: r.label for r in listed}
    if line.needed_flow_c is None or line.chosen_flow_c is None:
        return "No line yet: it needs a room with a loss **and an emitter**."
    holding = names_of([labels[key] for key in line.holding])
    verb = "hold" if len(line.holding) > 1 else "holds"
    beyond = line.needed_flow_c > WARMEST_C
    text = f"{holding} {verb} the water at **{f'more than {WARMEST_C:.0f}' if beyond else f'{line.needed_flow_c:.1f}'} °C**."
    if line.next_flow_c is not None:
        rest = f"more than {WARMEST_C:.0f}" if line.next_flow_c > WARMEST_C else f"{line.next_flow_c:.1f}"
        text += f" Everything else would live on **{rest} °C**."
    if line.short:
        count = len(line.short)
        stay = "rooms** stay" if count > 1 else "room** stays"
        text += f" At {line.chosen_flow_c:.1f} °C **{count} {stay} short."
    return text


def emitters(rooms: list[RoomResult], line: Waterline) -> str:
    """What hangs and lies in the house, what is wanting of it, what goes at the manifolds."""
    every = [one for room in rooms for one in room.emitters]
    if not every:
        return "No emitter is recorded yet: choose a room and say what hangs or lies there."
    blank = [one for one in every if one.rated_w is None]
    floors = sum(one.heated is not None for one in every)
    text = f"**{len(every)} emitters**" + (f", {floors} of them heated floors or walls" if floors else "")
    warm = [
        one for one in every
        if one.heated is not None and one.heated.surface_most_c is not None and one.heated.surface_most_c > one.heated.limit_c + 0.1
    ]  # fmt: skip
    if blank:
        text += f"; **{blank[0].label}** {'and others are' if len(blank) > 1 else 'is'} not complete"
    if warm:
        text += f"; the surface of **{warm[0].label}** would get too warm"
    needy = max(
        (room for room in rooms if room.needed_flow_c is not None), key=lambda r: r.needed_flow_c or 0.0, default=None
    )
    if needy is not None and not blank and not warm:
        text += f"; **{needy.label}** asks the warmest water of its own, **{needy.needed_flow_c:.1f} °C**"
    gone = [one for one in line.manifolds if one.fate in ("remove", "open")]
    if gone:
        text += (
            f"; at the manifolds **{len(gone)} {'thing goes or is' if len(gone) == 1 else 'things go or are'} opened**"
        )
    return text + "."
