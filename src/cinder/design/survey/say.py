"""What the walk round the house comes to, in a sentence."""

from __future__ import annotations

from cinder.design.survey.result import WallVerdict


def walk_round(walls: list[WallVerdict]) -> str:
    odd = next((w for w in walls if w.at_odds), None)
    first = odd or next((w for w in walls if w.signs), None)
    return (first or walls[0]).sentence if walls else "Begin outside: a picture of every side."
