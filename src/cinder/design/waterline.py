"""How warm the water must be, which rooms hold it up, and who is short at the chosen temperature."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from cinder.design.emitters import EmitterArrays, needed_flow
from cinder.design.findings import Findings
from cinder.design.house import HouseView
from cinder.design.losses import LossArrays, Losses
from cinder.design.result import Waterline
from cinder.physics.quantity import Array
from cinder.physics.room_balance import reached_temperature

HIGHEST_SENSIBLE_C = 55.0
FLOW_STEP_K = 1.0


@dataclass(slots=True)
class WaterlineArrays:
    """Per room (R,): needed flow deg C (NaN: nothing to meet, inf: no emitter), excess K, reached deg C."""

    needed_c: Array
    excess_k: Array
    reached_c: Array
    result: Waterline


def solve(
    house: HouseView, arrays: LossArrays, losses: Losses, emitters: EmitterArrays, findings: Findings
) -> WaterlineArrays:
    """Needed flow per room, the chosen line, and what each room reaches at it."""
    spread = np.full(len(arrays.target_c), house.spread_k)
    needed, excess = needed_flow(emitters, load_w=losses.emitter_load_w, target_c=arrays.target_c, spread_k=spread)
    usable = needed[np.isfinite(needed)]
    highest = float(usable.max()) if usable.size else None
    chosen, why = _chosen(house, highest)
    reached = np.full(len(arrays.target_c), np.nan)
    if chosen is not None and house.outdoor_c is not None:
        reached = reached_temperature(
            flow_c=chosen,
            design_spread_k=house.spread_k,
            target_c=arrays.target_c,
            load_w=losses.emitter_load_w,
            loss_per_k=losses.loss_per_k,
            rated_w=emitters.rated_w,
            exponent=emitters.exponent,
            outside_c=house.outdoor_c,
            arithmetic=emitters.arithmetic,
        )
    names = [room.id for room in house.rooms]
    holding = (
        [] if highest is None else [names[n] for n in np.nonzero(needed >= highest - 1.0)[0] if np.isfinite(needed[n])]
    )
    rest = usable[usable < highest - 1.0] if highest is not None else usable
    short = []
    if chosen is not None:
        short = [names[n] for n in range(len(names)) if np.isfinite(needed[n]) and needed[n] > chosen + 0.05]
    _findings(house, arrays, losses, needed, reached, chosen, findings)
    result = Waterline(
        chosen_flow_c=chosen,
        chosen_why=why,
        needed_flow_c=highest,
        next_flow_c=float(rest.max()) if rest.size else None,
        holding=holding,
        short=short,
        spread_k=house.spread_k,
    )
    return WaterlineArrays(needed, excess, reached, result)


def _chosen(house: HouseView, highest: float | None) -> tuple[float | None, str]:
    if house.scheme and house.scheme.flow_c is not None:
        return house.scheme.flow_c, "chosen in the scheme"
    if highest is None:
        return None, "no room has both a loss and an emitter yet"
    whole = math.ceil(highest / FLOW_STEP_K - 1e-9) * FLOW_STEP_K
    if whole > HIGHEST_SENSIBLE_C:
        return HIGHEST_SENSIBLE_C, "held at 55 °C, the limit of sense, though a room needs more"
    return whole, "the least whole degree that serves every room"


def _findings(
    house: HouseView,
    arrays: LossArrays,
    losses: Losses,
    needed: Array,
    reached: Array,
    chosen: float | None,
    findings: Findings,
) -> None:
    for n, room in enumerate(house.rooms):
        where, name = f"/survey/rooms/{room.id}", room.room.label or "A room"
        if not arrays.complete[n] or house.outdoor_c is None:
            continue
        if losses.emitter_load_w[n] <= 0:
            findings.add(
                "doubt", "rooms", where, f"{name} loses nothing, or gains heat from its neighbours.",
                why="It sets no flow temperature.", mend="Check what lies beyond its faces.",
            )  # fmt: skip
        elif np.isinf(needed[n]):
            findings.add(
                "short", "waterline", where, f"{name} has no emitter that can be reckoned with.",
                why=f"It needs {losses.emitter_load_w[n]:.0f} W.", mend="Record its radiator, or add one in the scheme.",
            )  # fmt: skip
        elif needed[n] > HIGHEST_SENSIBLE_C:
            findings.add(
                "short", "waterline", where, f"{name} needs {needed[n]:.1f} °C water.",
                why="Above 55 °C a heat pump makes no sense.", mend="A bigger emitter, or a smaller loss.",
            )  # fmt: skip
        elif chosen is not None and needed[n] > chosen + 0.05:
            findings.add(
                "short", "waterline", where, f"{name} reaches {reached[n]:.1f} °C at {chosen:.1f} °C water.",
                why=f"It wants {room.target_c:.0f} °C and needs {needed[n]:.1f} °C water.",
                mend="A bigger emitter, or a smaller loss.",
            )  # fmt: skip
