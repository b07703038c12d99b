"""The correction desk: from what was seen of a house to the one step to take, why, and when to look again."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass, replace
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np
from numpy.typing import NDArray

from cinder.design.curve.fit import warm_k
from cinder.design.judgement import design as judged
from cinder.design.kept import Kept
from cinder.field import say
from cinder.field.causes import KINDS
from cinder.field.diagnosis import MEANS_K, NOT_FOLLOWED, SHAPES, SUN_MEANS_K, UNDECIDED, Diagnosis, diagnose
from cinder.field.expected import Expected, expected_of
from cinder.field.looks import looks_of
from cinder.field.result import Chance, CorrectionFound, CurveStep, Point, RoomSeen
from cinder.field.seen import Seen
from cinder.library import HourlyYear
from cinder.model import Job
from cinder.physics.climate.weather import HOURS
from cinder.physics.machine import curve as law
from cinder.physics.quantity import Array
from cinder.twin.of_job import lacks

MOST_STEP_K = 2.0
"""No more at once, K of water (common practice)."""
LEAST_RANGE_K = 5.0
"""Looks that lie closer together than this say little about what lies beyond them."""
USUAL_SUN_W_M2 = 60.0
WARM_AT_ONCE_K = 1.0
WAITS_DAYS = (1, 3)


@dataclass(frozen=True, slots=True)
class Log:
    """Readings by the hour from one source (N,): `at` the end of each hour, universal time; channels as arrays, NaN where unknown.

    `room_c` (N, R) and `return_c` (N, E) in the order of the house's rooms and emitters.
    """

    label: str
    at: NDArray[np.datetime64]
    outdoor_c: Array
    flow_c: Array
    wanted_c: Array
    sun_w_m2: Array
    room_c: Array
    feed_c: Array
    return_c: Array


def judge(job: Job, year: HourlyYear | None, logs: Sequence[Log] = (), *, kept: Kept | None = None) -> CorrectionFound:
    """What was seen of the scheme's house, by hand and by readings, and what to do about its line."""
    kept = kept or Kept()
    if missing := lacks(job, judged(job, kept)):
        return nothing(missing)
    house = expected_of(job, year, kept=kept)
    zone = zone_of(job)
    sources: list[tuple[str, Seen, list[str]]] = []
    if job.fire_up.observations:
        sources.append(("by hand", *_by_hand(job, house, year, zone)))
    for log in logs:
        seen, at = _by_log(house, log, zone)
        sources.append((log.label, seen, at))
    curve = house.house.design.curve
    assert curve.cold_out_c is not None
    assert curve.mild_out_c is not None
    begin = _begin(job, house, curve.cold_out_c, curve.mild_out_c)
    rows = sum(len(seen.outdoor_c) for _, seen, _ in sources)
    if not rows:
        return nothing(
            "No look at the running house yet: note one by hand, bring a file of readings, or read the plant live.",
            begin=begin, school=_school(job), constant_h=constant_h(house),
        )  # fmt: skip
    seen = _together([one for _, one, _ in sources])
    names = [(name, when) for name, _, moments in sources for when in moments]
    seen = replace(seen, set_c=_set_then(job, seen.air_c, [when for _, when in names]))
    try:
        found = diagnose(house, seen, cold_c=curve.cold_out_c, mild_c=curve.mild_out_c)
    except ValueError as why:
        return nothing(str(why), begin=begin, school=_school(job), constant_h=constant_h(house))
    return _shown(job, house, seen, names, found, begin, curve.cold_out_c, curve.mild_out_c)


def nothing(
    why: str, *, begin: CurveStep | None = None, school: str = "", constant_h: float | None = None
) -> CorrectionFound:
    """Where there is nothing to weigh, and what it lacks."""
    return CorrectionFound(
        lacks=why, sentence=why, verdict=UNDECIDED, label=say.LABELS[UNDECIDED], certain=False, chance=0.0, chances=[], reasons=[], test="",
        step=None, cold_k=None, mild_k=None, cold_sd_k=None, mild_sd_k=None, wait_days=WAITS_DAYS[-1], wait="", constant_h=constant_h, looks=0,
        points=[], rooms=[], beside=[], school=school, begin=begin,
    )  # fmt: skip


