"""Cautions, and what moved from edition to edition."""

from __future__ import annotations

from typing import Literal

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


class MovedEntry(Entry):
    """A rule that moved figures of older jobs: since which edition, which figures of the job list, and what it says."""

    id: Key
    since: Text
    figures: list[Literal["loss", "flow", "cover", "season", "head"]]
    what: Text
