"""Money from elsewhere, by the rules somebody entered: a sum, no promise."""

from __future__ import annotations

from cinder.design.apart.running.result import Granted
from cinder.design.result import Design
from cinder.library import GrantRule
from cinder.model import Job
from cinder.model.scheme import Candidate


def granted(
    job: Job, design: Design, candidate: Candidate, scop_35: float | None, present_fuel: str | None
) -> list[Granted]:
    """Every grant of the job for a candidate: what it gives, or which of its conditions does not hold."""
    out = []
    for _, grant in sorted(job.grants.items(), key=lambda item: (item[1].pos, item[0])):
        why = _lacks(design, candidate, grant, scop_35, present_fuel)
        amount = 0.0
        if not why:
            amount = grant.amount_minor or 0.0
            if grant.share is not None and candidate.cost_minor is not None:
                amount = grant.share * candidate.cost_minor
            amount = min(
                amount, grant.most_minor if grant.most_minor is not None else amount, candidate.cost_minor or amount
            )
        out.append(Granted(label=grant.label, amount_minor=amount, why=why))
    return out


def _lacks(
    design: Design, candidate: Candidate, grant: GrantRule, scop_35: float | None, present_fuel: str | None
) -> str:
    flow = design.waterline.chosen_flow_c
    if grant.whole_heat and candidate.backup.kind in ("boiler", "new boiler", "stove"):
        return "only without a boiler or stove beside it"
    if grant.replaces and present_fuel not in grant.replaces:
        return f"only in place of {', '.join(grant.replaces)}"
    if grant.least_scop_35 is not None and (scop_35 is None or scop_35 < grant.least_scop_35):
        return f"only from a test-bench season of {grant.least_scop_35:g} at 35 °C water"
    if grant.most_flow_c is not None and (flow is None or flow > grant.most_flow_c):
        return f"only with water of at most {grant.most_flow_c:g} °C"
    if grant.share is not None and candidate.cost_minor is None:
        return "a share of a cost nobody has entered"
    return ""
