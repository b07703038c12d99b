"""What a scheme's plant is made of: every part that has been chosen or is wanted, none that the machine already holds."""

from __future__ import annotations

from dataclasses import dataclass, field

from cinder.design.emitters.result import EmitterResult
from cinder.design.house.view import HouseView
from cinder.design.result import Design
from cinder.library import MachineEntry, PlantPartEntry
from cinder.model.scheme import Backup, Candidate

PAIRS = ("isolators", "freeze-valves", "hoses")
SOURCES = {"collectors": "Collectors", "boiler": "Boiler", "stove": "Stove"}


@dataclass(frozen=True, slots=True)
class Chosen:
    """A part: its row in the table of parts, how many, its size in litres or mm where a price hangs on it, in words. `stays`: it is there
    already and is not bought."""

    kind: str
    label: str
    count: float = 1.0
    size: float = 0.0
    words: str = ""
    stays: bool = False


@dataclass(frozen=True, slots=True)
class Group:
    """Emitters that hang on one pair of pipes."""

    key: str
    label: str
    words: str
    mixed: bool
    manifold: bool
    new_floors: bool = False


@dataclass(frozen=True, slots=True)
class Inventory:
    """The parts of a plant by kind, and the groups of emitters it feeds."""

    machine: MachineEntry
    split: bool
    parts: dict[str, Chosen]
    groups: list[Group]
    pipe_words: str
    also: list[str] = field(default_factory=list)
    by_boiler: bool = False
    """A boiler makes the hot water."""


def inventory(house: HouseView, design: Design, table: dict[str, PlantPartEntry]) -> Inventory | None:
    """The parts of the scheme shown; None without a machine."""
    scheme, machine = house.scheme, house.machine
    if scheme is None or machine is None or scheme.chosen is None:
        return None
    candidate = scheme.candidates[scheme.chosen]
    parts: dict[str, Chosen] = {}

    def add(kind: str, count: float = 1.0, size: float = 0.0, words: str = "", *, stays: bool = False) -> None:
        parts[kind] = Chosen(kind, table[kind].label, count, size, words, stays)

    split, holds = machine.kind == "split", machine.contains
    add("machine", words=machine.label)
    add("base")
    add("isolators")
    if not split:
        add("hoses")
        if scheme.protection.kind == "valves" and not holds.freeze_valve:
            add("freeze-valves")
    add("strainer")
    add("air-separator")
    add("vents", count=max(len({room.room.storey for room in house.rooms}), 1))
    add("fill-and-flush")
    vessel = design.vessel
    beside = (scheme.vessel.volume_l or 0.0) or max((vessel.least_l or 0.0) - vessel.machine_l, 0.0)
    if beside > 0:
        size = _vessel_l(beside) if scheme.vessel.volume_l is None else beside
        add("vessel", size=size, words=f"{size:.0f} L, charged to {vessel.precharge_bar:.1f} bar")
        add("vessel-valve")
    if not holds.relief_bar:
        add("relief", words=f"{vessel.relief_bar:g} bar")
    _hot_water(house, design, candidate, machine, add)
    _separation(design, scheme.separation.volumiser_l or 0.0, add)
    groups = _groups(house, design)
    mixed = sum(group.mixed for group in groups)
    if mixed:
        add("blending", count=mixed)
    if any(group.manifold for group in groups):
        add(
            "manifold",
            count=sum(group.manifold for group in groups),
            stays=not any(group.new_floors for group in groups),
        )
    _beside(candidate.backup, holds.heater_kw, add)
    add("heat-meter")
    add("electricity-meter")
    add("outdoor-sensor")
    add("controller")
    pipe = next((p.size_label for p in design.pipework.pipes if p.parent is None and p.bore_m is not None), "")
    return Inventory(
        machine,
        split,
        parts,
        groups,
        pipe,
        _also(house),
        "boiler" in parts and "store" in parts and candidate.backup.hot_water,
    )


