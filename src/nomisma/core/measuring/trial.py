"""By trial: how a mating part or gauge goes by hand, or how a finish compares; judged against what is wanted, without a size."""

import re
from dataclasses import dataclass
from functools import cache
from typing import Annotated, Literal

from nomisma.core.errors import InputError, UnreadableLength
from nomisma.core.part.feature import State
from nomisma.core.part.feature_kinds import FeatureKind
from nomisma.core.table import Row, loaded, parted_by, rows_of

TrialFamily = Literal["feel", "roughness"]
HOW = "Write it like trial axle slides, trial ring gauge wrings to slides, trial plug goes, trial no-go plug does not go."
_GOES = ("slides", "drops")
"""What goes, slides or drops in. Source: common practice, no source."""


class TrialOutcome(Row):
    """One way a trial may go: its words, and its step on the scale of its family."""

    family: TrialFamily
    name: str
    title: str
    step: int
    said: Annotated[tuple[str, ...], parted_by("|")]


@loaded
def _every_outcome() -> list[TrialOutcome]:
    return rows_of("measuring", "trial_outcomes.csv", TrialOutcome)


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
    return re.compile(rf"(?P<with>.+?)\s+(?:(?P<goes>goes)|(?P<from>{words})(?:\s+to\s+(?P<to>{words}))?)", re.IGNORECASE)


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


def trial_state(kind: FeatureKind, wanted_text: str, outcome: str) -> State:
    """How a trial that went so stands: tighter, or rougher, than wanted is metal to go; looser is gone too far. Without unit.

    Raises InputError where the outcome is none of this kind. Source: common practice, no source: a fit only gets looser as it is cut; a finish
    finer than its piece is good.

    >>> from nomisma.core.part.feature_kinds import feature_kind
    >>> trial_state(feature_kind("by_trial"), "axle slides", "wrings").words
    'metal to go'
    """
    found = trial_outcomes(kind.family).get(outcome)
    if found is None:
        raise InputError(
            f"“{outcome[:40]}” is not one of the choices.", "Choose how it went.", field="outcome", value=outcome
        )
    if found.family == "roughness":
        return State.METAL_TO_GO if outcome == "rougher" else State.IN_LIMITS
    wanted = wanted_by_trial(wanted_text)
    if found.step < wanted.least:
        return State.METAL_TO_GO
    return State.GONE_TOO_FAR if found.step > wanted.most else State.IN_LIMITS
