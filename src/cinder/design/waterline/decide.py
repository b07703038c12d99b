"""How warm the water must be, which rooms hold it up, and who is short at the chosen temperature."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from cinder.design.emitters import heated, manifolds
from cinder.design.emitters.decide import EmitterArrays, Rated, needed_flow, own_share
from cinder.design.findings import Findings
from cinder.design.house.overlay import EmitterView
from cinder.design.house.rooms import RoomView
from cinder.design.house.view import HouseView
from cinder.design.kept import Afresh, Kept, to_the_bit
from cinder.design.losses.evaluate import LossArrays, Losses
from cinder.design.waterline import settled
from cinder.design.waterline.result import Waterline
from cinder.physics.quantity import Array

HIGHEST_SENSIBLE_C = 55.0
FLOW_STEP_K = 1.0
DRAWN_DOWN_K = 0.1
MEETS_K = 0.05


@dataclass(slots=True)
class WaterlineArrays:
    """Per room (R,): needed flow deg C (NaN: nothing to meet, inf: no emitter), excess K of each emitter (R, E),
    reached deg C, the part of its load a heater of its own carries, the load left for the water W, and the water flows
    set for it."""

    needed_c: Array
    excess_k: Array
    reached_c: Array
    own_share: Array
    water_load_w: Array
    flows: settled.DesignFlows
    bears_c: dict[str, float]
    """The warmest water each room's heated floor bears."""
    result: Waterline


def judge(
    house: HouseView,
    arrays: LossArrays,
    losses: Losses,
    emitters: EmitterArrays,
    findings: Findings,
    kept: Kept | None = None,
) -> WaterlineArrays:
    """Needed flow per room, the chosen line, and what each room reaches at it."""
    kept = kept or Afresh()
    own = own_share(emitters, losses.emitter_load_w)
    water_load = losses.emitter_load_w * (1 - own)
    needed, excess = needed_flow(emitters, load_w=water_load, target_c=arrays.target_c)
    usable = needed[np.isfinite(needed)]
    highest = float(usable.max()) if usable.size else None
    chosen, why, capped = _chosen(house, highest)
    flows = settled.design_flows(emitters, excess_k=excess, water_load_w=water_load)
    reached = np.full(len(arrays.target_c), np.nan)
    if chosen is not None and house.outdoor_c is not None:
        # the stricter reading, by which emitters are sized: every room that has enough is held at its target
        every = np.ones(emitters.rated_w.shape, dtype=bool)
        held = settled.balance(arrays, losses, emitters, flows, closes=every, own_share=own, kept=kept)
        reached = np.where(water_load > 0, held.settle(flow_c=np.array([chosen])).room_c[0], np.nan)
    names = [room.id for room in house.rooms]
    holding = (
        [] if highest is None else [names[n] for n in np.nonzero(needed >= highest - 1.0)[0] if np.isfinite(needed[n])]
    )
    rest = usable[usable < highest - 1.0] if highest is not None else usable
    short = []
    if chosen is not None:
        asks = needed.tolist()
        short = [names[n] for n, flow in enumerate(asks) if math.isfinite(flow) and not meets(flow, chosen)]
    _findings(house, arrays, losses, needed, reached, chosen, findings)
    _emitter_findings(house, emitters, needed, excess, chosen, findings)
    bears = kept.of("floors bear", (emitters, arrays.target_c.tobytes()), lambda: manifolds.bears_c(house, emitters))
    result = Waterline(
        chosen_flow_c=chosen,
        chosen_why=why,
        held=capped,
        needed_flow_c=highest,
        next_flow_c=float(rest.max()) if rest.size else None,
        holding=holding,
        short=short,
        spread_k=house.spread_k,
        manifolds=manifolds.at_manifolds(house, bears, chosen),
    )
    made = WaterlineArrays(needed, excess, reached, own, water_load, flows, bears, result)
    return kept.as_before("waterline", made, to_the_bit)


def meets(needed_c: float, flow_c: float) -> bool:
    """Whether water of a temperature serves what needs another, within what nobody can set."""
    return needed_c <= flow_c + MEETS_K


def _chosen(house: HouseView, highest: float | None) -> tuple[float | None, str, bool]:
    if house.scheme and house.scheme.flow_c is not None:
        return house.scheme.flow_c, "chosen in the scheme", False
    if highest is None:
        return None, "no room has both a loss and an emitter yet", False
    whole = math.ceil(highest / FLOW_STEP_K - 1e-9) * FLOW_STEP_K
    if whole > HIGHEST_SENSIBLE_C:
        return HIGHEST_SENSIBLE_C, "held at 55 °C, the limit of sense, though a room needs more", True
    return whole, "the least whole degree that serves every room", False


