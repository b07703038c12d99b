"""The chain as a list: what every step needs has been given before it, and is what its function takes."""

import inspect
import typing

import pytest

from cinder.design.chain import CHAIN, SEASON
from cinder.design.step import Step
from cinder.model import Job

ALONGSIDE = ("findings", "kept")
"""What a step may take beside its needs."""


def annotated(step: Step) -> tuple[dict[str, object], object]:
    hints = typing.get_type_hints(step.run)
    names = [name for name in inspect.signature(step.run).parameters if name not in ALONGSIDE]
    return {name: hints[name] for name in names}, hints["return"]


@pytest.mark.parametrize("steps", [CHAIN, SEASON], ids=["chain", "season"])
def test_every_step_takes_what_the_steps_before_it_give(steps):
    given: dict[str, object] = {"job": Job}
    for step in steps:
        takes, gives = annotated(step)
        assert set(step.needs) <= given.keys(), step.gives
        if "_" not in takes:
            assert [given[name] for name in step.needs] == list(takes.values()), step.gives
        assert step.gives not in given
        given[step.gives] = gives


@pytest.mark.parametrize("step", [s for s in CHAIN if s.section], ids=lambda step: step.gives)
def test_what_stands_in_for_a_section_is_of_its_kind(step):
    instead = typing.get_type_hints(step.section.nothing)["return"]
    assert instead == annotated(step)[1]
