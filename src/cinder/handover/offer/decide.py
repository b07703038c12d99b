"""The offer: every variant through the chain and the year, priced; permissions in the order of their dates."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from cinder.design.apart.alternatives import machine_goods_minor
from cinder.design.apart.materials.result import MaterialsFound
from cinder.design.apart.running.grants import granted
from cinder.design.apart.running.result import Running, Runs
from cinder.design.machine.result import PlaceResult
from cinder.design.result import Design
from cinder.handover.offer import say
from cinder.handover.offer.labour import Work, worked
from cinder.handover.offer.money import payments, summed
from cinder.handover.offer.result import (
    Disturbance,
    GoodsLine,
    OfferFound,
    OfferSums,
    OfferVariant,
    OwnLine,
    PermissionLine,
)
from cinder.library import LabourEntry, TradeEntry
from cinder.model import Job
from cinder.model.handover import Offer, Permission
from cinder.model.scheme import Candidate

NOTHING = OfferSums(
    goods=0,
    labour=0,
    travel=0,
    heaters=0,
    own=0,
    margin=0,
    reserve=0,
    net=0,
    tax=0,
    gross=0,
    granted=0,
    pay=0,
    unpriced=0,
)
UNTOUCHED = Disturbance(rooms=[], floors=[], walls=[], days=0, cold_days=0, heaters=0, said=[])
MEASURED = ("House", "Emitters")
"""Groups a share-of-cost grant for the machine does not count."""


@dataclass(frozen=True, slots=True)
class Laid:
    """A scheme worked out: the job with it on show, its Design, what to buy, its year."""

    job: Job
    design: Design
    materials: MaterialsFound
    runs: Runs


def named(job: Job) -> list[str]:
    """The schemes of the offer, the recommended one first; the scheme on show where nobody has named any."""
    said = list(dict.fromkeys(job.handover.offer.variants))
    return said or ([job.active_scheme] if job.active_scheme else [])


def judge(
    job: Job, laid: Callable[[str], Laid], *, labour: Mapping[str, LabourEntry], trades: Mapping[str, TradeEntry]
) -> OfferFound:
    """The offer of a job. `laid`: a scheme worked out, asked for once each."""
    offer, names = job.handover.offer, named(job)
    if not names:
        lacks = "A scheme: then there is something to offer."
        return _found(job, [], None, lacks)
    variants: list[OfferVariant] = []
    today = None
    for key in names:
        made = laid(key)
        today = today or made.runs.present
        variants.append(_variant(key, made, offer, labour, trades, variants[0] if variants else None))
    lacks = "" if any(not one.lacks for one in variants) else variants[0].lacks
    return _found(job, variants, today, lacks)


def _found(job: Job, variants: list[OfferVariant], today: object, lacks: str) -> OfferFound:
    offer = job.handover.offer
    return OfferFound.model_validate(
        {
            "lacks": lacks, "sentence": lacks or say.offer(variants, job.currency), "number": offer.number,
            "customer": job.handover.customer, "valid_days": offer.valid_days, "prices": say.PRICES[offer.prices], "variants": variants,
            "today": today, "permissions": permissions(offer), "terms": [line for line in offer.terms.split("\n") if line.strip()],
            "notes": say.notes(offer, variants),
        }
    )  # fmt: skip


def _variant(
    key: str, made: Laid, offer: Offer, labour: Mapping[str, LabourEntry], trades: Mapping[str, TradeEntry], first: OfferVariant | None
) -> OfferVariant:  # fmt: skip
    job, design = made.job, made.design
    scheme = job.schemes[key]
    candidate = scheme.candidates.get(scheme.chosen or "")
    row = next((one for one in made.runs.rows if one.chosen), None)
    label = scheme.label or "Scheme"
    if candidate is None or made.materials.lacks:
        lacks = f"{label}: {made.materials.lacks or 'no machine is chosen'}"
        return OfferVariant(
            scheme=key, label=label, first=first is None, lacks=lacks, machine="", flow_c=design.waterline.chosen_flow_c, sentence=lacks,
            goods=[], labour=[], own=[], sums=NOTHING, taxes=[], granted=[], payments=[], cost_minor=None, saves_minor=None, carbon_kg=None,
            season=None, disturbance=UNTOUCHED, differs=[],
        )  # fmt: skip
    place = next((one for one in design.places.places if one.chosen), None)
    goods = [*_goods(job, candidate, made.materials), *_placed(job, place)]
    fuel = made.runs.present.fuel if made.runs.present else ""
    work = worked(job, design, made.materials, labour=labour, trades=trades, present_fuel=fuel)
    own = [
        OwnLine(key=k, label=one.label, of=one.of, minor=one.minor)
        for k, one in sorted(offer.lines.items(), key=lambda item: (item[1].pos, item[0]))
        if one.scheme in (None, key)
    ]
    disturbance = disturbed(job, design, work)
    travel = work.days * offer.crew * offer.travel_h_per_day * trades["engineer"].minor_per_h
    lent = disturbance.heaters * disturbance.cold_days * offer.heater_minor_per_day
    bare, _ = summed(offer, goods, work.lines, own, travel=travel, heaters=lent, granted=0.0)
    counts = bare.net - sum(one.minor or 0.0 for one in goods if one.group in MEASURED)
    given = granted(
        job, design, candidate.model_copy(update={"cost_minor": max(counts, 0.0)}), row.scop_35 if row else None, fuel or None
    )  # fmt: skip
    sums, taxes = summed(
        offer, goods, work.lines, own, travel=travel, heaters=lent, granted=sum(one.amount_minor for one in given)
    )
    out = OfferVariant(
        scheme=key, label=label, first=first is None, lacks="", machine=job.library.machines[candidate.machine].data.label,
        flow_c=design.waterline.chosen_flow_c, sentence="", goods=goods, labour=work.lines, own=own, sums=sums, taxes=taxes, granted=given,
        payments=payments(offer, sums.pay), cost_minor=row.cost_minor if row else None, saves_minor=row.saves_minor if row else None,
        carbon_kg=row.carbon_kg if row else None, season=_season(row), disturbance=disturbance, differs=[],
    )  # fmt: skip
    return out.model_copy(
        update={"sentence": say.variant(out, job.currency), "differs": say.differs(out, first, job.currency) if first else []}
    )  # fmt: skip


def _season(row: Running | None) -> float | None:
    """Of the whole plant; of one that burns a fuel too there is none that could be held against it."""
    return row.whole if row else None


def _goods(job: Job, candidate: Candidate, found: MaterialsFound) -> list[GoodsLine]:
    """What is bought. A machine nobody has priced counts as the practice guesses it, its work by the hour."""
    out = []
    for one in found.rows:
        if one.stays:
            continue
        minor, why = one.total_minor, one.why
        if one.key == "machine" and minor is None:
            minor = machine_goods_minor(job.practice, job.library.machines[candidate.machine].data)
            why = f"{why}; its price is a guess of ours by its size"
        out.append(
            GoodsLine(
                group=one.group, label=one.label, words=one.words, count=one.count, unit=one.unit, minor=minor, why=why
            )
        )
    return out


def _placed(job: Job, place: PlaceResult | None) -> list[GoodsLine]:
    """What the chosen place costs beside pipes: cable, access, a larger board somebody has priced."""
    said: list[tuple[str, str, float | None]] = []
    supply = job.site.supply
    if place is not None:
        if place.cable.length_m:
            said.append(("Cable to the unit, laid", f"{place.cable.length_m:.0f} m", place.cable.cost_minor))
        if place.on != "ground":
            access = job.site.places[place.id].access_minor
            said.append(("Access for service", f"the unit is on a {place.on}", access))
    if supply.spare_way is False and supply.board_minor is not None:
        said.append(("Board enlarged", "no spare way is there", supply.board_minor))
    return [
        GoodsLine(group="Machine and place", label=label, words=words, count=1.0, unit="each", minor=minor, why="its place asks for it")
        for label, words, minor in said
    ]  # fmt: skip


def worked_in(job: Job, design: Design) -> list[str]:
    """Rooms in which something is hung, taken down or built, by name."""
    scheme = job.schemes.get(job.active_scheme or "")
    if scheme is None:
        return []
    labels = {room.id: room.label for room in design.rooms}
    found = [
        action.room or (job.survey.emitters[key].room if key in job.survey.emitters else None)
        for key, action in scheme.emitters.items()
        if action.action != "keep"
    ]
    found += [measure.room for measure in scheme.measures.values()]
    return sorted({labels[room] for room in found if room in labels})


def disturbed(job: Job, design: Design, work: Work) -> Disturbance:
    """Which rooms are worked in, which floors come up, which walls are opened, how long the house is without heat."""
    scheme = job.schemes[job.active_scheme or ""]
    labels = {room.id: room.label for room in design.rooms}
    emitter_room = {one.id: room.id for room in design.rooms for one in room.emitters}
    runs = [one for one in design.pipework.pipes if one.action in ("add", "replace")]
    floors = sorted({labels[emitter_room[one.emitter]] for one in runs if one.emitter in emitter_room})
    walls = (
        ["one through an outer wall for the pipes of the unit"] if any(p.chosen for p in design.places.places) else []
    )
    walls += sorted(
        {
            f"{labels[m.room]}: {m.label or 'a wall is insulated'}"
            for m in scheme.measures.values()
            if m.kind == "face" and m.room in labels
        }
    )
    asked = job.handover.offer.heaters
    heated = sum(1 for room in design.rooms if room.emitters)
    heaters = asked if asked is not None else (heated + 1) // 2 if work.cold_days else 0
    found = Disturbance(
        rooms=worked_in(job, design), floors=floors, walls=walls, days=work.days,
        cold_days=work.cold_days, heaters=heaters, said=[],
    )  # fmt: skip
    return found.model_copy(update={"said": say.disturbance(found)})


def permissions(offer: Offer) -> list[PermissionLine]:
    """In the order they are wanted: before the work first, by the day they were asked for, the open ones ahead."""

    def order(item: tuple[str, Permission]) -> tuple[bool, str, float, str]:
        key, one = item
        return one.when == "after", one.asked or "", one.pos, key

    return [
        PermissionLine(
            key=key, kind=one.kind, label=one.label or say.KINDS[one.kind], when=one.when, by=one.by, state=one.state, asked=one.asked,
            decided=one.decided, number=one.number, warn=say.warned(one),
        )
        for key, one in sorted(offer.permissions.items(), key=order)
    ]  # fmt: skip
