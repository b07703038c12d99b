"""What the machine comes to, in a sentence."""

from __future__ import annotations

import math
from typing import NamedTuple

from cinder.design.house.view import HouseView
from cinder.design.machine.result import CandidateResult, MachineResult, PlaceResult, SeasonResult
from cinder.model.job import UnitPlace


def machine(result: MachineResult, season: SeasonResult) -> str:
    chosen = next((row for row in result.rows if row.chosen), None)
    if chosen is None:
        return "No machine is chosen. **Compare a few** against this house and take one."
    if chosen.cover is None:
        return f"**{chosen.label}** is chosen; without a loss and a flow temperature it cannot be judged."
    if not chosen.inside:
        return f"**{chosen.label}** gives nothing on the design day: it lies **outside its envelope**."
    text = f"**{chosen.label}** covers **{chosen.cover * 100:.0f} %** of the design day"
    if season.fuel and season.machine_performance is not None and season.heat_kwh:
        share = 1 - (season.backup_kwh or 0.0) / season.heat_kwh
        text += f"; over the heating season it makes **{share * 100:.0f} %** of the heat at **{season.machine_performance:.2f}**"
        text += f", {season.beside} the rest" if share < 1 else ""
    elif season.performance is not None:
        text += f" and gives **{season.performance:.2f}** over the heating season"
        if season.short_kwh > 0:
            text += f", where **{season.short_kwh:.0f} kWh** of the heat nobody gives"
    if chosen.cycles_above_c is not None:
        text += f"; above {chosen.cycles_above_c:.0f} °C it switches on and off"
    return (text + ".").replace("-", "−")


def season_label(row: CandidateResult | None) -> str:
    """What the season's figure is called: one that blends a machine with what burns beside it has a name of its own."""
    if row is None or not row.fuel:
        return "Season, heating"
    return f"Season, with {'stove' if row.backup == 'stove' else 'boiler'}"


USUAL_COVER = 1.2
"""Cover beyond which a machine is called too large (common practice: 100 to 120 %)."""
SMALL_BACKUP = 0.1
"""Part of the season's heat a backup may give where the smaller machine is chosen on purpose (our choice)."""


class Size(NamedTuple):
    """How large a candidate is for its house, as both schools ask."""

    inside: bool
    output_w: float
    needed_w: float | None
    cover: float | None
    cycling_share: float | None
    backup_share: float | None
    backup: str


def of_whole(row: Size) -> str:
    """Its size to those who want the house covered by the machine alone."""
    if not row.inside:
        return "does not run at this design day and water"
    if row.cover is None or row.needed_w is None:
        return "not known yet"
    if row.cover < 1:
        return f"too small: {(row.needed_w - row.output_w) / 1000:.1f} kW are missing on the design day"
    if row.cover > USUAL_COVER:
        return f"larger than usual: {row.cover:.0%} of the design day, 100 to 120 % are"
    return f"right: {row.cover:.0%} of the design day"


def of_small(row: Size) -> str:
    """Its size to those who take the smaller machine and a backup for the coldest days."""
    if not row.inside:
        return "does not run at this design day and water"
    if row.cover is None or row.backup_share is None:
        return "not known yet"
    runs = f"; on and off {row.cycling_share:.0%} of its hours" if row.cycling_share is not None else ""
    if row.cover >= 1:
        return f"larger than need be: no backup would work{runs}"
    if row.backup == "none":
        return f"no backup stands beside it: {row.backup_share:.1%} of the heat would be missing"
    if row.backup_share <= SMALL_BACKUP:
        return f"right: backup gives {row.backup_share:.1%} of the heat{runs}"
    return f"small: backup gives {row.backup_share:.0%} of the heat, which wants a boiler rather than a heater{runs}"


def of_places(places: list[PlaceResult]) -> str:
    """The place that is taken, else the best of those looked at."""
    if not places:
        return "Nobody has said where the unit may stand. **Put one or two places** on the site."
    taken = next((p for p in places if p.chosen), None)
    one = taken or min(places, key=lambda p: p.unmet)
    said = f"**{one.label}** {'is taken' if taken else 'is the better place so far'}: "
    if one.unmet:
        said += f"**{one.unmet}** {'thing is' if one.unmet == 1 else 'things are'} not kept"
    else:
        said += "everything looked at is kept" if one.unseen else "everything asked is kept"
    if one.unseen:
        said += f", **{one.unseen}** not looked at yet"
    if one.heard:
        loudest = max(one.heard, key=lambda h: h.level_db)
        said += f"; {loudest.label} hears {loudest.level_db:.1f} dB(A), {loudest.limit_db:.1f} dB(A) is the limit for the unit"
    return said + "."


ICY_M = 3.0
"""A path nearer than this ices over where meltwater runs (our choice)."""


def of_meltwater(house: HouseView, place: UnitPlace) -> str:
    """What is open about the water of defrosting; empty where it is led away."""
    if place.meltwater is None:
        return "nobody has said where the water of defrosting goes."
    if place.meltwater != "onto the ground":
        return ""
    if place.on != "ground":
        return "its meltwater drips from above: icicles and a wet wall."
    paths = [
        one.label or "a patio"
        for one in house.job.site.marks.values()
        if one.kind == "patio" and math.hypot(one.x_m - place.x_m, one.y_m - place.y_m) < ICY_M
    ]
    return f"its meltwater runs onto the ground beside {', '.join(paths)}: ice underfoot." if paths else ""
