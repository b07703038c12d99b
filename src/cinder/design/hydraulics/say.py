"""What pipes and open water come to, in a sentence."""

from __future__ import annotations

from cinder.design.hot_water.result import HotWaterResult
from cinder.design.house.view import HouseView
from cinder.design.hydraulics.result import Pipework, Volume
from cinder.design.separation import Separated


def pipework(result: Pipework, volume: Volume) -> str:
    if result.index_kpa is None:
        return "No complete circuit yet. **Enter the primaries**, then one run to each emitter; a guess will do."
    label = result.circuits[0].label
    text = f"The index circuit runs to **{label}** and needs **{result.index_kpa:.1f} kPa**"
    if result.head_kpa is not None:
        text += f"; at {result.flow_lph:.0f} L/h the pump has {result.head_kpa:.1f} kPa"
    if volume.open_l is not None and volume.need_l is not None:
        text += f". Always open are {volume.open_l:.0f} L; the machine wants {volume.need_l:.0f} L"
    return text + "."


def plant(house: HouseView, separated: Separated, hot_water: HotWaterResult) -> str:
    """What the plant is, before its picture is there."""
    if house.machine is None:
        return "No machine is chosen yet: **choose one**, and its plant is drawn."
    between = "straight" if not separated.two else f"through {separated.label}"
    store = f", beside a store of **{hot_water.volume_l:.0f} L**" if hot_water.volume_l is not None else ""
    return f"**{house.machine.label}** feeds the house {between}{store}."


def materials(house: HouseView, work: Pipework) -> str:
    """What the list holds, before it is there."""
    if house.machine is None:
        return "No machine is chosen yet: **choose one**, and what to buy is listed."
    new = sum(1 for pipe in work.pipes if pipe.action != "keep")
    runs = f" with **{new} new run{'' if new == 1 else 's'}** of pipe" if new else ""
    return f"What to buy for **{house.machine.label}**{runs}, each with its reason."
