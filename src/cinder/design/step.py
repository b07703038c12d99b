"""A step of the chain: what it needs, what it gives; and walking a list of them."""

from __future__ import annotations

import inspect
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from cinder.design.base import Screen
from cinder.design.findings import Findings, kept_going
from cinder.design.kept import Kept, Needs


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

    `run` is called with what it `needs`, in that order, and with `findings` where it has something to say, `kept` where it
    keeps its parts itself. `kept_by`: of all it needs what it really looks at; the step is kept whole by that.
    """

    gives: str
    needs: tuple[str, ...]
    run: Callable[..., Any]
    section: Section | None = None
    kept_by: Callable[..., Needs] | None = None

    @cached_property
    def takes(self) -> frozenset[str]:
        """What `run` takes beside its needs."""
        return frozenset(inspect.signature(self.run).parameters) & {"findings", "kept"}

    def given(self, known: dict[str, Any], findings: Findings, kept: Kept) -> Any:
        """What it gives from what is known."""
        needs = [known[name] for name in self.needs]
        if self.kept_by is not None:
            return kept.told(self.gives, self.kept_by(*needs), findings, lambda said: self._run(needs, said, kept))
        return self._run(needs, findings, kept)

    def _run(self, needs: list[Any], findings: Findings, kept: Kept) -> Any:
        beside = {"findings": findings, "kept": kept}
        more = {name: beside[name] for name in self.takes}
        if self.section is None:
            return self.run(*needs, **more)
        section = self.section
        return kept_going(
            findings, section.screen, section.label, lambda: self.run(*needs, **more), lambda: section.nothing(*needs)
        )


def walk(steps: Sequence[Step], known: dict[str, Any], findings: Findings, kept: Kept) -> dict[str, Any]:
    """Everything the steps give, by name, with what was known before."""
    with kept.lock:
        kept.begin()
        for step in steps:
            known[step.gives] = step.given(known, findings, kept)
    return known
