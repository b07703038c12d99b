"""The sums of a variant: in whole minor units, so that lines, taxes and steps of payment add up to the penny."""

from __future__ import annotations

from collections.abc import Iterable

from cinder.handover.offer.result import GoodsLine, LabourLine, OfferSums, OwnLine, PaymentLine, TaxLine
from cinder.model.handover import Offer, Payment, TaxRule

WHEN = {
    "order": "when it is ordered", "delivery": "when goods are delivered", "start": "when work begins", "handover": "when it is handed over",
    "later": "after the second visit",
}  # fmt: skip
USUAL = (
    Payment(when="order", share=0.25, pos=1),
    Payment(when="delivery", share=0.5, pos=2),
    Payment(when="handover", share=0.25, pos=3),
)
"""Steps of payment where nobody has said any (common practice)."""
OF = {"all": "goods and work", "goods": "goods", "labour": "work"}


def whole(minor: float) -> float:
    """To whole minor units, halves away from nought.

    >>> whole(10.5), whole(-10.5), whole(0.1)
    (11.0, -11.0, 0.0)
    """
    return float(int(abs(minor) + 0.5)) * (1.0 if minor >= 0 else -1.0) if abs(minor) >= 0.5 else 0.0


def summed(
    offer: Offer, goods: Iterable[GoodsLine], labour: Iterable[LabourLine], own: Iterable[OwnLine], *, travel: float, heaters: float,
    granted: float,
) -> tuple[OfferSums, list[TaxLine]]:  # fmt: skip
    """What a variant comes to, and its taxes. A reserve stands on goods and work alike; a margin on goods alone."""
    lines = list(goods)
    things = whole(sum(one.minor or 0.0 for one in lines))
    work = whole(sum(one.minor for one in labour))
    mine = {of: whole(sum(one.minor for one in own if one.of == of)) for of in ("goods", "labour")}
    margin = whole(max(things + mine["goods"], 0.0) * offer.margin_share)
    travelled, lent = whole(travel), whole(heaters)
    bare = {"goods": things + margin + lent + mine["goods"], "labour": work + travelled + mine["labour"]}
    held = {of: whole(max(minor, 0.0) * offer.reserve_share) for of, minor in bare.items()}
    net = {of: bare[of] + held[of] for of in bare}
    taxes = [_tax(rule, net) for _, rule in sorted(offer.taxes.items(), key=lambda item: (item[1].pos, item[0]))]
    tax = sum(one.minor for one in taxes)
    gross = sum(net.values()) + tax
    given = min(whole(granted), max(gross, 0.0))
    return OfferSums(
        goods=things, labour=work, travel=travelled, heaters=lent, own=mine["goods"] + mine["labour"], margin=margin,
        reserve=sum(held.values()), net=sum(net.values()), tax=tax, gross=gross, granted=given, pay=gross - given,
        unpriced=sum(1 for one in lines if one.minor is None),
    ), taxes  # fmt: skip


def _tax(rule: TaxRule, net: dict[str, float]) -> TaxLine:
    base = sum(net.values()) if rule.of == "all" else net[rule.of]
    return TaxLine(label=rule.label, share=rule.share, of=OF[rule.of], minor=whole(max(base, 0.0) * rule.share))


def payments(offer: Offer, pay: float) -> list[PaymentLine]:
    """The steps of payment: the last takes what rounding and shares leave."""
    said = [one for _, one in sorted(offer.payments.items(), key=lambda item: (item[1].pos, item[0]))] or list(USUAL)
    out, left = [], pay
    for n, step in enumerate(said):
        last = n == len(said) - 1
        minor = left if last else whole(pay * step.share)
        share = 1 - sum(one.share for one in said[:-1]) if last else step.share
        left -= minor
        out.append(PaymentLine(when=step.when, label=WHEN[step.when], share=share, minor=minor))
    return out
