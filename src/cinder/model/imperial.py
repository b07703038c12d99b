"""The other system of units: what a job in feet and inches reads and is told instead. Inside everything stays SI.

The browser has the same table (generated from this one) and the same rule for text; `tests/fixtures/imperial.json` holds both
to it.
"""

from __future__ import annotations

import re
from dataclasses import dataclass


@dataclass(frozen=True)
class Unit:
    """What stands for a unit of ours: shown = value * factor + offset. `digits`: decimals more or fewer than ours has."""

    name: str
    factor: float
    offset: float = 0.0
    digits: int = 0


FOOT_M, INCH_M = 0.3048, 0.0254
K, M2, M3, W, L, KPA = 1.8, 1 / FOOT_M**2, 1 / FOOT_M**3, 1 / 0.29307107, 1 / 3.785411784, 1 / 2.98907
"""Fahrenheit degrees in a kelvin; square and cubic feet; British thermal units (international table) an hour in a watt;
US gallons in a litre; conventional feet of water in a kilopascal. NIST SP 811, appendix B (from memory)."""
UNITS: dict[str, Unit] = {
    "°C": Unit("°F", K, 32.0),
    "K": Unit("°F", K),
    "K d": Unit("°F d", K),
    "W": Unit("Btu/h", W),
    "kW": Unit("Btu/h", W * 1000, digits=-3),
    "W/m²": Unit("Btu/h·ft²", W / M2, digits=1),
    "W/K": Unit("Btu/h·°F", W / K),
    "W/m²K": Unit("Btu/h·ft²·°F", W / M2 / K, digits=1),
    "W/mK": Unit("Btu/h·ft·°F", W * FOOT_M / K),
    "m²K/W": Unit("h·ft²·°F/Btu", M2 * K / W, digits=-1),
    "Wh/m³K": Unit("Btu/h per ft³/min·°F", W / M3 * 60 / K),
    "Wh/L·K": Unit("Btu/gal·°F", W / L / K),
    "m²": Unit("ft²", M2, digits=-1),
    "m³": Unit("ft³", M3, digits=-1),
    "m³/h": Unit("ft³/min", M3 / 60),
    "m³/hm²": Unit("ft³/min·ft²", M3 / 60 / M2, digits=1),
    "L": Unit("gal", L, digits=1),
    "L per kW": Unit("gal per 1000 Btu/h", L / W, digits=1),
    "L/h": Unit("gal/min", L / 60, digits=2),
    "L/min": Unit("gal/min", L, digits=1),
    "L/s": Unit("gal/min", L * 60, digits=-1),
    "kPa": Unit("ft of head", KPA),
    "Pa/m": Unit("ft/100 ft", KPA / 1000 * 100 * FOOT_M, digits=2),
    "bar": Unit("psi", 1 / 0.06894757293),
    "m/s": Unit("ft/s", 1 / FOOT_M),
    "m": Unit("ft", 1 / FOOT_M),
    "m/m²": Unit("ft/ft²", FOOT_M),
    "mm": Unit("in", 0.001 / INCH_M, digits=1),
    "km": Unit("mi", 1000 / (5280 * FOOT_M)),
    "kg": Unit("lb", 1 / 0.45359237),
    "kWh/m²": Unit("kWh/ft²", 1 / M2, digits=1),
}
"""By our unit. A length to a centimetre or a millimetre is said in feet and inches instead."""
FINE = (2, 3)
"""Decimals of such a length."""
NAMES = frozenset({"mm"})
"""Units that stay as they are within a text: there they are part of the name of a pipe, a board or a build."""

_NUMBER = r"[-−+±]?(?:\d{1,3}(?:\u2009\d{3})+|\d+)(?:\.\d+)?"
_UNIT = "|".join(re.escape(unit) for unit in sorted(UNITS, key=len, reverse=True) if unit not in NAMES)
_SAID = re.compile(
    rf"(?<![\w.,/])({_NUMBER}(?:(?:–| to | [+−] ){_NUMBER})*)([\u2009\u00a0 ]|\*\* )({_UNIT})"
    r"(?![\w²³/·-])"
)
_ONE = re.compile(_NUMBER)
_PANEL = re.compile(r"\b(\d{3,4}) × (\d{3,4})\b(?! mm)")
"""The size of a radiator as it is always written here, millimetres without their name."""


