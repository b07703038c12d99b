"""What is wrong in a job is told where the house has it: labels, wall, field with its unit; never an id nobody typed."""

import copy

import pytest

from cinder.errors import InvalidJob
from cinder.model import parse
from cinder.model.spoken import spoken
from tests.conftest import tansy_cut

JOB = {
    "title": "Salt tower",
    "survey": {
        "rooms": {
            "r4k_f-mE7AR": {
                "label": "Tower room", "height_m": 4.72, "walk": [{"id": "w1", "length_m": 2.05}],
                "faces": {
                    "w2": {"label": "", "openings": {"oNx96nW8AoI": {"kind": "window", "label": "", "width_m": 0.4}}},
                    "floor": {"label": "Boards"},
                },
            },
        },
    },
    "schemes": {"s1": {"label": "Lukewarm water", "measures": {"m1": {"kind": "face", "label": ""}}}},
}  # fmt: skip


@pytest.mark.parametrize(
    ("path", "words"),
    [
        ("/survey/rooms/r4k_f-mE7AR/height_m", "Tower room, height in m"),
        ("/survey/rooms/r4k_f-mE7AR/faces/w2/openings/oNx96nW8AoI/width_m", "Tower room, wall 2, window, width in m"),
        ("/survey/rooms/r4k_f-mE7AR/faces/floor/construction", "Tower room, Boards, construction"),
        ("/survey/rooms/r4k_f-mE7AR/walk/0/length_m", "Tower room, walk, number 1, length in m"),
        ("/survey/rooms/r4k_f-mE7AR/walk/7/length_m", "Tower room, walk, number 8, length in m"),
        ("/schemes/s1/measures/m1/area_m2", "Lukewarm water, face, area in m²"),
        ("/survey/rooms/gone/u_w_m2k", "gone, u in W/m²K"),
        ("/a~1b", "a/b"),
        ("/title", "title"),
        ("/", ""),
        ("", ""),
    ],
)
def test_places(path, words):
    assert spoken(JOB, path) == words


def test_what_a_job_breaks_is_told_with_its_place():
    document = tansy_cut()
    rooms = document["survey"]["rooms"]
    wrong = copy.deepcopy(document)
    wrong["survey"]["rooms"]["kitchen"]["height_m"] = 99999
    with pytest.raises(InvalidJob) as refused:
        parse(wrong)
    (problem,) = refused.value.problems
    assert (problem.where, problem.value) == ("Kitchen, height in m", 99999)
    assert problem.line() == "/survey/rooms/kitchen/height_m: must be at most 30 (Kitchen, height in m)"
    wrong = copy.deepcopy(document)
    wrong["survey"]["rooms"]["kitchen"]["part"] = "annexe"  # points at nothing
    with pytest.raises(InvalidJob) as refused:
        parse(wrong)
    assert refused.value.problems[0].where.startswith("Kitchen, part")
    assert rooms["kitchen"]["height_m"] == 2.55


@pytest.mark.parametrize("label", [7, {"a": {}}, [], None, "x" * 5000])
def test_a_label_of_any_kind_is_no_fault(label):
    assert len(spoken({"survey": {"rooms": {"r": {"label": label}}}}, "/survey/rooms/r/height_m")) < 80
