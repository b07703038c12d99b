"""What is expected of this house's plant, as bands: worked out from the design for the air and water of the moment.

Bands are as wide as instruments and the day let them be (our choice, named at each): clip probes within 0.5 K, flow meters and the
machine's own count within some 5 to 10 %, a machine that has run for twenty minutes within a fifth of where it will stand.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from cinder.design.machine.load import performance_map, standing_of
from cinder.design.result import Design
from cinder.field.expected import Expected, meters_lph
from cinder.physics.flow import pump
from cinder.physics.flow.fluid import MEAN_WATER_C
from cinder.physics.machine import curve as law
from cinder.physics.machine import heat_pump

Values = Mapping[str, float]
PASSES = 0.95
"""House flow at this share of design or more passes (our choice)."""
COP_LOW, COP_HIGH = 0.8, 1.2
RUN_WIDE = 0.2
DIRECT_WIDE = 0.15
APART_K = 8.0
"""How much warmer the pipe of the store must be than that of the house (our choice)."""
HOT_RUN_MIN = (60.0, 120.0)
"""A whole hot-water run takes about 90 minutes (common practice)."""


@dataclass(frozen=True, slots=True)
class Band:
    """`derived` figures are worked out from what was typed."""

    label: str
    unit: str
    digits: int
    low: float | None = None
    expected: float | None = None
    high: float | None = None
    why: str = ""
    channel: str = ""
    derived: bool = False
    value: float | None = None


@dataclass(frozen=True, slots=True)
class House:
    """What bands are worked out from; without a design (`expected` None) there are labels alone."""

    expected: Expected | None
    outdoor_c: float | None
    sensor_c: float | None = None
    """What the plant's own outdoor sensor shows."""

    def machine(self, outdoor_c: float, water_c: float) -> tuple[float, float, float] | None:
        """Least and greatest output, W, and COP, by the machine's map."""
        if self.expected is None:
            return None
        view = self.expected.house.view
        assert view.machine is not None
        at = heat_pump.operate(performance_map(view.machine, standing_of(view)), outdoor_c=outdoor_c, water_c=water_c)
        if float(at.greatest_w) <= 0:
            return None
        return float(at.least_w), float(at.greatest_w), float(at.cop)

    def heat_w(self, flow_lph: float, spread_k: float, water_c: float = MEAN_WATER_C) -> float:
        """Heat of a flow with a spread, by the properties of this plant's fluid."""
        assert self.expected is not None
        return float(flow_lph * self.expected.house.view.fluid.w_k_per_lph(temperature_c=water_c) * spread_k)

    @property
    def flow_lph(self) -> float | None:
        """What the machine's own meter shows with everything open."""
        if self.expected is None:
            return None
        return meters_lph(self.expected.house.design)

    def line_c(self, outdoor_c: float) -> float | None:
        if self.expected is None:
            return None
        return float(law.flow_at(self.expected.control_line, outdoor_c=np.array([outdoor_c]))[0])

    def load_w(self, outdoor_c: float) -> float:
        assert self.expected is not None
        return float(self.expected.load_w(np.array([outdoor_c]))[0].sum())


Worker = Callable[[House, Values], list[tuple[str, Band]]]


def asked(step: str, house: House, values: Values) -> list[tuple[str, Band]]:
    """What a step asks for, with its bands, and what follows from what was typed."""
    found = BY_STEP.get(step)
    return found(house, values) if found else []


Limits = tuple[float | None, float | None, float | None]
Asked = list[tuple[str, Band]]
OPEN: Limits = (None, None, None)


def _about(wanted: float | None, less: float, more: float) -> Limits:
    """So much below to so much above what is wanted."""
    return OPEN if wanted is None else (wanted - less, wanted, wanted + more)


def _times(wanted: float | None, low: float | None, high: float | None) -> Limits:
    """From so many times to so many times what is wanted; None: no limit there."""
    return (
        OPEN
        if wanted is None
        else (None if low is None else low * wanted, wanted, None if high is None else high * wanted)
    )


def _ask(
    key: str, label: str, unit: str, digits: int, limits: Limits = OPEN, why: str = "", channel: str = ""
) -> tuple[str, Band]:
    """Something that is measured."""
    return key, Band(label, unit, digits, *limits, why=why, channel=channel)


def _so(key: str, label: str, unit: str, digits: int, value: float, limits: Limits, why: str) -> tuple[str, Band]:
    """Something that follows from what was measured."""
    return key, Band(label, unit, digits, *limits, why=why, derived=True, value=value)


