"""What the survey still lacks, nearest first, and whether it is good enough to size from."""

from __future__ import annotations

import math

from cinder.design.apart.doubts.result import Doubts, Gap, Leaving
from cinder.design.emitters.heated import lacking
from cinder.design.plan.geometry import closing
from cinder.design.plan.layout import Layout, layout
from cinder.library import ItemEntry, load
from cinder.model import Heated, Job, Room
from cinder.model.parts import in_order

STAIRS_M = 8.0
"""What a storey up or down counts as, walked."""
AWAY_M = {"outside": 12.0, "plant": 10.0, "electrics": 11.0, "loft": 14.0, "places": 16.0}
GOOD_RANGE = 0.35
"""A survey is good enough when P90 is at most this share above P10 (our choice)."""


def leaving(job: Job, *, standing: str | None = None, doubts: Doubts | None = None) -> Leaving:
    """Every gap, ordered by the way from `standing` (a room) or in walking order, and the verdict.

    A thing marked "could not see, because …" is no gap; it is listed apart, with its reason.
    """
    where = layout(job.survey)
    gaps: list[Gap] = []
    unseen: list[Gap] = []
    for key, room in sorted(job.survey.rooms.items(), key=lambda item: (item[1].pos, item[0])):
        away = _distance(where, standing, key)
        for name, what, required in _room_lacks(job, key, room):
            gap = Gap(
                where=f"/survey/rooms/{key}/{name}", room=key, section="rooms",
                what=f"{room.label or 'A room'}: {what}", required=required, distance_m=away,
            )  # fmt: skip
            reason = room.unseen.get(name.replace("/", "."))
            if reason is not None:
                unseen.append(gap.model_copy(update={"what": f"{gap.what} Could not be seen: {reason}"}))
            else:
                gaps.append(gap)
    if not job.survey.rooms:
        gaps.append(
            Gap(
                where="/survey/rooms",
                room=None,
                section="rooms",
                what="No room is recorded yet.",
                required=True,
                distance_m=0.0,
            )
        )
    for item in load().walk_round.values():
        for at, what, reason in _item_lacks(job, item):
            away = AWAY_M[item.section] if standing is not None else None
            gap = Gap(where=at, room=None, section=item.section, what=what, required=not item.optional, distance_m=away)
            if reason is not None:
                unseen.append(gap.model_copy(update={"what": f"{what} Could not be seen: {reason}"}))
            elif not item.optional:
                gaps.append(gap)
    if standing is not None:
        gaps.sort(key=lambda g: (g.distance_m if g.distance_m is not None else math.inf, not g.required))
    needed = [g for g in gaps if g.required and g.section == "rooms"]
    good, sentence = _verdict(gaps, needed, doubts)
    return Leaving(
        gaps=gaps, unseen=unseen, required=sum(g.required for g in gaps), good_enough=good, sentence=sentence
    )


def _distance(where: Layout, standing: str | None, key: str) -> float | None:
    """Way from one room to another: their middles apart, and stairs between floors."""
    if standing is None:
        return None
    if standing == key:
        return 0.0
    here, there = where.shapes.get(standing), where.shapes.get(key)
    if here is None or there is None or not (here.placed and there.placed):
        return 6.0
    a, b = here.polygon.centroid, there.polygon.centroid
    return float(math.hypot(a.x - b.x, a.y - b.y) + STAIRS_M * round(abs(here.bottom_m - there.bottom_m) / 2.7))


