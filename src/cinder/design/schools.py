"""The schools a job follows, in words."""

from __future__ import annotations

from cinder.design import air
from cinder.design.air.decide import LABELS as AIR
from cinder.design.house.view import HouseView
from cinder.design.machine.heard import noise_school
from cinder.design.separation.decide import LABELS as SEPARATION
from cinder.model import Practice
from cinder.model.scheme import Protection
from cinder.physics.altitude import NOTICED_ALTITUDE_M, radiator_share
from cinder.physics.quantity import AIR_HEAT_WH_M3K

HYGIENE = {
    "weekly": "an immersion to {:g} °C for {} minutes every week, at night",
    "fortnightly": "an immersion to {:g} °C for {} minutes every 15 days, at night",
    "machine": "the machine itself to {:g} °C for {} minutes every week, an immersion for what it cannot",
    "fresh_water": "no drinking water is stored: it is warmed as it is drawn",
}
"""How bacteria are kept down; what a person must be told, no promise."""


PROTECTION = {
    None: "not chosen yet",
    "none": "none: the machine holds the water warm as long as it has power",
    "valves": "freeze-opening valves outdoors",
}


CHOICES: dict[str, dict[str, str]] = {
    "air": AIR,
    "thin_air": {"counted": "counted above 300 m", "sea_level": "as at sea level everywhere"},
    "hygienic_minimum": {"habitable": "0.5 per hour, habitable rooms", "off": "none"},
    "ground": {"annual_mean": "annual mean (EN 12831-1 simplified)", "full_difference": "full outside difference"},
    "neighbour": {
        "cold_for_emitter": "cold for the emitter, adiabatic for the machine",
        "adiabatic": "adiabatic",
        "cold": "cold for both",
    },
    "room_temperature": {"by_use": "by use", "one": "one everywhere"},
    "heated_floor": {"standard": "EN 1264-2, as makers do", "conduction": "conduction in the plate"},
    "excess": {"logarithmic": "logarithmic, 49.83 K", "arithmetic": "arithmetic, 50 K"},
    "bridges": {"default": "an addition to every outer U", "list": "line by line, Ψ · L from the plan"},
    "bridge_quality": {"poor": "poorly built", "usual": "as usual", "good": "well built"},
    "cold_end": {"settled": "the settled house", "waterline": "the waterline's"},
}
"""What may be chosen where schools differ, by the practice's own name for it, in as few words as a list takes."""


def _protection(house: HouseView) -> str:
    chosen = house.scheme.protection if house.scheme else Protection()
    if chosen.kind == "glycol":
        return f"{chosen.glycol} glycol, {house.fluid.share:.0%} by volume"
    return PROTECTION[chosen.kind]


def schools(house: HouseView) -> dict[str, str]:
    """The schools this job follows, in words; every report carries them."""
    practice = house.practice
    counted = {
        "tightness": "measured or estimated tightness, n50/20 with shelter; the windward room up to "
        f"{practice.windward_factor:g} times its share",
        "age": "tightness by age, n50/20 with shelter; the windward room up to "
        f"{practice.windward_factor:g} times its share",
        "room": "EN 12831:2003 room formula 2 V n50 e ε; the house half the sum of its rooms",
        "table": "air changes by room use and age",
    }
    ground = {"annual_mean": "EN 12831-1 simplified, annual mean", "full_difference": "full outside difference"}
    neighbour = {
        "cold_for_emitter": f"adiabatic for the machine, {practice.neighbour_c:g} °C for the room's emitter on the design day, "
        "milder with the weather",
        "adiabatic": "adiabatic",
        "cold": f"{practice.neighbour_c:g} °C for emitter and machine on the design day, milder with the weather",
    }
    excess = {"logarithmic": "logarithmic, referred to 49.83 K", "arithmetic": "arithmetic, referred to 50 K"}
    one = f"{practice.one_temperature_c:g} °C everywhere"
    high = {} if house.altitude_m < NOTICED_ALTITUDE_M else {"Thin air": _thin_air(house)}
    return {
        "Air": air.as_stated(*air.stated_rooms(house), counted[practice.air]),
        "Least air": "0.5 per hour in habitable rooms" if practice.hygienic_minimum == "habitable" else "none",
        **high,
        "Ground": ground[practice.ground],
        "Neighbour's home": neighbour[practice.neighbour],
        "Room temperatures": "by use" if practice.room_temperature == "by_use" else one,
        "Thermal bridges": f"{practice.thermal_bridge_w_m2k:.2f} W/m²K on outside faces (a figure meant for outside "
        "dimensions, used on inside ones)"
        if practice.bridges == "default"
        else f"line by line, Ψ·L on inside dimensions, {practice.bridge_quality} building",
        "Dimensions": "inside, room by room",
        "Additions": _additions(practice),
        "Excess temperature": excess[practice.excess],
        "Emitter spread": f"{practice.spread_k:g} K",
        "Heated floors": "EN 1264-2, logarithmic excess"
        if practice.heated_floor == "standard"
        else "conduction in the plate, logarithmic excess",
        "Gains": f"none on the design day, {practice.gains_w_per_m2:g} W/m² in the season",
        "Need of the curve": "all rooms settling together, valved ones held at their targets, "
        + (f"{practice.curve_gains_w_per_m2:g} W/m² of gains" if practice.curve_gains_w_per_m2 else "without gains"),
        "Cold end of the curve": "what the settled house needs, the waterline's as its limit"
        if practice.cold_end == "settled"
        else "the waterline's, each neighbouring room at its own target",
        "Start of the curve": "at the designed line"
        if practice.curve_start == "design"
        else f"{practice.curve_start_k:g} K cooler than designed, raised bit by bit",
        "Hot water hygiene": HYGIENE[practice.hygiene].format(practice.hygiene_c, practice.hygiene_minutes),
        "Mixing valve": "thermostatic" if practice.mixer == "thermostatic" else "plain",
        "Noise": noise_school(practice),
        "Circuits": SEPARATION[house.scheme.separation.kind if house.scheme else "direct"],
        "Freeze protection": _protection(house),
        "Control": "weather curve, continuous",
    }


def _thin_air(house: HouseView) -> str:
    if house.practice.thin_air == "sea_level":
        return f"not counted, {AIR_HEAT_WH_M3K:g} Wh/m³K as at sea level"
    return (
        f"counted at {house.altitude_m:.0f} m: air carries {house.air_heat_wh_m3k:.3f} Wh/m³K in place of {AIR_HEAT_WH_M3K:g} Wh/m³K, "
        f"radiators give {radiator_share(house.air_density) * 100:.0f} % of their rating"
    )


def _additions(practice: Practice) -> str:
    said = []
    if practice.high_room_share:
        said.append(f"{practice.high_room_share:.0%} for rooms over 4 m")
    if practice.exposed_share:
        said.append(f"{practice.exposed_share:.0%} for an exposed place")
    if practice.reheat_w_per_m2:
        said.append(f"{practice.reheat_w_per_m2:g} W/m² to warm up again after a pause")
    return ", ".join(said) or "none"
