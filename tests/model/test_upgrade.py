"""The road between schemas: documents of every version there was, and changes made before the road."""

import copy
import json
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cinder.model import SCHEMA, parse, upgraded, upgraded_operations
from cinder.model.upgrade import STEPS
from cinder.model.upgrade.fields import without_field
from cinder.store import patch
from tests.conftest import tansy_cut

VERSIONS = Path(__file__).parents[1] / "fixtures" / "versions"
DOCUMENTS = [file for file in sorted(VERSIONS.rglob("*.json")) if json.loads(file.read_text()).get("format")]


def first_schema():
    """The demo as schema 1 had it, with the field nothing read."""
    document = tansy_cut() | {"schema": 1}
    for candidate in document["schemes"]["lukewarm"]["candidates"].values():
        candidate["backup_w"] = 3000.0
    return document


def test_there_are_documents_of_every_version():
    assert {file.relative_to(VERSIONS).parts[0] for file in DOCUMENTS} >= {"0.1.0", "0.2.0", "0.3.0", "0.4.0"}


@pytest.mark.parametrize("file", DOCUMENTS, ids=lambda file: "/".join(file.relative_to(VERSIONS).parts))
def test_a_document_of_any_version_arrives_in_todays_schema(file):
    document = json.loads(file.read_text())
    before = copy.deepcopy(document)
    job = parse(document)
    assert job.schema_version == SCHEMA
    assert document == before  # the one given stays as it is
    assert upgraded(upgraded(document)) == upgraded(document)


def test_the_steps_lead_from_one_to_the_next():
    assert [step.since for step in STEPS] == list(range(1, SCHEMA))


def test_a_field_that_is_gone_goes_and_nothing_else():
    old = first_schema()
    new = upgraded(old)
    assert new["schema"] == SCHEMA
    expected = tansy_cut() | {"schema": SCHEMA}
    for candidate in expected["schemes"]["lukewarm"]["candidates"].values():
        candidate.pop("backup_w", None)
    assert new == expected


@pytest.mark.parametrize(
    ("shares", "chosen", "water"),
    [({"a": 0.25, "b": 0.4}, "a", 0.25), ({"a": 0.25, "b": 0.4}, None, 0.4), ({"a": 0.0}, "a", None), ({}, "a", None)],
)
def test_glycol_of_a_machine_becomes_that_of_the_water(shares, chosen, water):
    """Schema 3: the chosen machine's share, or else the greatest; none stays none."""
    old = tansy_cut() | {"schema": 2}
    scheme = old["schemes"]["lukewarm"]
    one = next(iter(scheme["candidates"].values()))
    scheme["candidates"] = {key: {"machine": one["machine"], "glycol_share": share} for key, share in shares.items()}
    scheme["chosen"] = chosen
    scheme.pop("protection", None)  # schema 2 had none
    new = upgraded(old)
    assert new["schema"] == SCHEMA
    found = new["schemes"]["lukewarm"]
    assert all("glycol_share" not in candidate for candidate in found["candidates"].values())
    assert found.get("protection") == ({"kind": "glycol", "glycol_share": water} if water else None)
    field = "/schemes/lukewarm/candidates/a/glycol_share"
    waiting = [{"op": "add", "path": field, "value": 0.3}, {"op": "replace", "path": "/title", "value": "x"}]
    assert upgraded_operations(waiting, 2) == waiting[1:]


@pytest.mark.parametrize("odd", [{"schema": "2"}, {"schema": True}, {"schema": 0}, {"schema": -4}, {}, {"schema": 1, "schemes": 7},
                                 {"schema": 1, "schemes": {"a": None, "b": {"candidates": [1]}}}])  # fmt: skip
def test_what_has_no_such_shape_is_left_to_be_refused(odd):
    assert upgraded(odd) == odd | ({"schema": SCHEMA} if odd.get("schema") == 1 and odd["schema"] is not True else {})


CANDIDATE = "/schemes/lukewarm/candidates/x"


@pytest.mark.parametrize(("operation", "then"), [
    ({"op": "add", "path": f"{CANDIDATE}/backup_w", "value": 3000}, []),
    ({"op": "remove", "path": f"{CANDIDATE}/backup_w"}, []),
    ({"op": "test", "path": f"{CANDIDATE}/backup_w", "value": 3000}, []),
    ({"op": "add", "path": CANDIDATE, "value": {"machine": "m", "backup_w": 1}},
     [{"op": "add", "path": CANDIDATE, "value": {"machine": "m"}}]),
    ({"op": "add", "path": "/schemes/two", "value": {"candidates": {"y": {"backup_w": 1, "pos": 1.0}}}},
     [{"op": "add", "path": "/schemes/two", "value": {"candidates": {"y": {"pos": 1.0}}}}]),
    ({"op": "replace", "path": "/title", "value": "backup_w"}, [{"op": "replace", "path": "/title", "value": "backup_w"}]),
    ({"op": "remove", "path": "/schemes/lukewarm"}, [{"op": "remove", "path": "/schemes/lukewarm"}]),
])  # fmt: skip
def test_an_operation_made_before_is_brought_up_too(operation, then):
    assert upgraded_operations([operation], 1) == then
    assert upgraded_operations([operation], SCHEMA) == [operation]


places = st.lists(st.sampled_from(["a", "b", "c"]), min_size=1, max_size=3)
trees = st.recursive(
    st.integers(), lambda inner: st.dictionaries(st.sampled_from(["a", "b", "c"]), inner, max_size=3), max_leaves=12
)


@given(st.dictionaries(st.sampled_from(["a", "b", "c"]), trees, min_size=1), places, st.data())
def test_first_the_change_then_the_road_is_first_the_road_then_the_change(document, place, data):
    """Whatever is added where it may be added: both orders give one document."""
    field = without_field(*[data.draw(st.sampled_from([step, "*"])) for step in place[:-1]], place[-1])
    node, path = document, ""
    while isinstance(node, dict) and data.draw(st.booleans()):
        key = data.draw(st.sampled_from(["a", "b", "c"]))
        path += f"/{key}"
        node = node.get(key)
        if node is None:
            break
    if not path:
        return
    change = {"op": "add" if node is None else "replace", "path": path, "value": data.draw(trees)}
    after = field.document(patch.apply(document, [change])[0])
    moved = field.operation(change)
    assert (patch.apply(field.document(document), [moved])[0] if moved else field.document(document)) == after
