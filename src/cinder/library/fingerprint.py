"""Fingerprints of library entries, that neither absent nor new fields can change."""

from __future__ import annotations

import hashlib
import re
import threading
from collections import OrderedDict
from collections.abc import Iterator
from typing import Any

import orjson

from cinder.library.entries import Entry

NEGATIVE_ZERO = re.compile(rb"(?<![\w.])-0\.0(?=[,\]}])")
"""A database keeps no sign of a zero, and neither may a fingerprint."""
_SINCE_LAYERS = {"material", "mu", "air", "emissivity"}
_CLIMATE = {
    "latitude_deg", "longitude_deg", "utc_offset_h", "altitude_m", "monthly_mean_c", "p996_c", "p99_c", "day_c", "three_days_c",
    "long_term_p996_c", "long_term_p99_c", "typical", "year_sha256",
}  # fmt: skip
_TABLES = {"vent_m3h", "shield_e", "junctions", "fuels", "space_air_per_h"}
LATER: tuple[dict[str, Any], ...] = (
    {},
    # not yet there in 0.3.0
    {"EmitterTypeEntry": {"form", "kg_per_m_at_600", "spread"}, "TablesEntry": {"emitter_factors"}},
    # not yet there in 0.1.0 and 0.2.0 (library 2026.1)
    {
        "ConstructionEntry": {"build": True, "stated_u_w_m2k": True, "layers": {"__all__": _SINCE_LAYERS}},
        "ClimateEntry": _CLIMATE, "EmitterTypeEntry": {"form", "kg_per_m_at_600", "spread"},
        "TablesEntry": {"emitter_factors", *_TABLES},
    },
)  # fmt: skip
"""Fields that editions before did not know: until 0.4.0 fingerprints were taken over every field of their day, empty ones
among them."""


def _sha256(data: Any) -> str:
    text = orjson.dumps(data, option=orjson.OPT_SORT_KEYS)
    return hashlib.sha256(NEGATIVE_ZERO.sub(b"0.0", text)).hexdigest()


def entry_sha256(entry: Entry) -> str:
    """Fingerprint of an entry: SHA-256 of its canonical JSON (keys sorted, numbers as the model types them), of the fields
    alone that say something: those at their defaults are left out, so that a field more in the model changes none."""
    return _sha256(entry.model_dump(mode="json", exclude_defaults=True))


def _ever(entry: Entry) -> Iterator[str]:
    """The fingerprints a copy may carry: of this edition, of every edition before, and of the fields it was stored with."""
    yield entry_sha256(entry)
    yield _sha256(entry.model_dump(mode="json", exclude_unset=True))
    for later in LATER:
        yield _sha256(entry.model_dump(mode="json", exclude=later.get(type(entry).__name__)))


_KNOWN: OrderedDict[tuple[str, str, bytes], bool] = OrderedDict()
_KEPT = 4096
_lock = threading.Lock()


def is_of(entry: Entry, sha256: str) -> bool:
    """Whether a fingerprint, of whatever edition, belongs to these contents. Remembered by the contents: a job is read
    anew with every edit, and its copies are the same."""
    text = entry.model_dump_json(exclude_unset=True).encode()
    key = (type(entry).__name__, sha256, hashlib.sha256(text).digest())
    known = _KNOWN.get(key)
    if known is None:
        known = any(one == sha256 for one in _ever(entry))
        with _lock:
            _KNOWN[key] = known
            while len(_KNOWN) > _KEPT:
                _KNOWN.popitem(last=False)
    return known
