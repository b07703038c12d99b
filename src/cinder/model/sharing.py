"""What did not change is read once: parts of documents that are the same to the letter share what was made of them.

An edit touches one room or one pipe; the document is read anew with every one. Entries of its large maps are kept by their
contents, so that two documents hold the same object where they say the same, and nothing may ever change one in place.
"""

from __future__ import annotations

import marshal
import threading
from collections import OrderedDict
from typing import Any

from pydantic import BaseModel

MAPS = (
    *(
        ("library", k)
        for k in ("constructions", "emitter_types", "pipe_families", "machines", "climates", "tables", "place_rules")
    ),
    *(
        ("survey", k)
        for k in (
            "parts",
            "storeys",
            "rooms",
            "spaces",
            "neighbours",
            "emitters",
            "pipes",
            "pipe_tests",
            "risers",
            "manifolds",
            "photos",
            "walk_round",
            "stores",
        )
    ),
    ("schemes",),
    ("fire_up", "observations"),
    ("fire_up", "steps"),
)
"""Maps whose entries are shared one by one."""
WHOLE = (
    ("practice",),
    ("climate",),
    ("tariff",),
    ("site",),
    ("survey", "tightness"),
    ("survey", "ventilation"),
    ("survey", "household"),
)
"""Sections that are shared as they stand."""
MOST_ENTRIES = 8192
MOST_BYTES = 64 * 1024 * 1024
"""Of the contents by which they are kept; what was made of them takes some ten times that (measured on the demo houses)."""
LONGEST = 1024 * 1024
PLAIN = 2
"""Of marshal: to the letter (2 and 2.0, no number and nothing are told apart), and without regard to what shares what."""
Path = tuple[str, ...]
Key = tuple[Path, bytes]


class Sharing:
    """Entries by place and contents, the least lately used forgotten first; may be asked by many threads."""

    def __init__(self) -> None:
        self._kept: OrderedDict[Key, BaseModel] = OrderedDict()
        self._bytes = 0
        self._lock = threading.Lock()

    def with_known(
        self, document: dict[str, Any], like: tuple[dict[str, Any], BaseModel] | None = None
    ) -> tuple[dict[str, Any], dict[Path, Key]]:
        """The document with every entry that is known in place of what it says, and under what the others are to be kept.

        `like`: a document that was read, and what was made of it; what is the very same object there need not be looked at.
        """
        out = dict(document)
        unknown: dict[Path, Key] = {}
        copied: set[Path] = set()
        for path in (*MAPS, *WHOLE):
            holder = _holder(document, path)
            said = holder.get(path[-1]) if holder is not None else None
            if type(said) is not dict:
                continue
            if len(path) > 1 and path[:1] not in copied:
                out[path[0]] = dict(out[path[0]])
                copied.add(path[:1])
            into = out if len(path) == 1 else out[path[0]]
            before, made = _before(like, path)
            if path in WHOLE:
                into[path[-1]] = made if said is before else self._known(path, path, said, unknown)
                continue
            same = {name for name, one in said.items() if before is not None and before.get(name) is one}
            into[path[-1]] = {
                name: made[name] if name in same else self._known(path, (*path, name), said[name], unknown)
                for name in _sorted(said)
            }
        return out, unknown

    def _known(self, kind: Path, place: Path, said: Any, unknown: dict[Path, Key]) -> Any:
        key = _key(kind, said)
        if key is None:
            return said
        with self._lock:
            known = self._kept.get(key)
            if known is not None:
                self._kept.move_to_end(key)
                return known
        unknown[place] = key
        return _in_order(said)

    def keep(self, made: BaseModel, unknown: dict[Path, Key]) -> None:
        """Keep what was made of entries that were not known yet."""
        with self._lock:
            for place, key in unknown.items():
                if key not in self._kept:
                    one: Any = made
                    for step in place:
                        one = one[step] if isinstance(one, dict) else getattr(one, step)
                    self._kept[key] = one
                    self._bytes += len(key[1])
            while len(self._kept) > MOST_ENTRIES or self._bytes > MOST_BYTES:
                (_, contents), _ = self._kept.popitem(last=False)
                self._bytes -= len(contents)


def _sorted(said: dict[Any, Any]) -> list[Any]:
    return sorted(said) if all(isinstance(name, str) for name in said) else list(said)


def _in_order(said: Any) -> Any:
    """The same with the names of every map in order: what is judged must not hang on how a database keeps them."""
    if type(said) is dict:
        return {name: _in_order(said[name]) for name in _sorted(said)}
    return [_in_order(one) for one in said] if type(said) is list else said


def _before(like: tuple[dict[str, Any], BaseModel] | None, path: Path) -> tuple[Any, Any]:
    """What stood at a place of a document that was read, and what was made of it."""
    if like is None:
        return None, None
    holder = _holder(like[0], path)
    said, made = holder.get(path[-1]) if holder is not None else None, like[1]
    if type(said) is not dict:
        return None, None
    for step in path:
        made = getattr(made, step)
    return said, made


def _holder(document: dict[str, Any], path: Path) -> dict[Any, Any] | None:
    holder = document if len(path) == 1 else document.get(path[0])
    return holder if type(holder) is dict else None


def _key(kind: Path, said: Any) -> Key | None:
    if type(said) is not dict:
        return None
    try:
        contents = marshal.dumps(said, PLAIN)
    except ValueError:  # something no file could hold: for the model to refuse
        return None
    return (kind, contents) if len(contents) <= LONGEST else None
