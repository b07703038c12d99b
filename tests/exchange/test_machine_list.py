"""A company's machines from a sheet: what is written comes back, what is wrong is named by row and column, nothing is half taken."""

import pytest

from cinder.errors import BadCatalogue, CinderError
from cinder.exchange.tables import machine_list
from cinder.library import load

MACHINES = list(load().machines.values())
HEAD = "id,name,outdoor_c,water_c,output_kw,cop\n"
FOUR = "a,Able,-7,35,5.1,3.0\na,Able,7,35,6.3,4.5\na,Able,-7,55,4.7,2.2\na,Able,7,55,5.8,2.9\n"


def read(text: str):
    return machine_list.read(text.encode(), source="a test")


def refused(text: str) -> list[str]:
    with pytest.raises(BadCatalogue) as no:
        read(text)
    assert "No machine of it was taken" in no.value.kept
    return [problem.line() for problem in no.value.problems]


@pytest.mark.parametrize("made", [machine_list.to_csv, machine_list.to_xlsx], ids=["csv", "xlsx"])
def test_the_form_comes_back_as_it_was(made):
    back = machine_list.read(made(MACHINES), source="back")
    assert [one.id for one in back] == [one.id for one in MACHINES]
    same = ("label", "kind", "refrigerant", "outdoor_c", "water_c", "greatest_w", "least_w", "cop", "sound_power_day_db",
            "max_current_a", "least_flow_lph", "pump_flow_lph", "pump_head_kpa", "quiet_output_share", "standby_w")  # fmt: skip
    for one, was in zip(back, MACHINES, strict=True):
        for name in same:
            assert getattr(one, name) == getattr(was, name), f"{was.id}: {name}"
        assert one.worked_out == []
        assert one.contains.diverter == was.contains.diverter


def test_a_point_nobody_tested_is_worked_out_and_marked():
    """Row and column together: 4.7 kW at A-7/W55 from 5.1, 5.8 and 6.3 kW; the COP by the Carnot fraction in the same way."""
    one = read(HEAD + FOUR.replace("a,Able,-7,55,4.7,2.2\n", ""))[0]
    assert one.worked_out == [[0, 1]]
    assert one.greatest_w[0][1] == pytest.approx(5100 * 5800 / 6300, abs=0.1)

    def fraction(air: float, water: float, cop: float) -> float:
        return cop * (water - air) / (water + 273.15)

    at = fraction(-7, 35, 3.0) * fraction(7, 55, 2.9) / fraction(7, 35, 4.5)
    assert one.cop[0][1] == pytest.approx(at * (55 + 273.15) / 62, abs=0.001)
    assert one.cop[0][0] == 3.0


def test_what_nobody_says_is_absent():
    one = read(HEAD + FOUR)[0]
    assert one.least_w is None
    assert one.sound_power_day_db is None
    assert one.pump_flow_lph == []
    assert one.lowest_outdoor_c == -7
    assert max(one.limit_water_c) == 55


def test_decimals_as_people_write_them():
    one = read("id;name;outdoor_c;water_c;output_kw;power_kw;quiet_output\n"
               "b;Baker;-7;35;5,1;1,7;60 %\nb;Baker;7;35;6,3;1,4;\nb;Baker;7;55;5,8;2,0;\n")[0]  # fmt: skip
    assert one.cop[0][0] == 3.0
    assert one.quiet_output_share == 0.6


@pytest.mark.parametrize(
    ("text", "said"),
    [
        (HEAD + FOUR.replace("6.3,4.5", "6.3,0.9"), "row 3, cop: COP 0.9 at A7/W35 is below 1"),
        (HEAD + FOUR.replace("6.3,4.5", "6.3,8"), "row 3, cop: COP 8 at A7/W35 is 73% of Carnot: not credible"),
        (HEAD + FOUR.replace("6.3,4.5", "-6.3,4.5"), "row 3, output_kw: cannot be below 0"),
        (HEAD + FOUR.replace("6.3,4.5", "six,4.5"), "row 3, output_kw: is no number"),
        (HEAD + FOUR + "a,Able,7,55,6,3\n", "row 6, outdoor_c: A7/W55 stands in row 5 already"),
        (HEAD + FOUR.replace("a,Able,7,55", "a,Other,7,55"), "row 5, name: says another thing than row 2 (Able)"),
        (HEAD + FOUR.split("\n")[0] + "\n", "row 2, outdoor_c: Able has 1 test point: a map needs at least two"),
        (HEAD + ",Able,7,55,6,3\n" + FOUR, "row 2, id: is needed"),
        (HEAD.replace("cop", "copp") + FOUR, "column 'copp' is not one of ours"),
        (HEAD.replace(",cop", ",cop,least_kw").replace("\n", "\n") + FOUR.replace("5.1,3.0", "5.1,3.0,6"),
         "row 2, least_kw: is more than the 5.1 kW it gives at most"),
        (HEAD.replace(",cop", ",cop,pump_lph,pump_kpa") + FOUR.replace("5.1,3.0", "5.1,3.0,400,"),
         "row 2, pump_kpa: a point of the pump needs flow and pressure"),
        (HEAD.replace("id,", "id,kind,") + FOUR.replace("a,Able", "a,twin,Able"), "row 2, kind: is monobloc or split"),
        (HEAD + "B C,Able,-7,35,5,3\nB C,Able,7,35,6,4\nB C,Able,7,55,6,3\n", "row 2, id"),
    ],
)  # fmt: skip
def test_what_is_wrong_is_named_by_row_and_column(text, said):
    assert any(said in line for line in refused(text)), refused(text)


def test_points_that_do_not_hang_together():
    lines = refused(HEAD + "a,Able,-7,35,5,3\na,Able,7,55,6,3\n")
    assert any("do not hang together" in line for line in lines)


@pytest.mark.parametrize(
    "data", [b"", b"\x00\x01", b"PK\x03\x04 nothing", "id;ø".encode("latin-1"), b"\n\n\n", HEAD.encode()]
)
def test_no_sheet_at_all(data):
    with pytest.raises(CinderError):
        machine_list.read(data, source="a test")


def test_a_name_that_would_run_as_a_formula_is_only_a_name():
    one = read(HEAD + FOUR.replace("Able", "=1+1"))[0]
    assert one.label == "=1+1"
    assert b"'=1+1" in machine_list.to_csv([one])
    assert machine_list.read(machine_list.to_csv([one]), source="back")[0].label == "=1+1"
