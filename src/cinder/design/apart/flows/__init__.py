"""What every emitter really gets of the water, the pump's room to spare, what would help, and how the house is balanced."""

from cinder.design.apart.flows.decide import judge
from cinder.design.apart.flows.result import FlowsFound

__all__ = ["FlowsFound", "judge"]
