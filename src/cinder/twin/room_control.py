"""The room controller: what to set for this house, and why, found by running it."""

from __future__ import annotations

from cinder.design.house.tariff import mean_minor_per_kwh
from cinder.model import Job
from cinder.model.scheme import RoomRule
from cinder.twin.absences import in_words
from cinder.twin.bought import Worth, worth_of
from cinder.twin.result import Absence, AbsencesFound, RoomAdvice, RoomControlFound, Scenario, TwinFound

WORTH = 0.03
"""A night must save this part of what the year costs to be worth its cool mornings (our choice)."""
SHORT_H = 150.0
"""Room hours short a year that are put up with for it (our choice)."""
CREDIT_DAYS = 3


def judge(job: Job, found: TwinFound, away: AbsencesFound) -> RoomControlFound:
    """Advice from the year that was run (`found`) and from absences at rest (`away`)."""
    missing = away.lacks or found.lacks
    if missing:
        return RoomControlFound(**{**dict(away), "lacks": missing}, sentence=missing, advice=[])
    rows = {row.key: row for row in found.rows}
    rule, worth = job.schemes[job.active_scheme or ""].control.room, worth_of(job)
    advice = [
        _who(rows, away.room, worth), _night(rows, worth), _away(away, worth), _offset(rows, worth), _boost(away.absences, rule),
        _credit(job, away.a_day_kwh),
    ]  # fmt: skip
    return RoomControlFound(**dict(away), sentence=_sentence(advice, away.absences), advice=advice)


def _who(rows: dict[str, Scenario], room: str, worth: Worth) -> RoomAdvice:
    now, other = rows["now"], rows["thermostat"]
    saves = _saves(now, other, worth)
    if other.short_h > now.short_h + SHORT_H:
        worst = other.coldest_room or "others"
        why = f"a thermostat in {room} stops the water for every room as soon as that one is warm: {worst} would lie up to "
        why += f"{other.coldest_k:.1f} K short, {other.starts_a_day:.1f} starts a day for {now.starts_a_day:.1f}; what it saves "
        why += f"({saves}) is their warmth"
        return RoomAdvice(
            key="who", label="Who is in charge", set_to="the curve; the thermostat as a limit 1 K above", why=why
        )
    if now.cost_minor - other.cost_minor > WORTH * now.cost_minor:
        why = f"the line alone keeps rooms warmer than asked for; a thermostat in {room} saves {saves} a year and no room "
        why += "falls short for it"
        return RoomAdvice(
            key="who", label="Who is in charge", set_to=f"a thermostat in {room}, the curve behind it", why=why
        )
    return RoomAdvice(
        key="who",
        label="Who is in charge",
        set_to="the curve",
        why="a thermostat on top would save little and start the machine more often",
    )


def _saves(now: Scenario, other: Scenario, worth: Worth, share: float = 1.0) -> str:
    """What the other way saves, in words."""
    return worth.words((now.bought_kwh - other.bought_kwh) * share, (now.cost_minor - other.cost_minor) * share)


def _night(rows: dict[str, Scenario], worth: Worth) -> RoomAdvice:
    now = rows["now"]
    for key, said in (("off", "off from 22 to 5"), ("setback", "5 K off the water from 22 to 6")):
        other = rows[key]
        if now.cost_minor - other.cost_minor > WORTH * now.cost_minor and other.short_h <= now.short_h + SHORT_H:
            why = f"saves {_saves(now, other, worth)} a year, and rooms are warm again by morning"
            return RoomAdvice(key="night", label="Nights", set_to=said, why=why)
    other = rows["setback"]
    why = f"5 K off the water would save {_saves(now, other, worth)} a year and leave rooms short for "
    why += f"{other.short_h - now.short_h:.0f} room hours more; the machine then makes up for it in the coldest hours"
    return RoomAdvice(key="night", label="Nights", set_to="as by day", why=why)


def _away(away: AbsencesFound, worth: Worth) -> RoomAdvice:
    cold, away_c, room = next(one for one in away.absences if one.hours == 168), away.away_c, away.room
    lead = (
        "is not warm again within two days of starting"
        if cold.lead_h is None
        else f"is warm again {in_words(cold.lead_h)} after starting"
    )
    why = (
        f"after a week at {cold.outdoor_c:.0f} °C outside {room} has come down to {cold.falls_to_c:.1f} °C and {lead}; "
    )
    why += f"that saves {worth.words(cold.saved_kwh, cold.saved_minor)}. Never off: pipes freeze and walls grow damp"
    return RoomAdvice(key="away", label="Holidays", set_to=f"held at {away_c:.0f} °C", why=why.replace("-", "−"))


def _offset(rows: dict[str, Scenario], worth: Worth) -> RoomAdvice:
    now, up, down = rows["now"], rows["warmer"], rows["cooler"]
    dearer, cheaper = (up.cost_minor - now.cost_minor) / 5, (now.cost_minor - down.cost_minor) / 3
    why = f"a kelvin warmer costs {_saves(up, now, worth, 1 / 5)} a year, a kelvin cooler saves {_saves(now, down, worth, 1 / 3)}"
    why += (
        ": the machine gets better as it gets cooler"
        if dearer > cheaper
        else ": here the warmth that is let go counts for more than the machine"
    )
    return RoomAdvice(key="offset", label="Warmer and cooler", set_to="1 K at a time, then wait two days", why=why)


def _boost(absences: list[Absence], rule: RoomRule) -> RoomAdvice:
    day = absences[0]
    hours = rule.boost_hours if rule.boost_hours is not None else 2.0
    why = (
        f"after {day.label} away the house needs {in_words(day.lead_h)} to be warm again on the coldest day"
        if day.lead_h is not None
        else "on the coldest day there is nothing left to boost with"
    )
    return RoomAdvice(
        key="boost", label="Boost", set_to=f"{hours:g} h at the most", why=f"{why}; more water for longer only costs"
    )


def _credit(job: Job, a_day_kwh: float) -> RoomAdvice:
    price = mean_minor_per_kwh(job)
    amount = a_day_kwh * price / 100
    if job.tariff.prepaid:
        said = f"at least {amount * CREDIT_DAYS:.0f} {job.currency} before going away"
        why = f"holding the house takes up to {a_day_kwh:.0f} kWh ({amount:.1f} {job.currency}) a day in the cold; without credit the water "
        why += "outdoors stands still and freezes"
    else:
        said = "the supply left on through absences"
        why = f"holding the house takes up to {a_day_kwh:.0f} kWh a day in the cold; without power the water outdoors stands still and freezes"
    return RoomAdvice(key="credit", label="Power", set_to=said, why=why)


def _sentence(advice: list[RoomAdvice], absences: list[Absence]) -> str:
    day = absences[0]
    lead = (
        f"must start **{in_words(day.lead_h)}** before people come home"
        if day.lead_h is not None
        else "cannot warm up again within two days"
    )
    said = f"In charge: **{advice[0].set_to}**. Nights: **{advice[1].set_to}**."
    said += f" After a working day at {day.outdoor_c:.0f} °C outside the house {lead}."
    return said.replace("-", "−")
