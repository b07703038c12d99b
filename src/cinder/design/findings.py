"""What the engineer should know, dropped into one list as the chain is worked through; a fault in one section becomes one too."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

import numpy as np

from cinder.design.base import Result, Screen, Severity
from cinder.errors import CinderError


class Findings:
    def __init__(self) -> None:
        self.items: list[Finding] = []

    def add(self, severity: Severity, screen: Screen, where: str, what: str, *, why: str = "", mend: str = "") -> None:
        self.items.append(Finding(severity=severity, screen=screen, where=where, what=what, why=why, mend=mend))

    def ranked(self) -> list[Finding]:
        order = {"stops": 0, "short": 1, "doubt": 2, "note": 3}
        return sorted(self.items, key=lambda f: order[f.severity])


T = TypeVar("T")
FAULTS = (CinderError, ArithmeticError, ValueError, LookupError, TypeError, np.linalg.LinAlgError)
OURS = "a fault of ours"


def kept_going(findings: Findings, screen: Screen, what: str, make: Callable[[], T], instead: Callable[[], T]) -> T:
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


class Finding(Result):
    """Something the engineer should know: where, what, why, and what would mend it."""

    severity: Severity
    screen: Screen
    where: str
    what: str
    why: str = ""
    mend: str = ""
