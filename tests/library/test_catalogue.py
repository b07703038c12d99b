"""Lists of products as CSV: ours and a maker's, with every error at its row."""

import pytest

from cinder.errors import BadCatalogue, TooLarge
from cinder.library import catalogue, load

TYPES = set(load().emitter_types)


def read(text, **more):
    return catalogue.read(text.encode(), key="k", label="L", source="test", types=TYPES, **more)


def problems(text):
    with pytest.raises(BadCatalogue) as found:
        read(text)
    return {p.path: p.message for p in found.value.problems}


def test_the_generic_sizes_follow_the_table_of_types():
    """Practice: T10 600, T11 970, T21 1400, T22 1750, T33 2450 W per metre at 600 mm; other heights by (h/0.6)^0.8."""
    sizes = {p.id: p for p in load().catalogues["generic"].products}
    for key, per_m, litres in (("t11", 970, 3.2), ("t21", 1400, 6.0), ("t22", 1750, 6.3), ("t33", 2450, 9.5)):
        whole = sizes[f"{key}-600x1000"]
        assert (whole.output_w, whole.water_l) == (per_m, litres)
        low = sizes[f"{key}-300x2000"]
        assert low.output_w == pytest.approx(2 * per_m * 0.5**0.8, abs=1)
        assert whole.price_minor
        assert whole.weight_kg
        assert whole.depth_m
    assert all(p.speeds for p in sizes.values() if p.kind == "fan")


def test_decimal_commas_semicolons_and_speeds():
    found = read("id;kind;name;output_w;exponent;speed\na;fan;Low;500,5;1,1;quiet\na;fan;Low;900;1,1;full\n")
    one = found.products[0]
    assert (one.output_w, one.exponent) == (500.5, 1.1)
    assert [s.label for s in one.speeds] == ["quiet", "full"]


def test_every_error_names_its_row_and_column():
    found = problems(
        "id,kind,name,type,output_w,exponent,length_mm,k_w_m2k\n"
        "a,panel,A,t22,0,1.3,1000,\n"
        "b,stove,B,,900,1.3,,\n"
        "c,panel,C,t99,900,1.3,-5,\n"
        "d,panel,D,t22,much,1.3,1000,\n"
        ",panel,E,t22,900,1.3,1000,\n"
        "f,loop,F,,,,,\n"
        "g,panel,G,t22,900,1.3,1000,\n"
        "g,panel,G again,t22,900,1.3,1000,\n"
        "h,panel,H,t22,900,0,1000,\n"
        "i,panel,I,t22,900,5,1000,\n"
    )
    assert found["row 2, output_w"] == "must be more than 0"
    assert "panel, fan, skirting, loop" in found["row 3, kind"]
    assert "row 4, type" in found
    assert "row 4, length_mm" in found
    assert found["row 5, output_w"] == "is no number"
    assert found["row 6, id"] == "is needed"
    assert "row 7, k_w_m2k" in found
    assert "stands in row 8 already" in found["row 9, id"]
    assert "row 10, exponent" in found
    assert "less than or equal to 2" in found["row 11, exponent"]


def test_columns_missing_or_unknown_and_files_that_are_none():
    with pytest.raises(BadCatalogue) as found:
        read("id,name,colour\na,A,red\n")
    said = [p.message for p in found.value.problems]
    assert "the column kind is missing" in said
    assert "column 'colour' is not one of ours" in said
    with pytest.raises(BadCatalogue, match="no product"):
        read("id,kind,name\n")
    with pytest.raises(BadCatalogue, match="Not UTF-8"):
        catalogue.read(b"id,kind,name\n\xff", key="k", label="L", source="", types=TYPES)
    with pytest.raises(TooLarge):
        catalogue.read(b"x" * 3_000_000, key="k", label="L", source="", types=TYPES)
