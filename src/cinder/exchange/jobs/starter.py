"""A new job with the library entries it starts from."""

from __future__ import annotations

from typing import Any

from cinder.errors import InvalidJob, Problem
from cinder.library import Library
from cinder.model import empty_job, freeze


def start_job(*, job_id: str, title: str, age: str | None, climate: str | None, library: Library) -> dict[str, Any]:
    """An empty job; with an age its usual constructions, with a climate its design temperature.

    Raises `InvalidJob` for an age or climate the library does not have.
    """
    job = empty_job(job_id=job_id, title=title, library=library)
    if age is not None:
        ages = library.tables["standard"].ages
        if age not in ages:
            raise InvalidJob(f"There is no age {age!r}.", problems=(Problem("/age", "not in the tables", age),))
        part = job["survey"]["parts"]["main"]
        part["age"] = age
        part["constructions"] = dict(ages[age].constructions)
        job["library"]["constructions"] = {
            key: freeze(library.constructions[key]) for key in ages[age].constructions.values()
        }
    if climate is not None:
        if climate not in library.climates:
            raise InvalidJob(f"There is no climate {climate!r}.", problems=(Problem("/climate", "unknown", climate),))
        job["library"]["climates"] = {climate: freeze(library.climates[climate])}
        job["climate"] = {"entry": climate}
    return job
