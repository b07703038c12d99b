"""Where a machine may stand: what is free about it, what hears it, what its supply carries. Arithmetic; the maker's manual, the
local rules and a licensed electrician decide."""

from __future__ import annotations

import math
from dataclasses import dataclass

from shapely import LineString, Point, Polygon, unary_union
from shapely.geometry.base import BaseGeometry

from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.kept import Needs
from cinder.design.machine.result import (
    ElectricsResult,
    HeardResult,
    LevelResult,
    PlaceResult,
    PlacesResult,
    RuleResult,
)
from cinder.design.machine.say import of_places
from cinder.library import MachineEntry, PlaceRuleEntry, load
from cinder.model import Practice
from cinder.model.job import Receiver, UnitPlace
from cinder.physics import sound

WALL_M = 0.3
"""What stands round rooms that are measured inside, taken for the outer wall (our choice)."""
LEVELS_DB = (50.0, 45.0, 40.0, 35.0, 30.0)
"""Levels drawn about a unit."""
UNIT_WIDE_M, UNIT_DEEP_M = 1.1, 0.45
"""Size of an ordinary unit, where nobody says another (our choice)."""
SEEN_M = 12.0
CLOSE_M = 1.0
"""A wall nearer than this reflects as one the unit stands at (our choice)."""
OUT_OF_ALLEY_M = 2.0
"""Free in front, where both sides are walled: less, and the air it blew is drawn in again (our choice)."""
VOLTS = 230.0
GROUND_M = 0.6


@dataclass(frozen=True, slots=True)
class Ground:
    """The house at the height of the ground."""

    outline: BaseGeometry | None

    @classmethod
    def of(cls, house: HouseView) -> Ground:
        bodies = [
            shape.polygon.buffer(WALL_M, join_style="mitre")
            for shape in house.layout.shapes.values()
            if shape.placed and shape.valid and shape.bottom_m <= GROUND_M < max(shape.top_m, shape.bottom_m + 1.0)
        ]
        return cls(unary_union(bodies) if bodies else None)

    def free_m(self, x: float, y: float, bearing_deg: float) -> float | None:
        """How far one sees from a point before the house stands in the way; None: not within 12 m."""
        if self.outline is None:
            return None
        a = math.radians(bearing_deg)
        ray = LineString([(x, y), (x + SEEN_M * math.sin(a), y + SEEN_M * math.cos(a))])
        met = ray.intersection(self.outline.boundary)
        return None if met.is_empty else float(Point(x, y).distance(met))

    def rings(self) -> list[list[list[float]]]:
        if self.outline is None:
            return []
        parts = getattr(self.outline, "geoms", [self.outline])
        return [
            [[round(px, 3), round(py, 3)] for px, py in part.exterior.coords]
            for part in parts
            if isinstance(part, Polygon)
        ]


def looks_at(house: HouseView) -> Needs:
    """What the places hang on."""
    return (house.job.site, house.layout, house.machine, house.scheme, house.job.active_scheme, house.practice)


def judge(house: HouseView, findings: Findings) -> PlacesResult:
    """Every place of the site, by what is free about it and who hears it. Source: handbook of the trade, inverse square law."""
    site, ground, rules = house.job.site, Ground.of(house), load().place_rules
    scheme = house.scheme
    candidate = scheme.candidates.get(scheme.chosen) if scheme and scheme.chosen else None
    places = []
    for key, place in sorted(site.places.items(), key=lambda item: (item[1].pos, item[0])):
        one = _place(house, ground, rules, key, place, bool(candidate and candidate.place == key))
        places.append(one)
        if one.chosen:
            _findings(one, findings)
    lacks = ""
    if house.machine is None:
        lacks = "No machine is chosen: nothing is heard yet."
    elif house.machine.sound_power_day_db is None:
        lacks = f"Nobody says how loud {house.machine.label} is."
    return PlacesResult(
        outline=ground.rings(), places=places, machine=house.machine.label if house.machine else "",
        zone_m=_least(house, rules["zone"])[0] if house.machine is None or house.machine.flammable else None,
        noise_school=noise_school(house.practice), noise_lacks=lacks, electrics=electrics(house, findings),
        sentence=of_places(places),
    )  # fmt: skip


def nothing(house: HouseView) -> PlacesResult:
    return PlacesResult(
        outline=[], places=[], machine="", zone_m=None, noise_school="", noise_lacks="", electrics=ElectricsResult(
            labels=[], amperes=[], sum_a=0.0, fuse_a=None, left_a=None, lacks="",
        ), sentence="",
    )  # fmt: skip


def noise_school(p: Practice) -> str:
    """Which of the two ways of judging is followed, in words."""
    if p.noise == "alone":
        return f"the unit alone, at most {p.noise_alone_db:g} dB(A) at a window"
    return f"with an assumed background of {p.noise_background_db:g} dB(A) together at most {p.noise_together_db:g} dB(A) at a window"


def _least(house: HouseView, rule: PlaceRuleEntry) -> tuple[float, bool]:
    """The distance that counts: the manual's where somebody entered it."""
    own = house.job.site.place_rules.get(rule.id)
    return (own, True) if own is not None else (rule.least_m, False)


