"""Offer, pack, upkeep and promise of a job at a version; what was issued, and how today's design differs from it."""

from __future__ import annotations

import datetime as dt
from collections.abc import Hashable
from dataclasses import dataclass

from cinder.design import Design, design
from cinder.design.apart import doubts, materials, running
from cinder.design.effect import effect
from cinder.design.explained import num
from cinder.errors import Refused
from cinder.handover import offer as offers
from cinder.handover.guide import Guide, guide
from cinder.handover.offer import OfferFound
from cinder.handover.offer.say import money
from cinder.handover.pack import Facts, PackFound
from cinder.handover.pack import judge as judge_pack
from cinder.handover.promise import Promise, promise
from cinder.handover.upkeep import UpkeepFound, plan
from cinder.library import entry_sha256, load
from cinder.model import Job
from cinder.service.remembered import Remembered
from cinder.store.issued import Issued, IssuedShelf
from cinder.store.record import Applied, Who


@dataclass(frozen=True, slots=True)
class Handed:
    """What is put together from the remembered answers for the hand-over."""

    remembered: Remembered
    issued: IssuedShelf

    def _laid(self, who: Who, job: Job, version: int, scheme: str, mark: Hashable) -> offers.Laid:
        """A scheme of the job worked out: the one on show from what is at hand, another by itself."""
        on = self.remembered
        if scheme == job.active_scheme:
            return offers.Laid(
                job, on.design(who, job, version), on.materials(who, job, version), on.running(who, job, version)
            )
        shown = job.model_copy(update={"active_scheme": scheme})
        weather, shift = on.weather(who, job)

        def made() -> offers.Laid:
            result = design(shown, on.years(who, job.id))
            table, own, _ = on.plant_parts(who)
            found, loss = doubts.judge(shown).house, result.house.loss_w
            scales = (found.p10_w / loss, found.p90_w / loss) if found is not None and loss else None
            runs = running.judge(shown, result, weather, shift_k=shift, loss_range=scales, kept=on.years(who, job.id))
            return offers.Laid(shown, result, materials.judge(shown, result, table, own), runs)

        return on.slowly(("laid", who.company_id, job.id, version, scheme, weather is not None, mark), made)

    def offer(self, who: Who, job: Job, version: int) -> OfferFound:
        """The offer as it would be made now, by the company's own hours and prices."""
        on = self.remembered
        labour = on.company.labour(who, load().labour)
        trades = on.company.trades(who, load().trades)
        _, _, parts = on.plant_parts(who)
        mark = (parts, tuple(entry_sha256(one) for one in (*labour.values(), *trades.values())))
        weather, _ = on.weather(who, job)
        return on.slowly(
            ("offer", who.company_id, job.id, version, weather is not None, mark),
            lambda: offers.judge(
                job, lambda scheme: self._laid(who, job, version, scheme, parts), labour=labour, trades=trades
            ),
        )

    def upkeep(self, who: Who, job: Job, version: int, *, sequence: int | None = None) -> UpkeepFound:
        """The maintenance plan; things issued earlier that are no longer wanted are called off."""
        packs = self.issued.of_job(who, job.id, "pack")
        before = {uid for one in packs for uid in one.content.get("upkeep", [])}
        return plan(
            job, self.remembered.design(who, job, version), today=dt.datetime.now(dt.UTC).date(),
            sequence=len(packs) if sequence is None else sequence, before=before,
        )  # fmt: skip

    def guide(self, who: Who, job: Job, version: int) -> Guide:
        """The occupant's page."""
        on = self.remembered
        away = on.absences(who, job, version)
        constant = None if away.lacks else on.correction(who, job, version).constant_h
        return guide(job, on.design(who, job, version), away, constant_h=constant)

    def promise(self, who: Who, job: Job, version: int) -> Promise:
        """What is promised, as it stands now."""
        on = self.remembered
        weather, shift = on.weather(who, job)
        return on.slowly(
            ("promise", who.company_id, job.id, version, weather is not None),
            lambda: promise(
                job, on.design(who, job, version), on.doubts(who, job, version), on.running(who, job, version), weather, shift_k=shift
            ),
        )  # fmt: skip

    def pack(self, who: Who, job: Job, version: int) -> PackFound:
        """Every record as it stands."""
        on = self.remembered
        issued = self.issued.of_job(who, job.id, "offer")
        return judge_pack(
            Facts(
                job=job, design=on.design(who, job, version), materials=on.materials(who, job, version),
                runs=on.running(who, job, version), fire_up=on.fire_up(who, job, version), wiring=on.wiring(who, job, version),
                accepted=any(one.accepted for one in issued), offer_issued=bool(issued),
                moved=self._since_review(who, job, version), today=dt.datetime.now(dt.UTC).date(),
            )
        )  # fmt: skip

    def issue_offer(self, who: Who, applied: Applied, issue_id: str) -> Issued:
        """Keep the offer as it is now. Raises `Refused` where there is nothing to offer."""
        found = self.offer(who, applied.job, applied.version)
        if found.lacks:
            raise Refused(f"Nothing can be offered yet: {found.lacks}", kept="Nothing was issued.")
        return self.issued.issue(
            who, applied.job.id, issue_id=issue_id, kind="offer", version=applied.version,
            fingerprint=self.remembered.fingerprint(who, applied), content=found.model_dump(mode="json"),
        )  # fmt: skip

    def issue_pack(self, who: Who, applied: Applied, issue_id: str) -> Issued:
        """Keep the pack as it is now: its papers are written from this version. Raises `Refused` for a job without a machine."""
        job, version = applied.job, applied.version
        found = self.pack(who, job, version)
        scheme = job.schemes.get(job.active_scheme or "")
        if scheme is None or scheme.chosen is None:
            raise Refused("A pack belongs to a plant: no machine is chosen yet.", kept="Nothing was issued.")
        upkeep, said = self.upkeep(who, job, version), self.promise(who, job, version)
        content = {
            "pack": found.model_dump(mode="json"), "upkeep": [one.uid for one in upkeep.items], "promise": said.model_dump(mode="json"),
        }  # fmt: skip
        return self.issued.issue(
            who, job.id, issue_id=issue_id, kind="pack", version=version, fingerprint=self.remembered.fingerprint(who, applied),
            content=content,
        )  # fmt: skip

    def accept(self, who: Who, issue_id: str, *, variant: str, by: str, day: str) -> Issued:
        """An issued offer is taken. Raises `Refused` where the variant is not in it, or it had run out by then."""
        one = self.issued.one(who, issue_id)
        found = OfferFound.model_validate(one.content) if one.kind == "offer" else None
        if found is None:
            raise Refused("Only an offer is accepted.")
        taken = next((v for v in found.variants if v.scheme == variant), None)
        if taken is None or taken.lacks:
            raise Refused("This offer holds no such variant.", kept="Nothing was accepted.")
        if not by.strip():
            raise Refused("Who accepts it?", kept="Nothing was accepted.")
        end = one.at.date() + dt.timedelta(days=found.valid_days)
        try:
            when = dt.date.fromisoformat(day)
        except ValueError:
            raise Refused(f"{day!r} is no day.", kept="Nothing was accepted.") from None
        if when < one.at.date():
            raise Refused(
                f"It was issued on {one.at:%d.%m.%Y}: it cannot have been accepted before.",
                kept="Nothing was accepted.",
            )
        if when > end:
            raise Refused(f"This offer ran out on {end:%d.%m.%Y}: issue it anew.", kept="It stands as it was issued.")
        return self.issued.accept(
            who, issue_id, {"variant": variant, "label": taken.label, "by": by.strip(), "day": day}
        )

    def _then(self, who: Who, job_id: str, version: int) -> Design:
        return self.remembered.design_of(who, job_id, version, self.remembered.log.document_at(who, job_id, version))

    def _since_review(self, who: Who, job: Job, version: int) -> list[str]:
        """What moved of the design since somebody else looked at it."""
        review = job.handover.review
        if not review.by.strip() or review.version is None or not 0 < review.version < version:
            return []
        return said_of(self._then(who, job.id, review.version), self.remembered.design(who, job, version))

    def differs(self, who: Who, one: Issued, job: Job, version: int) -> list[str]:
        """How the job as it stands differs from what was issued: its design, and what the offer comes to; nothing where no figure does."""
        if one.version == version:
            return []
        out = said_of(self._then(who, job.id, one.version), self.remembered.design(who, job, version))
        if one.kind == "offer":
            out += sums_moved(OfferFound.model_validate(one.content), self.offer(who, job, version), job.currency)
        return out

    def material_offer(
        self, who: Who, job: Job, version: int, issue_id: str | None
    ) -> tuple[OfferFound, Issued | None]:
        """The offer a paper shows: the issued one as it was issued, else as it stands."""
        one = self.issued.known(who, issue_id) if issue_id is not None else None
        if one is not None and one.kind == "offer":
            return OfferFound.model_validate(one.content), one
        return self.offer(who, job, version), None


