"""Days as people write them; what may be two is never guessed."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import InputError
from nomisma.core.quantity.day import parse_day

DAYS = st.dates(date(2000, 1, 1), date(2099, 12, 31))


@given(
    DAYS,
    st.sampled_from(
        ["%Y-%m-%d", "%Y/%m/%d", "%d.%m.%Y", "%d %b %Y", "%d %B %Y", "%b %d, %Y", "%B %d %Y", "  %d  %B,  %Y "]
    ),
)
def test_a_day_is_read_however_it_is_written(day: date, form: str) -> None:
    assert parse_day(day.strftime(form)) == day


@given(DAYS)
def test_a_day_between_slashes_is_read_where_it_is_one_and_asked_where_it_is_two(day: date) -> None:
    for form in ("%d/%m/%Y", "%m/%d/%Y"):
        if day.day > 12 or day.day == day.month:
            assert parse_day(day.strftime(form)) == day
        else:
            with pytest.raises(InputError, match=rf"may be .*\b{day.day}\b"):
                parse_day(day.strftime(form))


@pytest.mark.parametrize("text", ["", "soon", "2027-02-30", "31/31/2027", "1.3.27", "March 2027", "٣/٣/2027x"])
def test_what_is_no_day_is_refused(text: str) -> None:
    with pytest.raises(InputError, match="is not a day"):
        parse_day(text)
