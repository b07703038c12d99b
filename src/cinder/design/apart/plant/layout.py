"""The plant laid out by rule: outdoors to the left, the house to the right, flow above, return below, a column for every part."""

from __future__ import annotations

from dataclasses import dataclass, field
from textwrap import wrap

from cinder.design.apart.plant.chosen import Group, Inventory
from cinder.design.apart.plant.marks import MARKS, SHORT
from cinder.design.apart.plant.result import Band, Joint, PlantPart, PlantPipe, Side, State
from cinder.library import PlantPartEntry

FLOW_Y, RETURN_Y, TALL = 220.0, 480.0, 660.0
COLUMN, LINE = 84.0, 16.0
BOTH: list[State] = ["heating", "hot water", "defrost"]
ROOMS: list[State] = ["heating", "defrost"]
WATER: list[State] = ["hot water"]


def _lines(text: str, letters: int) -> list[str]:
    """Words in lines of so many letters, none cut in two."""
    return wrap(text, letters, break_long_words=False) if text else []


@dataclass
class Drawing:
    """What is drawn so far, and where the next column begins. `flow` and `back`: what stands on the two lines, left to right, each with
    the point its pipe enters by and the one it leaves by."""

    table: dict[str, PlantPartEntry]
    inventory: Inventory
    parts: list[PlantPart] = field(default_factory=list)
    joints: list[Joint] = field(default_factory=list)
    pipes: list[PlantPipe] = field(default_factory=list)
    bands: list[Band] = field(default_factory=list)
    flow: list[tuple[str, float, float]] = field(default_factory=list)
    back: list[tuple[str, float, float]] = field(default_factory=list)
    x: float = 20.0
    band: str = ""
    words: str = ""

    # — pieces

    def put(
        self, kind: str, x: float, y: float, *, name: str = "", side: Side = "flow", at: str = "above", label: str = "",
        words: str | None = None, mark: str = "", tall: float | None = None, letters: int = 11,
    ) -> PlantPart:  # fmt: skip
        """A part with its middle at x, y and its words beside it."""
        shape = mark or kind
        wide, high, box, path = MARKS[shape]
        high = tall if tall is not None else high
        chosen = self.inventory.parts.get(kind)
        entry = self.table.get(kind)
        said = label or SHORT.get(kind) or (chosen.label if chosen else entry.label if entry else kind)
        more = words if words is not None else chosen.words if chosen else ""
        lines = [*_lines(said, letters), *_lines(more, letters + 1)]
        size = len(lines) * LINE
        text_x, text_y, anchor = {
            "above": (x, y - high / 2 - 8 - size + LINE - 4, "middle"),
            "below": (x, y + high / 2 + LINE + 2, "middle"),
            "right": (x + wide / 2 + 8, y - size / 2 + LINE - 4, "start"),
            "left": (x - wide / 2 - 8, y - size / 2 + LINE - 4, "end"),
            "within": (x, y - size / 2 + LINE - 4, "middle"),
            "head": (x, y - high / 2 + LINE + 2, "middle"),
            "foot": (x, y + high / 2 - size - 6 + LINE - 4, "middle"),
        }[at]
        part = PlantPart(
            id=name or kind, kind=kind if chosen else "", label=label or (entry.label if entry else said), words=more,
            why=entry.why if entry else "",
            need=entry.need if entry else "", side=side, band=self.band, stays=bool(chosen and chosen.stays), x=x, y=y, width=wide,
            height=high, box=box, mark=path, lines=lines, text_x=text_x, text_y=text_y,
            anchor="start" if anchor == "start" else "end" if anchor == "end" else "middle",
        )  # fmt: skip
        self.parts.append(part)
        return part

    def joint(self, name: str, x: float, y: float) -> Joint:
        made = Joint(id=name, x=x, y=y)
        self.joints.append(made)
        return made

    def pipe(
        self,
        begins: str,
        ends: str,
        points: list[tuple[float, float]],
        side: Side,
        states: list[State],
        words: str = "",
    ) -> None:
        self.pipes.append(
            PlantPipe(
                id=f"{begins} to {ends}" + (f", {words}" if side == "between" else ""), begins=begins, ends=ends, side=side, words=words,
                points=[[x, y] for x, y in points], states=states,
            )
        )  # fmt: skip

    def has(self, kind: str) -> bool:
        return kind in self.inventory.parts

    # — columns

    def column(self, flow: str = "", back: str = "", *, wide: float = COLUMN) -> float:
        """One column with a part on either line, or none; its middle."""
        x = self.x + wide / 2
        if flow:
            name = f"{flow} flow" if back == flow else flow
            part = self.put(flow, x, FLOW_Y, name=name, side="flow", at="above", label=self._paired(flow, "flow"))
            self.flow.append((name, x - part.width / 2, x + part.width / 2))
        if back:
            name = f"{back} return" if back == flow else back
            part = self.put(back, x, RETURN_Y, name=name, side="return", at="below", label=self._paired(back, "return"))
            self.back.append((name, x - part.width / 2, x + part.width / 2))
        self.x += wide
        return x

    def _paired(self, kind: str, side: str) -> str:
        pair = {"isolators": "Isolating valve", "freeze-valves": "Freeze valve", "hoses": "Flexible hose"}
        return f"{pair[kind]}, {side}" if kind in pair else ""

    def tee(self, name: str, x: float, *, on: str) -> Joint:
        """A joint on one of the lines."""
        y, line = (FLOW_Y, self.flow) if on == "flow" else (RETURN_Y, self.back)
        made = self.joint(name, x, y)
        line.append((name, x, x))
        return made

    def stub(
        self, kind: str, x: float, *, on: str, up: bool, name: str = "", label: str = "", side: Side = "flow"
    ) -> PlantPart:
        """A part that hangs at a joint of one of the lines."""
        made = self.tee(f"at {name or kind}", x, on=on)
        y = made.y - 62 if up else made.y + 62
        part = self.put(kind, x, y, name=name, side=side, at="above" if up else "below", label=label)
        edge = y + part.height / 2 if up else y - part.height / 2
        self.pipe(made.id, part.id, [(x, made.y), (x, edge)], side, [])
        return part

    def begin(self, label: str) -> None:
        self.band = label
        self.bands.append(Band(label=label, from_x=self.x, to_x=self.x))

    def close(self) -> None:
        last = self.bands[-1]
        self.bands[-1] = last.model_copy(update={"to_x": self.x})

    # — the lines

    def join_lines(self) -> None:
        """The pipes along both lines, between what stands on them."""
        turned = {name: n for n, (name, _, _) in enumerate(self.flow)}
        branch = turned.get("diverter", -1)
        first = next((n for n, (name, _, _) in enumerate(self.back) if name == "store return"), -1)
        water = branch >= 0 or self.inventory.machine.contains.diverter
        for n in range(len(self.flow) - 1):
            (a, _, leaves), (b, enters, _) = self.flow[n], self.flow[n + 1]
            both = branch >= 0 and n < branch
            self.pipe(
                a, b, [(leaves, FLOW_Y), (enters, FLOW_Y)], "flow", BOTH if both else ROOMS, self.words if n < 4 else ""
            )
        for n in range(len(self.back) - 1):
            (a, _, enters), (b, leaves, _) = self.back[n], self.back[n + 1]
            both = water and first >= 0 and n < first
            self.pipe(b, a, [(leaves, RETURN_Y), (enters, RETURN_Y)], "return", BOTH if both else ROOMS)


