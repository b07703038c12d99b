import pytest

from cinder.field.expected import expected_of
from cinder.library import shipped_year
from cinder.model import parse
from tests.conftest import counting_house, tansy_cut


@pytest.fixture(scope="session")
def houses():
    """The two demo houses with a machine, as they are expected to stand, with their hourly years."""
    out = []
    for document in (tansy_cut(), counting_house()):
        job = parse(document)
        rough = expected_of(job, None)
        year = shipped_year(rough.house.view.climate.year_sha256)
        out.append((expected_of(job, year), year))
    return out
