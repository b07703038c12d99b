"""The rooms of a house: their faces, what lies beyond every stretch of them, what they are built of, what opens in them."""

from __future__ import annotations

from dataclasses import dataclass, replace

from cinder.design.house.overlay import LOSING, Overlay, party_wall, reaches
from cinder.design.plan.geometry import Plan
from cinder.design.plan.layout import GROUND, OUTSIDE, FaceKind, Stretch
from cinder.design.plan.shape import Shape
from cinder.model import Beyond, Face, Measure, Room
from cinder.model.parts import age_of, part_key, part_of

DEFAULT_TARGET_C = 20.0
FOOT_M = 0.05
"""What begins so near above a floor still stands at its edge."""
INDOORS = ("heated", "room")
NOTHING_SAID = Face()


CLOSING_IN = ("outside", "ground", "space", "neighbour")


@dataclass(frozen=True, slots=True)
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


@dataclass(frozen=True, slots=True)
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


@dataclass(frozen=True, slots=True)
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


@dataclass(frozen=True, slots=True)
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
    exposed_m2: float
    """Of its faces, what looks outside or into an unheated space."""
    closed_in_m2: float
    """Of its faces, what closes the heated rooms in: against outside, ground, unheated spaces and neighbours."""
    exposed_perimeter_m: float
    exposed_faces: int
    """Faces with a window or door to the outside."""
    says: tuple[str, ...] | None
    """The rooms said to lie beyond its faces; None where nothing is said of any."""
    beside: tuple[tuple[str, str], ...]
    """Kind and id of the rooms, spaces and neighbours that lie beyond its faces."""

    @property
    def name(self) -> str:
        """What it is called in a sentence."""
        return self.room.label or "A room"


def _target(house: Overlay, key: str, room: Room) -> tuple[float, str]:
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


def room_view(house: Overlay, key: str, room: Room) -> RoomView:
    """A room as the design sees it."""
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
    exposed = closed_in = 0.0
    for stretch in (piece.stretch for face in faces for piece in face.pieces):
        if stretch.beyond.kind in ("outside", "space") and not lacks:
            exposed += stretch.area_m2
        if stretch.beyond.kind in CLOSING_IN and not stretch.hole:
            closed_in += stretch.area_m2
    return RoomView(
        key, room, part_key(house.job.survey, room.part), target, why, use.habitable if use else True, table_air,
        walked, body, volume, faces, lacks, exposed_m2=exposed, closed_in_m2=closed_in, exposed_perimeter_m=edge,
        exposed_faces=sum(
            any(piece.openings and piece.stretch.beyond.kind == "outside" for piece in face.pieces) for face in faces
        ),
        says=_says(room), beside=_beside(faces),
    )  # fmt: skip


def _beside(faces: list[FaceView]) -> tuple[tuple[str, str], ...]:
    every = [piece.stretch.beyond for face in faces for piece in face.pieces]
    return tuple(dict.fromkeys((b.kind, key) for b in every if (key := b.room or b.space or b.neighbour) is not None))


def _says(room: Room) -> tuple[str, ...] | None:
    said = [span.beyond for face in room.faces.values() for span in face.spans.values() if span.beyond is not None]
    return tuple(sorted({beyond.room for beyond in said if beyond.room is not None})) if said else None


def _default_construction(house: Overlay, room: Room, kind: str, beyond: Beyond) -> str | None:
    """What a face is built of until somebody says: by its part of the house and what lies beyond it."""
    part = part_of(house.job.survey, room.part)
    if part is None:
        return None
    if kind == "wall" and beyond.kind == "neighbour":
        return party_wall(house.tables, part)
    indoors = beyond.kind in INDOORS
    if kind == "wall":
        name = "inner_wall" if indoors else "wall"
    elif kind == "floor":
        name = "ground" if beyond.kind == "ground" else "floor"
    else:  # a ceiling or a slope
        name = "floor" if indoors or beyond.kind == "neighbour" else "roof"
    return part.constructions.get(name)  # type: ignore[call-overload, no-any-return]


def _face(house: Overlay, room_key: str, room: Room, key: str, kind: FaceKind, index: int) -> FaceView:
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
    openings, pieces = _with_openings(house, room_key, room, key, face, pieces)
    return FaceView(key, label, kind, gross, pieces, found, construction, openings, measure)


