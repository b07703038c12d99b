"""Cautions, the day's steps, the records of a pack, upkeep, and what moved from edition to edition."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from cinder.library.entries.base import Entry, Key, Text


class CautionEntry(Entry):
    id: Key
    hazard: Text
    line: Text
    what: Text
    who: Text
    rule: Text
    steps: list[Key]


class FireUpEntry(Entry):
    """A step of the commissioning day. `needs` what the plant must have for it; `asks` keys of what is measured; `cold`: it cannot be
    proved in warm weather."""

    id: Key
    group: Text
    label: Text
    how: Text
    who: Literal["engineer", "electrician", "refrigerant", "registered", "second"]
    cautions: list[Key] = []
    needs: list[Text] = []
    asks: list[Text] = []
    cold: bool = False
    visit: Literal["first", "second"] = "first"


class RecordEntry(Entry):
    """A record of the pack: `paper` and `table` made here (a kind of paper, a file), `own` kinds of papers that are brought in."""

    id: Key
    label: Text
    group: Literal["For those who live here", "Design", "The work", "From others"]
    what: Text
    paper: Text = ""
    table: Text = ""
    own: list[Text] = []


class UpkeepEntry(Entry):
    """A thing to be looked at again and again: months between, months to the first time (the same where nothing is said), or the month
    of the year it belongs to. `needs`: only where one of these is fitted."""

    id: Key
    label: Text
    every: Annotated[int, Field(ge=1, le=240)]
    first: Annotated[int, Field(ge=1, le=240)] | None = None
    season: Annotated[int, Field(ge=1, le=12)] | None = None
    who: Literal["engineer", "electrician", "registered", "occupant"]
    needs: list[Text] = []
    how: Text
    caution: Key


class MovedEntry(Entry):
    """A rule that moved figures of older jobs: since which edition, which figures of the job list, and what it says."""

    id: Key
    since: Text
    figures: list[Literal["loss", "flow", "cover", "season", "head"]]
    what: Text
