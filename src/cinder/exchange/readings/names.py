"""What columns of a file of readings may be: channels by their names, limits beyond which a figure is not believed, units."""

from __future__ import annotations

import re
from collections.abc import Mapping

TIME = "time"
LIMITS = {
    "outdoor_c": (-60.0, 50.0), "supply_c": (-10.0, 95.0), "return_c": (-10.0, 95.0), "flow_lph": (0.0, 20000.0), "electric_w": (0.0, 30000.0),
    "heat_w": (-30000.0, 60000.0), "electric_kwh": (0.0, 4e7), "heat_kwh": (0.0, 4e7), "wanted_c": (0.0, 95.0), "sun_w_m2": (0.0, 1500.0),
    "room": (-20.0, 60.0), "tail": (-20.0, 95.0), "mode": (0.0, 3.0), "store_c": (0.0, 95.0), "heater_w": (0.0, 30000.0),
    "heater_kwh": (0.0, 4e7),
}  # fmt: skip
"""Beyond these a figure is not believed."""
JUMPS_K = {"outdoor_c": 12.0, "room": 8.0}
"""More than this between two moments within half an hour is a sensor that jumps."""
COUNTERS = ("electric_kwh", "heat_kwh", "heater_kwh")
"""Channels that only rise: meters."""
NAMES = (
    (TIME, r"^(date ?/? ?)?(time|timestamp|moment|at|from|date|datetime)"), ("outdoor_c", r"out(door|side)|ambient|external"),
    ("wanted_c", r"(wanted|target|set ?point|asked).*(flow|water|supply)|(flow|water|supply).*(wanted|target|set ?point|asked)"),
    ("sun_w_m2", r"sun|solar|irradi|ghi"), ("store_c", r"store|cylinder|tank|hot water.*(temp|°c|\bc\b)"),
    ("heater_kwh", r"(heater|immersion|backup).*wh"), ("heater_w", r"heater|immersion|backup"),
    ("electric_kwh", r"(elec|power|energy in|consum|import).*wh|wh.*(elec|in\b)"),
    ("heat_kwh", r"heat.*wh|wh.*heat|energy out.*wh"),
    ("flow_lph", r"(l/?h|l per h|lph|litres|flow rate|volume|m3/?h|m³/?h|l/?min)"),
    ("electric_w", r"elec|power.*\bw\b|consumption"),
    ("heat_w", r"heat (output|power)|\bheat\b.*\bw\b"), ("return_c", r"^return|return (temp|water)|^rtn"),
    ("supply_c", r"^flow|^supply|(flow|supply) (temp|water)|leaving"), ("mode", r"^mode$"),
)  # fmt: skip
"""Channels by what a column may be called, tried in this order after the rooms' own names."""
SCALES = (
    ("w", r"\bkw\b", 1000.0), ("w", r"\bmw\b", 1e6), ("kwh", r"\bmwh\b", 1000.0), ("kwh", r"(?<![km])\bwh\b", 0.001),
    ("lph", r"m3 ?/ ?h|m³ ?/ ?h", 1000.0), ("lph", r"l ?/ ?min|l per min", 60.0), ("lph", r"l ?/ ?s\b", 3600.0),
)  # fmt: skip
"""Units a column's name may say, by how its channel ends: what its figures are multiplied by."""


def guess(name: str, rooms: Mapping[str, str]) -> str:
    """The channel a column seems to be by its name; empty where nothing is known.

    >>> guess("Electricity [MWh]", {}), guess("Parlour °C", {"Parlour": "p"}), guess("Volume flow m3/h", {})
    ('electric_kwh', 'room:p', 'flow_lph')
    """
    plain = re.sub(r"[_.]+", " ", name).strip().lower()
    bare = re.sub(r"\s*[\[(].*?[\])]\s*", " ", plain).strip()
    bare = re.sub(r"\s+(c|°c|f|°f|temp(erature)?)$", "", bare).strip()
    for label, key in rooms.items():
        if bare == label.strip().lower():
            return f"room:{key}"
    return next((channel for channel, pattern in NAMES if re.search(pattern, plain)), "")


def scale(name: str, channel: str) -> float:
    """What the figures of a column are multiplied by, by the unit its name says.

    >>> scale("Electricity [MWh]", "electric_kwh"), scale("Power kW", "electric_w"), scale("Flow l/min", "flow_lph")
    (1000.0, 1000.0, 60.0)
    """
    plain = name.lower()
    return next((by for ends, unit, by in SCALES if channel.endswith(f"_{ends}") and re.search(unit, plain)), 1.0)


def fahrenheit(name: str) -> bool:
    return re.search(r"°f|\bf\)|_f$|fahrenheit", name.lower()) is not None


def limits(channel: str) -> tuple[float, float]:
    return LIMITS[channel.split(":")[0]]
