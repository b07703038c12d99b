"""JSON read strictly: no NaN, no infinities, no duplicate keys, no broken text, no bottomless nesting."""

from __future__ import annotations

import json
import math
import re
from typing import Any, NoReturn

import numpy as np

from cinder.errors import MalformedJson, Problem, TooLarge

MAX_DEPTH = 64
MAX_BYTES = 8 * 1024 * 1024
MAX_OBJECTS = 300_000
_QUOTED = re.compile(rb'"(?:[^"\\]++|\\.)*+(?:"|\\?\Z)', re.DOTALL)
"""A text, closed or cut off by the end: it always matches, so that no quotation mark is looked at twice."""
_NO_BRACKET = re.compile(rb"[^\[\]{}]+")
_ODD_ESCAPE = re.compile(rb"\\u(?:0000|[dD][89a-fA-F])")
_LONG_NUMBER = re.compile(rb"[eE]\+?\d{3}|\d{19}")
"""Only such digits can be beyond any float, or beyond 64 bits."""
MOST_WHOLE = 2**63 - 1


def loads(data: bytes, *, max_bytes: int = MAX_BYTES) -> Any:
    """Parse UTF-8 JSON.

    Raises `TooLarge` beyond `max_bytes`; `MalformedJson` naming the trouble for anything JSON does not
    know (NaN, Infinity, 1e400, whole numbers beyond 64 bits), for duplicate keys, for lone surrogates and U+0000 in text, and for
    nesting deeper than 64.

    >>> loads(b'{"a": 1}')
    {'a': 1}
    """
    if len(data) > max_bytes:
        raise TooLarge(f"{len(data):,} bytes; at most {max_bytes:,} are taken.")
    if data.count(b"{") > MAX_OBJECTS:
        raise TooLarge(f"More than {MAX_OBJECTS:,} objects.")
    _depth(data)
    try:
        text = data.decode("utf-8")
        careful = _LONG_NUMBER.search(data) is not None
        value = json.loads(
            text, object_pairs_hook=_pairs, parse_constant=_constant, parse_float=_float if careful else None,
            parse_int=_whole if careful else None,
        )  # fmt: skip
    except UnicodeDecodeError as error:
        raise MalformedJson(f"Not UTF-8 text: byte {error.start}.") from None
    except json.JSONDecodeError as error:
        raise MalformedJson(f"Not JSON: {error.msg} in line {error.lineno}, column {error.colno}.") from None
    except ValueError as error:  # integers of thousands of digits
        raise MalformedJson(f"Not a usable number: {error}.") from None
    if _ODD_ESCAPE.search(data):  # only an escape can bring them in: raw they are no JSON, or no UTF-8
        _texts(value, "")
    return value


def _depth(data: bytes) -> None:
    """Refuse what is nested deeper than 64, counting brackets outside quotation marks."""
    if data.count(b"{") + data.count(b"[") <= MAX_DEPTH:
        return
    bare = _NO_BRACKET.sub(b"", _QUOTED.sub(b"", data))
    step = np.where(np.isin(np.frombuffer(bare, np.uint8), (0x7B, 0x5B)), 1, -1)
    if step.size and int(step.cumsum().max()) > MAX_DEPTH:
        raise MalformedJson(f"Nested deeper than {MAX_DEPTH}.")


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


def _whole(text: str) -> int:
    value = int(text)
    if abs(value) > MOST_WHOLE:
        raise MalformedJson(f"{text[:40]} is beyond any whole number here.")
    return value


def _texts(value: Any, path: str) -> None:
    if isinstance(value, str):
        if "\x00" in value or not _encodes(value):
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


def _encodes(text: str) -> bool:
    try:
        text.encode()
    except UnicodeEncodeError:
        return False
    return True
