"""The survey with the active scheme laid over it: emitters, pipes and measures as they will be, every reference followed."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, partial

from cinder.design.findings import Findings
from cinder.design.house import routes, water
from cinder.design.house.climate import site_climate
from cinder.design.kept import Kept, entries
from cinder.design.plan.layout import Layout, layout
from cinder.library import ClimateEntry, ConstructionEntry, MachineEntry, TablesEntry, load
from cinder.model import EmitterSpec, HousePart, Job, Measure, PipeRun, Practice, Scheme
from cinder.model.scheme import Candidate, EmitterAction, PipeAction
from cinder.physics.altitude import noticed_density_ratio
from cinder.physics.flow.fluid import Fluid
from cinder.physics.quantity import AIR_HEAT_WH_M3K

Pipes = dict[str, tuple[PipeRun, str]]
NORMAL = "normal"
PARTY_WALL = "wall-party-brick"
"""The wall to a neighbour where neither part nor age says (our choice)."""


@dataclass(frozen=True, slots=True)
class EmitterView:
    id: str
    room: str
    label: str
    spec: EmitterSpec
    action: str
    path: str
    face: str | None = None
    offset_m: float | None = None


@dataclass(frozen=True)
class Overlay:
    """A job as its active scheme leaves it, with everything its rooms are seen by. `constructions`: those the job carries,
    and the party walls its parts have by their age."""

    job: Job
    scheme: Scheme | None
    practice: Practice
    tables: TablesEntry
    climate: ClimateEntry | None
    outdoor_c: float | None
    constructions: dict[str, ConstructionEntry]
    emitters: list[EmitterView]
    pipes: dict[str, tuple[PipeRun, str]]
    machine: MachineEntry | None
    sheltered: str
    spread_k: float
    layout: Layout
    fluid: Fluid
    """The heating water."""

    @property
    def shelter(self) -> float:
        """Factor of the wind on the leaks of the house."""
        return self.tables.shelter.get(self.sheltered, 1.0)

    @property
    def altitude_m(self) -> float:
        """Of the site; that of its climate's station where nobody entered it, 0 where nobody knows."""
        station = self.climate.altitude_m if self.climate else None
        return next((known for known in (self.job.site.altitude_m, station) if known is not None), 0.0)

    @cached_property
    def air_density(self) -> float:
        """Of the air around the house over that at sea level, as the school of thin air counts it."""
        return noticed_density_ratio(self.altitude_m) if self.practice.thin_air == "counted" else 1.0

    @property
    def air_heat_wh_m3k(self) -> float:
        """What a m3 of air carries for every K."""
        return AIR_HEAT_WH_M3K * self.air_density

    @property
    def beside(self) -> str:
        """What works beside the chosen machine (heater, boiler, new boiler, stove, none); empty without one."""
        chosen = self.scheme.candidates.get(self.scheme.chosen) if self.scheme and self.scheme.chosen else None
        return chosen.backup.kind if chosen else ""

    @property
    def burner(self) -> str:
        """The boiler beside the chosen machine, in words; empty where none is."""
        return {"boiler": "the boiler that is there", "new boiler": "the new boiler"}.get(self.beside, "")

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
        return self.constructions[key].label if key is not None else "not known"


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


def overlay(job: Job, findings: Findings, kept: Kept) -> Overlay:
    """Lay the active scheme over the survey and follow every reference."""
    survey, library = job.survey, job.library
    scheme = job.schemes.get(job.active_scheme) if job.active_scheme else None
    frozen = library.tables.get("standard")
    tables = kept.of("tables", (frozen,), lambda: whole_tables(frozen.data if frozen else None))
    climate, outdoor = kept.told(
        "climate", (job.climate, job.site, *entries(library.climates)), findings, lambda said: site_climate(job, said)
    )
    constructions = kept.of(
        "constructions",
        (tables, entries(library.constructions), entries(survey.parts)),
        lambda: _constructions(job, tables),
    )
    sheltered = survey.tightness.shelter or NORMAL
    if sheltered not in tables.shelter or sheltered not in tables.shield_e:
        sheltered = NORMAL
    changed = scheme.pipes if scheme else {}
    pipes = kept.of("pipes", (entries(survey.pipes), entries(changed)), partial(_pipes, survey.pipes, changed))
    machine = None
    if scheme and scheme.chosen:
        length = _primary_m(job, scheme.candidates[scheme.chosen])
        pipes = kept.of("primary pipe", (pipes, length), partial(_with_primary, pipes, length))
        machine = library.machines[scheme.candidates[scheme.chosen].machine].data
    return Overlay(
        job=job, scheme=scheme, practice=job.practice, tables=tables, climate=climate, outdoor_c=outdoor,
        constructions=constructions, emitters=_emitters(job, scheme, kept), pipes=pipes, machine=machine,
        sheltered=sheltered, spread_k=(scheme.spread_k if scheme and scheme.spread_k else None) or job.practice.spread_k,
        layout=layout(survey, kept), fluid=water.of(scheme, outdoor),
    )  # fmt: skip


