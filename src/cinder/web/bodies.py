"""What the API takes. The TypeScript types are generated from these."""

from __future__ import annotations

import unicodedata
from typing import Annotated, Any, Literal, cast

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from cinder.model import SCHEMA, Heated
from cinder.model.operation import Operation
from cinder.store.patch import MAX_OPERATIONS

ChangeId = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{8,64}$")]


def _plain(text: str) -> str:
    """Words on one line: no control characters, nothing that turns or hides what follows."""
    seen = (" " if c.isspace() else c for c in text if c.isspace() or unicodedata.category(c) not in UNSEEN)
    return " ".join("".join(seen).split())


UNSEEN = ("Cc", "Cf", "Cs", "Co", "Cn")


Words = Annotated[str, Field(max_length=200), AfterValidator(_plain)]


class In(BaseModel):
    model_config = ConfigDict(strict=True, extra="forbid")


class OperationIn(In):
    """An RFC 6902 operation; `value` is absent for `remove`."""

    op: str
    path: Annotated[str, Field(max_length=500)]
    value: Any = None

    def plain(self) -> Operation:
        said: Any = {name: getattr(self, name) for name in ("op", "path", "value") if name in self.model_fields_set}
        return cast(Operation, said)


class ChangeIn(In):
    id: ChangeId
    base_version: Annotated[int, Field(ge=1)]
    schema_version: Annotated[int, Field(ge=1)] = SCHEMA
    label: Words = ""
    operations: Annotated[list[OperationIn], Field(max_length=MAX_OPERATIONS)]
    knows: Annotated[list[ChangeId], Field(max_length=2000)] = []


class ChangeBatchIn(In):
    """Changes that waited for the line, in the order they were made."""

    changes: Annotated[list[ChangeIn], Field(min_length=1, max_length=100)]


class TakeBackIn(In):
    """`of`: the change that is meant; refused when another one is on top by now."""

    id: ChangeId
    of: ChangeId | None = None


class WhatIfIn(In):
    operations: Annotated[list[OperationIn], Field(max_length=MAX_OPERATIONS)]


class NewJobIn(In):
    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,64}$")]
    title: Annotated[str, Field(min_length=1, max_length=200)]
    age: str | None = None
    climate: str | None = None


class ArchiveIn(In):
    archived: bool


class SectionIn(In):
    entry: dict[str, Any]
    inside_c: Annotated[float, Field(ge=-30, le=60)] = 20.0
    outside_c: Annotated[float, Field(ge=-60, le=60)] = 0.0


class ChosenIn(In):
    """Keys of options, in the order they are taken."""

    chosen: Annotated[list[Annotated[str, Field(max_length=200)]], Field(max_length=40)] = []


class WayIn(In):
    """The key of a way, `way:...`."""

    way: Annotated[str, Field(max_length=300)]


class HeatedIn(In):
    """A heated floor or wall to look at, beside the water and the room it stands in."""

    heated: Heated
    wall: bool = False
    room_c: Annotated[float, Field(ge=5, le=35)] = 20.0
    flow_c: Annotated[float, Field(ge=20, le=75)] = 40.0
    spread_k: Annotated[float, Field(gt=0, le=40)] = 5.0
    school: Literal["standard", "conduction"] = "standard"
    need_w: Annotated[float, Field(ge=0, le=1e6)] | None = None
    glycol: Literal["propylene", "ethylene"] = "propylene"
    glycol_share: Annotated[float, Field(ge=0, le=0.6)] = 0.0


class StandInIn(In):
    """A simulated plant in the place of a real one: seconds of it for one of ours, the day of the year it begins on, what is wrong with it."""

    speed: Annotated[float, Field(ge=0.1, le=2000)] = 60.0
    first_day: Annotated[int, Field(ge=1, le=365)] = 20
    faults: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=12)] = []


class PlantIn(In):
    """Which plant to watch: a gateway the operator has listed, or a stand-in; how often it is asked, s."""

    address: Annotated[str, Field(max_length=200)] = ""
    stand_in: StandInIn | None = None
    every_s: Annotated[float, Field(ge=0.2, le=3600)] = 5.0


class AttemptIn(In):
    level: Literal["easy", "usual", "hard"] = "usual"
    seed: Annotated[int, Field(ge=0, le=2**31)] | None = None


class DeedIn(In):
    """Something done in an attempt: waited, repaired, a line dialled in, or finished."""

    kind: Literal["wait", "repair", "curve", "finish"]
    key: Annotated[str, Field(max_length=40)] = ""
    place: Annotated[str, Field(max_length=64)] = ""
    days: Annotated[int, Field(ge=0, le=30)] = 0
    cold_c: Annotated[float, Field(ge=0, le=90)] = 0.0
    mild_c: Annotated[float, Field(ge=0, le=90)] = 0.0


class OrderIn(In):
    """A setting to be written to the plant that is watched."""

    key: Annotated[str, Field(max_length=40)]
    value: Annotated[float, Field(ge=-1e4, le=1e4, allow_inf_nan=False)]


class FlowIn(In):
    flow_c: Annotated[float, Field(ge=25, le=75)]


PaperKind = Literal[
    "heat-loss",
    "customer",
    "noise",
    "hot-water",
    "hydraulic",
    "balancing",
    "curve-card",
    "occupant",
    "fire-up",
    "controller",
    "materials",
    "electrics",
    "survey",
    "offer",
    "upkeep",
    "promise",
    "review",
    "permissions",
    "warranties",
    "pack",
]
"""Papers that can be asked for; each has its writer in `exchange.report.PAPERS`."""


class PaperIn(In):
    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{8,64}$")]
    kind: PaperKind = "heat-loss"


class IssueIn(In):
    """`id`: made by the client, so that asked twice it is one."""

    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{8,64}$")]
    kind: Literal["offer", "pack"]


class AcceptIn(In):
    variant: Annotated[str, Field(max_length=64)]
    by: Annotated[str, Field(max_length=200)]
    day: Annotated[str, Field(max_length=10)]


Meter = Annotated[float, Field(ge=0, le=4e7, allow_inf_nan=False)]


class HandReadingsIn(In):
    """What meters stood at on a day, kWh; `new_meter`: one was replaced since the reading before."""

    day: Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]
    electric_kwh: Meter | None = None
    heat_kwh: Meter | None = None
    heater_kwh: Meter | None = None
    inside_c: Annotated[float, Field(ge=0, le=40, allow_inf_nan=False)] | None = None
    new_meter: bool = False
