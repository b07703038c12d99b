"""The controller record: every sensor, pump, valve and signal of this plant with its function, circuit by circuit, and whether the
controller has outputs enough. Terminals are entered by who wired them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from cinder.design.apart.plant.chosen import Group, Inventory, inventory
from cinder.design.base import Result
from cinder.design.judgement import design as judged
from cinder.design.kept import Kept
from cinder.library import load
from cinder.model import Job
from cinder.model.fire_up import ControllerRecord, Terminal
from cinder.twin.of_job import lacks, twin_of

Kind = Literal["sensor", "output", "signal", "contact"]
KINDS: dict[Kind, str] = {
    "sensor": "input, sensor", "output": "output, switched", "signal": "output, 0–10 V or PWM", "contact": "input, contact or pulse",
}  # fmt: skip


class Point(Result):
    """One wire's end: what it does, for which circuit, what kind of terminal it takes; where it is wired, as entered."""

    key: str
    circuit: str
    kind: Kind
    kind_label: str
    label: str
    function: str
    terminal: str
    checked: bool
    note: str


class WiringFound(Result):
    """`outputs`, `inputs` what the plant takes; `short_outputs`, `short_inputs` how many the controller lacks where its own are known."""

    lacks: str
    sentence: str
    points: list[Point]
    outputs: int
    inputs: int
    short_outputs: int | None
    short_inputs: int | None
    entered: int
    notes: list[str]


@dataclass(frozen=True, slots=True)
class _Wire:
    key: str
    circuit: str
    kind: Kind
    label: str
    function: str


def judge(job: Job, kept: Kept | None = None) -> WiringFound:
    """The record of the scheme's plant."""
    kept = kept or Kept()
    if missing := lacks(job, judged(job, kept)):
        return WiringFound(
            lacks=missing, sentence=missing, points=[], outputs=0, inputs=0, short_outputs=None, short_inputs=None, entered=0, notes=[],
        )  # fmt: skip
    twin = twin_of(job, kept=kept)
    parts = inventory(twin.view, twin.design, load().plant_parts)
    assert parts is not None
    record = job.fire_up.controller
    points = [_point(one, record) for one in _wires(parts, mixed_zones=twin.design.curve.circuits != [])]
    outputs = sum(1 for one in points if one.kind in ("output", "signal"))
    inputs = len(points) - outputs
    short_out = max(outputs - record.outputs, 0) if record.outputs is not None else None
    short_in = max(inputs - record.inputs, 0) if record.inputs is not None else None
    entered = sum(1 for one in points if one.terminal)
    return WiringFound(
        lacks="", sentence=_sentence(points, entered, outputs, inputs, short_out, short_in), points=points, outputs=outputs, inputs=inputs,
        short_outputs=short_out, short_inputs=short_in, entered=entered, notes=_notes(record),
    )  # fmt: skip


def _point(one: _Wire, record: ControllerRecord) -> Point:
    at = record.terminals.get(one.key, Terminal())
    return Point(
        key=one.key, circuit=one.circuit, kind=one.kind, kind_label=KINDS[one.kind], label=one.label, function=one.function,
        terminal=at.terminal, checked=at.checked, note=at.note,
    )  # fmt: skip


def _wires(parts: Inventory, *, mixed_zones: bool) -> Iterator[_Wire]:
    """In the order of the plant: machine, circuits, hot water, second source, meters."""
    machine = "Machine"
    yield _Wire(
        "outdoor-sensor",
        machine,
        "sensor",
        "Outdoor sensor",
        "the curve hangs on it; in the shade, away from exhaust and vents",
    )
    yield _Wire("supply-sensor", machine, "sensor", "Flow sensor", "water that leaves the machine")
    yield _Wire("return-sensor", machine, "sensor", "Return sensor", "with the flow sensor gives the spread")
    yield _Wire("flow-switch", machine, "contact", "Flow switch or meter", "stops the machine below its least flow")
    yield _Wire(
        "primary-pump",
        machine,
        "signal",
        "Machine's pump",
        "speed by the machine; the signal and its range written down",
    )
    if "freeze-valves" not in parts.parts and not parts.split:
        yield _Wire(
            "frost-input", machine, "contact", "Frost alarm", "told to somebody when power or flow fails in frost"
        )
    if "buffer" in parts.parts or "header" in parts.parts:
        yield _Wire("buffer-sensor", machine, "sensor", "Sensor in the buffer", "its set-point follows the curve")
    for group in parts.groups:
        yield from _circuit(group, separated="second-pump" in parts.parts, mixed_zones=mixed_zones)
    if "store" in parts.parts:
        yield from _hot_water(parts)
    if "boiler" in parts.parts:
        yield _Wire(
            "boiler-call",
            "Second source",
            "output",
            "Call to the boiler",
            "its own controls stay; one volt-free contact",
        )
        yield _Wire("boiler-sensor", "Second source", "sensor", "Boiler's flow sensor", "tells whether it answered")
    if "heater" in parts.parts or parts.machine.contains.heater_kw:
        yield _Wire(
            "heater-stage", "Second source", "output", "Electric heater, each stage", "by a contactor; never dry"
        )
    yield _Wire(
        "tariff",
        "Supply and meters",
        "contact",
        "Lock or cheap hours from the network",
        "blocks or raises; one timer, never two",
    )
    for key, label, function in (
        ("heat-meter", "Heat meter", "pulse or bus, its size written down"),
        ("electricity-meter", "Electricity meter of the machine", "pulse or bus, its size written down"),
    ):
        if key in parts.parts:
            yield _Wire(key, "Supply and meters", "contact", label, function)


