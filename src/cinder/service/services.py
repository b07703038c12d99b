"""What the routes work with: log, remembered answers, shelves, orders, lanes; one of each a process."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TypeVar

from sqlalchemy import Engine

from cinder.service.handed import Handed
from cinder.service.lane import Lanes
from cinder.service.remembered import Remembered
from cinder.service.winters import Winters
from cinder.store.attempts import AttemptShelf
from cinder.store.company import CompanyShelf
from cinder.store.issued import FileShelf, IssuedShelf
from cinder.store.log import ChangeLog
from cinder.store.papers import PaperShelf
from cinder.store.photos import PhotoShelf
from cinder.store.plants import PlantShelf
from cinder.store.queue import Orders
from cinder.store.readings import ColumnMaps, ReadingShelf
from cinder.store.record import Applied, Who

T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class Services:
    """Made once by the application, closed when it ends."""

    engine: Engine
    log: ChangeLog
    remembered: Remembered
    company: CompanyShelf
    photos: PhotoShelf
    papers: PaperShelf
    orders: Orders
    lanes: Lanes
    readings: ReadingShelf
    maps: ColumnMaps
    plants: PlantShelf
    attempts: AttemptShelf
    issued: IssuedShelf
    files: FileShelf
    handed: Handed
    winters: Winters

    @classmethod
    def over(cls, engine: Engine, database: str) -> Services:
        """The services of a process over a database."""
        log, company, issued = ChangeLog(engine), CompanyShelf(engine), IssuedShelf(engine)
        remembered = Remembered(log, company)
        handed, shelf = Handed(remembered, issued), ReadingShelf(engine)
        return cls(
            engine,
            log,
            remembered,
            company,
            PhotoShelf(engine),
            PaperShelf(engine),
            Orders(database),
            Lanes(),
            shelf,
            ColumnMaps(engine),
            PlantShelf(engine),
            AttemptShelf(engine),
            issued,
            FileShelf(engine),
            handed,
            Winters(handed, shelf),
        )

    async def slowly(self, who: Who, job_id: str, work: Callable[[Applied], T]) -> T:
        """What `work` gives of the job as it now stands, in the lane of what takes longer than an edit."""
        return await self.lanes.slow.run(lambda: work(self.log.current(who, job_id)))

    def close(self) -> None:
        self.lanes.close()
        self.orders.close()
        self.engine.dispose()
