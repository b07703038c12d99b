"""The one reader of the library's data files."""

from __future__ import annotations

import re
import tomllib
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from typing import Any, TypeVar

from pydantic import ValidationError

from cinder.errors import CinderError, LibraryError
from cinder.library import catalogue
from cinder.library.entries import (
    CatalogueEntry,
    CautionEntry,
    ClimateEntry,
    ConstructionEntry,
    CoveringEntry,
    DensityEntry,
    EmitterPriceEntry,
    EmitterTypeEntry,
    Entry,
    FireUpEntry,
    GlycolEntry,
    HeatedBuildEntry,
    ItemEntry,
    LabourEntry,
    LayerEntry,
    MachineEntry,
    ManifoldKindEntry,
    MaterialEntry,
    MeasureEntry,
    MovedEntry,
    PipeFamilyEntry,
    PlaceRuleEntry,
    PlantPartEntry,
    PumpEntry,
    QuestionEntry,
    RecordEntry,
    SpreadEntry,
    TablesEntry,
    TappingEntry,
    TradeEntry,
    UpkeepEntry,
    WallSignEntry,
)

EDITION = "2026.3"
FROZEN = {
    "constructions": "construction", "emitter_types": "emitter type", "pipe_families": "pipe family", "machines": "machine",
    "climates": "climate", "tables": "set of tables", "place_rules": "rule of distance",
}  # fmt: skip
"""The kinds of which jobs keep copies, and what one of each is called."""
E = TypeVar("E", bound=Entry)


@dataclass(frozen=True)
class Library:
    """Every table, by kind and id; those from `materials` on are read where they are used, not frozen into jobs."""

    constructions: dict[str, ConstructionEntry]
    emitter_types: dict[str, EmitterTypeEntry]
    pipe_families: dict[str, PipeFamilyEntry]
    machines: dict[str, MachineEntry]
    climates: dict[str, ClimateEntry]
    tables: dict[str, TablesEntry]
    materials: dict[str, MaterialEntry]
    measures: dict[str, MeasureEntry]
    emitter_prices: dict[str, EmitterPriceEntry]
    cautions: dict[str, CautionEntry]
    fire_up: dict[str, FireUpEntry]
    enquiry: dict[str, QuestionEntry]
    densities: dict[str, DensityEntry]
    walk_round: dict[str, ItemEntry]
    signs: dict[str, WallSignEntry]
    spreads: dict[str, SpreadEntry]
    coverings: dict[str, CoveringEntry]
    heated_builds: dict[str, HeatedBuildEntry]
    manifold_parts: dict[str, ManifoldKindEntry]
    catalogues: dict[str, CatalogueEntry]
    place_rules: dict[str, PlaceRuleEntry]
    moved: dict[str, MovedEntry]
    tapping: dict[str, TappingEntry]
    pumps: dict[str, PumpEntry]
    glycols: dict[str, GlycolEntry]
    plant_parts: dict[str, PlantPartEntry]
    labour: dict[str, LabourEntry]
    trades: dict[str, TradeEntry]
    records: dict[str, RecordEntry]
    upkeep: dict[str, UpkeepEntry]


def _read(name: str) -> dict[str, Any]:
    with files("cinder.library").joinpath("data", name).open("rb") as f:
        return tomllib.load(f)


def _entries(kind: type[E], rows: dict[str, Any], name: str) -> dict[str, E]:
    out: dict[str, E] = {}
    for key, row in rows.items():
        try:
            out[key] = kind.model_validate({"id": key, **row}, strict=False)
        except ValidationError as error:
            raise LibraryError(f"{name}, {key}: {error}") from error
    return out


MM = 0.001
LAYER = re.compile(
    r"^(?P<name>[a-z][a-z0-9-]*) (?P<mm>[\d.]+)(?P<air> foil| slight| open)?"
    r"(?: / (?P<bridge>[a-z][a-z0-9-]*) (?P<share>[\d.]+)%)?(?:: (?P<label>.+))?$"
)
FOIL_EMISSIVITY = 0.1


def layer_of(text: str, materials: dict[str, MaterialEntry]) -> LayerEntry:
    """A layer from its short form: `brick 220`, `mineral-wool 90 / softwood 14%`, `gap 50 foil: cavity`.

    Raises `LibraryError` for another form or an unknown material.
    """
    found = LAYER.match(text)
    if found is None:
        raise LibraryError(f"{text!r} is no layer: material, thickness in mm, perhaps a bridge and a label")
    row: dict[str, Any] = {"thickness_m": round(float(found["mm"]) * MM, 6)}
    if found["name"] == "gap":
        air = (found["air"] or " still").strip()
        row |= {"air": "still" if air == "foil" else air, "label": "air layer"}
        row |= {"emissivity": FOIL_EMISSIVITY} if air == "foil" else {}
    else:
        material = materials.get(found["name"])
        if material is None:
            raise LibraryError(f"no material {found['name']!r} in {text!r}")
        row |= {
            "material": material.id,
            "label": material.label,
            "lambda_w_mk": material.lambda_w_mk,
            "mu": material.mu,
        }
    if found["bridge"]:
        bridge = materials.get(found["bridge"])
        if bridge is None:
            raise LibraryError(f"no material {found['bridge']!r} in {text!r}")
        row |= {"bridge_label": bridge.label, "bridge_lambda_w_mk": bridge.lambda_w_mk,
                "bridge_share": round(float(found["share"]) / 100, 6)}  # fmt: skip
    return LayerEntry.model_validate(row | ({"label": found["label"]} if found["label"] else {}))


