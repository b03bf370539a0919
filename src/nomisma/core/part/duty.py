"""What a feature is there for: what matters of it, and which features may give when something has to."""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache
from typing import Annotated, Literal

from nomisma.core.errors import NotDefined, UnreadableLength
from nomisma.core.table import Row, loaded, parted_by, rows_of

DutyName = Literal["", "carries_load", "sets_position", "true_to", "seen", "free"]


class Duty(Row):
    """One duty: its words, when it may give (1 first, 0 never), and how few places are enough of it (0: the whole
    plan).
    """

    name: DutyName
    title: str
    gives: int
    least_places: int
    said: Annotated[tuple[str, ...], parted_by("|")]


@loaded
def duties() -> dict[str, Duty]:
    """Every duty by name. Without unit. Source: duty.csv (common practice, no source).

    >>> duties()["seen"].title
    'is only seen'
    """
    return {row.name: row for row in rows_of("part", "duty.csv", Duty)}


@dataclass(frozen=True, slots=True)
class FeatureDuty:
    """What somebody says a feature is there for; `true_to`: the letter of the feature it must be true to, alone or
    besides.
    """

    name: DutyName = ""
    true_to: str = ""

    @property
    def words(self) -> str:
        """As it is said at the bench; empty where nothing was said."""
        if not self.name:
            return ""
        true = f"must be true to {self.true_to}" if self.true_to else ""
        own = duties()[self.name].title if self.name != TRUE_TO else ""
        return " and ".join(words for words in (own, true) if words)

    @property
    def least_places(self) -> int:
        """How few places are enough of it; 0: the whole plan, or nothing is known."""
        return duties()[self.name].least_places if self.name else 0

    @property
    def may_give(self) -> int:
        """When it may give: 1 first, then 2; 0 never, or nothing is known."""
        return duties()[self.name].gives if self.name else 0


TRUE_TO: DutyName = "true_to"
WITH_TRUE_TO: tuple[DutyName, ...] = ("carries_load", "sets_position")
"""Duties of a feature that may have to be true to another besides. Source: common practice, no source."""
NO_DUTY = FeatureDuty()
"""Nothing was said of it."""


def duty_said(name: str, true_to: str = "") -> FeatureDuty:
    """A duty by its name. Raises NotDefined. Without unit. Source: duty.csv.

    >>> duty_said("true_to", "A").words, duty_said("sets_position", "A").words
    ('must be true to A', 'sets the position and must be true to A')
    """
    if name and name not in duties():
        raise NotDefined(
            f"“{name[:40]}” is no duty of a feature.", f"Choose one of {', '.join(duties())}.", field="duty"
        )
    if name == TRUE_TO and not true_to:
        raise NotDefined("It was not said which feature it must be true to.", "Give its letter.", field="true_to")
    if true_to and name not in (TRUE_TO, *WITH_TRUE_TO):
        said = duties()[name].title if name else "has no duty"
        raise NotDefined(
            f"A feature that {said} is not held true to {true_to}.",
            "Leave the letter out, or say what matters of it.",
            field="true_to",
        )
    return FeatureDuty(duties()[name].name if name else "", true_to)


@cache
def _endings() -> list[tuple[re.Pattern[str], DutyName]]:
    return [
        (
            re.compile(
                r"(?P<rest>.+?)(?:\s*[,;])?\s+" + said.replace("{letter}", r"(?P<letter>[A-Za-z]{1,2})"), re.IGNORECASE
            ),
            one.name,
        )
        for one in duties().values()
        for said in one.said
    ]


def duty_in_line(line: str) -> tuple[str, FeatureDuty]:
    """A line without what it ends with to say what the feature is there for, and that. Without unit. Source: duty.csv.

    Raises UnreadableLength where two things are said that do not go together.

    >>> duty_in_line("od 25 h6, carries the load")
    ('od 25 h6', FeatureDuty(name='carries_load', true_to=''))
    >>> duty_in_line("runout .002 true to a")
    ('runout .002', FeatureDuty(name='true_to', true_to='A'))
    """
    rest, last = _last_duty(line)
    before, first = _last_duty(rest) if last.name else (rest, NO_DUTY)
    if not first.name:
        return rest, last
    names = {first.name, last.name}
    if TRUE_TO in names and names & set(WITH_TRUE_TO):
        own = next(name for name in WITH_TRUE_TO if name in names)
        return before, FeatureDuty(own, first.true_to or last.true_to)
    raise UnreadableLength(
        f"Two things are said of what matters: {first.words}, and {last.words}.",
        "Keep the one that counts more.",
        value=line[:80],
    )


def _last_duty(line: str) -> tuple[str, FeatureDuty]:
    """A line without the duty it ends with, and that."""
    plain = " ".join(line.split())
    for pattern, name in _endings():
        if match := pattern.fullmatch(plain):
            return match["rest"], FeatureDuty(name, match.groupdict().get("letter", "").upper())
    return line, NO_DUTY


def may_give(said: Iterable[tuple[str, FeatureDuty]]) -> list[str]:
    """The letters of the features that may give, those first that matter least. Without unit. Source: common practice,
    no source.

    >>> may_give([("A", FeatureDuty("carries_load")), ("B", FeatureDuty("seen")), ("C", FeatureDuty("free")), ("D",
    ...     FeatureDuty())])
    ['C', 'B']
    """
    giving = [(one.may_give, letter) for letter, one in said if one.may_give]
    return [letter for _, letter in sorted(giving, key=lambda one: one[0])]