def _findings(
    house: HouseView,
    arrays: LossArrays,
    losses: Losses,
    needed: Array,
    reached: Array,
    chosen: float | None,
    findings: Findings,
) -> None:
    if house.outdoor_c is None:
        return
    load, complete = losses.emitter_load_w.tolist(), arrays.complete.tolist()
    asks, gets = needed.tolist(), reached.tolist()
    for n, room in enumerate(house.rooms):
        if not complete[n]:
            continue
        where, name = f"/survey/rooms/{room.id}", room.name
        if load[n] <= 0:
            findings.add(
                "doubt", "rooms", where, f"{name} loses nothing, or gains heat from its neighbours.",
                why="It sets no flow temperature.", mend="Check what lies beyond its faces.",
            )  # fmt: skip
        elif math.isnan(asks[n]):
            continue  # a heater of its own carries it all
        elif math.isinf(asks[n]):
            findings.add(
                "short", "waterline", where, f"{name} has no emitter that can be reckoned with.",
                why=f"It needs {load[n]:.0f} W.", mend="Record its radiator, or add one in the scheme.",
            )  # fmt: skip
        elif asks[n] > HIGHEST_SENSIBLE_C and house.burner and chosen is not None and meets(asks[n], chosen):
            findings.add(
                "note", "waterline", where, f"{name} needs {asks[n]:.1f} °C water.",
                why=f"{house.burner.capitalize()} beside the machine makes it on the coldest days.",
                mend="A bigger emitter or a smaller loss lets the machine do more.",
            )  # fmt: skip
        elif asks[n] > HIGHEST_SENSIBLE_C:
            findings.add(
                "short", "waterline", where, f"{name} needs {asks[n]:.1f} °C water.",
                why="Above 55 °C a heat pump makes no sense.", mend="A bigger emitter, or a smaller loss.",
            )  # fmt: skip
        elif chosen is not None and not meets(asks[n], chosen):
            findings.add(
                "short", "waterline", where, f"{name} reaches {gets[n]:.1f} °C at {chosen:.1f} °C water.",
                why=f"It wants {room.target_c:.0f} °C and needs {asks[n]:.1f} °C water.",
                mend="A bigger emitter, or a smaller loss.",
            )  # fmt: skip
        elif math.isfinite(gets[n]) and gets[n] < room.target_c - DRAWN_DOWN_K:
            findings.add(
                "doubt", "waterline", where, f"{name} reaches only {gets[n]:.1f} °C though its own emitter would do.",
                why="Its neighbours fall short and draw heat from it.", mend="Serve the rooms that are short.",
            )  # fmt: skip


def _emitter_findings(
    house: HouseView,
    emitters: EmitterArrays,
    needed: Array,
    excess: Array,
    chosen: float | None,
    findings: Findings,
) -> None:
    """Surfaces too warm, spreads no water can have, radiators that do not fit where they are said to hang."""
    asks, over = needed.tolist(), excess.tolist()
    for n, room in enumerate(house.rooms):
        at = asks[n] if math.isfinite(asks[n]) else None
        for e, slot in enumerate(emitters.slots[n]):
            one = emitters.rated[slot]
            if one.surface is not None and at is not None:
                _surface(one.surface, _name(room, one), one, over[n][e], room.target_c, at, findings)
            if chosen is not None and chosen - one.spread_k <= room.target_c and at is not None:
                findings.add(
                    "short", "emitters", one.view.path,
                    f"{_name(room, one)}: a spread of {one.spread_k:g} K at {chosen:.1f} °C water would bring its return to "
                    f"{chosen - one.spread_k:.1f} °C, no warmer than the room.",
                    why="No emitter can cool water below its room.", mend="A smaller spread, or warmer water.",
                )  # fmt: skip
    rooms = {room.id: room for room in house.rooms}
    for one in emitters.rated:
        if one.view.spec.length_m is not None and one.view.spec.kind in ("panel", "fan"):
            _fits(one.view, one.view.spec.length_m, rooms.get(one.view.room), findings)


def _name(room: RoomView, one: Rated) -> str:
    return f"{room.name}, {one.view.label or one.description}"


def _surface(
    found: heated.HeatedSurface,
    name: str,
    one: Rated,
    excess_k: float,
    room_c: float,
    flow_c: float,
    findings: Findings,
) -> None:
    flux = found.k_w_m2k * excess_k
    if flux <= found.most_w_m2 * 1.005:
        return
    _, hottest = heated.surface_excess_k(found, flux, wall=one.view.spec.kind == "wall")
    lacks = (flux - found.most_w_m2) * found.area_m2
    findings.add(
        "short", "emitters", one.view.path,
        f"{name}: its surface would reach {room_c + hottest:.1f} °C to serve the room; {found.limit_c:.0f} °C is the limit "
        f"({found.limit_why}).",
        why=f"It may give {found.most_w_m2:.0f} W/m², the room asks for {flux:.0f}.",
        mend=f"A second emitter for the {lacks:.0f} W beyond it, a smaller loss, or closer pipes for an evener surface.",
    )  # fmt: skip


def _fits(view: EmitterView, length: float, room: RoomView | None, findings: Findings) -> None:
    """A radiator longer than the wall it hangs on."""
    wall: float | None = None
    longest: float | None = None
    for run in room.room.walk if room is not None else ():
        if run.length_m is not None:
            longest = max(longest or 0.0, run.length_m)
            wall = run.length_m if run.id == view.face else wall
    over = wall if wall is not None else longest
    if over is not None and length > over + 0.005:
        where = "its wall" if wall is not None else "the longest wall of its room"
        findings.add(
            "doubt", "emitters", view.path,
            f"{view.label or 'A radiator'} is {length:.2f} m long; {where} is {over:.2f} m.",
            why="One of the two is mistyped, or it hangs in another room.", mend="Measure both again.",
        )  # fmt: skip
