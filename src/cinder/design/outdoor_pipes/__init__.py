"""What pipes lose outdoors and in the ground."""

from cinder.design.outdoor_pipes.decide import judge, looks_at, nothing
from cinder.design.outdoor_pipes.result import OutdoorPipes

__all__ = ["OutdoorPipes", "judge", "looks_at", "nothing"]
