"""A feature that is said again, so that another part can be begun from it."""

from dataclasses import dataclass

from nomisma.core.part.along import NOT_SAID, AxialPlace
from nomisma.core.part.duty import NO_DUTY, TRUE_TO, DutyName, FeatureDuty, duties


@dataclass(frozen=True, slots=True)
class SaidFeature:
    """One feature as its line says it: its letter and kind, its size with limits as written, where it lies and what it
    is for.
    """

    letter: str
    kind: str
    text: str
    through: bool = False
    along: AxialPlace = NOT_SAID
    duty: FeatureDuty = NO_DUTY


def duty_words(one: SaidFeature) -> str:
    """What a line ends with to say what its feature is there for; empty where nothing was said. Source: duty.csv.

    >>> from nomisma.core.part.duty import duty_said
    >>> duty_words(SaidFeature("B", "bore", "12 H7", duty=duty_said("sets_position", "A")))
    ', sets the position, true to A'
    """
    names: list[DutyName] = [one.duty.name] if one.duty.name else []
    if one.duty.true_to and one.duty.name != TRUE_TO:
        names.append(TRUE_TO)
    return "".join(f", {duties()[name].said[0].replace('{letter}', one.duty.true_to)}" for name in names)
