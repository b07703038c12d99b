"""What is expected of this house's plant, as bands: worked out from the design for the air and water of the moment.

Bands are as wide as instruments and the day let them be (our choice, named at each): clip probes within 0.5 K, flow meters and the
machine's own count within some 5 to 10 %, a machine that has run for twenty minutes within a fifth of where it will stand.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from cinder.design.machine.load import performance_map, standing_of
from cinder.field.expected import Expected
from cinder.physics import curve as law
from cinder.physics import heat_pump, pump
from cinder.twin.of_job import control_of

Values = Mapping[str, float]
KELVIN_BAND = 2.0
PASSES = 0.95
"""House flow at this share of design or more passes (our choice)."""
COP_LOW, COP_HIGH = 0.8, 1.2
RUN_WIDE = 0.2
HOT_RUN_MIN = (60.0, 120.0)
"""A whole hot-water run takes about 90 minutes (common practice)."""
MEAN_C = 40.0


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

    def heat_w(self, flow_lph: float, spread_k: float, water_c: float = MEAN_C) -> float:
        """Heat of a flow with a spread, by the properties of this plant's fluid."""
        assert self.expected is not None
        per_kelvin = self.expected.house.view.fluid.flow_for_heat_lph(heat_w=1.0, spread_k=1.0, temperature_c=water_c)
        return float(flow_lph / per_kelvin * spread_k)

    @property
    def flow_lph(self) -> float | None:
        """What the emitters take with everything open."""
        if self.expected is None:
            return None
        between = self.expected.house.design.separation
        return between.machine_lph if between.two else self.expected.house.design.pipework.flow_lph

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


def _or(value: float | None, by: Callable[[float], float]) -> float | None:
    return by(value) if value is not None else None


def _vessel(house: House, values: Values) -> list[tuple[str, Band]]:
    wanted = house.expected.house.design.vessel.precharge_bar if house.expected else None
    return [
        (
            "vessel/precharge_bar",
            Band(
                "Pre-charge, no water in it",
                "bar",
                2,
                _or(wanted, lambda v: v - 0.1),
                wanted,
                _or(wanted, lambda v: v + 0.1),
                "as the vessel is reckoned with",
            ),
        )
    ]


def _fill(house: House, values: Values) -> list[tuple[str, Band]]:
    wanted = house.expected.house.design.vessel.fill_bar if house.expected else None
    return [
        (
            "fill/cold_bar",
            Band(
                "Pressure, cold",
                "bar",
                2,
                _or(wanted, lambda v: v - 0.1),
                wanted,
                _or(wanted, lambda v: v + 0.3),
                "so that the highest point stays full",
            ),
        )
    ]


def _dose(house: House, values: Values) -> list[tuple[str, Band]]:
    if house.expected is None or not house.expected.house.view.fluid.share:
        return []
    scheme = house.expected.house.view.scheme
    frost = scheme.protection.frost_c if scheme else None
    return [
        (
            "dose/frost_c",
            Band(
                "Frost protection by refractometer",
                "°C",
                0,
                None,
                frost,
                frost,
                "as the scheme asks; colder is stronger",
            ),
        )
    ]


def _sensor(house: House, values: Values) -> list[tuple[str, Band]]:
    shown = house.sensor_c
    return [
        (
            "sensor/by_hand_c",
            Band(
                "Outdoors by a thermometer in the shade",
                "°C",
                1,
                _or(shown, lambda v: v - 1.5),
                shown,
                _or(shown, lambda v: v + 1.5),
                "the sensor shows the same within 1.5 K" if shown is not None else "beside what the sensor shows",
            ),
        )
    ]


def _diverter(house: House, values: Values) -> list[tuple[str, Band]]:
    pipe = values.get("diverter/store_pipe_c")
    house_pipe = values.get("diverter/house_pipe_c")
    out = [
        (
            "diverter/store_pipe_c",
            Band(
                "Pipe to the store, after some minutes", "°C", 1, 30.0, None, None, "it gets warm", channel="supply_c"
            ),
        ),
        (
            "diverter/house_pipe_c",
            Band(
                "Pipe to the house",
                "°C",
                1,
                None,
                None,
                None if pipe is None else max(pipe - 8.0, 25.0),
                "it stays cool",
            ),
        ),
    ]
    if pipe is not None and house_pipe is not None:
        out.append(
            (
                "diverter/apart_k",
                Band(
                    "Store warmer than house by",
                    "K",
                    1,
                    8.0,
                    None,
                    None,
                    "below that it goes the wrong way, or leaks",
                    derived=True,
                    value=pipe - house_pipe,
                ),
            )
        )
    return out


