"""The water that is always open to the machine, against what it needs: by its maker, to defrost, not to run on and off."""

from __future__ import annotations

import numpy as np

from cinder.design.emitters.decide import EmitterArrays
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.hydraulics.result import Pipework, Volume
from cinder.design.machine.result import MachineResult, SeasonResult, chosen_of
from cinder.design.separation import Separated
from cinder.physics.flow.separation import litres_for

DEFROST_MINUTES, DEFROST_DROP_K = 6.0, 5.0
"""A defrost takes the machine's output of so long out of the water, which may cool by so much (our choice: between makers' figures)."""
RUN_MINUTES, BAND_K = 10.0, 5.0
"""A run shorter than this is hard on a machine; between start and stop the water may move by so much (our choice)."""
MILD_C = 10.0
"""Air at which runs are judged (our choice): milder, and the house hardly asks."""


def judge(
    house: HouseView,
    emitters: EmitterArrays,
    pipework: Pipework,
    machines: tuple[MachineResult, SeasonResult],
    separated: Separated,
    findings: Findings,
) -> Volume:
    """Open litres: pipes that lead to an emitter nothing can close, those emitters, machine, volumiser, separator."""
    rated, machine = emitters.rated, chosen_of(machines[0])
    always = {one.view.id for one in rated if one.valve is None or not one.valve.closes}
    children: dict[str, list[str]] = {}
    for pipe in pipework.pipes:
        if pipe.parent is not None:
            children.setdefault(pipe.parent, []).append(pipe.id)
    open_pipe: dict[str, bool] = {}
    for pipe in sorted(pipework.pipes, key=lambda p: -p.depth):
        leads = children.get(pipe.id, [])
        # before a separator the machine's own water always goes round
        own = separated.two and pipe.parent is None and bool(leads)
        open_pipe[pipe.id] = own or pipe.emitter in always or any(open_pipe[c] for c in leads)
    pipes_open = sum(p.water_l for p in pipework.pipes if open_pipe[p.id])
    pipes_closed = sum(p.water_l for p in pipework.pipes if not open_pipe[p.id])
    emitters_open = sum(one.water_l for one in rated if one.view.id in always)
    emitters_closed = sum(one.water_l for one in rated if one.view.id not in always)
    content = (house.machine.content_l if house.machine else None) or 0.0
    content += house.machine.contains.buffer_l if house.machine else 0.0
    chosen = house.scheme.separation if house.scheme else None
    volumiser = (chosen.volumiser_l if chosen else None) or 0.0
    total = pipes_open + emitters_open + content + volumiser + separated.vessel_l
    by_maker = house.machine.least_volume_l if house.machine else None
    defrost = litres_for(
        energy_j=machine.output_w * DEFROST_MINUTES * 60, drop_k=DEFROST_DROP_K, fluid=house.fluid
    ) if machine else None  # fmt: skip
    need = by_maker if by_maker is not None else defrost
    why = (
        "no machine is chosen"
        if machine is None
        else "least volume the machine's table states"
        if by_maker is not None
        else "what a defrost takes its heat from; its maker says nothing"
    )
    wants = max(need - total, 0.0) if need is not None else None
    if need is not None and wants:
        findings.add(
            "short", "pipework", f"/schemes/{house.job.active_scheme}/separation",
            f"{total:.0f} L of open water; the machine wants {need:.0f} L.",
            why="Defrosting would chill the house and trip the machine.",
            mend=f"Take thermostatic valves off, or a volumiser of {wants:.0f} L in the return."
            if not separated.two
            else f"Take thermostatic valves off, or {wants:.0f} L more in the separator.",
        )  # fmt: skip
    return Volume(
        open_l=total if (rated or pipework.pipes or house.machine) else None,
        closed_l=pipes_closed + emitters_closed,
        pipes_l=pipes_open,
        emitters_l=emitters_open,
        machine_l=content,
        volumiser_l=volumiser,
        separator_l=separated.vessel_l,
        need_l=need,
        need_why=why,
        rule_l=house.tables.open_water_l_per_kw * machine.output_w / 1000 if machine else None,
        defrost_l=defrost,
        cycling_l=_cycling_l(house, machines[0]),
        cycling_at_c=MILD_C,
        wants_l=wants,
    )


def _cycling_l(house: HouseView, machines: MachineResult) -> float | None:
    """Water a shortest run fills at the least the machine gives in mild air, what the house takes meanwhile off; None where nobody says
    how far it turns down."""
    row = chosen_of(machines)
    if row is None or row.least_w is None or not machines.outdoor_c:
        return None
    least = float(np.interp(MILD_C, machines.outdoor_c, row.least_curve_w))
    load = float(np.interp(MILD_C, machines.outdoor_c, machines.season_load_w))
    return litres_for(energy_j=max(least - load, 0.0) * RUN_MINUTES * 60, drop_k=BAND_K, fluid=house.fluid)


def nothing(*_: object) -> Volume:
    """Where it cannot be worked out."""
    return Volume(
        open_l=None, closed_l=0.0, pipes_l=0.0, emitters_l=0.0, machine_l=0.0, volumiser_l=0.0, separator_l=0.0, need_l=None,
        need_why="no machine is chosen", rule_l=None, defrost_l=None, cycling_l=None, cycling_at_c=MILD_C, wants_l=None,
    )  # fmt: skip
