"""What a company keeps for itself: its own entries beside the library, and bulky things by fingerprint."""

from __future__ import annotations

from typing import Any, TypeVar

from pydantic import ValidationError
from sqlalchemy import Engine, delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, sessionmaker

from cinder.errors import InvalidChange, NotFound, Problem
from cinder.library import (
    CatalogueEntry,
    ClimateEntry,
    ConstructionEntry,
    EmitterPriceEntry,
    Entry,
    GrantEntry,
    HourlyYear,
    LabourEntry,
    MachineEntry,
    MeasureEntry,
    PlaceRuleEntry,
    PlantPartEntry,
    TradeEntry,
    load,
    shipped_year,
)
from cinder.library.plainly import problems_of
from cinder.library.years import read
from cinder.store.database import within
from cinder.store.record import Who
from cinder.store.tables import BlobRow, CompanyEntryRow

KINDS: dict[str, type[Entry]] = {
    "constructions": ConstructionEntry, "climates": ClimateEntry, "measures": MeasureEntry, "emitter_prices": EmitterPriceEntry,
    "catalogues": CatalogueEntry, "machines": MachineEntry,
    "place_rules": PlaceRuleEntry, "grants": GrantEntry, "plant_parts": PlantPartEntry,
    "labour": LabourEntry, "trades": TradeEntry,
}  # fmt: skip
PRICED = ("measures", "emitter_prices", "place_rules", "plant_parts", "labour", "trades")
"""Tables whose own rows stand in place of the shipped ones."""
SHOWN = 12
YEAR = "text/csv; header=present"

E = TypeVar("E", bound=Entry)


def entry_of(kind: str, data: dict[str, Any]) -> Entry:
    """An entry from what a client sent.

    Raises `NotFound` for a kind no company keeps, `InvalidChange` with one problem per place otherwise.
    """
    model = KINDS.get(kind)
    if model is None:
        raise NotFound(f"A company keeps no {kind!r}: only {', '.join(KINDS)}.")
    try:
        return model.model_validate(data, strict=False)
    except ValidationError as error:
        raise InvalidChange("This entry cannot be kept as it is.", problems=problems_of(error, SHOWN)) from None


class CompanyShelf:
    """Entries and blobs of companies in one database."""

    def __init__(self, engine: Engine) -> None:
        self.session = sessionmaker(engine, expire_on_commit=False)

    def entries(self, who: Who, kind: str) -> dict[str, tuple[int, Entry]]:
        """Everything of a kind the company keeps, with its edition, by id."""
        model = KINDS.get(kind)
        if model is None:
            raise NotFound(f"A company keeps no {kind!r}: only {', '.join(KINDS)}.")
        with self.session() as session:
            wanted = select(CompanyEntryRow).where(
                CompanyEntryRow.company_id == who.company_id, CompanyEntryRow.kind == kind
            )
            rows = session.scalars(wanted.order_by(CompanyEntryRow.id)).all()
        return {row.id: (row.edition, model.model_validate(row.data, strict=False)) for row in rows}

    def put(self, who: Who, kind: str, key: str, data: dict[str, Any]) -> tuple[int, Entry]:
        """Keep an entry, or a new edition of it; jobs that took an older one keep theirs."""
        entry = entry_of(kind, {**data, "id": key})
        if kind not in PRICED and key in getattr(load(), kind, ()):
            raise InvalidChange(
                f"{key!r} is the library's own name.", problems=(Problem("/id", "belongs to the library", key),)
            )
        with self.session.begin() as session:
            place = (who.company_id, kind, key)
            row = session.get(CompanyEntryRow, place, with_for_update=True)
            if row is None:
                edition = 1
                session.add(
                    CompanyEntryRow(
                        company_id=who.company_id, kind=kind, id=key, person_id=who.person_id, edition=edition,
                        data=entry.model_dump(mode="json"),
                    )
                )  # fmt: skip
            else:
                row.edition += 1
                edition = row.edition
                row.data = entry.model_dump(mode="json")
                row.person_id = who.person_id
        return edition, entry

    def drop(self, who: Who, kind: str, key: str) -> None:
        """Forget an entry. Jobs that use it hold a copy of their own and are not touched."""
        with self.session.begin() as session:
            gone = session.execute(
                delete(CompanyEntryRow)
                .where(
                    CompanyEntryRow.company_id == who.company_id,
                    CompanyEntryRow.kind == kind,
                    CompanyEntryRow.id == key,
                )
                .returning(CompanyEntryRow.id)
            ).scalar_one_or_none()
        if gone is None:
            raise NotFound("The company keeps no such entry.")

    def _over(self, who: Who, kind: str, model: type[E], shipped: dict[str, E], *, more: bool = False) -> dict[str, E]:
        """A shipped table with the company's own rows in place of its own; `more`: rows of other names stand beside them."""
        own = {key: entry for key, (_, entry) in self.entries(who, kind).items() if isinstance(entry, model)}
        return {**shipped, **{key: entry for key, entry in own.items() if more or key in shipped}}

    def measures(self, who: Who, shipped: dict[str, MeasureEntry]) -> dict[str, MeasureEntry]:
        """The measures table with the company's own rows in place of the shipped ones, and beside them."""
        return self._over(who, "measures", MeasureEntry, shipped, more=True)

    def emitter_prices(self, who: Who, shipped: dict[str, EmitterPriceEntry]) -> dict[str, EmitterPriceEntry]:
        """What panels cost the company."""
        return self._over(who, "emitter_prices", EmitterPriceEntry, shipped)

    def plant_parts(self, who: Who, shipped: dict[str, PlantPartEntry]) -> dict[str, PlantPartEntry]:
        """What the parts of a plant cost the company."""
        return self._over(who, "plant_parts", PlantPartEntry, shipped)

    def labour(self, who: Who, shipped: dict[str, LabourEntry]) -> dict[str, LabourEntry]:
        """How long tasks take the company."""
        return self._over(who, "labour", LabourEntry, shipped)

    def trades(self, who: Who, shipped: dict[str, TradeEntry]) -> dict[str, TradeEntry]:
        """What an hour costs the company."""
        return self._over(who, "trades", TradeEntry, shipped)

    def catalogues(self, who: Who) -> tuple[CatalogueEntry, ...]:
        """The lists of products a company brought in."""
        return tuple(
            entry for _, entry in self.entries(who, "catalogues").values() if isinstance(entry, CatalogueEntry)
        )

    def keep_blob(self, who: Who, sha256: str, data: bytes, media: str, *, session: Session | None = None) -> None:
        """Keep something bulky under its fingerprint. Within a session it stands or falls with it."""
        row = {"company_id": who.company_id, "sha256": sha256, "media": media, "data": data}
        with within(self.session, session) as kept:
            kept.execute(insert(BlobRow).values(row).on_conflict_do_nothing())

    def blob(self, who: Who, sha256: str) -> bytes | None:
        with self.session() as session:
            found = session.get(BlobRow, (who.company_id, sha256))
        return bytes(found.data) if found is not None else None

    def year(self, who: Who, sha256: str | None) -> HourlyYear | None:
        """The hourly year under a fingerprint: shipped with the library, or kept by the company; None if neither."""
        if sha256 is None:
            return None
        shipped = shipped_year(sha256)
        if shipped is not None:
            return shipped
        data = self.blob(who, sha256)
        return read(data) if data is not None else None
