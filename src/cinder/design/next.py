"""The next thing to do: the first gap along the chain, said as work, with the screen it is done on."""

from __future__ import annotations

from cinder.design.base import Result, Screen
from cinder.design.findings import Finding
from cinder.design.hot_water.result import HotWaterResult
from cinder.design.hydraulics.result import Pipework
from cinder.design.losses.result import HouseResult, RoomResult
from cinder.design.machine.result import CandidateResult, MachineResult
from cinder.design.waterline.result import Waterline

ENOUGH = 0.9
"""Below this cover the machine is the next thing to look at; between it and all of the load a backup is usual."""


def next_work(
    house: HouseResult,
    rooms: list[RoomResult],
    line: Waterline,
    machines: MachineResult,
    chosen: CandidateResult | None,
    hot_water: HotWaterResult,
    pipework: Pipework,
    findings: list[Finding],
) -> NextWork:
    """The first of: a climate, rooms, what a room lacks, emitters, a flow temperature that serves, a machine, a store,
    pipes, whatever else falls short; then what is doubtful, then the paper."""
    if house.outdoor_c is None:
        return NextWork(screen="climate", what="Choose the climate", why="Every loss hangs on the design day.")
    if not rooms:
        return NextWork(screen="plan", query="walk=new", what="Walk the first room", why="Or type its sizes in Rooms.")
    loose = next((room for room in rooms if room.status == "incomplete"), None)
    if loose is not None:
        return NextWork(
            screen="plan", query=f"room={loose.id}", what=f"Measure {loose.label}", why=_why(findings, loose.id)
        )
    if not any(room.emitters for room in rooms):
        return NextWork(
            screen="emitters", what="Record what heats the rooms", why="The water each room needs follows from it."
        )
    wrong = _first(findings, "stops", ("emitters", "plan", "rooms", "constructions", "losses", "waterline"))
    if wrong is not None:
        return _of(wrong, "Put right: ")
    if line.held or line.short:
        count = len(line.short)
        short = "One room falls short" if count == 1 else f"{count} rooms fall short"
        return NextWork(screen="waterline", what="Bring the water down", why=f"{short} at {line.chosen_flow_c:.0f} °C.")
    if chosen is None:
        what = "Choose one of the machines" if machines.rows else "Lay machines side by side"
        return NextWork(screen="machine", what=what, why=f"The house asks for {(house.loss_w or 0.0) / 1000:.1f} kW.")
    if (
        chosen.cover is not None and chosen.cover < ENOUGH and not chosen.fuel
    ):  # what burns beside it is meant to carry the rest
        return NextWork(
            screen="machine", what="Look at the machine again", why=f"It covers {chosen.cover:.0%} of the design day."
        )
    if hot_water.volume_l is None:
        return NextWork(
            screen="hot-water", what="Size the hot water store", why="It takes its share of the machine's day."
        )
    if not pipework.pipes:
        return NextWork(screen="pipework", what="Enter the pipes", why="Head, flow and open water hang on them.")
    wrong = _first(findings, "stops", ()) or _first(findings, "short", ())
    if wrong is not None:
        return _of(wrong, "")
    if any(finding.severity == "doubt" for finding in findings):
        return NextWork(screen="doubts", what="Settle the greatest doubt", why="Ranked by the watts they carry.")
    return NextWork(screen="report", what="Write the report", why="Nothing stands open.")


def _first(findings: list[Finding], severity: str, screens: tuple[str, ...]) -> Finding | None:
    """The first finding of a severity, on one of the screens (none given: on any)."""
    return next((one for one in findings if one.severity == severity and (not screens or one.screen in screens)), None)


def _of(finding: Finding, before: str) -> NextWork:
    query = f"emitter={finding.where.rsplit('/', 1)[-1]}" if finding.screen == "emitters" else ""
    return NextWork(screen=finding.screen, query=query, what=before + (finding.mend or finding.what), why=finding.what)


def _why(findings: list[Finding], room: str) -> str:
    return next((one.what for one in findings if one.where == f"/survey/rooms/{room}"), "")


class NextWork(Result):
    """What to do next, where, and why; `query` opens the screen at the very thing."""

    screen: Screen
    what: str
    why: str = ""
    query: str = ""
