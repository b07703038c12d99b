"""Rooms in and out: sheets, drawings, plans, the printed form, a job with its photos, and pictures."""

import csv
import io
import json
import math
import zipfile
from pathlib import Path
from xml.etree import ElementTree

import ezdxf
import openpyxl
import pytest
from ezdxf import recover
from PIL import Image

from cinder.errors import CinderError, InvalidJob, MalformedJson, Refused, TooLarge
from cinder.exchange.files import pictures
from cinder.exchange.jobs import bundle
from cinder.exchange.survey import form_pdf, plan_dxf, plan_svg, sheet, sheet_in
from cinder.exchange.survey.lengths import metres
from cinder.library import load
from cinder.model import empty_job, parse
from cinder.store import patch
from tests.conftest import tansy_cut

LENGTHS = json.loads((Path(__file__).parents[1] / "fixtures" / "lengths.json").read_text())


@pytest.mark.parametrize(("text", "expected"), LENGTHS)
def test_lengths_are_understood_as_the_browser_does(text, expected):
    assert metres(text) == (None if expected is None else pytest.approx(expected, abs=5e-5))


def blank():
    return empty_job(job_id="x", title="X", library=load())


def taken(document, operations):
    return parse(patch.apply(document, operations)[0])


def read(job, data):
    return sheet_in.changes(job, data, load(), by="A", at="2026-01-01")


@pytest.mark.parametrize("form", ["csv", "xlsx"])
def test_a_house_goes_out_as_a_sheet_and_comes_back(form):
    source = parse(tansy_cut())
    data = sheet.to_csv(source) if form == "csv" else sheet.to_xlsx(source)
    back = taken(blank(), read(parse(blank()), data))
    before = {r.label: r for r in source.survey.rooms.values()}
    after = {r.label: r for r in back.survey.rooms.values()}
    assert set(after) == set(before)
    for label, room in before.items():
        other = after[label]
        assert [run.length_m for run in other.walk] == [run.length_m for run in room.walk]
        assert [run.turn_deg for run in other.walk] == [run.turn_deg for run in room.walk]
        assert (other.height_m, other.position) == (room.height_m, room.position)
        sizes = [
            sorted((o.width_m, o.height_m, o.offset_m or 0) for f in r.faces.values() for o in f.openings.values())
            for r in (room, other)
        ]
        assert sizes[0] == sizes[1]
    # heated floors are no row of a sheet: the schedule has them
    assert len(back.survey.emitters) == sum(e.spec.kind in ("panel", "stated") for e in source.survey.emitters.values())
    assert {o.known["walk"].how for o in after.values()} <= {"measured", "told", "inferred"}


def test_what_comes_in_is_told_until_somebody_confirms_it():
    data = b"What,Room,Height,Width,Length\nroom,Attic,2.4,3,4\n"
    (room,) = taken(blank(), read(parse(blank()), data)).survey.rooms.values()
    assert {k.how for k in room.known.values()} == {"told"}


BAD = [
    ("What,Room,Height\nroom,A,tall\nroom,B,-2\n", [("row 2, Height", "no length"), ("row 3, Height", "no length")]),
    ("What,Room\nroom,A\nroom,a\n", [("row 3, Room", "twice")]),
    ("What,Room,Wall\nwindow,Nowhere,1\n", [("row 2, Room", "no room above")]),
    ("What,Room,Width,Length,Wall\nroom,A,3,4,\nwindow,A,1,,7\n", [("row 3, Wall", "4 walls")]),
    ("What,Room,Walk\nroom,A,4.2 R 3.1 Q 4.2\n", [("row 2, Walk", "step 2")]),
    ("What,Room,How\nroom,A,guessed\n", [("row 2, How", "measured")]),
    ("What,Room,Storey\nroom,A,Cellar\n", [("row 2, Storey", "no storey")]),
    ("What,Room,Floor\nroom,A,space: moon\n", [("row 2, Floor", "could lie beyond")]),
    ("What,Room,X,Y\nroom,A,1e9,0\n", [("row 2, X", "out of reach")]),
    ("What,Room,Type\nroom,A,\nradiator,A,steam\n", [("row 3, Type", "none of")]),
]


@pytest.mark.parametrize(("text", "said"), BAD)
def test_every_fault_is_named_by_row_and_column(text, said):
    with pytest.raises(InvalidJob) as error:
        read(parse(blank()), text.encode())
    found = [(p.path, p.message) for p in error.value.problems]
    assert len(found) == len(said)
    for (path, message), (where, why) in zip(found, said, strict=True):
        assert path == where
        assert why in message
    assert "Nothing of it was taken" in error.value.kept


def zip_bomb():
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("xl/worksheets/sheet1.xml", b"0" * (60 * 1024 * 1024))
    return out.getvalue()


