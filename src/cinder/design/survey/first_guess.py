"""The first guess of a machine's size, from a telephone call: a range, with the reasons it is wide."""

from __future__ import annotations

from cinder.design.kept import Needs, entries
from cinder.design.survey.result import Asked, FirstGuess, Reason
from cinder.library import DensityEntry, QuestionEntry, load
from cinder.model import ClimateChoice, Household, Job
from cinder.model.parts import first_age

REFERENCE_K = 23.0
"""The densities are for 20 inside and -3 outside (common practice)."""
INSIDE_C = 20.0
BASE_C = 15.5
BOILER = {
    "gas": (0.75, 0.90), "oil": (0.70, 0.88), "bottled": (0.75, 0.90), "solid": (0.40, 0.65), "pellets": (0.60, 0.85),
    "storage": (0.95, 1.0), "resistance": (0.95, 1.0),
}  # fmt: skip
HOT_WATER_KWH_PER_PERSON = 700.0
HEATED_SHARE = {"all": (0.95, 1.05), "times": (1.0, 1.3), "some": (1.2, 1.8), "one": (1.5, 3.0)}
AREA_SPREAD = 0.10


def answer_of(job: Job, question: QuestionEntry) -> object:
    """What was answered, wherever it is filed; None when nobody has."""
    household: Household = job.survey.household
    if question.at == "/survey/household/people":
        return household.people
    if question.at == "/survey/household/bedrooms":
        return household.bedrooms
    return job.site.answers.get(question.id)


def _fits(value: object, wanted: list[bool | str]) -> bool:
    if value is None or value == "":
        return "" in wanted
    return "*" in wanted or value in wanted


def asked(job: Job) -> list[Asked]:
    """The questions that are put, in order, given the answers so far, with what each makes the visit bring."""
    table = load().enquiry
    out = []
    for question in table.values():
        if not all(_fits(answer_of(job, table[name]), wanted) for name, wanted in question.when.items()):
            continue
        value = answer_of(job, question)
        brings = [b.what for b in question.brings if value not in (None, "") and _fits(value, b.answers)]
        out.append(Asked(id=question.id, answered=value not in (None, ""), brings=brings))
    return out


def _design_c(job: Job) -> float | None:
    chosen: ClimateChoice = job.climate
    if chosen.design_c is not None:
        return chosen.design_c
    return job.library.climates[chosen.entry].data.design_c if chosen.entry else None


def _densities(job: Job, age: str | None, insulation: str) -> tuple[float, float]:
    table = load().densities
    rows: list[DensityEntry] = [table[age]] if age in table else list(table.values())
    kinds = [insulation] if insulation in ("bare", "part", "good") else ["bare", "part", "good"]
    pairs = [getattr(row, kind) for row in rows for kind in kinds]
    return min(p[0] for p in pairs), max(p[1] for p in pairs)


def judge(job: Job) -> FirstGuess:
    """Floor area times loss density, as a range; beside it the last bill's own opinion.

    Source: common practice for the densities and boiler efficiencies; degree hours from the job's climate.
    """
    said = job.site.answers
    area = said.get("floor_area_m2")
    outdoor = _design_c(job)
    known_age = first_age(job.survey)
    age = said.get("age") or known_age
    insulation = str(said.get("insulation") or "unknown")
    rooms_area = area if isinstance(area, float | int) and not isinstance(area, bool) and area > 0 else None
    low_density, high_density = _densities(job, str(age) if age else None, insulation)
    cold = (INSIDE_C - outdoor) / REFERENCE_K if outdoor is not None else 1.0
    low = high = None
    reasons: list[Reason] = []
    if rooms_area is not None:
        low = rooms_area * (1 - AREA_SPREAD) * low_density * cold
        high = rooms_area * (1 + AREA_SPREAD) * high_density * cold
        reasons = _reasons(job, float(rooms_area), age, insulation, cold, outdoor)
    bill_low, bill_high, bill_why = _bill(job, outdoor)
    return FirstGuess(
        area_m2=rooms_area,
        density_low_w_m2=low_density,
        density_high_w_m2=high_density,
        low_w=low,
        high_w=high,
        bill_low_w=bill_low,
        bill_high_w=bill_high,
        bill_why=bill_why,
        outdoor_c=outdoor,
        reasons=reasons,
        sentence=_sentence(low, high, bill_low, bill_high),
    )


