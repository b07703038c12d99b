"""Emitters: the quick rule, heated floors, the schedule."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import FastAPI, Query
from starlette.responses import Response

from cinder.design.emitters import heated
from cinder.design.emitters.quick_rule import QuickRule, quick_rule
from cinder.design.emitters.result import HeatedPreview
from cinder.design.house.water import mixed
from cinder.exchange.survey.quick_card import write as quick_card_pdf
from cinder.exchange.tables import schedule
from cinder.model.imperial import Told
from cinder.service.services import Services
from cinder.web import bodies
from cinder.web.asking import Asker
from cinder.web.respond import KINDS, attached, json_response

Mean = Annotated[float, Query(gt=0, le=95)]
Warm = Annotated[float, Query(ge=5, le=35)]
Load = Annotated[float, Query(gt=0, le=100_000)]
Tall = Annotated[float, Query(ge=0.2, le=1.0)]


def install(app: FastAPI, on: Services) -> None:
    log, remembered = on.log, on.remembered

    @app.get("/api/quick-rule", responses={200: {"model": QuickRule}})
    def quick(
        who: Asker, mean_c: Mean = 40.0, room_c: Warm = 20.0, load_w: Load = 1000.0, height_m: Tall = 0.6
    ) -> Response:
        """What a panel gives per square metre of face at a mean water temperature, and how long it must be for a load."""
        return json_response(quick_rule(mean_c=mean_c, room_c=room_c, load_w=load_w, height_m=height_m).model_dump())

    @app.get("/api/quick-rule.pdf")
    def quick_card(who: Asker, room_c: Warm = 20.0, feet: bool = False) -> Response:
        """The rule as a card to print."""
        return attached(quick_card_pdf(room_c=room_c, told=Told(feet)), "quick-rule.pdf", "application/pdf")

    @app.post("/api/heated", responses={200: {"model": HeatedPreview}})
    def preview(who: Asker, sent: bodies.HeatedIn) -> Response:
        """A heated floor or wall at its own and other pipe spacings: output, surface, loops. Nothing is written."""
        found = heated.preview(
            sent.heated,
            wall=sent.wall,
            room_c=sent.room_c,
            flow_c=sent.flow_c,
            spread_k=sent.spread_k,
            school=sent.school,
            need_w=sent.need_w,
            fluid=mixed(sent.glycol, sent.glycol_share),
        )
        return json_response(found.model_dump())

    @app.get("/api/jobs/{job_id}/emitters.{form}")
    def emitters(who: Asker, job_id: str, form: Literal["csv", "xlsx"]) -> Response:
        """The emitter schedule of the scheme shown."""
        current = log.current(who, job_id)
        write = schedule.to_csv if form == "csv" else schedule.to_xlsx
        data = write(current.job, remembered.design(who, current.job, current.version))
        return attached(data, f"{job_id}.emitters.{form}", KINDS[form])
