"""What the places of a reading are called: plant figures by their key, `room:ID`, `tail:ID:flow` and `tail:ID:return`."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from cinder.field.correction import Log
from cinder.physics.quantity import Array

IDLE_C = 21.0
"""Water that stands in the house's pipes while the machine makes hot water: about as warm as the rooms."""
HOUSE_FLOW = "house_flow_c"
"""The machine's flow where it goes to the house."""
HOT_WATER = 3.0


def channels_of(rooms: Sequence[str], emitters: Sequence[str], keys: Sequence[str]) -> list[str]:
    """The channels of a plant: its figures, the house's flow, its rooms and emitters by id in the order the twin has them."""
    tails = [f"tail:{one}:{side}" for one in emitters for side in ("flow", "return")]
    return [*keys, HOUSE_FLOW, *(f"room:{one}" for one in rooms), *tails]


def figures_of(
    channels: Sequence[str],
    figures: Mapping[str, float],
    rooms_c: Sequence[float | None],
    tails_c: Sequence[tuple[float | None, float | None]],
) -> list[float | None]:
    """A reading in the order of its channels; None where there is nothing."""
    rooms, tails = iter(rooms_c), iter(side for pair in tails_c for side in pair)
    out: list[float | None] = []
    for name in channels:
        if name == HOUSE_FLOW:
            out.append(house_flow(figures.get("supply_c"), figures.get("mode")))
        elif name.startswith("room:"):
            out.append(next(rooms, None))
        elif name.startswith("tail:"):
            out.append(next(tails, None))
        else:
            out.append(figures.get(name))
    return out


def house_flow(supply_c: float | None, mode: float | None) -> float | None:
    """What the house is fed with: nothing warm while hot water is made."""
    return IDLE_C if mode == HOT_WATER else supply_c


def log_of(label: str, at: object, column: Mapping[str, Array], rooms: Sequence[str], emitters: Sequence[str]) -> Log:
    """Readings by the hour as the correction desk takes them; what a source does not carry is not known."""
    times = np.asarray(at)
    none = np.full(len(times), np.nan)

    def of(*names: str) -> Array:
        return next((column[name] for name in names if name in column), none)

    def each(names: Sequence[str]) -> Array:
        return np.stack([of(name) for name in names], axis=1) if names else np.zeros((len(times), 0))

    return Log(
        label=label, at=times, outdoor_c=of("outdoor_c"), flow_c=of(HOUSE_FLOW, "supply_c"), wanted_c=of("wanted_c"),
        sun_w_m2=of("sun_w_m2"), room_c=each([f"room:{one}" for one in rooms]), feed_c=each([f"tail:{one}:flow" for one in emitters]),
        return_c=each([f"tail:{one}:return" for one in emitters]),
    )  # fmt: skip
