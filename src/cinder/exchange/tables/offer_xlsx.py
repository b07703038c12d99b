"""The offer as a workbook: a sheet that sets the variants side by side, and one of lines for each, sums as formulas."""

from __future__ import annotations

import io
import re

from openpyxl import Workbook
from openpyxl.styles import Font, PatternFill
from openpyxl.worksheet.worksheet import Worksheet

from cinder.exchange.survey.sheet import guard
from cinder.handover.offer import OfferFound, OfferVariant

MONEY = "#,##0.00"
HEAD = PatternFill("solid", fgColor="E4E8E6")
BOLD = Font(bold=True)


def to_xlsx(found: OfferFound, *, title: str, currency: str) -> bytes:
    """The offer; money in whole units of the currency. What has no price is left empty."""
    book = Workbook()
    front = book.active
    front.title = "Offer"
    front.append([f"Offer {found.number}".strip(), guard(title)])
    front.append([currency, *(guard(one.label) for one in found.variants)])
    able = found.variants
    rows: dict[str, list[str | float | None]] = {
        "Machine": [guard(v.machine) for v in able], "Water on the coldest day, degC": [v.flow_c for v in able],
        "Goods and work, taxes in it": [v.sums.gross / 100 for v in able], "Grants, when they come": [-v.sums.granted / 100 for v in able],
        "To pay": [v.sums.pay / 100 for v in able], "Lines without a price": [v.sums.unpriced for v in able],
        "A year, from": [v.cost_minor.low / 100 if v.cost_minor else None for v in able],
        "A year, to": [v.cost_minor.high / 100 if v.cost_minor else None for v in able],
        "Carbon kg a year, from": [round(v.carbon_kg.low) if v.carbon_kg else None for v in able],
        "Carbon kg a year, to": [round(v.carbon_kg.high) if v.carbon_kg else None for v in able],
        "Days at the house": [v.disturbance.days for v in able], "Days without heat": [v.disturbance.cold_days for v in able],
    }  # fmt: skip
    for label, cells in rows.items():
        front.append([label, *cells])
    front.append([])
    for line in found.permissions:
        front.append(
            [
                f"{line.when} the work: {line.kind}",
                guard(line.label),
                guard(line.by),
                line.state,
                line.asked,
                line.decided,
                guard(line.number),
            ]
        )
    for note in found.notes:
        front.append([guard(note)])
    _dress(front, (34, *(26 for _ in able)))
    for n, one in enumerate(able, start=1):
        if not one.lacks:
            _lines(book.create_sheet(_sheet_name(n, one.label)), one, currency)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _sheet_name(n: int, label: str) -> str:
    return f"{n} {re.sub(r'[^0-9A-Za-z _-]', ' ', label)}".strip()[:31]


def _lines(sheet: Worksheet, one: OfferVariant, currency: str) -> None:
    sheet.append(
        ["Kind", "What", "Size, or what was counted", "Number or hours", "Unit or trade", currency, "How it is counted"]
    )
    for line in one.goods:
        minor = None if line.minor is None else round(line.minor / 100, 2)
        sheet.append(
            [
                line.group,
                guard(line.label),
                guard(line.words),
                line.count,
                line.unit,
                minor,
                "" if line.minor is not None else "no price yet",
            ]
        )
    for work in one.labour:
        sheet.append(
            ["Work", guard(work.label), guard(work.of), round(work.hours + work.helper_h, 2), work.trade, round(work.minor / 100, 2), work.state]
        )  # fmt: skip
    for own in one.own:
        sheet.append(["Own line", guard(own.label), "", 1, own.of, round(own.minor / 100, 2), ""])
    sums = one.sums
    more = {
        "For getting the goods": sums.margin,
        "Travel": sums.travel,
        "Heaters lent": sums.heaters,
        "Reserve": sums.reserve,
    }
    for label, minor in more.items():
        if minor:
            sheet.append([label, "", "", None, "", minor / 100, ""])
    last = sheet.max_row
    sheet.append(["Together without taxes", "", "", None, "", f"=SUM(F2:F{last})", ""])
    net = sheet.max_row
    for tax in one.taxes:
        sheet.append(["Tax", guard(tax.label), tax.of, tax.share, "", tax.minor / 100, ""])
    sheet.append(["Together", "", "", None, "", f"=SUM(F{net}:F{sheet.max_row})", ""])
    gross = sheet.max_row
    for grant in one.granted:
        sheet.append(["Grant", guard(grant.label), guard(grant.why), None, "", -grant.amount_minor / 100, ""])
    sheet.append(["To pay", "", "", None, "", f"=SUM(F{gross}:F{sheet.max_row})", ""])
    for row in (net, gross, sheet.max_row):
        for cell in sheet[row]:
            cell.font = BOLD
    for step in one.payments:
        sheet.append(["Payment", step.label, "", step.share, "", step.minor / 100, ""])
    for cell in sheet["F"][1:]:
        cell.number_format = MONEY
    _dress(sheet, (20, 44, 34, 12, 22, 14, 20))


def _dress(sheet: Worksheet, widths: tuple[int, ...]) -> None:
    for n, width in enumerate(widths):
        sheet.column_dimensions["ABCDEFGHIJ"[n]].width = width
    for cell in sheet[1]:
        cell.font, cell.fill = BOLD, HEAD
    sheet.page_setup.orientation = "landscape"
    sheet.page_setup.fitToWidth, sheet.page_setup.fitToHeight = 1, 0
    sheet.sheet_properties.pageSetUpPr.fitToPage = True
