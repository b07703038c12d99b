"""Prices by the half-hour from a file: clock changes, gaps, several years, and what cannot be read."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
import pytest

from cinder.errors import BadTariff, CinderError, TooLarge
from cinder.exchange.tables import tariff_csv

LONDON = "Europe/London"


def price_at(moment: datetime) -> float:
    """By month and hour of standard time: what must come back."""
    return moment.month * 2 + (10 if 16 <= moment.hour < 19 else 0) + moment.hour / 10


def half_hours(first: datetime, count: int, step: int = 30):
    return [first + timedelta(minutes=step * n) for n in range(count)]


def as_csv(rows) -> bytes:
    return ("from,price\n" + "".join(f"{at},{price:g}\n" for at, price in rows)).encode()


def year(*, stamp=lambda at: at.isoformat(), years: int = 1, step: int = 30) -> list[tuple[str, float]]:
    first = datetime(2023, 1, 1, tzinfo=UTC)
    return [(stamp(at), price_at(at)) for at in half_hours(first, years * 365 * 24 * 60 // step, step)]


def expected() -> np.ndarray:
    return np.array([[price_at(datetime(2023, m, 1, h)) for h in range(24)] for m in range(1, 13)])


def test_a_year_in_universal_time_is_its_means():
    read = tariff_csv.read(as_csv(year()), zone=LONDON)
    np.testing.assert_allclose(read.by_month, expected(), atol=2e-3)  # January's first hour in London is UTC's
    assert read.notes[0].startswith("17,520 prices, 2023-01-01 to 2023-12-31, steps of 30 minutes")


def test_the_clock_of_a_place_has_its_summer_hour_taken_out():
    """The hour that is missing in spring is no gap, and the one that comes twice in autumn is two."""
    place = ZoneInfo(LONDON)
    local = year(stamp=lambda at: at.astimezone(place).strftime("%Y-%m-%dT%H:%M"))
    read = tariff_csv.read(as_csv(local), zone=LONDON)
    np.testing.assert_allclose(read.by_month, expected(), atol=2e-3)
    assert any("the summer hour was taken out" in note for note in read.notes)
    assert not any("missing" in note for note in read.notes)
    # the same file read as if its clock had no summer hour: the spring change is a gap, named
    plain = tariff_csv.read(as_csv(local), zone="UTC")
    assert any(
        "1 hours are missing in 1 gap (standard time): 2023-03-26 00:30 to 2023-03-26 02:00" in n for n in plain.notes
    )
    assert any("2 times stand there twice" in note for note in plain.notes)


def test_a_gap_is_named_and_filled_from_its_month():
    rows = [row for row in year() if not "2023-02-10T03" <= row[0][:13] <= "2023-02-10T08"]
    read = tariff_csv.read(as_csv(rows), zone="UTC")
    assert any(
        "6 hours are missing in 1 gap (standard time): 2023-02-10 02:30 to 2023-02-10 09:00" in n for n in read.notes
    )
    np.testing.assert_allclose(read.by_month, expected(), atol=2e-3)


def test_a_hundred_thousand_rows_are_their_means():
    rows = year(years=6)[:100_000]
    read = tariff_csv.read(as_csv(rows), zone="UTC")
    assert read.notes[0].startswith("100,000 prices")
    np.testing.assert_allclose(read.by_month, expected(), atol=2e-3)


def test_some_weeks_stand_for_the_rest_and_it_is_said():
    rows = year(step=60)[: 24 * 40]
    read = tariff_csv.read(as_csv(rows), zone="UTC")
    assert any("no price of 10 months (3, 4, 5, 6, 7, 8, 9, 10, 11, 12)" in note for note in read.notes)
    assert read.by_month[11][0] == pytest.approx((31 * 2 + 9 * 4) / 40, abs=1e-3)


def test_whole_units_semicolons_and_prices_below_nought():
    rows = "".join(f"{at:%Y-%m-%d %H:%M};{-0.05 if at.hour == 3 else 0.2:.2f}\n".replace(".", ",") for at in
                   half_hours(datetime(2024, 1, 1), 48 * 60))  # fmt: skip
    read = tariff_csv.read(("from;price_major\n" + rows).encode())
    assert read.by_month[0][3] == -5.0
    assert read.by_month[0][4] == 20.0


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("when,price\n2024-01-01T00:00,20\n", "line 1: has when, price"),
        ("from,price\n2024-01-01T00:00,20\n2024-01-01T00:30,dear\n", "line 3, price: is no price"),
        ("from,price\n2024-01-01T00:00,20\n2024-13-01T00:30,20\n", "line 3, from: is no time"),
        ("from,price\n2024-01-01T00:00,20\n2024-01-01T00:07,20\n", "another step"),
        ("from,price\n2024-01-01T00:00,0.2\n2024-01-01T00:30,0.2\n", "looks like whole units"),
        ("from,price\n", "no line with a price"),
        ("", "Not a table"),
    ],
)  # fmt: skip
def test_what_cannot_be_read_is_named(text, said):
    with pytest.raises(BadTariff) as no:
        tariff_csv.read(text.encode())
    told = no.value.message + " ".join(problem.line() for problem in no.value.problems)
    assert said in told
    assert "Nothing of it was taken" in no.value.kept


def test_too_little_and_too_much_missing_are_refused():
    with pytest.raises(BadTariff, match="at least 28"):
        tariff_csv.read(as_csv(year()[:480]))
    with pytest.raises(BadTariff, match="are missing"):
        tariff_csv.read(as_csv(year()[:2000] + year()[4000:5000]))
    with pytest.raises(TooLarge):
        tariff_csv.read(b"from,price\n" + b"2024-01-01T00:00,1\n" * 300_000)
    with pytest.raises(CinderError):
        tariff_csv.read(b"from,price\n\xff\xfe")
