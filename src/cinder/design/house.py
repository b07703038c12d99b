"""The house a design works on: the survey with the active scheme laid over it, every reference followed."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

from cinder.design import below_ground
from cinder.design.air_tightness import tightness
from cinder.design.below_ground import GroundSlab
from cinder.design.climate import site_climate
from cinder.design.fabric import Transmittances
from cinder.design.findings import Findings
from cinder.design.geometry import Plan
from cinder.design.layout import GROUND, OUTSIDE, Layout, Stretch, layout
from cinder.design.parts import age_of, part_key, part_of
from cinder.design.result_base import FaceKind
from cinder.design.shape import Shape
from cinder.library import ClimateEntry, MachineEntry, TablesEntry, load
from cinder.model import Beyond, EmitterSpec, Face, HousePart, Job, Measure, PipeRun, Practice, Room, Scheme

DEFAULT_TARGET_C = 20.0
NORMAL = "normal"
FOOT_M = 0.05
"""What begins so near above a floor still stands at its edge."""


@dataclass(slots=True)
class OpeningView:
    id: str
    label: str
    kind: str
    found: str | None
    construction: str | None
    area_m2: float | None
    middle_m: float | None
    """Along its wall; `middle_high_m`: above the floor of its room."""
    middle_high_m: float | None
    measure: str | None
    beyond: str = "outside"


@dataclass(slots=True)
class PieceView:
    """A stretch of a face with what it is built of and the openings in it."""

    stretch: Stretch
    construction: str | None
    openings: list[OpeningView]
    beside_m2: float = 0.0
    """What openings that stand in another stretch of the face take of this one."""

    @property
    def opened_m2(self) -> float:
        return sum(o.area_m2 or 0.0 for o in self.openings)

    @property
    def net_m2(self) -> float:
        if not self.openings and not self.beside_m2:
            return self.stretch.area_m2
        return max(self.stretch.area_m2 - self.opened_m2 - self.beside_m2, 0.0)


@dataclass(slots=True)
class FaceView:
    """One face of a room: how large, what it is made of, what lies beyond each stretch of it.

    `main` is the stretch the face is known by: the largest that loses heat, else the largest.
    """

    key: str
    label: str
    kind: FaceKind
    gross_m2: float | None
    pieces: list[PieceView]
    found: str | None
    construction: str | None
    openings: list[OpeningView]
    measure: str | None

    @property
    def main(self) -> Stretch | None:
        return self.pieces[0].stretch if self.pieces else None


@dataclass(slots=True)
class RoomView:
    id: str
    room: Room
    part: str | None
    target_c: float
    target_why: str
    habitable: bool
    table_air_per_h: float
    plan: Plan | None
    shape: Shape | None
    volume_m3: float | None
    faces: list[FaceView]
    lacks: list[str]
    exposed_m2: float = 0.0
    exposed_perimeter_m: float = 0.0

    @property
    def name(self) -> str:
        """What it is called in a sentence."""
        return self.room.label or "A room"


@dataclass(slots=True)
class EmitterView:
    id: str
    room: str
    label: str
    spec: EmitterSpec
    action: str
    path: str
    face: str | None = None
    offset_m: float | None = None


@dataclass
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
    sheltered: str
    spread_k: float
    layout: Layout
    floors: dict[tuple[str | None, str, float], GroundSlab] = field(default_factory=dict)
    """By part, floor construction and depth below the ground (m; 0 at ground level)."""

    @property
    def shelter(self) -> float:
        """Factor of the wind on the leaks of the house."""
        return self.tables.shelter.get(self.sheltered, 1.0)

    @cached_property
    def targets(self) -> dict[str, float]:
        """Design temperature by room."""
        return {room.id: room.target_c for room in self.rooms}

    @cached_property
    def _by_kind(self) -> dict[str, list[tuple[str, Measure]]]:
        out: dict[str, list[tuple[str, Measure]]] = {}
        for key, one in (self.scheme.measures if self.scheme else {}).items():
            out.setdefault(one.kind, []).append((key, one))
        return out

    def measures(self, kind: str) -> list[tuple[str, Measure]]:
        """The scheme's measures of a kind."""
        return self._by_kind.get(kind, [])

    @cached_property
    def _swaps(self) -> list[tuple[str, Measure]]:
        return sorted(self.measures("construction"), key=lambda item: (item[1].pos, item[0]))

    def swap(self, found: str | None, part: str | None, beyond: str) -> tuple[str | None, str | None]:
        """What stands in the place of a construction once the scheme's measures are done, and the measure.

        A measure reaches the faces it names by what lies `beyond` them: those that lose heat, where it names none.
        Measures follow each other: a filled cavity may be insulated outside by the next.
        """
        now, by = found, None
        for key, one in self._swaps:
            if one.was == now and now is not None and (one.part is None or one.part == part) and reaches(one, beyond):
                now, by = one.construction, key
        return now, by

    def construction_label(self, key: str | None) -> str:
        return self.u.entries[key].label if key is not None else "not known"