def _circuit(group: Group, *, separated: bool, mixed_zones: bool) -> Iterator[_Wire]:
    kind = "mixed" if group.mixed else "unmixed"
    circuit, key = f"{group.label}, {kind}", group.key.replace(":", "-").replace("_", "-").lower()
    if group.mixed:
        yield _Wire(f"{key}.pump", circuit, "output", "Circuit's pump", "runs while its rooms are heated")
        yield _Wire(f"{key}.mix-open", circuit, "output", "Blending valve, opens", "or one 0–10 V signal for both")
        yield _Wire(f"{key}.mix-shut", circuit, "output", "Blending valve, shuts", "which way is which tried by hand")
        yield _Wire(
            f"{key}.flow-sensor",
            circuit,
            "sensor",
            "Flow sensor behind the valve",
            "the circuit's own line is held here",
        )
    elif separated or mixed_zones:
        yield _Wire(f"{key}.pump", circuit, "signal", "Circuit's pump", "speed or on and off; the signal written down")
        if separated:
            yield _Wire(
                f"{key}.flow-sensor", circuit, "sensor", "Flow sensor behind the separator", "the curve is held here"
            )
    if group.manifold:
        yield _Wire(
            f"{key}.limit",
            circuit,
            "contact",
            "Limit thermostat of the floor",
            "stops the pump when the floor's water gets too hot",
        )
    yield _Wire(
        f"{key}.room", circuit, "contact", "Room controller", "shifts or stops this circuit, as set on the curve desk"
    )


def _hot_water(parts: Inventory) -> Iterator[_Wire]:
    circuit = "Hot water"
    yield _Wire("store-sensor", circuit, "sensor", "Sensor in the store", "begins and ends the charge")
    if "diverter" in parts.parts or parts.machine.contains.diverter:
        yield _Wire(
            "diverter",
            circuit,
            "output",
            "Diverter",
            "which end is hot water tried by temperatures, wires swapped if wrong",
        )
    if "plate" in parts.parts:
        yield _Wire("plate-pump", circuit, "output", "Pump behind the plate", "runs with the charge")
    if "immersion" in parts.parts:
        yield _Wire(
            "immersion", circuit, "output", "Immersion heater", "hygiene cycle; by a contactor, with its own thermostat"
        )


def _sentence(
    points: list[Point], entered: int, outputs: int, inputs: int, short_out: int | None, short_in: int | None
) -> str:
    if short_out or short_in:
        lacking = " and ".join(
            f"**{n} {what}{'s' if n != 1 else ''}**"
            for n, what in ((short_out or 0, "output"), (short_in or 0, "input"))
            if n
        )
        return f"This plant takes {outputs} outputs and {inputs} inputs: the controller lacks {lacking}. It needs an extension."
    if entered < len(points):
        return f"{outputs} outputs, {inputs} inputs. **{len(points) - entered} of {len(points)}** have no terminal entered yet."
    return f"All {len(points)} ends are entered, {sum(1 for one in points if one.checked)} of them tried."


def _notes(record: ControllerRecord) -> list[str]:
    out = []
    if record.outputs is None:
        out.append(
            "How many switched outputs the controller has stands in its manual: enter it, and it is told whether they are enough."
        )
    if not record.covers_earthed:
        out.append("Covers earthed again after the work: to be confirmed by the electrician.")
    if not record.factory_reset:
        out.append("How the maker's settings are brought back, and what is lost by it, is not written down yet.")
    if not record.may_change:
        out.append("Who may change parameters is not written down yet.")
    return out