def _vessel_l(least_l: float) -> float:
    """The next usual size up."""
    return next((float(size) for size in (8, 12, 18, 25, 35, 50, 80, 100, 150, 200, 300) if size >= least_l), least_l)


def _hot_water(house: HouseView, design: Design, candidate: Candidate, machine: MachineEntry, add) -> None:  # type: ignore[no-untyped-def]
    chosen, water = house.scheme.hot_water if house.scheme else None, design.hot_water
    if chosen is None or water.volume_l is None:
        return
    add(
        "store",
        size=water.volume_l,
        words=f"{water.volume_l:.0f}\u00a0L at {water.store_c:.0f}\u00a0°C",
        stays=water.kept,
    )
    if not candidate.backup.hot_water and not machine.contains.diverter:
        add("diverter")
    if water.exchanger == "plate" and not candidate.backup.hot_water:
        add("plate")
    if chosen.immersion_kw != 0.0:
        add("immersion", words=f"{chosen.immersion_kw or 3.0:g} kW")
    add("store-safety")
    add("mixing-valve")
    add("store-sensor")


def _separation(design: Design, volumiser_l: float, add) -> None:  # type: ignore[no-untyped-def]
    found = design.separation
    if not found.two:
        if volumiser_l:
            add("volumiser", size=volumiser_l, words=f"{volumiser_l:.0f} L")
        return
    if found.kind == "header":
        add("header")
    else:
        add("buffer", size=found.vessel_l, words=f"{found.vessel_l:.0f} L")
    add("buffer-vent")
    add("second-pump", words=found.pump_label)
    add("flow-sensor")
    if found.bypass:
        add("bypass")


def _beside(backup: Backup, inside_kw: float, add) -> None:  # type: ignore[no-untyped-def]
    if backup.kind in ("boiler", "new boiler"):
        add("boiler", stays=backup.kind == "boiler", words="stays" if backup.kind == "boiler" else "new")
    elif backup.kind == "heater" and not inside_kw:
        add("heater")


def _also(house: HouseView) -> list[str]:
    keeps = house.scheme.hot_water.keeps if house.scheme else None
    store = house.job.survey.stores.get(keeps or "")
    return [SOURCES[one] for one in store.also] if store is not None else []


def _groups(house: HouseView, design: Design) -> list[Group]:
    """By the scheme's zones; the rest as radiators and as heated floors."""
    zones = house.scheme.zones if house.scheme else {}
    wet = [(room, one) for room in design.rooms for one in room.emitters if one.spread_k is not None]
    out, taken = [], set()
    for key, zone in sorted(zones.items(), key=lambda item: (item[1].pos, item[0])):
        held = [one for room, one in wet if room.id in zone.rooms]
        taken |= {one.id for one in held}
        if held:
            out.append(
                Group(f"zone:{key}", zone.label or "A zone", _words(held), zone.mixed, _heated(held), _new(held))
            )
    for key, label, held in (
        ("radiators", "Radiators", [one for _, one in wet if one.id not in taken and not _heated([one])]),
        ("floors", "Heated floors", [one for _, one in wet if one.id not in taken and _heated([one])]),
    ):
        if held:
            out.append(Group(key, label, _words(held), False, _heated(held), _new(held)))
    return out


def _heated(held: list[EmitterResult]) -> bool:
    return any(one.kind in ("floor", "wall") for one in held)


def _new(held: list[EmitterResult]) -> bool:
    """Whether a heated floor among them is new."""
    return any(one.heated is not None and one.action != "keep" for one in held)


def _words(held: list[EmitterResult]) -> str:
    loops = sum(one.heated.loops for one in held if one.heated)
    plain = sum(1 for one in held if not one.heated)
    said = [f"{plain} emitter{'s' if plain != 1 else ''}"] if plain else []
    said += [f"{loops} loop{'s' if loops != 1 else ''}"] if loops else []
    return ", ".join(said)
