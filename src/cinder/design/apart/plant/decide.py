"""The plant of a scheme as a picture."""

from __future__ import annotations

from cinder.design.apart.plant.chosen import Inventory, inventory
from cinder.design.apart.plant.layout import TALL, laid_out
from cinder.design.apart.plant.result import PlantFound, StateWords
from cinder.design.findings import Findings
from cinder.design.house.view import view
from cinder.design.result import Design
from cinder.library import PlantPartEntry
from cinder.model import Job


def judge(job: Job, design: Design, table: dict[str, PlantPartEntry]) -> PlantFound:
    """The plant of the scheme shown, laid out; what it lacks where there is none."""
    house = view(job, Findings())
    found = inventory(house, design, table)
    if found is None:
        lacks = "A scheme with a chosen machine: then its plant is drawn."
        return PlantFound(
            sentence=lacks,
            lacks=lacks,
            width=0.0,
            height=0.0,
            bands=[],
            parts=[],
            joints=[],
            pipes=[],
            states=[],
            holds=[],
            notes=[],
        )
    drawn, width = laid_out(found, table, design.separation.kind)
    return PlantFound(
        sentence=_sentence(found, design), lacks="", width=width, height=TALL, bands=drawn.bands, parts=drawn.parts, joints=drawn.joints,
        pipes=drawn.pipes, states=_states(found, design), holds=_holds(found), notes=_notes(found),
    )  # fmt: skip


def _sentence(found: Inventory, design: Design) -> str:
    groups = " and ".join(f"**{group.label}** ({group.words})" for group in found.groups) or "no emitters yet"
    between = "straight" if design.separation.kind == "direct" else f"through {design.separation.label}"
    store = found.parts.get("store")
    water = f"; a store of **{store.words}** beside it" if store else ""
    return f"**{found.machine.label}** feeds {groups} {between}{water}."


def _holds(found: Inventory) -> list[str]:
    """What the machine already holds, so that it is not drawn or bought twice."""
    holds, out = found.machine.contains, []
    if holds.pump:
        out.append(f"a pump ({holds.pump})")
    if holds.diverter:
        out.append("a diverter valve")
    if holds.buffer_l:
        out.append(f"a buffer of {holds.buffer_l:.0f} L")
    if holds.vessel_l:
        out.append(f"an expansion vessel of {holds.vessel_l:.0f} L")
    if holds.relief_bar:
        out.append(f"a relief valve at {holds.relief_bar:g} bar")
    if holds.heater_kw:
        out.append(f"a heater of {holds.heater_kw:g} kW")
    if holds.freeze_valve:
        out.append("a freeze valve")
    if holds.refrigerant_release:
        out.append("a release of refrigerant outdoors")
    return out


def _states(found: Inventory, design: Design) -> list[StateWords]:
    two, store = design.separation.two, "store" in found.parts
    out = [
        StateWords(
            key="heating", label="Heating",
            words="The machine's water goes to the emitters and comes back cooler"
            + ("; the second pump moves theirs." if two else "."),
        )
    ]  # fmt: skip
    if store and ("diverter" in found.parts or found.machine.contains.diverter):
        out.append(
            StateWords(
                key="hot water", label="Hot water",
                words="The whole flow goes through the store and joins the return"
                + (" after the separator; the second pump stands still meanwhile, which is normal." if two else "; the rooms wait."),
            )
        )  # fmt: skip
    elif found.by_boiler:
        out.append(
            StateWords(
                key="hot water", label="Hot water", words="The boiler makes it; the machine goes on heating the rooms."
            )
        )
    out.append(
        StateWords(
            key="defrost",
            label="Defrost",
            words="The machine takes heat out of the water for some minutes: what leaves it is colder than what comes back.",
        )
    )
    out.append(
        StateWords(
            key="off", label="Off", words="Nothing moves. In frost and without power the water outdoors is at risk."
        )
    )
    return out


def _notes(found: Inventory) -> list[str]:
    out = ["A sketch by rule, not a drawing to build from: the maker's manual and the place decide."]
    if "freeze-valves" in found.parts:
        out.append("No closing valve between the freeze valves and the machine.")
    if "vents" in found.parts:
        out.append("No isolating valve under a vent.")
    if found.split:
        out.append("Refrigerant lines are work for certified hands alone.")
    return out
