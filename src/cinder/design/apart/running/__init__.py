"""What every candidate would do through a year of hours, what it costs, and compared with what."""

from cinder.design.apart.running.decide import judge

__all__ = ["judge"]
