"""What earlier versions wrote opens: files, documents as they lay in a database, zips; with their figures, or it is said
what moved.

The fixtures were written by those versions themselves (the first 0.1.0, the last of each, and 0.2.0 while its library
grew), the figures beside them were theirs.
"""

import json
from pathlib import Path

import pytest

from cinder.design import design
from cinder.exchange.jobs import bundle, job_file, strict_json
from cinder.library import EDITION, entry_sha256, is_of, load
from cinder.model import parse

VERSIONS = sorted((Path(__file__).parents[1] / "fixtures" / "versions").iterdir())
EVERY = [(version, name) for version in VERSIONS for name in ("tansy-cut.stored", "three-rooms.file", "begun.again")]
# what 0.5.0 moved, from -> to, on these houses: kW, deg C, %, season, % of the head
MOVED = {
    ("tansy-cut", "loss"): (-0.03, 0.0), ("tansy-cut", "cover"): (-0.6, 0.5), ("tansy-cut", "season"): (0.0, 0.12),
    ("three-rooms", "season"): (-0.04, 0.0), ("tansy-cut", "head"): (-0.2, 0.3), ("three-rooms", "head"): (-0.1, 0.1),
    ("tansy-cut", "curve_cold_c"): (-2.0, -1.0), ("tansy-cut", "curve_mild_c"): (-2.0, -1.0),
    ("three-rooms", "curve_mild_c"): (-1.0, 0.0), ("tansy-cut", "heat_kwh"): (-1100.0, 0.0), ("three-rooms", "heat_kwh"): (0.0, 300.0),
}  # fmt: skip


def opened(path):
    """A job document, as every way in reads one."""
    return parse(strict_json.loads(path.read_bytes()))


@pytest.mark.parametrize(("version", "name"), EVERY, ids=[f"{v.name}-{n}" for v, n in EVERY])
def test_a_job_of_every_version_opens_with_its_figures_or_what_moved(version, name):
    job = opened(version / f"{name}.json")
    result = design(job)
    house = name.split(".")[0]
    then = json.loads((version / "figures.json").read_text()).get(house, {})
    now = {figure.key: figure.value for figure in result.headline}
    now |= {
        "curve_cold_c": result.curve.cold_flow_c,
        "curve_mild_c": result.curve.mild_flow_c,
        "heat_kwh": result.season.heat_kwh,
    }
    for key, before in then.items():
        if before is None:
            assert now[key] is None
            continue
        if key == "flow" and before == 55.0 and result.waterline.held:
            # held at the limit of sense: the bar says what the house needs in place of it
            assert now[key] is None
            assert result.waterline.needed_flow_c > 55.0
            continue
        low, high = MOVED.get((house, key), (0.0, 0.0))
        near = 1e-6 * abs(before)
        assert low - near <= now[key] - before <= high + near, (key, before, now[key])
    # nothing was changed in the copies, and none is doubted; their age is said once
    assert not any("no longer what was taken" in finding.what for finding in result.findings)
    aged = [finding for finding in result.findings if "copies of library edition" in finding.what]
    assert len(aged) == 1
    assert aged[0].severity == "note"
    assert all(row.what in aged[0].why for row in load().moved.values() if row.since == EDITION)


@pytest.mark.parametrize(("version", "name"), EVERY, ids=[f"{v.name}-{n}" for v, n in EVERY])
def test_it_goes_out_and_comes_back_the_same(version, name):
    document = job_file.document((version / f"{name}.json").read_bytes())
    again = job_file.document(job_file.write(document))
    assert again == document
    assert design(parse(again)) == design(parse(document))


@pytest.mark.parametrize("version", [v for v in VERSIONS if (v / "one-room.job.zip").exists()], ids=lambda v: v.name)
def test_a_zip_of_every_version_opens(version):
    with (version / "one-room.job.zip").open("rb") as file:
        back = bundle.Bundle(file)
        assert all(back.photo(sha256)[:2] == b"\xff\xd8" for sha256 in bundle.photos_of(back.document))
    assert design(parse(back.document)).house.loss_w == pytest.approx(2570.26, abs=0.01)


def test_a_copy_that_was_changed_is_a_finding_and_no_locked_door():
    document = json.loads((VERSIONS[-1] / "tansy-cut.stored.json").read_text())
    wall = document["library"]["constructions"]["wall-brick-one"]["data"]
    wall["layers"][1]["thickness_m"] = 0.15
    result = design(parse(document))
    (found,) = [finding for finding in result.findings if "no longer what was taken" in finding.what]
    assert found.where == "/library/constructions/wall-brick-one"
    assert found.severity == "doubt"
    assert job_file.document(job_file.write(document))["library"]["constructions"]["wall-brick-one"]["data"]["layers"]


def test_a_field_more_changes_no_fingerprint():
    """An entry type that learns an optional field, absent or empty in what was stored, keeps every fingerprint."""

    from cinder.library import ConstructionEntry

    class Later(ConstructionEntry):
        soot: str | None = None
        dust_m: float = 0.0

    for entry in load().constructions.values():
        later = Later.model_validate(entry.model_dump(mode="json"))
        assert entry_sha256(later) == entry_sha256(entry)
        assert is_of(Later.model_validate(entry.model_dump(mode="json") | {"soot": None}), entry_sha256(entry))
