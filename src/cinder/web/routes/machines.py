"""The company's own machines: brought in from a sheet, the form to fill, and a map looked at while it is typed."""

from __future__ import annotations

from fastapi import FastAPI, Request
from starlette.responses import Response

from cinder.design.machine.look import look
from cinder.errors import Refused
from cinder.exchange.apart import apart
from cinder.exchange.tables import machine_list, rule_list
from cinder.library import MachineEntry, PlaceRuleEntry, load
from cinder.service.services import Services
from cinder.store.company import CompanyShelf
from cinder.store.record import Who
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.respond import KINDS, attached, json_response


def install(app: FastAPI, on: Services) -> None:
    company, lanes = on.company, on.lanes

    @app.post("/api/machines", responses={200: {"model": answers.MachinesTaken}})
    async def take(who: Asker, request: Request) -> Response:
        """Read machines from a sheet (the body is CSV or XLSX) and keep them for the company, or new editions of them."""
        data = await request.body()
        return await lanes.files.run(lambda: _take(company, who, data))

    @app.get("/api/machines.csv")
    def as_csv(who: Asker) -> Response:
        """The form: the columns, with two machines of the library to show how they are filled."""
        return attached(machine_list.to_csv(_shown(company, who)), "machines.csv", KINDS["csv"])

    @app.get("/api/machines.xlsx")
    def as_xlsx(who: Asker) -> Response:
        """The same as a workbook, the columns explained on a page of their own."""
        return attached(machine_list.to_xlsx(_shown(company, who)), "machines.xlsx", KINDS["xlsx"])

    @app.post("/api/machines/look", responses={200: {"model": answers.MachineLook}})
    async def looked(who: Asker, request: Request) -> Response:
        """A machine that is being typed, as rows of the sheet (CSV): how it would be kept, its map; nothing is kept."""
        body = await request.body()
        if body[:2] == b"PK":
            raise Refused("Rows as text are looked at here; a workbook is brought in as a file.")
        entry = machine_list.read(body, source="typed by the company")[0]
        return json_response({"look": look(entry).model_dump(), "machine": entry.model_dump(mode="json")})

    @app.post("/api/place-rules", responses={200: {"model": answers.RulesTaken}})
    async def take_rules(who: Asker, request: Request) -> Response:
        """Read rules of distance from a file (CSV or XLSX) and keep them for the company."""
        data = await request.body()
        return await lanes.files.run(lambda: _take_rules(company, who, data))

    @app.get("/api/place-rules.csv")
    def rules_as_csv(who: Asker) -> Response:
        """The rules of distance as they stand for the company: a file to edit and bring back."""
        return attached(rule_list.to_csv(_rules(company, who)), "place-rules.csv", KINDS["csv"])


def _shown(company: CompanyShelf, who: Who) -> list[MachineEntry]:
    """The company's own, else two of the library as an example."""
    own = [entry for _, entry in company.entries(who, "machines").values() if isinstance(entry, MachineEntry)]
    return own or list(load().machines.values())[:2]


def _take(company: CompanyShelf, who: Who, data: bytes) -> Response:
    made = apart(machine_list.read, data, source="brought in by the company")
    ours = [entry.id for entry in made if entry.id in load().machines]
    if ours:
        raise Refused(
            f"{', '.join(ours)}: the library's own name. Give your machine another id.", kept=machine_list.KEPT
        )
    kept = []
    for entry in made:
        edition, _ = company.put(who, "machines", entry.id, entry.model_dump(mode="json"))
        kept.append(
            {
                "id": entry.id,
                "label": entry.label,
                "edition": edition,
                "worked_out": len(entry.worked_out),
                "lacks": look(entry).lacks,
            }
        )
    return json_response({"machines": kept})


def _rules(company: CompanyShelf, who: Who) -> list[PlaceRuleEntry]:
    """The general distances with the company's own beside or in their place."""
    own = {k: e for k, (_, e) in company.entries(who, "place_rules").items() if isinstance(e, PlaceRuleEntry)}
    return list({**load().place_rules, **own}.values())


def _take_rules(company: CompanyShelf, who: Who, data: bytes) -> Response:
    """Only what differs from the general rules is the company's own."""
    shipped, kept = load().place_rules, []
    for entry in apart(rule_list.read, data):
        if shipped.get(entry.id) == entry:
            continue
        edition, _ = company.put(who, "place_rules", entry.id, entry.model_dump(mode="json"))
        kept.append({"id": entry.id, "label": entry.label, "edition": edition})
    return json_response({"rules": kept})
