"""The opening sentences of the screens about losses."""

from __future__ import annotations

from collections.abc import Sequence

from cinder.design.explained import names_of, num
from cinder.design.losses.leaks import oddness
from cinder.design.losses.result import HouseResult, RoomResult


def site(house: HouseResult) -> str:
    if house.outdoor_c is None:
        return "Choose a **climate** first: without an outdoor temperature nothing can be lost."
    where = house.climate_label or "an entered design temperature"
    return f"Designed for **{house.outdoor_c:g} °C** outside, {where}.".replace("-", "−")


def plan(listed: list[RoomResult], meetings: Sequence[tuple[str, str, float]]) -> str:
    if not listed:
        return "No rooms yet. **Walk the first room**: height, then wall by wall, clockwise."
    wrong = [r for r in listed if r.closing_share is not None and r.closing_share > 0.01]
    if wrong:
        return f"**{wrong[0].label}** misses its start by **{(wrong[0].closing_error_m or 0) * 1000:.0f} mm**: see its walk."
    loose = [r for r in listed if not r.placed]
    if len(loose) == len(listed):
        return "Nothing is in its place yet: **slide the rooms together**, and their walls learn what they touch."
    if loose:
        return f"{names_of([r.label for r in loose])} {'is' if len(loose) == 1 else 'are'} not in place yet."
    if meetings:
        one, other, shared = meetings[0]
        labels = {r.id: r.label for r in listed}
        return f"**{labels[one]}** and **{labels[other]}** stand in each other, by {shared:.1f} m²: slide one clear, or mirror it (m)."
    losing = sorted(listed, key=lambda r: -(r.w_per_m2 or 0.0))[0]
    return f"Every room is in its place. **{losing.label}** loses most for its size, {losing.w_per_m2 or 0:.0f} W/m²."


def rooms(house: HouseResult, listed: list[RoomResult]) -> str:
    if not listed:
        return "No rooms yet. **Add the first room**: width, length, height, and what lies beyond each face."
    if house.outdoor_c is None:
        return "The rooms are kept, but there is **no climate** yet, so no loss."
    incomplete = [r for r in listed if r.room_emitter_load_w is None]
    if house.loss_w is None:
        return f"No room is complete yet: {names_of([r.label for r in incomplete])} lack something."
    biggest = max(listed, key=lambda r: r.room_emitter_load_w or 0.0)
    text = f"The house loses **{house.loss_w / 1000:.2f} kW**; "
    text += f"**{biggest.label}** asks most of its emitter, {(biggest.room_emitter_load_w or 0) / 1000:.2f} kW."
    if incomplete:
        text += f" Not counted: {names_of([r.label for r in incomplete])}."
    return text


def losses(house: HouseResult, rooms: list[RoomResult]) -> str:
    if house.outdoor_c is None:
        return "There is **no climate** yet, so nothing is lost."
    if house.loss_w is None or not house.leaks:
        return "No room is complete yet: walk one, and its loss appears."
    first = house.leaks[0]
    said = f"The house loses **{num(house.loss_w / 1000, 2)} kW** at {num(house.outdoor_c, 0)} °C. "
    said += f"Most goes through **{first.label.lower()}**, {first.share:.0%}"
    if len(house.leaks) > 1:
        said += f", then {house.leaks[1].label.lower()}, {house.leaks[1].share:.0%}"
    odd = odd_rooms(rooms)
    return said + (f". **{odd[0].label}** looks odd, {odd[0].w_per_m2:.0f} W/m²: check it." if odd else ".")


def odd_rooms(rooms: list[RoomResult]) -> list[RoomResult]:
    """Rooms whose loss per floor area lies well outside what is usual for their age, the oddest first."""

    def far(room: RoomResult) -> float:
        return abs(
            oddness(
                low=room.usual_low_w_per_m2,
                high=room.usual_high_w_per_m2,
                here=room.w_per_m2,
                exposed_faces=room.exposed_faces,
            )
        )

    return sorted((room for room in rooms if room.odd), key=lambda room: -far(room))


def air(house: HouseResult) -> str:
    chosen = next((a for a in house.air if a.chosen), None)
    if chosen is None:
        return "Air is counted once a room is complete and there is a climate."
    share = chosen.air_w / chosen.loss_w if chosen.loss_w else 0.0
    said = f"**{chosen.label}**: air takes **{num(chosen.air_w / 1000, 2)} kW**, {share:.0%} of the house."
    others = [a for a in house.air if not a.chosen]
    far = max(others, key=lambda a: abs(a.loss_w - chosen.loss_w), default=None)
    if far is not None and abs(far.loss_w - chosen.loss_w) > 1:
        more = (far.loss_w - chosen.loss_w) / 1000
        said += f" {far.label} would say **{num(abs(more), 1)} kW {'more' if more > 0 else 'less'}**."
    return said


def constructions(house: HouseResult) -> str:
    built = [leak for leak in house.leaks if leak.construction is not None]
    if not built:
        return "Nothing is built yet: choose the **age of the house**, and its constructions follow."
    worst = max(built, key=lambda leak: leak.u_w_m2k or 0.0)
    most = built[0]
    return (
        f"**{len(built)} constructions** lose heat here. **{most.label}** loses most, {num(most.loss_w, 0)} W; "
        f"**{worst.label}** lets most through, {num(worst.u_w_m2k, 2)} W/m²K."
    )


def report(house: HouseResult) -> str:
    if house.loss_w is None:
        return "A report can be written once there is a loss to report."
    return f"The report says what the screens say: **{num(house.loss_w / 1000, 2)} kW**, its range, its schools, its doubts."
