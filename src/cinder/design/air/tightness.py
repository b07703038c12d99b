"""How tight the house is: measured, stated per envelope area, proposed, or by its age."""

from __future__ import annotations

from typing import NamedTuple

from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.model.parts import age_of
from cinder.physics.losses.air import n50_from_q50

UNKNOWN_N50_PER_H = 10.0


class Tightness(NamedTuple):
    """n50, 1/h, and how it is known."""

    n50_per_h: float
    why: str


def by_age(house: HouseView) -> Tightness:
    """The tightness the age suggests."""
    age = age_of(house.job.survey, house.tables, None)
    if age is not None:
        return Tightness(age.n50_per_h, f"assumed from the age ({age.label})")
    return Tightness(UNKNOWN_N50_PER_H, "assumed, age unknown")


def envelope_m2(house: HouseView) -> float:
    """Everything that closes the heated rooms in: faces to outside, ground, unheated spaces and neighbours, m2."""
    return sum(room.closed_in_m2 for room in house.rooms)


def tightness(house: HouseView, findings: Findings) -> Tightness:
    """The tightness of the house: the scheme's, else the survey's n50 or q50, else by age."""
    found = house.job.survey.tightness
    for _, measure in sorted(house.measures("tightness"), key=lambda item: item[1].n50_per_h or 0.0):
        if measure.n50_per_h:
            return Tightness(measure.n50_per_h, "as the scheme proposes")
    if found.n50_per_h is not None:
        known = found.known.get("n50_per_h")
        return Tightness(found.n50_per_h, known.how if known else "as entered")
    volume = sum(room.volume_m3 or 0.0 for room in house.rooms)
    if found.q50_m3h_m2 is not None and volume > 0:
        known = found.known.get("q50_m3h_m2")
        n50 = n50_from_q50(q50_m3h_m2=found.q50_m3h_m2, envelope_m2=envelope_m2(house), volume_m3=volume)
        return Tightness(n50, f"from q50 {found.q50_m3h_m2:g} m³/hm², {known.how if known else 'as entered'}")
    n50, why = by_age(house)
    if house.job.survey.rooms:
        findings.add(
            "doubt", "air", "/survey/tightness/n50_per_h", f"The tightness, n50 {n50:g}, is {why}.",
            why="Air is often a third of the loss.", mend="A blower-door test, or a figure from a certificate.",
        )  # fmt: skip
    return Tightness(n50, why)