def sums_moved(then: OfferFound, now: OfferFound, currency: str) -> list[str]:
    """Variants that come to another sum, came in or went."""
    today = {one.scheme: one for one in now.variants}
    out = []
    for one in then.variants:
        other = today.pop(one.scheme, None)
        if other is None:
            out.append(f"{one.label} is no longer offered")
        elif one.sums.pay != other.sums.pay:
            out.append(
                f"{one.label}: {money(one.sums.pay, currency)} to pay then, {money(other.sums.pay, currency)} now"
            )
    return out + [f"{one.label} is offered too" for one in today.values()]


def said_of(then: Design, now: Design) -> list[str]:
    """What differs between two designs, in words."""
    moved = effect(then, now)
    labels = {figure.key: (figure.label, figure.unit) for figure in now.headline}
    out = []
    for key, move in moved.headline.items():
        label, unit = labels[key]
        was, is_ = (
            num(x, 0 if x is not None and abs(x) >= 100 else 2) if x is not None else "nothing"
            for x in (move.before, move.after)
        )
        if was != is_:
            out.append(f"{label}: {was} {unit} then, {is_} {unit} now".replace("  ", " "))
    if moved.rooms:
        names = {room.id: room.label for room in now.rooms} | {room.id: room.label for room in then.rooms}
        touched = [names.get(key, key) for key in moved.rooms]
        out.append(f"rooms that moved: {', '.join(touched[:6])}{' and more' if len(touched) > 6 else ''}")
    if moved.curve:
        out.append("the curve's points moved")
    return out