LOSING = ("outside", "ground", "space")
"""What lies beyond a face that loses heat from the house; towards a neighbour's home nothing is done to a wall."""


def reaches(measure: Measure, beyond: str) -> bool:
    """Whether a measure on a construction or a face is done where this lies beyond."""
    return beyond in (measure.beyond or LOSING)


def surfaces_inside(beyond: str) -> bool:
    """Whether both surfaces of a face lie out of the wind: towards rooms, neighbours and unheated spaces."""
    return beyond in ("room", "heated", "neighbour", "space")


def whole_tables(found: TablesEntry | None) -> TablesEntry:
    """The job's tables; tables an older edition did not know yet are taken from this one."""
    shipped = load().tables["standard"]
    if found is None:
        return shipped
    lacking = {
        name: getattr(shipped, name)
        for name in ("shield_e", "junctions", "fuels", "space_air_per_h", "emitter_factors")
        if not getattr(found, name)
    }
    return found.model_copy(update=lacking) if lacking else found


def view(job: Job, findings: Findings) -> HouseView:
    """Lay the active scheme over the survey and follow every reference."""
    scheme = job.schemes.get(job.active_scheme) if job.active_scheme else None
    frozen = job.library.tables.get("standard")
    tables = whole_tables(frozen.data if frozen else None)
    climate, outdoor = site_climate(job, findings)
    entries = {key: item.data for key, item in job.library.constructions.items()}
    sheltered = job.survey.tightness.shelter or NORMAL
    if sheltered not in tables.shelter or sheltered not in tables.shield_e:
        sheltered = NORMAL
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
        n50_per_h=0.0,
        n50_why="",
        sheltered=sheltered,
        spread_k=(scheme.spread_k if scheme and scheme.spread_k else None) or job.practice.spread_k,
        layout=layout(job.survey),
    )
    ordered = sorted(job.survey.rooms.items(), key=lambda item: (item[1].pos, item[0]))
    house.rooms = [_room(house, key, room) for key, room in ordered]
    house.n50_per_h, house.n50_why = tightness(house, findings)
    below_ground.work_out(house)
    return house


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
            out.append(
                EmitterView(
                    key,
                    emitter.room,
                    action.label or emitter.label,
                    action.spec,
                    "replace",
                    path,
                    emitter.face,
                    emitter.offset_m,
                )
            )
        else:
            path = f"/survey/emitters/{key}"
            out.append(
                EmitterView(
                    key, emitter.room, emitter.label, emitter.spec, "keep", path, emitter.face, emitter.offset_m
                )
            )
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
    age = age_of(house.job.survey, house.tables, room.part)
    band = age.air_band if age else "older"
    table_air = getattr(use, f"air_{band}_per_h") if use else 1.0
    walked = house.layout.plans.get(key)
    body = house.layout.shapes.get(key)
    lacks = []
    if walked is None:
        lacks.append("its walk: lengths of the walls")
    if room.height_m is None:
        lacks.append("its height")
    volume = body.volume_m3 if body else None
    faces = [_face(house, key, room, run.id, "wall", n) for n, run in enumerate(room.walk)]
    if walked and body:
        faces += [_face(house, key, room, "floor", "floor", 0), _face(house, key, room, "ceiling", "ceiling", 0)]
        faces += [_face(house, key, room, rise.id, "slope", n) for n, rise in enumerate(body.rises)]
    foot = dict.fromkeys(  # a strip of wall counts once, though it stand in the earth below and free above
        (face.key, piece.stretch.from_m or 0.0, piece.stretch.to_m or 0.0)
        for face in faces
        if face.kind == "wall"
        for piece in face.pieces
        if piece.stretch.beyond.kind in LOSING and (piece.stretch.low_m or 0.0) <= FOOT_M and not piece.stretch.under
    )
    edge = sum(to_m - from_m for _, from_m, to_m in foot)
    return RoomView(
        key, room, part_key(house.job.survey, room.part), target, why, use.habitable if use else True, table_air,
        walked, body, volume, faces, lacks, exposed_perimeter_m=edge,
    )  # fmt: skip


