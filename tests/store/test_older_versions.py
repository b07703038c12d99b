"""A database as the first version made it is brought up to date with everything in it."""

import json
from pathlib import Path

import pytest
from alembic import command
from alembic.config import Config
from sqlalchemy import text

from cinder.design import design
from cinder.design.apart import moved
from cinder.errors import NothingToUndo
from cinder.store.database import engine, migrate
from cinder.store.log import ChangeLog
from cinder.store.record import Change, Who
from tests.conftest import new_database

VERSIONS = Path(__file__).parents[1] / "fixtures" / "versions"
SAM = Who("old", "sam")


def as_first(url):
    """Tables of revision 0001, and a job with an edit in them, row by row as 0.1.0 wrote them."""
    to = engine(url)
    config = Config()
    from importlib.resources import files

    config.set_main_option("script_location", str(files("cinder.store").joinpath("migrations")))
    with to.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0001")
    document = json.loads((VERSIONS / "0.1.0" / "tansy-cut.stored.json").read_text())
    edited = json.loads(json.dumps(document))
    edited["title"] = "The lock-keeper's house, once more"
    figures = json.loads((VERSIONS / "0.1.0" / "figures.json").read_text())["tansy-cut"]
    summary = {"rooms": 10, "loss_w": figures["loss"] * 1000, "flow_c": figures["flow"], "cover": figures["cover"],
               "season": figures["season"], "findings": 3, "scheme_label": "Proposal"}  # fmt: skip
    change = {"op": "replace", "path": "/title", "value": edited["title"]}
    back = {"op": "replace", "path": "/title", "value": document["title"]}
    with to.begin() as c:
        c.execute(text("INSERT INTO companies VALUES ('old', 'Old')"))
        c.execute(text("INSERT INTO people VALUES ('old', 'sam', 'Sam')"))
        c.execute(
            text("INSERT INTO jobs (company_id, id, title, version, schema_version, document, summary) "
                 "VALUES ('old', 'tansy-cut', :title, 2, 1, :document, :summary)"),
            {"title": edited["title"], "document": json.dumps(edited), "summary": json.dumps(summary)},
        )  # fmt: skip
        rows = [
            {"version": 1, "id": "create-tansy-cut", "kind": "create", "ops": [], "inv": [], "touched": [],
             "snapshot": json.dumps(document)},
            {"version": 2, "id": "change-0001", "kind": "edit", "ops": [change], "inv": [back], "touched": ["/title"],
             "snapshot": None},
        ]  # fmt: skip
        for row in rows:
            c.execute(
                text("INSERT INTO changes (company_id, job_id, version, change_id, person_id, kind, label, base_version, "
                     "schema_version, operations, inverse, touched, body_sha256, snapshot) VALUES ('old', 'tansy-cut', "
                     ":version, :id, 'sam', :kind, 'Named anew', :base, 1, :ops, :inv, :touched, :sha, :snapshot)"),
                {"version": row["version"], "id": row["id"], "kind": row["kind"], "base": row["version"] - 1,
                 "ops": json.dumps(row["ops"]), "inv": json.dumps(row["inv"]), "touched": json.dumps(row["touched"]),
                 "sha": "0" * 64, "snapshot": row["snapshot"]},
            )  # fmt: skip
    return to, document


def test_a_job_of_the_first_version_opens_edits_and_undoes(database):
    url = new_database(database, "first")
    to, document = as_first(url)
    migrate(to)
    log = ChangeLog(to)
    current = log.current(SAM, "tansy-cut")
    result = design(current.job)
    assert current.job.title == "The lock-keeper's house, once more"
    said = moved.since(current.summary, result)
    assert said is not None
    assert {one.key for one in said.figures} == {"loss", "cover", "season"}
    loss = next(one for one in said.figures if one.key == "loss")
    assert (loss.before, loss.after) == (pytest.approx(7.4926, abs=1e-4), pytest.approx(result.house.loss_w / 1000))
    assert any("unheated spaces" in why for why in said.why)
    assert [entry.version for entry in log.history(SAM, "tansy-cut")] == [2, 1]
    assert log.document_at(SAM, "tansy-cut", 1)["title"] == document["title"]
    change = Change("change-0002", 2, [{"op": "add", "path": "/survey/rooms/parlour/target_c", "value": 20.0}])
    assert log.apply(SAM, "tansy-cut", change).version == 4  # brought to today's schema first, which is version 3
    assert [entry.kind for entry in log.history(SAM, "tansy-cut")] == ["edit", "migration", "edit", "create"]
    assert log.undo(SAM, "tansy-cut", "undo-00001").version == 5
    with pytest.raises(NothingToUndo):  # undo stops there; the file of version 1 still has the old title
        log.undo(SAM, "tansy-cut", "undo-00002")
    assert log.document_at(SAM, "tansy-cut", 1)["title"] == document["title"]


def test_figures_of_this_version_have_not_moved():
    from cinder.service.remembered import summary
    from tests.conftest import judged, tansy_cut

    result = judged(tansy_cut())
    assert moved.since(summary(result), result) is None
    assert moved.since(None, result) is None
    same = summary(result) | {"engine": "0.4.9"}
    assert moved.since(same, result) is None  # written by another version, and nothing moved
