"""A job's house as a twin: arrays and plain numbers out of what the design worked out, and the weather of its climate."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.design.chain import CHAIN
from cinder.design.curve.decide import CurveArrays
from cinder.design.emitters.decide import EmitterArrays, Rated
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.kept import Afresh, Kept
from cinder.design.machine.beside import beside_chosen
from cinder.design.machine.load import performance_map, standing_of
from cinder.design.result import Design
from cinder.design.separation.decide import STIRRED
from cinder.design.step import walk
from cinder.design.year.glass import glazing, sun_on
from cinder.library import HourlyYear, MachineEntry
from cinder.model import Job
from cinder.model.scheme import Backup, RoomRule
from cinder.physics.climate.weather import HOURS
from cinder.physics.flow.fluid import MEAN_WATER_C
from cinder.physics.flow.separation import mixing_share
from cinder.physics.machine import heat_pump
from cinder.physics.quantity import Array
from cinder.twin import network
from cinder.twin.parts import LONGEST_STEP_S, SOUND, Buffer, Control, Emitters, HotWater, House, Machine, Rooms, Weather

AIR_J_M3K = 1210.0
FURNISHED_J_M2K = 15_000.0
"""What stands in a room and follows its air (our choice)."""
HEAVINESS_J_M2K = {
    "very light": 80_000.0, "light": 110_000.0, "medium": 165_000.0, "heavy": 260_000.0, "very heavy": 370_000.0,
}  # fmt: skip
"""Heat held per kelvin and m2 of floor. Source: EN ISO 13790 table 12, from memory."""
COUPLED_W_M2K = 9.2
"""Between air and mass, by floor: 3.45 W/m2K on 4.5 times the floor and 9.1 on 2.5 times, one after the other (EN ISO 13790, from
memory)."""
TO_MASS = {"panel": 0.3, "stated": 0.3, "fan": 0.05, "skirting": 0.3, "floor": 0.6, "wall": 0.6}
"""Part of an emitter's heat that goes to surfaces as radiation (common practice)."""
SCREED_J_M2K = 130_000.0
"""A heated floor or wall with its screed about the pipes (65 mm, our choice)."""
AIR_C, WATER_C = np.arange(-30.0, 46.0), np.arange(15.0, 81.0)
OUT_C = np.arange(-30.0, 46.0)
LEAST_WATER_L = 20.0
"""What a machine and its pipes hold at the least."""
VALVE_K = 1.0
PUMP_W, STANDBY_W = 40.0, 8.0
BAND_K = 5.0
BOILER_W = 24_000.0
CHARGES_H = (4.5, 15.0)
"""When the store is charged: early, and in the warm of the afternoon (our choice)."""


@dataclass(frozen=True, slots=True)
class Twin:
    """A house with what its arrays stand for."""

    house: House
    design: Design
    view: HouseView
    rooms: list[str]
    """Room by room, its id."""
    emitters: list[str]
    area_m2: Array
    arrays: EmitterArrays
    """Its emitters as they are rated."""

    def flow_lph(self, flow_w_k: Array, supply_c: Array, return_c: Array) -> Array:
        """What carries so much for every kelvin, L/h, as a meter in this water shows it."""
        return np.asarray(flow_w_k / self.view.fluid.w_k_per_lph(temperature_c=(supply_c + return_c) / 2))


def lacks(job: Job, design: Design) -> str:
    """What a twin of this job lacks; empty where it has all it needs."""
    scheme = job.schemes.get(job.active_scheme or "")
    if scheme is None:
        return "As found there is no machine to run: choose a scheme at the top left."
    if scheme.chosen is None or scheme.chosen not in scheme.candidates:
        return "A house with no machine cannot be run: choose one of the candidates first."
    if not design.curve.line_c or design.house.outdoor_c is None:
        return "Rooms with a loss and emitters, and a climate: then the house can be run."
    return ""


def twin_of(job: Job, *, strict: bool = False, kept: Kept | None = None) -> Twin:
    """The job's house under the scheme shown.

    `strict`: rooms lose what their emitters are sized by through the year, as the weather curve reads them (wind on every room); else
    what is theirs of the house's loss. Raises `ValueError` with what it lacks (`lacks`).
    """
    known = walk(CHAIN, {"job": job}, Findings(), kept or Afresh())
    design, need, view = known["design"], known["need"], known["house"]
    if missing := lacks(job, design):
        raise ValueError(missing)
    return Twin(
        House(
            _rooms(view, need, known["losses"].area_m2, known["losses"].volume_m3, strict=strict),
            _emitters(known["emitters"], need, view, design),
            _machine(view, design),
            _buffer(view, design),
            control_of(view, design),
            _hot_water(view, design),
            SOUND,
        ),
        design, view, [room.id for room in view.rooms], [one.view.id for one in _slots(known["emitters"])],
        np.asarray(known["losses"].area_m2), known["emitters"],
    )  # fmt: skip


