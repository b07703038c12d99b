"""The pack: every record of the house, ready, or what it lacks, or why it is not needed here."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from cinder.design.apart.materials.result import MaterialsFound
from cinder.design.apart.running.result import Runs
from cinder.design.base import Result
from cinder.design.result import Design
from cinder.field.fire_up.result import FireUpFound
from cinder.field.wiring import WiringFound
from cinder.handover.upkeep import fitted, later
from cinder.library import RecordEntry, load
from cinder.model import Job
from cinder.model.handover import OwnPaper, Plate

State = Literal["ready", "lacks", "not needed"]
SOON_DAYS = 30


class RecordLine(Result):
    """A record as it stands: what it lacks, or why it is not needed (`said`: a person says so); what it is made of."""

    key: str
    label: str
    group: str
    what: str
    state: State
    lacks: list[str]
    why: str
    said: bool
    paper: str
    table: str
    own: list[str]
    """Kinds of papers that are brought in for it."""
    papers: list[str]
    """Those that were, by id."""
    screen: str
    """Where what it lacks is entered."""


class Deadline(Result):
    """Something that has to be done by a day."""

    label: str
    what: str
    day: dt.date
    done: str
    late: bool
    soon: bool


class RemarkLine(Result):
    key: str
    where: str
    where_label: str
    figure: str
    text: str
    answer: str
    answered_by: str


class PackFound(Result):
    sentence: str
    records: list[RecordLine]
    ready: int
    lacking: int
    not_needed: int
    deadlines: list[Deadline]
    remarks: list[RemarkLine]
    places: dict[str, str]
    """What a remark may concern: figures of the chain and records, by key."""
    designer: str
    reviewer: str
    review_old: str
    """How the design has moved since the review; empty where it has not."""


@dataclass(frozen=True, slots=True)
class Facts:
    """What a pack is judged by."""

    job: Job
    design: Design
    materials: MaterialsFound
    runs: Runs
    fire_up: FireUpFound
    wiring: WiringFound
    accepted: bool
    """An offer was accepted, and is kept as it was."""
    offer_issued: bool
    moved: list[str]
    """What moved of the design since the review; empty where nothing did, or nobody reviewed it."""
    today: dt.date


SCREENS = {
    "customer": "machine", "offer": "offer", "guide": "curve", "curve-card": "curve", "upkeep": "pack", "promise": "machine", "survey": "plan",
    "heat-loss": "losses", "emitters": "emitters", "noise": "machine", "electrics": "machine", "hot-water": "hot-water",
    "hydraulic": "pipework", "materials": "materials", "balancing": "pipework", "fire-up": "fire-up", "controller": "wiring",
    "permissions": "offer",
}  # fmt: skip


def judge(facts: Facts) -> PackFound:
    """Every record of the table for this job."""
    job = facts.job
    _, parts = fitted(job, facts.design)
    records = [_record(entry, facts, parts) for entry in load().records.values()]
    ready = sum(1 for one in records if one.state == "ready")
    lacking = sum(1 for one in records if one.state == "lacks")
    places = {f"figure:{one.key}": one.label for one in facts.design.headline}
    places |= {f"record:{one.key}": one.label for one in records}
    figures = {
        f"figure:{one.key}": f"{one.value:.3g} {one.unit}" for one in facts.design.headline if one.value is not None
    }
    review = job.handover.review
    remarks = [
        RemarkLine(
            key=key, where=one.where, where_label=places.get(one.where, one.where), figure=figures.get(one.where, ""), text=one.text,
            answer=one.answer, answered_by=one.answered_by,
        )
        for key, one in sorted(review.remarks.items(), key=lambda item: (item[1].pos, item[0]))
    ]  # fmt: skip
    return PackFound(
        sentence=_sentence(records, ready, lacking), records=records, ready=ready, lacking=lacking,
        not_needed=len(records) - ready - lacking, deadlines=deadlines(job, facts.today), remarks=remarks, places=places,
        designer=job.handover.designer, reviewer=review.by, review_old=_old(facts),
    )  # fmt: skip


def _sentence(records: list[RecordLine], ready: int, lacking: int) -> str:
    if not lacking:
        return f"**Every record is ready**: {ready} papers, {len(records) - ready} not needed here. The pack can be handed over."
    first = next(one for one in records if one.state == "lacks")
    return f"**{ready} records** are ready, **{lacking}** lack something: first **{first.label.lower()}** – {first.lacks[0]}."


def _old(facts: Facts) -> str:
    review = facts.job.handover.review
    if not review.by.strip() or not facts.moved:
        return ""
    return f"the design has moved since {review.by.strip()} looked at it: {'; '.join(facts.moved)}"


def _record(entry: RecordEntry, facts: Facts, parts: frozenset[str]) -> RecordLine:
    said = facts.job.handover.not_needed.get(entry.id, "").strip()
    why = said or NOT_NEEDED.get(entry.id, _never)(facts, parts)
    mine = sorted(
        ((one.pos, key) for key, one in facts.job.handover.papers.items() if one.kind in entry.own),
    )
    lacks = [] if why else list(LACKS.get(entry.id, _nothing)(facts))
    if not why and entry.own and entry.id in MUST_COME:
        lacks += _brought(entry, [facts.job.handover.papers[key] for _, key in mine])
    state: State = "not needed" if why else "lacks" if lacks else "ready"
    return RecordLine(
        key=entry.id, label=entry.label, group=entry.group, what=entry.what, state=state, lacks=lacks, why=why, said=bool(said),
        paper=entry.paper, table=entry.table, own=list(entry.own), papers=[key for _, key in mine], screen=SCREENS.get(entry.id, "pack"),
    )  # fmt: skip


MUST_COME = (
    "delivery", "removed-plant", "electric-certificate", "water-certificate", "refrigerant-certificate", "removed-appliance", "network",
    "manuals", "invoice",
)  # fmt: skip
"""Records that are nothing without a paper brought in."""
NUMBERED = (
    "electric certificate",
    "water certificate",
    "refrigerant certificate",
    "removed appliance",
    "permission",
    "network",
    "invoice",
)
"""Kinds of papers that carry a number."""


def _brought(entry: RecordEntry, papers: list[OwnPaper]) -> list[str]:
    if not papers:
        return ["nobody has brought it in"]
    out = []
    for one in papers:
        missing = [
            word
            for word, there in (
                ("who gave it", one.by.strip() or one.kind in ("manual", "delivery")),
                ("its number", one.number.strip() or one.kind not in NUMBERED),
                ("its day", one.day or one.kind == "manual"),
                ("its file", one.sha256),
            )
            if not there
        ]
        if missing:
            out.append(f"{one.label or one.kind}: {', '.join(missing)}")
    return out


Why = Callable[[Facts, frozenset[str]], str]
Lacking = Callable[[Facts], list[str]]


def _never(facts: Facts, parts: frozenset[str]) -> str:
    return ""


def _nothing(facts: Facts) -> list[str]:
    return []


def _removed(facts: Facts, parts: frozenset[str]) -> str:
    present = facts.runs.present
    if "boiler" in parts and present is not None:
        return f"{present.label} stays beside the machine"
    if present is not None and present.fuel in ("electricity", "district"):
        return "nothing is taken out that burns a fuel"
    return ""


def _stays(facts: Facts, parts: frozenset[str]) -> str:
    return "what heats the house today stays" if "boiler" in parts else ""


def _no_store(facts: Facts, parts: frozenset[str]) -> str:
    return "" if "store" in parts or not parts else "no hot water is stored"


def _monobloc(facts: Facts, parts: frozenset[str]) -> str:
    entry = _machine(facts)
    return (
        "the refrigerant circuit was closed at the works; nobody opens it here"
        if entry is not None and entry == "monobloc"
        else ""
    )


def _machine(facts: Facts) -> str | None:
    scheme = facts.job.schemes.get(facts.job.active_scheme or "")
    candidate = scheme.candidates.get(scheme.chosen or "") if scheme else None
    return facts.job.library.machines[candidate.machine].data.kind if candidate else None


NOT_NEEDED: dict[str, Why] = {
    "removed-appliance": _removed, "removed-plant": _stays, "water-certificate": _no_store, "hot-water": _no_store,
    "refrigerant-certificate": _monobloc,
}  # fmt: skip


def _chosen(facts: Facts) -> list[str]:
    return [] if _machine(facts) is not None else ["a chosen machine"]


def _customer(facts: Facts) -> list[str]:
    return _chosen(facts) or ([facts.runs.lacks] if facts.runs.lacks else [])


def _offer(facts: Facts) -> list[str]:
    if facts.accepted:
        return []
    return ["an offer was issued, nobody has accepted it"] if facts.offer_issued else ["no offer has been issued"]


def _guide(facts: Facts) -> list[str]:
    out = _chosen(facts)
    scheme = facts.job.schemes.get(facts.job.active_scheme or "")
    if not facts.job.handover.contact.strip() and not (scheme and scheme.control.room.call.strip()):
        out.append("whom the occupant calls")
    return out


def _card(facts: Facts) -> list[str]:
    curve = facts.design.curve
    return _chosen(facts) or ([curve.lacks] if curve.lacks else [] if curve.line_c else ["a curve"])


def _upkeep(facts: Facts) -> list[str]:
    return _chosen(facts) or (
        [] if facts.job.handover.handed_over else ["the day of the hand-over, from which it runs"]
    )


def _survey(facts: Facts) -> list[str]:
    rooms = facts.design.rooms
    open_ = [room.label for room in rooms if not room.volume_m3]
    out = [] if rooms else ["a surveyed room"]
    if open_:
        out.append(f"{', '.join(open_[:3])}: not measured yet")
    if rooms and not facts.job.survey.photos:
        out.append("no picture was taken")
    return out


def _loss(facts: Facts) -> list[str]:
    stops = [one for one in facts.design.findings if one.severity == "stops"]
    if stops:
        return [f"{stops[0].what.rstrip('.')}" + (f", and {len(stops) - 1} more" if len(stops) > 1 else "")]
    return [] if facts.design.house.loss_w else ["the house's loss"]


def _emitters(facts: Facts) -> list[str]:
    bare = [room.label for room in facts.design.rooms if not room.emitters and (room.room_emitter_load_w or 0) > 0]
    return [f"{', '.join(bare[:3])}: nothing heats it"] if bare else [] if facts.design.rooms else ["a surveyed room"]


def _noise(facts: Facts) -> list[str]:
    place = next((one for one in facts.design.places.places if one.chosen), None)
    if place is None:
        return [*_chosen(facts), "a place for the unit"]
    return [] if facts.job.site.receivers else ["a neighbour's window on the site plan"]


def _electrics(facts: Facts) -> list[str]:
    return _chosen(facts) or ([] if facts.job.site.supply.fuse_a else ["the rating of the supply"])


def _hydraulic(facts: Facts) -> list[str]:
    out = _chosen(facts)
    if facts.design.pipework.index is None:
        out.append("pipes from the machine to an emitter")
    return out


def _materials(facts: Facts) -> list[str]:
    if facts.materials.lacks:
        return ["a chosen machine"]
    bare = facts.materials.sums.unpriced
    return [f"{bare} line{'' if bare == 1 else 's'} without a price"] if bare else []


def _review(facts: Facts) -> list[str]:
    handed, out = facts.job.handover, []
    if not handed.designer.strip():
        out.append("who designed it")
    if not handed.review.by.strip():
        out.append("a second person's look")
    bare = sum(1 for one in handed.review.remarks.values() if not one.answer.strip())
    if bare:
        out.append(f"{bare} remark{'' if bare == 1 else 's'} without an answer")
    asked = sum(1 for one in handed.questions.values() if not one.answer.strip())
    if asked:
        out.append(f"{asked} open question{'' if asked == 1 else 's'}")
    if old := _old(facts):
        out.append(old)
    return out


def _balancing(facts: Facts) -> list[str]:
    return _hydraulic(facts)


def _fire_up(facts: Facts) -> list[str]:
    found = facts.fire_up
    if found.lacks:
        return [found.lacks.rstrip(".")]
    out = []
    if found.open:
        out.append(f"{found.open} step{'' if found.open == 1 else 's'} not done")
    bare = sum(1 for one in found.steps if one.needs_reason)
    if bare:
        out.append(f"{bare} reading{'' if bare == 1 else 's'} off the band without a reason")
    if not any(one.role == "engineer" for one in facts.job.fire_up.signatures.values()):
        out.append("the engineer's signature")
    return out


def _controller(facts: Facts) -> list[str]:
    found = facts.wiring
    if found.lacks:
        return [found.lacks.rstrip(".")]
    bare = len(found.points) - found.entered
    out = [f"{bare} terminal{'' if bare == 1 else 's'} not entered"] if bare else []
    if not facts.job.fire_up.controller.parameters:
        out.append("the parameters that were set")
    return out


def _permissions(facts: Facts) -> list[str]:
    said = facts.job.handover.offer.permissions
    if not said:
        return ["which permissions are needed"]
    waits = [one for one in said.values() if one.state in ("open", "asked")]
    out = [
        f"{one.label or one.kind}: {'not asked for yet' if one.state == 'open' else 'no answer yet'}" for one in waits
    ]
    out += [
        f"{one.label or one.kind}: its number"
        for one in said.values()
        if one.state == "given" and not one.number.strip()
    ]
    return out + [f"{one.label or one.kind}: refused" for one in said.values() if one.state == "refused"]


def _warranties(facts: Facts) -> list[str]:
    plates = facts.job.handover.plates
    if not plates:
        return ["the serial number of the machine"]
    out = [f"{one.label}: its serial number" for one in plates.values() if not one.serial.strip()]
    for one in plates.values():
        day = register_by(one)
        if day is not None and one.registered is None:
            out.append(f"{one.label}: to be registered by {day:%d.%m.%Y}")
    return out


LACKS: dict[str, Lacking] = {
    "customer": _customer, "offer": _offer, "guide": _guide, "curve-card": _card, "upkeep": _upkeep, "promise": _customer, "survey": _survey,
    "heat-loss": _loss, "emitters": _emitters, "noise": _noise, "electrics": _electrics, "hot-water": _chosen, "hydraulic": _hydraulic,
    "materials": _materials, "review": _review, "balancing": _balancing, "fire-up": _fire_up, "controller": _controller,
    "permissions": _permissions, "warranties": _warranties,
}  # fmt: skip


def register_by(plate: Plate) -> dt.date | None:
    """The day something has to be registered by."""
    if plate.fitted is None or plate.register_within_days is None:
        return None
    return dt.date.fromisoformat(plate.fitted) + dt.timedelta(days=plate.register_within_days)


def warranted_to(plate: Plate) -> dt.date | None:
    """The day a warranty ends."""
    if plate.fitted is None or plate.warranty_months is None:
        return None
    return later(dt.date.fromisoformat(plate.fitted), plate.warranty_months)


def deadlines(job: Job, today: dt.date) -> list[Deadline]:
    """Registrations and ends of warranties, the nearest first."""
    out = []
    for one in job.handover.plates.values():
        day = register_by(one)
        if day is not None:
            done = (
                f"registered {one.registered}" + (f", {one.registered_number}" if one.registered_number else "")
                if one.registered
                else ""
            )
            out.append(_deadline(one.label, "to be registered", day, done, today))
        ends = warranted_to(one)
        if ends is not None:
            out.append(_deadline(one.label, "warranty ends" + (", insured" if one.insured else ""), ends, "", today))
    return sorted(out, key=lambda one: (one.day, one.label, one.what))


def _deadline(label: str, what: str, day: dt.date, done: str, today: dt.date) -> Deadline:
    left = (day - today).days
    return Deadline(
        label=label, what=what, day=day, done=done, late=left < 0 and not done, soon=0 <= left <= SOON_DAYS and not done
    )
