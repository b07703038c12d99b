"""Pipes that nobody sees, from what the water does when the pump is stepped."""

from cinder.field.pipes.decide import judge
from cinder.field.pipes.result import PipeFitted, PipesTested, ReadingJudged, SizeChance

__all__ = ["PipeFitted", "PipesTested", "ReadingJudged", "SizeChance", "judge"]
