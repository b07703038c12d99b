"""A Design as it goes over the line: by section and room, and what of it changed since the one a browser holds.

A difference says only what is another: a leaf is `[value]`, anything between is an object of what lies in it, by name or by
place in a list. Where names or lengths are others than they were the whole stands as a leaf. The browser reads it (`onward.ts`).
"""

from __future__ import annotations

import hashlib
from typing import Any

import rfc8785

from cinder.design import Design
from cinder.design.losses.result import RoomResult

MOSTLY = 3
"""Of a list of plain values, the part (1/3) that may be another before it is sent whole."""
PLAIN = (str, int, float, bool, type(None))


class Shown:
    """A Design as plain values. Rooms that are the same object as in the one `before` are not written out again."""

    def __init__(self, design: Design, before: Shown | None = None) -> None:
        self.design = design
        known = before.rooms if before is not None else {}
        self.rooms: dict[int, tuple[RoomResult, dict[str, Any]]] = {
            id(room): known[id(room)] if id(room) in known else (room, room.model_dump()) for room in design.rooms
        }
        self.whole: dict[str, Any] = {
            name: [self.rooms[id(room)][1] for room in design.rooms] if name == "rooms" else value
            for name, value in {**design.model_dump(exclude={"rooms"}), "rooms": None}.items()
        }


def difference(old: Any, new: Any) -> Any:
    """What of `new` is another than in `old`; None where nothing is."""
    if old is new or old == new:  # compared in C; a field is of one type, so no number is taken for a truth
        return None
    if type(old) is dict and type(new) is dict:
        if list(old) != list(new):
            return [new]
        inside = {name: found for name, was in old.items() if (found := difference(was, new[name])) is not None}
        return inside or None
    if type(old) is list and type(new) is list:
        if len(old) != len(new):
            return [new]
        places = {
            str(n): found
            for n, (was, now) in enumerate(zip(old, new, strict=True))
            if (found := difference(was, now)) is not None
        }
        if len(places) * MOSTLY > len(new) and all(isinstance(now, PLAIN) for now in new):
            return [new]
        return places or None
    return [new]


def fingerprint(document: dict[str, Any], design: dict[str, Any]) -> str:
    """SHA-256 of job and Design in the canonical form of RFC 8785, which a browser can write too."""
    return hashlib.sha256(rfc8785.dumps({"design": design, "job": document})).hexdigest()
