"""What the climate comes to, in a sentence."""

from __future__ import annotations

from cinder.design.explained import num
from cinder.design.house.climate import RULES
from cinder.design.house.view import HouseView


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
