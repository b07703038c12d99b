"""The one reader of the library's data files."""

from __future__ import annotations

import hashlib
import tomllib
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from typing import Any, TypeVar

import orjson
from pydantic import ValidationError

from cinder.errors import LibraryError
from cinder.library.entries import (
    CautionEntry,
    ClimateEntry,
    ConstructionEntry,
    DensityEntry,
    EmitterTypeEntry,
    Entry,
    ItemEntry,
    MachineEntry,
    PipeFamilyEntry,
    QuestionEntry,
    SpreadEntry,
    TablesEntry,
    WallSignEntry,
)

EDITION = "2026.1"
E = TypeVar("E", bound=Entry)


@dataclass(frozen=True)
class Library:
    """Every table, by kind and id; those from `cautions` on are read where they are used, not frozen into jobs."""

    constructions: dict[str, ConstructionEntry]
    emitter_types: dict[str, EmitterTypeEntry]
    pipe_families: dict[str, PipeFamilyEntry]
    machines: dict[str, MachineEntry]
    climates: dict[str, ClimateEntry]
    tables: dict[str, TablesEntry]
    cautions: dict[str, CautionEntry]
    enquiry: dict[str, QuestionEntry]
    densities: dict[str, DensityEntry]
    walk_round: dict[str, ItemEntry]
    signs: dict[str, WallSignEntry]
    spreads: dict[str, SpreadEntry]


def entry_sha256(entry: Entry) -> str:
    """Fingerprint of an entry: SHA-256 of its canonical JSON (keys sorted, numbers as the model types them)."""
    return hashlib.sha256(orjson.dumps(entry.model_dump(mode="json"), option=orjson.OPT_SORT_KEYS)).hexdigest()


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


def _constructions() -> dict[str, ConstructionEntry]:
    """Constructions name their materials; here the conductivities are filled in."""
    materials = _read("materials.toml")
    rows = _read("constructions.toml")
    for key, row in rows.items():
        for layer in row.get("layers", []):
            for field, target in (("material", ""), ("bridge", "bridge_")):
                name = layer.pop(field, None)
                if name is None:
                    continue
                if name not in materials:
                    raise LibraryError(f"constructions.toml, {key}: no material {name!r}")
                layer.setdefault(f"{target}label", materials[name]["label"])
                layer[f"{target}lambda_w_mk"] = materials[name]["lambda_w_mk"]
    return _entries(ConstructionEntry, rows, "constructions.toml")


@lru_cache(maxsize=1)
def load() -> Library:
    """The library shipped with this edition; raises `LibraryError` naming file and row when a table is wrong."""
    return Library(
        constructions=_constructions(),
        emitter_types=_entries(EmitterTypeEntry, _read("emitter_types.toml"), "emitter_types.toml"),
        pipe_families=_entries(PipeFamilyEntry, _read("pipe_families.toml"), "pipe_families.toml"),
        machines=_entries(MachineEntry, _read("machines.toml"), "machines.toml"),
        climates=_entries(ClimateEntry, _read("climates.toml"), "climates.toml"),
        tables=_entries(TablesEntry, _read("tables.toml"), "tables.toml"),
        cautions=_entries(CautionEntry, _read("cautions.toml"), "cautions.toml"),
        enquiry=_entries(QuestionEntry, _read("enquiry.toml"), "enquiry.toml"),
        densities=_entries(DensityEntry, _read("densities.toml"), "densities.toml"),
        walk_round=_entries(ItemEntry, _read("walk_round.toml"), "walk_round.toml"),
        signs=_entries(WallSignEntry, _read("signs.toml"), "signs.toml"),
        spreads=_entries(SpreadEntry, _read("spreads.toml"), "spreads.toml"),
    )
