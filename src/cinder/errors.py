"""Every error of our own, in one tree.

    CinderError                    code, message, problems[{path, message, value, where}], kept
    ├── PhysicsError               impossible input to a law              422  physics
    ├── LibraryError               a table of ours is wrong               500  library
    ├── ClusterError               PostgreSQL cannot be made or started   500  cluster
    ├── BackupRefused              a backup cannot be written or taken    500  backup
    ├── NoDatabase                 no database address was given          503  no_database
    ├── Busy                       too much asked at once: come again     503  busy
    │   └── LeftAlone              nobody waits for it: given up          503  left_alone
    ├── Refused                    the request cannot be taken
    │   ├── MalformedJson          not JSON as we read it                 400  malformed_json
    │   ├── InvalidJob             the document breaks the model          422  invalid_job
    │   ├── InvalidChange          the change breaks its own rules        422  invalid_change
    │   ├── NotAJob                a file that is no job                  422  not_a_job
    │   ├── BadWeather             a weather file that cannot be read     422  bad_weather
    │   ├── BadCatalogue           a list of products, row by row         422  bad_catalogue
    │   ├── BadTariff              prices by the hour, line by line       422  bad_tariff
    │   ├── BadReadings            readings of a plant, line by line      422  bad_readings
    │   ├── NewerSchema            written by a later Mellow Cinder       422  newer_schema
    │   ├── UnsupportedMedia       a write that is not declared as JSON   415  json_only
    │   ├── TooLarge               over a size limit                      413  too_large
    │   ├── NotFound               nothing of that name                   404  not_found
    │   ├── Forbidden              not from this page                     403  forbidden
    │   └── Conflict               somebody was here before               409  conflict
    │       ├── StaleVersion       both touched the same place            409  stale_version
    │       ├── FutureVersion      made on a version not yet written      409  future_version
    │       ├── ChangeIdReused     same id, other body                    409  change_id_reused
    │       └── NothingToUndo      the log has nothing of yours           409  nothing_to_undo

`http_status` is read by `web`, `exit_code` by `cli`; nowhere else are codes mapped.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True, slots=True)
class Problem:
    """One thing wrong, at one place of the document: a JSON pointer, and `where` in the words of the house if it has them."""

    path: str
    message: str
    value: Any = None
    where: str = ""

    def line(self) -> str:
        return f"{self.path or '/'}: {self.message}" + (f" ({self.where})" if self.where else "")


class CinderError(Exception):
    code = "cinder"
    http_status = 500
    exit_code = 2

    def __init__(
        self,
        message: str,
        *,
        problems: tuple[Problem, ...] = (),
        kept: str = "Nothing was changed.",
        detail: dict[str, Any] | None = None,
    ) -> None:
        super().__init__(message)
        self.message = message
        self.problems = problems
        self.kept = kept
        self.detail = detail or {}


class PhysicsError(CinderError):
    code = "physics"
    http_status = 422

    def __init__(self, quantity: str, value: Any, why: str) -> None:
        super().__init__(f"{quantity} = {value}: {why}", problems=(Problem(quantity, why, value),))


class LibraryError(CinderError):
    code = "library"


class ClusterError(CinderError):
    code = "cluster"


class BackupRefused(CinderError):
    code = "backup"


class NoDatabase(CinderError):
    code = "no_database"
    http_status = 503


class Busy(CinderError):
    code = "busy"
    http_status = 503


class LeftAlone(Busy):
    """Whoever asked has gone, and another question waits: the work is given up, nothing of it is remembered."""

    code = "left_alone"


class Refused(CinderError):
    code = "refused"
    http_status = 400


class MalformedJson(Refused):
    code = "malformed_json"


class InvalidJob(Refused):
    code = "invalid_job"
    http_status = 422


class InvalidChange(Refused):
    code = "invalid_change"
    http_status = 422


class NotAJob(Refused):
    code = "not_a_job"
    http_status = 422


class BadWeather(Refused):
    code = "bad_weather"
    http_status = 422


class BadCatalogue(Refused):
    code = "bad_catalogue"
    http_status = 422


class BadTariff(Refused):
    code = "bad_tariff"
    http_status = 422


class BadReadings(Refused):
    code = "bad_readings"
    http_status = 422


class NewerSchema(Refused):
    code = "newer_schema"
    http_status = 422


class UnsupportedMedia(Refused):
    code = "json_only"
    http_status = 415


class TooLarge(Refused):
    code = "too_large"
    http_status = 413


class NotFound(Refused):
    code = "not_found"
    http_status = 404


class Forbidden(Refused):
    code = "forbidden"
    http_status = 403


class Conflict(Refused):
    code = "conflict"
    http_status = 409


class StaleVersion(Conflict):
    code = "stale_version"


class FutureVersion(Conflict):
    code = "future_version"


class ChangeIdReused(Conflict):
    code = "change_id_reused"


class NothingToUndo(Conflict):
    code = "nothing_to_undo"