def _primary_m(job: Job, candidate: Candidate) -> float | None:
    """Length of the primary pipes one way where the chosen machine stands; None where nothing says."""
    place = job.site.places.get(candidate.place or "")
    return routes.primary(job.site, place).length_m if place is not None else None


def _with_primary(pipes: Pipes, length_m: float | None) -> Pipes:
    """The pipes with the one that starts at the machine as long as the way from where it stands."""
    roots = [key for key, (run, _) in pipes.items() if run.parent not in pipes]
    if length_m is None or len(roots) != 1:
        return pipes
    run, action = pipes[roots[0]]
    return {**pipes, roots[0]: (run.model_copy(update={"length_m": length_m}), action)}


def _constructions(job: Job, tables: TablesEntry) -> dict[str, ConstructionEntry]:
    out = {key: item.data for key, item in job.library.constructions.items()}
    for part in job.survey.parts.values():
        key = party_wall(tables, part)
        if key not in out:  # a job begun before there was one takes the library's
            out[key] = load().constructions[key]
    return out


def party_wall(tables: TablesEntry, part: HousePart) -> str:
    """The wall to a neighbour: the part's own, else that of its age."""
    stated = part.constructions.get("party_wall")
    if stated is not None:
        return stated
    ages = (tables.ages, load().tables["standard"].ages)
    by_age = next(
        (key for table in ages if part.age in table and (key := table[part.age].constructions.get("party_wall"))), None
    )
    return by_age or PARTY_WALL


def _emitters(job: Job, scheme: Scheme | None, kept: Kept) -> list[EmitterView]:
    """What hangs in the rooms once the scheme is done: as found, replaced, added."""
    actions = scheme.emitters if scheme else {}
    needs = (entries(job.survey.emitters), entries(actions), job.active_scheme)
    return kept.of("emitters as they will be", needs, partial(_hung, job, actions, kept))


def _hung(job: Job, actions: dict[str, EmitterAction], kept: Kept) -> list[EmitterView]:
    out = []
    proposed = f"/schemes/{job.active_scheme}/emitters"
    for key, emitter in sorted(job.survey.emitters.items(), key=lambda item: (item[1].pos, item[0])):
        action = actions.get(key)
        if action is not None and action.action == "remove":
            continue
        if action is not None and action.action == "replace" and action.spec is not None:
            label, spec, done, path = action.label or emitter.label, action.spec, "replace", f"{proposed}/{key}"
        else:
            label, spec, done, path = emitter.label, emitter.spec, "keep", f"/survey/emitters/{key}"
        seen = partial(EmitterView, key, emitter.room, label, spec, done, path, emitter.face, emitter.offset_m)
        out.append(kept.of(("emitter", key), (emitter, action, path), seen))
    for key, action in sorted(actions.items(), key=lambda item: (item[1].pos, item[0])):
        if action.action == "add" and action.spec is not None and action.room is not None:
            path = f"{proposed}/{key}"
            seen = partial(EmitterView, key, action.room, action.label, action.spec, "add", path)
            out.append(kept.of(("added emitter", key), (action, path), seen))
    return out


def _pipes(found: dict[str, PipeRun], changed: dict[str, PipeAction]) -> dict[str, tuple[PipeRun, str]]:
    out = {key: (run, "keep") for key, run in found.items()}
    for key, action in changed.items():
        if action.action == "remove":
            out.pop(key, None)
        elif action.run is not None:
            out[key] = (action.run, action.action)
    out = {key: (_as_drawn(run), action) for key, (run, action) in out.items()}
    return dict(sorted(out.items(), key=lambda item: (item[1][0].pos, item[0])))


def _as_drawn(run: PipeRun) -> PipeRun:
    """A run whose length nobody has said is as long as it is drawn."""
    if run.length_m is not None or len(run.way) < 2:
        return run
    length = routes.along_m(run.way)
    return run.model_copy(update={"length_m": length}) if length > 0 else run
