"""Everything chosen so far as a list to buy by: by size and length, each with its reason and its price."""

from __future__ import annotations

import math

from cinder.design.apart.materials.result import Group, Material, MaterialsFound, Sums
from cinder.design.apart.plant.chosen import Inventory, inventory
from cinder.design.apart.protecting.decide import BIOCIDE_L_PER_100, INHIBITOR_L_PER_100
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView, view
from cinder.design.result import Design
from cinder.library import PlantPartEntry
from cinder.model import Job, Measure

CLIP_EVERY_M = 0.6
"""Pipes are clipped so often (our choice: between what plastic and copper want)."""
CLEANER_L_PER_100 = 1.0
TRACE_M, FREEZES_C = 2.0, -3.0
"""A condensate drain is traced over so much where design days are colder (our choice)."""
ENDS_OF_A_RUN = 4
"""Fittings disturbed where one run is renewed: both ends, there and back."""
HOT_WATER = ("diverter", "store", "plate", "immersion", "store-safety", "mixing-valve", "store-sensor")
OUTSIDE = ("machine", "base", "hoses", "freeze-valves", "electricity-meter", "outdoor-sensor", "controller")
VALVES = ("isolators", "strainer", "air-separator", "fill-and-flush", "diverter", "vessel-valve")


def judge(
    job: Job, design: Design, table: dict[str, PlantPartEntry], own: frozenset[str] = frozenset()
) -> MaterialsFound:
    """The list of the scheme shown. `own`: rows of the table the company has priced itself."""
    house = view(job, Findings())
    found = inventory(house, design, table)
    if found is None:
        lacks = "A scheme with a chosen machine: then what to buy is listed."
        return MaterialsFound(
            sentence=lacks, lacks=lacks, rows=[], sums=_sums([]), notes=[],
        )  # fmt: skip
    rows = _Rows(table, own)
    _plant(house, found, rows)
    _pipes(house, design, rows)
    _emitters(house, design, rows)
    _water(house, design, found, rows)
    _measures(house, rows)
    sums = _sums(rows.out)
    return MaterialsFound(sentence=_sentence(rows.out, sums), lacks="", rows=rows.out, sums=sums, notes=_notes(own))


class _Rows:
    """Lines as they are put together."""

    def __init__(self, table: dict[str, PlantPartEntry], own: frozenset[str]) -> None:
        self.table, self.own = table, own
        self.out: list[Material] = []

    def part(
        self, kind: str, group: Group, count: float = 1.0, size: float = 0.0, words: str = "", *, stays: bool = False,
        why: str = "", key: str = "", label: str = "",
    ) -> None:  # fmt: skip
        """A line of the table of parts."""
        entry = self.table[kind]
        each = entry.price_minor(1.0, size)
        self.out.append(
            Material(
                key=key or kind, group=group, label=label or entry.label, words=words, count=count, unit=entry.unit, need=entry.need,
                why=why or entry.why, part=kind, stays=stays, minor=0.0 if stays else each, total_minor=0.0 if stays else each * count,
                price_from="stays" if stays else "the company's table" if kind in self.own else "our guess",
            )
        )  # fmt: skip

    def other(
        self,
        key: str,
        group: Group,
        label: str,
        words: str,
        minor: float | None,
        why: str,
        *,
        count: float = 1.0,
        need: str = "essential",
    ) -> None:
        """A line whose price the scheme says, or nobody."""
        self.out.append(
            Material.model_validate(
                {
                    "key": key, "group": group, "label": label, "words": words, "count": count, "unit": "each", "need": need, "why": why,
                    "part": "", "stays": False, "minor": minor, "total_minor": minor * count if minor is not None else None,
                    "price_from": "as entered" if minor is not None else "nobody has said",
                }
            )
        )  # fmt: skip


