"""What to dial in: the fitted setting in the words of its kind of controller, the limits beside it, circuits of their own."""

from __future__ import annotations

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from cinder.design.curve.decide import CurveArrays, Need
from cinder.design.curve.fit import Asked, Fitted, fit, freed
from cinder.design.curve.result import CircuitCurve, Dialled
from cinder.design.house.view import HouseView
from cinder.design.separation.result import Separated
from cinder.model.scheme import Control, Zone
from cinder.physics.machine import curve as law
from cinder.physics.quantity import Array

ROUND_C = 0.5
"""Steps a set-point beside the line is told in (common practice)."""


def rows(control: Control, fitted: Fitted, base: str) -> list[Dialled]:
    """The setting, figure by figure; `base` where the controller stands in the job."""
    found = fitted.setting
    match found:
        case law.TwoPoint():
            return [
                _row("cold", f"Water at {_g(found.cold_out_c)} °C outside", found.cold_flow_c, "°C", f"{base}/cold_flow_c",
                     control.cold_flow_c),
                _row("mild", f"Water at {_g(found.mild_out_c)} °C outside", found.mild_flow_c, "°C", f"{base}/mild_flow_c",
                     control.mild_flow_c),
                _row("mild_out", "Mild point, outside", found.mild_out_c, "°C", f"{base}/mild_out_c", control.mild_out_c),
            ]  # fmt: skip
        case law.SlopeLevel():
            own = control.slope
            return [
                _row("slope", "Slope", found.slope, "", f"{base}/slope/slope", own.slope, digits=_digits(own.slope_step),
                     note="warmer water for every kelvin of colder air: more where it is cold only in cold weather"),
                _row("level", "Level", found.level_k, "K", f"{base}/slope/level_k", own.level_k, digits=_digits(control.step_k),
                     note="the whole line up or down"),
                _row("room", "Wanted room at the controller", found.room_c, "°C", f"{base}/slope/room_c", own.room_c,
                     digits=1, note="moves the line along both axes" if found.room_shifts else "does not move the line here"),
            ]  # fmt: skip
        case law.Numbered():
            dial = control.numbered
            out = [_row("number", "Number of the line", found.number, "", f"{base}/numbered/number", dial.number,
                        digits=_digits(dial.step), note="the nearest of the family to what the rooms need")]  # fmt: skip
            if dial.shifts:
                out.append(_row("level", "Moved up or down", found.level_k, "K", f"{base}/numbered/level_k", dial.level_k,
                                digits=_digits(control.step_k)))  # fmt: skip
            return out
        case law.Moved():
            return [
                _row("offset", "Offset by the button", found.offset_k, "K", f"{base}/offset/offset_k", control.offset.offset_k,
                     digits=_digits(control.step_k), note="the built-in line's steepness stays as it is")
            ]  # fmt: skip
        case law.Fixed():
            two = control.fixed.change_out_c is not None
            out = [_row("fixed", "Water" if not two else f"Water while it is colder than {_g(found.change_out_c)} °C outside",
                        found.flow_c, "°C", f"{base}/fixed/flow_c", control.fixed.flow_c,
                        note="switched by hand or by time" if not two else "changed by hand")]  # fmt: skip
            if two:
                out.append(_row("fixed_mild", "Water while it is milder", found.mild_flow_c, "°C", f"{base}/fixed/mild_flow_c",
                                control.fixed.mild_flow_c))  # fmt: skip
            return out


def limits(
    house: HouseView, control: Control, fitted: Fitted, floors: dict[str, float], separated: Separated, base: str
) -> list[Dialled]:
    """What stands beside the line: its limits, when heating is off, what `floors` bear (by room, deg C), what a separator takes."""
    found = fitted.setting
    out = [
        _row("greatest", "Never above", found.greatest_flow_c, "°C", f"{base}/greatest_flow_c", control.greatest_flow_c),
        _row("least", "Never below", found.least_flow_c, "°C", f"{base}/least_flow_c", control.least_flow_c),
        _row("limit", "Heating off above", house.practice.heating_limit_c, "°C", "/practice/heating_limit_c",
             house.practice.heating_limit_c, note="outside, as the mean of a day where the controller can"),
    ]  # fmt: skip
    if floors:
        least = min(floors, key=lambda room: floors[room])
        out.append(_row("floor", "Floors bear no more than", np.floor(floors[least] / ROUND_C) * ROUND_C, "°C", "", None, digits=1,
                        note=f"{_name(house, least)}: set the floor's own stop there as well"))  # fmt: skip
    if separated.lift_k >= ROUND_C / 2:
        mild = float(separated.lift_at(np.array([fitted.mild_out_c]))[0])
        out.append(_row("buffer", f"Behind {separated.label}, above the line", np.ceil(separated.lift_k / ROUND_C) * ROUND_C,
                        "K", "", None, digits=1, note=f"at the cold end; {mild:.1f} K at the mild one; none where its sensor "
                        "measures the emitters' own water"))  # fmt: skip
    return out


