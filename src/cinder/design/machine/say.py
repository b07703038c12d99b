"""What the machine comes to, in a sentence."""

from __future__ import annotations

from cinder.design.machine.result import MachineResult, SeasonResult


def machine(result: MachineResult, season: SeasonResult) -> str:
    chosen = next((row for row in result.rows if row.chosen), None)
    if chosen is None:
        return "No machine is chosen. **Compare a few** against this house and take one."
    if chosen.cover is None:
        return f"**{chosen.label}** is chosen; without a loss and a flow temperature it cannot be judged."
    if not chosen.inside:
        return f"**{chosen.label}** gives nothing on the design day: it lies **outside its envelope**."
    text = f"**{chosen.label}** covers **{chosen.cover * 100:.0f} %** of the design day"
    if season.performance is not None:
        text += f" and gives **{season.performance:.2f}** over the heating season"
    if chosen.cycles_above_c is not None:
        text += f"; above {chosen.cycles_above_c:.0f} °C it switches on and off"
    return (text + ".").replace("-", "−")
