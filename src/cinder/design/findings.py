"""A list that findings are dropped into as the chain is worked through."""

from __future__ import annotations

from cinder.design.result import Finding
from cinder.design.result_base import Screen, Severity


class Findings:
    def __init__(self) -> None:
        self.items: list[Finding] = []

    def add(self, severity: Severity, screen: Screen, where: str, what: str, *, why: str = "", mend: str = "") -> None:
        self.items.append(Finding(severity=severity, screen=screen, where=where, what=what, why=why, mend=mend))

    def ranked(self) -> list[Finding]:
        order = {"stops": 0, "short": 1, "doubt": 2, "note": 3}
        return sorted(self.items, key=lambda f: order[f.severity])
