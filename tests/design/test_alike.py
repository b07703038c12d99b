"""What counts as the same to the bit: what was made before then stands, and with it all that hangs on it."""

from dataclasses import dataclass

import numpy as np
import pytest

from cinder.design import chain
from cinder.design.findings import Findings
from cinder.design.judgement import design
from cinder.design.kept import Kept, to_the_bit
from cinder.design.step import walk
from cinder.model import parse
from tests.conftest import tansy_cut


@dataclass
class Held:
    watts: np.ndarray
    name: str = ""


@pytest.mark.parametrize(
    ("one", "other", "same"),
    [
        (np.array([1.0, np.nan]), np.array([1.0, np.nan]), True), (np.array([0.0]), np.array([-0.0]), False),
        (np.array([1.0]), np.array([[1.0]]), False), (np.array([1]), np.array([1.0]), False),
        (Held(np.array([1.0])), Held(np.array([1.0])), True), (Held(np.array([1.0])), Held(np.array([2.0])), False),
        (Held(np.array([1.0]), "a"), Held(np.array([1.0]), "b"), False), ([1, 2.0], [1, 2.0], True), ([1], (1,), False),
        ({"a": 1, "b": 2}, {"b": 2, "a": 1}, False), ({"a": [1.0]}, {"a": [1.0]}, True), (1.0, 1, False), (0.0, -0.0, False),
        (None, None, True), ("x", "y", False), ((1, 2), (1, 2, 3), False),
    ],
)  # fmt: skip
def test_the_same_to_the_bit(one, other, same):
    assert to_the_bit(one, other) is same
    assert to_the_bit(other, one) is same


def test_a_name_moves_no_water():
    """A room's new name is said again wherever it is said; season, machines and the need stand as they were."""
    document = tansy_cut()
    kept = Kept()
    before = walk(chain.CHAIN, {"job": parse(document)}, Findings(), kept)
    document["survey"]["rooms"]["parlour"]["label"] = "Blue room"
    job = parse(document)
    after = walk(chain.CHAIN, {"job": job}, Findings(), kept)
    for name in ("losses", "design_day", "emitters", "waterline", "need", "machine"):
        assert after[name] is before[name], name
    assert after["design"] == design(job)
    assert any("Blue room" in sentence for sentence in after["design"].sentences.values())
    document["survey"]["rooms"]["parlour"]["height_m"] += 0.2
    higher = walk(chain.CHAIN, {"job": parse(document)}, Findings(), kept)
    for name in ("losses", "design_day", "need", "machine"):
        assert higher[name] is not after[name], name
