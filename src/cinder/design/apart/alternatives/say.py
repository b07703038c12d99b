"""The four ways in words: what each leaves open, what it decides, which comes cheapest."""

from __future__ import annotations

from cinder.design.apart.alternatives.result import Alternative, Key
from cinder.design.apart.running.result import Running
from cinder.design.explained import num
from cinder.design.result import Design

OPEN: dict[Key, list[str]] = {
    "fabric": ["any machine, and a smaller one, later", "cooler water with the emitters that hang there"],
    "hybrid": ["insulating and larger emitters, room by room", "the boiler's end, when it is due"],
    "full": ["insulating later, with water cooler still"],
    "hot": ["larger emitters later, one by one, each of which lets the water down"],
}
TAKEN: dict[Key, list[str]] = {
    "fabric": ["some winters more on today's fuel"],
    "hybrid": ["two machines to keep and two standing charges", "who enters the prices when a tariff changes"],
    "full": ["work in many rooms at once", "the fuel's meter may go"],
    "hot": ["a dear kind of machine", "a low season while the water is hot"],
}


def decisions(key: Key, result: Design | None, row: Running | None) -> tuple[list[str], list[str]]:
    """What a way keeps open and what it decides."""
    keeps, taken = list(OPEN[key]), list(TAKEN[key])
    if key == "fabric" and result is not None and result.house.loss_w is not None:
        keeps[0] = f"any machine later, of about {num(result.house.loss_w / 1000, 1)} kW"
    if key == "hybrid" and row is not None and row.heat_share is not None:
        taken.insert(0, f"{num((1 - row.heat_share) * 100, 0)} % of the heat stays with the boiler")
    return keeps, taken


def of_all(rows: list[Alternative], currency: str) -> str:
    """Which comes cheapest over fifteen years, and which disturbs least."""
    priced = [row for row in rows if row.fifteen_minor is not None]
    if not priced:
        return "None of the four ways can be priced yet."
    if len(priced) == 1:
        return f"Only **{priced[0].title}** can be had here as things are: the others say what they lack."
    best = min(priced, key=lambda row: row.fifteen_minor.mid if row.fifteen_minor else 0.0)
    span = best.fifteen_minor
    said = f"**{best.title}** comes cheapest over fifteen years"
    if span is not None:
        said += f": {num(span.low / 100, 0)} to {num(span.high / 100, 0)} {currency}"
    over = [
        row.title
        for row in priced
        if row is not best and row.fifteen_minor is not None and span is not None and row.fifteen_minor.low <= span.high
    ]
    if over:
        said += f"; within the range of {', '.join(over)}, so it does not decide by itself"
    return said + "."


def of_later(hybrid: Alternative, full: Alternative, currency: str) -> str:
    """What a hybrid still needs to become the whole heat."""
    if hybrid.lacks:
        return ""
    if full.lacks:
        return f"A later whole conversion cannot be had here as things are: {full.lacks}"
    bigger = hybrid.machine != full.machine
    cost = (full.once_minor or 0.0) / 100
    return (
        f"To become the whole heat later the hybrid needs what “{full.title}” does: {full.changes} changes in "
        f"{len(full.rooms)} rooms for water of {num(full.flow_c, 0)} °C"
        + (
            f", and a machine like {full.machine} in place of {hybrid.machine}"
            if bigger
            else f"; {hybrid.machine} then does"
        )
        + f" ({num(cost, 0)} {currency} if all of it were done at once)."
    )