def _place(
    house: HouseView, ground: Ground, rules: dict[str, PlaceRuleEntry], key: str, place: UnitPlace, chosen: bool
) -> PlaceResult:
    x, y, facing = place.x_m, place.y_m, place.facing_deg
    inside = ground.outline is not None and ground.outline.contains(Point(x, y)) and place.on != "roof"
    deep, wide = UNIT_DEEP_M / 2, UNIT_WIDE_M / 2
    seen = {
        "behind": ground.free_m(x, y, facing + 180), "front": ground.free_m(x, y, facing),
        "left": ground.free_m(x, y, facing - 90), "right": ground.free_m(x, y, facing + 90),
    }  # fmt: skip
    if place.on == "roof":
        seen = dict.fromkeys(seen)
    free = {
        side: None if far is None else max(far - (deep if side in ("behind", "front") else wide), 0.0)
        for side, far in seen.items()
    }
    near = sum(1 for far in free.values() if far is not None and far < CLOSE_M)
    near = min(max(near, 1 if place.on == "wall" else 0), 2)
    sides = [free["left"], free["right"]]
    front = free["front"]
    alley = all(one is not None and one < CLOSE_M for one in sides) and front is not None and front < OUT_OF_ALLEY_M
    service = max((one if one is not None else SEEN_M for one in sides), default=SEEN_M)
    measures: dict[str, tuple[float | None, str]] = {
        "behind": (free["behind"], "the house"), "front": (front, "the house"),
        "side": (None if service >= SEEN_M else service, "the house"),
        "zone": _nearest(house, place), "window": _window(house, place),
    }  # fmt: skip
    found = []
    for name, rule in rules.items():
        if rule.flammable_only and house.machine is not None and not house.machine.flammable:
            continue
        measure, what = measures.get(name, (None, ""))
        least, by_manual = _least(house, rule)
        looked = {"zone": bool(house.job.site.openings), "window": bool(house.job.site.receivers)}.get(
            name, ground.outline is not None
        )
        kept = (measure is None or measure >= least - 1e-9) if looked else None
        found.append(
            RuleResult(
                key=name, label=rule.label, measure_m=measure, least_m=least, met=kept,
                by_manual=by_manual, what=what, why=rule.why, source="the manual, as entered" if by_manual else rule.source,
            )
        )  # fmt: skip
    heard = [] if house.machine is None else _heard(house, house.machine, place, near)
    access = ""
    if place.on != "ground":
        access = "fall protection, a plan for service, vibration"
        access += "" if place.access_minor is not None else "; nobody has priced how it is reached"
    return PlaceResult(
        id=key, label=place.label or "A place", x_m=x, y_m=y, facing_deg=facing, on=place.on, chosen=chosen, inside=inside,
        walls_near=near, alley=alley, levels=_levels(house.machine, near), rules=found, heard=heard, run_m=place.run_m,
        cable_m=place.cable_m, access=access,
        unmet=sum(r.met is False for r in found) + sum(not h.met for h in heard) + inside + alley,
        unseen=sum(r.met is None for r in found),
    )  # fmt: skip


def _levels(machine: MachineEntry | None, near: int) -> list[LevelResult]:
    """How far each level reaches by day, nothing in the way."""
    if machine is None or machine.sound_power_day_db is None:
        return []
    q = sound.DIRECTIVITY[near]
    return [
        LevelResult(
            level_db=level,
            radius_m=sound.distance_for_m(power_db=machine.sound_power_day_db, directivity=q, most_db=level),
        )
        for level in LEVELS_DB
    ]


def _nearest(house: HouseView, place: UnitPlace) -> tuple[float | None, str]:
    """The opening, drain or shaft nearest to the unit in space, from its edge; gas sinks, so what lies below counts as level."""
    found = []
    for opening in house.job.site.openings.values():
        flat = max(math.hypot(opening.x_m - place.x_m, opening.y_m - place.y_m) - UNIT_WIDE_M / 2, 0.0)
        above = max(opening.height_m - place.height_m, 0.0)
        found.append((math.hypot(flat, above), opening.label or "an opening"))
    return min(found) if found else (None, "")


def _window(house: HouseView, place: UnitPlace) -> tuple[float | None, str]:
    found = [(_far(place, one), one.label or "a window") for one in house.job.site.receivers.values()]
    return min(found) if found else (None, "")


def _far(place: UnitPlace, receiver: Receiver) -> float:
    return math.dist((place.x_m, place.y_m, place.height_m), (receiver.x_m, receiver.y_m, receiver.height_m))


