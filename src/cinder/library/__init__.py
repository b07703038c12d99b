"""Tables as data files, and the one loader that reads them."""

from cinder.library.entries import (
    AgeEntry,
    CautionEntry,
    ClimateEntry,
    ConstructionEntry,
    EmitterTypeEntry,
    Entry,
    LayerEntry,
    MachineEntry,
    PipeFamilyEntry,
    RoomUseEntry,
    TablesEntry,
    ValveEntry,
)
from cinder.library.loader import EDITION, Library, entry_sha256, load

__all__ = [
    "EDITION",
    "AgeEntry",
    "CautionEntry",
    "ClimateEntry",
    "ConstructionEntry",
    "EmitterTypeEntry",
    "Entry",
    "LayerEntry",
    "Library",
    "MachineEntry",
    "PipeFamilyEntry",
    "RoomUseEntry",
    "TablesEntry",
    "ValveEntry",
    "entry_sha256",
    "load",
]
