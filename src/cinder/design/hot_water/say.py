"""What the cylinder comes to, in a sentence."""

from __future__ import annotations

from cinder.design.hot_water.result import HotWaterResult


def _count(bedrooms: int | None) -> str:
    return "one bedroom" if bedrooms == 1 else f"{bedrooms} bedrooms"


def hot_water(result: HotWaterResult) -> str:
    if result.volume_l is None:
        if result.rule_low_l is not None:
            usual = f"**{result.rule_low_l:.0f}–{result.rule_high_l:.0f} L**"
            return f"No cylinder yet. {usual} is usual for {_count(result.bedrooms)}."
        return "No cylinder and no bedrooms yet. **Say who lives here** first."
    text = f"**{result.volume_l:.0f} L**"
    if result.rule_low_l is not None:
        judged = {"small": "is less than", "large": "is well above", "meets": "fits"}[result.verdict]
        text += f" {judged} the {result.rule_low_l:.0f}–{result.rule_high_l:.0f} L usual for {_count(result.bedrooms)}"
    else:
        text += " is chosen; say how many bedrooms there are to hold it against what is usual"
    if result.reheat_minutes is not None:
        text += f"; cold to hot takes **{result.reheat_minutes:.0f} minutes** on the design day"
    return text + "."