def _plant(house: HouseView, found: Inventory, rows: _Rows) -> None:
    scheme, machine = house.scheme, found.machine
    candidate = scheme.candidates[scheme.chosen] if scheme and scheme.chosen else None
    said = candidate.cost_minor if candidate else None
    price = said if said is not None else machine.price_minor
    rows.other(
        "machine", "Machine and place", machine.label,
        f"{machine.refrigerant}, {machine.weight_kg:.0f} kg" if machine.weight_kg else machine.refrigerant, price,
        "makes the heat; its price holds the work" if said is not None else "makes the heat",
    )  # fmt: skip
    for kind, one in found.parts.items():
        if kind in ("machine", "boiler"):
            continue
        group: Group = "Hot water" if kind in HOT_WATER else "Machine and place" if kind in OUTSIDE else "Plant room"
        rows.part(kind, group, one.count, one.size, one.words, stays=one.stays)
    if "boiler" in found.parts and candidate is not None:
        boiler = found.parts["boiler"]
        if boiler.stays:
            rows.part("boiler", "Plant room", words="the one that is there", stays=True)
        else:
            rows.other(
                "boiler",
                "Plant room",
                boiler.label,
                "new",
                candidate.backup.cost_minor,
                "carries what the machine does not",
            )
    rows.part("condensate", "Machine and place")
    if house.outdoor_c is not None and house.outdoor_c < FREEZES_C:
        rows.part("trace", "Machine and place", TRACE_M)
    jackets = sum(1 for kind in VALVES if kind in found.parts) + (1 if "isolators" in found.parts else 0)
    rows.part("valve-jackets", "Plant room", float(jackets))
    rows.part("washers", "Plant room")


def _pipes(house: HouseView, design: Design, rows: _Rows) -> None:
    """New and renewed runs by size; the way outdoors in its insulation; seals where an old fitting is opened."""
    lengths: dict[tuple[str, float], float] = {}
    for pipe in design.pipework.pipes:
        if pipe.action in ("add", "replace") and pipe.bore_m is not None and pipe.length_m is not None:
            at = (pipe.size_label, pipe.bore_m * 1000)
            lengths[at] = lengths.get(at, 0.0) + 2 * pipe.length_m
    for (label, bore), metres in sorted(lengths.items()):
        rows.part("pipe", "Pipes", math.ceil(metres), bore, "there and back", key=f"pipe:{label}", label=label)
    total = sum(lengths.values())
    if total:
        rows.part("clips", "Pipes", float(math.ceil(total / CLIP_EVERY_M)))
        widest = max(bore for _, bore in lengths)
        rows.part(
            "insulation",
            "Pipes",
            math.ceil(total),
            widest,
            "where nobody wants its heat; leave out what the rooms may have",
        )
    outdoors = next((p for p in design.pipework.pipes if p.parent is None and p.length_m), None)
    if outdoors is not None and house.machine is not None and house.machine.kind == "monobloc":
        metres = math.ceil(2 * (outdoors.length_m or 0.0))
        rows.part(
            "outdoor-insulation", "Pipes", metres, outdoors.bore_m * 1000 if outdoors.bore_m else 0.0,
            f"for {metres} m of primaries, there and back; as much of it as lies outdoors",
        )  # fmt: skip
    renewed = sum(1 for p in design.pipework.pipes if p.action == "replace")
    swapped = sum(1 for room in design.rooms for one in room.emitters if one.action == "replace")
    disturbed = ENDS_OF_A_RUN * renewed + 2 * swapped
    if disturbed:
        rows.part(
            "seals",
            "Pipes",
            float(disturbed),
            words=f"{counted(renewed, 'run')} and {counted(swapped, 'emitter')} renewed",
        )


