"""What a construction in use says about itself that a U-value alone would hide."""

from __future__ import annotations

from cinder.design.fabric.u_values import Transmittances, metal_bridged
from cinder.design.findings import Findings
from cinder.physics.losses import fabric

LEAST_U, GREATEST_U = 0.06, 6.5
"""Outside of these a U-value is more likely a slip of the pen than a build (our choice)."""


def judge(u: Transmittances, used: set[str], findings: Findings) -> None:
    """A finding for every construction in use that the combined method of ISO 6946 is not valid for, or hard to believe."""
    for key in sorted(used):
        entry = u.entries[key]
        where = f"/library/constructions/{key}"
        worked = u.detail(key)
        if metal_bridged(entry):
            findings.add(
                "doubt", "constructions", where, f"{entry.label}: metal crosses its insulation.",
                why="The combined method of ISO 6946 is not valid for metal bridges; its U may be far too low.",
                mend="Take a declared U-value, or one from a two-dimensional calculation.",
            )  # fmt: skip
        elif isinstance(worked, fabric.Transmittance) and worked.limits_ratio > fabric.COMBINED_RATIO:
            findings.add(
                "doubt", "constructions", where, f"{entry.label}: its two limits lie {worked.limits_ratio:.1f} times apart.",
                why=f"Above {fabric.COMBINED_RATIO:g} the combined method of ISO 6946 does not hold.",
                mend="Take a declared U-value.",
            )  # fmt: skip
        deep = max((one.thickness_m or 0.0 for one in entry.layers if one.air is not None), default=0.0)
        if deep > fabric.GREATEST_GAP_M:
            findings.add(
                "doubt", "constructions", where, f"{entry.label}: an air layer of {deep * 1000:.0f} mm.",
                why="ISO 6946 knows air layers up to 300 mm; it counts as one of those. A larger space is a room.",
                mend="Enter the space as an unheated one, or correct its thickness.",
            )  # fmt: skip
        value = u.u(key)
        if not LEAST_U <= value <= GREATEST_U:
            findings.add(
                "doubt", "constructions", where, f"{entry.label}: U {value:.2f} W/m²K is hard to believe.",
                why="It is used as it stands.", mend="Look at its layers: thickness in metres, conductivity in W/mK.",
            )  # fmt: skip
