"""The types of the library's entries, by concept."""

from cinder.library.entries.base import Celsius, Element, Entry, Finite, Key, NotNegative, Pair, Positive, Share, Text
from cinder.library.entries.climate import ClimateEntry
from cinder.library.entries.emitters import (
    CoveringEntry,
    EmitterFactorEntry,
    EmitterTypeEntry,
    HeatedBuildEntry,
    ManifoldKindEntry,
    ValveEntry,
)
from cinder.library.entries.fabric import (
    Conductivity,
    ConstructionEntry,
    FloorKind,
    GlazingEntry,
    LayerEntry,
    MaterialEntry,
    Thickness,
    UValue,
)
from cinder.library.entries.grants import GrantEntry, GrantRule
from cinder.library.entries.hydraulics import (
    GlycolEntry,
    PipeFamilyEntry,
    PipeSizeEntry,
    PumpEntry,
    TapEntry,
    TappingEntry,
)
from cinder.library.entries.machine import MachineEntry, PlaceRuleEntry
from cinder.library.entries.papers import CautionEntry, FireUpEntry, MovedEntry
from cinder.library.entries.prices import EmitterPriceEntry, FuelEntry, MeasureEntry, PlantPartEntry
from cinder.library.entries.products import CatalogueEntry, ProductEntry, SpeedEntry
from cinder.library.entries.survey import (
    AgeEntry,
    BringsEntry,
    DensityEntry,
    ItemEntry,
    QuestionEntry,
    RoomUseEntry,
    SpaceKindEntry,
    SpreadEntry,
    WallSignEntry,
)
from cinder.library.entries.tables import JunctionEntry, TablesEntry

__all__ = [
    "AgeEntry",
    "BringsEntry",
    "CatalogueEntry",
    "CautionEntry",
    "Celsius",
    "ClimateEntry",
    "Conductivity",
    "ConstructionEntry",
    "CoveringEntry",
    "DensityEntry",
    "Element",
    "EmitterFactorEntry",
    "EmitterPriceEntry",
    "EmitterTypeEntry",
    "Entry",
    "Finite",
    "FireUpEntry",
    "FloorKind",
    "FuelEntry",
    "GlazingEntry",
    "GlycolEntry",
    "GrantEntry",
    "GrantRule",
    "HeatedBuildEntry",
    "ItemEntry",
    "JunctionEntry",
    "Key",
    "LayerEntry",
    "MachineEntry",
    "ManifoldKindEntry",
    "MaterialEntry",
    "MeasureEntry",
    "MovedEntry",
    "NotNegative",
    "Pair",
    "PipeFamilyEntry",
    "PipeSizeEntry",
    "PlaceRuleEntry",
    "PlantPartEntry",
    "Positive",
    "ProductEntry",
    "PumpEntry",
    "QuestionEntry",
    "RoomUseEntry",
    "Share",
    "SpaceKindEntry",
    "SpeedEntry",
    "SpreadEntry",
    "TablesEntry",
    "TapEntry",
    "TappingEntry",
    "Text",
    "Thickness",
    "UValue",
    "ValveEntry",
    "WallSignEntry",
]
