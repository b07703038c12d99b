"""The offer: lines that add up to the penny, work counted as somebody would count it, permissions in their order."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cinder.design import design
from cinder.design.apart import materials, running
from cinder.errors import InvalidJob
from cinder.handover import offer
from cinder.handover.offer.money import payments, summed, whole
from cinder.handover.offer.result import GoodsLine, LabourLine, OwnLine
from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.model.handover import Offer, Payment, TaxRule
from tests.conftest import oat_store, tansy_cut

LIBRARY = load()


def laid_of(job):
    def laid(key):
        shown = job.model_copy(update={"active_scheme": key})
        result = design(shown)
        year = shipped_year(job.library.climates[job.climate.entry].data.year_sha256) if job.climate.entry else None
        return offer.Laid(
            shown, result, materials.judge(shown, result, LIBRARY.plant_parts), running.judge(shown, result, year)
        )

    return laid


def offered(document, **changes):
    document = {
        **document,
        "handover": {
            **document.get("handover", {}),
            "offer": {**document.get("handover", {}).get("offer", {}), **changes},
        },
    }
    job = parse(document)
    return offer.judge(job, laid_of(job), labour=LIBRARY.labour, trades=LIBRARY.trades)


@pytest.fixture(scope="module")
def tansy():
    return offered(tansy_cut(), taxes={}, payments={}, reserve_share=0.0)


money = st.floats(0, 5e6, allow_nan=False)


def goods(minor):
    return GoodsLine(group="Pipes", label="x", words="", count=1, unit="each", minor=minor, why="")


def work(minor):
    return LabourLine(
        key="k", label="w", trade="t", hours=1, helper_h=0, own=False, of="", state="counted", minor=minor, why=""
    )


@given(
    st.lists(st.one_of(money, st.none()), max_size=8), st.lists(money, max_size=6), st.lists(st.floats(-1e5, 1e6), max_size=3), money,
    st.floats(0, 1), st.floats(0, 0.5), st.lists(st.floats(0, 0.3), max_size=3),
    st.lists(st.floats(0.01, 0.25), min_size=1, max_size=4), st.floats(0, 1e7),
)  # fmt: skip
def test_sums_taxes_and_payments_add_up_to_the_penny(
    prices, labour, own, travel, margin, reserve, taxes, steps, granted
):
    said = Offer(
        margin_share=margin, reserve_share=reserve, taxes={f"t{n}": TaxRule(label="t", share=s) for n, s in enumerate(taxes)},
        payments={f"p{n}": Payment(when="order", share=s, pos=n) for n, s in enumerate(steps)},
    )  # fmt: skip
    mine = [OwnLine(key=str(n), label="o", of="goods", minor=m) for n, m in enumerate(own)]
    sums, lines = summed(said, map(goods, prices), map(work, labour), mine, travel=travel, heaters=0, granted=granted)
    assert sums.net == pytest.approx(
        sums.goods + sums.margin + sums.labour + sums.travel + sums.own + sums.reserve, abs=1e-6
    )
    assert sums.gross == pytest.approx(sums.net + sum(one.minor for one in lines), abs=1e-6)
    assert sums.pay >= 0 or sums.gross < 0
    assert sums.pay == sums.gross - sums.granted
    steps_paid = payments(said, sums.pay)
    assert math.fsum(one.minor for one in steps_paid) == pytest.approx(sums.pay, abs=1e-6)
    assert all(one.minor == whole(one.minor) for one in steps_paid[:-1])
    assert sums.unpriced == sum(1 for one in prices if one is None)


def test_goods_are_the_list_of_materials_and_what_the_place_asks_for(tansy):
    """By another route: the list of materials itself, with cable by the metre."""
    job = parse(tansy_cut())
    result = design(job)
    listed = materials.judge(job, result, LIBRARY.plant_parts)
    place = next(one for one in result.places.places if one.chosen)
    cable = place.cable.length_m * job.practice.cable_minor_per_m
    bought = sum(row.total_minor or 0 for row in listed.rows if not row.stays)
    assert tansy.variants[0].sums.goods == pytest.approx(bought + cable, abs=1)


def test_hours_are_counted_as_a_person_would(tansy):
    """By hand from the table: ten rooms at 0.35 h and 8 h; 12 emitters at 0.25 h and 4 h."""
    lines = {one.key: one for one in tansy.variants[0].labour}
    assert lines["design"].hours == pytest.approx(8 + 10 * 0.35)
    assert lines["design"].minor == pytest.approx((8 + 3.5) * 5200)
    assert lines["commission"].hours == pytest.approx(4 + 12 * 0.25)
    assert lines["emitters"].hours == pytest.approx(2 * 2.0)
    assert lines["emitters"].state == "in the prices"
    assert lines["old-out"].helper_h == pytest.approx(5 * 0.5)
    assert "board" not in lines  # there is a spare way
    assert "unit-high" not in lines  # it stands on the ground


def test_prices_of_goods_alone_count_all_work_and_hard_access_a_quarter_more():
    bare = offered(tansy_cut(), prices="goods", access="hard", taxes={}, payments={})
    lines = {one.key: one for one in bare.variants[0].labour}
    assert lines["emitters"].state == "counted"
    assert lines["emitters"].hours == pytest.approx(4 * 1.25)
    assert lines["design"].hours == pytest.approx(11.5)  # at the desk nothing is hard to reach
    assert lines["unit"].state == "in the prices"  # somebody priced the machine with its work


def test_what_a_person_says_of_a_task_stands():
    said = offered(
        tansy_cut(), tasks={"design": {"hours": 3.0}, "old-out": {"falls_away": True}}, taxes={}, payments={}
    )
    lines = {one.key: one for one in said.variants[0].labour}
    assert lines["design"].own
    assert lines["design"].minor == pytest.approx(3 * 5200)
    assert lines["old-out"].minor == 0
    assert lines["old-out"].state == "falls away"


def test_a_machine_nobody_priced_counts_by_its_size_and_says_so(tansy):
    plain = offered(tansy_cut(), variants=["plain"], taxes={}, payments={}).variants[0]
    machine = next(one for one in plain.goods if one.label == plain.machine)
    assert machine.minor > 0
    assert "guess" in machine.why
    assert {one.key: one for one in plain.labour}["unit"].state == "counted"


def test_variants_differ_in_words_and_the_first_is_recommended():
    found = offered(tansy_cut(), variants=["lukewarm", "plain"])
    first, second = found.variants
    assert (first.first, second.first) == (True, False)
    assert first.differs == []
    assert any("55 °C instead of 48 °C" in one for one in second.differs)
    assert any("no work in Bedroom 3" in one for one in second.differs)
    assert found.today.label == "wood pellets"
    assert first.cost_minor.low < first.cost_minor.mid < first.cost_minor.high


def test_what_it_costs_to_run_is_what_the_machine_screen_says():
    """Offer and machine screen, two ways to one figure: for both variants, each run by itself."""
    found = offered(tansy_cut(), variants=["lukewarm", "plain"])
    for one in found.variants:
        job = parse(tansy_cut() | {"active_scheme": one.scheme})
        year = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
        row = next(r for r in running.judge(job, design(job), year).rows if r.chosen)
        assert one.cost_minor == row.cost_minor
        assert one.carbon_kg == row.carbon_kg


def test_a_grant_by_share_counts_machine_and_work_not_the_walls():
    found = offered(tansy_cut(), variants=["plain"], taxes={}, payments={}, reserve_share=0.0).variants[0]
    assert found.sums.granted == pytest.approx(min(0.35 * found.sums.net, 400000), abs=1)


def test_permissions_stand_before_the_work_first_and_by_their_days():
    rows = offered(
        tansy_cut(),
        permissions={
            "paid": {"kind": "grant", "label": "paid", "when": "after"},
            "late": {"kind": "planning", "label": "late", "asked": "2024-05-02", "state": "asked"},
            "early": {
                "kind": "grant",
                "label": "early",
                "asked": "2024-04-01",
                "decided": "2024-04-20",
                "state": "given",
            },
        },
    ).permissions
    assert [one.label for one in rows] == ["early", "late", "paid"]
    assert rows[0].warn == "given: its number is missing"
    assert rows[1].warn == "wanted before the work begins"


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({"variants": ["nobody"]}, "no scheme 'nobody'"),
        (
            {"payments": {"a": {"when": "order", "share": 0.7}, "b": {"when": "start", "share": 0.6}}},
            "more than the whole",
        ),
        ({"permissions": {"p": {"asked": "2024-05-02", "decided": "2024-05-01"}}}, "decided after it was asked for"),
        ({"permissions": {"p": {"asked": "2024-02-30"}}}, "no day of the calendar"),
        ({"crew": 0}, "must be at least 1"),
    ],
)
def test_what_cannot_be_is_refused_with_its_place(changes, said):
    with pytest.raises(InvalidJob) as refused:
        offered(tansy_cut(), **changes)
    assert any(said in one.message for one in refused.value.problems)


def test_a_house_without_a_machine_says_what_it_lacks():
    document = oat_store()
    for scheme in document["schemes"].values():
        scheme.pop("chosen", None)
    found = offered(document)
    assert "chosen" in found.lacks or "machine" in found.lacks
