"""What may be decided about a piece that is out, or first off, and what it means."""

from dataclasses import dataclass
from typing import Literal

from nomisma.core.part.feature import State

DispositionKind = Literal["cut_again", "use_as_is", "remake_partner", "sleeve", "bond", "scrap", "approve_first_off"]


@dataclass(frozen=True, slots=True)
class DispositionRule:
    """One way on: its words, for which states of the piece, and why. Source: common practice."""

    kind: DispositionKind
    title: str
    words: str
    states: tuple[State, ...]


_DOUBTFUL = (State.TOO_CLOSE_TO_CALL, State.GONE_TOO_FAR)

DISPOSITIONS: dict[str, DispositionRule] = {
    rule.kind: rule
    for rule in (
        DispositionRule(
            "cut_again", "Cut again", "there is metal: take it to the aim", (State.METAL_TO_GO, State.TOO_CLOSE_TO_CALL)
        ),
        DispositionRule(
            "use_as_is", "Use as is", "it does its work all the same; say why", (State.METAL_TO_GO, *_DOUBTFUL)
        ),
        DispositionRule(
            "remake_partner", "Remake the partner to suit", "keep this one, make its mate to it", _DOUBTFUL
        ),
        DispositionRule(
            "sleeve", "Sleeve it", "bore out or turn down, press a sleeve, cut to size again", (State.GONE_TOO_FAR,)
        ),
        DispositionRule(
            "bond",
            "Bond it",
            "retaining compound fills the gap, if it is one that compound fills",
            (State.GONE_TOO_FAR,),
        ),
        DispositionRule(
            "scrap", "Scrap it", "begin again; cut the scrap so that nobody takes it for good", tuple(State)
        ),
        DispositionRule(
            "approve_first_off", "Approve the first off", "the set-up is right: make the rest", (State.IN_LIMITS,)
        ),
    )
}
"""Every disposition by kind. Source: common practice, no source."""


OUT_DISPOSITIONS = tuple(kind for kind in DISPOSITIONS if kind not in ("cut_again", "approve_first_off"))
"""Dispositions that are made about a piece because it is out of its limits."""


def dispositions_open(state: State) -> list[DispositionRule]:
    """The ways on from a state. Source: common practice, no source.

    >>> [rule.kind for rule in dispositions_open(State.IN_LIMITS)]
    ['scrap', 'approve_first_off']
    """
    return [rule for rule in DISPOSITIONS.values() if state in rule.states]
