"""The house a design works on: the survey with the active scheme laid over it, every reference followed."""

from __future__ import annotations

from dataclasses import dataclass, field

from cinder.design.fabric import Transmittances, thickness_m
from cinder.design.findings import Findings
from cinder.design.geometry import Plan, plan
from cinder.library import AgeEntry, ClimateEntry, MachineEntry, TablesEntry, load
from cinder.model import Beyond, EmitterSpec, Face, Job, PipeRun, Practice, Room, Scheme
from cinder.physics import ground

DEFAULT_TARGET_C = 20.0
DEFAULT_WALL_THICKNESS_M = 0.30


@dataclass(slots=True)
class OpeningView:
    id: str
    label: str
    kind: str
    found: str | None
    construction: str | None
    area_m2: float | None
    measure: str | None


@dataclass(slots=True)
class FaceView:
    """One face of a room: where it is, how large, what it is made of, what lies beyond each stretch."""

    key: str
    label: str
    kind: str
    gross_m2: float | None
    spans: list[tuple[float, Beyond, bool]]
    found: str | None
    construction: str | None
    openings: list[OpeningView]
    measure: str | None


@dataclass(slots=True)
class RoomView:
    id: str
    room: Room
    target_c: float
    target_why: str
    habitable: bool
    table_air_per_h: float
    plan: Plan | None
    volume_m3: float | None
    faces: list[FaceView]
    lacks: list[str]
    exposed_m2: float = 0.0


@dataclass(slots=True)
class EmitterView:
    id: str
    room: str
    label: str
    spec: EmitterSpec
    action: str
    path: str


@dataclass(slots=True)
class HouseView:
    job: Job
    scheme: Scheme | None
    practice: Practice
    tables: TablesEntry
    climate: ClimateEntry | None
    outdoor_c: float | None
    u: Transmittances
    rooms: list[RoomView]
    emitters: list[EmitterView]
    pipes: dict[str, tuple[PipeRun, str]]
    machine: MachineEntry | None
    n50_per_h: float
    n50_why: str
    shelter: float
    spread_k: float
    floors: dict[tuple[str | None, str], ground.GroundFloor | ground.SuspendedFloor] = field(default_factory=dict)

    def construction_label(self, key: str | None) -> str:
        return self.u.entries[key].label if key is not None else "not known"


def view(job: Job, findings: Findings) -> HouseView:
    """Lay the active scheme over the survey and follow every reference."""
    scheme = job.schemes.get(job.active_scheme) if job.active_scheme else None
    frozen = job.library.tables.get("standard")
    tables = frozen.data if frozen else load().tables["standard"]
    chosen = job.library.climates.get(job.climate.entry) if job.climate.entry else None
    climate = chosen.data if chosen else None
    outdoor = job.climate.design_c
    if outdoor is None and climate is not None:
        outdoor = climate.design_c
    if outdoor is None:
        findings.add(
            "stops", "site", "/climate", "No climate and no design temperature.",
            why="Without an outdoor temperature there is no heat loss.", mend="Choose a climate on the site page.",
        )  # fmt: skip
    entries = {key: item.data for key, item in job.library.constructions.items()}
    n50, n50_why = _tightness(job, scheme, tables)
    if n50_why.startswith("assumed") and job.survey.rooms:
        findings.add(
            "doubt", "site", "/survey/tightness/n50_per_h", f"The tightness, n50 {n50:g}, is {n50_why}.",
            why="Air is often a third of the loss.", mend="A blower-door test, or a figure from a certificate.",
        )  # fmt: skip
    shelter = tables.shelter.get(job.survey.tightness.shelter or "normal", 1.0)
    machine = None
    if scheme and scheme.chosen:
        machine = job.library.machines[scheme.candidates[scheme.chosen].machine].data
    house = HouseView(
        job=job,
        scheme=scheme,
        practice=job.practice,
        tables=tables,
        climate=climate,
        outdoor_c=outdoor,
        u=Transmittances(entries),
        rooms=[],
        emitters=_emitters(job, scheme),
        pipes=_pipes(job, scheme),
        machine=machine,
        n50_per_h=n50,
        n50_why=n50_why,
        shelter=shelter,
        spread_k=(scheme.spread_k if scheme and scheme.spread_k else None) or job.practice.spread_k,
    )
    ordered = sorted(job.survey.rooms.items(), key=lambda item: (item[1].pos, item[0]))
    house.rooms = [_room(house, key, room) for key, room in ordered]
    _ground_floors(house)
    return house