def circuits(
    house: HouseView, curve: CurveArrays, need: Need, asks: Array, over: Array, base: str
) -> list[CircuitCurve]:
    """The circuits behind a blending valve: each with the line its own rooms need, by the same kind of controller.

    `asks` (K, R): what each room asks for; `over` (K, R): how far above its target the house's own line takes it.
    """
    if house.scheme is None or curve.fitted is None:
        return []
    at_room = {room.id: n for n, room in enumerate(house.rooms)}
    out = []
    for key, zone in sorted(house.scheme.zones.items(), key=lambda item: (item[1].pos, item[0])):
        places = np.array([at_room[room] for room in zone.rooms if room in at_room], dtype=int)
        if zone.mixed and places.size:
            found = _circuit(key, zone, places, house, curve, need, asks, over, base)
            if found is not None:
                out.append(found)
    return out


def _circuit(
    key: str, zone: Zone, places: NDArray[np.intp], house: HouseView, curve: CurveArrays, need: Need, asks: Array, over: Array, base: str
) -> CircuitCurve | None:  # fmt: skip
    own = asks[:, places]
    needed = np.where(np.isfinite(own), own, -np.inf).max(axis=1)
    needed = np.where(np.isfinite(needed) & (needed > -np.inf), needed, np.nan)
    main = curve.fitted
    if main is None or not np.isfinite(needed[-1]):
        return None
    control = zone.control if zone.control is not None else freed(curve.control)
    cold = control.cold_flow_c
    if cold is None:
        cold = float(np.ceil(needed[-1] / control.step_k - 1e-6) * control.step_k)
    use = np.isfinite(needed) & ~curve.off & (curve.at_c > main.cold_out_c)
    found = fit(control, Asked(curve.at_c[use], needed[use], np.ones(int(use.sum())), main.cold_out_c, cold, None))
    beyond = np.where(np.isfinite(over[:, places]), over[:, places], -np.inf).max(axis=1)
    beyond[curve.off] = -np.inf
    worst = int(beyond.argmax())
    count = len(curve.outdoor_c)
    line = law.flow_at(found.setting, outdoor_c=curve.outdoor_c)
    where = f"{base.rsplit('/', 1)[0]}/zones/{key}/control"
    return CircuitCurve(
        id=key, label=zone.label or "A circuit of its own", rooms=[house.rooms[n].id for n in places.tolist()],
        needed_c=[None if v != v else round(v, 3) for v in needed[:count].tolist()], line_c=line.tolist(),
        dial=[
            *rows(control, found, where),
            _row("greatest", "Never above", found.setting.greatest_flow_c, "°C", f"{where}/greatest_flow_c", control.greatest_flow_c),
        ],
        over_k=float(beyond[worst]) if np.isfinite(beyond[worst]) else None,
        at_c=float(curve.at_c[worst]) if np.isfinite(beyond[worst]) else None,
    )  # fmt: skip


def _g(value: float) -> str:
    return f"{value:g}".replace("-", "−")


def handles(control: Control, fitted: Fitted) -> list[Literal["cold", "mild"]]:
    """The ends of the line that can be moved by themselves."""
    match fitted.setting:
        case law.Moved():
            return ["cold"]
        case law.Numbered() if not control.numbered.shifts:
            return ["cold"]
        case law.Fixed() if control.fixed.change_out_c is None:
            return ["cold"]
        case _:
            return ["cold", "mild"]


def _name(house: HouseView, room: str) -> str:
    return next((one.name for one in house.rooms if one.id == room), "a room")


def _digits(step: float) -> int:
    """How many digits a controller's step shows."""
    return next((n for n in range(3) if abs(step * 10**n - round(step * 10**n)) < 1e-9), 3)


def _row(
    key: str,
    label: str,
    value: float,
    quantity: Literal["°C", "K", "", "min"],
    path: str,
    own: float | None,
    *,
    digits: int = 0,
    note: str = "",
) -> Dialled:
    return Dialled(
        key=key, label=label, value=float(value), quantity=quantity, digits=digits, path=path, entered=own is not None, note=note
    )  # fmt: skip