def _rooms(view: HouseView, need: CurveArrays, area_m2: Array, volume_m3: Array, *, strict: bool) -> Rooms:
    assert need.need is not None
    balance, count = need.need.house, len(need.outdoor_c)
    base = np.array(balance.base[:count])
    if not strict:
        base -= need.year_losses.emitter_load_w - need.year_losses.share_of_house_w
    table = np.stack([_straight_on(OUT_C, need.outdoor_c, column) for column in base.T], axis=1)
    area = np.maximum(np.asarray(area_m2, float), 1.0)
    heavy = HEAVINESS_J_M2K[view.job.survey.heaviness or "medium"]
    return Rooms(
        base_from_c=float(OUT_C[0]), base_w=np.ascontiguousarray(table), slope_w_k=np.array(balance.slope, float),
        trade_w_k=np.ascontiguousarray(balance.trade, dtype=float),
        air_j_k=np.maximum(np.asarray(volume_m3, float), 1.0) * AIR_J_M3K + area * FURNISHED_J_M2K, mass_j_k=area * heavy,
        couple_w_k=area * COUPLED_W_M2K, target_c=np.array(need.need.wanted_c, float),
        heater_w=np.array(balance.rooms.heater_w[:count].max(axis=0, initial=0.0)),
    )  # fmt: skip


def _straight_on(at: Array, x: Array, y: Array) -> Array:
    """Straight between the points, and on past both ends as the last two go."""
    found = np.interp(at, x, y)
    low, high = (y[1] - y[0]) / (x[1] - x[0]), (y[-1] - y[-2]) / (x[-1] - x[-2])
    found = np.where(at < x[0], y[0] + low * (at - x[0]), found)
    return np.where(at > x[-1], y[-1] + high * (at - x[-1]), found)


def _slots(arrays: EmitterArrays) -> list[Rated]:
    return [arrays.rated[slot] for slots in arrays.slots for slot in slots]


def _emitters(arrays: EmitterArrays, need: CurveArrays, view: HouseView, design: Design) -> Emitters:
    assert need.need is not None
    law = need.need.house.emitters
    room: list[int] = []
    closes: list[bool] = []
    rated: list[float] = []
    exponent: list[float] = []
    flow: list[float] = []
    water: list[float] = []
    mass: list[float] = []
    for r, slots in enumerate(arrays.slots):
        for e, slot in enumerate(slots):
            one = arrays.rated[slot]
            spread = law.spread_k[r, e]
            room.append(r)
            rated.append(law.rated_w[r, e])
            exponent.append(law.exponent[r, e])
            flow.append(law.design_w[r, e] / spread if spread > 0 else 0.0)
            held = max(one.water_l, 1.0) * litre_j_k(view)
            water.append(held + (one.surface.area_m2 * SCREED_J_M2K if one.surface is not None else 0.0))
            closes.append(bool(law.closes[r, e]))
            mass.append(TO_MASS.get(one.view.spec.kind, 0.3))
    return Emitters(
        np.array(room, dtype=np.intp), np.array(rated, float), np.array(exponent, float), np.array(flow, float),
        np.array(water, float), np.array(closes, dtype=np.bool_), np.array(mass, float), np.zeros(len(room)), law.reference_k,
        *network.table(view, design, arrays, {one.view.id for one, shut in zip(_slots(arrays), closes, strict=True) if shut}),
    )  # fmt: skip


def _machine(view: HouseView, design: Design) -> Machine:
    entry = view.machine
    assert entry is not None
    table = performance_map(entry, standing_of(view))
    at = heat_pump.operate(table, outdoor_c=AIR_C[:, None], water_c=WATER_C[None, :])
    litres = design.volume.machine_l + design.volume.volumiser_l + sum(one.water_l for one in design.pipework.pipes)
    drawn, backup = entry.always_on_w, backup_of(view)
    return Machine(
        air_from_c=float(AIR_C[0]), air_step_k=1.0, water_from_c=float(WATER_C[0]), water_step_k=1.0,
        greatest_w=np.ascontiguousarray(at.greatest_w), least_w=np.ascontiguousarray(at.least_w),
        cop=np.ascontiguousarray(at.cop), water_j_k=max(litres, LEAST_WATER_L) * litre_j_k(view),
        pump_w=(drawn or PUMP_W) + design.separation.pump_w, standby_w=STANDBY_W, answer_s=300.0, band_k=BAND_K, least_on_s=300.0,
        least_off_s=300.0, start_s=120.0, frost_every_s=3600.0, frost_for_s=300.0, frost_takes=0.6,
        limit_c=float(table.limit_water_c.max()), backup_w=_backup_w(backup, entry), backup_electric=backup.kind == "heater",
    )  # fmt: skip


def backup_of(view: HouseView) -> Backup:
    """What stands beside the chosen machine."""
    scheme = view.scheme
    candidate = scheme.candidates.get(scheme.chosen or "") if scheme else None
    return candidate.backup if candidate else Backup(kind="none")


