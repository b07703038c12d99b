"""The one sentence each screen opens with, worked out from the Design. **Bold** marks what matters."""

from __future__ import annotations

from cinder.design.result import Curve, HotWater, House, Machine, Pipework, RoomResult, Season, Volume, Waterline
from cinder.design.result_survey import WallVerdict

WARMEST_C = 95.0
"""Beyond this a figure of water says nothing but that there is none so warm."""


def _names(labels: list[str]) -> str:
    bold = [f"**{label}**" for label in labels]
    if len(bold) > 3:
        return f"{', '.join(bold[:2])} and {len(bold) - 2} others"
    return " and ".join([", ".join(bold[:-1]), bold[-1]] if len(bold) > 1 else bold)


def site(house: House) -> str:
    if house.outdoor_c is None:
        return "Choose a **climate** first: without an outdoor temperature nothing can be lost."
    where = house.climate_label or "an entered design temperature"
    return f"Designed for **{house.outdoor_c:g} °C** outside, {where}.".replace("-", "−")


def walk_round(walls: list[WallVerdict]) -> str:
    odd = next((w for w in walls if w.at_odds), None)
    first = odd or next((w for w in walls if w.signs), None)
    return (first or walls[0]).sentence if walls else "Begin outside: a picture of every side."


def plan(listed: list[RoomResult]) -> str:
    if not listed:
        return "No rooms yet. **Walk the first room**: height, then wall by wall, clockwise."
    wrong = [r for r in listed if r.closing_share is not None and r.closing_share > 0.01]
    if wrong:
        return f"**{wrong[0].label}** misses its start by **{(wrong[0].closing_error_m or 0) * 1000:.0f} mm**: see its walk."
    loose = [r for r in listed if not r.placed]
    if len(loose) == len(listed):
        return "Nothing is in its place yet: **slide the rooms together**, and their walls learn what they touch."
    if loose:
        return f"{_names([r.label for r in loose])} {'is' if len(loose) == 1 else 'are'} not in place yet."
    losing = sorted(listed, key=lambda r: -(r.w_per_m2 or 0.0))[0]
    return f"Every room is in its place. **{losing.label}** loses most for its size, {losing.w_per_m2 or 0:.0f} W/m²."


def rooms(house: House, listed: list[RoomResult]) -> str:
    if not listed:
        return "No rooms yet. **Add the first room**: width, length, height, and what lies beyond each face."
    if house.outdoor_c is None:
        return "The rooms are kept, but there is **no climate** yet, so no loss."
    incomplete = [r for r in listed if r.room_emitter_load_w is None]
    if house.loss_w is None:
        return f"No room is complete yet: {_names([r.label for r in incomplete])} lack something."
    biggest = max(listed, key=lambda r: r.room_emitter_load_w or 0.0)
    text = f"The house loses **{house.loss_w / 1000:.2f} kW**; "
    text += f"**{biggest.label}** asks most of its emitter, {(biggest.room_emitter_load_w or 0) / 1000:.2f} kW."
    if incomplete:
        text += f" Not counted: {_names([r.label for r in incomplete])}."
    return text


def waterline(line: Waterline, listed: list[RoomResult]) -> str:
    labels = {r.id: r.label for r in listed}
    if line.needed_flow_c is None or line.chosen_flow_c is None:
        return "No line yet: it needs a room with a loss **and an emitter**."
    holding = _names([labels[key] for key in line.holding])
    verb = "hold" if len(line.holding) > 1 else "holds"
    beyond = line.needed_flow_c > WARMEST_C
    text = f"{holding} {verb} the water at **{f'more than {WARMEST_C:.0f}' if beyond else f'{line.needed_flow_c:.1f}'} °C**."
    if line.next_flow_c is not None:
        rest = f"more than {WARMEST_C:.0f}" if line.next_flow_c > WARMEST_C else f"{line.next_flow_c:.1f}"
        text += f" Everything else would live on **{rest}**."
    if line.short:
        count = len(line.short)
        stay = "rooms** stay" if count > 1 else "room** stays"
        text += f" At {line.chosen_flow_c:.1f} °C **{count} {stay} short."
    return text


def machine(result: Machine, season: Season) -> str:
    chosen = next((row for row in result.rows if row.chosen), None)
    if chosen is None:
        return "No machine is chosen. **Compare a few** against this house and take one."
    if chosen.cover is None:
        return f"**{chosen.label}** is chosen; without a loss and a flow temperature it cannot be judged."
    if not chosen.inside:
        return f"**{chosen.label}** gives nothing on the design day: it lies **outside its envelope**."
    text = f"**{chosen.label}** covers **{chosen.cover * 100:.0f} %** of the design day"
    if season.performance is not None:
        text += f" and gives **{season.performance:.2f}** over the heating season"
    if chosen.cycles_above_c is not None:
        text += f"; above {chosen.cycles_above_c:.0f} °C it switches on and off"
    return (text + ".").replace("-", "−")


def hot_water(result: HotWater) -> str:
    if result.volume_l is None:
        if result.rule_low_l is not None:
            usual = f"**{result.rule_low_l:.0f}–{result.rule_high_l:.0f} L**"
            return f"No cylinder yet. {usual} is usual for {result.bedrooms} bedrooms."
        return "No cylinder and no bedrooms yet. **Say who lives here** first."
    text = f"**{result.volume_l:.0f} L**"
    if result.rule_low_l is not None:
        judged = {"small": "is less than", "large": "is well above", "meets": "fits"}[result.verdict]
        text += f" {judged} the {result.rule_low_l:.0f}–{result.rule_high_l:.0f} L usual for {result.bedrooms} bedrooms"
    if result.reheat_minutes is not None:
        text += f"; cold to hot takes **{result.reheat_minutes:.0f} minutes** on the design day"
    return text + "."


def pipework(result: Pipework, volume: Volume) -> str:
    if result.index_kpa is None:
        return "No complete circuit yet. **Enter the primaries**, then one run to each emitter; a guess will do."
    label = result.circuits[0].label
    text = f"The index circuit runs to **{label}** and takes **{result.index_kpa:.1f} kPa**"
    if result.head_kpa is not None:
        text += f" of the {result.head_kpa:.1f} kPa the pump has at {result.flow_lph:.0f} L/h"
    if volume.open_l is not None and volume.need_l is not None:
        text += f". Open water: {volume.open_l:.0f} of {volume.need_l:.0f} L wanted"
    return text + "."


def curve(result: Curve, listed: list[RoomResult]) -> str:
    if result.cold_flow_c is None or result.excess_k is None:
        return "No curve yet: it needs rooms with a loss and emitters."
    labels = {r.id: r.label for r in listed}
    text = "Two points"
    if (result.short_room_k or 0) > 0.35 and result.short_room:
        text += f": **{labels[result.short_room]}** is {result.short_room_k:.1f} K short at {result.short_at_c:.0f} °C outside"
    else:
        text += ": warm enough in every room the line can serve"
    text += f", at most **{max(result.excess_k, 0):.1f} K** more than needed at {result.excess_at_c:.0f} °C outside."
    return text.replace("-", "−")


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
