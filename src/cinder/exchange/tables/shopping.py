"""The list of materials as a table for the merchant: CSV and XLSX."""

from __future__ import annotations

import csv
import io

from cinder.design.apart.materials.result import Material, MaterialsFound
from cinder.exchange.survey.sheet import guard

WIDTHS = (20, 44, 34, 9, 7, 17, 11, 12, 20, 60)
MONEY = "0.00"


def columns(currency: str) -> list[str]:
    """The heads of the table."""
    return [
        "Group",
        "What",
        "Size",
        "Number",
        "Unit",
        "Need",
        f"Each, {currency}",
        f"Together, {currency}",
        "Price from",
        "Why",
    ]


def cells(row: Material) -> list[str | float | None]:
    """A line; money in whole units of the currency, nothing where nobody has said a price."""
    money = [None if one is None else round(one / 100, 2) for one in (row.minor, row.total_minor)]
    return [
        row.group, guard(row.label), guard(row.words), round(row.count, 2), row.unit, "stays" if row.stays else row.need, *money,
        row.price_from, guard(row.why),
    ]  # fmt: skip


def to_csv(found: MaterialsFound, currency: str) -> bytes:
    """The list as CSV, UTF-8 with a byte-order mark so that spreadsheets read it right."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(columns(currency))
    writer.writerows(["" if cell is None else cell for cell in cells(row)] for row in found.rows)
    return out.getvalue().encode("utf-8-sig")


def to_xlsx(found: MaterialsFound, currency: str) -> bytes:
    """The list as XLSX, its sums as formulas beneath it."""
    from openpyxl import Workbook
    from openpyxl.styles import Font, PatternFill

    book = Workbook()
    sheet = book.active
    sheet.title = "Materials"
    sheet.append(columns(currency))
    for row in found.rows:
        sheet.append(cells(row))
    last = len(found.rows) + 1
    for n, need in enumerate(("essential", "good", "by circumstance"), start=last + 2):
        sheet.cell(n, 2, f"Together, {need}")
        sheet.cell(n, 8, f'=SUMIF(F2:F{last},"{need}",H2:H{last})').number_format = MONEY
    sheet.cell(last + 5, 2, "Together").font = Font(bold=True)
    sheet.cell(last + 5, 8, f"=SUM(H2:H{last})").number_format = MONEY
    for letter, width in zip("ABCDEFGHIJ", WIDTHS, strict=True):
        sheet.column_dimensions[letter].width = width
    for column in sheet.iter_cols(7, 8, 2, last):
        for cell in column:
            cell.number_format = MONEY
    for cell in sheet[1]:
        cell.font, cell.fill = Font(bold=True), PatternFill("solid", fgColor="E4E8E6")
    sheet.freeze_panes = "C2"
    sheet.page_setup.orientation = "landscape"
    sheet.page_setup.fitToWidth, sheet.page_setup.fitToHeight = 1, 0
    sheet.sheet_properties.pageSetUpPr.fitToPage = True
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()