def _age(job: Job, tables: TablesEntry, part: str | None) -> AgeEntry | None:
    parts = job.survey.parts
    chosen = parts.get(part) if part else next(iter(sorted(parts.values(), key=lambda p: p.pos)), None)
    return tables.ages.get(chosen.age) if chosen and chosen.age else None


def _tightness(job: Job, scheme: Scheme | None, tables: TablesEntry) -> tuple[float, str]:
    if scheme:
        for measure in scheme.measures.values():
            if measure.kind == "tightness" and measure.n50_per_h:
                return measure.n50_per_h, "as the scheme proposes"
    if job.survey.tightness.n50_per_h is not None:
        known = job.survey.tightness.known.get("n50_per_h")
        return job.survey.tightness.n50_per_h, known.how if known else "as entered"
    age = _age(job, tables, None)
    if age is not None:
        return age.n50_per_h, f"assumed from the age ({age.label})"
    return 10.0, "assumed, age unknown"


def _emitters(job: Job, scheme: Scheme | None) -> list[EmitterView]:
    out = []
    actions = scheme.emitters if scheme else {}
    found = sorted(job.survey.emitters.items(), key=lambda item: (item[1].pos, item[0]))
    for key, emitter in found:
        action = actions.get(key)
        if action is not None and action.action == "remove":
            continue
        if action is not None and action.action == "replace" and action.spec is not None and scheme is not None:
            path = f"/schemes/{job.active_scheme}/emitters/{key}"
            out.append(EmitterView(key, emitter.room, action.label or emitter.label, action.spec, "replace", path))
        else:
            out.append(EmitterView(key, emitter.room, emitter.label, emitter.spec, "keep", f"/survey/emitters/{key}"))
    for key, action in sorted(actions.items(), key=lambda item: (item[1].pos, item[0])):
        if action.action == "add" and action.spec is not None and action.room is not None:
            path = f"/schemes/{job.active_scheme}/emitters/{key}"
            out.append(EmitterView(key, action.room, action.label, action.spec, "add", path))
    return out


def _pipes(job: Job, scheme: Scheme | None) -> dict[str, tuple[PipeRun, str]]:
    out = {key: (run, "keep") for key, run in job.survey.pipes.items()}
    for key, action in (scheme.pipes if scheme else {}).items():
        if action.action == "remove":
            out.pop(key, None)
        elif action.run is not None:
            out[key] = (action.run, action.action)
    return dict(sorted(out.items(), key=lambda item: (item[1][0].pos, item[0])))


def _target(house: HouseView, key: str, room: Room) -> tuple[float, str]:
    if house.scheme and key in house.scheme.targets:
        return house.scheme.targets[key], "as the scheme proposes"
    if room.target_c is not None:
        return room.target_c, "as asked for"
    if house.practice.room_temperature == "one":
        return house.practice.one_temperature_c, "one temperature everywhere"
    use = house.tables.room_uses.get(room.use or "")
    if use is not None:
        return use.target_c, f"usual for a {use.label}"
    return DEFAULT_TARGET_C, "use not known"


def _room(house: HouseView, key: str, room: Room) -> RoomView:
    target, why = _target(house, key, room)
    use = house.tables.room_uses.get(room.use or "")
    age = _age(house.job, house.tables, room.part)
    band = age.air_band if age else "older"
    table_air = getattr(use, f"air_{band}_per_h") if use else 1.0
    walked = plan(room.walk)
    lacks = []
    if walked is None:
        lacks.append("its walk: lengths of the walls")
    if room.height_m is None:
        lacks.append("its height")
    volume = walked.area_m2 * room.height_m if walked and room.height_m else None
    faces = [_face(house, key, room, run.id, "wall", n) for n, run in enumerate(room.walk)]
    faces += [_face(house, key, room, name, name, 0, walked) for name in ("floor", "ceiling")] if walked else []
    return RoomView(
        key, room, target, why, use.habitable if use else True, table_air, walked, volume, faces, lacks
    )  # fmt: skip


def _default_construction(house: HouseView, room: Room, kind: str, beyond: Beyond) -> str | None:
    part = house.job.survey.parts.get(room.part or "") or next(
        iter(sorted(house.job.survey.parts.values(), key=lambda p: p.pos)), None
    )
    if part is None:
        return None
    indoors = beyond.kind in ("heated", "room")
    if kind == "wall":
        name = "inner_wall" if indoors else "wall"
    elif kind == "floor":
        name = "ground" if beyond.kind == "ground" else "floor"
    else:
        name = "floor" if indoors else "roof"
    return part.constructions.get(name)  # type: ignore[call-overload, no-any-return]


