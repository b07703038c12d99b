"""What a store asks of its place and of the main: whether it fits, whether two taps can run at once, who else heats it."""

from __future__ import annotations

from cinder.design.findings import Findings
from cinder.design.hot_water.result import Fits, HotWaterResult, WaterCheck
from cinder.design.hot_water.store import COIL_L_M2, EMPTY_KG_L, Store, least_store_c, size_m
from cinder.design.house.view import HouseView
from cinder.model.scheme import HotWater

LEAST_BAR, GOOD_BAR = 1.5, 2.0
LEAST_FLOW, GOOD_FLOW = 20.0, 25.0
"""What a mains-pressure store usually wants of the main while it flows (common practice)."""
BOTH_OPEN_BAR = 1.0
FEED_MM = 22.0
"""The feed from the main to the store, mm (common practice)."""
BATH_MIN = 8.0
"""How long two taps run together when an accumulator is sized (our choice)."""
AIR_M, ABOVE_M, DOOR_M = 0.05, 0.30, 0.02
"""Clearances: beside the store, over it for pipes and valves, at the door (our choice)."""
COLD_FILL_BAR, RELIEF_BAR = 3.5, 6.0
SWELLS = 0.0195
"""Set pressure and relief of a mains-pressure store, bar; water from 10 to 65 deg C grows by so much (steam tables, from memory)."""


ITEMS = (
    "main-pressure", "main-flow", "main-pressure-two", "main-flow-two", "main-size", "cupboard-width", "cupboard-depth",
    "cupboard-height", "cupboard-door",
)  # fmt: skip
"""What of the walk-round is looked at."""


def seen(house: HouseView, item: str) -> float | None:
    """A number of the walk-round; one typed as a word of a list counts too."""
    noted = house.job.survey.walk_round.get(item)
    if noted is None or noted.value is None or isinstance(noted.value, bool):
        return None
    try:
        return float(noted.value)
    except ValueError:
        return None


def vessel_l(volume_l: float) -> float:
    """Expansion vessel of a mains-pressure store, L: what its water grows by, over the part of a vessel that can take it.

    Source: Boyle's law between set pressure and relief.

    >>> round(vessel_l(200.0), 1)
    13.7
    """
    return SWELLS * volume_l / (1 - (COLD_FILL_BAR + 1) / (RELIEF_BAR - 0.2 + 1 - 0.5))


def at_least(
    key: str, label: str, value: float | None, low: float, unit: str, digits: int, note: str, high: float | None = None
) -> WaterCheck:
    verdict: Fits = "unknown" if value is None else "meets" if value >= low - 1e-9 else "small"
    return WaterCheck(
        key=key, label=label, low=low, high=high, value=value, unit=unit, digits=digits, verdict=verdict, note=note
    )


def of_main(house: HouseView, chosen: HotWater) -> list[WaterCheck]:
    """Pressure and flow of the incoming water, with one tap and with two open, its pipe, and an accumulator where it is weak."""
    flow, both = seen(house, "main-flow"), seen(house, "main-flow-two")
    out = [
        at_least("main-pressure", "Main, while one tap runs", seen(house, "main-pressure"), LEAST_BAR, "bar", 1,
                 "at the kitchen tap, open", GOOD_BAR),
        at_least("main-flow", "Main, flow", flow, LEAST_FLOW, "L/min", 0, "bucket and watch", GOOD_FLOW),
        at_least("main-pressure-two", "Main, while two taps run", seen(house, "main-pressure-two"), BOTH_OPEN_BAR, "bar", 1,
                 "a shower and a bath together"),
        at_least("main-size", "Pipe from the main", seen(house, "main-size"), FEED_MM, "mm", 0, "to the store's place"),
    ]  # fmt: skip
    if both is not None:
        out.insert(3, at_least("main-flow-two", "Both taps together", both, LEAST_FLOW, "L/min", 0, "measured"))
    weak = min((of for of in (flow, both) if of is not None), default=None)
    if weak is not None and weak < LEAST_FLOW:
        wanted = (LEAST_FLOW - weak) * BATH_MIN
        note = f"gives what the main lacks for {BATH_MIN:.0f} minutes of two taps"
        out.append(at_least("accumulator", "Accumulator, usable", chosen.accumulator_l or 0.0, wanted, "L", 0, note))
    return out


def of_place(house: HouseView, store: Store, chosen: HotWater) -> list[WaterCheck]:
    """Whether it stands where it shall stand, and passes the door."""
    if store.volume_l is None or store.kept:
        return []
    wide, tall, known = size_m(chosen, store.volume_l)
    by = "" if known else "the store's own size is a guess from its litres; "
    rows = (
        ("cupboard-width", "Its place, width", wide + AIR_M, by + "with air beside it"),
        ("cupboard-depth", "Its place, depth", wide + AIR_M, by + "with air beside it"),
        ("cupboard-height", "Its place, height", tall + ABOVE_M, by + "with pipes over it"),
        ("cupboard-door", "The door it must pass", wide + DOOR_M, by + "upright"),
    )
    return [at_least(key, label, seen(house, key), low, "m", 2, note) for key, label, low, note in rows]