def _materials() -> dict[str, MaterialEntry]:
    rows = {
        key: {"label": row[0], "lambda_w_mk": row[1], "mu": row[2], "source": row[3]}
        for key, row in _read("materials.toml").items()
    }
    return _entries(MaterialEntry, rows, "materials.toml")


def _constructions(materials: dict[str, MaterialEntry]) -> dict[str, ConstructionEntry]:
    """Constructions name their materials in short; here they become whole layers."""
    rows = _read("constructions.toml")
    for row in rows.values():
        row["layers"] = [layer_of(text, materials) for text in row.get("layers", [])]
        row["source"] = "ISO 10077-1 parts, from memory" if "glazing" in row else "common practice; λ as in materials"
    return _entries(ConstructionEntry, rows, "constructions.toml")


def _coverings() -> dict[str, CoveringEntry]:
    rows = {
        key: {"label": row[0], "r_m2kw": row[1], "limit_c": row[2] or None, "source": row[3]}
        for key, row in _read("coverings.toml").items()
    }
    return _entries(CoveringEntry, rows, "coverings.toml")


def _tapping() -> dict[str, TappingEntry]:
    rows = _read("tapping.toml")
    for row in rows.values():
        row["draws"] = [
            {"minute": int(at[:2]) * 60 + int(at[3:]), "kwh": kwh, "flow_l_min": flow, "counts_from_c": least,
             "reaches_c": peak or None, "what": what}
            for at, kwh, flow, least, peak, what in row["draws"]
        ]  # fmt: skip
    return _entries(TappingEntry, rows, "tapping.toml")


def _plant_parts() -> dict[str, PlantPartEntry]:
    rows = {
        key: {"label": label, "unit": unit, "need": need, "minor": minor, "minor_per_size": size, "why": why}
        for key, (label, unit, need, minor, size, why) in _read("plant_parts.toml").items()
    }
    return _entries(PlantPartEntry, rows, "plant_parts.toml")


def _trades() -> dict[str, TradeEntry]:
    rows = {key: {"label": label, "minor_per_h": minor} for key, (label, minor) in _read("trades.toml").items()}
    return _entries(TradeEntry, rows, "trades.toml")


def generic_csv() -> bytes:
    """The generic sizes as the CSV they are kept in."""
    return files("cinder.library").joinpath("data", "catalogue.csv").read_bytes()


def _generic(types: set[str]) -> CatalogueEntry:
    """Sizes no maker in particular has, read the way a company's list is."""
    try:
        return catalogue.read(
            generic_csv(), key="generic", label="Generic sizes", types=types,
            source="outputs by the table of types, from memory; fan units and prices guesses of ours",
        )  # fmt: skip
    except CinderError as error:
        raise LibraryError(f"catalogue.csv: {error.message}", problems=error.problems) from error


@lru_cache(maxsize=1)
def load() -> Library:
    """The library shipped with this edition; raises `LibraryError` naming file and row when a table is wrong."""
    materials = _materials()
    types = _entries(EmitterTypeEntry, _read("emitter_types.toml"), "emitter_types.toml")
    return Library(
        materials=materials,
        constructions=_constructions(materials),
        measures=_entries(MeasureEntry, _read("measures.toml"), "measures.toml"),
        emitter_prices=_entries(EmitterPriceEntry, _read("emitter_prices.toml"), "emitter_prices.toml"),
        emitter_types=types,
        pipe_families=_entries(PipeFamilyEntry, _read("pipe_families.toml"), "pipe_families.toml"),
        machines=_entries(MachineEntry, _read("machines.toml"), "machines.toml"),
        climates=_entries(ClimateEntry, _read("climates.toml"), "climates.toml"),
        tables=_entries(TablesEntry, _read("tables.toml"), "tables.toml"),
        cautions=_entries(CautionEntry, _read("cautions.toml"), "cautions.toml"),
        fire_up=_entries(FireUpEntry, _read("fire_up.toml"), "fire_up.toml"),
        enquiry=_entries(QuestionEntry, _read("enquiry.toml"), "enquiry.toml"),
        densities=_entries(DensityEntry, _read("densities.toml"), "densities.toml"),
        walk_round=_entries(ItemEntry, _read("walk_round.toml"), "walk_round.toml"),
        signs=_entries(WallSignEntry, _read("signs.toml"), "signs.toml"),
        spreads=_entries(SpreadEntry, _read("spreads.toml"), "spreads.toml"),
        coverings=_coverings(),
        heated_builds=_entries(HeatedBuildEntry, _read("heated_builds.toml"), "heated_builds.toml"),
        manifold_parts=_entries(ManifoldKindEntry, _read("manifold_parts.toml"), "manifold_parts.toml"),
        catalogues={"generic": _generic(set(types))},
        place_rules=_entries(PlaceRuleEntry, _read("place_rules.toml"), "place_rules.toml"),
        moved=_entries(MovedEntry, _read("moved.toml"), "moved.toml"),
        tapping=_tapping(),
        pumps=_entries(PumpEntry, _read("pumps.toml"), "pumps.toml"),
        glycols=_entries(GlycolEntry, _read("glycols.toml"), "glycols.toml"),
        plant_parts=_plant_parts(),
        labour=_entries(LabourEntry, _read("labour.toml"), "labour.toml"),
        trades=_trades(),
        records=_entries(RecordEntry, _read("records.toml"), "records.toml"),
        upkeep=_entries(UpkeepEntry, _read("upkeep.toml"), "upkeep.toml"),
    )
