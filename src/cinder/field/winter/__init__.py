"""A winter of readings: what the house really loses, what the machine really gives, what went wrong and when."""

from cinder.field.winter.decide import judge
from cinder.field.winter.result import WinterFound

__all__ = ["WinterFound", "judge"]
