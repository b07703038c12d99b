"""Every job of a database judged again, against the figures a backup names for it."""

from __future__ import annotations

from dataclasses import dataclass, field

from cinder import ENGINE_VERSION
from cinder.design import design
from cinder.errors import CinderError
from cinder.model import parse
from cinder.store.backup import Manifest
from cinder.store.database import engine
from cinder.store.log import ChangeLog
from cinder.store.record import Who

ENOUGH = 1e-9
"""Figures nearer than this share are equal: the same engine gives the same numbers."""


@dataclass
class Rechecked:
    """Jobs whose figures came out equal, moved (with from and to), could not be judged, or carry none to compare."""

    equal: list[str] = field(default_factory=list)
    moved: list[str] = field(default_factory=list)
    failed: list[str] = field(default_factory=list)
    unsaid: list[str] = field(default_factory=list)

    def said(self) -> str:
        parts = [f"{len(self.equal)} with equal figures"]
        if self.moved:
            parts.append(f"{len(self.moved)} that an earlier version reckoned differently: {'; '.join(self.moved[:5])}")
        if self.unsaid:
            parts.append(f"{len(self.unsaid)} without figures to compare")
        if self.failed:
            parts.append(f"{len(self.failed)} that cannot be judged: {'; '.join(self.failed[:5])}")
        return "Jobs: " + ", ".join(parts) + "."


def recheck(address: str, said: Manifest) -> Rechecked:
    """Judge every job anew. Jobs written by another version may have moved; each opens with a note of which and why."""
    to = engine(address)
    log = ChangeLog(to)
    out = Rechecked()
    try:
        for line in said.jobs:
            try:
                result = design(parse(log.current(Who(line.company, ""), line.id).document))
            except CinderError as error:
                out.failed.append(f"{line.title}: {error.message}")
                continue
            now = {figure.key: figure.value for figure in result.headline}
            now["loss_w"], now["flow_c"] = result.house.loss_w, now["flow"]
            before = {name: value for name, value in line.figures.items() if value is not None}
            if not before:
                out.unsaid.append(line.title)
                continue
            apart = [
                f"{name} {value:g} → {'nothing' if now[name] is None else format(now[name], 'g')}"
                for name, value in before.items()
                if now[name] is None or abs((now[name] or 0.0) - value) > ENOUGH * max(abs(value), 1.0)
            ]
            if not apart:
                out.equal.append(line.title)
            elif line.engine == ENGINE_VERSION:
                out.failed.append(f"{line.title}: {', '.join(apart)}, by the same version")
            else:
                out.moved.append(f"{line.title}: {', '.join(apart)}")
    finally:
        to.dispose()
    return out
