"""The kinds of controller beside each other: each fitted, walked through the whole chain, and said what it costs."""

from __future__ import annotations

from math import isfinite

import numpy as np

from cinder.design.apart.controllers.result import Band, CircuitCost, ControllersFound, KindRow, Shifted
from cinder.design.curve.fit import KINDS, freed
from cinder.design.curve.result import Curve, Dialled
from cinder.design.house.prices import price_minor_per_kwh
from cinder.design.judgement import design as judged
from cinder.design.kept import Kept
from cinder.design.machine.beside import beside, bill_minor
from cinder.design.result import Design
from cinder.model import Job
from cinder.model.scheme import Candidate, Control
from cinder.physics.machine.season import break_even_cop
from cinder.physics.quantity import Array

SHIFTS_K = (-5.0, -2.0, 2.0, 5.0)
BOILERS = ("boiler", "new boiler")
CHECKS_MINUTES = 20.0
"""How long a hybrid waits for the water to rise before it calls the boiler (common practice)."""
TOLD_K = 0.05


def judge(
    job: Job, design: Design, *, loss_range: tuple[float, float] | None = None, kept: Kept | None = None
) -> ControllersFound:
    """Every kind of controller on the scheme shown, and the line moved as a whole.

    `loss_range`: the P10 and the P90 of the house's loss over the figure of the design; without it there is no band.
    """
    scheme, curve = job.schemes.get(job.active_scheme or ""), design.curve
    if scheme is None or curve.cold_flow_c is None or curve.mild_flow_c is None:
        lacks = (
            "As found there is no controller to set: choose a scheme at the top left."
            if scheme is None
            else "Rooms with a loss and emitters, and a climate: then the kinds of controller are compared."
        )
        return ControllersFound(
            sentence=lacks, lacks=lacks, rows=[], shifts=[], band=None, circuits=[], boiler=[], boiler_why="", warm_rooms=[], verdict="",
        )  # fmt: skip
    kept = kept or Kept()
    names = {room.id: room.label for room in design.rooms}
    plain = freed(scheme.control)
    rows = []
    for kind in KINDS:
        chosen = kind == scheme.control.kind
        found = design if chosen else judged(with_control(job, plain.model_copy(update={"kind": kind})), kept)
        rows.append(_row(job, kind, found, chosen, names))
    least = min((row for row in rows if row.bill_minor is not None and not row.lacks), key=_bill, default=None)
    if least is not None:
        rows = [row if row.bill_minor is None or row.lacks else _beside(row, least) for row in rows]
    shifts = [_shifted(job, design, k, names, kept) for k in SHIFTS_K]
    warm = _warm(curve)
    boiler, why = _boiler(job, scheme.control, scheme.candidates.get(scheme.chosen or ""))
    return ControllersFound(
        sentence=_sentence(rows, job.currency if design.season.fuel else ""), lacks="", rows=rows, shifts=shifts,
        band=_band(curve, _house_c(design), loss_range) if loss_range else None,
        circuits=_circuits(job, design, kept), boiler=boiler, boiler_why=why,
        warm_rooms=[names[key] for key in warm], verdict=_verdict(curve, [names[key] for key in warm], names),
    )  # fmt: skip


def with_control(job: Job, control: Control) -> Job:
    """The job with another controller in the scheme shown."""
    key = job.active_scheme or ""
    changed = job.schemes[key].model_copy(update={"control": control})
    return job.model_copy(update={"schemes": {**job.schemes, key: changed}})


def _bill(row: KindRow) -> float:
    return row.bill_minor or 0.0


def _beside(row: KindRow, least: KindRow) -> KindRow:
    """A kind beside the one that costs least."""
    kwh = (row.bought_kwh or 0.0) - (least.bought_kwh or 0.0)
    return row.model_copy(update={"more_kwh": kwh, "more_minor": _bill(row) - _bill(least)})


