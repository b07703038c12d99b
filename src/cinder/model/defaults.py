"""What something new begins with: ordinary values to be put right (our choice, after common practice), never evidence.

They go to the browser as data (`cinder.web.rules`); whatever is taken from here counts as assumed.
"""

from __future__ import annotations

from typing import Any

USE_BY_NAME = (
    ("bed|guest|nurser", "bedroom"), ("bath|shower|en.?suite", "bath"), (r"\bwc\b|toilet|cloak", "wc"),
    ("kitchen|pantry", "kitchen"), ("living|parlour|sitting|lounge|snug|garden room", "living"), ("dining", "dining"),
    ("study|office|workroom", "study"), ("hall|landing|stair|lobby|passage|corridor", "hall"),
    ("utility|laundry|scullery|boot", "utility"), ("store|cupboard|larder", "store"),
)  # fmt: skip
"""Uses that a room's name gives away: a pattern without regard to case, and the use; the first that fits."""
ROOM_HEIGHT_M = 2.4
USUAL = {
    "room_height_m": (1.5, 8.0), "wall_m": (0.2, 25.0), "panel_length_m": (0.3, 4.0), "panel_height_m": (0.15, 2.4),
    "opening_width_m": (0.3, 8.0), "opening_height_m": (0.3, 3.2), "target_c": (8.0, 28.0), "pipe_m": (0.2, 60.0),
    "n50_per_h": (0.2, 30.0), "flow_c": (25.0, 85.0), "outdoor_c": (-40.0, 15.0),
}  # fmt: skip
"""What a value typed by hand usually lies between (common practice): beyond it one is asked at
once, never refused; a room's height beyond it stays a finding."""
PANEL = {"kind": "panel", "type": "t22", "height_m": 0.6, "length_m": 1.0, "valve": "lockshields"}
OPENINGS: dict[str, dict[str, float]] = {"window": {}, "door": {"width_m": 0.85, "height_m": 2.0}}
TYPICAL_ROOMS = {
    "Living room": "Living room 4.2x3.8*, window 1.8x1.3*", "Dining room": "Dining room 3.6x3.4*, window 1.5x1.2*",
    "Kitchen": "Kitchen 3.4x2.8*, window 1.2x1.05*", "Hall": "Hall 1.9x3.6*, door 0.9x2.0*",
    "Bedroom": "Bedroom 3.6x3.2*, window 1.5x1.2*", "Small bedroom": "Small bedroom 2.4x2.1*, window 0.9x1.0*",
    "Bathroom": "Bathroom 2.3x1.9*, window 0.6x0.9*", "Landing": "Landing 1.9x2.6*", "WC": "WC 0.9x1.6*, window 0.4x0.6*",
}  # fmt: skip
"""Rooms as they mostly are, each as a line to be put right; every figure of it counts as assumed."""
CALL_FUELS = {
    "gas": "gas", "oil": "oil", "bottled": "lpg", "solid": "coal", "pellets": "pellets", "storage": "electricity",
    "resistance": "electricity",
}  # fmt: skip
"""What heats a house now, by the answer of the first call, as the fuel of its bill."""
EMITTERS: dict[str, dict[str, Any]] = {
    "stated": {},
    "fan": {"exponent": 1.05, "speeds": [{"label": "quiet", "output_w": 700.0, "electric_w": 6.0}]},
    "floor": {
        "valve": "manifold-open",
        "heated": {
            "method": "wet", "build": "Wet screed on insulation", "spacing_m": 0.15, "cover_m": 0.045, "cover_lambda_w_mk": 1.2,
        },
    },
    "wall": {
        "valve": "manifold-open",
        "heated": {
            "method": "wet", "build": "Pipes in wall plaster", "spacing_m": 0.15, "cover_m": 0.012, "cover_lambda_w_mk": 0.8,
            "pipe_m": 0.012, "pipe_wall_m": 0.0015,
        },
    },
    "electric": {"output_w": 500.0},
}  # fmt: skip
"""Kinds that are no radiator by type and face."""
BRIDGES_W_M2K = {"poor": 0.15, "usual": 0.10, "good": 0.05}
"""What thermal bridges add to every outer U, by how the house is built (common practice; meant for outside dimensions)."""
HEATED_SHARE = 0.85
"""The part of a floor that is heated until somebody says."""
PRIMARIES = {"family": "copper", "size": "28", "length_m": 5.0, "fittings": {"elbow": 6}}
KV_PARTS = (
    ("Diverter valve, 28 mm", 9.0),
    ("Magnetic filter", 10.0),
    ("Heat meter", 6.0),
    ("Air separator", 14.0),
    ("Check valve", 7.0),
)
"""What hangs in a run, and a kv nobody has looked up (our guess: the maker's table wins), m3/h."""
BRANCH = {"family": "copper", "size": "15", "length_m": 6.0, "fittings": {"elbow": 4, "tee-branch": 1}}
"""An informed guess of a run that nobody has looked at yet."""
COMMA_CURRENCIES = ("EUR", "SEK", "DKK", "NOK", "PLN", "CZK", "HUF", "RON")
"""Where a comma is the decimal sign; elsewhere a comma before three digits parts thousands."""
LAYER = {"material": "mineral-wool", "thickness_m": 0.1, "lambda_w_mk": 0.04}
