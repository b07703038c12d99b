"""What is worked out apart from the edit shares one kept chain: it must give what each gives alone, in whatever order they are asked."""

import copy

from cinder.design import design
from cinder.design.apart import controllers, flows, protecting, separating
from cinder.design.kept import Kept
from cinder.field import correction, wiring
from cinder.field.fire_up import day
from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.twin import absences
from tests.conftest import tansy_cut

YEAR = shipped_year(load().climates["mild-maritime"].year_sha256)
PARTS = load().plant_parts
SECTIONS = {
    "controllers": lambda job, made, kept: controllers.judge(job, made, loss_range=(0.9, 1.1), kept=kept),
    "separating": lambda job, made, kept: separating.judge(job, made, PARTS, kept),
    "protecting": lambda job, made, kept: protecting.judge(job, made, PARTS, kept),
    "flows": lambda job, made, kept: flows.judge(job, made, kept),
    "wiring": lambda job, made, kept: wiring.judge(job, kept),
    "absences": lambda job, made, kept: absences.judge(job, kept),
    "fire-up": lambda job, made, kept: day.judge(job, YEAR, kept=kept),
    "correction": lambda job, made, kept: correction.judge(job, YEAR, kept=kept),
}  # fmt: skip


def houses():
    first = tansy_cut()
    second = copy.deepcopy(first)
    second["survey"]["rooms"]["hall"]["height_m"] = 2.77
    second["schemes"]["lukewarm"]["flow_c"] = 51.0
    return [parse(first), parse(second), parse(first)]


def test_each_gives_what_it_gives_alone():
    shared, seen = Kept(), set()
    for job in houses():
        made = design(job)
        for name, judge in SECTIONS.items():
            alone = judge(job, made, None).model_dump_json()
            assert judge(job, made, shared).model_dump_json() == alone, name
            seen.add((name, alone))
    assert len(seen) > len(SECTIONS) + 4  # the second house is another house