def constant_h(house: Expected) -> float:
    """The house's time constant, hours: what air and mass hold over what the house loses a kelvin, all rooms together."""
    rooms = house.house.house.rooms
    loses = float(rooms.slope_w_k.sum() - rooms.trade_w_k.sum())
    return float((rooms.air_j_k + rooms.mass_j_k).sum()) / max(loses, 1.0) / 3600.0


def wait_days(hours: float) -> int:
    """Days until a step shows whole enough to look again."""
    return int(min(max(round(1.5 * hours / 24.0), WAITS_DAYS[0]), WAITS_DAYS[1]))


def _by_hand(job: Job, house: Expected, year: HourlyYear | None, zone: dt.tzinfo) -> tuple[Seen, list[str]]:
    """Looks by hand, in order of time; two of one moment are one (the later said)."""
    rooms = {one: n for n, one in enumerate(house.house.rooms)}
    emitters = {one: n for n, one in enumerate(house.house.emitters)}
    by_moment = {
        one.at: one for _, one in sorted(job.fire_up.observations.items(), key=lambda pair: (pair[1].pos, pair[0]))
    }
    looks = sorted(by_moment.values(), key=lambda one: dt.datetime.fromisoformat(one.at))
    count = len(looks)
    room_c, spread = np.full((count, len(rooms)), np.nan), np.full((count, len(emitters)), np.nan)
    sun_day, bright = np.zeros(count), np.full(count, np.nan)
    air = np.array([_or_nan(one.outdoor_c) for one in looks])
    flow = house.emitters_c(np.array([_or_nan(one.flow_c) for one in looks]), air)
    for j, one in enumerate(looks):
        for key, value in one.rooms.items():
            if key in rooms:
                room_c[j, rooms[key]] = value
        for key, value in one.tails.items():
            if key in emitters:
                spread[j, emitters[key]] = flow[j] - value
        sun_day[j] = _usual_sun(year, dt.datetime.fromisoformat(one.at).astimezone(zone))
        if one.bright is not None:
            bright[j] = 1.0 if one.bright else 0.0
    unknown = np.full(count, np.nan)
    return Seen(air, flow, unknown, room_c, spread, bright, sun_day, air, unknown, flow), [one.at for one in looks]


def _set_then(job: Job, air_c: Array, moments: list[str]) -> Array:
    """The line as it was set at each look (J,), by what was changed since; NaN where nothing was."""
    changes = sorted(job.fire_up.corrections.values(), key=lambda one: dt.datetime.fromisoformat(one.at))
    out = np.full(len(moments), np.nan)
    for j, moment in enumerate(moments):
        later = [one for one in changes if dt.datetime.fromisoformat(one.at) > dt.datetime.fromisoformat(moment)]
        if later:
            one = later[0]
            line = law.TwoPoint(one.cold_out_c, one.cold_before_c, one.mild_out_c, one.mild_before_c, 10.0, 90.0)
            out[j] = float(law.flow_at(line, outdoor_c=air_c[[j]])[0])
    return out


def _or_nan(value: float | None) -> float:
    return value if value is not None else float("nan")


def _usual_sun(year: HourlyYear | None, at: dt.datetime) -> float:
    """Sun on the level, the mean of the fortnight about a day, of the climate's year."""
    if year is None:
        return USUAL_SUN_W_M2
    hour = (at.timetuple().tm_yday - 1) * 24
    return float(np.asarray(year.ghi_w_m2)[np.arange(hour - 168, hour + 168) % HOURS].mean())


