"""What pipes and open water come to, in a sentence."""

from __future__ import annotations

from cinder.design.hydraulics.result import Pipework, Volume


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
