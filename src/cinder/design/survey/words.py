"""Words of a document that a table must explain: each one no table knows is named, with what counts in its place."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass

from cinder.design.base import Screen
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.kept import Needs, entries, to_the_letter
from cinder.design.survey.signs import known_signs
from cinder.library import QuestionEntry, load
from cinder.model import EmitterSpec

NOTHING = "It is kept as it was written, and counts for nothing."


@dataclass(frozen=True, slots=True)
class Word:
    """A word at its place in the document, what it is the word for, the table that must know it, and what counts when
    that does not."""

    where: str
    of: str
    word: str
    known: Collection[str]
    screen: Screen
    instead: str = NOTHING


def judge(house: HouseView, findings: Findings) -> None:
    """A finding for every word of the job, and of the scheme shown, that its tables do not know."""
    for one in words(house):
        if one.word not in one.known:
            findings.add(
                "doubt", one.screen, one.where, f"{one.of}: {one.word!r} is not known here.", why=one.instead,
                mend="Choose what comes nearest from the list.",
            )  # fmt: skip


def words(house: HouseView) -> Iterator[Word]:
    """Every word that a table must explain."""
    yield from _site(house)
    yield from _survey(house)
    for view in house.emitters:
        yield from _emitter(house, view.spec, view.path, view.label or "An emitter")
    for key, (run, action) in house.pipes.items():
        base = f"/survey/pipes/{key}" if action == "keep" else f"/schemes/{house.job.active_scheme}/pipes/{key}/run"
        for fitting in run.fittings:
            yield Word(
                f"{base}/fittings/{fitting}", run.label or "A pipe", fitting, house.tables.fittings_k, "pipework"
            )
    for junction in house.practice.psi_w_mk:
        yield Word(
            f"/practice/psi_w_mk/{junction}",
            "A thermal bridge of the practice",
            junction,
            house.tables.junctions,
            "site",
        )


def _site(house: HouseView) -> Iterator[Word]:
    job, tables = house.job, house.tables
    for key, bill in job.site.bills.items():
        yield Word(
            f"/site/bills/{key}/fuel",
            bill.label or "A bill",
            bill.fuel,
            tables.fuels,
            "year",
            "The bill is not counted.",
        )
    for fuel in job.prices:
        yield Word(f"/prices/{fuel}", "A price", fuel, tables.fuels, "year")
    questions = load().enquiry
    for key, answer in job.site.answers.items():
        where = f"/site/answers/{key}"
        yield Word(where, "An answer of the first call", key, questions, "call")
        question = questions.get(key)
        if question is not None and question.kind in ("choice", "age") and isinstance(answer, str) and answer:
            instead = "It is kept as it was written; the question counts as not answered."
            yield Word(where, question.ask, answer, _choices(house, question), "call", instead)


def _choices(house: HouseView, question: QuestionEntry) -> Collection[str]:
    return house.tables.ages if question.kind == "age" else question.options


def _survey(house: HouseView) -> Iterator[Word]:
    survey, tables = house.job.survey, house.tables
    for key, part in survey.parts.items():
        name = part.label or "A part of the house"
        if part.age:
            instead = "Tightness, usual densities and usual builds do not follow from it."
            yield Word(f"/survey/parts/{key}/age", name, part.age, tables.ages, "site", instead)
        for sign, value in part.signs.items():
            where, every = f"/survey/parts/{key}/signs/{sign}", known_signs()
            yield Word(where, f"{name}, a sign of its walls", sign, every, "walk-round")
            if isinstance(value, str) and value and every.get(sign):
                yield Word(where, f"{name}, a sign of its walls", value, every[sign], "walk-round")
    for key, room in survey.rooms.items():
        if room.use:
            instead = "Taken as lived in, 20 °C, one air change an hour by the table."
            yield Word(f"/survey/rooms/{key}/use", room.label or "A room", room.use, tables.room_uses, "rooms", instead)
    for key, space in survey.spaces.items():
        where, name = f"/survey/spaces/{key}", space.label or "An unheated space"
        if space.kind:
            yield Word(
                f"{where}/kind", name, space.kind, tables.space_kinds, "site", "Where it is not solved, b is 0.8."
            )
        if space.air:
            yield Word(
                f"{where}/air", name, space.air, tables.space_air_per_h, "site", "Taken as one air change an hour."
            )
    if survey.tightness.shelter:
        where = "/survey/tightness/shelter"
        yield Word(where, "Shelter", survey.tightness.shelter, tables.shelter, "air", "Taken as normal.")
    if survey.household.tapping and survey.household.tapping != "own":
        where, known = "/survey/household/tapping", load().tapping
        instead = "The standard day that holds what the people draw is taken."
        yield Word(where, "The pattern of a day's hot water", survey.household.tapping, known, "hot-water", instead)
    kinds = load().manifold_parts
    for key, part_of in survey.manifolds.items():
        instead = "Nobody can tell what it does to the flow: look, and choose what comes nearest."
        name = part_of.label or "At a manifold"
        yield Word(f"/survey/manifolds/{key}/kind", name, part_of.kind, kinds, "emitters", instead)
    items = load().walk_round
    for item in survey.walk_round:
        yield Word(f"/survey/walk_round/{item}", "An item of the walk-round", item, items, "walk-round")
    for key, photo in survey.photos.items():
        if photo.item:
            yield Word(f"/survey/photos/{key}/item", photo.caption or "A picture", photo.item, items, "walk-round")


def _emitter(house: HouseView, spec: EmitterSpec, path: str, name: str) -> Iterator[Word]:
    tables = house.tables
    if spec.valve:
        yield Word(f"{path}/valve", name, spec.valve, tables.valves, "emitters")
    if spec.connection:
        yield Word(f"{path}/connection", name, spec.connection, tables.emitter_factors, "emitters")
    for key in spec.obstructions:
        yield Word(f"{path}/obstructions", name, key, tables.emitter_factors, "emitters")
    if spec.heated is not None and spec.heated.covering:
        instead = "The resistance and the limit that stand beside it count."
        yield Word(f"{path}/heated/covering", name, spec.heated.covering, load().coverings, "emitters", instead)


def looks_at(house: HouseView) -> Needs:
    """What words stand in."""
    job, survey = house.job, house.job.survey
    maps = (survey.parts, survey.rooms, survey.spaces, survey.manifolds, survey.walk_round, survey.photos, house.pipes)
    said = to_the_letter([[(key, room.use, room.label) for key, room in survey.rooms.items()], list(job.prices)])
    kept = tuple(entries(these) for these in maps if these is not survey.rooms)
    return (
        job.site,
        survey.household,
        house.tables,
        house.practice,
        survey.tightness,
        job.active_scheme,
        said,
        tuple(house.emitters),
        kept,
    )