def _with_openings(
    house: Overlay, room_key: str, room: Room, key: str, face: Face, pieces: list[PieceView]
) -> tuple[list[OpeningView], list[PieceView]]:
    """The openings of a face as the scheme makes them, and its stretches with those that stand in each."""
    found = _openings(house, room, face)
    if not found:
        return [], pieces
    part = part_key(house.job.survey, room.part)
    out, mine = [], {n: list[OpeningView]() for n in range(len(pieces))}
    for opening in found:
        n, pieces = _piece_of(pieces, opening, room.height_m or 0.0)
        beyond = pieces[n].stretch.beyond.kind if n is not None else "outside"
        made = _measured(house, room_key, part, key, replace(opening, beyond=beyond))
        out.append(made)
        if n is not None:
            mine.setdefault(n, []).append(made)
    return out, _shared_out([replace(piece, openings=mine.get(n, [])) for n, piece in enumerate(pieces)])


def _built(
    house: Overlay, found: str | None, part: str | None, beyond: str, own: tuple[str, Measure] | None
) -> tuple[str | None, str | None]:
    """A stretch of a face as the scheme builds it, and the last measure on it: one for this face goes before one for all its
    kind, which may follow upon it."""
    if own is not None and reaches(own[1], beyond):
        built, measure = house.swap(own[1].construction, part, beyond)
        return built, measure or own[0]
    return house.swap(found, part, beyond)


def _piece_of(pieces: list[PieceView], opening: OpeningView, height_m: float) -> tuple[int | None, list[PieceView]]:
    """The number of the stretch an opening is in (None without any), and the stretches.

    It is in the one where its middle lies if that is known, else in the main one. Never the earth: a window in a wall that
    stands in it all over looks into a shaft, which is made for it.
    """
    above = [n for n, piece in enumerate(pieces) if piece.stretch.beyond.kind != "ground"]
    if not pieces:
        return None, pieces
    if not above:
        wall = pieces[0].stretch
        shaft = Stretch(0.0, OUTSIDE, "assumed", wall.from_m, wall.to_m, wall.low_m, wall.high_m)
        return len(pieces), [*pieces, PieceView(shaft, pieces[0].construction, [])]
    if opening.middle_m is None and opening.middle_high_m is None:
        return above[0], pieces

    def away(n: int) -> float:
        """How far the opening's middle lies from the stretch, m; what is not known counts nothing."""
        s, out = pieces[n].stretch, 0.0
        if opening.middle_m is not None and s.from_m is not None and s.to_m is not None:
            out += max(s.from_m - opening.middle_m, opening.middle_m - s.to_m, 0.0)
        if opening.middle_high_m is not None and s.low_m is not None:
            high = s.high_m if s.high_m is not None else height_m
            out += max(s.low_m - opening.middle_high_m, opening.middle_high_m - high, 0.0)
        return out

    return min(above, key=away), pieces


def _shared_out(pieces: list[PieceView]) -> list[PieceView]:
    """What openings need beyond their stretch is taken from the rest of the face, the earth first."""
    for n in range(len(pieces)):
        lacks = pieces[n].opened_m2 - pieces[n].stretch.area_m2
        if lacks <= 1e-9:
            continue
        for k in sorted(range(len(pieces)), key=lambda k: pieces[k].stretch.beyond.kind != "ground"):
            other = pieces[k]
            if k == n or other.stretch.hole or lacks <= 0:
                continue
            taken = min(other.net_m2, lacks)
            pieces[k] = replace(other, beside_m2=other.beside_m2 + taken)
            lacks -= taken
    return pieces


def _openings(house: Overlay, room: Room, face: Face) -> list[OpeningView]:
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


def _measured(house: Overlay, room_key: str, part: str | None, face_key: str, opening: OpeningView) -> OpeningView:
    """An opening as the scheme makes it."""
    construction, measure = house.swap(opening.found, part, opening.beyond)
    for key, one in house.measures("opening"):
        if (one.room, one.face, one.opening) == (room_key, face_key, opening.id):
            construction, measure = one.construction, key
    return replace(opening, construction=construction, measure=measure)
