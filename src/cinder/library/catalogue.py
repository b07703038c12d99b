"""Lists of products as CSV: ours of generic sizes, and what a company brings in from a maker.

One row a product; a fan unit has one row a speed, all with the same id, the quietest first. Columns, in any order:

    id            needed   at most 64 characters, the same on every row of a fan unit
    kind          needed   panel, fan, skirting, loop
    name          needed   what it is called
    type                   the emitter type it is like (t11, t22 ...): depth, pipe centres, water and weight if not given
    length_mm, height_mm, depth_mm
    output_w, at_k         output at an excess; at_k 50 unless said (75/65/20)
    exponent               0.8 to 2; 1.3 unless said, 1.05 for fan units
    water_l, weight_kg
    price                  material, in whole units of the company's currency
    speed, electric_w, sound_db       fan units, per speed
    k_w_m2k, spacing_mm, covering_r   loops: the maker's characteristic at a pipe spacing and covering
"""

from __future__ import annotations

import csv
import io
from typing import Any

from pydantic import ValidationError

from cinder.errors import BadCatalogue, Problem, TooLarge
from cinder.library.entries import CatalogueEntry, ProductEntry, SpeedEntry

COLUMNS = (
    "id", "kind", "name", "type", "length_mm", "height_mm", "depth_mm", "output_w", "at_k", "exponent", "water_l",
    "weight_kg", "price", "speed", "electric_w", "sound_db", "k_w_m2k", "spacing_mm", "covering_r",
)  # fmt: skip
NEEDED = ("id", "kind", "name")
KINDS = ("panel", "fan", "skirting", "loop")
MOST_BYTES = 2 * 1024 * 1024
MOST_ROWS = 4000
SHOWN = 40
MM = 0.001
Row = dict[str, str]


def read(data: bytes, *, key: str, label: str, source: str, types: set[str]) -> CatalogueEntry:
    """A list from CSV (UTF-8; comma, semicolon or tab; decimals with point or comma).

    Raises `TooLarge`, or `BadCatalogue` with one problem a row and column: a list is taken whole or not at all.
    """
    if len(data) > MOST_BYTES:
        raise TooLarge(f"The list has {len(data):,} bytes; at most {MOST_BYTES:,} are taken.")
    rows = _rows(data)
    problems: list[Problem] = []
    made: dict[str, dict[str, Any]] = {}
    for n, row in rows:
        product = _product(n, row, types, problems)
        if product is None:
            continue
        known = made.get(product["id"])
        if known is None:
            made[product["id"]] = product | {"row": n}
        elif product["kind"] == "fan" and known["kind"] == "fan":
            known["speeds"] += product["speeds"]
        else:
            problems.append(Problem(f"row {n}, id", f"{product['id']!r} stands in row {known['row']} already"))
    products = [built for one in made.values() if (built := _built(one, problems)) is not None]
    if problems:
        raise BadCatalogue(
            f"{len(problems)} {'place' if len(problems) == 1 else 'places'} of the list cannot be read.",
            problems=tuple(problems[:SHOWN]), kept="No product of it was taken; an earlier edition stands.",
        )  # fmt: skip
    if not products:
        raise BadCatalogue("The list holds no product.", kept="An earlier edition stands.")
    return CatalogueEntry(id=key, label=label, source=source, products=products)


def _rows(data: bytes) -> list[tuple[int, Row]]:
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise BadCatalogue(f"Not UTF-8 text: byte {error.start}. Save it as CSV UTF-8.") from None
    head = text.split("\n", 1)[0]
    delimiter = ";" if head.count(";") > head.count(",") else "\t" if "\t" in head else ","
    try:
        lines = list(csv.reader(io.StringIO(text.replace("\x00", "")), delimiter=delimiter))
    except csv.Error as error:
        raise BadCatalogue(f"Not CSV: {error}.") from None
    names = [name.strip().lower() for name in lines[0]] if lines else []
    problems = [Problem("row 1", f"the column {name} is missing") for name in NEEDED if name not in names]
    problems += [
        Problem("row 1", f"column {name!r} is not one of ours") for name in names if name and name not in COLUMNS
    ]
    if problems:
        raise BadCatalogue(
            "The first row names the columns: " + ", ".join(COLUMNS) + ".", problems=tuple(problems[:SHOWN])
        )
    if len(lines) > MOST_ROWS + 1:
        raise TooLarge(f"The list has {len(lines) - 1:,} rows; at most {MOST_ROWS:,} are taken.")
    found = [(n, dict(zip(names, (c.strip() for c in line), strict=False))) for n, line in enumerate(lines[1:], 2)]
    return [(n, row) for n, row in found if any(row.values())]


