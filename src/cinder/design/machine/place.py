"""Where a machine may stand: what is free about it, what hears it, what its supply carries. Arithmetic; the maker's manual, the
local rules and a licensed electrician decide."""

from __future__ import annotations

from shapely import Point

from cinder.design.findings import Findings
from cinder.design.house import routes
from cinder.design.house.view import HouseView
from cinder.design.kept import Needs, entries
from cinder.design.machine.clear import Ground, free_about, judged, least, rules_of, standing
from cinder.design.machine.electrics import electrics
from cinder.design.machine.heard import contours, heard_at, levels, noise_school
from cinder.design.machine.result import ElectricsResult, PlaceResult, PlacesResult, WayResult
from cinder.design.machine.say import of_meltwater, of_places
from cinder.design.machine.split import refrigerant_lines
from cinder.model.job import UnitPlace

AROUND_M = 4.0


def looks_at(house: HouseView) -> Needs:
    """What the places hang on."""
    rules, ground = entries(house.job.library.place_rules), tuple(shape.outlines[0] for shape in standing(house))
    return (house.job.site, ground, house.machine, house.scheme, house.job.active_scheme, house.practice, rules)


def judge(house: HouseView, findings: Findings) -> PlacesResult:
    """Every place of the site, by what is free about it and who hears it. Source: handbook of the trade, inverse square law."""
    site, ground = house.job.site, Ground.of(house)
    outline = ground.rings()
    box = _box(house, outline)
    scheme = house.scheme
    candidate = scheme.candidates.get(scheme.chosen) if scheme and scheme.chosen else None
    places = []
    for key, place in sorted(site.places.items(), key=lambda item: (item[1].pos, item[0])):
        one = _place(house, ground, key, place, bool(candidate and candidate.place == key), box)
        places.append(one)
        if one.chosen:
            _findings(one, findings)
    for neighbour in site.receivers.values():
        if ground.outline is not None and ground.outline.contains(Point(neighbour.x_m, neighbour.y_m)):
            findings.add(
                "doubt", "machine", "/site/receivers", f"{neighbour.label or 'A window'} lies inside the house.",
                why="A neighbour hears it from outside.", mend="Move it to where the neighbour's window is.",
            )  # fmt: skip
    lacks = ""
    if house.machine is None:
        lacks = "No machine is chosen: nothing is heard yet."
    elif house.machine.sound_power_day_db is None:
        lacks = f"Nobody says how loud {house.machine.label} is."
    return PlacesResult(
        outline=outline, places=places, machine=house.machine.label if house.machine else "",
        zone_m=least(house, rules_of(house)["zone"])[0] if house.machine is None or house.machine.flammable else None,
        noise_school=noise_school(house.practice), noise_lacks=lacks, electrics=electrics(house, findings),
        sentence=of_places(places),
    )  # fmt: skip


def nothing(house: HouseView) -> PlacesResult:
    return PlacesResult(
        outline=[], places=[], machine="", zone_m=None, noise_school="", noise_lacks="", electrics=ElectricsResult(
            labels=[], amperes=[], sum_a=0.0, fuse_a=None, left_a=None, lacks="",
        ), sentence="",
    )  # fmt: skip


def _place(
    house: HouseView, ground: Ground, key: str, place: UnitPlace, chosen: bool, box: tuple[float, float, float, float]
) -> PlaceResult:
    site, machine, p = house.job.site, house.machine, house.practice
    free = free_about(ground, place)
    found = judged(house, ground, place, free)
    heard = [] if machine is None else heard_at(house, machine, place, free.walls_near)
    run = _laid(routes.primary(site, place), p.primary_minor_per_m)
    cable = _laid(routes.cable(site, place), p.cable_minor_per_m)
    lines = refrigerant_lines(house, machine, place, run.length_m)
    costs = [one for one in (run.cost_minor, cable.cost_minor, place.access_minor) if one is not None]
    access = ""
    if place.on != "ground":
        access = "fall protection, a plan for service, vibration"
        access += "" if place.access_minor is not None else "; nobody has priced how it is reached"
    return PlaceResult(
        id=key, label=place.label or "A place", x_m=place.x_m, y_m=place.y_m, facing_deg=place.facing_deg, on=place.on,
        chosen=chosen, inside=free.inside, walls_near=free.walls_near, alley=free.alley,
        levels=levels(machine, free.walls_near), contours=contours(house, place, free.walls_near, box), rules=found,
        heard=heard, run=run, cable=cable, lines=lines, cost_minor=sum(costs) if costs else None,
        meltwater=of_meltwater(house, place), access=access,
        unmet=sum(r.met is False for r in found) + sum(not h.met for h in heard) + free.inside + free.alley
        + (lines is not None and lines.met is False),
        unseen=sum(r.met is None for r in found),
    )  # fmt: skip


def _laid(way: routes.Way, minor_per_m: float) -> WayResult:
    cost = way.length_m * minor_per_m if way.length_m is not None else None
    return WayResult(length_m=way.length_m, points=way.points, why=way.why, cost_minor=cost)


def _box(house: HouseView, outline: list[list[list[float]]]) -> tuple[float, float, float, float]:
    """What the site takes up, with room about it, m."""
    site = house.job.site
    maps = (site.places, site.receivers, site.openings, site.marks)
    points = [(p[0], p[1]) for ring in outline for p in ring] + [(p.x_m, p.y_m) for p in site.boundary]
    for one in maps:
        points += [(dot.x_m, dot.y_m) for dot in one.values()]
    xs, ys = [x for x, _ in points] or [0.0], [y for _, y in points] or [0.0]
    return min(xs) - AROUND_M, min(ys) - AROUND_M, max(xs) + AROUND_M, max(ys) + AROUND_M


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
    if place.meltwater:
        findings.add(
            "note", "machine", where, f"{place.label}: {place.meltwater}",
            why="Defrosting gives water all winter, and it freezes where it lies.",
            mend="Say where it goes: a gully, a soakaway below the frost, or a heated pipe.",
        )  # fmt: skip
    if place.lines is not None and place.lines.met is False:
        findings.add(
            "short", "machine", where,
            f"{place.label}: its refrigerant lines would be {place.lines.length_m or 0:.1f} m with a lift of "
            f"{place.lines.lift_m or 0:.1f} m; the maker allows {place.lines.most_length_m:g} and {place.lines.most_lift_m:g} m.",
            why="Beyond that output and oil return are not given.", mend="Another place, or a monobloc machine.",
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
