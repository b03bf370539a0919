"""A day as people write it: 2027-03-01, 1 Mar 2027, March 1, 2027, 1.3.2027; what may be two days is asked."""

import re
from datetime import date, datetime

from nomisma.core.errors import InputError

LONGEST_DAY = 40
_WORDED = ("%d %b %Y", "%d %B %Y", "%b %d %Y", "%B %d %Y")
_PLAIN = ("%Y-%m-%d", "%Y/%m/%d", "%d.%m.%Y")
_SLASHED = re.compile(r"(?P<one>\d{1,2})[/-](?P<two>\d{1,2})[/-](?P<year>\d{4})")
_HOW = "Write it like 2027-03-01 or 1 Mar 2027."


def parse_day(text: str) -> date:
    """One day from how people write it. Raises InputError for what is no day, or may be two. Source: common practice,
    no source.

    >>> parse_day("March 1st, 2027"), parse_day("13/3/2027")
    (datetime.date(2027, 3, 1), datetime.date(2027, 3, 13))
    """
    plain = " ".join(text.replace(",", " ").split())
    for form in _PLAIN:
        if found := _by(plain, form):
            return found
    if match := _SLASHED.fullmatch(plain):
        return _slashed(match, text)
    worded = re.sub(r"(?<=\d)(?:st|nd|rd|th)\b", "", plain.replace(".", ""), flags=re.IGNORECASE)
    worded = re.sub(r"\bsept\b", "Sep", worded, flags=re.IGNORECASE)
    for form in _WORDED:
        if found := _by(worded, form):
            return found
    raise InputError(f"“{text[:LONGEST_DAY]}” is not a day.", _HOW, value=text)


def _by(text: str, form: str) -> date | None:
    try:
        return datetime.strptime(text, form).date()
    except ValueError:
        return None


def _slashed(match: re.Match[str], text: str) -> date:
    """The day before the month or behind it: told apart only where one of them is above twelve, or both are
    the same.
    """
    one, two, year = (int(match[name]) for name in ("one", "two", "year"))
    days = [found for found in (_made(year, two, one), _made(year, one, two)) if found]
    if not days:
        raise InputError(f"“{text[:LONGEST_DAY]}” is not a day.", _HOW, value=text)
    if len(set(days)) > 1:
        either = " or ".join(f"{day.day} {day:%B}" for day in days)
        raise InputError(
            f"“{text[:LONGEST_DAY]}” may be {either}.",
            f"Write the month as a word: {days[0].day} {days[0]:%b %Y}.",
            value=text,
        )
    return days[0]


def _made(year: int, month: int, day: int) -> date | None:
    try:
        return date(year, month, day)
    except ValueError:
        return None
