"""JSON read strictly: no NaN, no infinities, no duplicate keys, no broken text, no bottomless nesting."""

from __future__ import annotations

import json
import math
from typing import Any, NoReturn

from cinder.errors import MalformedJson, Problem, TooLarge

MAX_DEPTH = 64
MAX_BYTES = 8 * 1024 * 1024


def loads(data: bytes, *, max_bytes: int = MAX_BYTES) -> Any:
    """Parse UTF-8 JSON.

    Raises `TooLarge` beyond `max_bytes`; `MalformedJson` naming the trouble for anything JSON does not
    know (NaN, Infinity, 1e400), for duplicate keys, for lone surrogates and U+0000 in text, and for
    nesting deeper than 64.

    >>> loads(b'{"a": 1}')
    {'a': 1}
    """
    if len(data) > max_bytes:
        raise TooLarge(f"{len(data):,} bytes; at most {max_bytes:,} are taken.")
    _depth(data)
    try:
        text = data.decode("utf-8")
        value = json.loads(text, object_pairs_hook=_pairs, parse_constant=_constant, parse_float=_float)
    except UnicodeDecodeError as error:
        raise MalformedJson(f"Not UTF-8 text: byte {error.start}.") from None
    except json.JSONDecodeError as error:
        raise MalformedJson(f"Not JSON: {error.msg} in line {error.lineno}, column {error.colno}.") from None
    except ValueError as error:  # integers of thousands of digits
        raise MalformedJson(f"Not a usable number: {error}.") from None
    _texts(value, "")
    return value


def _depth(data: bytes) -> None:
    depth = 0
    quoted = escaped = False
    if data.count(b"{") + data.count(b"[") <= MAX_DEPTH:
        return
    for byte in data:
        if quoted:
            if escaped:
                escaped = False
            elif byte == 0x5C:
                escaped = True
            elif byte == 0x22:
                quoted = False
        elif byte == 0x22:
            quoted = True
        elif byte in (0x7B, 0x5B):
            depth += 1
            if depth > MAX_DEPTH:
                raise MalformedJson(f"Nested deeper than {MAX_DEPTH}.")
        elif byte in (0x7D, 0x5D):
            depth -= 1


def _pairs(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    out = dict(pairs)
    if len(out) != len(pairs):
        seen: set[str] = set()
        for key, _ in pairs:
            if key in seen:
                raise MalformedJson(f"The key {key!r} stands twice in one object.", problems=(Problem(key, "twice"),))
            seen.add(key)
    return out


def _constant(name: str) -> NoReturn:
    raise MalformedJson(f"{name} is no number here.")


def _float(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise MalformedJson(f"{text} is beyond any number here.")
    return value


def _texts(value: Any, path: str) -> None:
    if isinstance(value, str):
        if "\x00" in value or any(0xD800 <= ord(c) <= 0xDFFF for c in value):
            raise MalformedJson(
                "Text holds U+0000 or half a character pair.", problems=(Problem(path, "is not usable text"),)
            )
    elif isinstance(value, dict):
        for key, item in value.items():
            _texts(key, path)
            _texts(item, f"{path}/{key}")
    elif isinstance(value, list):
        for n, item in enumerate(value):
            _texts(item, f"{path}/{n}")
