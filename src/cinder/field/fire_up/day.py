"""The day's steps as they stand: which apply, what is expected, what was measured, what waits for cold, what still lacks a reason."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from cinder.design.cautions import Caution
from cinder.design.judgement import design as judged
from cinder.design.kept import Kept
from cinder.field.expected import Expected, expected_of
from cinder.field.fire_up.balance import Tails, balance
from cinder.field.fire_up.bands import Band, House, asked, direct_flow_lph
from cinder.field.fire_up.result import Ask, Balance, FireUpFound, StepFound, Verdict
from cinder.library import FireUpEntry, HourlyYear, load
from cinder.model import Job
from cinder.model.fire_up import Step
from cinder.twin.of_job import lacks

HOT_C = 15.0
"""In air this warm a house takes too little for its cover, curve and balance to be proved (our choice)."""
LITTLE_LOAD = 0.3
BURNERS = ("gas", "oil", "lpg", "coal", "wood", "pellets")
OFF_DIGITS = 1e-9


def judge(
    job: Job, year: HourlyYear | None, *, live: Mapping[str, float] | None = None, kept: Kept | None = None
) -> FireUpFound:
    """The steps of the scheme's plant. `live`: the last reading of the plant that is watched, by channel."""
    kept = kept or Kept()
    missing = lacks(job, judged(job, kept))
    expected = None if missing else expected_of(job, year, kept=kept)
    steps_done = job.fire_up.steps
    outdoor = _outdoor(steps_done, live or {})
    house = House(expected, outdoor, (live or {}).get("outdoor_c"))
    hot, hot_says = _hot(house)
    found = [
        _step(entry, job, house, steps_done.get(key, Step()), hot)
        for key, entry in load().fire_up.items()
        if _applies(entry, job, expected)
    ]
    balanced = _balance(job, expected, live or {})
    done = sum(1 for one in found if one.state in ("done", "not needed"))
    off = sum(1 for one in found if one.needs_reason)
    return FireUpFound(
        lacks=missing, sentence=_sentence(missing, found, hot), steps=found, balance=balanced, done=done,
        open=sum(1 for one in found if one.state == "open"), off=off, hot=hot, hot_says=hot_says, outdoor_c=outdoor, notes=_notes(job, house),
    )  # fmt: skip


def _outdoor(steps: Mapping[str, Step], live: Mapping[str, float]) -> float | None:
    """The air of the day: of the run that was read last, else as the plant says."""
    for key, name in (("heating-run", "heat/outdoor_c"), ("hot-water-run", "hot/outdoor_c")):
        if key in steps and name in steps[key].values:
            return steps[key].values[name]
    return live.get("outdoor_c")


def _hot(house: House) -> tuple[bool, str]:
    if house.outdoor_c is None or house.expected is None:
        return False, ""
    design = house.expected.house.design.house
    if design.outdoor_c is None:
        return False, ""
    part = house.load_w(house.outdoor_c) / max(house.load_w(design.outdoor_c), 1.0)
    if house.outdoor_c < HOT_C and part > LITTLE_LOAD:
        return False, ""
    return True, (
        f"At {house.outdoor_c:.0f} °C outside the house takes {part:.0%} of what it takes on the design day: air, flow, diverter, hot water and "
        "each emitter's tails at a test temperature can be proved; cover, curve and the balance at load wait for cold."
    )


def _applies(entry: FireUpEntry, job: Job, expected: Expected | None) -> bool:
    return all(_has(one, job, expected) for one in entry.needs)


def _has(what: str, job: Job, expected: Expected | None) -> bool:
    if what == "burner":
        return (
            any(source.fuel in BURNERS for source in job.survey.sources.values())
            if hasattr(job.survey, "sources")
            else True
        )
    if expected is None:
        return True
    view, design = expected.house.view, expected.house.design
    assert view.machine is not None
    if what == "split":
        return view.machine.kind == "split"
    if what == "outdoor unit":
        return True
    if what == "hot water":
        return bool(design.hot_water.daily_kwh) and expected.house.house.hot_water.at_h.size > 0
    if what == "bypass":
        return design.separation.two and design.separation.bypass
    raise ValueError(f"a step needs {what!r}, which nobody knows")


