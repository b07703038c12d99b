"""One circuit or two, the water that stays open, and the zones of a house."""

from cinder.design.apart.separating.decide import judge
from cinder.design.apart.separating.result import SeparatingFound

__all__ = ["SeparatingFound", "judge"]
