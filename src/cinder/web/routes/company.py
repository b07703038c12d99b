"""What the company keeps for itself."""

from __future__ import annotations

from typing import Any

from fastapi import FastAPI
from starlette.responses import Response

from cinder.design.fabric.section import section
from cinder.library import ConstructionEntry, Entry, entry_sha256
from cinder.service.services import Services
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.respond import json_response


def install(app: FastAPI, on: Services) -> None:
    company = on.company

    @app.get("/api/company/{kind}", responses={200: {"model": answers.CompanyEntries}})
    def entries(who: Asker, kind: str) -> Response:
        """The company's own constructions, climates or prices of measures."""
        return json_response(
            {"entries": [company_line(key, *kept) for key, kept in company.entries(who, kind).items()]}
        )

    @app.put("/api/company/{kind}/{key}", responses={200: {"model": answers.CompanyEntry}})
    def put_entry(who: Asker, kind: str, key: str, sent: dict[str, Any]) -> Response:
        """Keep an entry, or a new edition of it. Jobs that took an older one keep theirs."""
        edition, entry = company.put(who, kind, key, sent)
        return json_response(company_line(key, edition, entry))

    @app.delete("/api/company/{kind}/{key}", status_code=204)
    def drop_entry(who: Asker, kind: str, key: str) -> None:
        """Forget an entry. Jobs that use it hold a copy of their own."""
        company.drop(who, kind, key)


def company_line(key: str, edition: int, entry: Entry) -> dict[str, Any]:
    u_value = None
    if isinstance(entry, ConstructionEntry):
        u_value = section(entry, inside_c=20.0, outside_c=0.0).u_w_m2k
    return {
        "id": key, "edition": edition, "sha256": entry_sha256(entry), "u_w_m2k": u_value,
        "entry": entry.model_dump(mode="json"),
    }  # fmt: skip