def _default_construction(house: HouseView, room: Room, kind: str, beyond: Beyond) -> str | None:
    """What a face is built of until somebody says: by its part of the house and what lies beyond it."""
    part = part_of(house.job.survey, room.part)
    if part is None:
        return None
    if kind == "wall" and beyond.kind == "neighbour":
        return _party_wall(house, part)
    indoors = beyond.kind in INDOORS
    if kind == "wall":
        name = "inner_wall" if indoors else "wall"
    elif kind == "floor":
        name = "ground" if beyond.kind == "ground" else "floor"
    else:  # a ceiling or a slope
        name = "floor" if indoors or beyond.kind == "neighbour" else "roof"
    return part.constructions.get(name)  # type: ignore[call-overload, no-any-return]


PARTY_WALL = "wall-party-brick"
"""The wall to a neighbour where neither part nor age says (our choice)."""


def _party_wall(house: HouseView, part: HousePart) -> str:
    """The wall to a neighbour: the part's own, else that of its age. A job begun before there was one takes the
    library's."""
    stated = part.constructions.get("party_wall")
    if stated is not None:
        return stated
    ages = (house.tables.ages, load().tables["standard"].ages)
    by_age = next(
        (key for table in ages if part.age in table and (key := table[part.age].constructions.get("party_wall"))), None
    )
    key = by_age or PARTY_WALL
    if key not in house.u.entries:
        house.u.entries[key] = load().constructions[key]
    return key


INDOORS = ("heated", "room")
NOTHING_SAID = Face()


def _face(house: HouseView, room_key: str, room: Room, key: str, kind: FaceKind, index: int) -> FaceView:
    """A face with its stretches; the construction of the face is that of the stretches that lose heat."""
    face = room.faces.get(key) or NOTHING_SAID
    body = house.layout.shapes.get(room_key)
    stretches = list(house.layout.faces[room_key][key]) if body else []
    stretches.sort(key=lambda s: (s.hole, s.beyond.kind in INDOORS, -s.area_m2))
    if kind == "wall":
        gross = sum(s.area_m2 for s in stretches) if body and body.height_m else None
        label = face.label or f"Wall {index + 1}"
    elif kind == "slope":
        gross = sum(s.area_m2 for s in stretches)
        label = face.label or room.slopes[key].label or f"Slope {index + 1}"
    else:
        gross = sum(s.area_m2 for s in stretches)
        label = face.label or kind.capitalize()
    main = stretches[0].beyond if stretches else (GROUND if kind == "floor" else OUTSIDE)
    found = face.construction or _default_construction(house, room, kind, main)
    own = next(((k, m) for k, m in house.measures("face") if (m.room, m.face) == (room_key, key)), None)
    part = part_key(house.job.survey, room.part)
    construction, measure = _built(house, found, part, main.kind, own)
    pieces = []
    for stretch in stretches:
        beyond, built = stretch.beyond, construction
        if beyond.kind != main.kind:
            inside = beyond.kind in INDOORS and main.kind not in INDOORS
            aside = beyond.kind == "neighbour" and face.construction is None
            as_found = _default_construction(house, room, kind, beyond) if inside or aside else found
            built, _ = _built(house, as_found, part, beyond.kind, own)
        pieces.append(PieceView(stretch, built, []))
    openings = _openings(house, room_key, room, key, face)
    for opening in openings:
        piece = _piece_of(pieces, opening, room.height_m or 0.0)
        if piece is not None:
            opening.beyond = piece.stretch.beyond.kind
            piece.openings.append(opening)
        _measured(house, room_key, part, key, opening)
    if openings:
        _shared_out(pieces)
    return FaceView(key, label, kind, gross, pieces, found, construction, openings, measure)