def _room_lacks(job: Job, key: str, room: Room) -> list[tuple[str, str, bool]]:
    """(place in the room, what is lacking, required)."""
    out: list[tuple[str, str, bool]] = []
    if room.height_m is None:
        out.append(("height_m", "no height.", True))
    judged = closing(room.walk)
    if judged is None:
        out.append(("walk", "not walked.", True))
    elif not judged.good:
        out.append(("walk", f"the walk misses its start by {judged.error_m * 1000:.0f} mm.", True))
    if room.use is None:
        out.append(("use", "nobody has said what it is for.", False))
    if room.position is None:
        faces = [room.faces.get(run.id) for run in room.walk]
        if not faces or any(f is None or not any(s.beyond for s in f.spans.values()) for f in faces):
            out.append(("position", "not yet in its place on the plan.", True))
    for face_key, face in room.faces.items():
        for opening_key, opening in face.openings.items():
            if opening.width_m is None or opening.height_m is None:
                label = opening.label or opening.kind
                out.append((f"faces/{face_key}/openings/{opening_key}", f"{label} has no size.", True))
    emitters = [(k, e) for k, e in job.survey.emitters.items() if e.room == key]
    if not emitters and job.site.answers.get("wet_system") is not False:
        out.append(("emitter", "no emitter recorded.", False))
    for _, emitter in emitters:
        spec, label = emitter.spec, emitter.label or "The radiator"
        by_length = (spec.type or "").startswith("skirting")
        if spec.kind == "panel" and (
            spec.type is None or spec.length_m is None or (spec.height_m is None and not by_length)
        ):
            out.append(("emitter", f"{label} lacks its type or size.", True))
        if spec.kind in ("floor", "wall"):
            lacks = lacking(spec.heated or Heated())
            if lacks:
                out.append(("emitter", f"{emitter.label or 'The heated floor'} lacks {', '.join(lacks)}.", True))
        if spec.kind == "fan" and not spec.speeds:
            out.append(("emitter", f"{emitter.label or 'The fan unit'} lacks its speeds.", True))
        if spec.kind == "panel" and emitter.free_wall is None:
            out.append(("free_wall", f"{label}: the free wall for a bigger one.", False))
    return out


def _item_lacks(job: Job, item: ItemEntry) -> list[tuple[str, str, str | None]]:
    """(where, what, why it could not be seen) for an item not recorded; a sign is asked of every part."""
    seen = job.survey.walk_round.get(item.id)
    reason = seen.unseen if seen else None
    if item.sign is not None:
        parts = in_order(job.survey)
        many = len(parts) > 1
        return [
            (
                f"/survey/parts/{key}/signs/{item.sign}",
                f"{item.label}{f', {part.label}' if many and part.label else ''}.",
                reason,
            )
            for key, part in parts
            if item.sign not in part.signs
        ]
    at = f"/survey/walk_round/{item.id}"
    if seen is None or (seen.value is None and seen.unseen is None):
        return [(at, f"{item.label}.", None)]
    if seen.unseen is not None and seen.value is None:
        return [(at, f"{item.label}.", seen.unseen)]
    if item.picture and not any(photo.item == item.id for photo in job.survey.photos.values()) and reason is None:
        return [(at, f"{item.label}: its picture.", None)]
    return []


def _verdict(gaps: list[Gap], needed: list[Gap], doubts: Doubts | None) -> tuple[bool, str]:
    if needed:
        more = f", and {len(needed) - 1} more" if len(needed) > 1 else ""
        return False, f"**Not good enough to size from**: {needed[0].what.rstrip('.')}{more}."
    if doubts is None or doubts.house is None:
        return False, "**Not good enough to size from**: there is no loss yet."
    wide = doubts.house.p90_w / doubts.house.p10_w - 1 if doubts.house.p10_w > 0 else math.inf
    low, high = doubts.house.p10_w / 1000, doubts.house.p90_w / 1000
    if wide > GOOD_RANGE:
        first = doubts.causes[0].label if doubts.causes else "the walls"
        return False, (
            f"The range is wide, **{low:.1f} to {high:.1f} kW**. Go back and look at **{first}** before you size from it."
        )
    left = f" {len(gaps)} smaller gaps stay." if gaps else ""
    return True, f"**Good enough to size from**: {low:.1f} to {high:.1f} kW.{left}"
