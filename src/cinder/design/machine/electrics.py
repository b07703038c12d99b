"""What the electric supply is asked for at once: a sum, no verdict."""

from __future__ import annotations

from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.machine.result import ElectricsResult

VOLTS = 230.0


def electrics(house: HouseView, findings: Findings) -> ElectricsResult:
    """What the house and the machine draw at once, against the main fuse: a sum, no verdict."""
    supply, machine = house.job.site.supply, house.machine
    labels, amperes, lacks = [], [], ""
    if supply.present_a is not None:
        labels.append("the house, after diversity")
        amperes.append(supply.present_a)
    if machine is not None and machine.max_current_a is not None:
        labels.append(machine.label)
        amperes.append(machine.max_current_a)
        if machine.contains.heater_kw and not supply.interlocked:
            labels.append("its heater, at the same time")
            amperes.append(machine.contains.heater_kw * 1000 / VOLTS)
    missing = [
        what
        for what, known in (
            ("the main fuse", supply.fuse_a), ("what the house draws", supply.present_a),
            ("what the machine draws", machine.max_current_a if machine else None),
        )
        if known is None
    ]  # fmt: skip
    if missing:
        lacks = f"Not known yet: {', '.join(missing)}."
    total = sum(amperes)
    left = supply.fuse_a - total if supply.fuse_a is not None and not missing else None
    if left is not None and left < 0:
        findings.add(
            "doubt", "machine", "/site/supply", f"The sum of {total:.0f} A is more than the main fuse of {supply.fuse_a:g} A.",
            why="House, machine and heater may draw that at once.",
            mend="An electrician looks at the demand, an interlock or the supply.",
        )  # fmt: skip
    if supply.spare_way is False:
        findings.add(
            "note", "machine", "/site/supply/spare_way", "The board has no spare way.",
            why="The machine wants a circuit of its own.", mend="Price a larger board or a second one.",
        )  # fmt: skip
    return ElectricsResult(
        labels=labels, amperes=amperes, sum_a=total, fuse_a=supply.fuse_a, left_a=left, lacks=lacks,
    )  # fmt: skip
