"""The chain in six figures, and what an edit did to them."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result, Screen
from cinder.design.hydraulics.result import Pipework, Volume
from cinder.design.losses.result import HouseResult
from cinder.design.machine.result import CandidateResult, SeasonResult
from cinder.design.waterline.result import Waterline


def figures(
    house: HouseResult,
    waterline: Waterline,
    machine: CandidateResult | None,
    season: SeasonResult,
    pipework: Pipework,
    volume: Volume,
) -> list[Figure]:
    """The ember bar, in working order."""
    at = "on the design day"
    if house.outdoor_c is not None:
        at = f"at {house.outdoor_c:g} °C".replace("-", "−")
    used = pipework.head_used
    return [
        Figure(
            key="loss", label="House loss", value=house.loss_w / 1000 if house.loss_w is not None else None,
            unit="kW", digits=2, better="lower", working="house", screen="rooms",
            lacks="no climate" if house.outdoor_c is None else "no complete room" if house.loss_w is None else "",
        ),
        Figure(
            key="flow", label=f"Flow {at}", value=waterline.chosen_flow_c, unit="°C", digits=1,
            better="lower", working="flow", screen="waterline",
            lacks="" if waterline.chosen_flow_c is not None else "no room with an emitter",
        ),
        Figure(
            key="cover", label="Machine cover", value=machine.cover * 100 if machine and machine.cover is not None else None,
            unit="%", digits=0, better="higher", working="cover", screen="machine",
            lacks="no machine" if machine is None else "" if machine.cover is not None else "no loss",
        ),
        Figure(
            key="season", label="Season, heating", value=season.performance, unit="", digits=2, better="higher",
            working="season", screen="machine",
            lacks="" if season.performance is not None else "no machine or climate",
        ),
        Figure(
            key="head", label="Pump head used", value=used * 100 if used is not None else None, unit="%", digits=1,
            better="lower", working="head", screen="pipework",
            lacks="" if used is not None else "no head left" if pipework.head_kpa == 0 else "no pipes or machine",
        ),
        Figure(
            key="open", label="Open water", value=volume.open_l, unit="L", digits=0, better="higher",
            working="open", screen="pipework", lacks="" if volume.open_l is not None else "no water yet",
        ),
    ]  # fmt: skip


class Figure(Result):
    """A headline figure of the chain."""

    key: str
    label: str
    value: float | None
    unit: str
    digits: int
    better: Literal["lower", "higher", "neither"]
    working: str
    screen: Screen
    lacks: str = ""
