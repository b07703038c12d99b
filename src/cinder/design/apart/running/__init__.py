"""What every candidate would do through a year of hours, what it costs, and compared with what."""

from cinder.design.apart.running.decide import judge, present_of

__all__ = ["judge", "present_of"]
