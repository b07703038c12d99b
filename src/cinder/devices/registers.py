"""Our register map (docs/gateway.md): what stands at which address, in which unit, and what may be written.

All words are 16 bits; signed where they can fall below nought, two words (high first) where they count on.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

READINGS_FROM, ROOMS_FROM, PROBES_FROM, SETTINGS_FROM = 1000, 1100, 1300, 2000
MOST_ROOMS, MOST_EMITTERS = 200, 300
Kind = Literal["signed", "plain", "double"]
ABSENT = 0xFFFF
"""A plain word that says there is no such instrument."""


@dataclass(frozen=True, slots=True)
class Register:
    """One figure: shown = word * scale. `low`, `high`: beyond, a reading is not believed and a setting is refused."""

    key: str
    address: int
    label: str
    unit: str
    scale: float
    kind: Kind
    low: float
    high: float
    writable: bool = False

    @property
    def words(self) -> int:
        return 2 if self.kind == "double" else 1

    def pack(self, value: float) -> list[int]:
        """A figure as words, held within what they carry."""
        whole = round(value / self.scale)
        if self.kind == "double":
            whole = max(whole, 0) % 2**32
            return [whole >> 16, whole & 0xFFFF]
        if self.kind == "signed":
            return [min(max(whole, -32768), 32767) & 0xFFFF]
        return [min(max(whole, 0), 65535)]

    def unpack(self, words: list[int]) -> float:
        """Words as a figure."""
        if self.kind == "double":
            return ((words[0] << 16) | words[1]) * self.scale
        whole = words[0] - 65536 if self.kind == "signed" and words[0] > 32767 else words[0]
        return whole * self.scale

    def believable(self, value: float) -> bool:
        return self.low <= value <= self.high


READINGS = (
    Register("outdoor_c", 1000, "Outdoor air, as the sensor reads it", "°C", 0.1, "signed", -60, 50),
    Register("supply_c", 1001, "Flow", "°C", 0.1, "signed", -10, 95),
    Register("return_c", 1002, "Return", "°C", 0.1, "signed", -10, 95),
    Register("flow_lph", 1003, "Water through the machine", "L/h", 1, "plain", 0, 20000),
    Register("electric_w", 1004, "Electricity", "W", 1, "plain", 0, 30000),
    Register("heat_w", 1005, "Heat to the water, falling below nought while it thaws", "W", 1, "signed", -30000, 32000),
    Register("mode", 1006, "0 off, 1 heating, 2 defrost, 3 hot water", "", 1, "plain", 0, 3),
    Register("fault", 1007, "0: none told", "", 1, "plain", 0, 999),
    Register("electric_kwh", 1008, "Electricity meter", "kWh", 0.01, "double", 0, 4e7),
    Register("heat_kwh", 1010, "Heat meter", "kWh", 0.01, "double", 0, 4e7),
    Register("time_s", 1012, "Clock of the plant", "s", 1, "double", 0, 4.3e9),
    Register("wanted_c", 1014, "Flow asked for", "°C", 0.1, "signed", 0, 95),
    Register("rooms", 1015, "How many rooms follow at 1100", "", 1, "plain", 0, MOST_ROOMS),
    Register("emitters", 1016, "How many pairs of clip probes follow at 1300", "", 1, "plain", 0, MOST_EMITTERS),
    Register("sun_w_m2", 1017, "Sun on the level", "W/m²", 1, "plain", 0, 1500),
)  # fmt: skip
SETTINGS = (
    Register("cold_out_c", 2000, "Cold point, outside", "°C", 0.1, "signed", -40, 10, writable=True),
    Register("cold_flow_c", 2001, "Cold point, water", "°C", 0.1, "signed", 20, 75, writable=True),
    Register("mild_out_c", 2002, "Mild point, outside", "°C", 0.1, "signed", 11, 25, writable=True),
    Register("mild_flow_c", 2003, "Mild point, water", "°C", 0.1, "signed", 15, 60, writable=True),
    Register("greatest_flow_c", 2004, "Never above", "°C", 0.1, "signed", 20, 80, writable=True),
    Register("least_flow_c", 2005, "Never below", "°C", 0.1, "signed", 10, 60, writable=True),
    Register("heating_limit_c", 2006, "Heating off above", "°C", 0.1, "signed", 0, 30, writable=True),
    Register("heating_on", 2007, "Heating allowed", "", 1, "plain", 0, 1, writable=True),
    Register("hot_water_on", 2008, "Hot water allowed", "", 1, "plain", 0, 1, writable=True),
    Register("charge_c", 2009, "Water that charges the store", "°C", 0.1, "signed", 30, 70, writable=True),
    Register("charge_now", 2010, "Write 1: charge the store now", "", 1, "plain", 0, 1, writable=True),
)  # fmt: skip
BY_KEY = {one.key: one for one in (*READINGS, *SETTINGS)}


def room(n: int) -> Register:
    """Air of the n-th room."""
    return Register(f"room {n}", ROOMS_FROM + n, f"Air of room {n + 1}", "°C", 0.1, "signed", -20, 60)


def probe(n: int, side: Literal["flow", "return"]) -> Register:
    """A clip probe on the flow or the return tail of the n-th emitter."""
    at = PROBES_FROM + 2 * n + (side == "return")
    return Register(f"{side} {n}", at, f"{side.capitalize()} tail of emitter {n + 1}", "°C", 0.1, "signed", -20, 95)
