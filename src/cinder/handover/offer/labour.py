"""Work by task: what is counted for each, its hours, whether it is paid by the hour here, and how many days it takes."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from cinder.design.apart.materials.result import MaterialsFound
from cinder.design.result import Design
from cinder.handover.offer.result import Counted, LabourLine
from cinder.library import LabourEntry, TradeEntry
from cinder.model import Job
from cinder.model.handover import Offer

ACCESS = {"easy": 0.9, "usual": 1.0, "hard": 1.25}
"""Hours at the house over those of the table (our choice)."""
ONLY_WHERE = ("wall or roof", "appliance", "100 L", "m of run", "emitter", "full board", "part", "permission")
"""Tasks that are there only where something is counted for them."""
NOT_BURNT = ("", "electricity", "district")


@dataclass(frozen=True, slots=True)
class Work:
    """The tasks of a variant, and how long they take those who come: days at the house, and of these without heat."""

    lines: list[LabourLine]
    days: int
    cold_days: int


def counted(job: Job, design: Design, found: MaterialsFound, *, present_fuel: str) -> dict[str, float]:
    """How many there are of everything a task is counted by."""
    scheme = job.schemes[job.active_scheme or ""]
    candidate = scheme.candidates.get(scheme.chosen or "")
    entry = job.library.machines[candidate.machine].data if candidate else None
    place = next((one for one in design.places.places if one.chosen), None)
    bought = [row for row in found.rows if not row.stays]
    litres = design.hot_water.volume_l or 0.0
    stays = candidate is not None and candidate.backup.kind == "boiler"
    supply = job.site.supply
    return {
        "room": float(len(design.rooms)),
        "permission": float(
            sum(1 for one in job.handover.offer.permissions.values() if one.state in ("open", "asked"))
        ),
        "50 kg": (entry.weight_kg or 0.0) / 50 if entry else 0.0,
        "wall or roof": 1.0 if place is not None and place.on in ("wall", "roof") else 0.0,
        "m to the plant": (place.run.length_m or 0.0) if place else 0.0,
        "m of cable": (place.cable.length_m or 0.0) if place else 0.0,
        "appliance": 0.0 if stays or present_fuel in NOT_BURNT else 1.0,
        "part": float(sum(1 for row in bought if row.group == "Plant room")),
        "100 L": litres / 100 if any(row.part == "store" for row in bought) else 0.0,
        "m of run": sum(p.length_m or 0.0 for p in design.pipework.pipes if p.action in ("add", "replace")),
        "emitter": float(sum(1 for row in bought if row.group == "Emitters" and row.key.startswith("emitter:"))),
        "full board": 1.0 if supply.spare_way is False and supply.board_minor is None else 0.0,
        "100 L of water": ((design.volume.open_l or 0.0) + design.volume.closed_l) / 100,
        "emitter in all": float(sum(len(room.emitters) for room in design.rooms)),
        "house": 1.0,
    }


def worked(
    job: Job, design: Design, found: MaterialsFound, *, labour: Mapping[str, LabourEntry], trades: Mapping[str, TradeEntry], present_fuel: str,
) -> Work:  # fmt: skip
    """Every task of the scheme on show. Hours a person has said stand as they are; those of the table grow with hard access."""
    offer = job.handover.offer
    many = counted(job, design, found, present_fuel=present_fuel)
    scheme = job.schemes[job.active_scheme or ""]
    candidate = scheme.candidates.get(scheme.chosen or "")
    priced = candidate is not None and candidate.cost_minor is not None
    lines, site, cold = [], 0.0, 0.0
    for key, entry in labour.items():
        line = _line(key, entry, offer, many[entry.per], trades, fitted=_holds(entry, offer, priced))
        if line is None:
            continue
        lines.append(line)
        if line.state != "falls away" and entry.site and entry.trade != "electrician":
            both = line.hours + line.helper_h
            site += both
            cold += both if entry.off else 0.0
    a_day = offer.crew * offer.day_h
    return Work(lines, math.ceil(site / a_day - 1e-9), math.ceil(cold / a_day - 1e-9))


def _holds(entry: LabourEntry, offer: Offer, priced: bool) -> bool:
    """Whether the price of the goods holds this work: that of a machine somebody has priced always does."""
    if entry.fits == "Machine and place":
        return priced
    return bool(entry.fits) and offer.prices == "fitted"


def _line(
    key: str, entry: LabourEntry, offer: Offer, many: float, trades: Mapping[str, TradeEntry], *, fitted: bool
) -> LabourLine | None:
    said = offer.tasks.get(key)
    hours = entry.hours + entry.each * many
    if entry.per in ONLY_WHERE and many <= 0:
        hours = 0.0
    if entry.site:
        hours *= ACCESS[offer.access]
    own = said is not None and said.hours is not None
    if said is not None and said.hours is not None:
        hours = said.hours
    if hours <= 0 and said is None:
        return None
    state: Counted = (
        "falls away" if said is not None and said.falls_away else "in the prices" if fitted and not own else "counted"
    )
    helper = hours * entry.helper
    minor = hours * trades[entry.trade].minor_per_h + helper * trades["helper"].minor_per_h
    return LabourLine(
        key=key, label=entry.label, trade=trades[entry.trade].label, hours=hours, helper_h=helper, own=own, of=_of(entry.per, many),
        state=state, minor=minor if state == "counted" else 0.0, why=said.note if said is not None and said.note else entry.why,
    )  # fmt: skip


WORDS = {
    "room": "{n} rooms", "permission": "{n} to ask for", "50 kg": "{kg} kg", "wall or roof": "on a wall or roof", "m to the plant": "{m} m",
    "m of cable": "{m} m of cable", "appliance": "one appliance", "part": "{n} parts", "100 L": "{l} L", "m of run": "{m} m of runs",
    "emitter": "{n} emitters", "full board": "no spare way", "100 L of water": "{l} L of water",
    "emitter in all": "{n} emitters in all", "house": "",
}  # fmt: skip


def _of(per: str, many: float) -> str:
    """What was counted.

    >>> _of("emitter", 3.0), _of("emitter", 1.0), _of("100 L", 2.1)
    ('3 emitters', '1 emitter', '210 L')
    """
    said = WORDS[per].format(n=f"{many:.0f}", m=f"{many:.0f}", kg=f"{many * 50:.0f}", l=f"{many * 100:.0f}")
    return (
        said.replace("emitters", "emitter").replace("rooms", "room").replace("parts", "part")
        if many == 1 and said.startswith("1 ")
        else said
    )