def _built(
    house: HouseView, found: str | None, part: str | None, beyond: str, own: tuple[str, Measure] | None
) -> tuple[str | None, str | None]:
    """A stretch of a face as the scheme builds it, and the last measure on it: one for this face goes before one for all its
    kind, which may follow upon it."""
    if own is not None and reaches(own[1], beyond):
        built, measure = house.swap(own[1].construction, part, beyond)
        return built, measure or own[0]
    return house.swap(found, part, beyond)


def _piece_of(pieces: list[PieceView], opening: OpeningView, height_m: float) -> PieceView | None:
    """The stretch an opening is in: where its middle lies if that is known, else the main one. Never the earth: a window
    in a wall that stands in it all over looks into a shaft, which is made for it."""
    above = [piece for piece in pieces if piece.stretch.beyond.kind != "ground"]
    if not pieces:
        return None
    if not above:
        wall = pieces[0].stretch
        shaft = Stretch(0.0, OUTSIDE, "assumed", wall.from_m, wall.to_m, wall.low_m, wall.high_m)
        pieces.append(PieceView(shaft, pieces[0].construction, []))
        return pieces[-1]
    if opening.middle_m is None and opening.middle_high_m is None:
        return above[0]

    def away(piece: PieceView) -> float:
        """How far the opening's middle lies from the stretch, m; what is not known counts nothing."""
        s, out = piece.stretch, 0.0
        if opening.middle_m is not None and s.from_m is not None and s.to_m is not None:
            out += max(s.from_m - opening.middle_m, opening.middle_m - s.to_m, 0.0)
        if opening.middle_high_m is not None and s.low_m is not None:
            high = s.high_m if s.high_m is not None else height_m
            out += max(s.low_m - opening.middle_high_m, opening.middle_high_m - high, 0.0)
        return out

    return min(above, key=away)


def _shared_out(pieces: list[PieceView]) -> None:
    """What openings need beyond their stretch is taken from the rest of the face, the earth first."""
    for piece in pieces:
        lacks = piece.opened_m2 - piece.stretch.area_m2
        if lacks <= 1e-9:
            continue
        for other in sorted(pieces, key=lambda p: p.stretch.beyond.kind != "ground"):
            if other is piece or other.stretch.hole or lacks <= 0:
                continue
            taken = min(other.net_m2, lacks)
            other.beside_m2 += taken
            lacks -= taken


def _openings(house: HouseView, room_key: str, room: Room, face_key: str, face: Face) -> list[OpeningView]:
    """The openings of a face as they were found."""
    out = []
    part = part_of(house.job.survey, room.part)
    for n, (key, opening) in enumerate(sorted(face.openings.items(), key=lambda i: (i[1].pos, i[0]))):
        found = opening.construction or (part.constructions.get(opening.kind) if part else None)
        area = opening.width_m * opening.height_m if opening.width_m and opening.height_m else None
        label = opening.label or f"{opening.kind.capitalize()} {n + 1}"
        middle = opening.offset_m + (opening.width_m or 0.0) / 2 if opening.offset_m is not None else None
        sill = opening.sill_m if opening.sill_m is not None or opening.kind == "window" else 0.0
        high = sill + (opening.height_m or 0.0) / 2 if sill is not None else None
        out.append(OpeningView(key, label, opening.kind, found, found, area, middle, high, None))
    return out


def _measured(house: HouseView, room_key: str, part: str | None, face_key: str, opening: OpeningView) -> None:
    """An opening as the scheme makes it."""
    opening.construction, opening.measure = house.swap(opening.found, part, opening.beyond)
    for key, one in house.measures("opening"):
        if (one.room, one.face, one.opening) == (room_key, face_key, opening.id):
            opening.construction, opening.measure = one.construction, key
