"""Houses in brief, and what a mistaken one says."""

import pytest

from cinder.errors import CinderError, InvalidJob, MalformedJson
from cinder.exchange.jobs import brief
from cinder.exchange.jobs.starter import start_job
from cinder.library import load
from cinder.model import parse

GOOD = """
title = "Hut"
age = "1960-1980"
climate = "mild-maritime"
[rooms.a]
size = [3.0, 4.0, 2.4]
walls = ["outside", "outside", "heated", "heated"]
"""


def test_a_short_brief_is_a_whole_job():
    document = brief.document(GOOD.encode())
    job = parse(document)
    assert job.title == "Hut"
    assert job.climate.entry == "mild-maritime"
    assert [run.length_m for run in job.survey.rooms["a"].walk] == [3.0, 4.0, 3.0, 4.0]
    assert job.survey.parts["main"].constructions["wall"] in job.library.constructions


@pytest.mark.parametrize(
    ("change", "kind", "said"),
    [
        (("size = [3.0, 4.0, 2.4]", "size = [3.0]"), InvalidJob, "lacks or mistakes"),
        (("size = [3.0, 4.0, 2.4]", 'size = "big"'), InvalidJob, "breaks its own rules"),
        (("1960-1980", "stone-age"), InvalidJob, "no age"),
        (("mild-maritime", "the-moon"), InvalidJob, "no climate"),
        (('"outside", "outside"', '"outside", "room:cellar"'), InvalidJob, "not there"),
        (('title = "Hut"', "title = "), MalformedJson, "Not TOML"),
        (
            ("[rooms.a]", '[rooms.a]\nwindows = [{ wall = 1, size = [1.0, 1.0], type = "window-of-ice" }]'),
            InvalidJob,
            "no construction",
        ),
        (("[rooms.a]", '[pipes.p]\nsize = "lead 15"\nlength = 2.0\n[rooms.a]'), InvalidJob, "no pipe family"),
    ],
)
def test_a_mistaken_brief_says_what(change, kind, said):
    with pytest.raises(kind, match=said):
        brief.document(GOOD.replace(*change).encode())


def test_not_text():
    with pytest.raises(MalformedJson):
        brief.document(b"\xff\xfe")


@pytest.mark.parametrize("age", [None, *load().tables["standard"].ages])
def test_every_age_starts_a_valid_job(age):
    job = parse(start_job(job_id="x", title="X", age=age, climate=None, library=load()))
    assert bool(job.survey.parts["main"].constructions) is (age is not None)


def test_every_error_of_ours_has_a_code_and_a_status():
    """The tree at the top of errors.py: codes differ, statuses are HTTP's, exit codes say failure."""
    import cinder.errors as errors

    kinds = [k for k in vars(errors).values() if isinstance(k, type) and issubclass(k, CinderError)]
    codes = [k.code for k in kinds]
    assert len(codes) == len(set(codes))
    for kind in kinds:
        assert 400 <= kind.http_status < 600
        assert kind.exit_code == 2
        assert kind.__name__ in (errors.__doc__ or "")


WALKED = """
title = "Walked"
age = "1960-1980"
climate = "mild-maritime"
[parts.main]
label = "House"
age = "1960-1980"
loft = "loft"
signs = { bond = "stretchers", thickness = 270.0 }
known = { wall = "told" }
[rooms.a]
height = 2.4
walk = [[4.0, 90], [3.0, 90], [2.5, 90], [1.0, -90], [1.5, 90], [2.0, 90]]
at = [1.0, 2.0]
turned = 15.0
level = -0.2
slopes = [{ run = "w2", knee = 1.0, angle = 40 }]
voids = [{ face = "floor", at = [0.5, -1.0], size = [0.9, 2.6] }]
beyond = { w3 = "heated" }
windows = [{ wall = 1, size = [1.2, 1.0], offset = 0.4, known = "told" }]
known = { walk = "measured:tape" }
unseen = { use = "nobody in" }
emitters = [{ id = "r", type = "t22", size = [1.0, 0.6], face = "w1", free = 1.6, known = "inferred" }]
[rooms.b]
size = [3.0, 4.0]
"""


def test_a_brief_can_walk_place_and_say_how_it_is_known():
    job = parse(brief.document(WALKED.encode()))
    room = job.survey.rooms["a"]
    assert [run.turn_deg for run in room.walk] == [90, 90, 90, -90, 90, 90]
    assert (room.position.x_m, room.position.rotation_deg, room.floor_level_m) == (1.0, 15.0, -0.2)
    assert (room.slopes["s1"].knee_m, room.voids["v1"].length_m) == (1.0, 2.6)
    assert room.faces["w3"].spans["all"].beyond.kind == "heated"
    window = room.faces["w1"].openings["window1"]
    assert (window.offset_m, window.known["size"].how) == (0.4, "told")
    assert (room.known["walk"].how, room.known["walk"].via) == ("measured", "tape")
    assert room.unseen == {"use": "nobody in"}
    emitter = job.survey.emitters["r"]
    assert (emitter.face, emitter.free_wall.length_m, emitter.known["spec"].how) == ("w1", 1.6, "inferred")
    assert job.survey.parts["main"].signs["thickness"] == 270.0
    assert job.survey.rooms["b"].height_m is None
