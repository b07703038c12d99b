"""Documents and bytes, spoilt: what the fuzz tests feed to the model, the readers and the routes.

`./test` spends a few seconds on each; `tools/fuzz 600` spends ten minutes. Every failure prints the seed it came from.
"""

import copy
import os
import random
import time
from collections.abc import Iterator
from typing import Any

SECONDS = float(os.environ.get("CINDER_FUZZ_SECONDS", "3"))
SEED = int(os.environ.get("CINDER_FUZZ_SEED", "0"))
NUMBERS = [
    0, 0.0, -0.0, 1e-6, 0.001, 0.1, 1.0, -1.0, 2.0, 5.0, 10.0, 20.0, 21.0, 30.0, 35.0, 40.0, 60.0, 85.0, 95.0, 200.0, 400.0, 1e3,
    1e5, 1e6, -20.0, -60.0, 1e-300, 1e9, 7, 60, 2**63,
]  # fmt: skip
LEAST = 30
"""Tried however busy the machine is."""
WORDS = ["no-such-word", "", "x" * 64, "normal", "floor", "ceiling", "w1", "none", "²", "null"]
ODD = [None, True, False, [], {}, "text", 3, float("inf"), float("nan"), [[]], {"": {}}]


def seeds(part: float = 1.0) -> Iterator[random.Random]:
    """Random sources until the time (or a part of it) is up, and so many at least, each with a seed of its own in
    `.seed_of`."""
    end, n = time.monotonic() + SECONDS * part, SEED
    while time.monotonic() < end or n < SEED + LEAST:
        rng = random.Random(n)
        rng.seed_of = n  # type: ignore[attr-defined]
        yield rng
        n += 1


def leaves(node: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[tuple[Any, ...], Any]]:
    """Every value of a document that is no container, with its place."""
    if isinstance(node, dict):
        for key, value in node.items():
            yield from leaves(value, (*path, key))
    elif isinstance(node, list):
        for n, value in enumerate(node):
            yield from leaves(value, (*path, n))
    else:
        yield path, node


def put(node: Any, path: tuple[Any, ...], value: Any) -> None:
    for step in path[:-1]:
        node = node[step]
    node[path[-1]] = value


def drop(node: Any, path: tuple[Any, ...]) -> None:
    for step in path[:-1]:
        node = node[step]
    if isinstance(node, dict):
        node.pop(path[-1], None)


def instead(value: Any, rng: random.Random) -> Any:
    """Another value of the same kind: an extreme number, a word no table knows, now and then something else."""
    if rng.random() < 0.03:
        return rng.choice(ODD)
    if isinstance(value, bool):
        return not value
    if isinstance(value, int | float):
        return rng.choice([*NUMBERS, value * rng.choice([0.5, 2.0, 10.0, -1.0]), value + rng.choice([-1, 1])])
    return rng.choice([*WORDS, value + "x"]) if isinstance(value, str) else rng.choice(ODD)


def spoilt(document: Any, rng: random.Random, *, most: int = 4) -> tuple[Any, list[Any]]:
    """A copy of a document with a few of its values replaced or left out; and which."""
    out = copy.deepcopy(document)
    places = list(leaves(out))
    said = []
    for _ in range(rng.randint(1, most)):
        path, value = rng.choice(places)
        try:
            if rng.random() < 0.1:
                drop(out, path)
                said.append((path, "left out"))
            else:
                new = instead(value, rng)
                put(out, path, new)
                said.append((path, new))
        except (KeyError, IndexError, TypeError):
            continue  # an earlier replacement took its parent away
    return out, said


def mangled(data: bytes, rng: random.Random) -> bytes:
    """Bytes with a few of them changed, doubled, cut out, or cut off."""
    out = bytearray(data)
    for _ in range(rng.randint(1, 6)):
        if not out:
            break
        at = rng.randrange(len(out))
        how = rng.random()
        if how < 0.35:
            out[at] = rng.randrange(256)
        elif how < 0.5:
            out[at : at + 1] = rng.choice(
                [b'"', b",", b"\n", b"\x00", b"\xff\xfe", b"1e999", b"-", b"\r", b"NaN", b"'", b"<", b"PK", b"\\U+D800"]
            )
        elif how < 0.65:
            long = rng.randint(1, 60)
            out[at:at] = out[at : at + long] * rng.randint(1, 3)
        elif how < 0.8:
            del out[at : at + rng.randint(1, 200)]
        elif how < 0.9:
            out = out[:at]
        else:
            other = rng.randrange(len(out))
            out[at : at + 20], out[other : other + 20] = out[other : other + 20], out[at : at + 20]
    return bytes(out)
