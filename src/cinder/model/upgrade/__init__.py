"""The road from one schema of the job to the next: documents, and changes that were made before it.

A step takes a document, or one operation on it, from version v to v + 1; steps are added and never changed.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from cinder.model.operation import Operation
from cinder.model.upgrade.fields import without_field
from cinder.model.upgrade.glycol import GLYCOL

Document = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Step:
    """From schema `since` to the next. `document` gives the document anew (the one given stays as it is); `operation` the
    operation, or None where what it touched is gone."""

    since: int
    what: str
    document: Callable[[Document], Document]
    operation: Callable[[Operation], Operation | None]


_NO_BACKUP = without_field("schemes", "*", "candidates", "*", "backup_w")
STEPS: tuple[Step, ...] = (
    Step(1, "The backup heater of a candidate, which nothing ever counted, is gone.", _NO_BACKUP.document, _NO_BACKUP.operation),
    Step(2, "Glycol belongs to the water of a scheme, no longer to one of its machines.", GLYCOL.document, GLYCOL.operation),
)  # fmt: skip
"""In order: the first leads from schema 1."""
SCHEMA = 1 + len(STEPS)


def version_of(document: Document) -> int | None:
    """The schema a document says it has; None where it says none that could be one."""
    said = document.get("schema")
    return said if isinstance(said, int) and not isinstance(said, bool) and said >= 1 else None


def upgraded(document: Document) -> Document:
    """The document in today's schema; itself where it has it already, or says no schema the road begins at."""
    version = version_of(document)
    if version is None or version >= SCHEMA:
        return document
    for step in STEPS[version - 1 :]:
        document = step.document(document) | {"schema": step.since + 1}
    return document


def upgraded_operations(operations: list[Operation], since: int) -> list[Operation]:
    """Operations that were made on a document of schema `since`, as they are on today's."""
    for step in STEPS[max(since, 1) - 1 :]:
        moved = [step.operation(one) for one in operations]
        operations = [one for one in moved if one is not None]
    return operations
