"""What did not change is read once: parts of documents that are the same to the letter share what was made of them.

An edit touches one room or one pipe; the document is read anew with every one. Entries of its large maps are kept by their
contents, so that two documents hold the same object where they say the same, and nothing may ever change one in place.
"""

from __future__ import annotations

import marshal
import threading
from collections import OrderedDict
from collections.abc import Iterator
from typing import Any

from pydantic import BaseModel

SHARED = {
    "library": ("constructions", "emitter_types", "pipe_families", "machines", "climates", "tables"),
    "survey": ("parts", "storeys", "rooms", "spaces", "emitters", "pipes", "photos"),
}
MOST_ENTRIES = 8192
MOST_BYTES = 64 * 1024 * 1024
"""Of the contents by which they are kept; what was made of them takes some ten times that (measured on the demo houses)."""
LONGEST = 1024 * 1024
PLAIN = 2
"""Of marshal: to the letter (2 and 2.0, no number and nothing are told apart), and without regard to what shares what."""
Key = tuple[str, str, bytes]


class Sharing:
    """Entries by kind and contents, the least lately used forgotten first; may be asked by many threads."""

    def __init__(self) -> None:
        self._kept: OrderedDict[Key, BaseModel] = OrderedDict()
        self._bytes = 0
        self._lock = threading.Lock()

    def with_known(self, document: dict[str, Any]) -> tuple[dict[str, Any], dict[tuple[str, str, str], Key]]:
        """The document with every entry that is known in place of what it says, and under what the others are to be kept."""
        out, unknown = dict(document), {}
        for section, kind, entries in _maps(document):
            new = {}
            for name, said in entries.items():
                new[name] = said
                key = _key(section, kind, said)
                if key is None:
                    continue
                with self._lock:
                    known = self._kept.get(key)
                    if known is not None:
                        self._kept.move_to_end(key)
                if known is not None:
                    new[name] = known
                else:
                    unknown[section, kind, name] = key
            if out[section] is document[section]:
                out[section] = dict(document[section])
            out[section][kind] = new
        return out, unknown

    def keep(self, made: BaseModel, unknown: dict[tuple[str, str, str], Key]) -> None:
        """Keep what was made of entries that were not known yet."""
        with self._lock:
            for (section, kind, name), key in unknown.items():
                if key not in self._kept:
                    self._kept[key] = getattr(getattr(made, section), kind)[name]
                    self._bytes += len(key[2])
            while len(self._kept) > MOST_ENTRIES or self._bytes > MOST_BYTES:
                (_, _, contents), _ = self._kept.popitem(last=False)
                self._bytes -= len(contents)


def _maps(document: dict[str, Any]) -> Iterator[tuple[str, str, dict[Any, Any]]]:
    for section, kinds in SHARED.items():
        part = document.get(section)
        if type(part) is not dict:
            continue
        for kind in kinds:
            entries = part.get(kind)
            if type(entries) is dict and entries:
                yield section, kind, entries


def _key(section: str, kind: str, said: Any) -> Key | None:
    if type(said) is not dict:
        return None
    try:
        contents = marshal.dumps(said, PLAIN)
    except ValueError:  # something no file could hold: for the model to refuse
        return None
    return (section, kind, contents) if len(contents) <= LONGEST else None