def _row(job: Job, kind: str, found: Design, chosen: bool, names: dict[str, str]) -> KindRow:
    curve, season = found.curve, found.season
    return KindRow(
        kind=kind, label=KINDS[kind], chosen=chosen, lacks=curve.lacks, dial=curve.dial if not curve.lacks else [],
        line_c=curve.line_c, short_k=curve.short_room_k, short_room=names.get(curve.short_room or "", ""),
        short_at_c=curve.short_at_c, excess_k=curve.excess_k, excess_at_c=curve.excess_at_c, performance=season.performance,
        bought_kwh=season.bought_kwh, bill_minor=bill_minor(job, season), excess_kwh=season.excess_kwh, more_kwh=None, more_minor=None,
        serves=not curve.lacks and (curve.short_room_k or 0.0) <= curve.tolerance_k + TOLD_K, verdict=_of_kind(kind, curve),
    )  # fmt: skip


def _of_kind(kind: str, curve: Curve) -> str:
    """What the kind cannot do on this house, in words."""
    if curve.lacks:
        return curve.lacks
    said = []
    if (curve.short_room_k or 0.0) > curve.tolerance_k + TOLD_K:
        said.append(f"leaves a room {curve.short_room_k:.1f} K short at {curve.short_at_c:.0f} °C outside")
    if kind == "fixed":
        said.append("the same water in mild weather as in frost: valves or people must throttle")
    elif kind == "offset":
        said.append("cannot be made steeper or flatter")
    elif kind == "numbered":
        said.append("only whole steps of its number")
    return "; ".join(said).replace("-", "−") or "serves every room"


def _shifted(job: Job, design: Design, k: float, names: dict[str, str], kept: Kept) -> Shifted:
    """The line of two points moved as a whole; other kinds by the two points they pass."""
    scheme, curve = job.schemes[job.active_scheme or ""], design.curve

    def moved(by: float) -> Control:
        return freed(scheme.control).model_copy(
            update={
                "kind": "two_point", "cold_out_c": curve.cold_out_c, "mild_out_c": curve.mild_out_c,
                "cold_flow_c": (curve.cold_flow_c or 0.0) + by, "mild_flow_c": (curve.mild_flow_c or 0.0) + by,
                "greatest_flow_c": (curve.greatest_flow_c or 0.0) + max(by, 0.0), "least_flow_c": scheme.control.least_flow_c,
            }
        )  # fmt: skip

    now, then = judged(with_control(job, moved(0.0)), kept), judged(with_control(job, moved(k)), kept)
    a, b = now.season.bought_kwh, then.season.bought_kwh
    more = b - a if a is not None and b is not None else None
    was, then_minor = bill_minor(job, now.season), bill_minor(job, then.season)
    return Shifted(
        k=k, kwh=more, minor=then_minor - was if then_minor is not None and was is not None else None,
        share=more / a if more is not None and a else None, short_k=then.curve.short_room_k,
        short_room=names.get(then.curve.short_room or "", ""),
    )  # fmt: skip


def _circuits(job: Job, design: Design, kept: Kept) -> list[CircuitCost]:
    """Every blended circuit against one temperature for all, the others staying as they are.

    What its rooms float above their targets by the house's own line goes outdoors: by their share of the house's loss per kelvin, over the
    climate's hours, at the season's performance.
    """
    key = job.active_scheme or ""
    scheme, out = job.schemes[key], []
    for zone_id, zone in scheme.zones.items():
        if not zone.mixed:
            continue
        plain = scheme.model_copy(update={"zones": {**scheme.zones, zone_id: zone.model_copy(update={"mixed": False})}})
        other = judged(job.model_copy(update={"schemes": {**job.schemes, key: plain}}), kept)
        mine, theirs, performance = (
            design.season.bought_kwh,
            other.season.bought_kwh,
            other.season.performance,
        )
        if mine is None or theirs is None or not performance:
            continue
        warm = _floated_kwh(other, set(zone.rooms)) / performance
        pump = mine - theirs
        net = pump - warm
        says = (
            f"Its pump draws {pump:.0f} kWh a year; by the house's own line its rooms would float warm and cost {warm:.0f} kWh: "
            + (
                f"the circuit costs {net:.0f} kWh a year more than one temperature for all."
                if net > 0
                else f"the circuit saves {-net:.0f} kWh a year."
            )
        )
        out.append(
            CircuitCost(
                id=zone_id,
                label=zone.label or "A circuit of its own",
                pump_kwh=pump,
                warm_kwh=warm,
                net_kwh=net,
                net_minor=net * (bill_minor(job, design.season) or 0.0) / mine,
                says=says,
            )
        )
    return out


