"""What lies between the machine's water and the emitters': nothing, a header, a buffer."""

from cinder.design.separation.decide import judge, looks_at, nothing
from cinder.design.separation.result import Separated

__all__ = ["Separated", "judge", "looks_at", "nothing"]
