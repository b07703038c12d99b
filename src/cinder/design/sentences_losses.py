"""The opening sentences of the screens about losses."""

from __future__ import annotations

from cinder.design.climate import RULES
from cinder.design.house import HouseView
from cinder.design.leaks import oddness
from cinder.design.result import House, RoomResult
from cinder.design.working_parts import num


def losses(house: House, rooms: list[RoomResult]) -> str:
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


def air(house: House) -> str:
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


def climate(house: HouseView) -> str:
    if house.outdoor_c is None:
        return "Choose a **climate**, or bring a weather file: without an outdoor temperature nothing is lost."
    said = f"Designed for **{num(house.outdoor_c)} °C** outside"
    if house.job.climate.design_c is not None:
        said += ", entered by hand"
    elif house.climate is not None:
        said += f": {RULES[house.job.climate.rule]}"
    if house.climate is not None:
        kind = (
            "a synthetic year" if house.climate.synthetic else "a typical year" if house.climate.typical else "a year"
        )
        said += f". The season runs on {kind}, {house.climate.label}, {num(house.climate.annual_mean_c)} °C on average"
    return said + "."


def constructions(house: House) -> str:
    built = [leak for leak in house.leaks if leak.construction is not None]
    if not built:
        return "Nothing is built yet: choose the **age of the house**, and its constructions follow."
    worst = max(built, key=lambda leak: leak.u_w_m2k or 0.0)
    most = built[0]
    return (
        f"**{len(built)} constructions** lose heat here. **{most.label}** loses most, {num(most.loss_w, 0)} W; "
        f"**{worst.label}** lets most through, U {num(worst.u_w_m2k, 2)}."
    )


def report(house: House) -> str:
    if house.loss_w is None:
        return "A report can be written once there is a loss to report."
    return f"The report says what the screens say: **{num(house.loss_w / 1000, 2)} kW**, its range, its schools, its doubts."
