"""The rules the browser works by are those of the core."""

import re
from pathlib import Path
from typing import get_args

import pytest

from cinder.design.schools import CHOICES
from cinder.model import Practice, defaults
from cinder.web.rules import rules

PAGES = Path(__file__).parents[2] / "frontend" / "src"


def test_what_a_job_follows_where_nobody_said_another():
    assert rules()["practice"] == Practice().model_dump(mode="json")
    assert Practice().thermal_bridge_w_m2k == defaults.BRIDGES_W_M2K["usual"]


def test_bridges_by_how_a_house_is_built():
    """Additions to every outer U of 0.05 where it is well built, 0.10 as a rule and 0.15 where slabs cut the insulation
    (common practice)."""
    assert rules()["bridges_w_m2k"] == {"poor": 0.15, "usual": 0.10, "good": 0.05}


@pytest.mark.parametrize("school", CHOICES)
def test_every_school_can_be_chosen_and_no_other(school):
    shown = [one["value"] for one in rules()["schools"][school]]
    assert sorted(shown) == sorted(get_args(Practice.model_fields[school].annotation))


@pytest.mark.parametrize("said", Practice.model_fields)
def test_no_page_has_a_default_of_its_own(said):
    own = re.compile(rf"practice\??\.{said}\s*\?\?\s*(?=['\d\[{{])")
    assert not [page.name for page in PAGES.rglob("*.svelte") if own.search(page.read_text())]
