"""A fault in one section of the Design never takes the rest with it: it becomes a finding, and the rest computes."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

import numpy as np

from cinder.design.findings import Findings
from cinder.design.result_base import Screen
from cinder.errors import CinderError

T = TypeVar("T")
FAULTS = (CinderError, ArithmeticError, ValueError, LookupError, TypeError, np.linalg.LinAlgError)
OURS = "a fault of ours"


def kept(findings: Findings, screen: Screen, what: str, make: Callable[[], T], instead: Callable[[], T]) -> T:
    """What `make` gives; where it cannot, a finding that says why, and `instead`.

    What a value of the document makes impossible is said as it is; anything else is a fault of ours, and says so.
    """
    try:
        return make()
    except FAULTS as error:
        if isinstance(error, CinderError):
            why, mend = error.message, "Correct the value it names."
        else:
            why = f"{OURS.capitalize()}: {type(error).__name__}, {str(error)[:160]}"
            mend = "Send us this job, so that it is mended; the other sections stand."
        findings.add("stops", screen, "/", f"{what} cannot be worked out.", why=why, mend=mend)
        return instead()
