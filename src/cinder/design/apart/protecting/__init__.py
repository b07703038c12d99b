"""What keeps the water outdoors from freezing: glycol, valves that open, or neither."""

from cinder.design.apart.protecting.decide import judge
from cinder.design.apart.protecting.result import ProtectingFound

__all__ = ["ProtectingFound", "judge"]
