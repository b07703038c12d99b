"""What is told from readings: why it is cold, the first week, a winter."""

from __future__ import annotations

import statistics
import time
from collections import Counter

import numpy as np
from bench.table import row
from tests.conftest import counting_house, tansy_cut

from cinder.library import shipped_year
from cinder.model import parse

LOOKED_AT, NEVER_SEEN = range(0, 200, 2), range(2001, 2201, 2)
"""Seeds the diagnosis was written with, and seeds nobody looked at while it was."""


def correction() -> None:
    """The correction desk over 200 houses with something known wrong with them: how many it tells right, and what it takes for what."""
    from bench.cases import make

    from cinder.field.diagnosis import diagnose
    from cinder.field.expected import expected_of

    houses = []
    for document in (tansy_cut(), counting_house()):
        job = parse(document)
        entry = job.library.climates[job.climate.entry or ""].data
        year = shipped_year(entry.year_sha256 or "")
        assert year is not None
        houses.append((expected_of(job, year), year))
    took: list[float] = []
    table: Counter[tuple[str, str]] = Counter()
    for name, seeds in (("looked at while it was written", LOOKED_AT), ("never seen", NEVER_SEEN)):
        right = 0
        for seed in seeds:
            one = make(houses, seed)
            begun = time.perf_counter()
            found = diagnose(one.house, one.seen, cold_c=one.cold_c, mild_c=one.mild_c)
            took.append((time.perf_counter() - begun) * 1000)
            told = (
                found.verdict if one.room is None or found.room in (one.room, None) else f"{found.verdict}, other room"
            )
            table[one.truth, told] += 1
            right += told == one.truth
        row(
            f"correction, {len(seeds)} houses {name}",
            f"{right / len(seeds):.0%} right",
            "≥ 90 %",
            statistics.median(took),
        )
    told_as = sorted({told for _, told in table})
    print("\n| it was \\ it is told as | " + " | ".join(told_as) + " |")
    print("|---" * (len(told_as) + 1) + "|")
    for truth in sorted({truth for truth, _ in table}):
        print(f"| {truth} | " + " | ".join(str(table[truth, told] or "") for told in told_as) + " |")


def week() -> None:
    """The first week over 200 houses with one of four things wrong, or none: told right, and what is taken for what."""
    from bench.weeks import simulated

    from cinder.field.winter.proof import Thought, Week, proved

    table: Counter[tuple[str, str]] = Counter()
    for name, seeds in (("by which spreads were set", range(0, 200, 2)), ("never seen", range(1, 201, 2))):
        right, took = 0, []
        for seed in seeds:
            one = simulated(seed)
            thought = Thought(
                one.loss_w_k, one.below_k, 0.0, one.rated_w, one.exponent, np.full(len(one.rated_w), fill_value=False), 50.0,
                one.line_out_c, one.line_c, one.flow_lph, None, one.wanted_c,
            )  # fmt: skip
            begun = time.perf_counter()
            found = proved(
                thought,
                Week(
                    one.outdoor_c,
                    one.inside_c,
                    one.heat_w,
                    one.supply_c,
                    one.return_c,
                    one.read_lph,
                    one.on,
                    one.sun_w_m2,
                ),
            )
            took.append((time.perf_counter() - begun) * 1000)
            told = found.verdict if found else "too mild"
            table[one.truth, told] += 1
            right += told == one.truth
        row(f"first week, 100 houses {name}", f"{right} % right", "≥ 85 %", statistics.median(took))
    told_as = sorted({told for _, told in table})
    print("\n| it was \\ it is told as | " + " | ".join(told_as) + " |")
    print("|---" * (len(told_as) + 1) + "|")
    for truth in sorted({truth for truth, _ in table}):
        print(f"| {truth} | " + " | ".join(str(table[truth, told] or "") for told in told_as) + " |")


def signatures() -> None:
    """The signature of a winter over 500 houses of three nodes: how many of their bands hold what is so, and what one takes."""
    from bench.houses import simulated

    from cinder.physics.measured import signature

    took, hit = [], []
    for seed in (*range(250), *range(1000, 1250)):
        one = simulated(seed)
        begun = time.perf_counter()
        found = signature.fit(
            heat_kwh=one.heat_kwh, outdoor_c=one.outdoor_c, inside_c=one.inside_c, sun_w_m2=one.sun_w_m2, base_known=0.0
        )
        took.append((time.perf_counter() - begun) * 1000)
        hit.append(abs(one.true_w_k - found.h_w_k) <= signature.Z10 * found.h_sd)
    row(
        "signature of a winter, 500 houses",
        f"{statistics.fmean(hit):.1%} in P10 to P90",
        "80 ± 4 %; ≤ 25 yd",
        statistics.median(took),
    )
