"""A page laid out without a style for footnotes is the page laid out by the library as it is."""

import re
from importlib.resources import files

import pytest
from weasyprint import HTML

from cinder.exchange.sheet import PackagedOnly, Sheet

ROWS = "".join(f"<tr><td>Room {n}<td>{37 * n}" for n in range(90))
PAGE = f"""<!doctype html><html lang="en"><title>t</title><style>@page {{ size: A4; margin: 20mm }} td {{ padding: 1mm }}</style>
<ol style="text-transform: uppercase; list-style: lower-alpha"><li>in capitals, its letter is not</ol>
<h1>Rooms</h1><ol><li>one<li>two</ol><ul><li>a<ul><li>b</ul></ul><q>said</q><br>
<table><thead><tr><th>Room<th>W</thead><tbody>{ROWS}</tbody></table></html>"""


@pytest.mark.parametrize("page", [PAGE, "<p>warm</p>"])
def test_the_same_page_to_the_byte(page):
    lean, plain = (
        kind(string=page, url_fetcher=PackagedOnly(None)).write_pdf(uncompressed_pdf=True) for kind in (Sheet, HTML)
    )
    drop = re.compile(rb"/ID \[.*?\]|\(D:\d+.*?\)")
    assert drop.sub(b"", lean) == drop.sub(b"", plain)


def test_no_paper_has_a_footnote():
    """It would have no style."""
    papers = [
        one
        for one in files("cinder.exchange").joinpath("report").iterdir()
        if one.name.endswith((".j2", ".css", ".py"))
    ]
    assert len(papers) > 20
    assert not [one.name for one in papers if "footnote" in one.read_text()]
