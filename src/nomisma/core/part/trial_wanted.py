"""By trial: what is tried and how it is to go, and the steps between too tight and too loose, or rough and fine."""

import re
from dataclasses import dataclass
from functools import cache
from typing import Annotated, Literal

from pydantic import Field

from nomisma.core.errors import UnreadableLength
from nomisma.core.table import Row, loaded, parted_by, rows_of

TrialFamily = Literal["feel", "roughness", "gauge", "seen"]
HOW = (
    "Write it like trial axle slides, trial ring gauge wrings to slides, trial plug goes, trial no-go plug does not go."
)
_GOES = ("slides", "drops")
"""What goes, slides or drops in. Source: common practice, no source."""


class TrialOutcome(Row):
    """One way a trial may go: its words, its step on the scale of its family, and whether it is good whatever a line
    says.
    """

    family: TrialFamily
    name: str
    title: str
    step: int
    is_wanted: bool = Field(alias="wanted")
    said: Annotated[tuple[str, ...], parted_by("|")]


@loaded
def _every_outcome() -> list[TrialOutcome]:
    return rows_of("part", "trial_outcomes.csv", TrialOutcome)


@cache
def trial_outcomes(family: str) -> dict[str, TrialOutcome]:
    """The outcomes of a family by name, in their order; none of one that is measured. Without unit.

    Source: trial_outcomes.csv (common practice, no source).

    >>> list(trial_outcomes("feel"))[2:4]
    ['wrings', 'slides']
    """
    return {row.name: row for row in _every_outcome() if row.family == family}


@dataclass(frozen=True, slots=True)
class TrialWanted:
    """What a trial is made with, and between which steps of the scale it is to go (both count)."""

    tried_with: str
    least: int
    most: int


@cache
def _feel() -> re.Pattern[str]:
    said = sorted((word for one in trial_outcomes("feel").values() for word in one.said), key=len, reverse=True)
    words = "|".join(map(re.escape, said))
    return re.compile(
        rf"(?P<with>.+?)\s+(?:(?P<goes>goes)|(?P<from>{words})(?:\s+to\s+(?P<to>{words}))?)", re.IGNORECASE
    )


def wanted_by_trial(text: str) -> TrialWanted:
    """What is tried and how it is to go. Without unit. Raises UnreadableLength. Source: common practice, no source.

    >>> wanted_by_trial("axle wrings to slides")
    TrialWanted(tried_with='axle', least=3, most=4)
    >>> wanted_by_trial("go plug 25 goes").least
    4
    """
    match = _feel().fullmatch(" ".join(text.split()))
    if match is None:
        raise UnreadableLength(f"“{text[:60]}” does not say what is tried and how it is to go.", HOW, value=text[:80])
    outcomes = trial_outcomes("feel")
    said = (match["from"], match["to"] or match["from"])
    steps = [outcomes[name].step for name in _GOES] if match["goes"] else [_said(word) for word in said]
    return TrialWanted(match["with"], min(steps), max(steps))


def _said(word: str) -> int:
    return next(one.step for one in trial_outcomes("feel").values() if word.lower() in one.said)
