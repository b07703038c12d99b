"""Checks that span the document: everything named exists, nothing runs in a circle."""

from __future__ import annotations

from collections.abc import Iterator

from cinder.errors import Problem
from cinder.model.job import Job
from cinder.model.room import Room
from cinder.model.scheme import Scheme
from cinder.model.survey import EmitterSpec, PipeRun

Found = Iterator[Problem]


def problems(job: Job) -> list[Problem]:
    """Every broken reference of the job, with its JSON pointer."""
    found = [*_library(job), *_survey(job)]
    for key, scheme in job.schemes.items():
        found += _scheme(job, scheme, f"/schemes/{key}")
    found += _seen(job)
    found += _tested(job)
    found += _offered(job)
    if job.active_scheme is not None and job.active_scheme not in job.schemes:
        found.append(_missing("/active_scheme", "scheme", job.active_scheme))
    if job.climate.entry is not None and job.climate.entry not in job.library.climates:
        found.append(_missing("/climate/entry", "climate in the job's library", job.climate.entry))
    return found


def _seen(job: Job) -> Found:
    """Observations name rooms and emitters that are there, found or proposed."""
    if not job.fire_up.observations:
        return
    emitters = set(job.survey.emitters).union(*(scheme.emitters for scheme in job.schemes.values()))
    for key, seen in job.fire_up.observations.items():
        where = f"/fire_up/observations/{key}"
        for room in seen.rooms:
            if room not in job.survey.rooms:
                yield _missing(f"{where}/rooms/{room}", "room", room)
        for emitter in seen.tails:
            if emitter not in emitters:
                yield _missing(f"{where}/tails/{emitter}", "emitter", emitter)


def _tested(job: Job) -> Found:
    """Tests of pipes name emitters and rooms that are there."""
    emitters = set(job.survey.emitters).union(*(scheme.emitters for scheme in job.schemes.values()))
    for key, test in job.survey.pipe_tests.items():
        where = f"/survey/pipe_tests/{key}"
        if test.only is not None and test.only not in emitters:
            yield _missing(f"{where}/only", "emitter", test.only)
        for kind in ("returns", "gauges"):
            for emitter in getattr(test, kind):
                if emitter not in emitters:
                    yield _missing(f"{where}/{kind}/{emitter}", "emitter", emitter)
        for room in test.rooms:
            if room not in job.survey.rooms:
                yield _missing(f"{where}/rooms/{room}", "room", room)


def _offered(job: Job) -> Found:
    """The offer names schemes that are there."""
    offer = job.handover.offer
    for scheme in offer.variants:
        if scheme not in job.schemes:
            yield _missing("/handover/offer/variants", "scheme", scheme)
    for key, line in offer.lines.items():
        if line.scheme is not None and line.scheme not in job.schemes:
            yield _missing(f"/handover/offer/lines/{key}/scheme", "scheme", line.scheme)


def _missing(path: str, what: str, name: str) -> Problem:
    return Problem(path, f"points at nothing: there is no {what} {name!r}", name)


def _library(job: Job) -> Found:
    for kind in type(job.library).model_fields:
        for key, frozen in getattr(job.library, kind).items():
            where = f"/library/{kind}/{key}"
            if frozen.data.id != key:
                yield Problem(where, f"is filed under {key!r} but calls itself {frozen.data.id!r}", frozen.data.id)


def _survey(job: Job) -> Found:
    survey = job.survey
    for key, part in survey.parts.items():
        for element, construction in part.constructions.items():
            if construction not in job.library.constructions:
                yield _missing(f"/survey/parts/{key}/constructions/{element}", "construction", construction)
        if part.loft is not None and part.loft not in survey.spaces:
            yield _missing(f"/survey/parts/{key}/loft", "unheated space", part.loft)
    for key, space in survey.spaces.items():
        where = f"/survey/spaces/{key}"
        for face_key, space_face in space.faces.items():
            if space_face.construction not in job.library.constructions:
                yield _missing(f"{where}/faces/{face_key}/construction", "construction", space_face.construction)
        for name in ("wall", "floor") if space.cellar else ():
            if getattr(space.cellar, name) not in job.library.constructions:
                yield _missing(f"{where}/cellar/{name}", "construction", getattr(space.cellar, name))
    for key, room in survey.rooms.items():
        yield from _room(job, key, room)
    for key, emitter in survey.emitters.items():
        where = f"/survey/emitters/{key}"
        if emitter.room not in survey.rooms:
            yield _missing(f"{where}/room", "room", emitter.room)
        elif emitter.face is not None and emitter.face not in _face_names(survey.rooms[emitter.room]):
            yield _missing(f"{where}/face", "face", emitter.face)
        yield from _spec(job, emitter.spec, f"{where}/spec")
    for key, hung in survey.manifolds.items():
        for room_key in hung.rooms:
            if room_key not in survey.rooms:
                yield _missing(f"/survey/manifolds/{key}/rooms", "room", room_key)
    for key, photo in survey.photos.items():
        where = f"/survey/photos/{key}"
        if photo.room is not None and photo.room not in survey.rooms:
            yield _missing(f"{where}/room", "room", photo.room)
        elif photo.face is not None and photo.face not in _face_names(survey.rooms.get(photo.room or "")):
            yield _missing(f"{where}/face", "face", photo.face)
        if photo.emitter is not None and photo.emitter not in survey.emitters:
            yield _missing(f"{where}/emitter", "emitter", photo.emitter)
    yield from _pipes(job, survey.pipes, set(survey.emitters), "/survey/pipes", "")