@pytest.mark.parametrize(
    ("data", "kind", "said"),
    [
        (b"", InvalidJob, "heading"),
        (b"Name,Size\nA,3\n", InvalidJob, "What and Room"),
        (b"What,Room,Colour\nroom,A,red\n", InvalidJob, "do not know"),
        (b"What,Room\n", InvalidJob, "no room"),
        (b"What,Room\n" + b"room,A\n" * 20_000, TooLarge, "2,000"),
        (b"What,Room\nroom,\xff\xfe\n", MalformedJson, "UTF-8"),
        (b"What,Room\nroom,A\x00\n", MalformedJson, "U\\+0000"),
        (b"PK\x03\x04 no zip at all", MalformedJson, "workbook"),
    ],
)
def test_what_is_no_sheet_is_refused(data, kind, said):
    with pytest.raises(kind, match=said):
        read(parse(blank()), data)


def test_a_zip_bomb_posing_as_a_workbook_is_refused_unopened():
    with pytest.raises(TooLarge, match="unpacks to"):
        read(parse(blank()), zip_bomb())


def test_no_cell_runs_as_a_formula_and_the_text_comes_back():
    document = tansy_cut()
    document["survey"]["rooms"]["kitchen"]["label"] = "=HYPERLINK(1)"
    document["survey"]["rooms"]["hall"]["note"] = "@home +1 -2"
    job = parse(document)
    for row in csv.DictReader(io.StringIO(sheet.to_csv(job).decode("utf-8-sig"))):
        for column, cell in row.items():
            if column not in ("X", "Y", "Turned"):
                assert not cell.startswith(("=", "+", "-", "@"))
    book = openpyxl.load_workbook(io.BytesIO(sheet.to_xlsx(job)))
    assert all(cell.data_type != "f" for line in book["Survey"].iter_rows() for cell in line)
    back = taken(blank(), read(parse(blank()), sheet.to_csv(job)))
    assert "=HYPERLINK(1)" in {r.label for r in back.survey.rooms.values()}


def test_an_empty_sheet_can_be_printed_and_read():
    book = openpyxl.load_workbook(io.BytesIO(sheet.to_xlsx(None, blank_rows=30)))
    assert [cell.value for cell in book["Survey"][1]] == list(sheet.COLUMNS)
    assert book["Survey"].page_setup.orientation == "landscape"


# ---- drawings


def drawing(draw, units=6):
    made = ezdxf.new("R2010")
    made.header["$INSUNITS"] = units
    draw(made.modelspace())
    out = io.StringIO()
    made.write(out)
    return out.getvalue().encode()


def test_plans_go_out_as_dxf_and_come_back_in_their_places():
    source = parse(tansy_cut())
    data = plan_dxf.write(source)
    seen, _ = recover.read(io.BytesIO(data))
    assert len(seen.modelspace().query("LWPOLYLINE")) == len(source.survey.rooms)
    back = taken(tansy_cut() | {"id": "y"}, plan_dxf.changes(source, data, by="A", at="x"))
    for room in source.survey.rooms.values():
        twins = [r for r in back.survey.rooms.values() if r.label == room.label]
        assert len(twins) == 2
        assert twins[0].storey == twins[1].storey
        areas = [sum((run.length_m or 0) for run in r.walk) for r in twins]
        assert areas[0] == pytest.approx(areas[1], abs=0.001)


@pytest.mark.parametrize(("units", "factor"), [(4, 1000.0), (5, 100.0), (6, 1.0), (2, 1 / 0.3048), (1, 1 / 0.0254)])
def test_units_of_a_drawing(units, factor):
    points = [(0, 0), (0, 3 * factor), (4 * factor, 3 * factor), (4 * factor, 0)]
    data = drawing(lambda space: space.add_lwpolyline(points, close=True), units)
    (room,) = taken(blank(), plan_dxf.changes(parse(blank()), data, by="A", at="x")).survey.rooms.values()
    assert sorted(run.length_m for run in room.walk) == pytest.approx([3, 3, 4, 4])
    assert room.known["walk"].how == "told"


def test_curves_are_named_with_their_layer_and_nothing_is_taken():
    def draw(space):
        space.add_lwpolyline([(0, 0), (4, 0), (4, 3), (0, 3)], close=True, dxfattribs={"layer": "Ground floor"})
        space.add_arc((2, 3), 1, 0, 180, dxfattribs={"layer": "Bay"})
        space.add_spline([(0, 0), (1, 2), (3, 1)], dxfattribs={"layer": "Garden"})
        space.add_lwpolyline(
            [(0, 0, 0.5), (9, 0, 0), (9, 3, 0)], format="xyb", close=True, dxfattribs={"layer": "Tower"}
        )

    with pytest.raises(InvalidJob) as error:
        plan_dxf.changes(parse(blank()), drawing(draw), by="A", at="x")
    where = [p.path for p in error.value.problems]
    assert [any(name in path for path in where) for name in ("Bay, ARC", "Garden, SPLINE", "Tower, LWPOLYLINE")] == [
        True
    ] * 3
    assert "Nothing of it was taken" in error.value.kept


