"""What the signs of a wall say together: bond, thickness, age, air bricks, plugs, glazing, and what one is told."""

from __future__ import annotations

import math
from functools import lru_cache

from cinder.design.findings import Findings
from cinder.design.survey.result import Guess, WallVerdict
from cinder.library import WallSignEntry, load
from cinder.model import HousePart, Job
from cinder.model.parts import in_order

THICKNESS_EDGES_MM = (200.0, 245.0, 310.0, 400.0)
LEAST_SHARE = 0.001
AT_ODDS = 0.2
"""A sign is at odds with a reading when it is at most this share as likely there as where it fits best."""
SIGNS = ("bond", "thickness", "air_bricks", "plugs", "glazing", "told")
NAMES = {
    "bond": "the bond", "thickness": "the thickness", "air_bricks": "the air bricks", "plugs": "the plugged holes",
    "glazing": "the old glazing", "told": "the occupant's word", "age": "the age",
}  # fmt: skip
SETTLES = "A hole of 6 mm and a borescope beside a window, or a look behind the meter box."


@lru_cache(maxsize=1)
def known_signs() -> dict[str, frozenset[str]]:
    """The signs that are weighed, with the words each may be; none for the thickness, which is a number."""
    table = load().signs.values()
    return {
        sign: frozenset()
        if sign == "thickness"
        else frozenset(word for entry in table for word in getattr(entry, sign))
        for sign in SIGNS
    }


def _likelihood(entry: WallSignEntry, sign: str, value: object) -> float | None:
    if sign == "thickness":
        if isinstance(value, bool) or not isinstance(value, int | float):
            return None
        return entry.thickness[sum(value > edge for edge in THICKNESS_EDGES_MM)]
    table: dict[str, float] = getattr(entry, sign)
    return table.get(str(value).lower() if isinstance(value, bool) else str(value))


def verdict(key: str, part: HousePart) -> WallVerdict:
    """Weigh the signs of one part of the house by Bayes' rule, each taken as independent of the others.

    Source: Bayes' rule; the likelihoods are those of the library, common practice and our choice.
    """
    table = load().signs
    hypotheses = list(table.values())
    log = [
        math.log(max(h.prior.get(part.age or "", 1 / len(hypotheses)), LEAST_SHARE) if part.age else 1.0)
        for h in hypotheses
    ]
    used: dict[str, list[float]] = {}
    if part.age:
        used["age"] = [max(h.prior.get(part.age, LEAST_SHARE), LEAST_SHARE) for h in hypotheses]
    for sign in SIGNS:
        value = part.signs.get(sign)
        if value is None:
            continue
        row = [_likelihood(h, sign, value) for h in hypotheses]
        if any(v is None for v in row):
            continue
        shares = [max(v or 0.0, LEAST_SHARE) for v in row]
        used[sign] = shares
        log = [a + math.log(b) for a, b in zip(log, shares, strict=True)]
    top = max(log)
    weight = [math.exp(v - top) for v in log]
    total = sum(weight)
    ranked = sorted(
        (
            Guess(id=h.id, label=h.label, construction=h.construction, probability=w / total)
            for h, w in zip(hypotheses, weight, strict=True)
        ),
        key=lambda g: -g.probability,
    )
    signs = [name for name in used if name != "age"]
    best = [h.id for h in hypotheses].index(ranked[0].id)
    odds = [NAMES[sign] for sign, row in used.items() if row[best] <= AT_ODDS * max(row)]
    return WallVerdict(
        part=key,
        label=part.label or key,
        guesses=ranked[:4] if signs else [],
        signs=len(signs),
        at_odds=odds if signs else [],
        sentence=_sentence(part, ranked, signs, odds),
        settles=SETTLES if odds else "",
    )


def _sentence(part: HousePart, ranked: list[Guess], signs: list[str], odds: list[str]) -> str:
    name = part.label or "This part"
    if not signs:
        return f"{name}: no sign recorded yet. Begin with the **bond** and the **thickness at a reveal**."
    first = ranked[0]
    word = "almost certainly" if first.probability > 0.97 else "probably" if first.probability > 0.6 else "perhaps"
    text = f"{name}: {word} **{first.label} ({first.probability * 100:.0f} %)**"
    if first.probability <= 0.6:
        text += f", or {ranked[1].label} ({ranked[1].probability * 100:.0f} %)"
    if odds:
        text += f"; but {' and '.join(odds)} {'say' if len(odds) > 1 else 'says'} otherwise"
    return text + "."


def verdicts(job: Job) -> list[WallVerdict]:
    """One verdict for every part of the house, in order."""
    return [verdict(key, part) for key, part in in_order(job.survey)]


def judge(job: Job, findings: Findings) -> list[WallVerdict]:
    """The verdicts, with a finding for every wall whose signs contradict each other."""
    walls = verdicts(job)
    for wall in walls:
        if wall.at_odds:
            findings.add(
                "doubt", "walk-round", f"/survey/parts/{wall.part}/signs", wall.sentence.replace("**", ""),
                why="The signs contradict each other.", mend=wall.settles,
            )  # fmt: skip
    return walls