def _reasons(job: Job, area: float, age: object, insulation: str, cold: float, outdoor: float | None) -> list[Reason]:
    """Each thing not known, with the watts of range it costs, the dearest first."""
    low, high = _densities(job, str(age) if age else None, insulation)
    out = []

    def narrower(what: str, mend: str, pairs: list[tuple[float, float]]) -> None:
        mean = sum(p[1] - p[0] for p in pairs) / len(pairs)
        out.append(Reason(what=what, costs_w=max((high - low) - mean, 0.0) * area * cold, mend=mend))

    if not age:
        ages = [_densities(job, key, insulation) for key in load().densities]
        narrower("The age is not said.", "Ask when it was built.", ages)
    if insulation not in ("bare", "part", "good"):
        kinds = [_densities(job, str(age) if age else None, kind) for kind in ("bare", "part", "good")]
        narrower("How well it is insulated is not known.", "Ask about loft, walls, windows; then look.", kinds)
    out.append(
        Reason(
            what="The floor area is told, not measured.", costs_w=2 * AREA_SPREAD * area * (low + high) / 2 * cold,
            mend="A certificate or a plan; on site the laser.",
        )
    )  # fmt: skip
    if outdoor is None:
        out.append(Reason(what="No climate yet: −3 °C is taken.", costs_w=0.0, mend="Choose the climate."))
    if job.site.answers.get("wet_system") is False:
        out.append(
            Reason(what="No wet system: pipes to every room come on top.", costs_w=0.0, mend="Plan the routes on site.")
        )
    by_area = AREA_SPREAD * area * (low + high) * cold
    rest = area * cold * (high - low) - (sum(r.costs_w for r in out) - by_area)
    if rest > 0:
        out.append(Reason(what="Houses of one age differ.", costs_w=rest, mend="The survey, room by room."))
    return sorted(out, key=lambda r: -r.costs_w)


def _bill(job: Job, outdoor: float | None) -> tuple[float | None, float | None, str]:
    """Design load from a year's fuel: heat = fuel x efficiency - hot water, over degree hours below 15.5."""
    said = job.site.answers
    kwh, money, price = said.get("bill_kwh"), said.get("bill_money"), said.get("unit_price")
    if not isinstance(kwh, int | float) or isinstance(kwh, bool):
        known = isinstance(money, int | float) and isinstance(price, int | float) and not isinstance(price, bool)
        kwh = float(money) / float(price) if known and price else None  # type: ignore[arg-type]
    climate = job.library.climates[job.climate.entry].data if job.climate.entry else None
    if kwh is None or climate is None or outdoor is None:
        return None, None, ""
    efficiency = BOILER.get(str(said.get("fuel")), (0.6, 0.9))
    share = HEATED_SHARE.get(str(said.get("how_now")), (1.0, 1.6))
    water = HOT_WATER_KWH_PER_PERSON * (job.survey.household.people or 2)
    hours = sum(h * max(BASE_C - t, 0.0) for t, h in zip(climate.bin_outdoor_c, climate.bin_hours, strict=True))
    if hours <= 0:
        return None, None, ""
    low, high = (
        max(float(kwh) * eta - water, 0.0) * 1000 / hours * (INSIDE_C - outdoor) * more
        for eta, more in zip(efficiency, share, strict=True)
    )
    why = (
        f"{float(kwh):.0f} kWh at {efficiency[0]:.0%} to {efficiency[1]:.0%}, less {water:.0f} kWh of hot water, "
        f"over {hours / 1000:.1f} thousand kelvin hours below {BASE_C:g} °C"
    )
    return low, high, why


def _sentence(low: float | None, high: float | None, bill_low: float | None, bill_high: float | None) -> str:
    if low is None or high is None:
        if bill_low is not None and bill_high is not None:
            return (
                f"The bill alone says **{bill_low / 1000:.1f} to {bill_high / 1000:.1f} kW**. Ask for the floor area."
            )
        return "Ask for the **heated floor area**: with it a first guess of the machine is possible."
    text = f"First guess: **{low / 1000:.0f} to {high / 1000:.0f} kW** on the design day."
    if bill_low is not None and bill_high is not None:
        apart = bill_low > high or bill_high < low
        text += f" The bill says {bill_low / 1000:.1f} to {bill_high / 1000:.1f} kW" + (
            ": **they disagree**." if apart else ", which agrees."
        )
    return text


def looks_at(job: Job) -> Needs:
    """What the first guess hangs on."""
    survey, library = job.survey, job.library
    held = (entries(survey.parts), entries(library.climates), entries(library.tables))
    return (job.site, job.climate, survey.household, *held)