def _emitters(house: HouseView, design: Design, rows: _Rows) -> None:
    actions = house.scheme.emitters if house.scheme else {}
    open_tails = closed_tails = 0
    for room in design.rooms:
        for one in room.emitters:
            if one.action in ("add", "replace"):
                action = actions.get(one.id)
                rows.other(
                    f"emitter:{one.id}", "Emitters", f"{room.label}: {one.label}", one.description, action.cost_minor if action else None,
                    f"{room.label} reaches {room.target_c:g} °C with cooler water" if one.action == "replace" else f"new in {room.label}",
                )  # fmt: skip
            if one.action in ("add", "replace") and one.spread_k is not None and not one.heated:
                closed_tails += one.closes
                open_tails += not one.closes
    if open_tails or closed_tails:
        rows.part(
            "lockshield",
            "Emitters",
            float(2 * open_tails + closed_tails),
            words="two where an emitter stays open, one beside a thermostatic valve",
        )
    if closed_tails:
        rows.part("thermostatic", "Emitters", float(closed_tails))


def _water(house: HouseView, design: Design, found: Inventory, rows: _Rows) -> None:
    litres = (design.volume.open_l or 0.0) + design.volume.closed_l
    if litres <= 0:
        return
    said = f"for {litres:.0f} L of heating water"
    rows.part("cleaner", "Water", _litres(litres * CLEANER_L_PER_100 / 100), words=said)
    share = house.fluid.share
    if share > 0:
        rows.part("glycol", "Water", math.ceil(share * litres), words=f"{share:.0%} by volume of {litres:.0f} L")
        rows.part("glycol-fill", "Water")
        return
    rows.part("inhibitor", "Water", _litres(litres * INHIBITOR_L_PER_100 / 100), words=said)
    rows.part("biocide", "Water", _litres(litres * BIOCIDE_L_PER_100 / 100), words=said)


def counted(n: int, what: str) -> str:
    """So many of something.

    >>> counted(1, "run"), counted(2, "run")
    ('1 run', '2 runs')
    """
    return f"{n} {what}" + ("" if n == 1 else "s")


def _litres(litres: float) -> float:
    """As it is sold: to half a litre, upwards."""
    return math.ceil(litres * 2 - 1e-9) / 2


def _measures(house: HouseView, rows: _Rows) -> None:
    measures = house.scheme.measures if house.scheme else {}
    for key, one in sorted(measures.items(), key=lambda item: (item[1].pos, item[0])):
        label, where = _measure(house, one)
        rows.other(f"measure:{key}", "House", label, where, one.cost_minor, "the house loses less", need="good")


def _measure(house: HouseView, one: Measure) -> tuple[str, str]:
    """What a measure is, and where."""
    built = house.construction_label(one.construction) if one.construction in house.constructions else ""
    where = next((room.name for room in house.rooms if room.id == one.room), "")
    if one.kind == "construction" and one.was in house.constructions:
        where = f"in place of {house.construction_label(one.was)}"
    plain = {"tightness": "Draughts stopped", "ventilation": "Heat recovered from the air"}.get(one.kind, built)
    return one.label or plain or "A measure", where


def _sums(rows: list[Material]) -> Sums:
    by = {
        need: sum(row.total_minor or 0.0 for row in rows if row.need == need)
        for need in ("essential", "good", "by circumstance")
    }
    return Sums(
        essential_minor=by["essential"], good_minor=by["good"], circumstance_minor=by["by circumstance"], total_minor=sum(by.values()),
        unpriced=sum(1 for row in rows if row.minor is None),
    )  # fmt: skip


def _sentence(rows: list[Material], sums: Sums) -> str:
    bought = [row for row in rows if not row.stays]
    essential = sum(1 for row in bought if row.need == "essential")
    said = f"**{len(bought)} lines** to buy, **{essential}** of them essential"
    return said + (
        f"; **{sums.unpriced}** {'has' if sums.unpriced == 1 else 'have'} no price yet." if sums.unpriced else "."
    )


def _notes(own: frozenset[str]) -> list[str]:
    out = [
        "Quantities come from the design as it stands; lengths of pipes are guesses until somebody has measured them."
    ]
    if not own:
        out.append("Prices are guesses of ours: type the company's own, they are kept for all its jobs.")
    return out