def _face_names(room: Room | None) -> set[str]:
    return {"floor", "ceiling", *room.slopes, *(run.id for run in room.walk)} if room else set()


def _room(job: Job, key: str, room: Room) -> Found:
    where = f"/survey/rooms/{key}"
    survey = job.survey
    if room.storey is not None and room.storey not in survey.storeys:
        yield _missing(f"{where}/storey", "storey", room.storey)
    if room.part is not None and room.part not in survey.parts:
        yield _missing(f"{where}/part", "part of the house", room.part)
    runs = [run.id for run in room.walk]
    if len(set(runs)) != len(runs):
        yield Problem(f"{where}/walk", "two runs have the same id", runs)
    for slope_key, slope in room.slopes.items():
        if slope.run not in runs:
            yield _missing(f"{where}/slopes/{slope_key}/run", "run of the walk", slope.run)
        if slope_key in runs or slope_key in ("floor", "ceiling"):
            yield Problem(f"{where}/slopes/{slope_key}", "has the name of another face", slope_key)
    for face_key, face in room.faces.items():
        at = f"{where}/faces/{face_key}"
        if face_key not in ("floor", "ceiling") and face_key not in runs and face_key not in room.slopes:
            yield _missing(at, "run of the walk", face_key)
        if face.construction is not None and face.construction not in job.library.constructions:
            yield _missing(f"{at}/construction", "construction", face.construction)
        for opening_key, opening in face.openings.items():
            if opening.construction is not None and opening.construction not in job.library.constructions:
                yield _missing(f"{at}/openings/{opening_key}/construction", "construction", opening.construction)
        for span_key, span in face.spans.items():
            beyond = span.beyond
            if beyond is None:
                continue
            to = f"{at}/spans/{span_key}/beyond"
            if beyond.room is not None and beyond.room not in survey.rooms:
                yield _missing(f"{to}/room", "room", beyond.room)
            if beyond.room == key:
                yield Problem(f"{to}/room", "a room cannot lie beyond its own wall", key)
            if beyond.space is not None and beyond.space not in survey.spaces:
                yield _missing(f"{to}/space", "unheated space", beyond.space)
            if beyond.neighbour is not None and beyond.neighbour not in survey.neighbours:
                yield _missing(f"{to}/neighbour", "neighbour", beyond.neighbour)


def _spec(job: Job, spec: EmitterSpec | None, where: str) -> Found:
    if spec is not None and spec.type is not None and spec.type not in job.library.emitter_types:
        yield _missing(f"{where}/type", "emitter type", spec.type)


def _pipes(job: Job, pipes: dict[str, PipeRun], emitters: set[str], base: str, tail: str) -> Found:
    for key, pipe in pipes.items():
        where = f"{base}/{key}{tail}"
        if pipe.parent is not None and pipe.parent not in pipes:
            yield _missing(f"{where}/parent", "pipe", pipe.parent)
        if pipe.emitter is not None and pipe.emitter not in emitters:
            yield _missing(f"{where}/emitter", "emitter", pipe.emitter)
        family = job.library.pipe_families.get(pipe.family) if pipe.family is not None else None
        if pipe.family is not None and family is None:
            yield _missing(f"{where}/family", "pipe family", pipe.family)
        if family is not None and pipe.size is not None and pipe.size not in family.data.sizes:
            yield _missing(f"{where}/size", f"size of {pipe.family}", pipe.size)
    yield from _circles(pipes, base)