def shown(value: float, unit: str) -> float:
    """A value of ours in the other system.

    >>> shown(20.0, "°C"), round(shown(1000.0, "L/h"), 2)
    (68.0, 4.4)
    """
    other = UNITS.get(unit)
    return value if other is None else value * other.factor + other.offset


def number(value: float, digits: int) -> str:
    """A number for people as this project prints it: a true minus, thin spaces from five figures on; `digits` below
    nought round to tens."""
    rounded = round(value, digits)
    text = f"{rounded:,.{max(digits, 0)}f}" if abs(rounded) >= 10_000 else f"{rounded:.{max(digits, 0)}f}"
    text = text.replace("-", "−").replace(",", "\u2009")
    return text.removeprefix("−") if not re.search("[1-9]", text) else text


def feet_and_inches(metres: float) -> str:
    """To the sixteenth of an inch.

    >>> feet_and_inches(3.81), feet_and_inches(-0.1)
    ('12\\' 6"', '−0\\' 3 15/16"')
    """
    sixteenths = int(abs(metres) / INCH_M * 16 + 0.5)
    feet, rest = divmod(sixteenths, 192)
    inches, top = divmod(rest, 16)
    bottom = 16
    while top and top % 2 == 0:
        top, bottom = top // 2, bottom // 2
    return f"{'−' if metres < 0 else ''}{feet}' {inches}{f' {top}/{bottom}' if top else ''}\""


def told(text: str) -> str:
    """A text of ours with every figure that has a unit said in the other system.

    >>> told("Needs **38.0 kPa** at 1320 L/h; 12 to 15 °C, −3 °C, 5 K above; 100 mm wool.")
    'Needs **12.7 ft of head** at 5.81 gal/min; 54 to 59 °F, 27 °F, 9 °F above; 100 mm wool.'
    """
    return _SAID.sub(_other, _PANEL.sub(_inches, text))


def _inches(found: re.Match[str]) -> str:
    wide, tall = (number(int(one) * 0.001 / INCH_M, 1) for one in found.groups())
    return f"{wide} × {tall} in"


def _other(found: re.Match[str]) -> str:
    figures, between, unit = found.groups()
    if unit == "m" and all(len(one.partition(".")[2]) in FINE for one in _ONE.findall(figures)):
        return _ONE.sub(lambda one: feet_and_inches(_value(one[0])), figures) + between.rstrip()
    other = UNITS[unit]

    def convert(one: re.Match[str]) -> str:
        text = one[0]
        sign = text[0] if text[0] in "+±" else ""
        value = _value(text.lstrip("+±"))
        offset = 0.0 if sign == "±" else other.offset
        digits = len(text.partition(".")[2]) + other.digits
        return sign + number(value * other.factor + offset, digits)

    return f"{_ONE.sub(convert, figures)}{between}{other.name}"


def _value(text: str) -> float:
    return float(text.lstrip("+±").replace("−", "-").replace("\u2009", ""))


@dataclass(frozen=True)
class Told:
    """Figures and texts as a job has them: in feet, degrees Fahrenheit and Btu/h, or in ours. `digits` are those ours have.

    >>> Told(feet=True).amount(45.0, "°C", 1), Told(feet=True).amount(6.42, "kW", 2), Told(feet=True).amount(2.45, "m", 2)
    ('113.0 °F', '21\\u2009910 Btu/h', '8\\' 0 7/16"')
    """

    feet: bool

    def name(self, unit: str) -> str:
        return UNITS[unit].name if self.feet and unit in UNITS else unit

    def factor(self, unit: str) -> float:
        """How many of the unit that is told lie in one of ours: a price for one of ours is divided by it."""
        return UNITS[unit].factor if self.feet and unit in UNITS else 1.0

    def fig(self, value: float | None, unit: str, digits: int = 0) -> str:
        """A figure without its unit; a dash where there is none."""
        if value is None:
            return "–"
        if not self.feet or unit not in UNITS:
            return number(value, digits)
        return (
            feet_and_inches(value) if _fine(unit, digits) else number(shown(value, unit), digits + UNITS[unit].digits)
        )

    def amount(self, value: float | None, unit: str, digits: int = 0) -> str:
        """A figure with its unit."""
        text = self.fig(value, unit, digits)
        return text if self.feet and _fine(unit, digits) else f"{text} {self.name(unit)}"

    def text(self, text: str) -> str:
        return told(text) if self.feet else text


def _fine(unit: str, digits: int) -> bool:
    return unit == "m" and digits in FINE
