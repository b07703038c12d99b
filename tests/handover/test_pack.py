"""The pack: every record of the table, ready, lacking or not needed; the review by another; deadlines."""

import datetime as dt
from functools import lru_cache

import pytest

from cinder.design import design
from cinder.design.apart import materials, running
from cinder.errors import InvalidJob
from cinder.exchange.report import PAPERS
from cinder.field import wiring
from cinder.field.fire_up import day
from cinder.handover import pack
from cinder.library import load, shipped_year
from cinder.model import parse
from tests.conftest import tansy_cut

TODAY = dt.date(2024, 10, 1)


@lru_cache(maxsize=1)
def slow():
    job = parse(tansy_cut())
    result, year = design(job), shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
    return (
        result,
        materials.judge(job, result, load().plant_parts),
        running.judge(job, result, year),
        day.judge(job, year),
        wiring.judge(job),
    )


def judged(change=None, *, accepted=False, moved=(), anew=False):
    document = tansy_cut()
    if change:
        change(document)
    job = parse(document)
    result, bought, runs, fire, wired = slow()
    if anew:
        result = design(job)
        bought, runs = materials.judge(job, result, load().plant_parts), running.judge(job, result, None)
    found = pack.judge(
        pack.Facts(
            job=job, design=result, materials=bought, runs=runs, fire_up=fire, wiring=wired, accepted=accepted, offer_issued=False,
            moved=list(moved), today=TODAY,
        )
    )  # fmt: skip
    return {one.key: one for one in found.records}, found


def test_every_record_is_there_once_and_says_how_it_stands():
    rows, found = judged()
    assert list(rows) == list(load().records)
    assert found.ready + found.lacking + found.not_needed == len(rows)
    for one in rows.values():
        assert (one.state == "lacks") == bool(one.lacks)
        assert (one.state == "not needed") == bool(one.why)
        assert not one.paper or one.paper in PAPERS
    assert rows["offer"].lacks == ["no offer has been issued"]
    assert judged(accepted=True)[0]["offer"].state == "ready"


def test_a_paper_brought_in_must_be_whole():
    def brought(**paper):
        def change(document):
            document["handover"]["papers"] = {"c": {"kind": "electric certificate", "label": "Board and unit", **paper}}

        return judged(change)[0]["electric-certificate"]

    assert brought().lacks == ["Board and unit: who gave it, its number, its day, its file"]
    whole = brought(by="Wick & Flint", number="E-19", day="2024-09-19", sha256="a" * 64)
    assert whole.state == "ready"
    assert whole.papers == ["c"]


def test_a_reason_somebody_gives_stands_and_an_empty_one_does_not():
    def said(document):
        document["handover"]["not_needed"] = {"network": "the network was told by the builder", "delivery": "  "}

    rows, _ = judged(said)
    assert rows["network"].why == "the network was told by the builder"
    assert rows["network"].said
    assert rows["delivery"].state == "lacks"


def test_a_closed_circuit_needs_no_refrigerant_record():
    rows, _ = judged()
    assert "closed at the works" in rows["refrigerant-certificate"].why
    assert rows["removed-appliance"].state == "lacks"  # the pellet boiler goes


def test_the_review_is_anothers_and_old_once_the_job_moves():
    def reviewed(document):
        document["handover"]["review"] = {
            "by": "W. Teasel", "version": 4, "remarks": {"r": {"where": "figure:flow", "text": "48 or 45?", "answer": ""}},
        }  # fmt: skip

    assert judged(reviewed)[0]["review"].lacks[0] == "1 remark without an answer"
    rows, found = judged(reviewed, moved=["Flow: 48 then, 52 now"])
    assert "1 remark without an answer" in rows["review"].lacks
    assert any("moved since W. Teasel looked at it: Flow: 48 then" in one for one in rows["review"].lacks)
    assert found.remarks[0].where_label.startswith("Flow")
    assert found.remarks[0].figure

    def own(document):
        document["handover"]["review"] = {"by": " r  sallow "}

    with pytest.raises(InvalidJob) as refused:
        judged(own)
    assert any("second person" in one.message for one in refused.value.problems)


def test_deadlines_come_nearest_first_and_say_when_they_are_late():
    def plates(document):
        document["handover"]["plates"] = {
            "unit": {"label": "Heat pump", "serial": "1", "fitted": "2024-08-20", "register_within_days": 30, "warranty_months": 84},
            "store": {"label": "Store", "serial": "2", "fitted": "2024-09-10", "register_within_days": 28, "insured": True,
                      "warranty_months": 12,
                      "registered": "2024-09-20", "registered_number": "S-7"},
        }  # fmt: skip

    rows, found = judged(plates)
    said = [(one.label, one.what, one.day.isoformat(), one.late, one.done) for one in found.deadlines]
    assert said[0] == ("Heat pump", "to be registered", "2024-09-19", True, "")
    assert said[1] == ("Store", "to be registered", "2024-10-08", False, "registered 2024-09-20, S-7")
    assert [one[2] for one in said[2:]] == ["2025-09-10", "2031-08-20"]
    assert rows["warranties"].lacks == ["Heat pump: to be registered by 19.09.2024"]


def test_without_a_machine_what_hangs_on_it_lacks_it():
    def bare(document):
        document["schemes"]["lukewarm"].pop("chosen")

    rows, _ = judged(bare, anew=True)
    for key in ("customer", "curve-card", "upkeep", "electrics", "hydraulic", "materials"):
        assert "a chosen machine" in rows[key].lacks, key
    assert "a chosen machine" not in rows["heat-loss"].lacks