def _by_log(house: Expected, log: Log, zone: dt.tzinfo) -> tuple[Seen, list[str]]:
    moments = [
        dt.datetime.fromtimestamp(float(one.astype("datetime64[s]").astype(np.int64)), tz=dt.UTC) for one in log.at
    ]
    # the hour that ended then, on the house's clock
    hour = np.array([(one.astimezone(zone) - dt.timedelta(minutes=30)).hour for one in moments], dtype=np.intp)
    flow, wanted = (house.emitters_c(of, log.outdoor_c) for of in (log.flow_c, log.wanted_c))
    feed = np.where(np.isfinite(log.feed_c), log.feed_c, flow[:, None])
    seen, rows = looks_of(
        hour, log.outdoor_c, flow, wanted, log.room_c, feed - log.return_c, log.sun_w_m2,
        constant_h=constant_h(house),
    )  # fmt: skip
    return seen, [moments[row[-1]].isoformat().replace("+00:00", "Z") for row in rows]


def _together(parts: Sequence[Seen]) -> Seen:
    names = ("outdoor_c", "flow_c", "wanted_c", "room_c", "spread_k", "sun", "sun_w_m2", "air_c", "set_c", "water_c")
    joined = Seen(*(np.concatenate([getattr(one, name) for one in parts]) for name in names))
    usual = np.where(np.isfinite(joined.sun_w_m2), joined.sun_w_m2, USUAL_SUN_W_M2)
    return replace(joined, sun_w_m2=usual)


def _begin(job: Job, house: Expected, cold_c: float, mild_c: float) -> CurveStep | None:
    """Where the company starts low: the line so much cooler, until the first correction or a person's own figures."""
    practice = job.practice
    if practice.curve_start != "low" or job.fire_up.corrections or house.line != house.control_line:
        return None
    cold, mild = (float(one) for one in law.flow_at(house.line, outdoor_c=np.array([cold_c, mild_c])))
    lower = practice.curve_start_k
    return CurveStep(
        cold_out_c=cold_c, mild_out_c=mild_c, cold_before_c=cold, mild_before_c=mild, cold_after_c=max(cold - lower, 20.0),
        mild_after_c=max(mild - lower, 20.0),
        says=f"Begin {lower:g} K cooler than designed, {say.c(cold - lower)} at {say.c(cold_c)} outside, and raise it bit by bit "
        "while people live in it.",
    )  # fmt: skip


def _school(job: Job) -> str:
    if job.practice.curve_start == "low":
        return f"Started low: {job.practice.curve_start_k:g} K under the designed line, then raised by what is seen."
    return "Started at the designed line, then corrected by what is seen."


def _step(job: Job, house: Expected, found: Diagnosis, cold_c: float, mild_c: float) -> CurveStep | None:
    """At most 2 K at either end, in the controller's own steps, and nothing where instruments cannot tell."""
    scheme = job.schemes[job.active_scheme or ""]
    grain = scheme.control.step_k
    before = law.flow_at(house.control_line, outdoor_c=np.array([cold_c, mild_c]))
    wants = np.array([found.cold_k, found.mild_k])
    signs = next(pair for pair, name in SHAPES.items() if name == found.verdict)
    moves = np.array([sign * min(abs(want), MOST_STEP_K) for sign, want in zip(signs, wants, strict=True)])
    grains = np.maximum(np.round(np.abs(moves) / grain), 1.0) * grain * np.sign(moves)
    after = np.clip(before + grains, 20.0, 75.0)
    if (np.abs(after - before) < 1e-9).all():
        return None
    said = [
        f"{say.c(b)} to {say.c(a)} at {say.c(out)} outside"
        for b, a, out in zip(before, after, (cold_c, mild_c), strict=True)
        if abs(a - b) > 1e-9
    ]
    return CurveStep(
        cold_out_c=cold_c, mild_out_c=mild_c, cold_before_c=float(before[0]), mild_before_c=float(before[1]), cold_after_c=float(after[0]),
        mild_after_c=float(after[1]), says=f"Water from {' and '.join(said)}.",
    )  # fmt: skip


