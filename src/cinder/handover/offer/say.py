"""The offer in words."""

from __future__ import annotations

from cinder.design.apart.running.result import Span
from cinder.design.explained import num
from cinder.handover.offer.result import Disturbance, OfferVariant
from cinder.model.handover import Offer, Permission

PRICES = {
    "fitted": "Prices of parts and emitters hold the work of fitting them; work by the hour is what they do not hold.",
    "goods": "Prices are of goods alone; all work is counted by the hour.",
}
PRICES_SHORT = {"fitted": "hold the fitting", "goods": "are of goods alone"}
ACCESS = {"easy": "easy", "usual": "usual", "hard": "hard: a quarter more hours"}
WHEN_ASKED = {"before": "before the work", "after": "after it"}
USUAL = (
    ("grant", "Grant applied for", "before"), ("planning", "Planning: is permission needed here?", "before"),
    ("network", "Network told of the machine", "before"), ("building", "Building control told", "after"), ("grant", "Grant paid out", "after"),
)  # fmt: skip
"""Permissions most houses ask for (common practice): kind, what, when."""
KINDS = {
    "grant": "Grant", "planning": "Planning", "network": "Electricity network", "building": "Building control", "landlord": "Landlord",
    "other": "Permission",
}  # fmt: skip


def money(minor: float, currency: str) -> str:
    """Whole units.

    >>> money(1234567, "GBP").replace("\N{THIN SPACE}", " ")
    '12 346 GBP'
    """
    return f"{num(minor / 100, 0)} {currency}"


def pays(one: OfferVariant, currency: str) -> str:
    """What is to be paid; at least so much where something has no price."""
    return f"{'at least ' if one.sums.unpriced else ''}{money(one.sums.pay, currency)}"


def span(one: Span) -> str:
    return f"{num(one.low / 100, 0)} to {num(one.high / 100, 0)}"


def variant(one: OfferVariant, currency: str) -> str:
    said = f"**{one.label}**: {one.machine}, **{pays(one, currency)}** to pay"
    if one.sums.granted:
        said += f" when grants of {money(one.sums.granted, currency)} come"
    if one.cost_minor is not None:
        said += f"; then {span(one.cost_minor)} {currency} a year for heat and hot water"
    return said + "."


def offer(variants: list[OfferVariant], currency: str) -> str:
    """What the offer says, in one sentence."""
    able = [one for one in variants if not one.lacks]
    if len(able) == 1:
        return variant(able[0], currency)
    low, high = min(able, key=lambda v: v.sums.pay), max(able, key=lambda v: v.sums.pay)
    said = f"**{len(able)} variants**, from **{pays(low, currency)}** ({low.label}) to **{pays(high, currency)}** ({high.label})"
    runs = [one for one in able if one.cost_minor is not None]
    if len(runs) > 1:
        cheap = min(runs, key=lambda v: v.cost_minor.mid if v.cost_minor else 0.0)
        said += f"; **{cheap.label}** costs least to run"
    return said + "."


def differs(one: OfferVariant, first: OfferVariant, currency: str) -> list[str]:
    """What a variant does otherwise than the first."""
    out = []
    if one.machine != first.machine:
        out.append(f"{one.machine} instead of {first.machine}")
    if one.flow_c is not None and first.flow_c is not None and abs(one.flow_c - first.flow_c) >= 0.5:
        out.append(f"water of {num(one.flow_c, 0)} °C instead of {num(first.flow_c, 0)} °C on the coldest day")
    if one.season is not None and first.season is not None and abs(one.season - first.season) >= 0.05:
        out.append(f"a season of {num(one.season, 2)} instead of {num(first.season, 2)}")
    mine, theirs = set(one.disturbance.rooms), set(first.disturbance.rooms)
    if mine - theirs:
        out.append(f"work also in {', '.join(sorted(mine - theirs))}")
    if theirs - mine:
        out.append(f"no work in {', '.join(sorted(theirs - mine))}")
    if one.disturbance.cold_days != first.disturbance.cold_days:
        out.append(f"{days(one.disturbance.cold_days)} without heat instead of {first.disturbance.cold_days}")
    gap = one.sums.pay - first.sums.pay
    if abs(gap) >= 100:
        out.append(f"{money(abs(gap), currency)} {'more' if gap > 0 else 'less'} to pay")
    return out


def days(n: int) -> str:
    """
    >>> days(1), days(3)
    ('1 day', '3 days')
    """
    return f"{n} day" + ("" if n == 1 else "s")


def disturbance(found: Disturbance) -> list[str]:
    """In the words of those who live there."""
    out = [f"{days(found.days)} of work at the house"]
    if found.cold_days:
        lent = (
            f"; {found.heaters} electric heater{'' if found.heaters == 1 else 's'} are lent"
            if found.heaters
            else "; no heaters are lent"
        )
        out.append(f"{days(found.cold_days)} without heat{lent.replace('heater are', 'heater is')}")
    if found.floors:
        out.append(f"carpets and boards come up in {', '.join(found.floors)}")
    if found.rooms:
        out.append(f"work in {', '.join(found.rooms)}")
    if found.walls:
        out.append(f"walls opened: {'; '.join(found.walls)}")
    return out


def warned(one: Permission) -> str:
    """What is odd about a permission as it stands."""
    if one.state == "refused":
        return "refused: the work waits, or is done otherwise"
    if one.when == "before" and one.state in ("open", "asked"):
        return "wanted before the work begins"
    if one.state == "given" and not one.number:
        return "given: its number is missing"
    return ""


def notes(offer: Offer, variants: list[OfferVariant]) -> list[str]:
    out = []
    for one in variants:
        if one.lacks:
            out.append(f"{one.lacks}: not priced.")
        elif one.sums.unpriced:
            without = [line.label for line in one.goods if line.minor is None]
            out.append(
                f"{one.label}: no price yet for {', '.join(without[:4])}{' and more' if len(without) > 4 else ''}; the sum leaves it out."
            )
    if not offer.taxes:
        out.append("No tax is entered: sums are without any.")
    if not offer.permissions:
        out.append(
            "No permission is entered: grant, planning and network are asked for here, before the work or after it."
        )
    out.append("Running costs are estimates, a range and no promise; grants are decided by who pays them.")
    return out