def _circles(pipes: dict[str, PipeRun], base: str) -> Found:
    done: set[str] = set()
    for start in pipes:
        seen: list[str] = []
        here: str | None = start
        while here is not None and here in pipes and here not in done:
            if here in seen:
                yield Problem(f"{base}/{here}/parent", "the pipes run in a circle: " + " → ".join([*seen, here]), here)
                break
            seen.append(here)
            here = pipes[here].parent
        done.update(seen)


def _scheme(job: Job, scheme: Scheme, where: str) -> list[Problem]:
    found: list[Problem] = []
    rooms = job.survey.rooms
    for key in scheme.targets:
        if key not in rooms:
            found.append(_missing(f"{where}/targets/{key}", "room", key))
    for key, measure in scheme.measures.items():
        at = f"{where}/measures/{key}"
        if measure.kind in ("tightness", "ventilation"):
            continue
        if measure.construction not in job.library.constructions:
            found.append(_missing(f"{at}/construction", "construction", str(measure.construction)))
        if measure.kind == "construction":
            if measure.was not in job.library.constructions:
                found.append(_missing(f"{at}/was", "construction", str(measure.was)))
            if measure.part is not None and measure.part not in job.survey.parts:
                found.append(_missing(f"{at}/part", "part of the house", measure.part))
            continue
        room = rooms.get(measure.room or "")
        face = room.faces.get(measure.face or "") if room else None
        if room is None:
            found.append(_missing(f"{at}/room", "room", str(measure.room)))
        elif face is None and (measure.kind == "opening" or measure.face not in _face_names(room)):
            found.append(_missing(f"{at}/face", "face", str(measure.face)))
        elif measure.kind == "opening" and face is not None and measure.opening not in face.openings:
            found.append(_missing(f"{at}/opening", "window or door", str(measure.opening)))
    if scheme.hot_water.keeps is not None and scheme.hot_water.keeps not in job.survey.stores:
        found.append(_missing(f"{where}/hot_water/keeps", "store", scheme.hot_water.keeps))
    for key in scheme.concessions:
        if key not in rooms:
            found.append(_missing(f"{where}/concessions/{key}", "room", key))
    emitters = set(job.survey.emitters)
    for key, action in scheme.emitters.items():
        at = f"{where}/emitters/{key}"
        if action.action == "add":
            emitters.add(key)
            if key in job.survey.emitters:
                found.append(Problem(at, "is added, but the survey already has it", key))
            if action.room not in rooms:
                found.append(_missing(f"{at}/room", "room", str(action.room)))
        elif key not in job.survey.emitters:
            found.append(_missing(at, "emitter", key))
        if action.action in ("add", "replace") and action.spec is None:
            found.append(Problem(f"{at}/spec", f"an emitter to {action.action} needs its spec"))
        found += _spec(job, action.spec, f"{at}/spec")
    found += _scheme_pipes(job, scheme, where, emitters)
    taken: dict[str, str] = {}
    for key, zone in scheme.zones.items():
        for held in zone.rooms:
            if held not in rooms:
                found.append(_missing(f"{where}/zones/{key}/rooms", "room", held))
            elif taken.setdefault(held, key) != key:
                found.append(Problem(f"{where}/zones/{key}/rooms", "a room belongs to one zone only", held))
    for key, candidate in scheme.candidates.items():
        if candidate.machine not in job.library.machines:
            found.append(
                _missing(f"{where}/candidates/{key}/machine", "machine in the job's library", candidate.machine)
            )
        if candidate.place is not None and candidate.place not in job.site.places:
            found.append(_missing(f"{where}/candidates/{key}/place", "place for a unit", candidate.place))
    if scheme.chosen is not None and scheme.chosen not in scheme.candidates:
        found.append(_missing(f"{where}/chosen", "candidate", scheme.chosen))
    return found


def _scheme_pipes(job: Job, scheme: Scheme, where: str, emitters: set[str]) -> list[Problem]:
    found: list[Problem] = []
    effective = dict(job.survey.pipes)
    for key, action in scheme.pipes.items():
        at = f"{where}/pipes/{key}"
        if (action.action == "add") == (key in job.survey.pipes):
            found.append(Problem(at, "is added though it exists" if action.action == "add" else "changes no pipe", key))
        if action.action == "remove":
            effective.pop(key, None)
        elif action.run is None:
            found.append(Problem(f"{at}/run", f"a pipe to {action.action} needs its run"))
        else:
            effective[key] = action.run
    if scheme.pipes and not found:
        found += list(_pipes(job, effective, emitters, f"{where}/pipes", "/run"))
    return found
