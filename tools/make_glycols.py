"""Writes the table of glycol and water: density, specific heat, viscosity and freezing point, from CoolProp.

    python tools/make_glycols.py >src/cinder/library/data/glycols.toml

The sets are CoolProp's AEG and APG (ASHRAE, by volume); the row without glycol is its water (IAPWS-95). Other published sets for
ethylene glycol differ from this one by up to 18 % in cold viscosity.
"""

from __future__ import annotations

from CoolProp.CoolProp import PropsSI

ZERO_C = 273.15
PRESSURE_PA = 2e5
SHARES = [0.0, *(n / 20 for n in range(2, 13))]
TEMPERATURES = list(range(0, 105, 5))
KINDS = {"propylene": ("Propylene glycol", "APG"), "ethylene": ("Ethylene glycol", "AEG")}


def of(name: str, share: float, what: str, celsius: float) -> float:
    """A property of the mixture, or of water where there is no glycol."""
    fluid = f"INCOMP::{name}[{share}]" if share else "Water"
    return float(PropsSI(what, "T", max(celsius, 0.01) + ZERO_C, "P", PRESSURE_PA, fluid))


def rows(name: str, what: str, times: float, digits: int) -> str:
    """A property over shares and temperatures, as TOML."""
    lines = (
        "    [" + ", ".join(f"{times * of(name, share, what, t):.{digits}f}" for t in TEMPERATURES) + "],"
        for share in SHARES
    )
    return "[\n" + "\n".join(lines) + "\n]"


def main() -> None:
    """The table on standard output."""
    print("# Glycol in water by volume, written by tools/make_glycols.py; the row of share 0 is water.")
    for key, (label, name) in KINDS.items():
        freezes = [
            0.0,
            *(PropsSI("T_freeze", "T", 300, "P", PRESSURE_PA, f"INCOMP::{name}[{s}]") - ZERO_C for s in SHARES[1:]),
        ]
        print(f'\n[{key}]\nlabel = "{label}"\nshare = {SHARES}')
        print(f"freezes_c = [{', '.join(f'{one:.2f}' for one in freezes)}]")
        print(f"temperature_c = {[float(t) for t in TEMPERATURES]}")
        print(f"density_kg_m3 = {rows(name, 'D', 1.0, 2)}")
        print(f"specific_heat_j_kgk = {rows(name, 'C', 1.0, 1)}")
        print(f"viscosity_mpa_s = {rows(name, 'V', 1000.0, 5)}")
        print(f'source = "CoolProp, incompressible set {name} (ASHRAE, by volume)"')


if __name__ == "__main__":
    main()
