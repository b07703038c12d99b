"""What a survey asks and knows: uses, ages, spaces, questions, signs, spreads."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from cinder.library.entries.base import Celsius, Entry, Key, NotNegative, Pair, Positive, Share, Text


class RoomUseEntry(Entry):
    label: Text
    target_c: Celsius
    habitable: bool
    air_older_per_h: NotNegative
    air_intermediate_per_h: NotNegative
    air_recent_per_h: NotNegative


class AgeEntry(Entry):
    """What the age of a house suggests: how tight it is, and what it is built of until somebody looks."""

    label: Text
    n50_per_h: Positive
    air_band: Literal["older", "intermediate", "recent"]
    constructions: dict[Literal["wall", "inner_wall", "party_wall", "roof", "ground", "floor", "window", "door"], Key]


class SpaceKindEntry(Entry):
    label: Text
    b: Share


class BringsEntry(Entry):
    """What an answer makes the visit bring or look at; `is` lists the answers, "*" any."""

    answers: Annotated[list[bool | Text], Field(alias="is")]
    what: Text


class QuestionEntry(Entry):
    """A question of the first call. `when`: asked only after those answers ("" means unanswered, "*" any)."""

    id: Key
    ask: Text
    kind: Literal["yesno", "choice", "text", "number", "whole", "age"]
    why: Text
    unit: Text = ""
    at: Text = ""
    options: dict[Key, Text] = {}
    when: dict[Key, list[bool | Text]] = {}
    brings: list[BringsEntry] = []


class DensityEntry(Entry):
    """Loss per m2 of floor at about -3 deg C outside, low and high, by how well a house of an age is insulated."""

    id: Key
    bare: Pair
    part: Pair
    good: Pair


class ItemEntry(Entry):
    """An item of the walk-round: what to look at, its picture, its caution; a `sign` is asked of every part."""

    id: Key
    section: Literal["outside", "plant", "electrics", "loft", "places"]
    label: Text
    look: Text = ""
    kind: Literal["seen", "yesno", "choice", "text", "number"]
    unit: Text = ""
    options: dict[Key, Text] = {}
    picture: bool = False
    caution: Key | None = None
    sign: Key | None = None
    optional: bool = False


class WallSignEntry(Entry):
    """A way a wall may be built, and how likely each sign is if it is."""

    id: Key
    label: Text
    construction: Key
    prior: dict[Key, Share]
    bond: dict[Key, Share]
    thickness: Annotated[list[Share], Field(min_length=5, max_length=5)]
    air_bricks: dict[Key, Share]
    plugs: dict[Key, Share]
    glazing: dict[Key, Share]
    told: dict[Key, Share]


class SpreadEntry(Entry):
    """How far a value may be off, P10 below and P90 above as shares, by how it is known."""

    id: Key
    label: Text
    measured: Pair
    tape: Pair = [0.02, 0.02]
    read: Pair
    told: Pair
    inferred: Pair
    assumed: Pair
