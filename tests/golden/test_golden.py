"""The Design of every demo and test house, and of a hundred spoilt ones, as it was when the layout began to move.

A move of code moves no figure. `golden.json` holds a fingerprint of every section and every room of every Design, numbers to
nine digits. Where a figure is meant to move: `python -m tests.golden.test_golden` writes the file anew, in a commit of its own,
and the CHANGELOG says from what to what.
"""

import hashlib
import json
import random
from pathlib import Path
from typing import Any

import orjson
import pytest

from cinder.design import design
from cinder.errors import CinderError
from cinder.exchange.jobs import brief
from cinder.model import parse
from tests.conftest import HOUSES, counting_house, house, oat_store, tansy_cut
from tests.fuzz.mutate import spoilt
from tests.outside.test_reference_house import toml

FILE = Path(__file__).with_name("golden.json")
SPOILT = 100
DIGITS = 9
PRACTICES: dict[str, dict[str, Any]] = {
    "plain": {}, "cold neighbours": {"neighbour": "cold"}, "adiabatic": {"neighbour": "adiabatic"},
    "line by line": {"bridges": "list", "excess": "arithmetic"},
    "rooms": {"air": "room", "ground": "full_difference", "curve_gains_w_per_m2": 3.0, "reheat_w_per_m2": 8.0},
}  # fmt: skip
RENAMED: dict[str, str] = {}
"""Section of the Design as it is called now -> as it was called when the file was written."""


def rounded(value: Any) -> Any:
    """Numbers to nine digits, so that the order of a sum does not count."""
    if isinstance(value, float):
        return float(f"{value:.{DIGITS}g}") + 0.0
    if isinstance(value, dict):
        return {key: rounded(item) for key, item in value.items()}
    return [rounded(item) for item in value] if isinstance(value, list | tuple) else value


def fingerprint(value: Any) -> str:
    return hashlib.sha256(orjson.dumps(rounded(value), option=orjson.OPT_SORT_KEYS)).hexdigest()[:16]


def sections(document: dict[str, Any]) -> dict[str, str]:
    """Fingerprints of a Design by section, rooms one by one; of a refused document its refusal."""
    try:
        result = design(parse(document)).model_dump()
    except CinderError as error:
        return {"refused": fingerprint([error.message, [[p.path, p.message] for p in error.problems]])}
    result.pop("engine")
    out = {f"room {room['id']}": fingerprint(room) for room in result.pop("rooms")}
    return out | {RENAMED.get(key, key): fingerprint(value) for key, value in result.items()}


def houses() -> dict[str, dict[str, Any]]:
    plain = {path.stem: house(path.stem) for path in sorted(HOUSES.glob("*.toml"))}
    plain |= {"tansy-cut": tansy_cut(), "oat-store": oat_store(), "counting-house": counting_house()}
    for scheme in tansy_cut()["schemes"]:
        plain[f"tansy-cut {scheme}"] = tansy_cut() | {"active_scheme": scheme}
    base = list(plain.values())
    for n in range(SPOILT):
        rng = random.Random(n)
        plain[f"spoilt {n}"] = spoilt(rng.choice(base), rng)[0]
    reference = brief.document(toml())
    for name, practice in PRACTICES.items():
        plain[f"reference, {name}"] = reference | {"practice": reference.get("practice", {}) | practice}
    return plain


def written() -> dict[str, dict[str, str]]:
    return {name: sections(document) for name, document in houses().items()}


@pytest.fixture(scope="module")
def golden():
    return json.loads(FILE.read_text())


def test_no_figure_moved(golden):
    now = written()
    assert now.keys() == golden.keys()
    moved = {
        f"{name}: {key}"
        for name, before in golden.items()
        for key in before.keys() | now[name].keys()
        if before.get(key) != now[name].get(key)
    }
    assert sorted(moved) == []


if __name__ == "__main__":
    FILE.write_text(json.dumps(written(), indent=0, sort_keys=True) + "\n")
