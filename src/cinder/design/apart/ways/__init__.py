"""Ways to live on cooler water: what may be done in each room and on the house, and the cheapest set of it for every flow
temperature, adopted as one change."""

from cinder.design.apart.ways.adopt import operations, operations_of, operations_of_way
from cinder.design.apart.ways.choose import at
from cinder.design.apart.ways.front import front, front_of
from cinder.design.apart.ways.options import FLOWS_C, YEARS, HouseOptions, applied, load_off, options_of
from cinder.design.apart.ways.rooms import of_room
from cinder.design.apart.ways.takeout import holding

__all__ = [
    "FLOWS_C",
    "YEARS",
    "HouseOptions",
    "applied",
    "at",
    "front",
    "front_of",
    "holding",
    "load_off",
    "of_room",
    "operations",
    "operations_of",
    "operations_of_way",
    "options_of",
]