def laid_out(inventory: Inventory, table: dict[str, PlantPartEntry], separation: str) -> tuple[Drawing, float]:
    """The drawing of a plant and its width."""
    to = Drawing(table, inventory, words=inventory.pipe_words)
    _outdoors(to)
    _cupboard(to, separation)
    _house(to)
    to.join_lines()
    return to, to.x + 10


def _outdoors(to: Drawing) -> None:
    split = to.inventory.split
    to.begin("Outdoors")
    x = to.x + 70
    middle = (FLOW_Y + RETURN_Y) / 2
    machine = to.put(
        "machine", x, middle, side="between", at="foot", label="Outdoor unit" if split else "Heat pump", letters=13
    )
    to.put("base", x, machine.y + machine.height / 2 + 20, side="between", at="below", letters=16)
    to.put("outdoor-sensor", x - 30, 74, side="cable", at="right", letters=9)
    meter = to.put("electricity-meter", x - 30, 122, side="cable", at="right", letters=10)
    to.pipe(meter.id, machine.id, [(meter.x, meter.y + 15), (meter.x, machine.y - machine.height / 2)], "cable", [])
    to.x += 134
    edge = machine.x + machine.width / 2
    if not split:
        to.flow.append((machine.id, edge, edge))
        to.back.append((machine.id, edge, edge))
        to.column("hoses", "hoses", wide=COLUMN)
        if to.has("freeze-valves"):
            x = to.x + COLUMN / 2
            to.stub(
                "freeze-valves",
                x,
                on="flow",
                up=False,
                name="freeze-valves flow",
                label="Freeze valve, flow",
                side="flow",
            )
            to.stub(
                "freeze-valves",
                x,
                on="return",
                up=False,
                name="freeze-valves return",
                label="Freeze valve, return",
                side="return",
            )
            to.x += COLUMN
    else:
        to.x += 20
    to.close()
    to.begin("Wall")
    to.x += 34
    to.close()
    to.begin("Plant room")
    if split:
        x = to.x + 60
        unit = to.put(
            "machine",
            x,
            middle,
            name="indoor-unit",
            side="between",
            at="foot",
            label="Indoor unit",
            words="",
            mark="indoor-unit",
            letters=10,
        )
        to.parts[-1] = to.parts[-1].model_copy(
            update={"kind": "", "why": "holds the exchanger; no heating water lies outdoors"}
        )
        for name, y in (("gas", FLOW_Y + 40), ("liquid", RETURN_Y - 40)):
            to.pipe(machine.id, unit.id, [(edge, y), (x - unit.width / 2, y)], "between", [], f"refrigerant {name}")
        to.flow.append((unit.id, x + unit.width / 2, x + unit.width / 2))
        to.back.append((unit.id, x + unit.width / 2, x + unit.width / 2))
        to.x += 130


