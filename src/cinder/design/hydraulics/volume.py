"""The water that is always open to the machine, against what it needs."""

from __future__ import annotations

from cinder.design.emitters.decide import EmitterArrays
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.hydraulics.result import Pipework, Volume
from cinder.design.machine.result import MachineResult, SeasonResult, chosen_of


def judge(
    house: HouseView,
    emitters: EmitterArrays,
    pipework: Pipework,
    machines: tuple[MachineResult, SeasonResult],
    findings: Findings,
) -> Volume:
    """Open litres: pipes that lead to an emitter nothing can close, those emitters, machine, volumiser."""
    rated, machine = emitters.rated, chosen_of(machines[0])
    always = {one.view.id for one in rated if one.valve is None or not one.valve.closes}
    children: dict[str, list[str]] = {}
    for pipe in pipework.pipes:
        if pipe.parent is not None:
            children.setdefault(pipe.parent, []).append(pipe.id)
    open_pipe: dict[str, bool] = {}
    for pipe in sorted(pipework.pipes, key=lambda p: -p.depth):
        open_pipe[pipe.id] = pipe.emitter in always or any(open_pipe[c] for c in children.get(pipe.id, []))
    pipes_open = sum(p.water_l for p in pipework.pipes if open_pipe[p.id])
    pipes_closed = sum(p.water_l for p in pipework.pipes if not open_pipe[p.id])
    emitters_open = sum(one.water_l for one in rated if one.view.id in always)
    emitters_closed = sum(one.water_l for one in rated if one.view.id not in always)
    content = (house.machine.content_l if house.machine else None) or 0.0
    content += house.machine.contains.buffer_l if house.machine else 0.0
    volumiser = (house.scheme.separation.volumiser_l if house.scheme else None) or 0.0
    total = pipes_open + emitters_open + content + volumiser
    need = house.machine.least_volume_l if house.machine else None
    rule = house.tables.open_water_l_per_kw * machine.output_w / 1000 if machine else None
    if need is not None and total < need:
        findings.add(
            "short", "pipework", f"/schemes/{house.job.active_scheme}/separation",
            f"{total:.0f} L of open water; the machine wants {need:.0f} L.",
            why="Defrosting would chill the house and trip the machine.",
            mend=f"Take thermostatic valves off, or a volumiser of {need - total:.0f} L in the return.",
        )  # fmt: skip
    return Volume(
        open_l=total if (rated or pipework.pipes or house.machine) else None,
        closed_l=pipes_closed + emitters_closed,
        pipes_l=pipes_open,
        emitters_l=emitters_open,
        machine_l=content,
        volumiser_l=volumiser,
        need_l=need,
        need_why="least volume the machine's table states"
        if need is not None
        else "nobody says how much the machine wants"
        if house.machine
        else "no machine is chosen",
        rule_l=rule,
    )


def nothing(*_: object) -> Volume:
    """Where it cannot be worked out."""
    return Volume(
        open_l=None, closed_l=0.0, pipes_l=0.0, emitters_l=0.0, machine_l=0.0, volumiser_l=0.0, need_l=None,
        need_why="no machine is chosen", rule_l=None,
    )  # fmt: skip