@pytest.mark.parametrize("data", [b"", b"not a drawing", b"0\nSECTION\n2\nENTITIES\n0\nEND"])
def test_what_is_no_drawing_is_refused(data):
    with pytest.raises(CinderError):
        plan_dxf.changes(parse(blank()), data, by="A", at="x")


def test_plans_as_svg_hold_every_placed_room_and_escape_its_name():
    document = tansy_cut()
    document["survey"]["rooms"]["hall"]["label"] = "<script>&"
    root = ElementTree.fromstring(plan_svg.write(parse(document)))
    rooms = root.findall(".//{http://www.w3.org/2000/svg}polygon")
    assert len(rooms) == 10
    assert "<script>&" in "".join(root.itertext())
    # of the ten, the parlour and the bedroom over it are 4.6 m wide, at 40 units a metre
    xs = [[float(p.split(",")[0]) for p in room.get("points").split()] for room in rooms]
    assert sum(math.isclose(max(row) - min(row), 4.6 * 40, abs_tol=0.1) for row in xs) == 2


def test_the_form_is_a_pdf_and_escapes_the_title():
    assert form_pdf.write("Weir <b>cottage</b>").startswith(b"%PDF")
    assert "<b>cottage" not in form_pdf.html("Weir <b>cottage</b>")
    assert all(item.label.split("'")[0] in form_pdf.html("x") for item in load().walk_round.values())


# ---- pictures


def jpeg(size=(400, 300), exif=None, **more):
    out = io.BytesIO()
    Image.new("RGB", size, "teal").save(out, "JPEG", **({"exif": exif} if exif else {}), **more)
    return out.getvalue()


def test_a_picture_is_turned_upright_and_forgets_where_it_was():
    exif = Image.Exif()
    exif[0x0112] = 6  # turned by a quarter
    exif[0x010F] = "a camera"
    exif.get_ifd(0x8825)[2] = (51.0, 30.0, 0.0)  # where it was taken
    made = pictures.prepare(jpeg(exif=exif))
    assert (made.width_px, made.height_px) == (300, 400)
    for data in (made.full, made.view, made.thumb):
        assert len(Image.open(io.BytesIO(data)).getexif()) == 0
        assert b"camera" not in data


def test_pictures_come_in_three_sizes():
    made = pictures.prepare(jpeg((5000, 2500)))
    assert [Image.open(io.BytesIO(d)).size for d in (made.full, made.view, made.thumb)] == [
        (4096, 2048), (1600, 800), (320, 160)
    ]  # fmt: skip


def png(mode, color):
    out = io.BytesIO()
    Image.new(mode, (40, 30), color).save(out, "PNG")
    return out.getvalue()


def test_see_through_pictures_lie_on_white():
    made = pictures.prepare(png("RGBA", (0, 0, 0, 0)))
    assert Image.open(io.BytesIO(made.full)).getpixel((5, 5)) == (255, 255, 255)


def bomb():
    """A PNG that says it is 30 000 dots square: 900 million of them, in a few hundred bytes of file."""
    data = bytearray(png("L", 0))
    data[16:24] = (30000).to_bytes(4, "big") * 2
    return bytes(data)


@pytest.mark.parametrize(
    ("data", "kind", "said"),
    [
        (b"<svg xmlns='http://www.w3.org/2000/svg'/>", Refused, "no photograph"),
        (b"  <!DOCTYPE html><script>1</script>", Refused, "no photograph"),
        (b"\x00\x00\x00\x18ftypheic" + b"0" * 40, Refused, "HEIC"),
        (b"GIF89a", Refused, "no picture"),
        (jpeg()[:200], Refused, "no picture"),
        (b"", Refused, "no picture"),
    ],
)
def test_what_is_no_picture_is_refused(data, kind, said):
    with pytest.raises(kind, match=said):
        pictures.prepare(data)


def test_a_decompression_bomb_is_refused_before_it_unpacks():
    with pytest.raises((TooLarge, Refused)):
        pictures.prepare(bomb())


def test_a_job_leaves_with_its_pictures_and_comes_back():
    document = tansy_cut()
    document["survey"]["photos"] = {"p": {"sha256": "ab" * 32, "caption": "Front"}}
    parse(document)
    data = bundle.write(document, lambda sha256: jpeg())
    back = bundle.Bundle(io.BytesIO(data))
    assert back.photo("ab" * 32) == jpeg()
    assert back.document["survey"]["photos"]["p"]["caption"] == "Front"


def test_a_bundle_without_its_picture_or_its_job_is_refused():
    document = tansy_cut()
    document["survey"]["photos"] = {"p": {"sha256": "ab" * 32}}
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as packed:
        packed.writestr("job.json", json.dumps(document))
    with pytest.raises(InvalidJob, match="not in the zip"):
        bundle.Bundle(out)
    with pytest.raises(MalformedJson):
        bundle.Bundle(io.BytesIO(zip_bomb()))
    with pytest.raises(MalformedJson):
        bundle.Bundle(io.BytesIO(b"PK\x03\x04"))
