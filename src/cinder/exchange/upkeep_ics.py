"""The maintenance plan as iCalendar (RFC 5545): all-day entries that recur, with ids that stay the same from issue to issue.

A later issue carries the same UID with a higher SEQUENCE, so that a calendar brings its entry up to date; what is no longer wanted is
called off under its old UID.
"""

from __future__ import annotations

import datetime as dt

from icalendar import Alarm, Calendar, Event

from cinder.handover.upkeep import UpkeepFound

PRODUCT = "-//Mellow Cinder//Maintenance plan//EN"
TOLD_BEFORE = dt.timedelta(days=-14)


def write(found: UpkeepFound, *, title: str, place: str, written_at: dt.datetime, contact: str = "") -> bytes:
    """The calendar file. `title`, `place`: of the house; `written_at`: an instant."""
    out = Calendar()
    out.add("prodid", PRODUCT)
    out.add("version", "2.0")
    out.add("method", "PUBLISH")
    out.add("x-wr-calname", f"Heating: {title}")
    for one in found.items:
        event = _event(one.uid, found.sequence, written_at)
        event.add("summary", f"Heating: {one.label}")
        event.add("dtstart", one.first)
        event.add("dtend", one.first + dt.timedelta(days=1))
        event.add("rrule", _rule(one.every_months))
        call = f"\nCall: {contact}" if contact else ""
        event.add("description", f"{one.how[:1].upper()}{one.how[1:]}.\nWho: {one.who}.\n{one.caution.line}{call}")
        if place:
            event.add("location", place)
        event.add("transp", "TRANSPARENT")
        event.add("status", "CONFIRMED")
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", f"In two weeks: {one.label}")
        alarm.add("trigger", TOLD_BEFORE)
        event.add_component(alarm)
        out.add_component(event)
    for uid in found.gone:
        event = _event(uid, found.sequence, written_at)
        event.add("summary", "Heating: no longer needed")
        event.add("dtstart", written_at.date())
        event.add("status", "CANCELLED")
        out.add_component(event)
    return bytes(out.to_ical())


def _event(uid: str, sequence: int, at: dt.datetime) -> Event:
    event = Event()
    event.add("uid", uid)
    event.add("sequence", sequence)
    event.add("dtstamp", at)
    return event


def _rule(months: int) -> dict[str, object]:
    if months % 12 == 0:
        return {"freq": "yearly", "interval": months // 12}
    return {"freq": "monthly", "interval": months}