def _start(house: House, values: Values) -> list[tuple[str, Band]]:
    return [
        (
            "start/water_c",
            Band(
                "Water before the start", "°C", 1, 10.0, None, None, "some compressors refuse below", channel="return_c"
            ),
        )
    ]


def _run(
    house: House,
    values: Values,
    name: str,
    *,
    flow: tuple[float | None, float | None, float | None],
    heat: tuple[float, float] | None,
    flow_why: str,
    water: tuple[float | None, float | None, float | None],
    water_why: str,
) -> list[tuple[str, Band]]:
    """A run read after twenty minutes: air, both waters, flow and electricity; heat and COP follow."""
    outdoor, supply, back, lph, watts = (
        values.get(f"{name}/{one}") for one in ("outdoor_c", "flow_c", "return_c", "flow_lph", "electric_w")
    )
    moves = lph if lph is not None else flow[1]
    spread = None
    if heat is not None and moves:
        per = house.heat_w(moves, 1.0)
        spread = (heat[0] / per, heat[1] / per)
    at = house.machine(outdoor, supply) if outdoor is not None and supply is not None else None
    draws = None if at is None or heat is None else (heat[0] / at[2] / COP_HIGH, heat[1] / at[2] / COP_LOW)
    returns = (supply - spread[1], supply - spread[0]) if spread and supply is not None else None
    out = [
        (f"{name}/outdoor_c", Band("Outdoors", "°C", 1, why="everything else hangs on it", channel="outdoor_c")),
        (f"{name}/flow_c", Band("Flow", "°C", 1, *water, why=water_why, channel="supply_c")),
        (
            f"{name}/return_c",
            Band(
                "Return",
                "°C",
                1,
                returns[0] if returns else None,
                None,
                returns[1] if returns else None,
                "by what the machine gives at this flow",
                channel="return_c",
            ),
        ),
        (f"{name}/flow_lph", Band("Water through the machine", "L/h", 0, *flow, why=flow_why, channel="flow_lph")),
        (
            f"{name}/electric_w",
            Band(
                "Electricity",
                "W",
                0,
                draws[0] if draws else None,
                None,
                draws[1] if draws else None,
                "by its map at this air and water",
                channel="electric_w",
            ),
        ),
    ]
    if supply is not None and back is not None and lph is not None and house.expected is not None:
        given = house.heat_w(lph, supply - back, (supply + back) / 2)
        out.append(
            (
                f"{name}/heat_w",
                Band(
                    "So it gives",
                    "W",
                    0,
                    heat[0] if heat else None,
                    None,
                    heat[1] if heat else None,
                    "between its least and its greatest output",
                    derived=True,
                    value=given,
                ),
            )
        )
        if watts:
            cop = at[2] if at else None
            out.append(
                (
                    f"{name}/cop",
                    Band(
                        "COP",
                        "",
                        2,
                        _or(cop, lambda v: v * COP_LOW),
                        cop,
                        _or(cop, lambda v: v * COP_HIGH),
                        "its map at this air and water, instruments within a fifth",
                        derived=True,
                        value=given / watts,
                    ),
                )
            )
    return out


def _pump_band(house: House, expected_lph: float | None) -> tuple[float | None, float | None, float | None]:
    least = house.expected.house.design.pipework.least_flow_lph if house.expected else None
    low = max((one for one in (least, _or(expected_lph, lambda v: PASSES * v)) if one is not None), default=None)
    return low, expected_lph, _or(expected_lph, lambda v: 1.3 * v)


