"""What belongs to the waterline: the front, ways of a room, who holds it up, floors, lists of products, the schedule."""

from __future__ import annotations

import re
from typing import Annotated, Any, Literal

from fastapi import FastAPI, Query, Request
from starlette.responses import Response

from cinder.design.apart import ways
from cinder.design.emitters import heated
from cinder.design.emitters.quick_rule import QuickRule, quick_rule
from cinder.design.emitters.result import HeatedPreview
from cinder.exchange import schedule
from cinder.exchange.apart import apart
from cinder.exchange.quick_card import write as quick_card_pdf
from cinder.library import CatalogueEntry, catalogue, load
from cinder.library.loader import generic_csv
from cinder.service.lane import Lanes
from cinder.service.remembered import Remembered
from cinder.store.company import CompanyShelf
from cinder.store.log import ChangeLog, Who
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.files import KINDS, attached
from cinder.web.respond import json_response, stamped

Mean = Annotated[float, Query(gt=0, le=95)]
Warm = Annotated[float, Query(ge=5, le=35)]
Load = Annotated[float, Query(gt=0, le=100_000)]
Tall = Annotated[float, Query(ge=0.2, le=1.0)]
KEY_LENGTH = 60


def install_waterline(
    app: FastAPI, log: ChangeLog, remembered: Remembered, company: CompanyShelf, lanes: Lanes
) -> None:
    _front(app, log, remembered, lanes)
    _rule(app)
    _floors(app)
    _lists(app, company, lanes)
    _schedule(app, log, remembered)


def _front(app: FastAPI, log: ChangeLog, remembered: Remembered, lanes: Lanes) -> None:
    @app.get("/api/jobs/{job_id}/front", responses={200: {"model": answers.FrontOut}})
    async def front(who: Asker, job_id: str) -> Response:
        """The cheapest set of changes for every flow temperature, with the season it gives."""

        def work() -> Response:
            current = log.current(who, job_id)
            found = remembered.front(who, current.job, current.version)
            return stamped(current.version, front=found)

        return await lanes.slow.run(work)

    @app.get("/api/jobs/{job_id}/front/rooms/{room_id}", responses={200: {"model": answers.RoomOptionsOut}})
    async def room_options(who: Asker, job_id: str, room_id: str) -> Response:
        """Everything that may be done in a room, each with the water the room would then need."""

        def work() -> Response:
            current = log.current(who, job_id)
            board, _ = remembered.board(who, current.job, current.version)
            return stamped(current.version, room=ways.of_room(board, room_id))

        return await lanes.slow.run(work)

    @app.get("/api/jobs/{job_id}/holding", responses={200: {"model": answers.HoldingOut}})
    async def holding(who: Asker, job_id: str) -> Response:
        """The rooms that hold the water up, and the effect of taking each out."""

        def work() -> Response:
            current = log.current(who, job_id)
            found = remembered.holding(who, current.job, current.version)
            return stamped(current.version, holding=found)

        return await lanes.slow.run(work)

    @app.get("/api/jobs/{job_id}/schemes", responses={200: {"model": answers.SchemesOut}})
    async def schemes(who: Asker, job_id: str) -> Response:
        """Every scheme and the house as found, side by side."""

        def work() -> Response:
            current = log.current(who, job_id)
            found = remembered.schemes(who, current.job, current.version)
            return stamped(current.version, side=found)

        return await lanes.slow.run(work)

    @app.post("/api/jobs/{job_id}/front/change", responses={200: {"model": answers.OperationsOut}})
    async def take_front(who: Asker, job_id: str, sent: answers.FlowIn) -> Response:
        """The one change that takes the cheapest set at a flow temperature into the scheme shown."""

        def work() -> Response:
            current = log.current(who, job_id)
            board, _ = remembered.board(who, current.job, current.version)
            return json_response({"operations": ways.operations_of(board, sent.flow_c)})

        return await lanes.slow.run(work)

    @app.post("/api/jobs/{job_id}/front/way", responses={200: {"model": answers.OperationsOut}})
    async def take_way(who: Asker, job_id: str, sent: answers.WayIn) -> Response:
        """The one change that takes a single way of a room into the scheme shown; the water stays as it is."""

        def work() -> Response:
            current = log.current(who, job_id)
            board, _ = remembered.board(who, current.job, current.version)
            return json_response({"operations": ways.operations_of_way(board, sent.way)})

        return await lanes.slow.run(work)


