"""Days as people type them."""

import datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zinnet.base.days import read_day
from zinnet.base.errors import ZinnetError

TODAY = datetime.date(2026, 11, 30)
DAYS = st.dates(datetime.date(2000, 1, 1), datetime.date(2900, 1, 1))


@pytest.mark.parametrize(
    ("text", "day"),
    [
        ("2026-12-01", (2026, 12, 1)),
        ("1 Dec", (2026, 12, 1)),
        ("1. december", (2026, 12, 1)),
        ("30 Nov", (2026, 11, 30)),
        ("29 Nov", (2027, 11, 29)),
        ("29 Feb", (2028, 2, 29)),
        ("3 May 2031", (2031, 5, 3)),
        ("  4  June  2027 ", (2027, 6, 4)),
    ],
)
def test_days_are_read(text, day):
    assert read_day(text, TODAY) == datetime.date(*day)


@pytest.mark.parametrize("text", ["soon", "30 Feb", "31 Apr 2027", "2026-13-01", "12/11/10", "1", ""])
def test_what_is_no_day_is_refused_with_how_to_type_one(text):
    with pytest.raises(ZinnetError, match="is no day; type it like"):
        read_day(text, TODAY)


@given(DAYS)
def test_a_day_that_is_written_with_its_year_is_read_as_it_was(day):
    assert read_day(day.isoformat(), TODAY) == day
    assert read_day(f"{day.day} {day:%B} {day.year}", TODAY) == day


@given(st.dates(TODAY, datetime.date(2027, 11, 29)))
def test_a_day_without_a_year_is_the_next_one(day):
    assert read_day(f"{day.day} {day:%b}", TODAY) == day