def _hot(house: House, values: Values) -> list[tuple[str, Band]]:
    if house.expected is None:
        return _run(
            house,
            values,
            "hot",
            flow=(None, None, None),
            heat=None,
            flow_why="",
            water=(None, None, None),
            water_why="",
        )
    water = house.expected.house.design.hot_water
    outdoor, supply = values.get("hot/outdoor_c"), values.get("hot/flow_c")
    at = house.machine(outdoor, supply) if outdoor is not None and supply is not None else None
    heat = (at[0] * (1 - RUN_WIDE), at[1] * (1 + RUN_WIDE)) if at else None
    charging = water.charging_c
    limits = (
        (None, charging, _or(water.warmest_c, lambda v: v + 3.0))
        if water.warmest_c is not None
        else (None, charging, None)
    )
    out = _run(
        house,
        values,
        "hot",
        flow=_pump_band(house, water.flow_lph),
        heat=heat,
        flow_why="as the exchanger is reckoned with; the pump may run faster",
        water=limits,
        water_why="it climbs with the store; never above what the machine is let",
    )
    usual = water.reheat_minutes
    low, high = (0.7 * usual, 1.4 * usual) if usual else HOT_RUN_MIN
    out.append(
        (
            "hot/minutes",
            Band(
                "The whole run, from cold",
                "min",
                0,
                low,
                usual,
                high,
                "by the store and the machine, on the design day",
            ),
        )
    )
    return out


def _heat(house: House, values: Values) -> list[tuple[str, Band]]:
    outdoor, supply = values.get("heat/outdoor_c"), values.get("heat/flow_c")
    at = house.machine(outdoor, supply) if outdoor is not None and supply is not None else None
    heat = (at[0] * (1 - RUN_WIDE), at[1] * (1 + RUN_WIDE)) if at else None
    line = house.line_c(outdoor) if outdoor is not None else None
    return _run(
        house,
        values,
        "heat",
        flow=_pump_band(house, house.flow_lph),
        heat=heat,
        flow_why="what the emitters are set for; a pump that modulates may give up to a third more",
        water=(_or(line, lambda v: v - 3.0), line, _or(line, lambda v: v + 3.0)),
        water_why="the line at this air; a machine above its load swings about it",
    )


def _index(house: House, values: Values) -> list[tuple[str, Band]]:
    if house.expected is None:
        return [("index/flow_lph", Band("Water through the index emitter", "L/h", 0))]
    design = house.expected.house.design
    key = design.pipework.index
    emitter = next((e for room in design.rooms for e in room.emitters if e.id == key), None)
    wanted = emitter.flow_lph if emitter else None
    label = f"Water through {emitter.label}" if emitter else "Water through the index emitter"
    return [
        (
            "index/flow_lph",
            Band(
                label,
                "L/h",
                0,
                _or(wanted, lambda v: PASSES * v),
                wanted,
                None,
                "at its flow or more with every other open",
            ),
        )
    ]


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


def _direct(house: House, values: Values) -> list[tuple[str, Band]]:
    wanted = direct_flow_lph(house)
    measured = values.get("direct/flow_lph")
    out = [
        (
            "direct/flow_lph",
            Band(
                "Water through the machine, run directly",
                "L/h",
                0,
                _or(wanted, lambda v: 0.85 * v),
                wanted,
                _or(wanted, lambda v: 1.15 * v),
                "its pump against the index circuit",
                channel="flow_lph",
            ),
        )
    ]
    if wanted and measured is not None:
        out.append(
            (
                "direct/error",
                Band(
                    "The prediction was off by",
                    "%",
                    0,
                    -15.0,
                    0.0,
                    15.0,
                    "kept, for the next house",
                    derived=True,
                    value=100.0 * (measured / wanted - 1.0),
                ),
            )
        )
    return out


def _low(house: House, values: Values) -> list[tuple[str, Band]]:
    least = house.expected.house.design.pipework.least_flow_lph if house.expected else None
    before, after = values.get("strainer/before_lph"), values.get("strainer/after_lph")
    wanted = house.flow_lph
    out = [
        ("strainer/before_lph", Band("Flow before the strainer is cleaned", "L/h", 0, channel="flow_lph")),
        (
            "strainer/after_lph",
            Band(
                "Flow after",
                "L/h",
                0,
                _or(wanted, lambda v: PASSES * v),
                wanted,
                None,
                "house flow at 95 % of design passes",
                channel="flow_lph",
            ),
        ),
        (
            "low/flow_lph",
            Band(
                "Least flow, every valve shut that can",
                "L/h",
                0,
                _or(least, lambda v: 1.05 * v),
                None,
                None,
                "the machine's least flow and a little more",
                channel="flow_lph",
            ),
        ),
    ]
    if before and after:
        out.append(
            (
                "strainer/gain",
                Band(
                    "Cleaning gained",
                    "%",
                    0,
                    None,
                    None,
                    10.0,
                    "more than a tenth: it will clog again soon",
                    derived=True,
                    value=100.0 * (after / before - 1.0),
                ),
            )
        )
    return out