def _step(entry: FireUpEntry, job: Job, house: House, done: Step, hot: bool) -> StepFound:
    asks = [_ask(key, band, done) for key, band in asked(entry.id, house, done.values)]
    off = sum(1 for one in asks if one.verdict == "off")
    table = load().cautions
    cautions = [
        Caution(id=key, hazard=c.hazard, line=c.line, what=c.what, who=c.who, rule=c.rule)
        for key in entry.cautions
        for c in (table[key],)
    ]
    return StepFound(
        key=entry.id, group=entry.group, label=entry.label, how=entry.how, who=entry.who, visit=entry.visit, cautions=cautions, asks=asks,
        state=done.state, waits="waits for cold" if hot and entry.cold and done.state == "open" else "",
        needs_reason=done.state == "done" and off > 0 and not done.reason, off=off,
    )  # fmt: skip


def _ask(key: str, band: Band, done: Step) -> Ask:
    value = band.value if band.derived else done.values.get(key)
    verdict: Verdict = "open"
    if value is not None:
        bounded = band.low is not None or band.high is not None
        low = band.low is None or value >= band.low - OFF_DIGITS
        high = band.high is None or value <= band.high + OFF_DIGITS
        verdict = "noted" if not bounded else "meets" if low and high else "off"
    return Ask(
        key=key, label=band.label, unit=band.unit, digits=band.digits, low=_plain(band.low), expected=_plain(band.expected),
        high=_plain(band.high),
        why=band.why, channel=band.channel, derived=band.derived, value=value, verdict=verdict, live_at=done.live.get(key, ""),
    )  # fmt: skip


def _plain(value: float | None) -> float | None:
    return None if value is None or not np.isfinite(value) else float(value)


def tails_of(job: Job, house: Expected, live: Mapping[str, float]) -> dict[str, Tails]:
    """Tails as they were taken, by emitter; rooms as taken, else as the plant's thermometers say."""
    step = job.fire_up.steps.get("emitters", Step()).values
    rooms = {}
    for e, key in enumerate(house.house.emitters):
        room = house.house.rooms[house.house.house.emitters.room[e]]
        rooms[key] = step.get(f"room/{room}", live.get(f"room:{room}"))
    return {
        key: Tails(step.get(f"tail/{key}/flow"), step.get(f"tail/{key}/return"), rooms[key], step.get(f"turns/{key}"))
        for key in house.house.emitters
    }


def _balance(job: Job, expected: Expected | None, live: Mapping[str, float]) -> Balance:
    if expected is None:
        return Balance(emitters=[], moves=[], sentence="", worst_before=None, worst_after=None)
    return balance(expected, tails_of(job, expected, live), job.practice.lockshield)


def _sentence(missing: str, steps: list[StepFound], hot: bool) -> str:
    if missing:
        return f"{missing} Until then the steps stand without what is expected of this house."
    off = [one for one in steps if one.needs_reason]
    if off:
        more = f" and {len(off) - 1} more" if len(off) > 1 else ""
        return f"**{off[0].label}** was done with something off its band: say why, or put it right{more}."
    left = [one for one in steps if one.state == "open"]
    if not left:
        return "**Every step is done, not needed or waits for its day.** Sign the record."
    waiting = sum(1 for one in left if one.waits)
    tail = f"; {waiting} of them wait for cold" if hot and waiting else ""
    return f"Next: **{left[0].label}**. {len(left)} of {len(steps)} steps are open{tail}."


def _notes(job: Job, house: House) -> list[str]:
    out = []
    wanted = direct_flow_lph(house)
    tried = job.fire_up.steps.get("direct", Step()).values.get("direct/flow_lph")
    if wanted and tried:
        out.append(f"Direct running: predicted {wanted:.0f} L/h, measured {tried:.0f} L/h.")
    if house.expected is not None and not house.expected.house.house.hot_water.at_h.size:
        out.append("No hot water is made by this machine, as designed: its steps are left out.")
    if job.fire_up.second_visit:
        out.append(f"Second visit: {job.fire_up.second_visit}.")
    return out
