"""Pipes on the plan: where they begin and end, and a tree laid by rule."""

from cinder.design.apart.routing.decide import judge
from cinder.design.apart.routing.result import RoutesFound

__all__ = ["RoutesFound", "judge"]
