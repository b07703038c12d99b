"""The marks of a plant's drawing: paths about their middle. Pumps, valves and exchangers as the standards draw them in general; the rest
is our own."""

from __future__ import annotations

MARKS: dict[str, tuple[float, float, bool, str]] = {
    "machine": (104, 300, True, "M-18 -40a18 18 0 1 0 36 0a18 18 0 1 0 -36 0M0 -58V-22M-18 -40H18M-13 -53L13 -27M-13 -27L13 -53"),
    "indoor-unit": (70, 300, True, "M-20 20L20 -20M-20 -20H20V20H-20Z"),
    "base": (104, 16, True, ""),
    "hoses": (44, 20, False, "M-22 0C-16 -10 -12 -10 -8 0S0 10 4 0S14 -10 22 0"),
    "isolators": (30, 20, False, "M-15 -10L15 10V-10L-15 10Z"),
    "freeze-valves": (20, 26, False, "M-10 -13L10 13H-10L10 -13ZM0 0H10M10 -4V4"),
    "strainer": (36, 26, False, "M-18 -13H18V13H-18ZM-18 13L18 -13M-8 13L18 -6M-18 6L8 -13"),
    "air-separator": (30, 34, False, "M-15 -17H15V17H-15ZM-6 6a3 3 0 1 0 6 0a3 3 0 1 0 -6 0M2 -4a2.5 2.5 0 1 0 5 0a2.5 2.5 0 1 0 -5 0"),
    "vents": (14, 22, False, "M-7 11V-3L0 -11L7 -3V11Z"),
    "buffer-vent": (14, 22, False, "M-7 11V-3L0 -11L7 -3V11Z"),
    "fill-and-flush": (36, 24, False, "M-18 -10L0 10V-10L-18 10ZM0 -10L18 10V-10L0 10Z"),
    "vessel": (44, 44, False, "M-22 0a22 22 0 1 0 44 0a22 22 0 1 0 -44 0M-20 8C-8 -2 8 18 20 8"),
    "vessel-valve": (20, 24, False, "M-10 -12L10 12H-10L10 -12Z"),
    "relief": (24, 30, False, "M-10 15L10 15L0 0ZM0 0V-15M-6 -11L6 -7M-6 -6L6 -2"),
    "diverter": (34, 28, False, "M-17 -10L0 0L-17 10ZM17 -10L0 0L17 10ZM-10 14L0 0L10 14Z"),
    "store": (
        90,
        122, True, "M-26 8H26C34 8 34 20 26 20H-26C-34 20 -34 32 -26 32H26C34 32 34 44 26 44H-26"),
    "plate": (40, 70, True, "M-20 35L20 -35M-20 -35L20 35"),
    "immersion": (26, 18, False, "M-13 -9H-3V9H-13ZM-3 -4H13V4H-3"),
    "store-safety": (36, 26, False, "M-18 -9L0 9V-9L-18 9ZM4 0a7 7 0 1 0 14 0a7 7 0 1 0 -14 0"),
    "mixing-valve": (34, 28, False, "M-17 -10L0 0L-17 10ZM17 -10L0 0L17 10ZM-10 14L0 0L10 14Z"),
    "volumiser": (66, 60, True, "M-24 0H24M14 -6L24 0L14 6"),
    "header": (34, 320, True, "M-9 -84H9M-9 84H9"),
    "buffer": (64, 320, True, "M-22 -70H22M-22 70H22"),
    "second-pump": (34, 34, False, "M-17 0a17 17 0 1 0 34 0a17 17 0 1 0 -34 0M-10 -13L17 0L-10 13"),
    "bypass": (30, 20, False, "M-15 -10L15 10V-10L-15 10Z"),
    "blending": (34, 58, False, "M-10 -29H10L0 -15ZM-10 -1H10L0 -15ZM-17 -24V-6L0 -15ZM-14 15a14 14 0 1 0 28 0a14 14 0 1 0 -28 0M-11 7H11L0 29"),
    "boiler": (84, 84, True, "M0 -34C12 -20 12 -12 6 -2C10 -10 0 -14 0 -22C-2 -12 -12 -10 -6 2C-16 -8 -10 -22 0 -34Z"),
    "heater": (40, 26, False, "M-20 -13H20V13H-20ZM-14 0L-8 -7L0 7L8 -7L14 0"),
    "heat-meter": (34, 30, False, "M-17 -15H17V15H-17ZM-9 6L-3 -6L3 6L9 -6"),
    "electricity-meter": (34, 30, False, "M-17 -15H17V15H-17ZM3 -10L-5 2H5L-3 11"),
    "outdoor-sensor": (20, 20, False, "M-10 0a10 10 0 1 0 20 0a10 10 0 1 0 -20 0M0 -5V5"),
    "flow-sensor": (20, 20, False, "M-10 0a10 10 0 1 0 20 0a10 10 0 1 0 -20 0M0 -5V5"),
    "store-sensor": (20, 20, False, "M-10 0a10 10 0 1 0 20 0a10 10 0 1 0 -20 0M0 -5V5"),
    "manifold": (100, 22, True, "M-36 -11V11M-18 -11V11M0 -11V11M18 -11V11M36 -11V11"),
    "group": (104, 62, True, ""),
    "end": (8, 8, False, "M-4 0a4 4 0 1 0 8 0a4 4 0 1 0 -8 0"),
    "source": (60, 30, True, ""),
}  # fmt: skip
"""Width, height, whether it has a frame, and its path."""

SHORT: dict[str, str] = {
    "base": "Base, drained", "isolators": "Isolating valve", "strainer": "Magnetic filter", "vents": "Vents", "buffer-vent": "Vent",
    "fill-and-flush": "Fill and flush", "vessel": "Expansion vessel", "vessel-valve": "Service valve", "relief": "Relief and gauge",
    "diverter": "Diverter", "store": "Store", "plate": "Plate exchanger", "immersion": "Immersion heater", "store-safety": "Safety set",
    "mixing-valve": "Mixing valve", "header": "Header", "second-pump": "Second pump", "bypass": "Bypass of the separator",
    "blending": "Blending valve, pump", "boiler": "Boiler", "heater": "Electric heater", "electricity-meter": "Electricity meter",
    "outdoor-sensor": "Outdoor sensor", "flow-sensor": "Flow sensor", "store-sensor": "Store sensor", "manifold": "Manifold",
}  # fmt: skip
"""What stands beside a mark: short; its whole name is in the list."""
