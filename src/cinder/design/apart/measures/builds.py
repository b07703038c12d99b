"""What a build becomes by a measure: what is filled, put outside, inside, on top or below."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass

from cinder.design.fabric.u_values import Transmittances
from cinder.design.house.overlay import surfaces_inside
from cinder.design.house.view import HouseView
from cinder.library import ConstructionEntry, LayerEntry, MeasureEntry, layer_of, load

MASONRY = (
    "brick",
    "block",
    "stone",
    "granite",
    "limestone",
    "concrete",
    "no-fines",
    "sand-lime",
    "clay-block",
    "aerated",
)
CLADDING = ("softwood", "hardwood", "tiles", "slate", "steel", "plywood")
INSULATION_LAMBDA = 0.06
WORTH_INSIDE_U = 0.6
SINGLE_GLASS_U = 4.5
"""A pane alone has a U of 5.7 W/m2K, the poorest double glazing one of about 3 (common practice)."""
LEAST_CAVITY_M, GREATEST_CAVITY_M = 0.04, 0.13
MM = 1000
KEY_LENGTH = 64


SUITS: dict[str, tuple[str, ...]] = {
    "cavity": ("outside", "space"), "outside": ("outside",), "inside": ("outside", "space", "ground"), "top": ("space",),
    "below": ("outside", "space", "ground"), "slope": ("outside", "space"), "": ("outside", "space"),
}  # fmt: skip
"""Where a measure can be done, by what lies beyond the face; nothing: what is put in anew (windows, doors)."""


@dataclass(slots=True)
class Use:
    """A construction as found and as it is now under the scheme, and how much of it loses heat, m2, by what lies beyond.

    `name`: what options on it go by: its root, or what it is now where faces of one root are several builds now. These faces are
    what a measure on it is priced by, what it changes, and what its words and its undoing speak of.
    """

    root: str
    now: ConstructionEntry
    areas: dict[str, float]
    by_measures: tuple[str, ...]
    name: str = ""

    def __post_init__(self) -> None:
        self.name = self.name or self.root

    def suited(self, entry: MeasureEntry) -> Use:
        """The part of it a measure can be done to."""
        kinds = SUITS[entry.where or ""]
        if entry.where == "inside" and self.now.element == "roof":
            kinds = tuple(kind for kind in kinds if kind != "space")  # a ceiling under a loft is insulated on top
        return Use(
            self.root, self.now, {k: a for k, a in self.areas.items() if k in kinds}, self.by_measures, self.name
        )

    @property
    def area_m2(self) -> float:
        return sum(self.areas.values())


def becomes(house: HouseView, use: Use, entry: MeasureEntry, thickness_m: float) -> list[ConstructionEntry]:
    """What the construction turns into; nothing where the measure does not fit its build."""
    if entry.put:
        if entry.only_single and not _single(use.now):
            return []
        return [load().constructions[key] for key in entry.put if key != use.now.id]
    made = LAYERS[entry.where or "inside"](use, entry, thickness_m)
    if made is None:
        return []
    suffix = f"--{entry.id}" + (f"-{round(thickness_m * MM)}" if thickness_m else "")
    detail = f"{round(thickness_m * MM)} mm " if thickness_m else ""
    material = load().materials[entry.add or ""].label
    return [
        ConstructionEntry(
            id=_key(use.now.id, suffix),
            label=f"{use.now.label} + {detail}{material}"[:300],
            element=use.now.element,
            build=use.now.build,
            age=use.now.age,
            floor_kind=use.now.floor_kind,
            layers=made,
            source=f"{use.now.source}; {entry.label.lower()}"[:300],
        )
    ]


def _single(entry: ConstructionEntry) -> bool:
    """Whether a window has one pane; one known by its U alone is judged by that."""
    if entry.glazing is not None:
        return entry.glazing.glass_u_w_m2k >= SINGLE_GLASS_U
    return Transmittances({entry.id: entry}).u(entry.id) >= SINGLE_GLASS_U


def _key(base: str, suffix: str) -> str:
    plain = re.sub(r"[^a-z0-9_-]", "-", base.lower()).lstrip("_-") or "c"
    return plain[: KEY_LENGTH - len(suffix)] + suffix


def _has_insulation(layers: list[LayerEntry]) -> bool:
    return any(one.lambda_w_mk is not None and one.lambda_w_mk < INSULATION_LAMBDA for one in layers)


def _is(layer: LayerEntry, materials: tuple[str, ...]) -> bool:
    name = layer.material or layer.label.lower()
    return any(material in name for material in materials)


def _added(entry: MeasureEntry, thickness_m: float) -> LayerEntry:
    return layer_of(f"{entry.add} {round(thickness_m * MM)}", load().materials)


def _finish(entry: MeasureEntry) -> list[LayerEntry]:
    return [layer_of(text, load().materials) for text in entry.finish]


def _in_cavity(use: Use, entry: MeasureEntry, _: float) -> list[LayerEntry] | None:
    layers = list(use.now.layers)
    for n, one in enumerate(layers):
        fits = one.air == "still" and LEAST_CAVITY_M <= (one.thickness_m or 0.0) <= GREATEST_CAVITY_M
        between = 0 < n < len(layers) - 1 and _is(layers[n - 1], MASONRY) and _is(layers[n + 1], MASONRY)
        if fits and between and not one.bridge_share:
            layers[n] = _added(entry, one.thickness_m or 0.0)
            return layers
    return None


def _outside(use: Use, entry: MeasureEntry, thickness_m: float) -> list[LayerEntry] | None:
    layers = list(use.now.layers)
    clad = use.now.element == "wall" and bool(layers) and _is(layers[-1], CLADDING)
    if not layers or clad or any(one.air == "open" for one in layers):
        return None
    return [*layers, _added(entry, thickness_m), *_finish(entry)]


def _inside(use: Use, entry: MeasureEntry, thickness_m: float) -> list[LayerEntry] | None:
    u = Transmittances({use.now.id: use.now}).u(use.now.id)
    if not use.now.layers or u < WORTH_INSIDE_U:
        return None
    return [*_finish(entry), _added(entry, thickness_m), *use.now.layers]


def _on_top(use: Use, entry: MeasureEntry, thickness_m: float) -> list[LayerEntry] | None:
    return [*use.now.layers, _added(entry, thickness_m)] if use.now.layers else None


def _below(use: Use, entry: MeasureEntry, thickness_m: float) -> list[LayerEntry] | None:
    boards = (
        use.now.floor_kind == "suspended" and use.now.layers and use.now.layers[0].material in ("softwood", "chipboard")
    )
    if not boards or _has_insulation(use.now.layers):
        return None
    wool = layer_of(f"{entry.add} {round(thickness_m * MM)} / softwood 12%", load().materials)
    return [*use.now.layers, wool]


LAYERS: dict[str, Callable[[Use, MeasureEntry, float], list[LayerEntry] | None]] = {
    "cavity": _in_cavity, "outside": _outside, "inside": _inside, "top": _on_top, "below": _below, "slope": _inside,
}  # fmt: skip


def u_values(use: Use, becomes: ConstructionEntry) -> tuple[float, float]:
    """U before and after, W/m2K: over the faces it is done to, each with the surfaces it has."""
    u = Transmittances({use.now.id: use.now, becomes.id: becomes})

    def mean(key: str) -> float:
        return sum(a * u.u(key, indoors=surfaces_inside(beyond)) for beyond, a in use.areas.items()) / use.area_m2

    return mean(use.now.id), mean(becomes.id)