def _heard(house: HouseView, entry: MachineEntry, place: UnitPlace, near: int) -> list[HeardResult]:
    if entry.sound_power_day_db is None:
        return []
    p, q = house.practice, sound.DIRECTIVITY[near]
    own = sound.room_left_db(most_db=p.noise_together_db, background_db=p.noise_background_db)
    limit = p.noise_alone_db if p.noise == "alone" else own
    out = []
    for key, one in sorted(house.job.site.receivers.items(), key=lambda item: (item[1].pos, item[0])):
        far, screen = _far(place, one), sound.SCREENED_DB[one.screened]
        day = float(
            sound.level_db(power_db=entry.sound_power_day_db, directivity=q, distance_m=far, screened_db=screen)
        )
        quiet = None
        if entry.sound_power_night_db is not None:
            quiet = float(
                sound.level_db(power_db=entry.sound_power_night_db, directivity=q, distance_m=far, screened_db=screen)
            )
        needs = sound.distance_for_m(
            power_db=entry.sound_power_day_db, directivity=q, most_db=limit, screened_db=screen
        )
        out.append(
            HeardResult(
                id=key, label=one.label or "A window", distance_m=far, level_db=day, quiet_db=quiet,
                together_db=sound.together_db([day, p.noise_background_db]), limit_db=limit, met=day <= limit,
                alone_met=day <= p.noise_alone_db, together_met=day <= own, further_m=max(needs - far, 0.0),
                passes=_passes(day, quiet, limit, screen, needs - far),
            )
        )  # fmt: skip
    return out


def _passes(day: float, quiet: float | None, limit: float, screen: float, further: float) -> str:
    """What would bring a level under the limit, in words."""
    if day <= limit:
        return ""
    ways = [f"{further:.1f} m further away"]
    for name, taken in (("a screen that hides it partly", 5.0), ("a screen that hides it", 10.0)):
        if taken > screen and day - (taken - screen) <= limit:
            ways.append(name)
            break
    if quiet is not None and quiet <= limit:
        ways.append("its quiet mode")
    ways.append(f"a unit {day - limit:.1f} dB quieter")
    return ", or ".join(ways)


def electrics(house: HouseView, findings: Findings) -> ElectricsResult:
    """What the house and the machine draw at once, against the main fuse: a sum, no verdict."""
    supply, machine = house.job.site.supply, house.machine
    labels, amperes, lacks = [], [], ""
    if supply.present_a is not None:
        labels.append("the house, after diversity")
        amperes.append(supply.present_a)
    if machine is not None and machine.max_current_a is not None:
        labels.append(machine.label)
        amperes.append(machine.max_current_a)
        if machine.contains.heater_kw and not supply.interlocked:
            labels.append("its heater, at the same time")
            amperes.append(machine.contains.heater_kw * 1000 / VOLTS)
    missing = [
        what
        for what, known in (
            ("the main fuse", supply.fuse_a), ("what the house draws", supply.present_a),
            ("what the machine draws", machine.max_current_a if machine else None),
        )
        if known is None
    ]  # fmt: skip
    if missing:
        lacks = f"Not known yet: {', '.join(missing)}."
    total = sum(amperes)
    left = supply.fuse_a - total if supply.fuse_a is not None and not missing else None
    if left is not None and left < 0:
        findings.add(
            "doubt", "machine", "/site/supply", f"The sum of {total:.0f} A is more than the main fuse of {supply.fuse_a:g} A.",
            why="House, machine and heater may draw that at once.",
            mend="An electrician looks at the demand, an interlock or the supply.",
        )  # fmt: skip
    if supply.spare_way is False:
        findings.add(
            "note", "machine", "/site/supply/spare_way", "The board has no spare way.",
            why="The machine wants a circuit of its own.", mend="Price a larger board or a second one.",
        )  # fmt: skip
    return ElectricsResult(
        labels=labels, amperes=amperes, sum_a=total, fuse_a=supply.fuse_a, left_a=left, lacks=lacks,
    )  # fmt: skip


def _findings(place: PlaceResult, findings: Findings) -> None:
    where = f"/site/places/{place.id}"
    if place.inside:
        findings.add(
            "short", "machine", where, f"{place.label} lies inside the house.",
            why="The unit takes its heat from outdoor air.", mend="Move it outside, or say that it stands on the roof.",
        )  # fmt: skip
    if place.alley:
        findings.add(
            "short", "machine", where, f"{place.label} is a blind alley: walls on both sides and in front.",
            why="The cold air it blows out is drawn in again.", mend="Move it out of the alley, or turn it.",
        )  # fmt: skip
    for rule in place.rules:
        if rule.met is False and rule.measure_m is not None and not place.inside:
            findings.add(
                "doubt", "machine", where,
                f"{place.label}: {rule.measure_m:.2f} m where {rule.least_m:g} m are kept ({rule.label.lower()}, {rule.what}).",
                why=rule.why, mend="Move the unit, or enter what its manual says.",
            )  # fmt: skip
    unseen = [rule.label.lower() for rule in place.rules if rule.met is None]
    if unseen:
        findings.add(
            "doubt", "machine", where, f"{place.label}: nobody has said what lies about it ({'; '.join(unseen)}).",
            why="What is not on the site is not judged.", mend="Put openings, drains and windows on the site.",
        )  # fmt: skip
    for heard in place.heard:
        if not heard.met:
            findings.add(
                "short", "machine", where, f"{heard.label} would hear {heard.level_db:.1f} dB(A), {heard.limit_db:.1f} are the limit.",
                why="By the way of judging this practice follows.", mend=f"What would pass: {heard.passes}.",
            )  # fmt: skip
