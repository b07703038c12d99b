"""Glycol, freeze valves or neither: each through the chain, and what it comes to over the years."""

from __future__ import annotations

from cinder.design.apart.protecting.result import Dose, Guard, ProtectingFound
from cinder.design.house import water
from cinder.design.judgement import design as judged
from cinder.design.kept import Kept
from cinder.design.machine.beside import bill_minor
from cinder.design.machine.result import chosen_of
from cinder.design.result import Design
from cinder.library import MachineEntry, PlantPartEntry, load
from cinder.model import Job
from cinder.model.scheme import Protection, Scheme

YEARS = 15
AGAIN_YEARS = 5
"""Glycol is renewed every so often (common practice)."""
INHIBITOR_L_PER_100, BIOCIDE_L_PER_100 = 1.0, 0.5
"""Of the water (common practice; the maker's label wins)."""
WAYS = (
    ("valves", "valves", "propylene", "freeze-opening valves"),
    ("propylene", "glycol", "propylene", "propylene glycol"),
    ("ethylene", "glycol", "ethylene", "ethylene glycol"),
    ("none", "none", "propylene", "nothing but the machine's own frost guard"),
)


def judge(job: Job, design: Design, parts: dict[str, PlantPartEntry], kept: Kept | None = None) -> ProtectingFound:
    """Every way to keep the water outdoors from freezing."""
    scheme = job.schemes.get(job.active_scheme or "")
    machine = _machine(job, scheme)
    frost = water.frost_c(scheme, design.house.outdoor_c) if scheme is not None else None
    if scheme is None or machine is None or frost is None:
        lacks = "A scheme with a machine and a climate: then glycol and freeze valves are compared."
        return _nothing(design, lacks, frost)
    if machine.kind == "split":
        return _nothing(
            design,
            f"{machine.label} is a split machine: no heating water lies outdoors, there is nothing to freeze.",
            frost,
        )
    kept = kept or Kept()
    tried = [_row(job, scheme, machine, way, frost, parts, kept) for way in WAYS]
    plain = next(bill for row, bill in tried if row.key == "none")
    rows = [_costed(row, bill, plain) for row, bill in tried]
    best, reasons = _best(scheme, machine, rows)
    made = ProtectingFound(
        sentence="", lacks="", frost_c=frost, frost_from="as entered" if scheme.protection.frost_c is not None else
        f"{water.UNDER_DESIGN_K:g} K under the design day", system_l=_system_l(design), rows=rows, best=best, reasons=reasons,
        where=_where(machine, scheme), doses=_doses(design, scheme),
    )  # fmt: skip
    return made.model_copy(update={"sentence": _sentence(made)})


def _machine(job: Job, scheme: Scheme | None) -> MachineEntry | None:
    if scheme is None or scheme.chosen not in scheme.candidates:
        return None
    return job.library.machines[scheme.candidates[scheme.chosen].machine].data


def _system_l(design: Design) -> float:
    return (design.volume.open_l or 0.0) + design.volume.closed_l


def _nothing(design: Design, lacks: str, frost: float | None) -> ProtectingFound:
    return ProtectingFound(
        sentence=lacks, lacks=lacks, frost_c=frost, frost_from="", system_l=_system_l(design), rows=[], best="", reasons=[], where=[],
        doses=[],
    )  # fmt: skip


def with_protection(job: Job, protection: Protection) -> Job:
    """The job with another protection in the scheme shown."""
    key = job.active_scheme or ""
    changed = job.schemes[key].model_copy(update={"protection": protection})
    return job.model_copy(update={"schemes": {**job.schemes, key: changed}})


def _row(
    job: Job, scheme: Scheme, machine: MachineEntry, way: tuple[str, str, str, str], frost: float,
    parts: dict[str, PlantPartEntry], kept: Kept,
) -> tuple[Guard, float | None]:  # fmt: skip
    """A way through the chain, and what its season costs, minor units."""
    key, kind, glycol, label = way
    now = scheme.protection
    own = kind == now.kind and (kind != "glycol" or glycol == now.glycol)
    tried = now.model_copy(update={"kind": kind, "glycol": glycol, "glycol_share": now.glycol_share if own else None})
    found = judged(with_protection(job, tried), kept)
    share = water.glycol_share(scheme.model_copy(update={"protection": tried}), found.house.outdoor_c)
    freezes = water.mixed(glycol, share).freezes_c if kind == "glycol" else None
    litres = share * _system_l(found)
    row = chosen_of(found.machine)
    once = again = 0.0
    if kind == "glycol":
        fill = parts["glycol-fill"].price_minor() + parts["glycol"].price_minor(litres)
        once, again = fill, fill + parts["glycol-disposal"].price_minor()
    elif kind == "valves":
        once = 0.0 if machine.contains.freeze_valve else parts["freeze-valves"].price_minor()
    if own and now.cost_minor is not None:
        again, once = again - once + now.cost_minor if kind == "glycol" else again, now.cost_minor
    lacks, words = _lacks(scheme, machine, kind, glycol, share, freezes, frost, found)
    row_made = Guard(
        key=key, kind=kind, glycol=glycol if kind == "glycol" else "", label=label, chosen=own, share=share, freezes_c=freezes,
        glycol_l=litres, flow_lph=found.pipework.flow_lph, index_kpa=found.pipework.index_kpa, head_used=found.pipework.head_used,
        output_w=row.output_w if row else None, cover=row.cover if row else None, season=found.season.performance,
        vessel_l=found.vessel.least_l, once_minor=once, again_minor=again, again_years=AGAIN_YEARS if kind == "glycol" else None,
        energy_minor=None, total_minor=0.0, years=YEARS, lacks=lacks, words=words,
    )  # fmt: skip
    return row_made, bill_minor(job, found.season)


