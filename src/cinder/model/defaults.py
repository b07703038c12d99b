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
HEATED_SHARE = 0.85
"""The part of a floor that is heated until somebody says."""
PRIMARIES = {"family": "copper", "size": "28", "length_m": 5.0, "fittings": {"elbow": 6}}
BRANCH = {"family": "copper", "size": "15", "length_m": 6.0, "fittings": {"elbow": 4, "tee-branch": 1}}
"""An informed guess of a run that nobody has looked at yet."""
COMMA_CURRENCIES = ("EUR", "SEK", "DKK", "NOK", "PLN", "CZK", "HUF", "RON")
"""Where a comma is the decimal sign; elsewhere a comma before three digits parts thousands."""
LAYER = {"material": "mineral-wool", "thickness_m": 0.1, "lambda_w_mk": 0.04}
