"""Files of readings: CSV and workbooks of any columns, a year by minutes too."""

from cinder.exchange.readings.frames import MAX_BYTES
from cinder.exchange.readings.read import AT, FIGURES, Column, ReadingsRead, heads_of, look, read, read_into

__all__ = ["AT", "FIGURES", "MAX_BYTES", "Column", "ReadingsRead", "heads_of", "look", "read", "read_into"]