def _cupboard(to: Drawing, separation: str) -> None:
    to.column("isolators", "isolators")
    to.column("air-separator", "strainer")
    x = to.column("", "fill-and-flush")
    to.stub("vents", x, on="flow", up=True)
    to.column("heater" if to.has("heater") else "", "heat-meter")
    if to.has("relief"):
        to.stub("relief", to.x + 30, on="return", up=False, side="return")
        to.x += 64
    if to.has("vessel"):
        x = to.x + 30
        made = to.tee("at vessel", x, on="return")
        valve = to.put("vessel-valve", x, RETURN_Y + 44, side="return", at="right")
        vessel = to.put("vessel", x, RETURN_Y + 112, side="return", at="right", letters=13)
        to.pipe(made.id, valve.id, [(x, RETURN_Y), (x, valve.y - valve.height / 2)], "return", [])
        to.pipe(valve.id, vessel.id, [(x, valve.y + valve.height / 2), (x, vessel.y - vessel.height / 2)], "return", [])
        to.x += 24 if to.has("store") else 150
    if to.has("store"):
        _store(to)
    if to.has("boiler") and not to.inventory.by_boiler:
        _boiler(to)
    if to.has("volumiser"):
        to.column("", "volumiser", wide=110)
    if separation != "direct":
        _separator(to, separation)
    to.close()


def _store(to: Drawing) -> None:
    """The store between the lines: under its diverter, beside its plate exchanger or beside the boiler that makes its water."""
    middle = (FLOW_Y + RETURN_Y) / 2
    words = to.inventory.parts["store"].words
    if to.inventory.by_boiler:
        boiler = _boiler(to)
        store = to.put("store", boiler.x + 132, middle, side="between", at="head", words=words, letters=10)
        _beside(to, boiler, store)
        _taps(to, store, level=False)
        to.x = store.x + 218
        return
    plate = to.has("plate")
    x = to.x + 116 + (96 if to.inventory.also and not plate else 0)
    store = to.put("store", x + 120 if plate else x, middle, side="between", at="head", words=words, letters=10)
    takes = to.put("plate", x, middle, side="between", at="left", letters=9) if plate else store
    top, foot = (x, takes.y - takes.height / 2), (x, takes.y + takes.height / 2)
    inside = to.inventory.machine.contains.diverter
    if to.has("diverter") or inside:
        back = to.tee("store return", x, on="return")
        to.pipe(takes.id, back.id, [foot, (x, RETURN_Y)], "return", WATER)
    if to.has("diverter"):
        diverter = to.put("diverter", x, FLOW_Y, side="flow", at="above")
        to.flow.append((diverter.id, x - diverter.width / 2, x + diverter.width / 2))
        to.pipe(diverter.id, takes.id, [(x, FLOW_Y + diverter.height / 2), top], "flow", WATER)
    elif inside:
        source = next(part for part in to.parts if part.id == to.flow[0][0])
        edge, y = source.x + source.width / 2, FLOW_Y + 44
        to.pipe(source.id, takes.id, [(edge, y), (x, y), top], "flow", WATER)
    if plate:
        _beside(to, takes, store)
    elif to.inventory.also:
        source = to.put(
            "source",
            store.x - 178,
            middle,
            name="source",
            side="tap",
            at="below",
            label=" and ".join(to.inventory.also),
            mark="source",
        )
        _beside(to, source, store, apart=7)
    _taps(to, store, level=not plate)
    to.x = store.x + 218


