"""A company's rules of distance about a unit, as CSV or XLSX: general ones to edit, its own beside them.

Columns: id (small letters, digits, dashes), name, measured (behind, front, side, opening, window, boundary, tree, patio,
underside), least_m, why, source, flammable_only (yes, no). A row with the id of a general rule stands in its place.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

from pydantic import ValidationError

from cinder.errors import BadCatalogue, Problem
from cinder.exchange.survey.sheet import guard, unguard
from cinder.exchange.tables.table import cells
from cinder.library import PlaceRuleEntry
from cinder.library.plainly import problems_of

COLUMNS = ("id", "name", "measured", "least_m", "why", "source", "flammable_only")
NEEDED = ("id", "name", "measured", "least_m")
FIELDS = {"name": "label", "measured": "of"}
NAMES = {field: column for column, field in FIELDS.items()}
SHOWN = 40
PAGE = "Rules"
KEPT = "No rule of it was taken; what was there before stands."


def to_csv(rules: Iterable[PlaceRuleEntry]) -> bytes:
    """The rules as a file to edit and bring back."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for one in rules:
        row = (
            one.id,
            one.label,
            one.of,
            f"{one.least_m:g}",
            one.why,
            one.source,
            "yes" if one.flammable_only else "no",
        )
        writer.writerow([guard(cell) for cell in row])
    return out.getvalue().encode()


def read(data: bytes) -> list[PlaceRuleEntry]:
    """The rules of a file.

    Raises `BadCatalogue` naming every row and column that is wrong; nothing is half taken.
    """
    table = cells(data, wide=len(COLUMNS) + 5, page=PAGE)
    head = [cell.strip().lower() for cell in table[0]] if table else []
    lacking = [name for name in NEEDED if name not in head]
    if lacking:
        raise BadCatalogue(
            f"The first line must name the columns; missing: {', '.join(lacking)}.", kept=KEPT,
            problems=(Problem("row 1", f"the columns are {', '.join(COLUMNS)}"),),
        )  # fmt: skip
    found: dict[str, PlaceRuleEntry] = {}
    wrong: list[Problem] = []
    for number, line in enumerate(table[1:], start=2):
        row = {name: unguard(cell.strip()) for name, cell in zip(head, line, strict=False) if name in COLUMNS}
        if not any(row.values()):
            continue
        made = _rule(row, number, wrong)
        if made is not None and made.id in found:
            wrong.append(Problem(f"row {number}, id", f"{made.id} stands there twice", made.id))
        elif made is not None:
            found[made.id] = made
    if not wrong and not found:
        wrong.append(Problem("row 2", "there is no rule in it"))
    if wrong:
        raise BadCatalogue(
            f"{len(wrong)} {'place' if len(wrong) == 1 else 'places'} of the rules cannot be read.", kept=KEPT,
            problems=tuple(wrong[:SHOWN]),
        )  # fmt: skip
    return list(found.values())


def _rule(row: dict[str, str], number: int, wrong: list[Problem]) -> PlaceRuleEntry | None:
    told: float | str = row.get("least_m", "").replace(",", ".")
    try:
        told = float(told)
    except ValueError:
        wrong.append(Problem(f"row {number}, least_m", "must be a length in metres", row.get("least_m")))
        return None
    flammable = row.get("flammable_only", "").lower()
    if flammable not in ("", "yes", "no"):
        wrong.append(Problem(f"row {number}, flammable_only", "must be yes or no", flammable))
        return None
    data = {
        "id": row.get("id", ""), "label": row.get("name", ""), "of": row.get("measured", "").lower(), "least_m": told,
        "why": row.get("why") or "As the company keeps it.", "source": row.get("source") or "the company",
        "flammable_only": flammable == "yes",
    }  # fmt: skip
    try:
        return PlaceRuleEntry.model_validate(data, strict=False)
    except ValidationError as error:
        for problem in problems_of(error, SHOWN):
            field = problem.path.strip("/")
            wrong.append(Problem(f"row {number}, {NAMES.get(field, field)}", problem.message, problem.value))
        return None
