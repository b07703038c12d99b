"""What the scheme puts between machine and emitters, and how much hotter that makes the machine's water."""

from __future__ import annotations

import numpy as np

from cinder.design.emitters.decide import EmitterArrays, output_at
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.kept import Needs, entries
from cinder.design.losses.evaluate import LossArrays, Losses
from cinder.design.separation.result import Separated
from cinder.design.waterline.decide import WaterlineArrays
from cinder.library import load
from cinder.model.scheme import Separation
from cinder.physics.flow import separation as law
from cinder.physics.flow.fluid import MEAN_WATER_C

LABELS = {
    "direct": "one circuit",
    "header": "a low-loss header",
    "buffer 2": "a buffer on two connections",
    "buffer 3": "a buffer on three connections",
    "buffer 4": "a buffer on four connections",
}
STIRRED = {"direct": 0.0, "header": 0.0, "buffer 2": 0.0, "buffer 3": 0.1, "buffer 4": 0.25}
"""How far a vessel is stirred through by the water that enters it: all of it through four connections, what is left over through
three and two (our choice; the range from layers to stirred is shown)."""
USUAL_BUFFER_L = 80.0
HEADER_L = 5.0
USUAL_PUMP = "class-6m"
NOTICED_K = 0.5


def judge(
    house: HouseView,
    arrays: LossArrays,
    day: Losses,
    emitters: EmitterArrays,
    line: WaterlineArrays,
    findings: Findings,
) -> Separated:
    """The separator of the scheme shown; nothing between where it has none."""
    chosen = house.scheme.separation if house.scheme else Separation()
    kind = chosen.kind
    flow, heat = emitters_flow(house, arrays, day, emitters, line)
    machine = house.machine
    moves, moves_from = flow, "as the emitters"
    if chosen.machine_lph is not None:
        moves, moves_from = chosen.machine_lph, "as entered"
    elif machine is not None and machine.rated_flow_lph:
        moves, moves_from = machine.rated_flow_lph, "as it is rated"
    two = kind != "direct"
    lifts = [0.0, 0.0, 0.0]
    if two and flow and moves:
        lifts = [
            law.lift_k(heat_w=heat, machine_lph=moves, emitters_lph=flow, stirred=part, fluid=house.fluid)
            for part in (STIRRED[kind], 0.0, 1.0)
        ]
    pump = load().pumps.get(chosen.pump or USUAL_PUMP) or load().pumps[USUAL_PUMP]
    area = float(arrays.area_m2.sum())
    rooms = float((arrays.area_m2 * arrays.target_c).sum() / area) if area > 0 else 20.0
    mixed = sum(zone.mixed for zone in house.scheme.zones.values()) if house.scheme else 0
    vessel = 0.0
    if two:
        vessel = HEADER_L if kind == "header" else chosen.buffer_l if chosen.buffer_l is not None else USUAL_BUFFER_L
    made = Separated(
        kind=kind, label=LABELS[kind], vessel_l=vessel, emitters_lph=flow, machine_lph=moves if two else flow,
        machine_from=moves_from if two else "as the emitters", lift_k=lifts[0], layered_k=lifts[1], stirred_k=lifts[2],
        outdoor_c=house.outdoor_c, rooms_c=rooms, pump=pump.id if two else "", pump_label=pump.label if two else "",
        pump_w=(pump.rated_w if two else 0.0) + mixed * load().pumps[USUAL_PUMP].rated_w, bypass=chosen.bypass,
    )  # fmt: skip
    _findings(house, made, findings)
    return made


def looks_at(house: HouseView, *others: object) -> Needs:
    """What a separator hangs on."""
    scheme = house.scheme
    return (
        *others, scheme.separation if scheme else None, entries(scheme.zones) if scheme else (), house.machine, house.fluid,
        house.outdoor_c, house.job.active_scheme,
    )  # fmt: skip


def emitters_flow(
    house: HouseView, arrays: LossArrays, day: Losses, emitters: EmitterArrays, line: WaterlineArrays
) -> tuple[float | None, float]:
    """What all emitters together move on the design day, L/h, and the heat that carries, W; None where nothing is to be given."""
    given = output_at(emitters, line.excess_k)
    total = given.sum(axis=1)
    served = arrays.complete & (line.water_load_w > 0) & (total > 0)
    if house.outdoor_c is None or not served.any():
        return None, 0.0
    share = given[served] / total[served, None]
    surface = emitters.surface_m2[served]
    heated = surface.sum(axis=1, keepdims=True)
    down = np.where(heated > 0, surface / np.where(heated > 0, heated, 1.0), 0.0) * day.down_w[served, None]
    heat = share * line.water_load_w[served, None] + down
    spread = np.where(emitters.spread_k[served] > 0, emitters.spread_k[served], 1.0)
    flow = house.fluid.flow_for_heat_lph(heat_w=heat, spread_k=spread, temperature_c=MEAN_WATER_C)
    return float(np.sum(flow)), float(heat.sum())


def _findings(house: HouseView, made: Separated, findings: Findings) -> None:
    where = f"/schemes/{house.job.active_scheme}/separation"
    if made.lift_k > NOTICED_K and made.machine_lph and made.emitters_lph:
        thinned = made.emitters_lph > made.machine_lph * 1.02
        findings.add(
            "doubt", "pipework", where,
            f"Behind {made.label} the machine must run {made.lift_k:.1f} K hotter than the rooms ask for.",
            why=f"The emitters move {made.emitters_lph:.0f} L/h, the machine {made.machine_lph:.0f}: return thins its water."
            if thinned
            else "What enters the vessel stirs it.",
            mend="Bring both flows to the same, or run direct where pump and water allow it.",
        )  # fmt: skip
    if made.lift_k > NOTICED_K:
        findings.add(
            "note", "curve", where, f"Dial the cold end {made.lift_k:.1f} K higher than the line shown here, the mild end by less.",
            why=f"The controller measures the machine's water; behind {made.label} the emitters get it cooler.",
            mend="Or let it go by a sensor behind the separator, where it can.",
        )  # fmt: skip
    if made.two and made.vessel_l <= 0:
        findings.add(
            "doubt", "pipework", f"{where}/buffer_l", "A buffer of no litres keeps nothing apart.",
            why="The two pumps would work against each other.", mend="Enter its litres, or run direct.",
        )  # fmt: skip


def nothing(house: HouseView, *_: object) -> Separated:
    """Where it cannot be worked out."""
    return Separated(
        kind="direct", label=LABELS["direct"], vessel_l=0.0, emitters_lph=None, machine_lph=None, machine_from="as the emitters",
        lift_k=0.0, layered_k=0.0, stirred_k=0.0, outdoor_c=house.outdoor_c, rooms_c=20.0, pump="", pump_label="", pump_w=0.0,
        bypass=False,
    )  # fmt: skip