def _costed(row: Guard, bill: float | None, plain: float | None) -> Guard:
    """With what its season costs more than with plain water, a year, and all of it over the years."""
    more = bill - plain if bill is not None and plain is not None else None
    renewals = (YEARS - 1) // AGAIN_YEARS if row.again_years else 0
    total = row.once_minor + renewals * row.again_minor + YEARS * (more or 0.0)
    return row.model_copy(update={"energy_minor": more, "total_minor": total})


def _lacks(
    scheme: Scheme,
    machine: MachineEntry,
    kind: str,
    glycol: str,
    share: float,
    freezes: float | None,
    frost: float,
    found: Design,
) -> tuple[list[str], list[str]]:
    """Why a way does not do, and what is to be known of it."""
    lacks, words = [], []
    if kind == "glycol":
        if freezes is not None and freezes > frost + 0.5:
            lacks.append(f"freezes at {freezes:.0f} °C, {frost:.0f} °C may come")
        if glycol == "ethylene" and scheme.hot_water.volume_l:
            lacks.append("poisonous: not beside a store of drinking water")
        if share > 0.5:
            words.append(f"{share:.0%} of glycol: thick when cold; the pump may not start it")
        words.append("some machines must be told, or want a flow sensor; read it with a refractometer every year")
    elif kind == "valves":
        if not scheme.protection.refills:
            lacks.append("nobody is named who refills after a power cut")
        words.append("open at 3 to 4 °C of water; not every maker allows them, or insulation round them")
        words.append("a refill thins the inhibitor: dose it again")
    else:
        lacks.append("a long power cut in frost bursts machine and pipes")
    if found.pipework.head_used is not None and found.pipework.head_used > 1:
        lacks.append("the pump does not reach the far emitter")
    row = chosen_of(found.machine)
    if row is not None and row.cover is not None and row.cover < 1 and kind == "glycol":
        words.append(f"the machine covers {row.cover:.0%} of the design day with it")
    return lacks, words


def _best(scheme: Scheme, machine: MachineEntry, rows: list[Guard]) -> tuple[str, list[str]]:
    able = [row for row in rows if not row.lacks]
    by_key = {row.key: row for row in rows}
    valves, glycol = by_key["valves"], by_key["propylene"]
    reasons = []
    if valves.once_minor > 0:
        reasons.append(
            f"A fill of glycol costs {glycol.once_minor / valves.once_minor:.1f} times a pair of valves, and again every {AGAIN_YEARS} years."
        )
    if glycol.index_kpa and valves.index_kpa and glycol.flow_lph and valves.flow_lph:
        reasons.append(
            f"Glycol moves {glycol.flow_lph / valves.flow_lph - 1:.0%} more and takes {glycol.index_kpa / valves.index_kpa - 1:.0%} more "
            "pressure."
        )
    reasons.append(
        f"{scheme.protection.refills} refills after a power cut."
        if scheme.protection.refills
        else "Who refills after a power cut? Without somebody, glycol."
    )
    if valves in able:
        return "valves", reasons
    ranked = sorted(able or rows, key=lambda row: (len(row.lacks), row.total_minor))
    return ranked[0].key, reasons


def _where(machine: MachineEntry, scheme: Scheme) -> list[str]:
    """Where freeze valves hang, and how many."""
    out = [
        "Two: one on the flow, one on the return, outdoors, at the lowest point of the pipes there.",
        "No closing valve between them and the machine; what they let out goes where dosed water may go by local rule.",
        "Never together with glycol.",
    ]
    if machine.contains.freeze_valve:
        out.insert(0, f"{machine.label} already holds one: ask its maker whether a second is wanted.")
    if scheme.separation.kind != "direct":
        out.append("Behind a separator the house's water stays in when they open, if a check valve holds it.")
    return out


def _doses(design: Design, scheme: Scheme) -> list[Dose]:
    litres, table = _system_l(design), load().plant_parts
    out = [
        Dose(key="inhibitor", label=table["inhibitor"].label, litres=litres * INHIBITOR_L_PER_100 / 100, why="every system"),
        Dose(
            key="biocide", label=table["biocide"].label, litres=litres * BIOCIDE_L_PER_100 / 100,
            why="water that stays below 50 °C grows slime",
        ),
    ]  # fmt: skip
    return (
        out
        if scheme.protection.kind != "glycol"
        else [out[1].model_copy(update={"why": "only where the glycol's label wants one"})]
    )


def _sentence(found: ProtectingFound) -> str:
    best = next(row for row in found.rows if row.key == found.best)
    chosen = next((row for row in found.rows if row.chosen), None)
    frost = f"{found.frost_c:.0f}".replace("-", "−")
    said = f"Down to **{frost} °C** the figures speak for **{best.label}**"
    if best.kind == "glycol":
        said += f", {best.share:.0%} by volume in {found.system_l:.0f} L"
    if chosen is None:
        return said + "; nothing is chosen yet."
    if chosen.key != best.key:
        return (
            said
            + f"; chosen is {chosen.label}"
            + (f", which {chosen.lacks[0]}" if chosen.lacks and chosen.kind == "glycol" else "")
            + "."
        )
    return said + "."
