"""Papers of the hand-over: offer, survey record, maintenance, promise, review, permissions, warranties, the pack's index."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence

from cinder.design.cautions import by_step
from cinder.exchange.report import plans
from cinder.exchange.report.written import Material, written
from cinder.handover.offer.decide import permissions as in_order
from cinder.library import load
from cinder.model import Room
from cinder.model.imperial import Told

MOST_PICTURES = 60
OFFERED = ("electric", "refrigerant", "scalding", "combustion", "asbestos", "cold-people")


def offer(material: Material, *, for_print: bool = False) -> str:
    """The offer: what it means for the customer first, lines and terms after."""
    found, issued = material.offer()
    cautions = {one.id: one for held in by_step().values() for one in held}
    taken = issued.accepted if issued else None
    until = issued.at.date() + dt.timedelta(days=found.valid_days) if issued else None
    return written(
        "offer.html.j2", "Offer", material, for_print=for_print, o=found, number=found.number or (str(issued.number) if issued else ""),
        issued_at=issued.at if issued else None, until=until, taken=taken,
        taken_on=dt.date.fromisoformat(taken["day"]) if taken else None,
        cautions=[cautions[key] for key in OFFERED],
    )  # fmt: skip


def upkeep(material: Material, *, for_print: bool = False) -> str:
    """The maintenance plan by what is fitted."""
    return written("upkeep.html.j2", "Maintenance plan", material, for_print=for_print)


def promise(material: Material, *, for_print: bool = False) -> str:
    """Energy, cost and rooms as ranges, with what they rest on."""
    return written("promise.html.j2", "What is promised", material, for_print=for_print)


def review(material: Material, *, for_print: bool = False) -> str:
    """Open questions and the second person's remarks, each with its answer."""
    return written("review.html.j2", "Questions and review", material, for_print=for_print)


def permissions(material: Material, *, for_print: bool = False) -> str:
    """What is permitted and certified, by whom, under which number."""
    handed = material.job.handover
    papers = sorted(handed.papers.values(), key=lambda one: (one.kind, one.pos))
    return written(
        "permissions.html.j2", "Certificates and permissions", material, for_print=for_print, lines=in_order(handed.offer), papers=papers
    )  # fmt: skip


def warranties(material: Material, *, for_print: bool = False) -> str:
    """Serial numbers with their registrations and the days by which they count."""
    plates = sorted(material.job.handover.plates.values(), key=lambda one: one.pos)
    return written("warranties.html.j2", "Warranties", material, for_print=for_print, plates=plates)


def survey(material: Material, *, for_print: bool = False) -> str:
    """The house as it was found: plans, rooms with how they are known, answers, what was not seen, pictures."""
    job, design = material.job, material.design
    asked = [
        (entry.ask, _said(job.site.answers[key], entry.options))
        for key, entry in load().enquiry.items()
        if key in job.site.answers
    ]
    photos = sorted(job.survey.photos.values(), key=lambda one: (one.pos, one.sha256))[:MOST_PICTURES]
    labels = {room.id: room.label for room in design.rooms}
    pictures = [
        {
            "src": f"picture:{one.sha256}" if for_print else f"/api/photos/{one.sha256}?size=view",
            "said": ", ".join(x for x in (labels.get(one.room or "", ""), one.caption, one.by, one.at[:10]) if x) or "a picture",
        }
        for one in photos
    ]  # fmt: skip
    leaving = material.doubts_leaving()
    return written(
        "survey.html.j2", "Survey record", material, for_print=for_print, rooms=design.rooms,
        storeys=plans.storeys(job, design, Told(job.site.units == "feet").amount), asked=asked, pictures=pictures,
        known={room.id: _known(job.survey.rooms[room.id]) for room in design.rooms}, gaps=[*leaving.gaps, *leaving.unseen],
    )  # fmt: skip


def _said(answer: object, options: Mapping[str, str]) -> str:
    if isinstance(answer, bool):
        return "yes" if answer else "no"
    return options.get(str(answer), str(answer)) if not isinstance(answer, float) else f"{answer:g}"


def _known(room: Room) -> str:
    """How the figures of a room are known: how many measured, read, told; the rest assumed."""
    counts: dict[str, int] = {}
    for one in (*room.known.values(), *(k for face in room.faces.values() for k in face.known.values())):
        counts[one.how] = counts.get(one.how, 0) + 1
    said = [f"{n} {how}" for how, n in sorted(counts.items(), key=lambda item: -item[1])]
    return ", ".join(said) + "; the rest assumed" if said else "assumed"


def index(
    material: Material,
    *,
    for_print: bool = False,
    number: int | None = None,
    inside: Mapping[str, Sequence[str]] | None = None,
) -> str:
    """What the pack holds and what it lacks. `inside`: files of the zip by record."""
    found = material.pack()
    groups = [
        (group, [one for one in found.records if one.group == group]) for group in dict.fromkeys(one.group for one in found.records)
    ]  # fmt: skip
    return written(
        "pack.html.j2", "The pack", material, for_print=for_print, groups=groups, number=number, inside=inside or {}
    )
