"""What the steps of one job gave last, by what they were made from: an edit then costs what it touches.

What a step gives hangs on what it needs alone, and nothing it gives is ever changed; so the same needs have the same gift.
Needs are the same where they are the same objects (parsing shares what did not change), or equal plain values.
"""

from __future__ import annotations

import marshal
import math
import threading
from collections.abc import Callable, Hashable, Mapping
from dataclasses import fields, is_dataclass
from operator import eq, is_
from typing import Any, TypeVar

import numpy as np

from cinder.design.findings import Finding, Findings

T = TypeVar("T")
Needs = tuple[object, ...]
LIKE_PLAIN = (str, int, bool, bytes)
PLAIN = frozenset({str, int, bool, bytes, type(None)})
IDLE_WALKS = 24
"""Walks after which what was not asked for is forgotten (a room that is gone)."""


def same(one: Needs, other: Needs) -> bool:
    """Whether two lists of needs are the same, each by identity or by its plain value."""
    if len(one) != len(other):
        return False
    if all(map(is_, one, other)):
        return True
    for a, b in zip(one, other, strict=True):
        if a is b or (type(a) in PLAIN and type(b) is type(a) and a == b):
            continue
        if not _alike(a, b):
            return False
    return True


def _alike(a: object, b: object) -> bool:
    if type(a) is not type(b):
        return False
    if isinstance(a, float) and isinstance(b, float):
        return a == b and (a != 0.0 or math.copysign(1.0, a) == math.copysign(1.0, b))
    if isinstance(a, tuple) and isinstance(b, tuple):
        return same(a, b)
    return isinstance(a, LIKE_PLAIN) and a == b


def to_the_bit(one: Any, other: Any) -> bool:
    """Whether two things are the same in every figure: arrays, and what is made of them."""
    if one is other:
        return True
    if type(one) is not type(other):
        return False
    if isinstance(one, np.ndarray):
        return bool(one.dtype == other.dtype and one.shape == other.shape and one.tobytes() == other.tobytes())
    if isinstance(one, list | tuple):
        return len(one) == len(other) and all(map(to_the_bit, one, other))
    if isinstance(one, dict):
        return list(one) == list(other) and all(map(to_the_bit, one.values(), other.values()))
    if is_dataclass(one):
        pairs = [(getattr(one, f.name), getattr(other, f.name)) for f in fields(one)]
        pairs.sort(key=lambda pair: not isinstance(pair[0], np.ndarray))  # what tells two apart soonest
        return all(to_the_bit(*pair) for pair in pairs)
    return _alike(one, other) if isinstance(one, float) else bool(one == other)


def entries(mapping: Mapping[str, object]) -> Needs:
    """What a map holds, as needs."""
    return (*mapping, *mapping.values())


def to_the_letter(value: Any) -> bytes:
    """Plain values (numbers, text, tuples and lists of them) as one that is the same only where every figure is."""
    return marshal.dumps(value, 2)


class Slot:
    """What was given last by one name: what stands, and what stood before it, so that a look at something else and back costs
    nothing; and the walk that asked last."""

    __slots__ = ("needs", "needs_before", "value", "value_before", "walk")

    def __init__(self) -> None:
        self.walk = 0
        self.needs: Needs | None = None
        self.needs_before: Needs | None = None
        self.value: Any = None
        self.value_before: Any = None

    def turn(self, needs: Needs, value: Any) -> None:
        """This stands now; what stood is what stood before."""
        self.needs_before, self.value_before = self.needs, self.value
        self.needs, self.value = needs, value


class Kept:
    """Of one job; asked by one walk at a time (`lock`)."""

    def __init__(self) -> None:
        self.lock = threading.Lock()
        self._entries: dict[Hashable, Slot] = {}
        self._walk = 0

    def begin(self) -> None:
        """A new walk begins; what none of the last asked for is forgotten."""
        self._walk += 1
        if self._walk % IDLE_WALKS == 0:
            self._entries = {
                slot: entry for slot, entry in self._entries.items() if entry.walk > self._walk - IDLE_WALKS
            }

    def of(self, slot: Hashable, needs: Needs, make: Callable[[], T]) -> T:
        """What was made under this name from the same needs, else what `make` gives."""
        entry = self._entries.get(slot)
        if entry is None:
            entry = self._entries[slot] = Slot()
        entry.walk = self._walk
        known: T
        if entry.needs is not None and same(entry.needs, needs):
            known = entry.value
            return known
        if entry.needs_before is not None and same(entry.needs_before, needs):
            known = entry.value_before
            entry.turn(needs, known)
            return known
        known = make()
        entry.turn(needs, known)
        return known

    def steady(self, slot: Hashable, needs: Needs) -> Needs:
        """Needs that many share, as the same object as long as they are the same."""
        return self.of(slot, needs, lambda: needs)

    def as_before(self, slot: Hashable, made: T, alike: Callable[[T, T], bool] = eq) -> T:
        """What was made under this name before, where it is equal to what is made now: what hangs on it then stands."""
        entry = self._entries.get(slot)
        if entry is None:
            entry = self._entries[slot] = Slot()
        entry.walk = self._walk
        known: T
        for needs, value in ((entry.needs, entry.value), (entry.needs_before, entry.value_before)):
            if needs is not None and alike(value, made):
                known = value
                return known
        entry.turn((), made)
        return made

    def latest(self, slot: Hashable) -> Any:
        """What was made last under this name, from whatever; None if nothing was. For what can take over parts of it."""
        entry = self._entries.get(slot)
        return entry.value if entry is not None else None

    def told(self, slot: Hashable, needs: Needs, findings: Findings, make: Callable[[Findings], T]) -> T:
        """As `of`, for what has something to say: it is said again."""

        def with_said() -> tuple[T, list[Finding]]:
            own = Findings()
            made = make(own)
            return made, own.items

        value, said = self.of(slot, needs, with_said)
        if said:
            findings.items.extend(said)
        return value

    def held(self) -> int:
        """How many things are kept."""
        return sum((entry.needs is not None) + (entry.needs_before is not None) for entry in self._entries.values())


class Afresh(Kept):
    """Keeps nothing: everything is made anew."""

    def of(self, slot: Hashable, needs: Needs, make: Callable[[], T]) -> T:
        return make()

    def as_before(self, slot: Hashable, made: T, alike: Callable[[T, T], bool] = eq) -> T:
        return made

    def told(self, slot: Hashable, needs: Needs, findings: Findings, make: Callable[[Findings], T]) -> T:
        return make(findings)