def _design(house: House) -> Design | None:
    return house.expected.house.design if house.expected else None


def _vessel(house: House, values: Values) -> Asked:
    design = _design(house)
    limits = _about(design.vessel.precharge_bar if design else None, 0.1, 0.1)
    return [
        _ask("vessel/precharge_bar", "Pre-charge, no water in it", "bar", 2, limits, "as the vessel is reckoned with")
    ]


def _fill(house: House, values: Values) -> Asked:
    design = _design(house)
    limits = _about(design.vessel.fill_bar if design else None, 0.1, 0.3)
    return [_ask("fill/cold_bar", "Pressure, cold", "bar", 2, limits, "so that the highest point stays full")]


def _dose(house: House, values: Values) -> Asked:
    if house.expected is None or not house.expected.house.view.fluid.share:
        return []
    scheme = house.expected.house.view.scheme
    frost = scheme.protection.frost_c if scheme else None
    why = "as the scheme asks; colder is stronger"
    return [_ask("dose/frost_c", "Frost protection by refractometer", "°C", 0, (None, frost, frost), why)]


def _sensor(house: House, values: Values) -> Asked:
    shown = house.sensor_c
    why = "the sensor shows the same within 1.5 K" if shown is not None else "beside what the sensor shows"
    return [_ask("sensor/by_hand_c", "Outdoors by a thermometer in the shade", "°C", 1, _about(shown, 1.5, 1.5), why)]


def _diverter(house: House, values: Values) -> Asked:
    store, other = values.get("diverter/store_pipe_c"), values.get("diverter/house_pipe_c")
    stays = (None, None, max(store - APART_K, 25.0)) if store is not None else OPEN
    out = [
        _ask(
            "diverter/store_pipe_c",
            "Pipe to the store, after some minutes",
            "°C",
            1,
            (30.0, None, None),
            "it gets warm",
            "supply_c",
        ),
        _ask("diverter/house_pipe_c", "Pipe to the house", "°C", 1, stays, "it stays cool"),
    ]
    if store is not None and other is not None:
        why = "below that it goes the wrong way, or leaks"
        out.append(
            _so("diverter/apart_k", "Store warmer than house by", "K", 1, store - other, (APART_K, None, None), why)
        )
    return out


def _start(house: House, values: Values) -> Asked:
    return [
        _ask(
            "start/water_c",
            "Water before the start",
            "°C",
            1,
            (10.0, None, None),
            "some compressors refuse below",
            "return_c",
        )
    ]


def _at(house: House, values: Values, name: str) -> tuple[float, float, float] | None:
    """The machine's map at a run's air and water, where both were measured."""
    outdoor, supply = values.get(f"{name}/outdoor_c"), values.get(f"{name}/flow_c")
    return house.machine(outdoor, supply) if outdoor is not None and supply is not None else None


def _run(
    house: House, values: Values, name: str, *, flow: Limits, flow_why: str, water: Limits, water_why: str
) -> Asked:
    """A run read after twenty minutes: air, both waters, flow and electricity; heat and COP follow."""
    supply, back, lph, watts = (values.get(f"{name}/{one}") for one in ("flow_c", "return_c", "flow_lph", "electric_w"))
    at = _at(house, values, name)
    moves = lph if lph is not None else flow[1]
    heat: Limits = (at[0] * (1 - RUN_WIDE), None, at[1] * (1 + RUN_WIDE)) if at else OPEN
    draws, back_c = OPEN, OPEN
    if at and heat[0] is not None and heat[2] is not None:
        draws = (heat[0] / at[2] / COP_HIGH, None, heat[2] / at[2] / COP_LOW)
        if moves and supply is not None:
            per_k = house.heat_w(moves, 1.0)
            back_c = (supply - heat[2] / per_k, None, supply - heat[0] / per_k)
    out = [
        _ask(f"{name}/outdoor_c", "Outdoors", "°C", 1, why="everything else hangs on it", channel="outdoor_c"),
        _ask(f"{name}/flow_c", "Flow", "°C", 1, water, water_why, "supply_c"),
        _ask(f"{name}/return_c", "Return", "°C", 1, back_c, "by what the machine gives at this flow", "return_c"),
        _ask(f"{name}/flow_lph", "Water through the machine", "L/h", 0, flow, flow_why, "flow_lph"),
        _ask(f"{name}/electric_w", "Electricity", "W", 0, draws, "by its map at this air and water", "electric_w"),
    ]
    if supply is not None and back is not None and lph is not None and house.expected is not None:
        given = house.heat_w(lph, supply - back, (supply + back) / 2)
        out.append(
            _so(f"{name}/heat_w", "So it gives", "W", 0, given, heat, "between its least and its greatest output")
        )
        if watts:
            why = "its map at this air and water, instruments within a fifth"
            out.append(
                _so(f"{name}/cop", "COP", "", 2, given / watts, _times(at[2] if at else None, COP_LOW, COP_HIGH), why)
            )
    return out


