"""A company's distances from a file: what is written comes back; what is wrong is named by row and column."""

import pytest

from cinder.errors import BadCatalogue
from cinder.exchange.tables import rule_list
from cinder.library import load


def test_the_file_comes_back_as_it_was():
    rules = list(load().place_rules.values())
    assert rule_list.read(rule_list.to_csv(rules)) == rules


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("id,name\na,Able\n", "the columns are"),
        ("id,name,measured,least_m\na,Able,behind,wide\n", "row 2, least_m: must be a length"),
        ("id,name,measured,least_m\na,Able,behind,-1\n", "row 2, least_m: must be at least 0"),
        ("id,name,measured,least_m\na,Able,sideways,1\n", "row 2, measured:"),
        ("id,name,measured,least_m\na,Able,behind,1\na,Baker,front,1\n", "row 3, id: a stands there twice"),
        (
            "id,name,measured,least_m,flammable_only\na,Able,behind,1,perhaps\n",
            "row 2, flammable_only: must be yes or no",
        ),
        ("id,name,measured,least_m\n", "there is no rule in it"),
        ("", "the columns are"),
    ],
)
def test_what_is_wrong_is_named(text, said):
    with pytest.raises(BadCatalogue) as no:
        rule_list.read(text.encode())
    assert said in " ".join(problem.line() for problem in no.value.problems)
    assert "No rule of it was taken" in no.value.kept
