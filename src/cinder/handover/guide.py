"""The occupant's guide: one plain page from this job's own controller, line, times, hygiene cycle and valves."""

from __future__ import annotations

from cinder.design.base import Result
from cinder.design.explained import num
from cinder.design.result import Design
from cinder.field.correction import wait_days
from cinder.model import Job
from cinder.twin.result import AbsencesFound

STEP_K = 1.0
MOST_RAISED_K = 5.0
"""As far as occupants raise a line that was not set low (our choice): beyond it somebody has to look."""
TURNS = {
    "two_point": "both points of the line up by {k}", "slope": "the level up by {k}", "numbered": "the line up by {k}",
    "offset": "the button up by {k}", "fixed": "the water's temperature up by {k}",
}  # fmt: skip
USUAL_WAIT_H = 40.0
ALL_OVER = "If you are too warm or too cool all over"
"""A line of the room controller's page that is said here in full."""


class Section(Result):
    title: str
    lines: list[str]


class Guide(Result):
    """The page, and how far a line may be raised: `raise_k` in all, in steps of `step_k`, with `wait_days` between."""

    lacks: str
    sections: list[Section]
    raise_k: float
    step_k: float
    wait_days: int


def guide(job: Job, design: Design, away: AbsencesFound, *, constant_h: float | None) -> Guide:
    """The guide of the scheme on show. `constant_h`: how slowly the house answers."""
    wait = wait_days(constant_h if constant_h is not None else USUAL_WAIT_H)
    low = job.practice.curve_start == "low"
    raise_k = job.practice.curve_start_k if low else MOST_RAISED_K
    if away.lacks:
        return Guide(lacks=away.lacks, sections=[], raise_k=raise_k, step_k=STEP_K, wait_days=wait)
    *living, never, call = away.occupant
    living = [line for line in living if not line.startswith(ALL_OVER)]
    sections = [
        Section(title="How it works", lines=[*_lukewarm(design), *living]),
        Section(
            title="If the whole house is too cool, or too warm", lines=_raising(job, design, raise_k, wait, low=low)
        ),
        Section(title="Valves", lines=_valves(design)),
        Section(title="Hot water", lines=_water(job, design)),
        Section(title="Never touch", lines=[never]),
        Section(title="Whom to call", lines=[call]),
    ]
    return Guide(
        lacks="", sections=[one for one in sections if one.lines], raise_k=raise_k, step_k=STEP_K, wait_days=wait
    )


def _lukewarm(design: Design) -> list[str]:
    curve = design.curve
    if not curve.line_c or curve.mild_flow_c is None or curve.cold_flow_c is None or curve.mild_out_c is None:
        return []
    return [
        f"Radiators are barely warmer than a hand: the water is {num(curve.mild_flow_c, 0)} °C at {num(curve.mild_out_c, 0)} °C outside, "
        f"{num(curve.cold_flow_c, 0)} °C on the coldest day. Lukewarm and long is right; hot and short would cost more."
    ]  # fmt: skip


def _raising(job: Job, design: Design, raise_k: float, wait: int, *, low: bool) -> list[str]:
    curve = design.curve
    how = TURNS[curve.kind if not curve.lacks else "two_point"].format(k=f"{STEP_K:g} °C")
    lines = []
    if low and raise_k > 0:
        lines.append(
            f"The water was set {num(raise_k, 0)} °C cooler than designed, on purpose: you may raise it yourselves, bit by bit, as far as that."
        )
    lines.append(
        f"Turn {how}, then wait {wait} day{'' if wait == 1 else 's'}: the house answers slowly. Write down the day."
    )
    steps = max(round(raise_k / STEP_K), 1)
    lines.append(
        f"At most {steps} step{'' if steps == 1 else 's'}, {num(steps * STEP_K, 0)} °C in all. Still cool then: call, something else is wrong."
    )
    lines.append(
        "Too warm everywhere, or everybody warm for a week: one step back. Every degree less saves a little, every day."
    )
    return lines


def _valves(design: Design) -> list[str]:
    closing = sorted({room.label for room in design.rooms for one in room.emitters if one.closes})
    open_ = [room.label for room in design.rooms if room.emitters and not any(one.closes for one in room.emitters)]
    lines = []
    if open_:
        lines.append(f"No valve to turn in {_names(open_)}: the water always runs there, and the machine needs it.")
    if closing:
        lines.append(
            f"The heads in {_names(closing)} are there for sun and guests: leave them open a little above what you want, never shut."
        )
    return lines


def _names(names: list[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def _water(job: Job, design: Design) -> list[str]:
    if not design.hot_water.volume_l:
        return []
    p = job.practice
    lines = [f"The store holds {num(design.hot_water.volume_l, 0)} L at about {num(design.hot_water.store_c, 0)} °C."]
    if p.hygiene in ("weekly", "fortnightly"):
        often = "Once a week" if p.hygiene == "weekly" else "Every 15 days"
        lines.append(
            f"{often} it is heated to {num(p.hygiene_c, 0)} °C against bacteria: the tap is hotter then and can scald. Do not switch this off."
        )
    lines.append(
        "After a holiday of a week or more let every tap and shower run hot for some minutes, with the window open."
    )
    return lines