def _beside(to: Drawing, source: PlantPart, store: PlantPart, apart: float = 24) -> None:
    """A pair of pipes from what warms the store, level with it."""
    right, left = source.x + source.width / 2, store.x - store.width / 2
    to.pipe(source.id, store.id, [(right, store.y - apart), (left, store.y - apart)], "tap", WATER)
    to.pipe(store.id, source.id, [(left, store.y + apart), (right, store.y + apart)], "tap", WATER)


def _boiler(to: Drawing) -> PlantPart:
    """The boiler beside the machine: from the return to the flow."""
    x = to.x + 60
    up, down = to.tee("boiler flow", x, on="flow"), to.tee("boiler return", x, on="return")
    boiler = to.put("boiler", x, (FLOW_Y + RETURN_Y) / 2, side="between", at="foot", letters=10)
    to.pipe(down.id, boiler.id, [(x, RETURN_Y), (x, boiler.y + boiler.height / 2)], "return", ["heating"])
    to.pipe(boiler.id, up.id, [(x, boiler.y - boiler.height / 2), (x, FLOW_Y)], "flow", ["heating"])
    to.x += 120
    return boiler


def _taps(to: Drawing, store: PlantPart, *, level: bool) -> None:
    """Hot and cold on the right of a store; its sensor and immersion `level` with it on the left, else above and below."""
    plate = not level
    edge, high, low = store.x + store.width / 2, store.y - 38, store.y + 38
    mixing = to.put("mixing-valve", edge + 50, high, side="tap", at="above", letters=8)
    taps = to.put("end", edge + 134, high, name="taps", side="tap", at="above", label="Taps", mark="end")
    safety = to.put("store-safety", edge + 50, low, side="tap", at="below", letters=12)
    main = to.put("end", edge + 134, low, name="main", side="tap", at="above", label="Main", mark="end")
    to.pipe(store.id, mixing.id, [(edge, high), (mixing.x - mixing.width / 2, high)], "tap", [])
    to.pipe(mixing.id, taps.id, [(mixing.x + mixing.width / 2, high), (taps.x - 4, high)], "tap", [])
    to.pipe(safety.id, store.id, [(safety.x - safety.width / 2, low), (edge, low)], "tap", [])
    joined = to.joint("cold to the mixing valve", main.x - 34, low)
    to.pipe(main.id, joined.id, [(main.x - 4, low), (joined.x, low)], "tap", [])
    to.pipe(joined.id, safety.id, [(joined.x, low), (safety.x + safety.width / 2, low)], "tap", [])
    to.pipe(
        joined.id,
        mixing.id,
        [(joined.x, low), (joined.x, store.y), (mixing.x, store.y), (mixing.x, high + mixing.height / 2)],
        "tap",
        [],
    )
    if to.has("immersion"):
        one = to.put(
            "immersion",
            store.x + 16 if plate else store.x - 86,
            store.y + store.height / 2 + 34 if plate else store.y + 30,
            side="cable",
            at="left" if plate else "below",
            letters=10,
        )
        ends = (
            [(one.x, one.y - one.height / 2), (one.x, store.y + store.height / 2)]
            if plate
            else [(one.x + one.width / 2, one.y), (store.x - store.width / 2, one.y)]
        )
        to.pipe(one.id, store.id, ends, "cable", [])
    sensor = to.put(
        "store-sensor",
        store.x - 16 if plate else store.x - 86,
        store.y - store.height / 2 - 30 if plate else store.y - 30,
        side="cable",
        at="left" if plate else "above",
        letters=9,
    )
    ends = (
        [(sensor.x, sensor.y + 10), (sensor.x, store.y - store.height / 2)]
        if plate
        else [(sensor.x + 10, sensor.y), (store.x - store.width / 2, sensor.y)]
    )
    to.pipe(sensor.id, store.id, ends, "cable", [])