def _shown(
    job: Job,
    house: Expected,
    seen: Seen,
    names: list[tuple[str, str]],
    found: Diagnosis,
    begin: CurveStep | None,
    cold_c: float,
    mild_c: float,
) -> CorrectionFound:
    room = house.house.view.rooms[found.room].name if found.room is not None else ""
    hours = constant_h(house)
    wait = wait_days(hours)
    line_verdict = found.verdict in SHAPES.values() and found.verdict != "right"
    step = _step(job, house, found, cold_c, mild_c) if line_verdict else None
    asked = np.where(np.isfinite(seen.wanted_c), seen.wanted_c, seen.water_c)
    part = np.clip((mild_c - seen.air_c) / max(mild_c - cold_c, 1.0), -0.5, 1.5)
    should = law.flow_at(house.control_line, outdoor_c=seen.air_c) + found.cold_k * part + found.mild_k * (1.0 - part)
    points = [
        Point(
            id=f"{n}", at=when, source=source, outdoor_c=float(seen.air_c[n]), flow_c=float(asked[n]), should_c=float(should[n]),
            left_out=_odd(house, found, n),
        )
        for n, (source, when) in enumerate(names)
        if np.isfinite(seen.air_c[n]) and np.isfinite(asked[n])
    ]  # fmt: skip
    chances = sorted(((key, value) for key, value in found.chances.items() if value >= 0.02), key=lambda pair: -pair[1])
    return CorrectionFound(
        lacks="", sentence=_sentence(found, room, step, wait), verdict=found.verdict, label=say.LABELS[found.verdict],
        certain=found.verdict != UNDECIDED, chance=found.chance,
        chances=[Chance(key=key, label=say.LABELS[key], chance=value) for key, value in chances[:5]],
        reasons=_reasons(house, seen, found, room, cold_c, mild_c), test=_test(found, chances),
        step=step, cold_k=found.cold_k, mild_k=found.mild_k, cold_sd_k=found.cold_sd_k, mild_sd_k=found.mild_sd_k, wait_days=wait,
        wait=f"Then leave it for {say.days(wait)}: this house answers with a time constant of {hours:.0f} h.", constant_h=hours,
        looks=len(points), points=points, rooms=_rooms(house, seen, found), beside=_beside(job, house, seen, found), school=_school(job),
        begin=begin,
    )  # fmt: skip


def _odd(house: Expected, found: Diagnosis, n: int) -> str:
    names = [house.house.view.rooms[r].name for r in np.nonzero(found.odd[n])[0]]
    return f"{', '.join(names)} strayed from its habit: a window, or guests" if names else ""


def _sentence(found: Diagnosis, room: str, step: CurveStep | None, wait: int) -> str:
    if found.verdict == "right":
        return "**The line is right**: at both ends the water is within what instruments can tell."
    if found.verdict == NOT_FOLLOWED:
        side = "warmer" if found.strays_k > 0 else "cooler"
        return (
            f"**The controller does not follow its line**: it asks for water {say.k(found.strays_k)} {side} than it was told. "
            "First find out why."
        )
    if found.verdict == UNDECIDED:
        return "**Not decided yet**: more than one cause would look like this. Touch nothing; make the one test below, or look again."
    if found.verdict in KINDS:
        return _of_room(found, room)
    assert found.verdict in say.LINE
    return f"**{say.LINE[found.verdict]}**" + (f" {step.says} Then wait {say.days(wait)}." if step else "")


def _of_room(found: Diagnosis, room: str) -> str:
    assert found.room is not None
    swing = found.swing_k[found.room]
    said = say.ROOM[found.verdict].format(room=f"**{room}**", wide="colder than it should", swing=f"{swing:.1f}")
    return said


