"""The chain in six figures, and what an edit did to them."""

from __future__ import annotations

import math
from typing import Literal

from cinder.design.base import Result, Screen
from cinder.design.hydraulics.result import Pipework, Volume
from cinder.design.losses.result import HouseResult, RoomResult
from cinder.design.machine.result import CandidateResult, SeasonResult
from cinder.design.machine.say import season_label
from cinder.design.waterline.result import Waterline
from cinder.design.waterline.say import WARMEST_C


def figures(
    house: HouseResult,
    rooms: list[RoomResult],
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
    partial = "" if house.complete or house.loss_w is None else "not every room"
    flow, capped = _flow(waterline)
    bare = [room.label for room in rooms if room.status == "no emitter"]
    flow_mark = partial or (f"without {bare[0] if len(bare) == 1 else f'{len(bare)} rooms'}" if bare else "")
    held = f"at {waterline.chosen_flow_c:.0f} °C" if waterline.held else ""
    if waterline.short and flow is not None:
        flow_mark = f"{len(waterline.short)} short"
    return [
        Figure(
            key="loss", label="House loss", value=house.loss_w / 1000 if house.loss_w is not None else None,
            unit="kW", digits=2, better="lower", working="house", screen="rooms", mark=partial,
            lacks="no climate" if house.outdoor_c is None else "no complete room" if house.loss_w is None else "",
        ),
        Figure(
            key="flow", label=f"Flow {at}", value=flow, unit="°C", digits=1,
            better="lower", working="flow", screen="waterline", mark=flow_mark,
            lacks=capped or ("" if flow is not None else "no room with an emitter"),
        ),
        Figure(
            key="cover", label="Machine cover", value=machine.cover * 100 if machine and machine.cover is not None else None,
            unit="%", digits=0, better="higher", working="cover", screen="machine", mark=(held or partial) if machine else "",
            lacks="no machine" if machine is None else "" if machine.cover is not None else "no loss",
        ),
        Figure(
            key="season", label=season_label(machine), value=season.performance, unit="", digits=2, better="higher",
            working="season", screen="machine", mark=_season_mark(season, held),
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


def _season_mark(season: SeasonResult, held: str) -> str:
    if season.performance is None:
        return ""
    return held or ("fuel counted in" if season.fuel else "heat missing" if season.short_kwh else "")


def _flow(line: Waterline) -> tuple[float | None, str]:
    """The line, or why there is none to show: where nobody chose one and the house needs more than makes sense, the limit
    is no figure of this house."""
    needed, chosen = line.needed_flow_c, line.chosen_flow_c
    if needed is None or chosen is None or not line.held:
        return chosen, ""
    return None, "needs over 95 °C" if needed > WARMEST_C else f"needs {math.ceil(needed)} °C"


class Figure(Result):
    """A headline figure of the chain. `mark`: what it leaves out, in two or three words; `lacks`: why there is none."""

    key: str
    label: str
    value: float | None
    unit: str
    digits: int
    better: Literal["lower", "higher", "neither"]
    working: str
    screen: Screen
    lacks: str = ""
    mark: str = ""