def _number(n: int, row: Row, name: str, problems: list[Problem], *, scale: float = 1.0) -> float | None:
    text = row.get(name, "")
    if not text:
        return None
    try:
        value = float(text.replace(",", ".") if text.count(",") == 1 and "." not in text else text)
    except ValueError:
        problems.append(Problem(f"row {n}, {name}", "is no number", text))
        return None
    if not abs(value) < 1e9:
        problems.append(Problem(f"row {n}, {name}", "is no number of this world", text))
        return None
    if value < 0 or (
        value == 0 and name in ("output_w", "length_mm", "height_mm", "exponent", "k_w_m2k", "spacing_mm")
    ):
        problems.append(Problem(f"row {n}, {name}", "must be more than 0", text))
        return None
    return round(value * scale, 6)


def _product(n: int, row: Row, types: set[str], problems: list[Problem]) -> dict[str, Any] | None:
    kind = row.get("kind", "").lower()
    if kind not in KINDS:
        problems.append(Problem(f"row {n}, kind", f"is one of {', '.join(KINDS)}", row.get("kind", "")))
        return None
    for name in ("id", "name"):
        if not row.get(name):
            problems.append(Problem(f"row {n}, {name}", "is needed"))
            return None
    like = row.get("type", "").lower() or None
    if like is not None and like not in types:
        problems.append(Problem(f"row {n}, type", f"is none of {', '.join(sorted(types))}", row["type"]))
    number = {name: _number(n, row, name, problems) for name in ("output_w", "at_k", "exponent", "water_l",
              "weight_kg", "price", "electric_w", "sound_db", "k_w_m2k", "covering_r")}  # fmt: skip
    metre = {
        name: _number(n, row, f"{name}_mm", problems, scale=MM) for name in ("length", "height", "depth", "spacing")
    }
    if kind != "loop" and number["output_w"] is None and not any(p.path == f"row {n}, output_w" for p in problems):
        problems.append(Problem(f"row {n}, output_w", f"a {kind} needs its output"))
    if kind == "loop" and number["k_w_m2k"] is None:
        problems.append(Problem(f"row {n}, k_w_m2k", "a loop needs its characteristic, W per m2 and kelvin"))
    out: dict[str, Any] = {
        "row": n, "id": row["id"], "kind": kind, "label": row["name"], "type": like if like in types else None,
        "length_m": metre["length"], "height_m": metre["height"], "depth_m": metre["depth"], "output_w": number["output_w"],
        "exponent": number["exponent"], "water_l": number["water_l"], "weight_kg": number["weight_kg"],
        "price_minor": round(number["price"] * 100) if number["price"] is not None else None,
        "k_w_m2k": number["k_w_m2k"], "spacing_m": metre["spacing"], "covering_r_m2kw": number["covering_r"], "speeds": [],
    }  # fmt: skip
    if number["at_k"] is not None:
        out["at_k"] = number["at_k"]
    if kind == "fan" and number["output_w"] is not None:
        speed = {"label": row.get("speed", ""), "output_w": number["output_w"], "electric_w": number["electric_w"] or 0.0,
                 "sound_db": number["sound_db"]}  # fmt: skip
        try:
            out["speeds"] = [SpeedEntry.model_validate(speed, strict=False)]
        except ValidationError as error:
            _tell(error, n, problems)
    return out


def _built(one: dict[str, Any], problems: list[Problem]) -> ProductEntry | None:
    row = one.pop("row")
    try:
        return ProductEntry.model_validate(one, strict=False)
    except ValidationError as error:
        _tell(error, row, problems)
        return None


def _tell(error: ValidationError, row: int, problems: list[Problem]) -> None:
    for found in error.errors():
        name = str(found["loc"][0]) if found["loc"] else ""
        column = {"at_k": "at_k", "exponent": "exponent", "label": "name"}.get(name, name.replace("_m", "_mm"))
        problems.append(Problem(f"row {row}, {column}", found["msg"].lower(), found["input"]))