def _reasons(house: Expected, seen: Seen, found: Diagnosis, room: str, cold_c: float, mild_c: float) -> list[str]:
    air = seen.air_c[np.isfinite(seen.air_c)]
    out = [
        f"{len(air)} {'look' if len(air) == 1 else 'looks'}, between {say.c(float(air.min()))} and {say.c(float(air.max()))} outside."
    ]
    for at, by, sd in ((cold_c, found.cold_k, found.cold_sd_k), (mild_c, found.mild_k, found.mild_sd_k)):
        side = "warmer" if by > 0 else "cooler"
        means = f"{say.k(by)} {side}" if abs(by) > MEANS_K else "as it is"
        out.append(
            f"At {say.c(at)} outside the water would be right {means} (by {by:+.1f} ± {sd:.1f} K).".replace("+-", "-")
        )
    if float(np.ptp(air)) < LEAST_RANGE_K:
        out.append(
            "The looks lie close together: what the line does elsewhere is a guess. Look again when it is colder or milder."
        )
    if found.room is not None:
        off = found.residual_k[:, found.room]
        known = np.isfinite(off)
        if known.any() and found.verdict != "sun":
            middle = float(np.median(off[known]))
            out.append(
                f"{room} lies {say.k(middle)} {'below' if middle < 0 else 'above'} what is expected of it at this water."
            )
        mine = found.spread_ratio[house.house.house.emitters.room == found.room]
        mine = mine[np.isfinite(mine)]
        if len(mine):
            out.append(f"The spread of its water is {float(mine.max()):.1f} times what is expected.")
    left = int(found.odd.sum())
    if left:
        out.append(f"{left} readings of single rooms left out: a window open, or guests.")
    return out


def _test(found: Diagnosis, chances: list[tuple[str, float]]) -> str:
    if found.verdict in say.TESTS:
        return say.TESTS[found.verdict]
    if found.verdict != UNDECIDED:
        return ""
    tested = [key for key, _ in chances[:2] if key in say.TESTS]
    return (
        say.TESTS[tested[0]]
        if tested
        else "Look once more in other weather: a cold morning tells slope from level, a mild one the mild end."
    )


def _rooms(house: Expected, seen: Seen, found: Diagnosis) -> list[RoomSeen]:
    out = []
    target = house.balance.rooms.target_c
    emitter_room = house.house.house.emitters.room
    for r, room in enumerate(house.house.view.rooms):
        known = np.isfinite(seen.room_c[:, r]) & ~found.odd[:, r]
        if not house.heated[r] and not known.any():
            continue
        middle = float(np.median(seen.room_c[known, r])) if known.any() else None
        off = found.residual_k[known & np.isfinite(found.residual_k[:, r]), r]
        ratios = found.spread_ratio[emitter_room == r]
        ratios = ratios[np.isfinite(ratios)]
        swing = float(found.swing_k[r])
        out.append(
            RoomSeen(
                id=room.id, label=room.name, target_c=float(target[r]), looks=int(known.sum()), seen_c=middle,
                off_target_k=middle - float(target[r]) if middle is not None else None,
                off_expected_k=float(np.median(off)) if len(off) else None, spread_ratio=float(ratios.max()) if len(ratios) else None,
                swing_k=swing if np.isfinite(swing) else None,
            )
        )  # fmt: skip
    return out


def _beside(job: Job, house: Expected, seen: Seen, found: Diagnosis) -> list[str]:
    """What else is worth a word, whatever the verdict."""
    out = []
    if found.verdict != "sun":
        for r in np.nonzero(np.nan_to_num(found.swing_k) > SUN_MEANS_K)[0]:
            out.append(
                f"{house.house.view.rooms[r].name} gets {found.swing_k[r]:.1f} K warmer in the sun: a valve there, not the line."
            )
    most = warm_k(job.schemes[job.active_scheme or ""].control)
    if found.verdict == "right":
        for one in _rooms(house, seen, found):
            if one.off_target_k is not None and one.off_target_k > most + WARM_AT_ONCE_K:
                out.append(
                    f"{one.label} floats {one.off_target_k:.1f} K above its target, as expected of an open emitter: a valve there."
                )
    missing = [one.label for one in _rooms(house, seen, found) if not one.looks]
    if missing:
        out.append(f"Nobody looked at {', '.join(missing[:6])}{' and others' if len(missing) > 6 else ''}.")
    return out


def zone_of(job: Job) -> dt.tzinfo:
    """The house's clock; universal time where its name is not known here."""
    try:
        return ZoneInfo(job.time_zone)
    except (ZoneInfoNotFoundError, ValueError):
        return dt.UTC
