"""What the store's day comes to, in words."""

from __future__ import annotations

from cinder.design.apart.water_day.result import Drawn, WaterDay, WaterDays
from cinder.design.hot_water.store import Store
from cinder.design.result import Design
from cinder.model import Practice

NOTICED_DROP_K = 0.3


def clock(minute: int) -> str:
    return f"{minute // 60:02d}:{minute % 60:02d}"


def _minutes(minutes: float) -> str:
    whole = max(round(minutes), 1)
    return "a minute" if whole == 1 else f"{whole} minutes"


def of_days(found: WaterDays, store: Store, *, outdoor: bool) -> str:
    """The day in a sentence."""
    if not found.pattern:
        return "**Say who lives here**, or enter the draws of a day: then the store's day can be reckoned."
    if store.volume_l is None:
        return f"The day draws **{found.pattern_kwh:.1f} kWh**. **Enter a store's litres** to see what becomes of it."
    if not outdoor or not found.days:
        return "**Choose a climate**: the design day says how quickly the machine can heat the store again."
    day = found.days[0]
    short = [one for one in day.draws if one.short_min > 0]
    if not short:
        text = f"On the design day **{store.volume_l:.0f} L** at {store.store_c:.0f} °C serve every draw of {found.pattern_kwh:.1f} kWh"
        if found.least_volume_l is not None and found.least_volume_l < store.volume_l:
            return f"{text}; for this day alone **{found.least_volume_l:.0f} L** would do."
        return f"{text}."
    text = _short(day, short)
    if found.least_volume_l is not None:
        return f"{text} **{found.least_volume_l:.0f} L** would serve the day."
    return f"{text} No store up to 500 L serves this day as it is charged now."


def _short(day: WaterDay, short: list[Drawn]) -> str:
    worst = min(short, key=lambda one: one.least_c)
    where = f"the **{clock(worst.minute)} {worst.what}** falls to {worst.least_c:.0f} °C"
    rest = f"; {day.short_draws} draws of the day are short" if day.short_draws > 1 else ""
    return f"On the design day {where} for {_minutes(worst.short_min)}{rest}."


def notes(found: WaterDays, store: Store, design: Design, practice: Practice, maker: str) -> list[str]:
    """What a person must be told beside the figures; `maker`: what else makes the hot water in this scheme."""
    out = []
    if maker:
        out.append(f"In this scheme {maker} makes the hot water; this is the day the machine would give the store.")
    day = found.days[0]
    if not day.runs:
        out.append("The machine does not run on the design day: the immersion alone heats the store then.")
    if day.takes_turns:
        out.append("Two kinds of day take turns, by how warm the night before left the store; the harder one is shown.")
    if day.on_and_off_min:
        out.append(
            f"For {day.on_and_off_min} minutes of the day the exchanger takes less than the machine's least output: it runs on and off, "
            "and may trip on high pressure."
        )
    if day.room_drop_k is not None and day.longest_min:
        felt = "nobody notices" if day.room_drop_k < NOTICED_DROP_K else "in a cold week that is felt"
        out.append(
            f"While hot water is made the house is not heated: {day.charging_min} minutes of the design day, {day.longest_min} at a "
            f"stretch; the rooms cool by some {day.room_drop_k:.1f} K meanwhile, {felt}."
        )
    if found.mixer == "thermostatic":
        out.append(
            f"Thermostatic mixers always let in a little cold: the top of the store must hold {found.least_store_c:.1f} °C for 40 °C at "
            "the tap. A plain mixer would let it run cooler, but scalds in a hygiene cycle."
        )
    else:
        out.append(
            f"A plain mixer lets the store run as cool as {found.least_store_c:.0f} °C, but in the hygiene cycle it passes "
            f"{practice.hygiene_c:.0f} °C to whoever opens it: scalding. Tell the household which night that is."
        )
    if store.store_c - store.band_k < found.least_store_c:
        out.append(
            f"The store may fall to {store.store_c - store.band_k:.0f} °C before it is charged: by then the taps no longer reach 40 °C."
        )
    if practice.hygiene != "fresh_water":
        out.append(
            "Set the immersion's own thermostat to 65 °C at the most. Who lives here counts: for the old and the ill local rules ask for "
            "more than a cycle."
        )
    return out
