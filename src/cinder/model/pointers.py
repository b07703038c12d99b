"""Who points at whom in a job, and what becomes of what points at something when that is removed: one meaning for all.

The table goes to the browser as data (`cinder.web.rules`), where one function reads it as `removal` does here.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Literal

Then = Literal["entry", "field", "item", "heated", "heir", "stays"]
"""What becomes of it: the whole entry goes (and what points at that); the field alone goes; the name leaves the list; what lies
beyond counts as a heated room; the heir of what is gone takes its place; it stays, for something else must be put there first."""


@dataclass(frozen=True, slots=True)
class Pointer:
    """A place that names something. `path` with `*` for any id; its last part `=` means the name is the key there, `[]` that it is
    one of a list. `entry`: how many parts of the path make the entry the pointer belongs to, and `of` what kind that is.
    `beside`: fields of the entry that must name what the removed thing stands in."""

    to: str
    path: str
    then: Then
    entry: int = 0
    of: str = ""
    beside: tuple[str, ...] = ()


POINTERS = (
    Pointer("room", "/survey/emitters/*/room", "entry", 3, "emitter"),
    Pointer("room", "/schemes/*/emitters/*/room", "entry", 4, "emitter"),
    Pointer("room", "/schemes/*/targets/=", "entry", 4),
    Pointer("room", "/schemes/*/concessions/=", "entry", 4),
    Pointer("room", "/schemes/*/measures/*/room", "entry", 4),
    Pointer("room", "/survey/rooms/*/faces/*/spans/*/beyond/room", "heated", 7),
    Pointer("room", "/survey/manifolds/*/rooms/[]", "item"),
    Pointer("room", "/schemes/*/zones/*/rooms/[]", "item"),
    Pointer("room", "/survey/photos/*/room", "entry", 3),
    Pointer("room", "/fire_up/observations/*/rooms/=", "entry", 5),
    Pointer("emitter", "/fire_up/observations/*/tails/=", "entry", 5),
    Pointer("emitter", "/survey/pipe_tests/*/only", "entry", 3),
    Pointer("emitter", "/survey/pipe_tests/*/returns/=", "entry", 5),
    Pointer("emitter", "/survey/pipe_tests/*/gauges/=", "entry", 5),
    Pointer("room", "/survey/pipe_tests/*/rooms/=", "entry", 5),
    Pointer("emitter", "/survey/pipes/*/emitter", "field"),
    Pointer("emitter", "/schemes/*/pipes/*/run/emitter", "field"),
    Pointer("emitter", "/schemes/*/emitters/=", "entry", 4),
    Pointer("emitter", "/survey/photos/*/emitter", "field"),
    Pointer("opening", "/schemes/*/measures/*/opening", "entry", 4, beside=("room", "face")),
    Pointer("pipe", "/survey/pipes/*/parent", "heir"),
    Pointer("pipe", "/schemes/*/pipes/*/run/parent", "heir"),
    Pointer("pipe", "/schemes/*/pipes/=", "entry", 4),
    Pointer("scheme", "/active_scheme", "field"),
    Pointer("scheme", "/handover/offer/variants/[]", "item"),
    Pointer("scheme", "/handover/offer/lines/*/scheme", "entry", 4),
    Pointer("candidate", "/schemes/*/chosen", "field"),
    Pointer("unit place", "/schemes/*/candidates/*/place", "field"),
    Pointer("store", "/schemes/*/hot_water/keeps", "field"),
    Pointer("space", "/survey/parts/*/loft", "field"),
    Pointer("space", "/survey/rooms/*/faces/*/spans/*/beyond/space", "heated", 7),
    Pointer("neighbour", "/survey/rooms/*/faces/*/spans/*/beyond/neighbour", "heated", 7),
    Pointer("part", "/survey/rooms/*/part", "field"),
    Pointer("part", "/schemes/*/measures/*/part", "entry", 4),
    Pointer("storey", "/survey/rooms/*/storey", "field"),
    Pointer("construction", "/survey/parts/*/constructions/*", "stays"),
    Pointer("construction", "/survey/rooms/*/faces/*/construction", "stays"),
    Pointer("construction", "/survey/rooms/*/faces/*/openings/*/construction", "stays"),
    Pointer("construction", "/survey/spaces/*/faces/*/construction", "stays"),
    Pointer("construction", "/survey/spaces/*/cellar/wall", "stays"),
    Pointer("construction", "/survey/spaces/*/cellar/floor", "stays"),
    Pointer("construction", "/schemes/*/measures/*/construction", "stays"),
    Pointer("construction", "/schemes/*/measures/*/was", "stays"),
)
HOMES = {
    "room": ("/survey/rooms/*",), "emitter": ("/survey/emitters/*",), "pipe": ("/survey/pipes/*",),
    "space": ("/survey/spaces/*",), "neighbour": ("/survey/neighbours/*",), "part": ("/survey/parts/*",),
    "storey": ("/survey/storeys/*",), "candidate": ("/schemes/*/candidates/*",), "construction": ("/library/constructions/*",),
    "unit place": ("/site/places/*",), "store": ("/survey/stores/*",),
    "opening": ("/survey/rooms/*/faces/*/openings/*",), "scheme": ("/schemes/*",),
}  # fmt: skip
"""Where what is pointed at lies."""
HEIR = "parent"
"""The field that names whose place an heir takes."""


def places(document: dict[str, Any], path: str) -> Iterator[tuple[list[str], Any]]:
    """Every place of a path with `*` that is there, as its parts, with what stands in it; keys for `=`, items for `[]`."""

    def walk(node: Any, parts: list[str], done: list[str]) -> Iterator[tuple[list[str], Any]]:
        if not parts:
            yield done, node
            return
        head, rest = parts[0], parts[1:]
        if head == "[]":
            if isinstance(node, list):
                yield from ((done, item) for item in node)
        elif not isinstance(node, dict):
            return
        elif head == "=":
            yield from (([*done, key], key) for key in node)
        elif head == "*":
            for key in node:
                yield from walk(node[key], rest, [*done, key])
        elif head in node:
            yield from walk(node[head], rest, [*done, head])

    yield from walk(document, path.split("/")[1:], [])


def at(document: dict[str, Any], parts: list[str]) -> Any:
    """What stands at a place; None where nothing is."""
    node: Any = document
    for part in parts:
        node = node.get(part) if isinstance(node, dict) else None
    return node


def pointing(
    document: dict[str, Any], to: str, name: str, within: tuple[str, ...] = ()
) -> Iterator[tuple[Pointer, list[str]]]:
    """Every place that names something of a kind. `within`: what it stands in (room and face of an opening)."""
    for pointer in POINTERS:
        if pointer.to != to:
            continue
        for parts, value in places(document, pointer.path):
            if value != name:
                continue
            entry = at(document, parts[: pointer.entry])
            if all(entry.get(field) == wanted for field, wanted in zip(pointer.beside, within, strict=True)):
                yield pointer, parts


def removal(document: dict[str, Any], to: str, name: str, within: tuple[str, ...] = ()) -> dict[str, Any]:
    """The document without something, and without what cannot be without it. The given one is not touched.

    Raises `ValueError` where something must be put in its place first.
    """
    out: dict[str, Any] = _copied(document)
    _remove(out, to, name, within)
    return out


def _remove(document: dict[str, Any], to: str, name: str, within: tuple[str, ...]) -> None:
    heir = next((v.get(HEIR) for home in HOMES[to] for p, v in places(document, home) if p[-1] == name), None)
    for pointer, parts in list(pointing(document, to, name, within)):
        place = parts[:-1]
        holder = at(document, place)
        if holder is None:
            continue  # gone with what it belonged to
        if pointer.then == "stays":
            raise ValueError(f"/{'/'.join(parts)} still names it")
        if pointer.then == "entry":
            entry = parts[: pointer.entry]
            if pointer.of and entry[-1] != name:
                _remove(document, pointer.of, entry[-1], ())
            elif at(document, entry[:-1]) is not None:
                at(document, entry[:-1]).pop(entry[-1], None)
        elif pointer.then == "item":
            at(document, parts)[:] = [one for one in at(document, parts) if one != name]
        elif pointer.then == "heated":
            at(document, place[:-1])["beyond"] = {"kind": "heated"}
        elif pointer.then == "heir" and heir is not None:
            holder[parts[-1]] = heir
        else:
            holder.pop(parts[-1], None)
    for home in HOMES[to]:
        for parts, _ in list(places(document, home)):
            stands = tuple(part for part, said in zip(parts, home.split("/")[1:], strict=True) if said == "*")[:-1]
            if parts[-1] == name and (not within or stands == within):
                at(document, parts[:-1]).pop(name, None)


def _copied(node: Any) -> Any:
    if isinstance(node, dict):
        return {key: _copied(value) for key, value in node.items()}
    return [_copied(one) for one in node] if isinstance(node, list) else node