def _backup_w(backup: Backup, entry: MachineEntry) -> float:
    """What it can add: a heater as the machine has it, a boiler whatever is asked; a stove is lit by hand and counts as nothing."""
    if backup.kind == "heater":
        return entry.contains.heater_kw * 1000.0
    return BOILER_W if backup.kind in ("boiler", "new boiler") else 0.0


def litre_j_k(view: HouseView) -> float:
    """What a litre of the heating water holds for a kelvin, J."""
    return 3600.0 * float(view.fluid.w_k_per_lph(temperature_c=MEAN_WATER_C))


def _buffer(view: HouseView, design: Design) -> Buffer:
    between = design.separation
    if not between.two or not between.machine_lph:
        return Buffer(0.0, 0.0)
    per_litre = litre_j_k(view)
    holds, carries = between.vessel_l * per_litre, between.machine_lph * per_litre / 3600.0
    if holds <= carries * LONGEST_STEP_S:
        return Buffer(0.0, carries)
    stirred = STIRRED[between.kind]
    return Buffer(
        holds,
        carries,
        mixing_share(stirred=stirred, flows=between.machine_lph / (between.emitters_lph or between.machine_lph)),
    )


NIGHT_H = (22.0, 6.0)


def control_of(view: HouseView, design: Design) -> Control:
    """The controllers as they are set: the line of the curve desk; the room controller's night, and whether it is in charge."""
    curve = design.curve
    rule = view.scheme.control.room if view.scheme else RoomRule()
    rooms = [room.id for room in view.rooms]
    at = rooms.index(reference_room(view)) if rule.in_charge == "thermostat" else -1
    line = np.array(curve.line_c) + design.separation.lift_at(np.array(curve.outdoor_c))  # of the machine's own water
    return Control(
        line_from_c=curve.outdoor_c[0], line_c=line, heating_limit_c=curve.heating_limit_c,
        setback_k=rule.setback_k or 0.0, setback_from_h=_or(rule.night_from_h, NIGHT_H[0]), setback_to_h=_or(rule.night_to_h, NIGHT_H[1]),
        thermostat=at, thermostat_c=view.targets.get(rooms[at], 20.0) if at >= 0 else 20.0, thermostat_k=0.5, sensor_k=0.0,
        sensor_per_sun=0.0, valve_k=VALVE_K, off_from_h=0.0, off_to_h=0.0,
    )  # fmt: skip


def reference_room(view: HouseView) -> str:
    """The room a thermostat would hang in, by id: the largest of those that are lived in and asked to be warmest."""
    return max(
        view.rooms,
        key=lambda room: (room.habitable, view.targets.get(room.id, 0.0), room.plan.area_m2 if room.plan else 0.0),
    ).id


def _or(value: float | None, otherwise: float) -> float:
    return value if value is not None else otherwise


def _hot_water(view: HouseView, design: Design) -> HotWater:
    daily = design.hot_water.daily_kwh
    if not daily or beside_chosen(view).makes_water:
        return HotWater(np.zeros(0), np.zeros(0), 50.0)
    charge = design.hot_water.charging_c or design.hot_water.store_c + 5.0
    part = daily * 3.6e6 / len(CHARGES_H)
    return HotWater(np.array(CHARGES_H), np.full(len(CHARGES_H), part), charge)


def weather_of(
    twin: Twin,
    year: HourlyYear,
    *,
    shift_k: float = 0.0,
    first_hour: int = 0,
    hours: int = HOURS,
    step_s: float = 300.0,
) -> Weather:
    """Hours of the climate's year as steps: air straight between the middles of hours, sun as it is through each.

    `first_hour` in the year (0 to 8759); spans that run over its end begin it again. `step_s` a part of an hour.
    """
    per_hour = round(3600.0 / step_s)
    at = (first_hour + np.arange(hours)) % HOURS
    outdoor = np.asarray(year.outdoor_c)[at] + shift_k
    middles = np.arange(hours) + 0.5
    steps = (np.arange(hours * per_hour) + 0.5) / per_hour
    air = np.interp(steps, middles, outdoor)
    sun = np.repeat(_sun(twin, year)[at], per_hour, axis=0)
    practice = twin.view.practice
    people = practice.people_w_per_m2 if practice.year_gains != "none" else 0.0
    given = np.broadcast_to(twin.area_m2 * people, sun.shape)
    return Weather(
        3600.0 / per_hour, np.ascontiguousarray(air), np.repeat(np.asarray(year.ghi_w_m2)[at], per_hour),
        np.ascontiguousarray(sun), np.ascontiguousarray(given), float(first_hour % 24),
    )  # fmt: skip


def _sun(twin: Twin, year: HourlyYear) -> Array:
    """Sun through the windows of every room (8760, R), W."""
    out = np.zeros((HOURS, len(twin.rooms)))
    if twin.view.practice.year_gains != "people_and_sun":
        return out
    for r, room in enumerate(twin.view.rooms):
        for glass in glazing(twin.view, [room]):
            out[:, r] += glass.effective_m2 * sun_on(twin.view, year, glass.azimuth_deg, glass.tilt_deg)
    return out
