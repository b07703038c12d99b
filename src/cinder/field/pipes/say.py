"""Words about pipes found by tests."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from cinder.design.explained import num
from cinder.field.pipes.result import PipeFitted
from cinder.model.survey import PipeTest

HOW = (
    "Open every valve and lockshield wide, let the air out, run the pump at two or three of its steps and write down its head and the flow. "
    "Then leave one emitter open at a time at one step."
)
NAMELESS = "A pipe without a name"
BADLY = 2.5


def test(n: int, one: PipeTest, labels: Mapping[str, str]) -> str:
    """A test by its number and what was open."""
    return f"{n}: " + ("all open" if one.only is None else f"only {labels.get(one.only, one.only)}")


def surveyed(size: str, length_m: float | None) -> str:
    return f"{size}, " + (f"{num(length_m, 1)}\N{NO-BREAK SPACE}m" if length_m is not None else "length not known")


def pipe(one: PipeFitted) -> str:
    if one.told < 0.2:
        return "These tests say next to nothing about it: too little of the pressure is lost in it."
    if one.size is None:
        return "How much it takes is known better now; which of two sizes it is, is not."
    best = one.sizes[0]
    if one.agrees:
        return f"Probably {best.label} as it was written down."
    return f"Probably {best.label}, about {num(one.write_length_m or 0.0, 1)} m."


def sentence(pipes: Sequence[PipeFitted], chi2: float) -> str:
    told = [one for one in pipes if one.told >= 0.2]
    other = [one for one in told if one.size is not None and not one.agrees]
    out = f"**{len(told)} of {len(pipes)}** pipes that nobody saw are told something by these tests"
    if other:
        out += f"; “{other[0].label}” is probably {other[0].sizes[0].label}, not what was written down"
        if len(other) > 1:
            out += f", and {len(other) - 1} more {'is' if len(other) == 2 else 'are'} other than written down"
    return out + "." + (" The readings do not fit together well." if chi2 > BADLY else "")


def following(label: str, narrows: float) -> str:
    return f"Next, open only {label}: it would take some {num(100 * narrows, 0)} % of what is still open away."


def odd(what: str, off: float) -> str:
    return f"{what}: read {'more' if off > 0 else 'less'} than these pipes could give, {num(abs(off), 1)} times what the reading may be off."


def notes(chi2: float, readings: int) -> list[str]:
    out = [
        "A long thin pipe and a longer wider one take the same: what a pipe takes is known better than its bore or its length alone.",
        "It holds for water without air and with every strainer clean; a closed valve nobody knows of looks like a thin pipe.",
    ]
    if readings < 3:
        out.insert(0, "Fewer than three tests: two more steps of the pump, or single emitters, would narrow much.")
    if chi2 > BADLY:
        out.insert(
            0,
            "The readings stray from each other by more than meter and thermometers should: look for a valve not wide open, for "
            "air, or a clogged strainer.",
        )
    return out
