"""The maintenance plan: by what is fitted; as iCalendar read back by another parser, with ids that stay."""

import datetime as dt

import pytest
import vobject

from cinder.design import design
from cinder.exchange import upkeep_ics
from cinder.handover.upkeep import plan
from cinder.model import parse
from tests.conftest import tansy_cut

TODAY = dt.date(2026, 3, 1)
AT = dt.datetime(2026, 3, 1, 9, tzinfo=dt.UTC)


def planned(change=None, **more):
    document = tansy_cut()
    if change:
        change(document)
    job = parse(document)
    return job, plan(job, design(job), today=TODAY, **more)


def keys(found):
    return {one.key for one in found.items}


def test_what_is_fitted_is_looked_after_and_nothing_else():
    _, plain = planned()
    assert {"vessel", "strainer", "inhibitor", "relief", "store-relief", "hygiene", "fins", "curve"} <= keys(plain)
    assert not keys(plain) & {"glycol-reading", "glycol-age", "freeze-valves", "boiler", "alarm"}

    def glycol(document):
        document["schemes"]["lukewarm"]["protection"] = {"kind": "glycol", "frost_c": -12.0}

    _, other = planned(glycol)
    assert {"glycol-reading", "glycol-age"} <= keys(other)
    assert "inhibitor" not in keys(other)
    age = next(one for one in other.items if one.key == "glycol-age")
    assert age.first == dt.date(2029, 9, 20)  # five years after the hand-over (common practice)

    def valves(document):
        document["schemes"]["lukewarm"]["protection"] = {"kind": "valves"}

    _, open_ = planned(valves)
    assert "freeze-valves" in keys(open_)
    assert next(one for one in open_.items if one.key == "freeze-valves").first.month == 10


def read(data):
    """By a parser that shares nothing with what wrote it."""
    return {one.uid.value: one for one in vobject.readOne(data.decode()).vevent_list}


def test_another_parser_reads_the_calendar():
    job, found = planned(sequence=2)
    events = read(
        upkeep_ics.write(
            found, title=job.title, place="Tansy Cut; by the lock, left", written_at=AT, contact="R. Sallow"
        )
    )
    assert len(events) == len(found.items)
    for item in found.items:
        event = events[item.uid]
        assert event.dtstart.value == item.first
        assert event.sequence.value == "2"
        assert event.location.value == "Tansy Cut; by the lock, left"
        assert item.how[1:] in event.description.value
        dates = list(event.getrruleset()[:2])
        months = (dates[1].year - dates[0].year) * 12 + dates[1].month - dates[0].month
        assert months == item.every_months
        assert event.valarm.trigger.value == dt.timedelta(days=-14)


def test_a_new_issue_updates_and_calls_off_what_is_gone():
    def valves(document):
        document["schemes"]["lukewarm"]["protection"] = {"kind": "valves"}

    _, first = planned(valves, sequence=1)
    job, second = planned(sequence=2, before=[one.uid for one in first.items])
    events = read(upkeep_ics.write(second, title=job.title, place="", written_at=AT))
    gone = [uid for uid, event in events.items() if event.status.value == "CANCELLED"]
    assert gone == [f"{job.id}.freeze-valves@mellow-cinder.invalid"]
    assert {one.uid for one in first.items} == set(events)  # nothing doubled


def test_without_a_machine_there_is_nothing_to_look_after():
    def bare(document):
        document["schemes"]["lukewarm"].pop("chosen")

    _, found = planned(bare)
    assert found.items == []
    assert "machine" in found.lacks


def test_nobody_said_the_day():
    def open_(document):
        document["handover"].pop("handed_over")

    _, found = planned(open_)
    assert found.assumed
    assert found.start == TODAY
    assert all(one.first > TODAY for one in found.items)


@pytest.mark.parametrize("frost", [-5.0, -25.0])
def test_how_cold_the_glycol_stands_is_said(frost):
    def glycol(document):
        document["schemes"]["lukewarm"]["protection"] = {"kind": "glycol", "frost_c": frost}

    _, found = planned(glycol)
    assert (
        f"free of ice to {frost:.0f} °C".replace("-", "−")
        in next(o for o in found.items if o.key == "glycol-reading").how
    )