def _rule(app: FastAPI) -> None:
    @app.get("/api/quick-rule", responses={200: {"model": QuickRule}})
    def quick(
        who: Asker, mean_c: Mean = 40.0, room_c: Warm = 20.0, load_w: Load = 1000.0, height_m: Tall = 0.6
    ) -> Response:
        """What a panel gives per square metre of face at a mean water temperature, and how long it must be for a load."""
        return json_response(quick_rule(mean_c=mean_c, room_c=room_c, load_w=load_w, height_m=height_m).model_dump())

    @app.get("/api/quick-rule.pdf")
    def quick_card(who: Asker, room_c: Warm = 20.0) -> Response:
        """The rule as a card to print."""
        return attached(quick_card_pdf(room_c=room_c), "quick-rule.pdf", "application/pdf")


def _floors(app: FastAPI) -> None:
    @app.post("/api/heated", responses={200: {"model": HeatedPreview}})
    def preview(who: Asker, sent: answers.HeatedIn) -> Response:
        """A heated floor or wall at its own and other pipe spacings: output, surface, loops. Nothing is written."""
        found = heated.preview(
            sent.heated,
            wall=sent.wall,
            room_c=sent.room_c,
            flow_c=sent.flow_c,
            spread_k=sent.spread_k,
            school=sent.school,
            need_w=sent.need_w,
        )
        return json_response(found.model_dump())


def _key(label: str) -> str:
    return (re.sub(r"[^a-z0-9]+", "-", label.lower()).strip("-") or "list")[:KEY_LENGTH]


def _lists(app: FastAPI, company: CompanyShelf, lanes: Lanes) -> None:
    @app.get("/api/catalogues", responses={200: {"model": answers.CataloguesOut}})
    def lists(who: Asker) -> Response:
        """The generic sizes and the lists the company brought in."""
        own = company.entries(who, "catalogues").items()
        kept = [
            {"edition": str(edition), "own": True, "list": entry.model_dump(mode="json")} for _, (edition, entry) in own
        ]
        generic = {"edition": "ours", "own": False, "list": load().catalogues["generic"].model_dump(mode="json")}
        return json_response({"lists": [generic, *kept], "columns": list(catalogue.COLUMNS)})

    @app.post("/api/catalogues", responses={200: {"model": answers.CatalogueTaken}})
    async def take_list(who: Asker, request: Request, label: str = "") -> Response:
        """Read a maker's list (the body is the CSV) and keep it for the company, or its new edition."""
        data = await request.body()
        return await lanes.files.run(lambda: _take_list(company, who, data, label.strip()[:200] or "A list"))

    @app.get("/api/catalogue.csv")
    def generic(who: Asker) -> Response:
        """The generic sizes as CSV: the form a list has to have."""
        return attached(generic_csv(), "generic-sizes.csv", KINDS["csv"])


def _take_list(company: CompanyShelf, who: Who, data: bytes, label: str) -> Response:
    key = _key(label)
    made = apart(
        catalogue.read, data, key=key, label=label, source="brought in by the company", types=set(load().emitter_types)
    )
    edition, entry = company.put(who, "catalogues", key, made.model_dump(mode="json"))
    products = entry.products if isinstance(entry, CatalogueEntry) else []
    body: dict[str, Any] = {"id": key, "label": label, "edition": edition, "products": len(products)}
    return json_response(body)


def _schedule(app: FastAPI, log: ChangeLog, remembered: Remembered) -> None:
    @app.get("/api/jobs/{job_id}/emitters.{form}")
    def emitters(who: Asker, job_id: str, form: Literal["csv", "xlsx"]) -> Response:
        """The emitter schedule of the scheme shown."""
        current = log.current(who, job_id)
        write = schedule.to_csv if form == "csv" else schedule.to_xlsx
        data = write(current.job, remembered.design(who, current.job, current.version))
        return attached(data, f"{job_id}.emitters.{form}", KINDS[form])