def _floated_kwh(design: Design, rooms: set[str]) -> float:
    """Heat a year that rooms lose because the line makes them warmer than they ask for, kWh."""
    curve, outdoor = design.curve, design.house.outdoor_c
    if outdoor is None:
        return 0.0
    heat = 0.0
    for room in design.rooms:
        over = curve.over_k.get(room.id)
        if room.id not in rooms or over is None or not room.room_share_of_house_w:
            continue
        per_k = room.room_share_of_house_w / max(room.target_c - outdoor, 1.0)
        heat += sum(
            hours * max(k or 0.0, 0.0) * per_k
            for hours, k, out in zip(curve.hours, over, curve.outdoor_c, strict=False)
            if out < curve.heating_limit_c
        )
    return heat / 1000.0


def _house_c(design: Design) -> float:
    """The rooms' targets by their floor, deg C."""
    rooms = [(room.area_m2 or 0.0, room.target_c) for room in design.rooms]
    area = sum(one for one, _ in rooms)
    return sum(one * target for one, target in rooms) / area if area else 20.0


def _band(curve: Curve, house_c: float, scales: tuple[float, float]) -> Band:
    """The need of a house that loses so much more or less.

    Such a house needs at an outdoor temperature what this one needs where it is as much further from the rooms: exact where all
    rooms are as warm and everything is lost outdoors (our choice; tested against losses scaled piece by piece).
    """
    out = np.array(curve.outdoor_c)
    need = np.array([np.nan if v is None else v for v in curve.needed_c])
    known = np.isfinite(need)

    def at(scale: float) -> list[float | None]:
        if known.sum() < 2:
            return [None] * len(out)
        like = house_c - scale * (house_c - out)
        found = _beyond(like, out[known], need[known])
        return [None if v != v else round(float(v), 3) for v in np.where(known, found, np.nan).tolist()]

    low, high = sorted(scales)
    return Band(low_c=at(low), high_c=at(high))


def _beyond(x: Array, at: Array, value: Array) -> Array:
    """Straight between the points, and straight on past the first."""
    found = np.interp(x, at, value)
    slope = (value[1] - value[0]) / (at[1] - at[0])
    return np.where(x < at[0], value[0] + slope * (x - at[0]), found)


def _warm(curve: Curve) -> list[str]:
    """Rooms the line makes warmer than is put up with, by id, on any day that is heated."""
    on = [
        n for n, out in enumerate(curve.outdoor_c) if out < curve.heating_limit_c and out >= (curve.cold_out_c or out)
    ]
    return [
        key
        for key, over in curve.over_k.items()
        if max((over[n] or 0.0 for n in on if n < len(over)), default=0.0) > curve.warm_k
    ]