def _assumed_beyond(kind: str) -> Beyond:
    return Beyond(kind="ground" if kind == "floor" else "outside")


def _face(
    house: HouseView, room_key: str, room: Room, key: str, kind: str, index: int, walked: Plan | None = None
) -> FaceView:
    face = room.faces.get(key) or Face()
    length = room.walk[index].length_m if kind == "wall" else None
    if kind == "wall":
        gross = length * room.height_m if length and room.height_m else None
        label = face.label or f"Wall {index + 1}"
    else:
        gross = walked.area_m2 if walked else None
        label = face.label or kind.capitalize()
    spans = []
    for _, span in sorted(face.spans.items()):
        full = span.from_m is None and span.to_m is None
        stretch = 1.0 if full or not length else max((span.to_m or length) - (span.from_m or 0.0), 0.0) / length
        spans.append((stretch, span.beyond or _assumed_beyond(kind), span.beyond is not None))
    rest = 1.0 - sum(s for s, _, _ in spans)
    if not spans or rest > 1e-6:
        spans.append((max(rest, 0.0), _assumed_beyond(kind), False))
    found = face.construction or _default_construction(house, room, kind, spans[0][1])
    measures = house.scheme.measures if house.scheme else {}
    construction, measure = found, None
    for measure_key, one in measures.items():
        if one.kind == "face" and one.room == room_key and one.face == key:
            construction, measure = one.construction, measure_key
    openings = _openings(house, room_key, room, key, face)
    return FaceView(key, label, kind, gross, spans, found, construction, openings, measure)


def _openings(house: HouseView, room_key: str, room: Room, face_key: str, face: Face) -> list[OpeningView]:
    out = []
    part = house.job.survey.parts.get(room.part or "") or next(iter(house.job.survey.parts.values()), None)
    for n, (key, opening) in enumerate(sorted(face.openings.items(), key=lambda i: (i[1].pos, i[0]))):
        found = opening.construction or (part.constructions.get(opening.kind) if part else None)
        construction, measure = found, None
        for measure_key, one in (house.scheme.measures if house.scheme else {}).items():
            if one.kind == "opening" and (one.room, one.face, one.opening) == (room_key, face_key, key):
                construction, measure = one.construction, measure_key
        area = opening.width_m * opening.height_m if opening.width_m and opening.height_m else None
        label = opening.label or f"{opening.kind.capitalize()} {n + 1}"
        out.append(OpeningView(key, label, opening.kind, found, construction, area, measure))
    return out


def _ground_floors(house: HouseView) -> None:
    """One slab (or void) per part of the house and floor construction; its edge is the outside walls above it."""
    area: dict[tuple[str | None, str], float] = {}
    edge: dict[tuple[str | None, str], float] = {}
    for room in house.rooms:
        floor = next((f for f in room.faces if f.kind == "floor"), None)
        if floor is None or floor.construction is None or floor.spans[0][1].kind != "ground":
            continue
        key = (room.room.part, floor.construction)
        area[key] = area.get(key, 0.0) + (floor.gross_m2 or 0.0)
        for face, run in zip(room.faces, room.room.walk, strict=False):
            out = sum(share for share, beyond, _ in face.spans if beyond.kind in ("outside", "space"))
            edge[key] = edge.get(key, 0.0) + (run.length_m or 0.0) * min(out, 1.0)
    detail = house.practice.ground_detail
    for key, area_m2 in area.items():
        part = house.job.survey.parts.get(key[0] or "")
        wall = part.constructions.get("wall") if part else None
        thickness = part.wall_thickness_m if part else None
        if thickness is None:
            thickness = thickness_m(house.u.entries[wall]) if wall else DEFAULT_WALL_THICKNESS_M
        entry = house.u.entries[key[1]]
        common = {
            "area_m2": area_m2,
            "exposed_perimeter_m": edge.get(key, 0.0),
            "wall_thickness_m": thickness,
            "lambda_ground_w_mk": detail.lambda_w_mk,
        }
        if entry.floor_kind == "suspended":
            house.floors[key] = ground.suspended_floor(
                **common,
                floor_u_w_m2k=house.u.u(key[1], indoors=True),
                height_above_ground_m=detail.void_height_m,
                wall_u_w_m2k=detail.void_wall_u_w_m2k,
                vent_area_m2_per_m=detail.void_vent_m2_per_m,
                wind_m_s=detail.wind_m_s,
                wind_shield=detail.wind_shield,
            )
        else:
            house.floors[key] = ground.slab_on_ground(**common, floor_r_m2kw=house.u.floor_resistance(key[1]))
