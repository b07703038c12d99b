"""Money from elsewhere, by rules a company enters."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from cinder.library.entries.base import Entry, Key, NotNegative, Share, Text


class GrantRule(Entry):
    """A grant and its conditions: who pays it decides, this only sums."""

    label: Text
    pos: float = 0.0
    amount_minor: NotNegative | None = None
    share: Share | None = None
    """Of what machine and work cost, instead of one amount."""
    most_minor: NotNegative | None = None
    whole_heat: bool = False
    """Only where no boiler or stove stays beside the machine."""
    replaces: Annotated[list[Key], Field(max_length=20)] = []
    """Only where one of these fuels heats the house today; none named: any."""
    least_scop_35: Annotated[float, Field(ge=1, le=10, allow_inf_nan=False)] | None = None
    most_flow_c: Annotated[float, Field(ge=25, le=80, allow_inf_nan=False)] | None = None


class GrantEntry(GrantRule):
    """A grant as the company keeps it."""

    id: Key