def _separator(to: Drawing, kind: str) -> None:
    """A header or buffer between the lines, the second pump behind it."""
    part = "header" if kind == "header" else "buffer"
    x = to.x + 66
    top = FLOW_Y - 24 if kind in ("header", "buffer 4") else FLOW_Y + 46
    foot = RETURN_Y - 46 if kind == "buffer 2" else RETURN_Y + 24
    body = to.put(part, x, (top + foot) / 2, side="between", at="within", tall=foot - top, letters=7)
    left, right = x - body.width / 2, x + body.width / 2
    if to.has("bypass"):
        before = to.tee("before the bypass", left - 24, on="flow")
    if kind in ("header", "buffer 4"):
        to.flow.append((body.id, left, right))
        vent = to.put("buffer-vent", x, top - 30, side="flow", at="above")
        to.pipe(body.id, vent.id, [(x, top), (x, vent.y + vent.height / 2)], "flow", [])
    else:
        made = to.tee("over the buffer", x, on="flow")
        to.pipe(made.id, body.id, [(x, FLOW_Y), (x, top)], "flow", ROOMS)
        vent = to.put("buffer-vent", right + 30, top + 22, side="flow", at="right", letters=9)
        to.pipe(body.id, vent.id, [(right, vent.y), (vent.x - vent.width / 2, vent.y)], "flow", [])
    if kind == "buffer 2":
        made = to.tee("under the buffer", x, on="return")
        to.pipe(body.id, made.id, [(x, foot), (x, RETURN_Y)], "return", ROOMS)
    else:
        to.back.append((body.id, left, right))
    to.x = right + (20 if kind in ("header", "buffer 4") else 40)
    if to.has("bypass"):
        y = FLOW_Y - 138
        after = to.tee("after the bypass", to.x, on="flow")
        valve = to.put("bypass", (before.x + after.x) / 2, y, side="flow", at="above", letters=24)
        to.pipe(before.id, valve.id, [(before.x, FLOW_Y), (before.x, y), (valve.x - valve.width / 2, y)], "flow", [])
        to.pipe(valve.id, after.id, [(valve.x + valve.width / 2, y), (after.x, y), (after.x, FLOW_Y)], "flow", [])
        to.x += 24
    to.column("second-pump", "")
    to.stub("flow-sensor", to.x + 30, on="flow", up=True)
    to.x += 60


def _house(to: Drawing) -> None:
    """The groups of emitters, each between the lines."""
    to.begin("House")
    to.x += 30
    groups = to.inventory.groups or [Group("none", "No emitters yet", "", False, False)]
    for group in groups:
        _group(to, group)
    to.close()


def _group(to: Drawing, group: Group) -> None:
    x = to.x + (76 if group.mixed else 62)
    up, down = to.tee(f"{group.key} flow", x, on="flow"), to.tee(f"{group.key} return", x, on="return")
    y = (FLOW_Y + RETURN_Y) / 2 + (18 if group.mixed else 0)
    above = up.id
    enters = FLOW_Y
    if group.mixed:
        valve = to.put("blending", x, FLOW_Y + 58, name=f"blending {group.key}", side="flow", at="right", letters=9)
        to.pipe(up.id, valve.id, [(x, FLOW_Y), (x, valve.y - valve.height / 2)], "flow", ROOMS)
        above, enters = valve.id, valve.y + valve.height / 2
    if group.manifold:
        manifold = to.put(
            "manifold",
            x,
            enters + 30 if group.mixed else y - 58,
            name=f"manifold {group.key}",
            side="flow",
            at="right",
            letters=9,
        )
        to.pipe(above, manifold.id, [(x, enters), (x, manifold.y - manifold.height / 2)], "flow", ROOMS)
        above, enters = manifold.id, manifold.y + manifold.height / 2
        y = max(y, enters + 46)
    block = to.put(
        "group", x, y, name=group.key, side="between", at="within", label=group.label, words=group.words, mark="group"
    )
    to.pipe(above, block.id, [(x, enters), (x, block.y - block.height / 2)], "flow", ROOMS)
    foot = block.y + block.height / 2
    if group.mixed:
        mix = to.joint(f"{group.key} mix", x, foot + 14)
        side = x - 66
        to.pipe(block.id, mix.id, [(x, foot), (x, mix.y)], "return", ROOMS)
        valve_y = FLOW_Y + 58 - 15
        to.pipe(
            mix.id,
            f"blending {group.key}",
            [(x, mix.y), (side, mix.y), (side, valve_y), (x - 17, valve_y)],
            "return",
            ROOMS,
        )
        to.pipe(mix.id, down.id, [(x, mix.y), (x, RETURN_Y)], "return", ROOMS)
    else:
        to.pipe(block.id, down.id, [(x, foot), (x, RETURN_Y)], "return", ROOMS)
    to.x += 200.0 if group.mixed else 196.0 if group.manifold else 128.0
