"""When a house is heated at all: one meaning for the season by bins and for the year by hours."""

from __future__ import annotations

from cinder.model import Practice


def heating_limit_c(practice: Practice, *, gains: bool) -> float | None:
    """The outdoor temperature above which nothing is heated, deg C; None without gains.

    The limit stands for what people and sun give in mild weather: a house reckoned without them is heated until it loses
    nothing (our choice).
    """
    return practice.heating_limit_c if gains else None
