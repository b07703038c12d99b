"""What the year of a machine comes to, in words."""

from __future__ import annotations

from cinder.design.apart.running.result import Present, Running, Shifted
from cinder.design.explained import num
from cinder.design.machine.result import CandidateResult

MOSTLY = 0.5
FEW = 0.02


def of_one(row: Running, chosen: CandidateResult | None) -> str:
    """One candidate: what it carries, how it runs."""
    said = []
    if row.short_kwh > 0:
        said.append(f"It leaves {num(row.short_kwh, 0)} kWh a year ungiven: there is no backup.")
    elif row.heat_share is not None and row.heat_share < 1 - FEW:
        said.append(f"It makes {row.heat_share:.0%} of the year's heat; {row.backup} makes the rest.")
    else:
        said.append("It carries the house by itself.")
    if row.joins and row.backup != "a heater in the water":
        said.append(
            f"It is joined {row.joins} times a year, each time when the water has not risen for twenty minutes: "
            f"{num(row.late_kwh, 0)} kWh come that much later."
        )
    if row.cycling_hours is None:
        said.append("Nobody says how far it turns down, so its running on and off is not judged.")
    elif row.cycling_hours > MOSTLY:
        said.append(
            f"It runs on and off for {row.cycling_hours:.0%} of its heating hours: it is too big for mild weather."
        )
    else:
        said.append(f"It runs on and off for {row.cycling_hours:.0%} of its heating hours.")
    return " ".join(said)


def of_all(rows: list[Running], present: Present | None, currency: str, serviced: list[str]) -> str:
    """The candidates beside each other: which costs least to run, and against what; `serviced`: those whose service is priced."""
    uneven = f" Service is priced for {', '.join(serviced)} only." if 0 < len(serviced) < len(rows) else ""
    return _least(rows, present, currency) + uneven


def _least(rows: list[Running], present: Present | None, currency: str) -> str:
    able = [row for row in rows if row.short_kwh <= 0] or rows
    best = min(able, key=lambda row: row.cost_minor.mid)
    span = f"{num(best.cost_minor.low / 100, 0)} to {num(best.cost_minor.high / 100, 0)} {currency}"
    said = f"**{best.label}** costs least to run: {span} a year"
    if present is None or best.saves_minor is None:
        return said + "."
    low, high = best.saves_minor.low / 100, best.saves_minor.high / 100
    if low >= 0:
        return f"{said}, {num(low, 0)} to {num(high, 0)} less than {present.label} today."
    if high <= 0:
        return f"{said}, {num(-high, 0)} to {num(-low, 0)} more than {present.label} today."
    return f"{said}; against {present.label} today anything from {num(-low, 0)} more to {num(high, 0)} less."


def of_shifting(found: list[Shifted], currency: str) -> str:
    """What moving heat into the cheap hours comes to."""
    if not found:
        return ""
    best = max(found, key=lambda one: one.saves_minor)
    if best.saves_minor <= 0:
        least = found[0]
        return (
            f"Moving heat into the cheap hours pays nothing here: even {least.share:.0%} of the dear hours' heat costs "
            f"{num(-least.saves_minor / 100, 0)} {currency} a year more, because the water must be {num(least.warmer_k, 1)} K warmer."
        )
    return (
        f"Moving {best.share:.0%} of the dear hours' heat into the six cheapest hours of each day saves about "
        f"{num(best.saves_minor / 100, 0)} {currency} a year; the water is {num(best.warmer_k, 1)} K warmer there and "
        f"{num(best.electricity_more_kwh, 0)} kWh more are drawn."
    )