def _verdict(curve: Curve, warm: list[str], names: dict[str, str]) -> str:
    """The line by the customer's word."""
    word = {None: "Nobody has asked the customer yet, so comfort counts first", "comfort": "Comfort first",
            "economy": "Economy first"}[curve.priority]  # fmt: skip
    said = f"{word}: up to {curve.tolerance_k:g} K short and {curve.warm_k:g} K warm are let be."
    short = (curve.short_room_k or 0.0) > curve.tolerance_k + TOLD_K
    if short:
        said += f" **{names.get(curve.short_room or '', 'A room')}** falls further short: raise the line, or give it a larger emitter."
    if warm:
        listed = ", ".join(warm[:3]) + (f" and {len(warm) - 3} more" if len(warm) > 3 else "")
        said += f" Warmer than that on some days: {listed}. Lockshields or valves there, not the curve: another room holds the line."
    if not short and not warm:
        said += " The line keeps within both in every room."
    return said


def _boiler(job: Job, control: Control, candidate: Candidate | None) -> tuple[list[Dialled], str]:
    """What a hybrid's own controller is told: prices, the boiler's efficiency, when it gives up waiting."""
    if candidate is None or candidate.backup.kind not in BOILERS:
        return [], ""
    other = beside(job, candidate.backup)
    electricity, fuel = price_minor_per_kwh(job), price_minor_per_kwh(job, other.fuel)
    worth = break_even_cop(electricity_per_kwh=electricity, fuel_per_kwh=fuel, efficiency=other.efficiency)
    base = f"/schemes/{job.active_scheme}"
    checks = control.boiler.checks_minutes
    rows = [
        _price("electricity", "Electricity", electricity, job.currency),
        _price("fuel", f"Fuel of {other.label}", fuel, job.currency),
        Dialled(key="efficiency", label="Efficiency of the boiler", value=other.efficiency * 100, quantity="", digits=0,
                path=f"{base}/candidates/{job.schemes[job.active_scheme or ''].chosen}/backup/efficiency",
                entered=candidate.backup.efficiency is not None, note="per cent of the fuel's heat"),
        Dialled(key="checks", label="Waits for the water to rise", value=checks if checks is not None else CHECKS_MINUTES,
                quantity="min", digits=0, path=f"{base}/control/boiler/checks_minutes", entered=checks is not None,
                note="then it calls the boiler"),
    ]  # fmt: skip
    said = (
        f"By these the machine is cheaper while its COP is above {worth:.2f}."
        if isfinite(worth)
        else "The fuel costs nothing."
    )
    by = control.boiler.prices_by.strip()
    said += (
        f" {by} enters new prices." if by else " Nobody is named to enter new prices: old ones let the wrong one run."
    )
    return rows, said


def _price(key: str, label: str, minor: float, currency: str) -> Dialled:
    return Dialled(key=key, label=f"{label}, {currency} a kWh", value=minor / 100, quantity="", digits=3, path="", entered=False,
                   note="as in the tariff of this job")  # fmt: skip


def _sentence(rows: list[KindRow], money: str) -> str:
    """`money`: its currency where a fuel is bought too, and kilowatt-hours of two prices say nothing."""

    def told(row: KindRow) -> str:
        return f"{(row.more_minor or 0.0) / 100:.0f} {money}" if money else f"{row.more_kwh or 0.0:.0f} kWh"

    fit = [row for row in rows if row.serves and row.more_kwh is not None]
    chosen = next((row for row in rows if row.chosen), None)
    if not fit or chosen is None:
        return "No kind of controller serves every room here: the limits are too low, or a room lacks an emitter."
    best, worst = min(fit, key=_more), max(fit, key=_more)
    if worst is best:
        return f"**{best.label}** serves these rooms."
    out = f"Of the kinds that serve every room **{_lower(best)}** takes least"
    out += f" and **{_lower(worst)}** most, **{told(worst)}** a year more"
    if not chosen.serves:
        out += f"; {_lower(chosen)}, the one chosen, leaves a room short"
    elif chosen is not best and chosen is not worst and chosen.more_kwh is not None:
        out += f"; the one chosen takes {told(chosen)} more"
    return out + "."


def _lower(row: KindRow) -> str:
    return row.label[0].lower() + row.label[1:]


def _more(row: KindRow) -> float:
    return row.more_minor or 0.0
