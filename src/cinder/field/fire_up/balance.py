"""Guided balancing: from both tails and the air of every emitter together to the few lockshields to turn.

The water each emitter takes follows from its heat (EN 442, by its own tails) over its spread. Branches lie side by side under one head, so a
branch takes water as its opening is; all that is turned shares the same total. The fewest moves: the one common scale of all openings is
chosen by which most emitters are right where they stand.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from cinder.field.expected import Expected
from cinder.field.fire_up.result import Balance, EmitterProof, Move, Verdict
from cinder.field.spreads import expected_k
from cinder.model.practice import Turn
from cinder.physics.quantity import Array
from cinder.twin.at_rest import given_w

NEAR = 0.2
"""An emitter within so much of its design flow is left alone (our choice)."""
PROBE_K = 0.8
"""Spreads within this are the same to clip probes."""
LEAST_SPREAD_K = 0.3
LEAST_SHARE = 0.03


@dataclass(frozen=True, slots=True)
class Tails:
    """An emitter as it was measured, deg C; `turns` its lockshield, where somebody counted."""

    flow_c: float | None
    return_c: float | None
    room_c: float | None
    turns: float | None


def shares(house: Expected, tails: Mapping[str, Tails]) -> Array:
    """Water of every emitter over its design flow (E,), NaN where it was not measured."""
    emitters = house.house.house.emitters
    out = np.full(len(emitters.room), np.nan)
    for e, key in enumerate(house.house.emitters):
        one = tails.get(key)
        if (
            one is None
            or one.flow_c is None
            or one.return_c is None
            or emitters.flow_w_k[e] <= 0
            or emitters.rated_w[e] <= 0
        ):
            continue
        room = one.room_c if one.room_c is not None else float(house.balance.rooms.target_c[emitters.room[e]])
        hot, cool = one.flow_c - room, max(one.return_c - room, 0.1)
        spread = max(one.flow_c - one.return_c, LEAST_SPREAD_K)
        if hot <= 1.0:
            continue
        heat = float(given_w(emitters, e, hot_k=hot, cool_k=cool))
        out[e] = heat / spread / emitters.flow_w_k[e]
    return out


def planned(share: Array, weight: Array) -> Array:
    """What every opening is to be multiplied by (E,), 1 where it is left alone.

    `share` (E,) water over design, `weight` (E,) design water. Fewest moves first, then the least turning.
    """
    known = np.isfinite(share) & (share > 0)
    out = np.ones_like(share)
    if not known.any():
        return out
    best: tuple[int, float] | None = None
    for scale in np.unique(share[known]):
        factor = np.where(known, scale / np.where(known, share, 1.0), 1.0)
        moved = known & (np.abs(factor - 1.0) > NEAR)
        trial = np.where(moved, factor, 1.0)
        after = _after(share, trial, weight)
        wrong = int((known & (np.abs(after - 1.0) > NEAR)).sum())
        rank = (10 * wrong + int(moved.sum()), float(np.abs(np.log(trial[known])).sum()))
        if best is None or rank < best:
            best, out = rank, trial
    return out


def _after(share: Array, factor: Array, weight: Array) -> Array:
    """Shares once openings are multiplied: the total stays, every branch takes by its opening."""
    known = np.isfinite(share)
    total = float((share * weight)[known].sum())
    turned = share * factor
    now = float((turned * weight)[known].sum())
    return np.asarray(turned * (total / now if now > 0 else 1.0))


def balance(house: Expected, tails: Mapping[str, Tails], lockshield: Sequence[Turn]) -> Balance:
    """Every emitter as it was measured, and the few moves."""
    share = shares(house, tails)
    emitters = house.house.house.emitters
    labels = {e.id: (e.label, room.label) for room in house.house.design.rooms for e in room.emitters}
    weight = np.asarray(emitters.flow_w_k)
    factor = planned(share, weight)
    after = _after(share, factor, weight)
    known = np.isfinite(share)
    proofs = [
        _proof(house, e, tails.get(key), float(share[e]), labels.get(key, (key, "")))
        for e, key in enumerate(house.house.emitters)
    ]
    moves = [
        Move(
            emitter=key, label=labels.get(key, (key, ""))[0], room=labels.get(key, (key, ""))[1],
            says=_says(tails[key], float(factor[e]), lockshield), share_before=float(share[e]), share_after=float(after[e]),
        )
        for e, key in enumerate(house.house.emitters)
        if known[e] and abs(factor[e] - 1.0) > NEAR
    ]  # fmt: skip
    worst = float(np.abs(share[known] - 1.0).max()) if known.any() else None
    then = float(np.abs(after[known] - 1.0).max()) if known.any() else None
    return Balance(
        emitters=proofs, moves=moves, sentence=_sentence(known, moves, share), worst_before=worst, worst_after=then
    )


def _proof(house: Expected, e: int, one: Tails | None, share: float, label: tuple[str, str]) -> EmitterProof:
    emitters = house.house.house.emitters
    spread = wanted = None
    verdict: Verdict = "open"
    said = ""
    if one is not None and one.flow_c is not None and emitters.flow_w_k[e] > 0:
        room = one.room_c if one.room_c is not None else float(house.balance.rooms.target_c[emitters.room[e]])
        wanted = float(expected_k(house, e, np.array([one.flow_c]), np.array([room]))[0])
        if one.return_c is not None:
            spread = one.flow_c - one.return_c
            near = abs(spread - wanted) <= max(PROBE_K, 0.25 * wanted)
            verdict = "meets" if near else "off"
            if spread < -0.5:
                said = "the return is warmer than the flow: probes swapped?"
            elif not near:
                said = (
                    "too little water, or its lockshield nearly shut" if spread > wanted else "more water than it needs"
                )
    return EmitterProof(
        id=house.house.emitters[e], room=label[1], label=label[0], flow_c=one.flow_c if one else None, return_c=one.return_c if one else None,
        spread_k=spread, expected_k=wanted, share=share if np.isfinite(share) else None, turns=one.turns if one else None, verdict=verdict,
        said=said,
    )  # fmt: skip


def _says(one: Tails, factor: float, lockshield: Sequence[Turn]) -> str:
    """A move in words: from so many turns to so many by the table where they were counted."""
    way = "Open" if factor > 1 else "Close"
    if one.turns is None or len(lockshield) < 2:
        return f"{way} it until it takes {'more' if factor > 1 else 'less'}: {factor:.1f} times its water."
    turns, kv = np.array([t.turns for t in lockshield]), np.array([t.kv_m3h for t in lockshield])
    wanted = float(np.interp(one.turns, turns, kv)) * factor
    to = float(np.interp(wanted, kv, turns))
    more = "" if wanted <= kv[-1] else " and no further: that is fully open"
    return f"{way} it from {one.turns:g} to {round(to * 8) / 8:g} turns{more}."


def _sentence(known: Array, moves: list[Move], share: Array) -> str:
    count = int(known.sum())
    if not count:
        return "No emitter has both its tails read yet."
    among = f"{count} emitters" if count != 1 else "The one emitter that was read"
    usual = float(np.median(share[known]))
    # lockshields share out what there is; how much there is is the pump's, the strainer's, the air's
    whole = ""
    if abs(usual - 1.0) > NEAR:
        why = "pump, strainer or air, not lockshields" if usual < 1.0 else "the pump runs faster than designed"
        whole = f" Altogether there is {usual:.0%} of the water that is wanted: {why}."
    if not moves:
        if whole:
            kept = (
                f"**{among} share their water as they should**"
                if count != 1
                else "**Nothing to share out** with one emitter read"
            )
            return f"{kept}.{whole}"
        return f"**{among} {'are' if count != 1 else 'is'} within a fifth of {'their' if count != 1 else 'its'} water**: nothing to turn."
    names = ", ".join(one.room or one.label for one in moves[:5])
    others = " and others" if len(moves) > 5 else ""
    return (
        f"**Turn {len(moves)} of {count}** lockshields, all at once: {names}{others}. Then read them once more.{whole}"
    )