def _pump_band(house: House, expected_lph: float | None) -> Limits:
    design = _design(house)
    least = design.pipework.least_flow_lph if design else None
    low, wanted, high = _times(expected_lph, PASSES, 1.3)
    return max((one for one in (least, low) if one is not None), default=None), wanted, high


def _hot(house: House, values: Values) -> Asked:
    design = _design(house)
    if design is None:
        return _run(house, values, "hot", flow=OPEN, flow_why="", water=OPEN, water_why="")
    water = design.hot_water
    out = _run(
        house, values, "hot", flow=_pump_band(house, water.flow_lph),
        flow_why="as the exchanger is reckoned with; the pump may run faster",
        water=(None, water.charging_c, water.warmest_c + 3.0 if water.warmest_c is not None else None),
        water_why="it climbs with the store; never above what the machine is let",
    )  # fmt: skip
    usual = water.reheat_minutes
    limits = _times(usual, 0.7, 1.4) if usual else (HOT_RUN_MIN[0], None, HOT_RUN_MIN[1])
    out.append(
        _ask(
            "hot/minutes",
            "The whole run, from cold",
            "min",
            0,
            limits,
            "by the store and the machine, on the design day",
        )
    )
    return out


def _heat(house: House, values: Values) -> Asked:
    outdoor = values.get("heat/outdoor_c")
    line = house.line_c(outdoor) if outdoor is not None else None
    if (
        line is not None and outdoor is not None and house.expected is not None
    ):  # at the machine: behind a separator so much hotter
        line += float(house.expected.house.design.separation.lift_at(outdoor))
    return _run(
        house, values, "heat", flow=_pump_band(house, house.flow_lph), water=_about(line, 3.0, 3.0),
        flow_why="what the emitters are set for; a pump that modulates may give up to a third more",
        water_why="the line at this air; a machine above its load swings about it",
    )  # fmt: skip


def _index(house: House, values: Values) -> Asked:
    design = _design(house)
    emitter = (
        next((e for room in design.rooms for e in room.emitters if e.id == design.pipework.index), None)
        if design
        else None
    )
    label = f"Water through {emitter.label}" if emitter else "Water through the index emitter"
    limits = _times(emitter.flow_lph if emitter else None, PASSES, None)
    return [_ask("index/flow_lph", label, "L/h", 0, limits, "at its flow or more with every other open")]


def direct_flow_lph(house: House) -> float | None:
    """What the machine's own pump would move with nothing between it and the emitters: its curve against the index circuit (as the square
    of the flow)."""
    if house.expected is None:
        return None
    view, pipes = house.expected.house.view, house.expected.house.design.pipework
    entry = view.machine
    if entry is None or len(entry.pump_flow_lph) < 2 or not pipes.index_kpa or not pipes.flow_lph:
        return None
    loss = pipes.index_kpa + (pipes.primary.loss_kpa if pipes.primary else 0.0)
    flows = np.linspace(entry.pump_flow_lph[0], entry.pump_flow_lph[-1], 400)
    head = pump.head_kpa(
        flow_lph=flows, curve_flow_lph=np.array(entry.pump_flow_lph), curve_head_kpa=np.array(entry.pump_head_kpa)
    )
    beyond = np.nonzero(loss * (flows / pipes.flow_lph) ** 2 > np.asarray(head))[0]
    return float(flows[beyond[0]]) if len(beyond) else float(flows[-1])


def _direct(house: House, values: Values) -> Asked:
    wanted, measured = direct_flow_lph(house), values.get("direct/flow_lph")
    limits = _times(wanted, 1.0 - DIRECT_WIDE, 1.0 + DIRECT_WIDE)
    label = "Water through the machine, run directly"
    out = [_ask("direct/flow_lph", label, "L/h", 0, limits, "its pump against the index circuit", "flow_lph")]
    if wanted and measured is not None:
        off, most = 100.0 * (measured / wanted - 1.0), 100.0 * DIRECT_WIDE
        out.append(
            _so(
                "direct/error", "The prediction was off by", "%", 0, off, (-most, 0.0, most), "kept, for the next house"
            )
        )
    return out


