"""Everybody away and back, at rest in the cold and in mild weather; and what the people of the house read about living with it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.design.judgement import design as judged
from cinder.design.kept import Kept
from cinder.model import Job
from cinder.model.scheme import RoomRule
from cinder.physics.quantity import Array
from cinder.twin import loop
from cinder.twin.bought import Bought, bought
from cinder.twin.of_job import NIGHT_H, Twin, lacks, reference_room, twin_of
from cinder.twin.parts import HotWater, House, Weather
from cinder.twin.result import Absence, AbsencesFound

AWAY_C = 16.0
STEP_S = 300.0
SETTLED_DAYS = 14
RECOVERS_H = 48
NEAR_K = 0.3
ABSENCES = (("a working day", 9), ("a weekend", 48), ("a week", 168))
MILD_C = 7.0
LUKEWARM_C = 45.0
"""Water no warmer than this on an ordinary day feels lukewarm at an emitter (our choice)."""


def judge(job: Job, kept: Kept | None = None) -> AbsencesFound:
    """Absences of a working day, a weekend and a week on the design day and on a mild one; no year is run for it."""
    kept = kept or Kept()
    missing = lacks(job, judged(job, kept))
    if missing:
        return AbsencesFound(
            lacks=missing, room="", target_c=0.0, away_c=AWAY_C, absences=[], a_day_kwh=0.0, occupant=[]
        )
    twin = twin_of(job, kept=kept)
    rule = job.schemes[job.active_scheme or ""].control.room
    away_c = rule.away_c if rule.away_c is not None else AWAY_C
    key = reference_room(twin.view)
    at = twin.rooms.index(key)
    name, target = twin.view.rooms[at].name, float(twin.house.rooms.target_c[at])
    design_c = twin.design.house.outdoor_c if twin.design.house.outdoor_c is not None else -3.0
    absences: list[Absence] = []
    held_kwh = 0.0
    for outdoor in (design_c, MILD_C):
        rest = _rest(twin, outdoor)
        for label, hours in ABSENCES:
            one, a_day = _absence(twin, rest, outdoor, label, hours, at, away_c)
            absences.append(one)
            held_kwh = max(held_kwh, a_day)
    return AbsencesFound(
        lacks="", room=name, target_c=target, away_c=away_c, absences=absences, a_day_kwh=held_kwh,
        occupant=_plain(twin, rule, name, target, absences, contact=job.handover.contact),
    )  # fmt: skip


def _still(twin: Twin, outdoor: float, hours: float, *, home: bool = True) -> Weather:
    """The same air throughout, no sun; people as in the year, or nobody."""
    steps = round(hours * 3600 / STEP_S)
    people = twin.view.practice.people_w_per_m2 if home and twin.view.practice.year_gains != "none" else 0.0
    gains = np.broadcast_to(twin.area_m2 * people, (steps, len(twin.rooms)))
    return Weather(
        STEP_S,
        np.full(steps, outdoor),
        np.zeros(steps),
        np.zeros((steps, len(twin.rooms))),
        np.ascontiguousarray(gains),
        0.0,
    )


@dataclass(frozen=True, slots=True)
class Rest:
    """The house at rest at one outdoor temperature: its state, and what it takes an hour."""

    state: loop.State
    an_hour: Bought
    room_c: Array


def _plainly(twin: Twin) -> House:
    """Without hot water, which is drawn by people whatever the heating does, and without the night."""
    none = np.zeros(0)
    control = twin.house.control._replace(setback_k=0.0)
    return twin.house._replace(hot_water=HotWater(none, none, 50.0), control=control)


def _rest(twin: Twin, outdoor: float) -> Rest:
    house = _plainly(twin)
    _, state, _ = loop.run(
        house, _still(twin, outdoor, SETTLED_DAYS * 24), loop.start(house, supply_c=35.0, outdoor_c=outdoor)
    )
    series, state, sums = loop.run(house, _still(twin, outdoor, 24), state)
    return Rest(state, bought(twin, sums).times(1 / 24), series.room_c.mean(axis=0))


def _absence(
    twin: Twin, rest: Rest, outdoor: float, label: str, hours: int, at: int, away_c: float
) -> tuple[Absence, float]:
    """Away for so long, and back: with what is drawn on a day that is held at the lower temperature."""
    house = _plainly(twin)
    held = house._replace(
        control=house.control._replace(thermostat=at, thermostat_c=away_c),
        emitters=house.emitters, rooms=house.rooms._replace(target_c=np.minimum(house.rooms.target_c, away_c)),
    )  # fmt: skip
    gone, state, away = loop.run(held, _still(twin, outdoor, hours, home=False), rest.state)
    again = state.plain.copy()
    again[loop.CALLED] = 1.0
    back, _, warm = loop.run(
        house, _still(twin, outdoor, RECOVERS_H, home=False), loop.State(state.room_c, state.emitter_c, again)
    )
    wanted = min(float(rest.room_c[at]), float(house.rooms.target_c[at])) - NEAR_K
    reached = np.nonzero(back.room_c[:, at] >= wanted)[0]
    lead = float((reached[0] + 1) * STEP_S / 3600) if len(reached) else None
    saved = rest.an_hour.times(hours + RECOVERS_H).less(bought(twin, away, warm))
    last = gone.electric_w[-round(min(hours, 24) * 3600 / STEP_S) :]
    one = Absence(
        label=label, hours=hours, outdoor_c=outdoor, falls_to_c=float(gone.room_c[-1, at]), lead_h=lead, saved_kwh=saved.kwh,
        saved_minor=saved.cost_minor,
    )  # fmt: skip
    return one, float(last.mean()) * 24 / 1000 if hours >= 48 else 0.0


def in_words(hours: float | None) -> str:
    if hours is None:
        return "more than two days"
    if hours >= 3:
        return f"{hours:.0f} h"
    whole, minutes = divmod(round(hours * 60 / 15) * 15, 60)
    return f"{minutes} min" if not whole else f"{whole} h {minutes} min" if minutes else f"{whole} h"


def _plain(twin: Twin, rule: RoomRule, room: str, target: float, absences: list[Absence], *, contact: str) -> list[str]:
    """What an occupant reads: nothing to know beforehand."""
    cold = next(one for one in absences if one.hours == 168)
    lukewarm = float(np.interp(MILD_C, twin.design.curve.outdoor_c, twin.design.curve.line_c)) <= LUKEWARM_C
    out = [
        f"Your heating is {'lukewarm and ' if lukewarm else ''}on for most of the day. That is how it is meant to work.",
        f"{room} is meant to be at about {target:.0f} °C.",
    ]
    if rule.in_charge == "thermostat":
        out.append(
            f"Set the thermostat in {room} to what you want and leave it. Turning it far up does not warm the house sooner."
        )
    else:
        out.append(
            "Leave the heating to its controller, day and night: it does not answer to being turned up and down by hand within a day."
        )
    if rule.setback_k:
        start = rule.night_from_h if rule.night_from_h is not None else NIGHT_H[0]
        end = rule.night_to_h if rule.night_to_h is not None else NIGHT_H[1]
        out.append(f"At night, from {start:g} to {end:g}, it goes down a little by itself.")
    cross = rule.least_c is not None and rule.greatest_c is not None and rule.least_c > rule.greatest_c
    if (
        rule.least_c is not None or rule.greatest_c is not None
    ) and not cross:  # limits that cross are a finding, no instruction
        low = f"from {rule.least_c:.0f} " if rule.least_c is not None else ""
        high = f"up to {rule.greatest_c:.0f} °C" if rule.greatest_c is not None else "°C upwards"
        out.append(f"You can set it {low}{high}; your landlord has set these limits.")
    out.append(
        "If you are too warm or too cool all over the house, change it by one degree and wait two days before you change it again."
    )
    out.append("If only one room is too warm or too cool, leave the heating as it is and call.")
    lead = in_words(cold.lead_h) if cold.lead_h is not None else "two days or more"
    out.append(f"Going away: set it to holiday, never off. In cold weather set it back {lead} before you come home.")
    out.append(
        "Keep the electricity on, and credit on the meter, while you are away: without it the pipes outdoors can freeze."
    )
    if rule.quiet_from_h is not None and rule.quiet_to_h is not None:
        out.append(
            f"From {rule.quiet_from_h:g} to {rule.quiet_to_h:g} the unit outdoors runs quietly and gives a little less."
        )
    out.append("Steam and dripping water at the unit outdoors in cold damp weather are normal.")
    out.append(
        "Do not touch: valves and pumps in the cupboard, the filling tap, the relief valve and its pipe, the unit outdoors."
    )
    call = rule.call.strip() or contact.strip()  # this scheme's own word before the job's
    out.append(
        f"Call {call or '…………………'} if the house stays cold for a day, the pressure is low, or the display shows a fault."
    )
    return out