def _set(house: House, values: Values) -> list[tuple[str, Band]]:
    if house.expected is None:
        return []
    control = control_of(house.expected.house.view, house.expected.house.design)
    curve = house.expected.house.design.curve
    out = []
    for key, label, outdoor, channel in (
        ("set/cold_flow_c", "Water dialled in at the cold end", curve.cold_out_c, "cold_flow_c"),
        ("set/mild_flow_c", "Water dialled in at the mild end", curve.mild_out_c, "mild_flow_c"),
    ):
        wanted = (
            float(np.interp(outdoor, control.line_from_c + np.arange(len(control.line_c)), control.line_c))
            if outdoor is not None
            else None
        )
        out.append(
            (
                key,
                Band(
                    label,
                    "°C",
                    1,
                    _or(wanted, lambda v: v - 0.6),
                    wanted,
                    _or(wanted, lambda v: v + 0.6),
                    "as the curve card has it",
                    channel=channel,
                ),
            )
        )
    return out


def _sound(house: House, values: Values) -> list[tuple[str, Band]]:
    heard = None
    limit = None
    if house.expected is not None:
        scheme = house.expected.house.view.scheme
        candidate = scheme.candidates.get(scheme.chosen or "") if scheme else None
        place = next(
            (p for p in house.expected.house.design.places.places if candidate and p.id == candidate.place), None
        )
        worst = max(place.heard, key=lambda one: one.together_db - one.limit_db, default=None) if place else None
        if worst is not None:
            heard, limit = worst.together_db, worst.limit_db
    return [
        ("sound/db", Band("At the worst neighbour's window", "dB", 1, None, heard, limit, "the rule the job follows"))
    ]


def _hygiene(house: House, values: Values) -> list[tuple[str, Band]]:
    wanted = house.expected.house.view.practice.hygiene_c if house.expected else 60.0
    return [
        (
            "hygiene/store_c",
            Band("Store at the end of the cycle", "°C", 1, wanted, wanted, None, "the school the job follows"),
        ),
        (
            "hygiene/tap_c",
            Band("Nearest tap, through the mixing valve", "°C", 1, None, None, 50.0, "above about 50 °C it scalds"),
        ),
    ]


def _meters(house: House, values: Values) -> list[tuple[str, Band]]:
    out = [
        ("meter/electric_kwh", Band("Electricity over the run", "kWh", 2)),
        ("meter/heat_kwh", Band("Heat over the run", "kWh", 2)),
        ("meter/outdoor_c", Band("Outdoors, on the mean", "°C", 1, channel="outdoor_c")),
        ("meter/flow_c", Band("Flow, on the mean", "°C", 1, channel="supply_c")),
    ]
    electric, heat, outdoor, supply = (
        values.get(f"meter/{one}") for one in ("electric_kwh", "heat_kwh", "outdoor_c", "flow_c")
    )
    if electric and heat is not None:
        at = house.machine(outdoor, supply) if outdoor is not None and supply is not None else None
        cop = at[2] if at else None
        out.append(
            (
                "meter/cop",
                Band(
                    "COP by the meters",
                    "",
                    2,
                    _or(cop, lambda v: v * COP_LOW),
                    cop,
                    _or(cop, lambda v: v * COP_HIGH),
                    "its map at this air and water",
                    derived=True,
                    value=heat / electric,
                ),
            )
        )
    return out


def _week(house: House, values: Values) -> list[tuple[str, Band]]:
    return [
        (
            "week/starts_a_day",
            Band("Starts a day", "", 0, None, None, 24.0, "more than one an hour wears it (common practice)"),
        ),
        (
            "week/backup_kwh",
            Band("Backup heat in the week", "kWh", 0, None, None, 5.0, "none but in the hygiene cycle"),
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
