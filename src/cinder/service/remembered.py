"""The design of a job at a version, kept while it is fresh; answers put together from it."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Mapping
from datetime import UTC, datetime
from functools import partial
from typing import Any, TypeVar

import numpy as np

from cinder import ENGINE_VERSION
from cinder.design import Design, Effect, design, effect, year
from cinder.design.apart import (
    alternatives,
    controllers,
    doubts,
    flows,
    materials,
    measures,
    moved,
    plant,
    protecting,
    routing,
    running,
    separating,
    water_day,
    ways,
)
from cinder.design.apart import bills as bill_check
from cinder.design.apart.alternatives.result import Alternatives
from cinder.design.apart.bills.result import BillCheck
from cinder.design.apart.compare import Side, side_by_side
from cinder.design.apart.controllers import ControllersFound
from cinder.design.apart.doubts.result import Doubts
from cinder.design.apart.flows import FlowsFound
from cinder.design.apart.materials import MaterialsFound
from cinder.design.apart.measures.result import Measures
from cinder.design.apart.plant import PlantFound
from cinder.design.apart.protecting import ProtectingFound
from cinder.design.apart.routing import RoutesFound
from cinder.design.apart.running.result import Runs
from cinder.design.apart.running.solar import spare_day_w
from cinder.design.apart.separating import SeparatingFound
from cinder.design.apart.water_day import WaterDays
from cinder.design.apart.ways.result import Front, Holding
from cinder.design.findings import Findings
from cinder.design.house.climate import height_shift_k
from cinder.design.house.view import view
from cinder.design.kept import Kept
from cinder.design.year.result import Year
from cinder.field import correction, pipes, wiring
from cinder.field.channels import log_of
from cinder.field.fire_up import day
from cinder.field.fire_up.result import FireUpFound
from cinder.field.pipes import PipesTested
from cinder.field.result import CorrectionFound
from cinder.field.wiring import WiringFound
from cinder.library import EDITION, HourlyYear, MachineEntry, PlantPartEntry, entry_sha256, load
from cinder.model import Job, parse
from cinder.service.people import DEMO, DEMO_PERSON
from cinder.service.shown import Shown, difference, fingerprint
from cinder.store.company import CompanyShelf
from cinder.store.log import ChangeLog
from cinder.store.readings import ReadingShelf
from cinder.store.record import Applied, Who
from cinder.twin import absences, room_control, scenarios
from cinder.twin.of_job import lacks, twin_of
from cinder.twin.result import AbsencesFound, RoomControlFound, TwinFound, Week, WeekFound

KEPT = 512
SHOWN = 512
"""Designs that are kept as plain values too, for the next difference (our choice): some for every job in hand."""
CHAINS = 256
"""Jobs whose chain is kept in a process: those somebody works at (our choice)."""
RECENT_DAYS = 45
"""A correction is weighed by the last readings of a source (our choice): what was before the last steps says nothing of the next."""
T = TypeVar("T")


class Remembered:
    """Remembers the last answers by (company, job, version); each is pure, so this changes none of them."""

    def __init__(self, log: ChangeLog, company: CompanyShelf) -> None:
        self.log = log
        self.company = company
        self.readings = ReadingShelf(log.engine)
        self._kept: OrderedDict[Hashable, Any] = OrderedDict()
        self._lock = threading.Lock()
        self._making: dict[Hashable, threading.Lock] = {}
        self._slow = threading.RLock()
        self._chains: OrderedDict[Hashable, Kept] = OrderedDict()
        self._shown: OrderedDict[Hashable, Shown] = OrderedDict()

    def _remembered(self, key: Hashable, make: Callable[[], T]) -> T:
        """What was worked out under a key; those who ask while it is being worked out wait for it instead of doing it too."""
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                known: T = self._kept[key]
                return known
            turn = self._making.setdefault(key, threading.Lock())
        with turn:
            with self._lock:
                if key in self._kept:
                    done: T = self._kept[key]
                    return done
            try:
                made = make()
                with self._lock:
                    self._kept[key] = made
                    while len(self._kept) > KEPT:
                        self._kept.popitem(last=False)
            finally:
                with self._lock:
                    self._making.pop(key, None)
            return made

    def slowly(self, key: Hashable, make: Callable[[], T]) -> T:
        """As `_remembered`, for what takes longer than an edit: one such work at a time.

        Two at once would each take twice as long on one interpreter, and an edit between them three times.
        """

        def in_turn() -> T:
            with self._slow:
                return make()

        return self._remembered(key, in_turn)

    def chain(self, who: Who, job_id: str) -> Kept:
        """What the chain gave last for a job, so that the next edit costs what it touches."""
        with self._lock:
            kept = self._chains.setdefault((who.company_id, job_id), Kept())
            self._chains.move_to_end((who.company_id, job_id))
            while len(self._chains) > CHAINS:
                self._chains.popitem(last=False)
            return kept

    def years(self, who: Who, job_id: str) -> Kept:
        """The same for what runs a house through the year, one at a time: apart from the edits' own."""
        return self.chain(who, f"{job_id} through the year")

    def design(self, who: Who, job: Job, version: int) -> Design:
        key = ("design", who.company_id, job.id, version)
        return self._remembered(key, lambda: design(job, self.chain(who, job.id)))

    def tried(self, who: Who, job: Job) -> Design:
        """The design of what a job would be; it is not remembered."""
        return design(job, self.chain(who, job.id))

    def design_of(self, who: Who, job_id: str, version: int, document: dict[str, Any]) -> Design:
        """As `design`, from the document: it is read only when the design is not at hand."""
        return self._remembered(
            ("design", who.company_id, job_id, version), lambda: design(parse(document), self.chain(who, job_id))
        )

    def doubts(self, who: Who, job: Job, version: int) -> Doubts:
        """The sampled range of a version: slow, so asked for apart from the edit, and remembered."""
        return self.slowly(("doubts", who.company_id, job.id, version), lambda: doubts.judge(job))

    def weather(self, who: Who, job: Job) -> tuple[HourlyYear | None, float]:
        """The hourly year of the job's climate, and what the height correction takes off it, K."""
        frozen = job.library.climates.get(job.climate.entry or "")
        climate = frozen.data if frozen else None
        key = ("weather", who.company_id, climate.year_sha256 if climate else None)
        with self._lock:
            kept: HourlyYear | None = self._kept.get(key)
        if kept is None:
            # one that is missing may be brought in any moment, by another process too: it is not remembered
            kept = self.company.year(who, climate.year_sha256 if climate else None)
            if kept is not None:
                found = kept
                kept = self._remembered(key, lambda: found)
        return kept, height_shift_k(job, climate)

    def year(self, who: Who, job: Job, version: int) -> Year:
        """The house through the year."""
        weather, shift = self.weather(who, job)
        return self.slowly(
            ("year", who.company_id, job.id, version, weather is not None),
            lambda: year.judge(
                job, self.design(who, job, version), weather, shift_k=shift, kept=self.years(who, job.id)
            ),
        )

    def loss_range(self, who: Who, job: Job, version: int) -> tuple[float, float] | None:
        """The P10 and the P90 of the house's loss over the figure of the design."""
        found, loss = self.doubts(who, job, version).house, self.design(who, job, version).house.loss_w
        return (found.p10_w / loss, found.p90_w / loss) if found is not None and loss else None

    def controllers(self, who: Who, job: Job, version: int) -> ControllersFound:
        """The kinds of controller beside each other, and the need's band."""
        scales = self.loss_range(who, job, version)
        return self.slowly(
            ("controllers", who.company_id, job.id, version),
            lambda: controllers.judge(
                job, self.design(who, job, version), loss_range=scales, kept=self.years(who, job.id)
            ),
        )

    def twin(self, who: Who, job: Job, version: int) -> TwinFound:
        """The house run in every way that is argued about, through a year."""
        weather, shift = self.weather(who, job)
        key = ("twin", who.company_id, job.id, version, weather is not None)
        return self.slowly(
            key,
            lambda: scenarios.judge(
                job, weather, shift_k=shift, kept=self.years(who, job.id),
                remembered=lambda way, make: self._remembered((*key, way), make),
            ),
        )  # fmt: skip

    def room_control(self, who: Who, job: Job, version: int) -> RoomControlFound:
        """What to set at the room controller, and why."""
        found = self.twin(who, job, version)
        weather, _ = self.weather(who, job)
        away = self.absences(who, job, version)
        return self.slowly(
            ("room control", who.company_id, job.id, version, weather is not None),
            lambda: room_control.judge(job, found, away),
        )

    def absences(self, who: Who, job: Job, version: int) -> AbsencesFound:
        """Away and back, and the page of those who live there."""
        return self.slowly(
            ("absences", who.company_id, job.id, version), lambda: absences.judge(job, self.years(who, job.id))
        )

    def twin_week(self, who: Who, job: Job, version: int, week: Week, way: str) -> WeekFound:
        """A week of it, run in one way."""
        weather, shift = self.weather(who, job)
        return self.slowly(
            ("twin week", who.company_id, job.id, version, weather is not None, week, way),
            lambda: scenarios.week_of(
                job, weather, week=week, scenario=way, shift_k=shift, kept=self.years(who, job.id)
            ),
        )

    def correction(self, who: Who, job: Job, version: int) -> CorrectionFound:
        """The correction desk: what was seen by hand and by readings, and the step to take."""
        weather, _ = self.weather(who, job)
        stamp = self.readings.stamp(who, job.id)

        def made() -> CorrectionFound:
            logs = []
            if stamp and not lacks(job, self.design(who, job, version)):
                twin = twin_of(job, kept=self.years(who, job.id))
                sources = self.readings.sources(who, job.id)
                real = (
                    bool(job.fire_up.observations)
                    or any(one.kind == "file" and one.count for one in sources)
                    or any(one.kind == "plant" and one.count for one in sources)
                )
                for source in sources:
                    if source.kind in ("simulated", "hand") or (real and source.kind == "stand-in"):
                        continue  # what is simulated is not counted beside what is real; meters read by hand say nothing of the line
                    found = self.readings.hourly(who, job.id, source)
                    late = found.at > found.at[-1] - np.timedelta64(RECENT_DAYS, "D") if len(found.at) else slice(0)
                    column = {name: found.channel(name)[late] for name in source.channels}
                    logs.append(log_of(source.label, found.at[late], column, twin.rooms, twin.emitters))
            return correction.judge(job, weather, logs, kept=self.years(who, job.id))

        return self.slowly(("correction", who.company_id, job.id, version, weather is not None, stamp), made)

    def fire_up(self, who: Who, job: Job, version: int, live: Mapping[str, float] | None = None) -> FireUpFound:
        """The commissioning day as it stands, beside what the plant says now."""
        weather, _ = self.weather(who, job)
        stamp = tuple(sorted((live or {}).items()))
        return self.slowly(
            ("fire-up", who.company_id, job.id, version, weather is not None, stamp),
            lambda: day.judge(job, weather, live=live, kept=self.years(who, job.id)),
        )

    def wiring(self, who: Who, job: Job, version: int) -> WiringFound:
        """The controller record."""
        return self.slowly(
            ("wiring", who.company_id, job.id, version), lambda: wiring.judge(job, self.years(who, job.id))
        )

    def running(self, who: Who, job: Job, version: int) -> Runs:
        """Every candidate through the year of hours, with the range its inputs give it."""
        weather, shift = self.weather(who, job)
        result, scales = self.design(who, job, version), self.loss_range(who, job, version)
        return self.slowly(
            ("running", who.company_id, job.id, version, weather is not None),
            lambda: running.judge(job, result, weather, shift_k=shift, loss_range=scales, kept=self.years(who, job.id)),
        )

    def alternatives(self, who: Who, job: Job, version: int) -> Alternatives:
        """Four ways on from here, each a whole chain and a year of hours."""
        weather, shift = self.weather(who, job)
        scales = self.loss_range(who, job, version)
        own = {k: e for k, (_, e) in self.company.entries(who, "machines").items() if isinstance(e, MachineEntry)}
        shelf = {**load().machines, **own}
        table = self.company.measures(who, load().measures)
        panels, lists = self.company.emitter_prices(who, load().emitter_prices), self.company.catalogues(who)
        marks = tuple(entry_sha256(e) for e in (*table.values(), *panels.values(), *lists, *own.values()))
        return self.slowly(
            ("alternatives", who.company_id, job.id, version, weather is not None, marks),
            lambda: alternatives.judge(
                job,
                panels=panels,
                table=table,
                lists=lists,
                shelf=shelf,
                weather=weather,
                shift_k=shift,
                loss_range=scales,
            ),
        )

    def water_days(self, who: Who, job: Job, version: int) -> WaterDays:
        """The hot-water store through a day, and what other stores would make of it."""
        weather, _ = self.weather(who, job)

        def made() -> WaterDays:
            sun = spare_day_w(view(job, Findings()), weather) if weather is not None else None
            return water_day.judge(job, self.design(who, job, version), sun)

        return self.slowly(("water days", who.company_id, job.id, version, weather is not None), made)

    def flows(self, who: Who, job: Job, version: int) -> FlowsFound:
        """What every emitter really gets, how the house is balanced, and what would leave the pump more room."""
        return self.slowly(
            ("flows", who.company_id, job.id, version),
            lambda: flows.judge(job, self.design(who, job, version), self.years(who, job.id)),
        )

    def plant_parts(self, who: Who) -> tuple[dict[str, PlantPartEntry], frozenset[str], Hashable]:
        """The table of parts as the company prices it, the rows that are its own, and what it is remembered by."""
        table = self.company.plant_parts(who, load().plant_parts)
        own = frozenset(key for key, entry in table.items() if entry is not load().plant_parts[key])
        return table, own, tuple(entry_sha256(table[key]) for key in sorted(own))

    def separating(self, who: Who, job: Job, version: int) -> SeparatingFound:
        """One circuit or two: every way through the whole chain."""
        table, _, mark = self.plant_parts(who)
        return self.slowly(
            ("separating", who.company_id, job.id, version, mark),
            lambda: separating.judge(job, self.design(who, job, version), table, self.years(who, job.id)),
        )

    def pipes_tested(self, who: Who, job: Job, version: int) -> PipesTested:
        """Hidden pipes by the tests with the pump."""
        return self.slowly(("pipes tested", who.company_id, job.id, version), lambda: pipes.judge(job))

    def protecting(self, who: Who, job: Job, version: int) -> ProtectingFound:
        """Glycol, freeze valves or neither."""
        table, _, mark = self.plant_parts(who)
        return self.slowly(
            ("protecting", who.company_id, job.id, version, mark),
            lambda: protecting.judge(job, self.design(who, job, version), table, self.years(who, job.id)),
        )

    def plant(self, who: Who, job: Job, version: int) -> PlantFound:
        """The plant as a picture."""
        return self.slowly(
            ("plant", who.company_id, job.id, version),
            lambda: plant.judge(job, self.design(who, job, version), load().plant_parts),
        )

    def routes(self, who: Who, job: Job, version: int) -> RoutesFound:
        """Pipes on the plan, and a tree laid by rule."""
        return self.slowly(
            ("routes", who.company_id, job.id, version), lambda: routing.judge(job, self.design(who, job, version))
        )

    def materials(self, who: Who, job: Job, version: int) -> MaterialsFound:
        """What to buy, by the company's prices."""
        table, own, mark = self.plant_parts(who)
        return self.slowly(
            ("materials", who.company_id, job.id, version, mark),
            lambda: materials.judge(job, self.design(who, job, version), table, own),
        )

    def bills(self, who: Who, job: Job, version: int) -> BillCheck:
        """The calculated loss against the bills."""
        weather, shift = self.weather(who, job)
        return self.slowly(
            ("bills", who.company_id, job.id, version, weather is not None),
            lambda: bill_check.judge(job, self.design(who, job, version), weather, shift_k=shift),
        )

    def options(self, who: Who, job: Job, version: int) -> tuple[ways.HouseOptions, Hashable]:
        """What the cheapest set is chosen from, by the company's prices and lists; and what it is remembered by."""
        table = self.company.measures(who, load().measures)
        panels = self.company.emitter_prices(who, load().emitter_prices)
        lists = self.company.catalogues(who)
        prices = tuple(entry_sha256(entry) for entry in (*table.values(), *panels.values(), *lists))
        weather, shift = self.weather(who, job)
        mark = (who.company_id, job.id, version, prices, weather is not None)
        made = partial(ways.options_of, job, panels, table, lists, weather=weather, shift_k=shift)
        return self.slowly(("options", *mark), made), mark

    def front(self, who: Who, job: Job, version: int) -> Front:
        """The cheapest set of changes for every flow temperature."""
        found, mark = self.options(who, job, version)
        return self.slowly(("front", mark), lambda: ways.front_of(found))

    def holding(self, who: Who, job: Job, version: int) -> Holding:
        """Who holds the water up, and what it would do to take one of them out."""
        found, mark = self.options(who, job, version)
        return self.slowly(("holding", mark), lambda: ways.holding(found))

    def schemes(self, who: Who, job: Job, version: int) -> Side:
        """Every scheme and the house as found, side by side."""
        weather, shift = self.weather(who, job)
        key = ("schemes", who.company_id, job.id, version, weather is not None)
        return self.slowly(key, lambda: side_by_side(job, weather, shift_k=shift))

    def measures(self, who: Who, job: Job, version: int) -> Measures:
        """Every measure of the company's table alone on the scheme shown."""
        table = self.company.measures(who, load().measures)
        prices = tuple(entry_sha256(entry) for entry in table.values())
        weather, shift = self.weather(who, job)
        key = ("measures", who.company_id, job.id, version, prices, weather is not None)
        return self.slowly(key, lambda: measures.judge(job, table=table, weather=weather, shift_k=shift))

    def effect(self, who: Who, applied: Applied, after: Design) -> Effect | None:
        """What the change did, against the version before it."""
        if applied.before_version < 1 or applied.before_version == applied.version:
            return None
        key = ("design", who.company_id, applied.job.id, applied.before_version)
        with self._lock:
            before: Design | None = self._kept.get(key)
        if before is None:
            old = parse(self.log.document_at(who, applied.job.id, applied.before_version))
            before = self.design(who, old, applied.before_version)
        return effect(before, after).model_copy(update={"edits": applied.version - applied.before_version})

    def shown(self, who: Who, job_id: str, version: int, result: Design, *, holds: int | None = None) -> Shown:
        """A Design as plain values, sharing what it has in common with the one a browser holds."""
        key, before = (who.company_id, job_id, version), (who.company_id, job_id, holds)
        with self._lock:
            known = self._shown.get(key)
            last = self._shown.get(before)
        if known is None or known.design is not result:
            known = Shown(result, last)
            with self._lock:
                self._shown[key] = known
                while len(self._shown) > SHOWN:
                    self._shown.popitem(last=False)
        return known

    def held(self, who: Who, job_id: str, version: int | None) -> Shown | None:
        """The Design of a version as it was sent; None where this process did not, or no longer knows."""
        with self._lock:
            known = self._shown.get((who.company_id, job_id, version))
            if known is not None:
                self._shown.move_to_end((who.company_id, job_id, version))
            return known

    def _again(self, who: Who, job_id: str, version: int | None) -> Shown | None:
        """As `held`, where another process sent it: made again from a Design that is at hand, else None."""
        with self._lock:
            known: Design | None = self._kept.get(("design", who.company_id, job_id, version))
        return self.shown(who, job_id, version, known) if known is not None and version is not None else None

    def onward(self, who: Who, applied: Applied, result: Design, holds: int | None) -> dict[str, Any]:
        """Job and Design: what changed since the version a browser holds, where that can be told, else the whole."""
        before = self.held(who, applied.job.id, holds) or self._again(who, applied.job.id, holds)
        after = self.shown(who, applied.job.id, applied.version, result, holds=holds)
        if before is not None and holds is not None and holds <= applied.version:
            operations = applied.operations
            if operations is None or holds != applied.before_version:
                operations = self.log.since(who, applied.job.id, holds, applied.version)
            if operations is not None:
                found = difference(before.whole, after.whole)
                return {"since": holds, "operations": operations, "difference": found}
        return {"job": applied.document, "design": after.whole}

    def tried_onward(self, who: Who, job: Job, holds: int | None) -> tuple[Design, dict[str, Any]]:
        """The Design of what a job would be, as its difference from the one a browser holds, else whole."""
        result = self.tried(who, job)
        before = self.held(who, job.id, holds)
        after = Shown(result, before)
        if before is None:
            return result, {"design": after.whole}
        return result, {"since": holds, "difference": difference(before.whole, after.whole)}

    def fingerprint(self, who: Who, applied: Applied) -> str:
        """Of job and Design at a version, for a browser to hold against what it has put together."""
        result = self.design(who, applied.job, applied.version)
        return fingerprint(applied.document, self.shown(who, applied.job.id, applied.version, result).whole)

    def fingerprint_of(self, who: Who, job: Job, version: int, document: dict[str, Any]) -> str:
        """As `fingerprint`, of any version."""
        result = self.design(who, job, version)
        return self._remembered(
            ("fingerprint", who.company_id, job.id, version),
            lambda: fingerprint(document, self.shown(who, job.id, version, result).whole),
        )

    def answer(
        self, who: Who, applied: Applied, *, holds: int | None = None, **more: object
    ) -> tuple[dict[str, Any], Design, Effect | None]:
        """The body of the answer to an edit or a reading, with anything `more` that its route promises; Design and effect.

        `holds`: the version whose answer the browser holds whole.
        """
        result = self.design(who, applied.job, applied.version)
        did = self.effect(who, applied, result)
        changed = moved.since(applied.summary, result)
        body = {
            "version": applied.version,
            "person": DEMO_PERSON,
            "sample": who == DEMO,
            "replayed": applied.replayed,
            **self.onward(who, applied, result, holds),
            "effect": did.model_dump() if did else None,
            "undo_label": applied.undo_label,
            "redo_label": applied.redo_label,
            "can_undo": applied.undo_label is not None,
            "can_redo": applied.redo_label is not None,
            "changed_at": datetime.now(UTC).isoformat(),
            "moved": changed.model_dump() if changed else None,
            "put_away": applied.put_away,
            "kept": [],
            **more,
        }
        return body, result, did

    def note(self, who: Who, applied: Applied, result: Design, did: Effect | None) -> None:
        """Summary and effect, written after the answer and only if the job is still at this version."""
        self.log.note(
            who,
            applied.job.id,
            applied.version,
            summary=summary(result),
            effect=did.model_dump() if did else {},
        )


def summary(result: Design) -> dict[str, Any]:
    """The line of the job list."""
    figures = {figure.key: figure.value for figure in result.headline}
    return {
        "engine": ENGINE_VERSION,
        "edition": EDITION,
        "rooms": len(result.rooms),
        "loss_w": result.house.loss_w,
        "flow_c": figures["flow"],
        "flow_lacks": next(figure.lacks for figure in result.headline if figure.key == "flow"),
        "cover": figures["cover"],
        "season": figures["season"],
        "season_burns": bool(result.season.fuel),
        "findings": sum(1 for f in result.findings if f.severity in ("stops", "short")),
        "scheme_label": result.scheme_label,
    }
