"""Lengths as people write them: 1.2, 1200, 1200mm, 1,2 m, 4' 2 3/8"."""

from __future__ import annotations

import re

from cinder.model.imperial import FOOT_M, INCH_M

UNITS = {"mm": 0.001, "cm": 0.01, "m": 1.0, '"': INCH_M, "in": INCH_M}
_PLAIN = re.compile(r"[-+]?(\d+\.?\d*|\.\d+)")
_MIXED = re.compile(r"(?:(\d+)\s+)?(\d+)/(\d+)")
_FEET = re.compile(r"(.+?)\s*(?:'|ft)\s*(?:(.+?)\s*(?:\"|in)?)?")
_UNIT = re.compile(r"(.+?)\s*(mm|cm|m|\"|in)")


def _number(text: str) -> float | None:
    tidy = text.strip().replace("−", "-").replace(",", ".")  # "9 2" is no 92
    return float(tidy) if _PLAIN.fullmatch(tidy) else None


def _mixed(text: str) -> float | None:
    found = _MIXED.fullmatch(text.strip())
    if not found:
        return _number(text)
    whole, top, bottom = found.groups()
    return int(whole or 0) + int(top) / int(bottom) if int(bottom) else None


def metres(text: str) -> float | None:
    """Metres, or None for what is no length. A bare whole number of 100 or more is millimetres.

    The browser has the same rule for what is typed; `tests/fixtures/lengths.json` holds both to it.

    >>> [metres(t) for t in ("1.2", "1200", "1,2 m", "4' 2\\"", "gate")]
    [1.2, 1.2, 1.2, 1.27, None]
    """
    clean = re.sub("[”″]", '"', re.sub("[’′]", "'", text.strip())).lower()
    feet = _FEET.fullmatch(clean)
    if feet:
        a, b = _mixed(feet.group(1)), _mixed(feet.group(2)) if feet.group(2) else 0.0
        return None if a is None or b is None else round(a * FOOT_M + b * INCH_M, 4)
    unit = _UNIT.fullmatch(clean)
    if unit:
        value = _mixed(unit.group(1))
        return None if value is None else round(value * UNITS[unit.group(2)], 4)
    bare = _number(clean)
    if bare is None:
        return None
    return round(bare / 1000 if bare.is_integer() and bare >= 100 else bare, 4)
