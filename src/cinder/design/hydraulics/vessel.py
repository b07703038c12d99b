"""The vessel of the heating water: how large, its pre-charge, what to fill to, and what the machine brings with it."""

from __future__ import annotations

from cinder.design.curve.result import Curve
from cinder.design.findings import Findings
from cinder.design.hot_water.result import HotWaterResult
from cinder.design.house.view import HouseView
from cinder.design.hydraulics.result import VesselFound, Volume
from cinder.design.kept import Needs, to_the_letter
from cinder.model.scheme import Vessel as Chosen
from cinder.physics.flow import expansion

RELIEF_BAR = 3.0
"""Relief of a heating system nobody says another of (common practice)."""
COLD_C = 10.0
LEAST_HOT_C = 55.0
"""The water is taken to get this warm at the least (our choice): somebody turns it up."""
EMITTER_TOP_M = 1.0
"""The top of an emitter over its floor (our choice)."""


def judge(house: HouseView, volume: Volume, curve: Curve, hot_water: HotWaterResult, findings: Findings) -> VesselFound:
    """The least vessel for all of the water, open and behind valves, the plan's static head under it."""
    chosen = house.scheme.vessel if house.scheme else Chosen()
    holds = house.machine.contains if house.machine else None
    system = (volume.open_l or 0.0) + volume.closed_l
    static, where = _static_m(house)
    own = holds.vessel_l if holds else 0.0
    relief, relief_from = RELIEF_BAR, "usual"
    if chosen.relief_bar is not None:
        relief, relief_from = chosen.relief_bar, "as entered"
    elif holds and holds.relief_bar:
        relief, relief_from = holds.relief_bar, "in the machine"
    usual = expansion.precharge_bar(static_m=static)
    charge = chosen.precharge_bar if chosen.precharge_bar is not None else usual
    hottest = max(LEAST_HOT_C, curve.greatest_flow_c or 0.0, hot_water.charging_c or 0.0)
    share = expansion.growth(cold_c=COLD_C, hot_c=hottest, fluid=house.fluid)
    has = (chosen.volume_l or 0.0) + own
    base = f"/schemes/{house.job.active_scheme}/vessel"
    least = reserve = fill = hot_bar = None
    top = expansion.greatest_bar(relief_bar=relief)
    if charge >= top - 0.1:
        findings.add(
            "short", "pipework", f"{base}/precharge_bar",
            f"A vessel charged to {charge:.1f} bar has no room under a relief of {relief:.1f} bar.",
            why=f"The water may go to {top:.1f} bar.", mend="A lower pre-charge, or another relief where the maker allows one.",
        )  # fmt: skip
    elif system > 0:
        found = expansion.vessel(system_l=system, share=share, precharge_bar=charge, relief_bar=relief)
        least, reserve = found.least_l, found.reserve_l
        size = has if has > reserve else least
        fill = expansion.fill_bar(vessel_l=size, reserve_l=reserve, precharge_bar=charge)
        hot_bar = expansion.reached_bar(vessel_l=size, taken_l=reserve + found.grows_l, precharge_bar=charge)
        if 0 < has < least:
            findings.add(
                "short", "pipework", f"{base}/volume_l",
                f"{has:.0f} L of expansion vessel; {least:.0f} L or more is wanted.",
                why=f"{system:.0f} L of water grow by {found.grows_l:.1f} L to {hottest:.0f} °C: the relief would open.",
                mend="A second vessel in the return, with a valve that lets it be checked.",
            )  # fmt: skip
    if charge < usual - 0.05 and chosen.precharge_bar is not None:
        findings.add(
            "doubt", "pipework", f"{base}/precharge_bar",
            f"A pre-charge of {charge:.1f} bar is little under {static:.1f} m of water.",
            why=f"{usual:.1f} bar is usual: less, and the vessel is half full before anything is warm.",
            mend="Charge it with the vessel empty of water.",
        )  # fmt: skip
    return VesselFound(
        system_l=system, hottest_c=hottest, grows_l=share * system, static_m=static, static_where=where, relief_bar=relief,
        relief_from=relief_from, greatest_bar=top, precharge_bar=charge, precharge_usual_bar=usual, least_l=least,
        reserve_l=reserve, machine_l=own, has_l=has, fill_bar=fill, hot_bar=hot_bar,
        verdict="unknown" if least is None or has <= 0 else "meets" if has >= least else "small",
    )  # fmt: skip


def _static_m(house: HouseView) -> tuple[float, str]:
    """Height of the highest emitter over the lowest floor, m, and its room: what stands on a vessel at the bottom."""
    hung = {view.room for view in house.emitters}
    levels = [(room.shape.bottom_m, room.name) for room in house.rooms if room.shape is not None and room.id in hung]
    if not levels:
        return EMITTER_TOP_M, ""
    lowest = min(min(level for level, _ in levels), 0.0)
    highest, name = max(levels)
    return highest - lowest + EMITTER_TOP_M, name


def nothing(house: HouseView, *_: object) -> VesselFound:
    """Where it cannot be worked out."""
    return VesselFound(
        system_l=0.0, hottest_c=LEAST_HOT_C, grows_l=0.0, static_m=0.0, static_where="", relief_bar=RELIEF_BAR,
        relief_from="usual", greatest_bar=expansion.greatest_bar(relief_bar=RELIEF_BAR), precharge_bar=0.5,
        precharge_usual_bar=0.5, least_l=None, reserve_l=None, machine_l=0.0, has_l=0.0, fill_bar=None, hot_bar=None,
        verdict="unknown",
    )  # fmt: skip


def looks_at(house: HouseView, volume: Volume, curve: Curve, hot_water: HotWaterResult) -> Needs:
    """What the vessel hangs on."""
    levels = to_the_letter([(room.id, room.name, room.shape.bottom_m if room.shape else None) for room in house.rooms])
    return (
        volume.open_l, volume.closed_l, curve.greatest_flow_c, hot_water.charging_c, house.machine,
        house.scheme.vessel if house.scheme else None, house.job.active_scheme, levels, tuple(house.emitters), house.fluid,
    )  # fmt: skip
