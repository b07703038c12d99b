"""A step of the chain: what it needs, what it gives; and walking a list of them."""

from __future__ import annotations

import inspect
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from cinder.design.base import Screen
from cinder.design.findings import Findings, kept


@dataclass(frozen=True, slots=True)
class Section:
    """What stands in place of a section that cannot be worked out: a finding on its screen that says why, and `nothing`,
    made of the same needs."""

    screen: Screen
    label: str
    nothing: Callable[..., Any]


@dataclass(frozen=True)
class Step:
    """One judgement of the chain, under the name of what it gives.

    `run` is called with what it `needs`, in that order, and with `findings` where it has something to say.
    """

    gives: str
    needs: tuple[str, ...]
    run: Callable[..., Any]
    section: Section | None = None

    @property
    def tells(self) -> bool:
        """Whether it drops findings."""
        return "findings" in inspect.signature(self.run).parameters

    def given(self, known: dict[str, Any], findings: Findings) -> Any:
        """What it gives from what is known."""
        needs = [known[name] for name in self.needs]
        more = {"findings": findings} if self.tells else {}
        if self.section is None:
            return self.run(*needs, **more)
        section = self.section
        return kept(
            findings, section.screen, section.label, lambda: self.run(*needs, **more), lambda: section.nothing(*needs)
        )


def walk(steps: Sequence[Step], known: dict[str, Any], findings: Findings) -> dict[str, Any]:
    """Everything the steps give, by name, with what was known before."""
    for step in steps:
        known[step.gives] = step.given(known, findings)
    return known