def _low(house: House, values: Values) -> Asked:
    design = _design(house)
    least = design.pipework.least_flow_lph if design else None
    before, after = values.get("strainer/before_lph"), values.get("strainer/after_lph")
    least_limits = (1.05 * least, None, None) if least else OPEN
    passes = _times(house.flow_lph, PASSES, None)
    out = [
        _ask("strainer/before_lph", "Flow before the strainer is cleaned", "L/h", 0, channel="flow_lph"),
        _ask("strainer/after_lph", "Flow after", "L/h", 0, passes, "house flow at 95 % of design passes", "flow_lph"),
        _ask(
            "low/flow_lph",
            "Least flow, every valve shut that can",
            "L/h",
            0,
            least_limits,
            "the machine's least flow and a little more",
            "flow_lph",
        ),
    ]
    if before and after:
        gain = 100.0 * (after / before - 1.0)
        out.append(
            _so(
                "strainer/gain",
                "Cleaning gained",
                "%",
                0,
                gain,
                (None, None, 10.0),
                "more than a tenth: it will clog again soon",
            )
        )
    return out


def _set(house: House, values: Values) -> Asked:
    design = _design(house)
    if design is None:
        return []
    out = []
    for key, label, outdoor in (
        ("cold_flow_c", "cold", design.curve.cold_out_c),
        ("mild_flow_c", "mild", design.curve.mild_out_c),
    ):
        wanted = house.line_c(outdoor) if outdoor is not None else None
        said = f"Water dialled in at the {label} end"
        out.append(_ask(f"set/{key}", said, "°C", 1, _about(wanted, 0.6, 0.6), "as the curve card has it", key))
    return out


def _sound(house: House, values: Values) -> Asked:
    limits = OPEN
    if house.expected is not None:
        scheme = house.expected.house.view.scheme
        candidate = scheme.candidates.get(scheme.chosen or "") if scheme else None
        place = next(
            (p for p in house.expected.house.design.places.places if candidate and p.id == candidate.place), None
        )
        worst = max(place.heard, key=lambda one: one.together_db - one.limit_db, default=None) if place else None
        limits = (None, worst.together_db, worst.limit_db) if worst is not None else OPEN
    return [_ask("sound/db", "At the worst neighbour's window", "dB", 1, limits, "the rule the job follows")]


def _hygiene(house: House, values: Values) -> Asked:
    wanted = house.expected.house.view.practice.hygiene_c if house.expected else 60.0
    return [
        _ask(
            "hygiene/store_c",
            "Store at the end of the cycle",
            "°C",
            1,
            (wanted, wanted, None),
            "the school the job follows",
        ),
        _ask(
            "hygiene/tap_c",
            "Nearest tap, through the mixing valve",
            "°C",
            1,
            (None, None, 50.0),
            "above about 50 °C it scalds",
        ),
    ]


def _meters(house: House, values: Values) -> Asked:
    out = [
        _ask("meter/electric_kwh", "Electricity over the run", "kWh", 2),
        _ask("meter/heat_kwh", "Heat over the run", "kWh", 2),
        _ask("meter/outdoor_c", "Outdoors, on the mean", "°C", 1, channel="outdoor_c"),
        _ask("meter/flow_c", "Flow, on the mean", "°C", 1, channel="supply_c"),
    ]
    electric, heat, at = values.get("meter/electric_kwh"), values.get("meter/heat_kwh"), _at(house, values, "meter")
    if electric and heat is not None:
        limits = _times(at[2] if at else None, COP_LOW, COP_HIGH)
        out.append(
            _so("meter/cop", "COP by the meters", "", 2, heat / electric, limits, "its map at this air and water")
        )
    return out


def _week(house: House, values: Values) -> Asked:
    return [
        _ask(
            "week/starts_a_day",
            "Starts a day",
            "",
            0,
            (None, None, 24.0),
            "more than one an hour wears it (common practice)",
        ),
        _ask(
            "week/backup_kwh", "Backup heat in the week", "kWh", 0, (None, None, 5.0), "none but in the hygiene cycle"
        ),
    ]


BY_STEP: dict[str, Worker] = {
    "vessel": _vessel,
    "fill": _fill,
    "dose": _dose,
    "outdoor-sensor": _sensor,
    "diverter": _diverter,
    "too-cold": _start,
    "hot-water-run": _hot,
    "heating-run": _heat,
    "index": _index,
    "direct": _direct,
    "low-flow": _low,
    "curve-set": _set,
    "sound": _sound,
    "hygiene": _hygiene,
    "meters": _meters,
    "logged": _week,
}