def weight_kg(store: Store, chosen: HotWater) -> float | None:
    """Full, kg."""
    if store.volume_l is None:
        return None
    empty = chosen.empty_kg if chosen.empty_kg is not None else EMPTY_KG_L * store.volume_l
    return empty + store.volume_l


def beside_it(house: HouseView, store: Store) -> str:
    """What else must find a place: what the machine does not hold already."""
    holds = house.machine.contains if house.machine else None
    parts = [] if holds and holds.diverter else ["the diverter"]
    if store.volume_l is not None:
        parts.append(f"a vessel of some {vessel_l(store.volume_l):.0f} L for the drinking water")
    parts.append("the discharge of its relief")
    if store.plate:
        parts.append("the exchanger with its pump")
    return f"Beside it hang {', '.join(parts[:-1])} and {parts[-1]}."


WORDS = {"collectors": "collectors", "boiler": "a boiler", "stove": "a stove"}


def findings_of(house: HouseView, store: Store, checks: list[WaterCheck], findings: Findings) -> None:
    """What must be known or mended about place, main and sources."""
    if store.volume_l is None:
        return
    base = f"/schemes/{house.job.active_scheme}/hot_water"
    least = least_store_c(house.practice.mixer, store.cold_c)
    if store.store_c < least:
        findings.add(
            "short", "hot-water", f"{base}/store_c",
            f"A store at {store.store_c:.0f} °C gives nobody 40 °C at a tap: it wants {least:.1f} °C.",
            why="The mixing valve lets in a little cold.", mend="A warmer store.",
        )  # fmt: skip
    for one in checks:
        if one.verdict != "small" or one.value is None or one.low is None:
            continue
        what = f"{one.value:.{one.digits}f} {one.unit}"
        wants = f"{one.low:.{one.digits}f} {one.unit}"
        if one.key == "accumulator":
            findings.add(
                "doubt", "hot-water", f"{base}/accumulator_l", "The main is weak and no accumulator makes up for it.",
                why=f"Two taps at once want {wants} more than it brings.",
                mend="An accumulator, a wider pipe from the main, or a vented store.",
            )  # fmt: skip
        elif one.key.startswith("main"):
            findings.add(
                "doubt", "hot-water", f"/survey/walk_round/{one.key}", f"{one.label}: {what}.",
                why=f"A mains-pressure store usually wants {wants} or more (common practice).",
                mend="Ask the water company, a wider pipe, an accumulator, or a vented store.",
            )  # fmt: skip
        else:
            findings.add(
                "short", "hot-water", f"/survey/walk_round/{one.key}", f"{one.label}: {what}; the store wants {wants}.",
                why="It would not go in, or not up.", mend="A slimmer or lower store, or another place.",
            )  # fmt: skip
    if len(store.also) >= 2:
        named = " and ".join(WORDS[one] for one in store.also)
        findings.add(
            "doubt", "hot-water", f"{base}/keeps", f"{named.capitalize()} heat this store already; the machine would be a third.",
            why="Three sources on one store fight each other: the coolest is pushed out.",
            mend="Leave the machine out of the hot water, or take one of the others off.",
        )  # fmt: skip


def of_exchanger(house: HouseView, store: Store, result: HotWaterResult, findings: Findings) -> None:
    """Where the coil, not the machine, is the limit; and where it stalls."""
    if result.volume_l is None or result.limit_c is None or result.stall_c is None:
        return
    base = f"/schemes/{house.job.active_scheme}/hot_water"
    area = f"{result.coil_taken_m2:.{1 if (result.coil_taken_m2 or 0) >= 0.1 else 3}f}" if not store.plate else ""
    through = "its plate exchanger" if store.plate else f"its coil of {area} m²"
    where = f"{base}/{'plate_ua_w_k' if store.plate else 'coil_m2'}"
    known = store.plate or store.coil_m2 is not None
    if store.coil_m2 is not None and not store.plate and store.coil_m2 * COIL_L_M2 > result.volume_l / 2:
        findings.add(
            "doubt", "hot-water", where,
            f"A coil of {area} m² would take up some {store.coil_m2 * COIL_L_M2:.0f} L of a store of {result.volume_l:.0f} L.",
            why="One of the two is mistyped.", mend="Look at the store's plate again.",
        )  # fmt: skip
    if result.never or result.stall_c < store.store_c:
        cold = result.stall_c <= store.cold_c
        begins = "However cold the store is," if cold else f"From {result.stall_c:.0f} °C in the store on"
        findings.add(
            "short" if known else "doubt", "hot-water", where,
            f"{begins} {through} {'takes less than' if cold else 'no longer takes even'} the machine's least output.",
            why=f"At its warmest water, {result.warmest_c:.0f} °C, the machine runs on and off, or trips on high pressure.",
            mend="A larger coil, a plate exchanger, or a cooler store with an immersion.",
        )  # fmt: skip
    elif result.limit_c < store.store_c - store.band_k and known:
        findings.add(
            "doubt", "hot-water", where, f"From {result.limit_c:.0f} °C in the store on {through} is the limit, not the machine.",
            why="The machine turns down, its water stands at the warmest it makes, the charge takes longer.",
            mend="A larger coil, or a cooler store.",
        )  # fmt: skip
