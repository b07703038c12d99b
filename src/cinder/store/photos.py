"""Photos of a company, each under the fingerprint of the file that was sent."""

from __future__ import annotations

from typing import Any, Literal

from sqlalchemy import Engine, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, sessionmaker

from cinder.errors import NotFound
from cinder.store.database import within
from cinder.store.record import Who
from cinder.store.tables import PhotoRow

Size = Literal["full", "view", "thumb"]


class PhotoShelf:
    """Photos in one database, by (company, sha256)."""

    def __init__(self, engine: Engine) -> None:
        self.session = sessionmaker(engine, expire_on_commit=False)

    def has(self, who: Who, sha256: str) -> bool:
        with self.session() as session:
            wanted = select(PhotoRow.sha256).where(PhotoRow.company_id == who.company_id, PhotoRow.sha256 == sha256)
            return session.scalar(wanted) is not None

    def put(
        self, who: Who, sha256: str, *, width_px: int, height_px: int, full: bytes, view: bytes, thumb: bytes,
        session: Session | None = None,
    ) -> None:  # fmt: skip
        """Keep a picture; sent again, it is there already. Within a session it stands or falls with it."""
        row: dict[str, Any] = {
            "company_id": who.company_id, "sha256": sha256, "person_id": who.person_id, "width_px": width_px,
            "height_px": height_px, "full": full, "view": view, "thumb": thumb,
        }  # fmt: skip
        with within(self.session, session) as kept:
            kept.execute(insert(PhotoRow).values(row).on_conflict_do_nothing())

    def get(self, who: Who, sha256: str, size: Size) -> bytes:
        """The JPEG at a size; raises `NotFound` when this company has no such picture."""
        column = {"full": PhotoRow.full, "view": PhotoRow.view, "thumb": PhotoRow.thumb}[size]
        with self.session() as session:
            wanted = select(column).where(PhotoRow.company_id == who.company_id, PhotoRow.sha256 == sha256)
            data = session.scalar(wanted)
        if data is None:
            raise NotFound("There is no such picture.")
        return bytes(data)
