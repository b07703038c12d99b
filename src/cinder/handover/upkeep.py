"""The maintenance plan: what is looked at again and again, by what is really fitted, from the day the house is handed over."""

from __future__ import annotations

import calendar
import datetime as dt
from collections.abc import Iterable

from cinder.design.apart.plant.chosen import Inventory, inventory
from cinder.design.base import Result
from cinder.design.cautions import Caution
from cinder.design.cautions import caution as caution_of
from cinder.design.explained import num
from cinder.design.findings import Findings
from cinder.design.house.view import view
from cinder.design.house.water import glycol_share
from cinder.design.result import Design
from cinder.library import UpkeepEntry, load
from cinder.model import Job

WHO = {
    "engineer": "the engineer", "electrician": "a licensed electrician", "registered": "who is registered for the fuel",
    "occupant": "those who live here",
}  # fmt: skip


class UpkeepItem(Result):
    """One thing to be looked at: its first day, months between, what is done, by whom. `uid` stays the same from issue to issue."""

    uid: str
    key: str
    label: str
    how: str
    who: str
    who_key: str
    first: dt.date
    every_months: int
    said: str
    caution: Caution
    why: str


class UpkeepFound(Result):
    """The plan; `gone`: uids of an earlier issue that are no longer wanted, to be called off in the customer's calendar."""

    lacks: str
    sentence: str
    start: dt.date | None
    assumed: bool
    """Nobody has said the day of the hand-over."""
    items: list[UpkeepItem]
    gone: list[str]
    sequence: int


def uid_of(job_id: str, key: str) -> str:
    return f"{job_id}.{key}@mellow-cinder.invalid"


def fitted(job: Job, design: Design) -> tuple[Inventory | None, frozenset[str]]:
    """The plant, and the kinds of parts in it, with what the water holds."""
    house = view(job, Findings())
    found = inventory(house, design, load().plant_parts)
    if found is None:
        return None, frozenset()
    glycol = house.fluid.share > 0
    also = {"relief"} | ({"glycol"} if glycol else {"inhibitor"})
    if house.machine is not None and house.machine.contains.vessel_l:
        also.add("vessel")
    scheme = house.scheme
    backup = scheme.candidates[scheme.chosen].backup.kind if scheme and scheme.chosen else "none"
    if backup in ("boiler", "new boiler"):
        also.add("boiler")
    if backup == "stove":
        also.add("stove")
    return found, frozenset(found.parts) | also


def plan(job: Job, design: Design, *, today: dt.date, sequence: int = 0, before: Iterable[str] = ()) -> UpkeepFound:
    """The plan of the scheme on show. `today`: where nobody has said the day of the hand-over it runs from there; `sequence` rises with
    every issue; `before`: uids that were issued earlier. Intervals are common practice."""
    found, parts = fitted(job, design)
    said = job.handover.handed_over
    start = dt.date.fromisoformat(said) if said else today
    if found is None:
        lacks = "A scheme with a chosen machine: then what has to be looked after is known."
        return UpkeepFound(
            lacks=lacks,
            sentence=lacks,
            start=None,
            assumed=said is None,
            items=[],
            gone=list(before),
            sequence=sequence,
        )
    words = _words(job, design)
    items = [
        _item(job, entry, start, words, caution_of(entry.caution))
        for entry in load().upkeep.values()
        if not entry.needs or parts & set(entry.needs)
    ]
    items.sort(key=lambda one: (one.first, one.key))
    wanted = {one.uid for one in items}
    first = items[0]
    sentence = (
        f"**{len(items)} things** are looked after, the first **{first.label.lower()}** on **{first.first:%d.%m.%Y}**."
    )
    return UpkeepFound(
        lacks="", sentence=sentence, start=start, assumed=said is None, items=items, gone=sorted(set(before) - wanted), sequence=sequence,
    )  # fmt: skip


def _item(job: Job, entry: UpkeepEntry, start: dt.date, words: dict[str, str], caution: Caution) -> UpkeepItem:
    first = later(start, entry.first or entry.every)
    if entry.season is not None:
        first = in_month(start, entry.season)
    return UpkeepItem(
        uid=uid_of(job.id, entry.id), key=entry.id, label=entry.label, how=entry.how.format_map(words), who=WHO[entry.who], who_key=entry.who,
        first=first, every_months=entry.every, said=every(entry.every), caution=caution,
        why=f"because {' or '.join(NAMES.get(one, one) for one in entry.needs)} is fitted" if entry.needs else "in every house",
    )  # fmt: skip


NAMES = {
    "vessel": "a vessel", "strainer": "a strainer", "inhibitor": "water with inhibitor", "glycol": "glycol", "relief": "a relief valve",
    "store-safety": "a store under pressure", "freeze-valves": "a freeze valve", "store": "a store", "boiler": "a boiler", "stove": "a stove",
}  # fmt: skip


def _words(job: Job, design: Design) -> dict[str, str]:
    vessel = design.vessel
    fill = vessel.fill_bar
    practice = job.practice
    scheme = job.schemes.get(job.active_scheme or "")
    share = glycol_share(scheme, design.house.outdoor_c)
    flow = design.pipework.flow_lph
    cycle = {
        "weekly": f"every week to {num(practice.hygiene_c, 0)} °C for {practice.hygiene_minutes} minutes",
        "fortnightly": f"every 15 days to {num(practice.hygiene_c, 0)} °C for {practice.hygiene_minutes} minutes",
        "machine": "by the machine itself, as its manual says", "fresh_water": "no drinking water is stored",
    }[practice.hygiene]  # fmt: skip
    frost = scheme.protection.frost_c if scheme else None
    return {
        "precharge": f"{num(vessel.precharge_bar, 1)} bar",
        "fill": f"{num(fill, 1)} bar cold" if fill is not None else "what the manual says",
        "flow": f"{num(flow, 0)} L/h" if flow is not None else "what the record says",
        "glycol": f"{num(share * 100, 0)} % by volume"
        + (f", free of ice to {num(frost, 0)} °C" if frost is not None else ""),
        "hygiene": cycle,
        "tap": "at most 50 °C at the tap",
    }


def later(start: dt.date, months: int) -> dt.date:
    """So many months on; the last day of the month where it has no such day.

    >>> later(dt.date(2026, 11, 30), 3)
    datetime.date(2027, 2, 28)
    """
    year, month = divmod(start.month - 1 + months, 12)
    year += start.year
    return dt.date(year, month + 1, min(start.day, calendar.monthrange(year, month + 1)[1]))


def in_month(start: dt.date, month: int) -> dt.date:
    """The first day of the next such month that is at least a month away.

    >>> in_month(dt.date(2026, 8, 20), 9), in_month(dt.date(2026, 3, 1), 9)
    (datetime.date(2027, 9, 1), datetime.date(2026, 9, 1))
    """
    year = start.year + (month <= start.month)
    found = dt.date(year, month, 1)
    return found if found >= later(start, 1) else dt.date(year + 1, month, 1)


def every(months: int) -> str:
    """
    >>> every(12), every(60), every(6), every(1)
    ('every year', 'every 5 years', 'every 6 months', 'every month')
    """
    if months % 12 == 0:
        return "every year" if months == 12 else f"every {months // 12} years"
    return "every month" if months == 1 else f"every {months} months"
